"""Led through tempering: seed bit by bit, read, and keep it there."""

from __future__ import annotations

import uuid
from typing import Any

from django import forms
from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render

from coating.figures.temper_chart import TemperChart, temper_chart
from coating.heat.tempering import MELT_C, TemperStage, temper_stage
from coating.simulate.bowl import fold
from studio.bowls.actions import BowlChanged, Line, append
from studio.bowls.adapters import Desk, pins_of
from studio.bowls.forms import TOUCHES
from studio.bowls.sends import SendForm
from studio.bowls.views import CHANGED, desk_of
from studio.common.forms import MassField, TemperatureField
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.templatetags.kitchen import mass
from studio.cupboard.models import Ingredient

FORGETS_C, LOOK_BACK_S = 40.0, 5400.0
SHADES = {"dark": "dark", "milk": "milk"}


class TemperForm(SendForm):
    """Seed that went in, and how warm it then is."""

    def __init__(self, *args: Any, desk: Desk, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        del self.fields["used_g"]
        self.fields["seed_g"] = MassField("mass_g", label="Seed stirred in", required=False)
        if desk.kitchen.has_thermometer:
            self.fields["temperature_c"] = TemperatureField("temperature_c", label="It reads", required=False)
        else:
            choices = [("", "not tried"), *((k, v[1]) for k, v in TOUCHES.items())]
            self.fields["touch"] = forms.ChoiceField(label="A dab on the lip feels", choices=choices, required=False)

    def to_c(self) -> float | None:
        """How warm it was said to be."""
        touch = self.cleaned_data.get("touch")
        return TOUCHES[touch][0] if touch else self.cleaned_data.get("temperature_c")

    def lines(self, desk: Desk, base: Ingredient | None) -> list[Line]:
        lines: list[Line] = []
        seed_g, to_c = self.cleaned_data.get("seed_g"), self.to_c()
        if seed_g and base is not None:
            seeded = {"ingredient": base.pk, "pins": pins_of(base), "typed": mass(seed_g), "mass_g": seed_g}
            lines += [("added", seeded), ("stirred", {})]
        if to_c is not None:
            kind = "warmed" if to_c >= desk.now.temperature_c else "cooled"
            lines.insert(len(lines), (kind, {"to_c": round(to_c, 2), "typed": "read"}))
        return lines


def _main_base(desk: Desk) -> Ingredient | None:
    bases = [p for p in desk.now.parts if p.ingredient.is_base]
    most = max(bases, key=lambda p: p.mass_g, default=None)
    return next((r for r in desk.stock.rows if most and r.code == most.ingredient.name), None)


def stage_of(desk: Desk) -> TemperStage:
    """Where the bowl stands; it has forgotten its old crystals once it was above 40 degC."""
    now, base = desk.now, _main_base(desk)
    warmest = max([e.to_c for e in desk.events if e.kind == "warmed" and e.to_c is not None], default=0.0)
    return temper_stage(
        now.temperature_c, now.mass_g, chocolate=SHADES.get(base.code if base else "", "white"),
        was_melted=max(warmest, now.temperature_c) >= FORGETS_C, room_c=desk.kitchen.room_c, is_set=now.is_set,
    )  # fmt: skip


def _chart(desk: Desk, stage: TemperStage) -> TemperChart:
    seen = [(e.at_s, e.to_c) for e in desk.events if e.kind in ("warmed", "cooled") and e.to_c is not None]
    begun = max(0.0, desk.at_s - LOOK_BACK_S, min([t for t, _ in seen], default=0.0) - 30)
    return temper_chart(
        lambda at_s: fold(desk.events, desk.context, at_s=at_s).temperature_c, begun_s=begun, now_s=desk.at_s,
        readings=seen, range_c=(stage.low_c, stage.high_c),
    )  # fmt: skip


@kitchen_required
def temper(request: KitchenRequest, pk: int) -> HttpResponse:
    """What to do next to bring it into temper, and the chart so far; a post notes seed and reading."""
    desk = desk_of(request, pk)
    if desk.now.empty or desk.bowl.finished_at:
        messages.error(request, "There is nothing in this bowl to temper yet.")
        return redirect("bowls:bowl", pk=pk)
    form = TemperForm(request.POST or None, desk=desk)
    status = 200
    if request.method == "POST" and form.is_valid():
        lines, data = form.lines(desk, _main_base(desk)), form.cleaned_data
        sent = f"temper {data.get('seed_g') or ''} {form.to_c() or ''}"
        try:
            if lines:
                append(desk.bowl, lines, expected_seq=data["seq"], key=data["key"], sent=sent)
                return redirect("bowls:temper", pk=pk)
            form.add_error(None, "Say how much seed went in, or how warm it is.")
        except BowlChanged:
            messages.error(request, CHANGED)
            return redirect("bowls:temper", pk=pk)
    if form.errors:
        status = 422
    stage = stage_of(desk)
    context = {
        "bowl": desk.bowl, "now": desk.now, "stage": stage, "form": form, "chart": _chart(desk, stage),
        "send_key": uuid.uuid4(), "base": _main_base(desk), "melt_c": MELT_C,
    }  # fmt: skip
    return render(request, "bowls/temper.html", context, status=status)
