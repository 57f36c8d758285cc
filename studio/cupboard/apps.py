from django.apps import AppConfig


class CupboardConfig(AppConfig):
    name = "studio.cupboard"
