"""Jobs and pieces as forms."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django import forms

from coating.plan.boxes import BOX_WORDS
from studio.common.forms import CountField, KeepsMeasures, LengthField, VersionedForm, WordsField
from studio.common.types import Json, Typed
from studio.pieces.models import Family, Job, Layer, Piece

TOPS = [("", "stays bare inside the rim"), ("yes", "is covered too")]
WALLS = [("chilled", "from the fridge"), ("room", "at room temperature")]


class JobForm(VersionedForm):
    """A job: the occasion, and when it is made and wanted."""

    name = WordsField(label="What is the occasion?", max_length=80)
    due_on = forms.DateField(
        label="Date it is needed",
        required=False,
        widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
        error_messages={"invalid": "Write the date as 2026-11-28."},
    )
    made_on = forms.DateField(
        label="Date it is filled and finished",
        required=False,
        widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
        help_text="Fillings and fruit keep from that day. Leave blank for the day before.",
        error_messages={"invalid": "Write the date as 2026-11-28."},
    )
    little_ones = forms.BooleanField(label="Small children will eat it", required=False)
    note = WordsField(label="Note", max_length=400, required=False)

    def __init__(self, *args: Any, fresh: bool = False, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        if fresh:
            del self.fields["version"]


class CountForm(forms.Form):
    """So many of a piece or of a family."""

    count = CountField("count", label="How many", low=0)
    piece = forms.IntegerField(required=False, min_value=0, max_value=2**62)
    family = forms.IntegerField(required=False, min_value=0, max_value=2**62)
    version = forms.IntegerField(min_value=0, max_value=2**31 - 1)


class ScaleForm(forms.Form):
    """A job for so many instead of so many others."""

    was = CountField("count", label="Number of people now")
    will_be = CountField("count", label="Number of people wanted")


class TogetherForm(forms.Form):
    """Pieces to count together, each with how many are in one motif."""

    name = WordsField(label="Name", max_length=80)
    kind = forms.ChoiceField(label="Counted as", choices=Family.KINDS, initial="variants", widget=forms.RadioSelect)
    count = CountField("count", label="Number in all (or of motifs)", initial=12)

    def __init__(self, *args: Any, job: Job, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.free = [p for p in job.pieces.all() if p.family_id is None and p.count]
        for piece in self.free:
            self.fields[f"take-{piece.pk}"] = forms.BooleanField(label=piece.name, required=False)
            self.fields[f"each-{piece.pk}"] = CountField("count", label="How many in each", initial=1, required=False)

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
                label=f"Back from {p.layer.piece.name}",
                min_value=0,
                max_value=p.out,
                initial=p.layer.back or 0,
                error_messages={"max_value": f"Only {p.out} went in: count once more."},
            )

    def rows(self) -> list[tuple[Any, forms.BoundField]]:
        """Each layer with its field."""
        return [(p, self[f"back-{p.layer.pk}"]) for p in self.picks]

    def keep(self) -> int:
        """Keep what came back; returns how many are missing."""
        for p in self.picks:
            p.layer.back = self.cleaned_data[f"back-{p.layer.pk}"]
            Layer.objects.filter(pk=p.layer.pk).update(back=p.layer.back)
        return sum(p.missing for p in self.picks)


class BringJobForm(forms.Form):
    """The file of a job."""

    file = forms.FileField(
        label="File", error_messages={"required": "Choose the file first.", "empty": "That file is empty."}
    )


OWN = "own"
BOXES = [*BOX_WORDS.items(), (OWN, "my own")]


class BoxForm(KeepsMeasures, forms.Form):
    """A box for a piece: one that shops sell, or the maker's own from inside."""

    piece = forms.IntegerField(widget=forms.HiddenInput, min_value=0, max_value=2**62)
    box = forms.ChoiceField(label="Box", choices=BOXES, widget=forms.RadioSelect)
    layers = CountField("count", label="Most layers in a box", initial=1, high=10)
    shred_mm = LengthField("shred_mm", label="Depth of shred underneath", required=False)
    length_mm = LengthField("core_mm", label="My own: long inside", required=False)
    width_mm = LengthField("core_mm", label="Width", required=False)
    height_mm = LengthField("core_mm", label="Height", required=False)
    holes = CountField("count", label="Number of holes in the insert", required=False)
    hole_mm = LengthField("core_mm", label="Hole diameter", required=False)

    def clean(self) -> Typed:
        """The maker's own box has its sizes, and its holes theirs."""
        data = super().clean() or {}
        if data.get("box") == OWN:
            for name in ("length_mm", "width_mm", "height_mm"):
                if data.get(name) is None and name not in self.errors:
                    self.add_error(name, "Give the inside measures of your own box.")
        if data.get("holes") and data.get("hole_mm") is None and "hole_mm" not in self.errors:
            self.add_error("hole_mm", "Give the diameter of a hole.")
        return data


class MixForm(BoxForm):
    """Several kinds in one box: how many of each."""

    def __init__(self, *args: Any, pieces: Sequence[Piece], **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        del self.fields["piece"], self.fields["layers"]
        self.pieces = pieces
        for piece in pieces:
            self.fields[f"of-{piece.pk}"] = CountField("count", label=piece.name, low=0, high=99, required=False)

    def rows(self) -> list[forms.BoundField]:
        """How many of each piece."""
        return [self[f"of-{p.pk}"] for p in self.pieces]

    def clean(self) -> Typed:
        """Two pieces at least."""
        data = super().clean()
        if not self.errors and sum(data.get(f"of-{p.pk}") or 0 for p in self.pieces) < 2:
            raise forms.ValidationError("Say how many of each go into one box: two or more in all.")
        return data

    def told(self) -> Json:
        """As a job keeps it."""
        data = self.cleaned_data
        of = {str(p.pk): data[f"of-{p.pk}"] for p in self.pieces if data.get(f"of-{p.pk}")}
        return {"of": of, **{k: v for k, v in data.items() if not k.startswith("of-") and v not in (None, "")}}
