from django.apps import AppConfig


class RescueConfig(AppConfig):
    """The app of what went wrong."""

    name = "studio.rescue"

    def ready(self) -> None:
        from studio.bowls.troubles import troubles_of
        from studio.common.coming import fault_pages, seen_coming
        from studio.rescue.faults import pages_of
        from studio.rescue.spoken.causes import coming_says
        from studio.rescue.told import told_of

        seen_coming.fill(coming_says)
        fault_pages.fill(pages_of)
        troubles_of.fill(told_of)
