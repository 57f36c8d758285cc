"""A piece as it is built: a core with its size and layers in their order, in one form that can be changed freely."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from coating.care.allergens import ALLERGENS
from coating.errors import CoatingError
from coating.piece.cores import Core
from coating.piece.kinds import KINDS, CoreKind, kind_of_core
from coating.stack.layers import Layer, usual_length_mm
from coating.stack.order import in_order
from coating.techniques import TECHNIQUES, technique
from coating.techniques.base import LINE, LayerField
from studio.accounts.models import Kitchen
from studio.common.forms import CountField, KeepsMeasures, LengthField, WordsField
from studio.common.measures import refusal_text
from studio.common.types import Typed
from studio.cupboard.models import Extra
from studio.cupboard.tones import WHITES, Tone, tones_in
from studio.pieces.build_fields import ChosenField, TonedField, field_of, fields_of, pills_field
from studio.pieces.models import Job, Piece
from studio.pieces.reckoned import as_core_layer, counts_of
from studio.pieces.says import joint_says

MOST_LAYERS, PART = 16, "part"
PICKABLE = tuple(name for name, kind in TECHNIQUES.items() if kind.shelf)
EXTRA_WORDS = {
    "topping": "Which topping",
    "filling": "Which filling",
    "icing": "Which icing",
    "modelling": "Which modelling chocolate",
    "insert": "What goes in",
    "dust": "Which dust",
    "leaf": "Which leaf",
    "stick": "What it stands on",
    "mould": "Which mould",
    "sheet": "Which sheet",
}
SIDES = 3


@dataclass(frozen=True)
class LayerRow:
    """A layer on the page: its place, its technique and its fields. `extra` is what it can be of; None for coating."""

    place: int
    kind: Any
    takes_coating: bool
    technique: forms.BoundField
    pills: list[forms.BoundField]
    fields: list[forms.BoundField]
    white: forms.BoundField
    colour: forms.BoundField
    extra: forms.BoundField | None
    wrong: bool
    open: bool
    title: str
    part: forms.BoundField | None
    part_row: Piece | None


class BuildForm(KeepsMeasures, forms.Form):
    """`layers` says how many there are; layer 2 has the fields 2-technique, 2-colour and so on."""

    name = WordsField(label="Name", max_length=80)
    count = CountField("count", label="How many to make", initial=12)
    spares = CountField(
        "spares", label="Extra pieces", required=False, help_text="Leave blank to allow for how easily it breaks."
    )
    core = forms.ChoiceField(
        label="What it is made on",
        choices=[(k, v.title) for k, v in KINDS.items()],
        initial="round_biscuit",
        widget=forms.HiddenInput,
    )
    layers = forms.IntegerField(min_value=0, max_value=MOST_LAYERS, initial=0, widget=forms.HiddenInput)
    version = forms.IntegerField(min_value=0, max_value=2**31 - 1, initial=0, widget=forms.HiddenInput)
    piece = forms.IntegerField(min_value=1, max_value=2**31 - 1, required=False, widget=forms.HiddenInput)
    goes_on = forms.IntegerField(min_value=1, max_value=2**31 - 1, required=False, widget=forms.HiddenInput)
    looked = forms.BooleanField(label="I have read the pack: none of the others", required=False)

    def __init__(
        self, data: Any = None, *, kitchen: Kitchen, job: Job | None = None, opened: int = -1, **kwargs: Any
    ) -> None:
        super().__init__(data, **kwargs)
        self.opened, self.kitchen, self.job = opened, kitchen, job
        fields = self.data if data is not None else self.initial
        self.kind = KINDS.get(str(fields.get("core") or "round_biscuit"), KINDS["round_biscuit"])
        if fields.get("goes_on"):
            self.fields["count"] = CountField("count", label="How many besides those", low=0, initial=0)
        for i, side in enumerate(self.kind.usual):
            self.fields[f"d{i}"] = LengthField("core_mm", label=SIDE_WORDS[self.kind.figure][i], initial=side)
        for allergen in ALLERGENS if self.asks_contents else ():
            self.fields[f"contains-{allergen}"] = forms.BooleanField(label=allergen, required=False)
        self.names: list[str] = []
        self.tones = tones_in(kitchen)
        self.extras: dict[str, list[Extra]] = {}
        for extra in Extra.objects.for_kitchen(kitchen):
            self.extras.setdefault(extra.kind, []).append(extra)
        for i in range(_number(fields.get("layers"))):
            name = str(fields.get(f"{i}-technique") or "")
            if name not in PICKABLE and name != PART:
                break
            self.names.append(name)
            self.fields[f"{i}-technique"] = forms.ChoiceField(
                choices=[(name, name)], initial=name, widget=forms.HiddenInput
            )
            self.fields[f"{i}-white"] = pills_field("Kind of chocolate", WHITES, "coating")
            self.fields[f"{i}-colour"] = TonedField(self.tones)
            if name == PART:
                gone = "That part is not in this job any more: take it away here, or pick another."
                self.fields[f"{i}-part"] = ChosenField(list(self.others), "What goes on", gone, required=True)
            if of := technique(name).extra:
                known = self.extras.get(of, [])
                self.fields[f"{i}-extra"] = ChosenField(known, EXTRA_WORDS[of], "That is not in this cupboard.")
            for field in technique(name).fields:
                self.fields[f"{i}-{field.name}"] = field_of(field)

    @cached_property
    def whole(self) -> list[Piece]:
        """Every piece of the job."""
        return list(Job.objects.whole(self.kitchen, self.job.pk).pieces.all()) if self.job else []

    @cached_property
    def others(self) -> list[Piece]:
        """The other pieces of the job."""
        data = self.data if self.is_bound else self.initial
        mine = str(data.get("piece") or "")
        return [p for p in self.whole if str(p.pk) != mine]

    @property
    def carried(self) -> int:
        """How many of it go on others; of one that is new, one on each of what it is made for."""
        on = self.cleaned_data.get("goes_on")
        if not on or not self.whole:
            return 0
        counts, mine = counts_of(self.whole[0].job), self.cleaned_data.get("piece")
        row = next((p for p in self.whole if p.pk == mine), None)
        return counts[row.pk][0] - row.count if row else sum(counts.get(on, (0, 0)))

    def part(self, place: int) -> Piece | None:
        """The piece that a layer puts on."""
        piece: Piece | None = self.cleaned_data.get(f"{place}-part")
        return piece

    def goes_onto(self) -> list[tuple[Piece, str]]:
        """What it goes on, each with how."""
        data = self.data if self.is_bound else self.initial
        mine = str(data.get("piece") or "")
        joints = [(on, la) for on in self.whole for la in on.stack if mine and str(la.part_id) == mine]
        return [(on, joint_says(as_core_layer(la))) for on, la in joints]

    def called(self, place: int) -> str:
        """What a layer is called: what it puts on, or its technique."""
        row = self.part_shown(place)
        return row.name if row else technique(self.names[place]).title

    def part_shown(self, place: int) -> Piece | None:
        """The piece that a layer on the page puts on, where that is in the job."""
        if self.names[place] != PART:
            return None
        value = str(self[f"{place}-part"].value() or "")
        return next((p for p in self.others if str(p.pk) == value), None)

    def rows(self) -> list[LayerRow]:
        """Every layer, the first one first."""
        rows = []
        for i, name in enumerate(self.names):
            bound = [self[f"{i}-{f}"] for f in fields_of(name)]
            of = self[f"{i}-extra"] if technique(name).extra else None
            wrong = self.is_bound and any(k.startswith(f"{i}-") for k in self.errors)
            rows.append(
                LayerRow(
                    i,
                    technique(name),
                    Layer(name).takes_coating,
                    self[f"{i}-technique"],
                    [f for f in bound if f.widget_type == "radioselect"],
                    [f for f in bound if f.widget_type != "radioselect"],
                    self[f"{i}-white"],
                    self[f"{i}-colour"],
                    of,
                    wrong,
                    wrong or i == self.opened,
                    self.called(i),
                    self[f"{i}-part"] if name == PART else None,
                    self.part_shown(i),
                )
            )
        return rows

    @property
    def shades(self) -> list[tuple[str, list[Tone]]]:
        """What a coating can be of, in two rows: colours that are made, and bags as they were bought."""
        made, bought = ([t for t in self.tones.values() if bool(t.base) == as_bought] for as_bought in (False, True))
        return [("Made for it", made), *([("As bought", bought)] if bought else [])]

    @property
    def also_shades(self) -> list[tuple[Tone, bool]]:
        """What it can be made in as well, each with whether it is."""
        tones = self._told_also()
        return [(tone, key in tones) for key, tone in self.tones.items() if key]

    def also_colours(self) -> list[Tone]:
        """What else it is made in as well."""
        tones = self._told_also()
        return [tone for key, tone in self.tones.items() if key and key in tones]

    @property
    def asks_contents(self) -> bool:
        """Whether only its pack can say what it contains."""
        return self.kind.allergens is None

    def contents(self) -> list[str] | None:
        """What its pack says it contains; None where nobody has looked, or where nobody has to."""
        if not self.asks_contents:
            return None
        names = [a for a in ALLERGENS if self.cleaned_data.get(f"contains-{a}")]
        return names if names or self.cleaned_data["looked"] else None

    def content_fields(self) -> list[forms.BoundField]:
        """The allergens to tick."""
        return [self[f"contains-{a}"] for a in ALLERGENS if f"contains-{a}" in self.fields]

    def _told_also(self) -> set[str]:
        return {name.removeprefix("also-") for name in self.data if name.startswith("also-")}

    @property
    def sides(self) -> list[forms.BoundField]:
        """The fields of the size, side by side."""
        return [self[f"d{i}"] for i in range(SIDES) if f"d{i}" in self.fields]

    def clean(self) -> Typed:
        data = super().clean() or {}
        if not self.errors:
            try:
                self.the_core()
            except CoatingError as refusal:
                self.add_error(None, ValidationError(refusal_text(refusal)))
        return data

    def wrong_words(self) -> list[str]:
        """What is wrong, each with the words of its field, wherever on the page that is."""
        words = []
        for name, errors in self.errors.items():
            place, _, _ = name.partition("-")
            of = f"{self.called(int(place))}: " if place.isdecimal() else ""
            label = "" if name == "__all__" else f"{of}{self.fields[name].label}: "
            words += [f"{label}{error}" for error in errors]
        return words

    # -- what it means -----------------------------------------------------------------------------------------
    def size_mm(self) -> list[float]:
        """The size, mm."""
        return [self.cleaned_data[f"d{i}"] for i in range(SIDES) if f"d{i}" in self.fields]

    def the_core(self) -> Core:
        """Raises CoatingError."""
        return kind_of_core(self.kind.name).core(*self.size_mm())

    def parameters(self, place: int) -> Typed:
        """Of a layer, as it is kept."""
        data, values = self.cleaned_data, {}
        for field in fields_of(self.names[place]):
            value = data.get(f"{place}-{field}")
            if value not in (None, ""):
                values[field] = float(value) if field == "share" else value
        if values.pop("flooded", ""):
            values["flooded"] = True
        return {"v": 2, **values}

    def extra(self, place: int) -> Extra | None:
        """What a layer is of, where it is no coating."""
        return self.cleaned_data.get(f"{place}-extra")


SIDE_WORDS = {
    "disc": ("Diameter", "Thickness"),
    "block": ("Length", "Width", "Thickness"),
    "round": ("Diameter", "Height"),
    "rod": ("Length", "Diameter"),
    "tier": ("Diameter", "Height"),
    "hollow": ("Diameter at the top", "Diameter at the bottom", "Depth"),
    "sheet": ("Length", "Width"),
    "twist": ("Width", "Thickness of the string"),
}


def _begins(field: LayerField, kind: CoreKind, name: str) -> str:
    """What a field of a new layer says, as it is typed."""
    made = technique(name)
    if field.name == "length_mm" and made.measured == LINE:
        return f"{usual_length_mm(name, kind.core(*kind.usual)):g} mm"
    if field.name == "share" and made.dips:
        return typed_share(kind.dipped)
    if field.first is None:
        return ""
    return f"{field.first:g} mm" if field.typed == "length" and not isinstance(field.first, str) else str(field.first)


def typed_share(share: float) -> str:
    """A share as the form has it among its choices."""
    words = [word for name in ("dip", "rim") for word, _ in technique(name).fields[0].choices]
    return min(words, key=lambda word: abs(float(word) - share))


def _number(value: Any) -> int:
    text = str(value or "0")
    return min(MOST_LAYERS, int(text)) if text.isdecimal() and len(text) < 4 else 0


# -- changing what was typed ---------------------------------------------------------------------------------------
def changed(data: Mapping[str, str], deed: str) -> tuple[dict[str, str], int]:
    """What was typed, with a layer added, moved or taken away, or all of them put in order; nothing else is touched.
    Returns it with the place of the layer to look at, -1 for none.

    `deed` : "add:dip", "add:part:12", "up:2", "down:2", "move:2:0", "remove:2", "order", "core:ball", or
    "size:1" of its usual sizes.
    """
    fields = {k: v for k, v in data.items() if not k[:1].isdigit() and k != "do"}
    count = _number(data.get("layers"))
    stack = [{k.partition("-")[2]: v for k, v in data.items() if k.startswith(f"{i}-")} for i in range(count)]
    stack = [layer for layer in stack if layer.get("technique") in (*PICKABLE, PART)]
    word, _, rest = deed.partition(":")
    places = [int(p) for p in rest.split(":") if p.isdecimal() and len(p) < 4]
    rest, _, of = rest.partition(":") if word == "add" else (rest, "", "")
    here = places[0] if places and places[0] < len(stack) else None
    if word == "add" and (rest in PICKABLE or rest == PART) and len(stack) < MOST_LAYERS:
        last: dict[str, str] = next((la for la in reversed(stack) if la.get("white")), {})
        kind = KINDS.get(fields.get("core", ""), KINDS["round_biscuit"])
        begun = {field.name: _begins(field, kind, rest) for field in technique(rest).fields}
        named = {"part": of} if rest == PART else {}
        stack.append({"technique": rest, "white": last.get("white", "coating"), "colour": "", **begun, **named})
    elif word == "remove" and here is not None:
        del stack[here]
    elif word in ("up", "down", "move") and here is not None:
        to = places[1] if word == "move" and len(places) > 1 else here + (1 if word == "up" else -1)
        stack.insert(max(0, min(len(stack) - 1, to)), stack.pop(here))
    elif word == "order":
        kind = KINDS.get(fields.get("core", ""), KINDS["round_biscuit"])
        stack = [stack[i] for i in in_order([Layer(la["technique"]) for la in stack], kind.core(*kind.usual))]
    elif word in ("size", "core"):
        if word == "core" and rest in KINDS:
            fields = {k: v for k, v in fields.items() if k not in ("d0", "d1", "d2")} | {"core": rest}
        kind = KINDS.get(fields.get("core", ""), KINDS["round_biscuit"])
        chosen = kind.sizes[min(places[0], len(kind.sizes) - 1)][1] if places else kind.usual
        fields |= {f"d{i}": f"{side:g} mm" for i, side in enumerate(chosen)}
    fields["layers"] = str(len(stack))
    opened = len(stack) - 1 if word == "add" else -1
    return fields | {f"{i}-{k}": v for i, layer in enumerate(stack) for k, v in layer.items()}, opened
