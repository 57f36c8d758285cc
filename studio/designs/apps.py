from django.apps import AppConfig


class DesignsConfig(AppConfig):
    name = "studio.designs"

    def ready(self) -> None:
        from studio.designs.actions import drawn_anew
        from studio.pieces.stacks import piece_kept

        piece_kept.connect(drawn_anew, dispatch_uid="designs")
