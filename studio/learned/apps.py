from django.apps import AppConfig


class LearnedConfig(AppConfig):
    """The app of what bowls have taught."""

    name = "studio.learned"

    def ready(self) -> None:
        from studio.cupboard import stock
        from studio.learned.fitted import in_use

        stock.taught.fill(in_use)
