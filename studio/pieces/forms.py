"""Jobs and pieces as forms."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from coating.colour.cie import lab_from_srgb
from coating.errors import OutOfBounds
from coating.flow.drip import squeeze_for
from coating.flow.trade_number import number_from_flow
from coating.flow.windows import window
from coating.heat.melting import working_temperature_c
from coating.plan.boxes import BOX_WORDS
from studio.accounts.models import Kitchen
from studio.common.forms import CountField, KeepsMeasures, LengthField, VersionedForm
from studio.pieces.models import WHITES, Colour, Family, Job, Layer, Piece

TOPS = [("rim", "stays bare inside the rim"), ("flooded", "is covered too")]
WALLS = [("chilled", "from the fridge"), ("room", "at room temperature")]
DEPTHS = [("0.333", "a third"), ("0.5", "half"), ("0.667", "two thirds"), ("1.0", "all over")]


class JobForm(VersionedForm):
    name = forms.CharField(label="What is the occasion?", max_length=80)
    due_on = forms.DateField(
        label="For when?", required=False, widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
        error_messages={"invalid": "Write the date as 2026-11-28."},
    )  # fmt: skip
    made_on = forms.DateField(
        label="When is it filled and finished?", required=False,
        widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
        help_text="Fillings and fruit keep from that day. Empty: the day before.",
        error_messages={"invalid": "Write the date as 2026-11-28."},
    )  # fmt: skip
    little_ones = forms.BooleanField(label="Small children eat of it", required=False)
    note = forms.CharField(label="Note", max_length=400, required=False)

    def __init__(self, *args: Any, fresh: bool = False, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        if fresh:
            del self.fields["version"]


class CountForm(forms.Form):
    """So many of a piece or of a family."""

    count = CountField("count", label="How many")
    piece = forms.IntegerField(required=False, min_value=0, max_value=2**62)
    family = forms.IntegerField(required=False, min_value=0, max_value=2**62)
    version = forms.IntegerField(min_value=0, max_value=2**31 - 1)


class ScaleForm(forms.Form):
    """A job for so many instead of so many others."""

    was = CountField("count", label="It is for")
    will_be = CountField("count", label="Make it for")


class TogetherForm(forms.Form):
    """Pieces to count together, each with how many are in one motif."""

    name = forms.CharField(label="Called", max_length=80)
    kind = forms.ChoiceField(label="As", choices=Family.KINDS, initial="variants", widget=forms.RadioSelect)
    count = CountField("count", label="How many in all, or how many motifs", initial=12)

    def __init__(self, *args: Any, job: Job, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.free = [p for p in job.pieces.all() if p.family_id is None]
        for piece in self.free:
            self.fields[f"take-{piece.pk}"] = forms.BooleanField(label=piece.name, required=False)
            self.fields[f"each-{piece.pk}"] = CountField("count", label="in each", initial=1, required=False)

    def rows(self) -> list[tuple[forms.BoundField, forms.BoundField]]:
        """Each piece with how many of it go into one."""
        return [(self[f"take-{p.pk}"], self[f"each-{p.pk}"]) for p in self.free]

    def chosen(self) -> list[Piece]:
        """Those that are ticked."""
        return [p for p in self.free if self.cleaned_data[f"take-{p.pk}"]]

    def each(self, piece: Piece) -> int:
        """How many of it go into one motif."""
        return int(self.cleaned_data[f"each-{piece.pk}"] or 1)


class PicksForm(forms.Form):
    """How many picks of each layer came back."""

    def __init__(self, *args: Any, picks: Sequence[Any], **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.picks = picks
        for p in picks:
            self.fields[f"back-{p.layer.pk}"] = forms.IntegerField(
                label=f"Back from {p.layer.piece.name}", min_value=0, max_value=p.out, initial=p.layer.back or 0,
                error_messages={"max_value": f"Only {p.out} went in: count once more."},
            )  # fmt: skip

    def rows(self) -> list[tuple[Any, forms.BoundField]]:
        """Each layer with its field."""
        return [(p, self[f"back-{p.layer.pk}"]) for p in self.picks]

    def keep(self) -> int:
        """Keep what came back; returns how many are missing."""
        for p in self.picks:
            p.layer.back = self.cleaned_data[f"back-{p.layer.pk}"]
            Layer.objects.filter(pk=p.layer.pk).update(back=p.layer.back)
        return sum(p.missing for p in self.picks)


class BringForm(forms.Form):
    """The file of a job."""

    file = forms.FileField(label="The file", error_messages={
        "required": "Choose the file first.", "empty": "That file is empty."})  # fmt: skip


OWN = "own"
BOXES = [*BOX_WORDS.items(), (OWN, "my own")]


class BoxForm(KeepsMeasures, forms.Form):
    """A box for a piece: one that shops sell, or the maker's own from inside."""

    piece = forms.IntegerField(widget=forms.HiddenInput, min_value=0, max_value=2**62)
    box = forms.ChoiceField(label="Box", choices=BOXES, widget=forms.RadioSelect)
    layers = CountField("count", label="Layers in it, at most", initial=1, high=10)
    shred_mm = LengthField("shred_mm", label="Shred under them", required=False)
    length_mm = LengthField("core_mm", label="My own: long inside", required=False)
    width_mm = LengthField("core_mm", label="Wide", required=False)
    height_mm = LengthField("core_mm", label="High", required=False)
    holes = CountField("count", label="Holes in its insert", required=False)
    hole_mm = LengthField("core_mm", label="A hole is across", required=False)

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        if data.get("box") == OWN:
            for name in ("length_mm", "width_mm", "height_mm"):
                if data.get(name) is None and name not in self.errors:
                    self.add_error(name, "Measure your own box from inside.")
        if data.get("holes") and data.get("hole_mm") is None and "hole_mm" not in self.errors:
            self.add_error("hole_mm", "Say how wide a hole is.")
        return data


class PieceForm(KeepsMeasures, forms.Form):
    """What every piece says; each technique adds its own."""

    name = forms.CharField(label="What is it?", max_length=80)
    count = CountField("count", label="How many", initial=12)
    spares = CountField("spares", label="Spares", initial=1)
    white = forms.ChoiceField(label="In", choices=WHITES, initial="coating", widget=forms.RadioSelect)
    colour = forms.ModelChoiceField(
        Colour.objects.none(), label="Colour", required=False, empty_label="Plain", widget=forms.RadioSelect,
        error_messages={"invalid_choice": "That colour is not in this kitchen."},
    )  # fmt: skip
    new_colour = forms.CharField(label="A colour of your own: its name", max_length=60, required=False)
    new_shade = forms.CharField(
        label="and its shade", max_length=7, required=False, initial="#8fb0c8",
        widget=forms.TextInput(attrs={"type": "color"}),
    )  # fmt: skip
    version = forms.IntegerField(widget=forms.HiddenInput, min_value=0, max_value=2**31 - 1, initial=0)
    job = forms.IntegerField(widget=forms.HiddenInput, required=False, min_value=0, max_value=2**62)

    def __init__(self, *args: Any, kitchen: Kitchen, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        field = self.fields["colour"]
        assert isinstance(field, forms.ModelChoiceField)
        field.queryset = Colour.objects.for_kitchen(kitchen)

    def clean_new_shade(self) -> str:
        shade = self.cleaned_data["new_shade"]
        if shade and not re.fullmatch(r"#[0-9a-fA-F]{6}", shade):
            raise ValidationError("Pick the shade with the colour field.")
        return shade

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        if data.get("new_colour"):
            shade = data.get("new_shade") or "#8fb0c8"
            lab = lab_from_srgb([int(shade[i : i + 2], 16) / 255 for i in (1, 3, 5)])
            data["new_lab"] = tuple(round(float(v), 2) for v in lab)
        return data


class DipForm(PieceForm):
    """A round biscuit and how deep it goes in."""

    diameter_mm = LengthField("diameter_mm", label="Across", initial=60)
    thickness_mm = LengthField("piece_thickness_mm", label="Thick", initial=8)
    depth = forms.ChoiceField(label="Dipped", choices=DEPTHS, initial="0.5", widget=forms.RadioSelect)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["name"].initial = "Half-dipped biscuits"


class CakeDripForm(PieceForm):
    """A round tier and the drips down its side."""

    spares = CountField("spares", label="Spares", initial=0, widget=forms.HiddenInput)
    diameter_mm = LengthField("tier_mm", label="Across", initial=150)
    height_mm = LengthField("tier_height_mm", label="High", initial=100)
    wall = forms.ChoiceField(label="The cake is", choices=WALLS, initial="chilled", widget=forms.RadioSelect)
    length_mm = LengthField("drip_mm", label="They should run", initial=40)
    width_mm = LengthField("drip_width_mm", label="A drip is wide", initial=9)
    spacing_mm = LengthField("spacing_mm", label="From drip to drip", initial=28)
    top = forms.ChoiceField(label="And the top", choices=TOPS, initial="rim", widget=forms.RadioSelect)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["name"].initial, self.fields["count"].initial = "Cake with drips", 1
        self.fields["count"].label = "How many cakes"

    def clean(self) -> dict[str, Any]:
        data = super().clean()
        needed = ("length_mm", "width_mm", "height_mm", "wall", "white")
        if any(data.get(name) is None for name in needed):
            return data
        if data["length_mm"] >= data["height_mm"]:
            self.add_error("length_mm", "That would stand on the board: let them run less than the tier is high.")
            return data
        try:
            squeeze_for(
                number_from_flow(window("cake_drip").aim), length_mm=data["length_mm"], wall=data["wall"],
                width_mm=data["width_mm"], temperature_c=working_temperature_c(data["white"]),
            )  # fmt: skip
        except OutOfBounds as refusal:
            self.add_error("length_mm", refusal.message)
        return data
