from django.apps import AppConfig


class DayConfig(AppConfig):
    """The app of the day sheet."""

    name = "studio.day"
