"""What this bowl is right for, and how it goes with the others."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from django import forms
from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render

from coating.colour.mixing import merge
from coating.errors import EmptyBowl
from coating.figures.ribbon import RibbonFigure, ribbon_figure
from coating.heat.melting import working_temperature_c
from coating.plan.uses import MARBLES_WITHIN, thicker_by, uses
from coating.simulate.bowl import BowlState
from studio.bowls.adapters import Desk
from studio.bowls.forms import TOUCHES
from studio.bowls.models import Bowl
from studio.bowls.says import uses_says
from studio.bowls.settled import fetch_events
from studio.bowls.views import desk_of
from studio.common.forms import TemperatureField
from studio.common.live import LiveView
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.templatetags.kitchen import hexed
from studio.common.types import Context, Fields

OTHERS, STILL_K = 12, 0.5


def _others(desk: Desk) -> list[tuple[Bowl, float]]:
    """Other bowls in use that flow, with how many times as thick as them this one stands; the nearest first."""
    bowls = Bowl.objects.for_kitchen(desk.kitchen).in_use().exclude(pk=desk.bowl.pk).with_colour().order_by("-pk")
    desks = [Desk.of(b, desk.kitchen, stock=desk.stock) for b in bowls[:OTHERS]]
    fetch_events(desks)
    beside = [(d.bowl, thicker_by(desk.now, d.now)) for d in desks if not d.now.empty]
    known = [(bowl, times) for bowl, times in beside if times is not None]
    return sorted(known, key=lambda pair: max(pair[1], 1 / pair[1]))


def _ribbon(desk: Desk, state: BowlState) -> RibbonFigure:
    """The bowl as it is, and as it is supposed to be."""

    def hung(one: BowlState) -> Any:
        return (None if one.is_set else one.flow()), *one.flow_range()

    supposed = state != desk.now
    return ribbon_figure(
        now=hung(desk.now),
        after=hung(state) if supposed else None,
        now_fill=hexed(desk.now.mixture().lab()),
        after_fill=hexed(state.mixture().lab()),
        window=None,
    )


class WhatIfForm(forms.Form):
    """The bowl as it would be: warmer or cooler, with the colour still to come, or tempered."""

    def __init__(self, data: Any = None, *, desk: Desk) -> None:
        now = desk.now
        super().__init__(data, initial={"temperature_c": round(now.temperature_c), "touch": ""})
        if desk.kitchen.has_thermometer:
            self.fields["temperature_c"] = TemperatureField("temperature_c", label="Temperature to try", required=False)
        else:
            choices = [("", "as it is"), *((k, v[1]) for k, v in TOUCHES.items())]
            self.fields["touch"] = forms.ChoiceField(label="When a dab feels", choices=choices, required=False)
        if desk.proposal.kind in ("fill", "tint", "warm", "thin") and desk.proposal.additions:
            self.fields["with_rest"] = forms.BooleanField(label="With what is still to go in", required=False)
        if now.white == "untempered":
            self.fields["tempered"] = forms.BooleanField(label="Tempered", required=False)

    def state(self, desk: Desk) -> BowlState:
        """The bowl so; as it is when nothing else was said."""
        data, now = self.cleaned_data, desk.now
        touch = data.get("touch")
        to_c = TOUCHES[touch][0] if touch else data.get("temperature_c")
        if to_c is None or abs(to_c - round(now.temperature_c)) < STILL_K:
            to_c = now.temperature_c
        parts = merge((*now.parts, *desk.proposal.additions)) if data.get("with_rest") else now.parts
        state = replace(now, temperature_c=to_c, parts=parts)
        if data.get("tempered"):
            warm_c = min(to_c, working_temperature_c("tempered"))
            state = replace(state, temperature_c=warm_c, context=replace(now.context, white="tempered"))
        return state


def _shown(desk: Desk, form: WhatIfForm) -> Context:
    """Every technique against the bowl as the (valid) form has it."""
    state = form.state(desk)
    answers = uses(state)
    right = [use for use in answers if use.way == "right"]
    return {
        "bowl": desk.bowl,
        "now": state,
        "after": state,
        "uses": answers,
        "says": uses_says(state.word, [use.window.title for use in right], supposed=state != desk.now),
        "right": right,
        "thinner": desk.cupboard.thinner,
        "number": state.stands_at(),
        "plain": True,
        "ribbon": _ribbon(desk, state),
        "supposed": state != desk.now,
        "result": {"number": state.stands_at(), "word": state.word, "right": [use.window.technique for use in right]},
    }


@kitchen_required
def uses_page(request: KitchenRequest, pk: int) -> HttpResponse:
    """Every technique against the bowl as it stands."""
    desk = desk_of(request, pk)
    if not desk.can_be_used:
        messages.error(request, "There is nothing melted in this bowl to use.")
        return redirect("bowls:bowl", pk=pk)
    form = WhatIfForm(request.POST or None, desk=desk)
    shown = form if form.is_bound and form.is_valid() else WhatIfForm({}, desk=desk)
    shown.is_valid()
    context = {**_shown(desk, shown), "form": form, "others": _others(desk), "marbles": MARBLES_WITHIN}
    return render(request, "bowls/uses.html", context)


class UsesLive(LiveView):
    """The same while something is supposed."""

    part_templates = {
        "answer": "bowls/parts/uses_answer.html",
        "list": "bowls/parts/uses_list.html",
        "ribbon": "bowls/parts/ribbon.html",
    }

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> WhatIfForm:
        self.desk = desk_of(request, kwargs["pk"])
        return WhatIfForm(fields, desk=self.desk)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        if not self.desk.can_be_used:
            raise EmptyBowl("There is nothing melted in this bowl to use.")
        return _shown(self.desk, form)
