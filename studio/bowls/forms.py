"""What a maker does to a bowl in one go, as a form. The page and its live answer read the same one."""

from __future__ import annotations

import hashlib
import json
import math
import re
import uuid
from dataclasses import dataclass, replace
from typing import Any

from django import forms

from coating.colour.mixing import GEL, Part, main_base
from coating.colour.mixing import Ingredient as CoreIngredient
from coating.flow.gel import harmless_share
from coating.heat.melting_curve import MELTS_AT_C
from coating.learning.names import FLOW
from coating.quantities import PIECES
from coating.simulate.bowl import Event
from coating.units import DAB_G
from studio.bowls.actions import Line
from studio.bowls.adapters import Desk, pins_of
from studio.common.forms import CountField, FlowNumberField, MassField, TemperatureField
from studio.common.templatetags.kitchen import UNIT_WORDS, amount_text, mass
from studio.common.types import Json, Typed
from studio.cupboard.adapters import bag_g
from studio.cupboard.models import Ingredient

# What the lip says and about how warm that is, degC. Common practice, no source.
TOUCHES = {
    "hot": (46.0, "hot on the lip"),
    "warm": (39.0, "warm on the lip"),
    "neither": (33.0, "neither warm nor cold"),
    "cool": (28.5, "cool on the lip"),
}
_NOTICEABLE_K = 0.75
_READ_TO_K = 0.4
_COUNTED = {kind: many for kind, (_, many) in UNIT_WORDS.items()}
_SOON = 1e7


@dataclass(frozen=True)
class AdditionRow:
    """An ingredient on the bowl page: what is in, what goes in.

    `counted` is the word for what is counted, else ""; `unit` what a stepper counts in, `step` by how much.
    """

    ingredient: Ingredient
    core: CoreIngredient
    field: forms.BoundField
    held: Part | None
    counted: str
    unit: str
    step: str

    @property
    def shown(self) -> bool:
        """Whether the field is in sight before it is asked for."""
        return self.held is not None or bool(self.field.initial) or bool(self.field.errors) or _filled(self.field)


def _filled(field: forms.BoundField) -> bool:
    return str(field.value() or "").strip() not in ("", "0")


class StepForm(forms.Form):
    """Additions by ingredient (field `add-<id>`), temperature or touch word, label number."""

    seq = forms.IntegerField(widget=forms.HiddenInput, min_value=0, max_value=2**31 - 1)
    key = forms.UUIDField(widget=forms.HiddenInput)
    reckoned_c = forms.FloatField(widget=forms.HiddenInput, required=False)

    def __init__(self, data: Any = None, *, desk: Desk, **kwargs: Any) -> None:
        self.desk = desk
        proposal = desk.proposal
        proposed = {p.ingredient.name: p for p in proposal.additions}
        super().__init__(data, **kwargs)
        self.initial.setdefault("seq", desk.bowl.last_seq)
        self.initial.setdefault("key", uuid.uuid4())
        self.addable = [r for r in desk.stock.rows if self._suits(r)]
        for row in self.addable:
            part = proposed.get(row.code)
            if row.kind in _COUNTED:
                field: forms.Field = CountField("drops", label=row.name, required=False, initial=_count(part))
            else:
                field = MassField(
                    "mass_g",
                    label=row.name,
                    required=False,
                    initial=_grams(part),
                    as_measured=True,
                    of="pieces" if row.kind == "base" else "fat",
                    bag_g=bag_g(row) if row.kind == "base" else None,
                    family=row.family or "palm",
                    piece_g=desk.stock.cores[row.pk].piece_g,
                )
            field.widget.attrs["aria-label"] = f"{row.name} to add"
            self.fields[f"add-{row.pk}"] = field
        if desk.kitchen.has_thermometer:
            self.fields["temperature_c"] = TemperatureField(
                "temperature_c", label="Temperature", required=False, initial=self._temperature()
            )
            if proposal.take_to_c is None:
                self.initial.setdefault("reckoned_c", self._temperature())
        else:
            choices = [("", "as reckoned"), *((k, v[1]) for k, v in TOUCHES.items())]
            self.fields["touch"] = forms.ChoiceField(
                label="A dab on the lip feels", choices=choices, required=False, initial=self._touch()
            )
        self.fields["number"] = FlowNumberField(
            "number",
            label="Flow number on its label",
            required=False,
            initial=self._number(),
            help_text="You can also write wafers, bar or chips.",
        )

    def _suits(self, row: Ingredient) -> bool:
        held = {p.ingredient.name for p in self.desk.now.parts}
        if row.code in held:
            return True
        if not row.stocked or row.kind == "water":
            return False
        if row.kind in ("base", "fat"):
            return row.family == ("palm" if self.desk.bowl.white == "coating" else "cocoa")
        return True

    def clean(self) -> Typed:
        """No more of a water-based colour than goes unnoticed in what is then in the bowl."""
        data = super().clean() or {}
        if self.errors:
            return data
        added = self.additions()
        base_g = self.desk.now.base_g + sum(part.mass_g for _, part, _ in added if part.ingredient.is_base)
        held_g = sum(p.mass_g for p in self.desk.now.parts if p.ingredient.kind == GEL)
        gels = [(row, part) for row, part, _ in added if part.ingredient.kind == GEL]
        most_g = base_g * harmless_share()
        if gels and base_g and held_g + sum(part.mass_g for _, part in gels) > most_g + 1e-9:
            more = max(0, math.floor((most_g - held_g) / DAB_G + 1e-9))
            further = "more " if held_g else ""  # what is in it already counts
            room = f"{more} {further}{'dab' if more == 1 else 'dabs'} at most" if more else "no more of it"
            refusal = f"The water in that would thicken {mass(base_g)}: {room}, or take an oil colour."
            self.add_error(f"add-{gels[0][0].pk}", forms.ValidationError(refusal))
        return data

    # -- what is proposed --------------------------------------------------------------------------------------
    def _temperature(self) -> float | None:
        proposal, now = self.desk.proposal, self.desk.now
        if proposal.take_to_c is not None:
            return _plain(proposal.take_to_c)
        return None if now.empty else round(now.temperature_c)

    def _touch(self) -> str:
        to_c = self.desk.proposal.take_to_c
        return "" if to_c is None else min(TOUCHES, key=lambda word: abs(TOUCHES[word][0] - to_c))

    def _number(self) -> float | None:
        """As the label says, whatever is known of the bag besides; as it was tested where it was."""
        now, known = self.desk.now, self.desk.known
        if now.empty:
            base = next((p.ingredient for p in self.desk.proposal.additions if p.ingredient.is_base), None)
            return _plain(base.number / known.flow(base.name).value) if base and base.number else None
        main = main_base(now.parts)
        by = known.flow(main.name).value if main and now.number is None else 1.0
        return _plain(round(now.label_number / by, 4))

    # -- what was said -----------------------------------------------------------------------------------------
    def rows(self) -> list[AdditionRow]:
        """Every ingredient of the page, bases first."""
        held = {p.ingredient.name: p for p in self.desk.now.parts}
        cores = self.desk.stock.cores
        return [
            AdditionRow(
                r, cores[r.pk], self[f"add-{r.pk}"], held.get(r.code), _COUNTED.get(r.kind, ""), *self._stepping(r)
            )
            for r in self.addable
        ]

    def _stepping(self, row: Ingredient) -> tuple[str, str]:
        """Unit and step of the buttons beside a field."""
        measures, is_base = self.desk.kitchen.measures, row.kind == "base"
        if row.kind in _COUNTED:
            return "", "1"
        if not measures.has_scale:
            return (f"{PIECES[row.family or 'palm'][0]}s", "5") if is_base else ("tsp", "0.25")
        if measures.mass == "oz":
            return "oz", "0.5" if is_base else "0.1"
        return "g", "10" if is_base else "1"

    def additions(self) -> list[tuple[Ingredient, Part, float]]:
        """Row, part and the amount as counted, for everything above nothing."""
        additions = []
        for row in self.addable:
            value = self.cleaned_data.get(f"add-{row.pk}")
            if value:
                core = self.desk.stock.cores[row.pk]
                units = float(value)
                mass_g = units * core.unit_g if row.kind in _COUNTED else units
                additions.append((row, Part(core, mass_g), units))
        return additions

    def to_c(self) -> float | None:
        """The temperature said, when it differs from what was reckoned."""
        if "touch" in self.fields:
            touch = self.cleaned_data.get("touch")
            said = TOUCHES[touch][0] if touch else None
        else:
            said = self.cleaned_data.get("temperature_c")
        reckoned = self.cleaned_data.get("reckoned_c")
        if said is None or (reckoned is not None and abs(said - reckoned) < _READ_TO_K):
            return None  # left as the page had it, however long ago that was
        now = self.desk.now
        if now.empty or (now.is_set and said >= MELTS_AT_C):
            return said
        return said if abs(said - now.temperature_c) > _NOTICEABLE_K else None

    def ordered_c(self) -> float | None:
        """The temperature it is to be brought to, as proposed; None where the maker says what it reads."""
        said = self.to_c()
        if said is None or self.desk.proposal.take_to_c is None:
            return None
        shown_c = TOUCHES[self._touch()][0] if "touch" in self.fields else self._temperature()
        return said if shown_c is not None and abs(said - shown_c) < _READ_TO_K else None

    def reads_c(self) -> float | None:
        """What the maker says it reads or feels like, which nobody asked for."""
        return self.to_c() if self.ordered_c() is None else None

    def new_number(self) -> float | None:
        """The label number, when it differs from what was assumed."""
        value, assumed = self.cleaned_data.get("number"), self._number()
        if value is None or assumed is None or abs(value - assumed) < 0.05:
            return None
        return float(value)

    def sent(self) -> str:
        """What was sent, in short: the same for a repeat, whatever the bowl has become meanwhile."""
        typed = ((name, str(self.data.get(name) or "").strip()) for name in self.fields)
        fields = {name: text for name, text in typed if text and name not in ("seq", "key")}
        return hashlib.sha256(json.dumps(fields, sort_keys=True).encode()).hexdigest()[:24]

    def nothing_said(self) -> bool:
        """Whether nothing was added, warmed or measured."""
        return not self.additions() and self.to_c() is None and self.new_number() is None

    def lines(self) -> list[Line]:
        """Event lines (kind, payload), bases first, then warmth, then the rest, then a stir."""
        lines: list[Line] = []
        rest: list[Line] = []
        for row, part, units in self.additions():
            payload: Json = {"ingredient": row.pk, "pins": pins_of(row), "typed": self._typed(row, part)}
            payload |= {"units": units} if row.kind in _COUNTED else {"mass_g": units}
            (lines if row.kind == "base" else rest).append(("added", payload))
        to_c = self.to_c()
        if to_c is not None:
            kind = "warmed" if self.desk.now.empty or to_c >= self.desk.now.temperature_c else "cooled"
            typed = self.cleaned_data.get("touch") or str(self.data.get("temperature_c", "")).strip()
            read = {"read": True} if self.ordered_c() is None else {}
            lines.append((kind, {"to_c": round(to_c, 2), "typed": typed, **read}))
        number = self.new_number()
        if number is not None:
            lines.append(("tested", {"test": "number", "value": number}))
        lines += rest
        return [*lines, ("stirred", {})] if rest else lines

    def _typed(self, row: Ingredient, part: Part) -> str:
        """An amount as it was typed, with its unit."""
        return as_typed(self.data.get(f"add-{row.pk}"), amount_text(part))

    def core_events(self) -> list[Event]:
        """The same as events for the core, at this moment, numbered after everything."""
        bags = self.desk.known.only(FLOW)
        parts = {
            row.pk: replace(part, ingredient=bags.ingredient(part.ingredient)) for row, part, _ in self.additions()
        }
        seq = int(_SOON)
        events = []
        for offset, (kind, data) in enumerate(self.lines()):
            events.append(
                Event(
                    seq + offset,
                    kind,
                    self.desk.at_s,
                    to_c=data.get("to_c"),
                    test=data.get("test", ""),
                    value=data.get("value"),
                    parts=(parts[data["ingredient"]],) if kind == "added" else (),
                )
            )
        return events


def as_typed(text: Any, amount: str) -> str:
    """What was typed if it says its unit, else the amount it stands for."""
    typed = str(text or "").strip()
    return typed if re.search(r"[a-z]", typed, re.IGNORECASE) else amount


def _count(part: Part | None) -> int | None:
    return round(part.units) if part else None


def _grams(part: Part | None) -> float | int | None:
    return _plain(part.mass_g) if part else None


def _plain(value: float) -> float | int:
    """One decimal, and none where it is whole."""
    return round(value) if abs(value - round(value)) < 0.05 else round(value, 1)
