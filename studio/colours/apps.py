from django.apps import AppConfig


class ColoursConfig(AppConfig):
    name = "studio.colours"
