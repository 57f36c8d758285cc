from typing import Any

from django.apps import AppConfig


class CupboardConfig(AppConfig):
    """The app of the cupboard."""

    name = "studio.cupboard"

    def ready(self) -> None:
        from studio.accounts.asks import kitchen_made, thinner_said
        from studio.common.asks import field_names

        kitchen_made.add(_furnish)
        thinner_said.add(_have)
        field_names.fill(_names)


def _furnish(kitchen: Any) -> None:
    from studio.cupboard.actions import fill_cupboard, lay_out_extras

    fill_cupboard(kitchen)
    lay_out_extras(kitchen)


def _have(kitchen: Any, code: str) -> None:
    from studio.cupboard.actions import have_in_stock

    have_in_stock(kitchen, code)


def _names(kitchen: Any) -> dict[str, str]:
    """What goes into a bowl is a field of its own."""
    from studio.cupboard.models import Ingredient

    rows = Ingredient.objects.for_kitchen(kitchen).values_list("pk", "name")
    return {f"add-{pk}": name for pk, name in rows}
