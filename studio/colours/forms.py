"""A colour as numbers, and its name in the book."""

from __future__ import annotations

from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from coating.errors import Unreadable
from coating.limits import BOUNDS
from studio.colours.models import Colour
from studio.common.forms import WordsField
from studio.common.measures import refusal_text
from studio.common.names import free_name, plain

Lab = tuple[float, float, float]


def read_lab(text: str) -> Lab:
    """Lab written as "68, -8, -17". Raises Unreadable."""
    try:
        said = zip(("lab_lightness", "lab_chroma", "lab_chroma"), text.split(","), strict=True)
        lightness, a, b = (BOUNDS[name].check(float(part), "lab") for name, part in said)
    except Exception as problem:
        raise Unreadable("A colour is three numbers: lightness 0 to 100, a and b.", field="lab") from problem
    return lightness, a, b


class LabField(forms.CharField):
    """CIELAB as three numbers with commas; held as a tuple."""

    def to_python(self, value: Any) -> Any:
        if isinstance(value, tuple):
            return value
        text = super().to_python(value)
        if not text:
            return None
        try:
            return read_lab(text)
        except Unreadable as problem:
            raise ValidationError(refusal_text(problem), code="invalid") from problem

    def prepare_value(self, value: Any) -> Any:
        return ",".join(f"{v:.2f}" for v in value) if isinstance(value, tuple) else value


class NameForm(forms.Form):
    """A name for the swatch book, and a note."""

    name = WordsField(label="Name", max_length=60)
    note = WordsField(label="Note", max_length=200, required=False)

    def __init__(self, data: Any = None, *, kitchen: Any, colour: Colour | None = None, **kwargs: Any) -> None:
        self.kitchen, self.colour = kitchen, colour
        super().__init__(data, **kwargs)

    def clean_name(self) -> str:
        """A name that no other colour of the kitchen has."""
        name: str = self.cleaned_data["name"]
        same = Colour.objects.for_kitchen(self.kitchen).filter(name=name)
        if (same.exclude(pk=self.colour.pk) if self.colour else same).exists():
            raise ValidationError("Your book already has a colour with that name.")
        return name


def free_colour_name(kitchen: Any, name: str) -> str:
    """The name, or with a number after it when it is taken."""
    name = plain(name)
    return free_name(Colour.objects.for_kitchen(kitchen), name[:1].upper() + name[1:52], most=60)
