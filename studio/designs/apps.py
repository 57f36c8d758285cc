from django.apps import AppConfig


class DesignsConfig(AppConfig):
    name = "studio.designs"

    def ready(self) -> None:
        from studio.designs.actions import brought, drawn_anew
        from studio.pieces.stacks import layer_brought, piece_kept

        piece_kept.connect(drawn_anew, dispatch_uid="designs")
        layer_brought.connect(brought, dispatch_uid="designs")
