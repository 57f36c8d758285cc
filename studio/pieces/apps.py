from django.apps import AppConfig


class PiecesConfig(AppConfig):
    """The app of jobs and pieces."""

    name = "studio.pieces"
