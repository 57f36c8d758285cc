from django.apps import AppConfig


class CommonConfig(AppConfig):
    """The app of what every room uses."""

    name = "studio.common"
