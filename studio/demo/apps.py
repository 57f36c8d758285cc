from django.apps import AppConfig


class DemoConfig(AppConfig):
    """The app of the kitchen to look around in."""

    name = "studio.demo"
