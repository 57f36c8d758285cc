"""The fields a layer is asked with: which row it is of, what colour, what its technique wants to know."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from coating.techniques import technique
from coating.techniques.base import LayerField
from studio.common.forms import CountField, LengthField, MassField, VolumeField, WordsField
from studio.cupboard.tones import Tone


class ChosenField(forms.Field):
    """One of the rows that are there, by its id; empty for none. No query of its own."""

    def __init__(self, rows: Sequence[Any], label: str, wrong: str, *, required: bool = False) -> None:
        super().__init__(label=label, required=required)
        self.rows, self.wrong = {str(r.pk): r for r in rows}, wrong

    def prepare_value(self, value: Any) -> str:
        return "" if value is None else str(value)

    def clean(self, value: Any) -> Any:
        if value in (None, "") and not self.required:
            return None
        if str(value) not in self.rows:
            raise ValidationError(self.wrong, code="invalid_choice")
        return self.rows[str(value)]


class TonedField(forms.Field):
    """What a coating is of, by its key."""

    def __init__(self, tones: Mapping[str, Tone]) -> None:
        super().__init__(label="Colour", required=False)
        self.tones = tones

    def clean(self, value: Any) -> Tone:
        if str(value or "") not in self.tones:
            raise ValidationError("That colour or bag is not in this kitchen.", code="invalid_choice")
        return self.tones[str(value or "")]


def fields_of(name: str) -> tuple[str, ...]:
    """What is asked of a layer of a technique, besides its colour."""
    return tuple(field.name for field in technique(name).fields)


def field_of(layer_field: LayerField) -> forms.Field:
    """A field of a technique as a form asks it."""
    match layer_field.typed:
        case "pills":
            return pills_field(layer_field.label, list(layer_field.choices), str(layer_field.first or ""))
        case "count":
            more = {} if layer_field.high is None else {"high": layer_field.high}
            return CountField(
                layer_field.bound, label=layer_field.label, initial=layer_field.first, required=False, **more
            )
        case "mass":
            return MassField(layer_field.bound, label=layer_field.label, required=False, help_text=layer_field.help)
        case "volume":
            return VolumeField(layer_field.bound, label=layer_field.label, required=False, help_text=layer_field.help)
        case "text":
            return WordsField(label=layer_field.label, max_length=80, required=False)
    return LengthField(layer_field.bound, label=layer_field.label, initial=layer_field.first, required=False)


def pills_field(label: str, choices: list[tuple[str, str]], initial: str) -> forms.ChoiceField:
    """A choice shown as a row of pills."""
    return forms.ChoiceField(label=label, choices=choices, initial=initial, required=False, widget=forms.RadioSelect)
