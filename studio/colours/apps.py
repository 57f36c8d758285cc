from typing import Any

from django.apps import AppConfig


class ColoursConfig(AppConfig):
    """The app of colours."""

    name = "studio.colours"

    def ready(self) -> None:
        from studio.accounts.asks import kitchen_made

        kitchen_made.add(_furnish)


def _furnish(kitchen: Any) -> None:
    from studio.colours.actions import lay_out_colours

    lay_out_colours(kitchen)
