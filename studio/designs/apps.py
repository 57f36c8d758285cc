from django.apps import AppConfig


class DesignsConfig(AppConfig):
    name = "studio.designs"

    def ready(self) -> None:
        from studio.designs.actions import brought, drawn_anew
        from studio.designs.kinds import way_of_design
        from studio.designs.parts import drawn_plan, parts_designed, piece_designed
        from studio.pieces import asks
        from studio.pieces.stacks import layer_brought, piece_kept

        piece_kept.connect(drawn_anew, dispatch_uid="designs")
        layer_brought.connect(brought, dispatch_uid="designs")
        asks.way_of_design.fill(way_of_design)
        asks.drawn_plan.fill(drawn_plan)
        asks.parts_designed.fill(parts_designed)
        asks.piece_designed.fill(piece_designed)
