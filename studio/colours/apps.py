from typing import Any

from django.apps import AppConfig


class ColoursConfig(AppConfig):
    name = "studio.colours"

    def ready(self) -> None:
        from studio.accounts.asks import kitchen_made

        kitchen_made.connect(_furnish, dispatch_uid="colours")


def _furnish(kitchen: Any, **_: Any) -> None:
    from studio.colours.actions import lay_out_colours

    lay_out_colours(kitchen)
