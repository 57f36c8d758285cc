from django.apps import AppConfig


class RescueConfig(AppConfig):
    """The app of what went wrong."""

    name = "studio.rescue"

    def ready(self) -> None:
        from studio.common.coming import seen_coming
        from studio.rescue.spoken.causes import coming_says

        seen_coming.fill(coming_says)
