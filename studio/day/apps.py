from django.apps import AppConfig


class DayConfig(AppConfig):
    name = "studio.day"
