from django.apps import AppConfig


class BowlsConfig(AppConfig):
    """The app of bowls."""

    name = "studio.bowls"

    def ready(self) -> None:
        from studio.bowls.actions import follow_new_values, holding, poured_into, was_used
        from studio.bowls.stock_left import stock_left_g, with_rests
        from studio.cupboard import asks
        from studio.pieces import asks as of_pieces

        of_pieces.poured_into.fill(poured_into)
        asks.holding.fill(holding)
        asks.was_used.fill(was_used)
        asks.followed.fill(follow_new_values)
        asks.left_g.fill(stock_left_g)
        asks.with_rests.fill(with_rests)
