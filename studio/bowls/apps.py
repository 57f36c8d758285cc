from django.apps import AppConfig


class BowlsConfig(AppConfig):
    name = "studio.bowls"
