from django.apps import AppConfig


class CommonConfig(AppConfig):
    name = "studio.common"
