"""Led through melting: a burst, a stir, a look, and the rest worked out anew."""

from __future__ import annotations

import uuid
from typing import Any

from django import forms
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from coating.heat.schools import SCHOOLS
from coating.plan.melting_steps import MeltingStep, bag_burst_s, melting_step
from studio.accounts.models import Kitchen
from studio.bowls.actions import BowlChanged, Line, append
from studio.bowls.adapters import Desk
from studio.bowls.forms import StepForm
from studio.bowls.melting_says import burst_rows, looks_of, melt_hints, melt_says, put_in_says
from studio.bowls.sends import SendForm
from studio.bowls.views import CHANGED, desk_of, filled, page_changed, page_of_bowl
from studio.common.forms import TemperatureField
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.types import Context, Typed

BAGS_G = (50.0, 100.0, 150.0)
LOOKS = {"hard": 0.85, "lumpy": 0.4, "smooth": 0.0}  # share of lumps that a look stands for [assumed]


class MeltForm(SendForm):
    """What was done or seen: a burst, how it looks, or a reading."""

    seen = forms.ChoiceField(choices=[(w, w) for w in ("burst", *LOOKS, "read")])
    seconds = forms.FloatField(required=False, min_value=1, max_value=1800)
    by = forms.ChoiceField(choices=Kitchen.MELTING, required=False)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["temperature_c"] = TemperatureField("temperature_c", label="The thermometer reads", required=False)

    def clean(self) -> Typed:
        data = super().clean() or {}
        if data.get("seen") == "read" and data.get("temperature_c") is None and "temperature_c" not in self.errors:
            self.add_error("temperature_c", "Write what the thermometer reads.")
        return data

    def lines(self, desk: Desk) -> list[Line]:
        """Events of what was done or seen."""
        data = self.cleaned_data
        step = step_of(desk, data.get("by", ""))
        match data["seen"]:
            case "burst" if step.school.heat == "hob":
                return [("warmed", {"to_c": step.target_c, "typed": "over warm water"}), ("stirred", {})]
            case "burst":
                burst = {"seconds": data.get("seconds") or 0.0, "power_w": desk.kitchen.oven_w}
                return [("warmed", {**burst, "power_fraction": step.school.power_fraction}), ("stirred", {})]
            case "read":
                kind = "warmed" if data["temperature_c"] >= desk.now.temperature_c else "cooled"
                return [(kind, {"to_c": round(data["temperature_c"], 2), "typed": "read", "read": True})]
        return [("tested", {"test": "lumps", "value": LOOKS[data["seen"]], "how": data["seen"]})]


def step_of(desk: Desk, by: str = "") -> MeltingStep:
    """The next step for this bowl in this kitchen, or by another way of melting this time."""
    kitchen = desk.kitchen
    school = by if by in SCHOOLS else kitchen.melting_school
    return melting_step(desk.now, school=school, power_w=kitchen.oven_w)


def _bags(desk: Desk) -> list[tuple[float, float]]:
    """How long a piping bag of this bowl is warmed when it stiffens: g and s; none without a microwave."""
    if SCHOOLS[desk.kitchen.melting_school].heat == "hob":
        return []
    kind = {"white": desk.bowl.white, "chocolate": desk.now.chocolate}
    bursts = [(g, bag_burst_s(g, power_w=desk.kitchen.oven_w, **kind)) for g in BAGS_G]
    return [(g, seconds) for g, seconds in bursts if seconds]


def _page(request: KitchenRequest, desk: Desk, form: MeltForm | None = None, status: int = 200) -> HttpResponse:
    now, by = desk.now, request.POST.get("by") or request.GET.get("by") or ""
    step, looked, to_put_in = step_of(desk, by), _looked(desk), _to_put_in(request, desk)
    white = desk.bowl.white
    looks = looks_of(step, looked=looked)
    context = {
        "bowl": desk.bowl,
        "now": now,
        "step": step,
        "schools": SCHOOLS.values(),
        "bags": _bags(desk),
        "form": form or MeltForm(),
        "send_key": uuid.uuid4(),
        "target_c": step.target_c,
        "looked": looked,
        "put_in": to_put_in,
        "says": put_in_says(to_put_in["bases"]) if to_put_in else melt_says(step, now, white, looked=looked),
        "looks": looks,
        "to_bowl": not any(look.first for look in looks),
        "bursts": burst_rows(step),
        "hints": melt_hints(step, now, white),
        "lab": None if now.empty else now.mixture().lab(),
    }
    return render(request, "bowls/melt.html", context, status=status)


@kitchen_required
def melt(request: KitchenRequest, pk: int) -> HttpResponse:
    """How long to heat it now, and what to look at; a post says what was done or seen."""
    desk = desk_of(request, pk)
    if desk.bowl.finished_at:
        return redirect("bowls:bowl", pk=pk)
    if request.method != "POST":
        return _page(request, desk)
    form = MeltForm(request.POST)
    if not form.is_valid():
        return _page(request, desk, form, 422)
    data = form.cleaned_data
    sent = f"{data['seen']} {data.get('seconds') or ''} {data.get('temperature_c') or ''}"
    try:
        append(desk.bowl, form.lines(desk), expected_seq=data["seq"], key=data["key"], sent=sent)
    except BowlChanged:
        form.add_error(None, CHANGED)
        return _page(request, desk, form, 409)
    again = f"?by={data['by']}" if data.get("by") else ""
    return redirect(reverse("bowls:melt", args=[pk]) + again)


def _looked(desk: Desk) -> bool:
    """Whether the maker has looked at it since the last burst."""
    last = max((e for e in desk.events if e.kind in ("warmed", "tested", "added")), key=lambda e: e.seq, default=None)
    return last is None or last.kind != "warmed" or last.seconds is None


def _to_put_in(request: KitchenRequest, desk: Desk) -> Context | None:
    """What goes into an empty bowl before it is melted, as the bowl's page had it; nothing is written yet."""
    if not desk.now.empty:
        return None
    fields = {name: value for name, value in request.GET.items() if name.startswith("add-")}
    untouched = filled(StepForm(desk=desk))
    form = StepForm({**untouched, **fields}, desk=desk)
    if not form.is_valid():
        form = StepForm(untouched, desk=desk)
        form.is_valid()
    bases = [(row, part) for row, part, _ in form.additions() if row.kind == "base"]
    return {"bases": bases, "fields": [(f"add-{row.pk}", form[f"add-{row.pk}"].value()) for row, _ in bases]}


@kitchen_required
@require_POST
def put_in(request: KitchenRequest, pk: int) -> HttpResponse:
    """The white is in, unmelted; then the bursts."""
    desk = desk_of(request, pk)
    form = StepForm(request.POST, desk=desk)
    if not form.is_valid():
        return page_of_bowl(request, desk, form, 422)
    lines = [line for line in form.lines() if _is_base(line, desk)]
    if not lines:
        form.add_error(None, "Say how much white goes in first.")
        return page_of_bowl(request, desk, form, 422)
    send = {"key": form.cleaned_data["key"], "sent": form.sent()}
    try:
        append(desk.bowl, lines, expected_seq=form.cleaned_data["seq"], **send)
    except BowlChanged:
        return page_changed(request, desk, form)
    return redirect("bowls:melt", pk=pk)


def _is_base(line: Line, desk: Desk) -> bool:
    kind, payload = line
    return kind == "added" and desk.stock.by_id[payload["ingredient"]].kind == "base"
