from django.apps import AppConfig


class AccountsConfig(AppConfig):
    """The app of makers and their kitchens."""

    name = "studio.accounts"
