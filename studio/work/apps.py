from django.apps import AppConfig


class WorkConfig(AppConfig):
    """The app of long work."""

    name = "studio.work"
