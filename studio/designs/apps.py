from django.apps import AppConfig


class DesignsConfig(AppConfig):
    """The app of the studio."""

    name = "studio.designs"

    def ready(self) -> None:
        from studio.designs.actions import brought, drawn_anew
        from studio.designs.kinds import way_of_design
        from studio.designs.parts import drawn_plan, parts_designed, piece_designed
        from studio.pieces import asks

        asks.piece_kept.add(drawn_anew)
        asks.layer_brought.add(brought)
        asks.way_of_design.fill(way_of_design)
        asks.drawn_plan.fill(drawn_plan)
        asks.parts_designed.fill(parts_designed)
        asks.piece_designed.fill(piece_designed)
