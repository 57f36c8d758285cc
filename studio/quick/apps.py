from django.apps import AppConfig


class QuickConfig(AppConfig):
    """The app of the quick card."""

    name = "studio.quick"

    def ready(self) -> None:
        from studio.accounts import asks
        from studio.quick.actions import keep_card, kept_card
        from studio.quick.adapters import card_context

        asks.card_of.fill(kept_card)
        asks.take_along.fill(keep_card)
        asks.sample_of.fill(card_context)
