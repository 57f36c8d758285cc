from django.apps import AppConfig


class RescueConfig(AppConfig):
    """The app of what went wrong."""

    name = "studio.rescue"
