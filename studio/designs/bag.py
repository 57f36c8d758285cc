"""Which hole for this line, how hard to squeeze, how full, how long it stays warm."""

from __future__ import annotations

from typing import Any

from django import forms
from django.http import HttpResponse
from django.shortcuts import render

from coating.errors import CoatingError
from coating.flow.windows import WINDOWS
from coating.shape.bag import bag_for, line_from
from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl
from studio.common.forms import LengthField, MassField, asked_and_reckoned
from studio.common.live import LiveView
from studio.common.measures import refusal_text
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.types import Context, Fields

_BAGGED = ("lace", "lettering", "drizzle", "outline", "flood", "cake_drip", "glue")
_USES = [(w.technique, w.title.split(",")[0]) for w in WINDOWS if w.technique in _BAGGED]


class BagLineForm(forms.Form):
    """A line, a hole and a speed: two of them give the third."""

    use = forms.ChoiceField(label="What it is for", initial="lettering", choices=_USES, widget=forms.RadioSelect)
    line_mm = LengthField("bead_mm", label="Line width (once it has settled)", low=0.5, high=12, initial=1.5)
    hole_mm = LengthField("hole_mm", label="Hole in the bag", required=False)
    mass_g = MassField("mass_g", label="Amount to pipe", low=1, high=3000, initial=60.0)
    speed_mm_s = LengthField("hand_speed_mm_s", label="Distance your hand moves in a second", initial=20.0)
    bowl = forms.ChoiceField(label="Bowl to pipe from", required=False)

    def __init__(self, *args: Any, bowls: list[Bowl], **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.bowls = {str(b.pk): b for b in bowls}
        field = self.fields["bowl"]
        assert isinstance(field, forms.ChoiceField)
        field.choices = [("", "a bowl as it should be"), *((pk, b.name) for pk, b in self.bowls.items())]


def _make(request: KitchenRequest, data: Any) -> BagLineForm:
    return BagLineForm(data, bowls=list(Bowl.objects.for_kitchen(request.kitchen).in_use()[:24]))


def _reckon(request: KitchenRequest, form: BagLineForm) -> Context:
    """Raises CoatingError."""
    data = form.cleaned_data
    tip = next(w for w in WINDOWS if w.technique == data["use"])
    row = form.bowls.get(data.get("bowl") or "")
    desk = None
    if row is not None:
        desk = Desk.of(Bowl.objects.with_colour().with_layers().get_for(request.kitchen, pk=row.pk), request.kitchen)
        desk = desk if desk.can_be_used else None
    flow = (desk.now.flow() if desk else None) or tip.aim
    line_mm = line_from(data["hole_mm"], flow) if data.get("hole_mm") else data["line_mm"]
    bag = bag_for(
        line_mm,
        flow,
        mass_g=data["mass_g"],
        speed_mm_s=data["speed_mm_s"],
        room_c=request.kitchen.room_c,
        white=row.white if row else "coating",
        warm_c=desk.now.temperature_c if desk else None,
    )
    return {
        "bag": bag,
        "line_mm": line_mm,
        "tip": tip,
        "verdict": tip.verdict(flow) if desk else "",
        "bag_bowl": row,
        "cold": row is not None and desk is None,
        "result": {"hole_mm": bag.hole_mm, "bagfuls": bag.bagfuls},
    }


@kitchen_required
def bag_page(request: KitchenRequest) -> HttpResponse:
    """The sentence, and what a lump means."""
    form, reckoned = asked_and_reckoned(lambda data: _make(request, data), request.GET or None)
    context: Context = {"form": form}
    try:
        context |= _reckon(request, reckoned) if reckoned.is_valid() else {}
    except CoatingError as refusal:
        context["refusal"] = refusal_text(refusal)
    return render(request, "designs/bag.html", context)


class BagLive(LiveView):
    """The bag while it is typed."""

    part_templates = {"answer": "designs/says/bag.html", "picture": "designs/pictures/bag.html"}

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> BagLineForm:
        return _make(request, fields)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        return _reckon(request, form)
