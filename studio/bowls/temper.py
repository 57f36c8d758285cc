"""Led through tempering: seed bit by bit, read, and keep it there."""

from __future__ import annotations

import uuid
from typing import Any

from django import forms
from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render

from coating.figures.temper_chart import TemperChart, chart_moments, temper_chart
from coating.heat.tempering import MELT_C, RANGES_C, TemperStage, temper_stage
from coating.simulate.fold import course
from studio.bowls.actions import BowlChanged, Line, append
from studio.bowls.adapters import Desk, pins_of
from studio.bowls.forms import TOUCHES, as_typed
from studio.bowls.sends import SendForm
from studio.bowls.views import CHANGED, desk_of
from studio.common.forms import MassField, TemperatureField
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.templatetags.kitchen import mass
from studio.cupboard.models import Ingredient

LOOK_BACK_S = 5400.0


class TemperForm(SendForm):
    """Seed that went in, and how warm it then is."""

    def __init__(self, *args: Any, desk: Desk, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        del self.fields["used_g"]
        self.fields["seed_g"] = MassField("mass_g", label="Seed stirred in", required=False)
        if desk.kitchen.has_thermometer:
            self.fields["temperature_c"] = TemperatureField("temperature_c", label="Temperature now", required=False)
        else:
            choices = [("", "not tried"), *((k, v[1]) for k, v in TOUCHES.items())]
            self.fields["touch"] = forms.ChoiceField(label="A dab on the lip feels", choices=choices, required=False)

    def to_c(self) -> float | None:
        """How warm it was said to be."""
        touch = self.cleaned_data.get("touch")
        return TOUCHES[touch][0] if touch else self.cleaned_data.get("temperature_c")

    def lines(self, desk: Desk, base: Ingredient | None) -> list[Line]:
        """The step as lines that the bowl keeps."""
        lines: list[Line] = []
        seed_g, to_c = self.cleaned_data.get("seed_g"), self.to_c()
        if seed_g and base is not None:
            typed = as_typed(self.data.get("seed_g"), mass(seed_g))
            seeded = {"ingredient": base.pk, "pins": pins_of(base), "typed": typed, "mass_g": seed_g}
            lines += [("added", seeded), ("stirred", {})]
        if to_c is not None:
            kind = "warmed" if to_c >= desk.now.temperature_c else "cooled"
            lines.append((kind, {"to_c": round(to_c, 2), "typed": "read"}))
        return lines


def _main_base(desk: Desk) -> Ingredient | None:
    bases = [p for p in desk.now.parts if p.ingredient.is_base]
    most = max(bases, key=lambda p: p.mass_g, default=None)
    return next((r for r in desk.stock.rows if most and r.code == most.ingredient.name), None)


def stage_of(desk: Desk) -> TemperStage:
    """Where the bowl stands."""
    now, base = desk.now, _main_base(desk)
    return temper_stage(
        now.temperature_c,
        now.mass_g,
        chocolate=base.code if base and base.code in RANGES_C else "white",
        warmest_c=now.warmest_c,
        room_c=desk.kitchen.room_c,
        is_set=now.is_set,
    )


def _chart(desk: Desk, stage: TemperStage) -> TemperChart:
    seen = [(e.at_s, e.to_c) for e in desk.events if e.kind in ("warmed", "cooled") and e.to_c is not None]
    begun = max(0.0, desk.at_s - LOOK_BACK_S, min([t for t, _ in seen], default=0.0) - 30)
    moments = chart_moments(begun, desk.at_s)
    states = course(desk.events, desk.context, moments)
    warmth = [(at_s, state.temperature_c) for at_s, state in zip(moments, states, strict=True)]
    return temper_chart(warmth, readings=seen, range_c=(stage.low_c, stage.high_c))


@kitchen_required
def temper(request: KitchenRequest, pk: int) -> HttpResponse:
    """What to do next to bring it into temper, and the chart so far; a post notes seed and reading."""
    desk = desk_of(request, pk)
    if desk.now.empty or desk.bowl.finished_at:
        messages.error(request, "There is nothing in this bowl to temper yet.")
        return redirect("bowls:bowl", pk=pk)
    form = TemperForm(request.POST or None, desk=desk)
    if request.method == "POST" and form.is_valid():
        lines, data = form.lines(desk, _main_base(desk)), form.cleaned_data
        sent = f"temper {data.get('seed_g') or ''} {form.to_c() or ''}"
        if not lines:
            form.add_error(None, "Say how much seed went in, or how warm it is.")
            return _page(request, desk, form, 422)
        try:
            append(desk.bowl, lines, expected_seq=data["seq"], key=data["key"], sent=sent)
        except BowlChanged:
            form.add_error(None, CHANGED)
            return _page(request, desk, form, 409)
        return redirect("bowls:temper", pk=pk)
    return _page(request, desk, form, 422 if form.errors else 200)


def _page(request: KitchenRequest, desk: Desk, form: TemperForm, status: int) -> HttpResponse:
    stage = stage_of(desk)
    context = {
        "bowl": desk.bowl,
        "now": desk.now,
        "stage": stage,
        "form": form,
        "chart": _chart(desk, stage),
        "send_key": uuid.uuid4(),
        "base": _main_base(desk),
        "melt_c": MELT_C,
    }
    return render(request, "bowls/temper.html", context, status=status)
