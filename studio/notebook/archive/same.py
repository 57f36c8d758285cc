"""What an archive brings and a kitchen has already: the same colour, thing or ingredient is not taken twice."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from studio.accounts.models import Kitchen
from studio.colours.models import Colour, Photo
from studio.common.names import free_name
from studio.common.types import Json
from studio.cupboard.models import Extra, Ingredient, Parameter
from studio.notebook.archive.read import Archive
from studio.notebook.archive.tables import BY_NAME
from studio.pieces.carried_in import brought_name
from studio.pieces.carried_out import EXTRA_FIELDS

SAME = 0.5  # colours nearer than that in every coordinate are the same
OF_AN_INGREDIENT = ("name", "kind", "family", "sort", "optics", "allergens", "allergens_said", "own", "made_on")


class Alike:
    """What is there, compared with what comes."""

    def __init__(self, kitchen: Kitchen, archive: Archive) -> None:
        self.kitchen = kitchen
        self.codes = {r.code: r for r in Ingredient.objects.for_kitchen(kitchen).with_parameters()}
        self.coming = _parameters_of(archive) if self.codes else {}
        self.same_parameters: dict[int, int] = {}

    def ingredient(self, row: Json) -> Ingredient | None:
        """The ingredient of this kitchen of which the very same is known; then its parameters are the same too."""
        mine = self.codes.get(row["code"])
        if mine is None or any(getattr(mine, n) != row[n] for n in OF_AN_INGREDIENT if n != "made_on"):
            return None
        theirs, ours = self.coming.get(row["id"], []), list(mine.parameters.all())
        if [values for _, values in theirs] != [_values(p) for p in ours] or mine.readings.exists():
            return None
        self.same_parameters |= {number: p.pk for (number, _), p in zip(theirs, ours, strict=True)}
        return mine

    def free_code(self, code: str) -> str:
        """A code that nothing here has."""
        tried, number = code, 1
        while tried in self.codes:
            number += 1
            tried = f"{code[:36]}-{number}"
        return tried

    def of(self, name: str, row: Json, values: Json) -> Any:
        """The same of another table, or None; a name that is taken by something else is changed in `values`."""
        if name == "parameters" and row["id"] in self.same_parameters:
            return Parameter.objects.get(pk=self.same_parameters[row["id"]])
        if name == "colours":
            return self._colour(values)
        if name == "extras":
            return self._extra(values)
        if name == "shades":
            return Photo.objects.filter(colour=values["colour"]).first()
        return None

    def _colour(self, values: Json) -> Colour | None:
        known = Colour.objects.for_kitchen(self.kitchen)
        same = known.filter(name=values["name"]).first()
        if same is None:
            return None
        theirs = values["lightness"], values["a"], values["b"]
        if max(abs(p - q) for p, q in zip(same.lab, theirs, strict=True)) < SAME:
            return same
        values["name"] = free_name(known, values["name"], most=60, tried=brought_name)
        return None

    def _extra(self, values: Json) -> Extra | None:
        known = Extra.objects.for_kitchen(self.kitchen).filter(kind=values["kind"])
        same = known.filter(name=values["name"]).first()
        if same is None:
            return None
        if all(getattr(same, n) == values[n] for n in EXTRA_FIELDS):
            return same
        values["name"] = free_name(known, values["name"], most=80, tried=brought_name)
        return None


def _values(parameter: Any) -> tuple[Any, ...]:
    names = ("name", "value", "low", "high", "provenance")
    return tuple(parameter[n] if isinstance(parameter, Mapping) else getattr(parameter, n) for n in names)


def _parameters_of(archive: Archive) -> dict[int, list[tuple[int, tuple[Any, ...]]]]:
    """What the archive says of each of its ingredients."""
    coming: dict[int, list[tuple[int, tuple[Any, ...]]]] = {}
    for row in archive.rows_of(BY_NAME["parameters"]):
        coming.setdefault(row["ingredient"], []).append((row["id"], _values(row)))
    return coming
