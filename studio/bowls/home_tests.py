"""Tests at home: a minute, one number, and the bowl is worked out from it."""

from __future__ import annotations

import hashlib
import uuid
from typing import Any

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from coating.errors import CoatingError
from coating.flow.home_tests import measured, spread
from studio.accounts.models import Kitchen
from studio.bowls.actions import BowlChanged, Line, append, follow_new_values
from studio.bowls.adapters import Desk
from studio.bowls.answers import how_it_stands
from studio.bowls.home_test_forms import FORMS, SPREAD_WAIT_S, BagTestForm, HoleForm, SpreadTestForm, TestForm
from studio.bowls.views import CHANGED, desk_of
from studio.common.live import LiveView
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.templatetags.kitchen import sized
from studio.common.types import Context, Fields, Json, Typed
from studio.cupboard.actions import change_ingredient
from studio.cupboard.models import Ingredient

NOTED_TOGETHER = "Noted: spread and bag together say both how it holds and how it runs."
NOTED = "Noted: everything about this bowl is worked out from your test now."


# What of a test is kept so that it can be read together with its partner.
RAW = {"spread": ("volume_ml", "diameter_mm"), "bag": ("seconds", "hole_mm", "from_g", "to_g")}


def _line(by: str, form: TestForm, desk: Desk) -> Line:
    """The event of a test; with its partner, a spread with a bag, the two are read together."""
    assert form.reading is not None
    raw = {name: form.cleaned_data[name] for name in RAW.get(by, ())}
    line: Json = {"value": round(form.reading.number, 2), "off": round(form.reading.off, 3)}
    partner = _partner(by, desk)
    if partner is not None:
        line |= _together({**raw, **partner})
    return "tested", {"test": "stands", "how": by, "raw": raw, **line}


def _partner(by: str, desk: Desk) -> Context | None:
    """What the other test of the pair measured, if nothing was added to the bowl since."""
    for event in sorted(desk.rows, key=lambda e: -e.seq):
        if event.struck_by_id is not None or event.kind == "struck":
            continue
        if event.kind == "added":
            return None
        if event.payload.get("how") in RAW and event.payload.get("how") != by and by in RAW:
            return dict(event.payload.get("raw", {}))
    return None


def _together(raw: Json) -> Typed:
    """Both values of the flow; nothing more than the one test says when the two cannot both be right."""
    reading = spread(volume_ml=raw["volume_ml"], diameter_mm=raw["diameter_mm"], wait_s=SPREAD_WAIT_S)
    bag = {name: raw[name] for name in ("hole_mm", "from_g", "to_g")}
    try:
        both = measured(reading.yield_stress_pa, raw["seconds"], **bag)
    except CoatingError:
        return {}
    ratio = both.flow.yield_stress_pa / both.flow.viscosity_pa_s
    return {"value": round(both.number, 2), "off": both.number_off, "ratio_per_s": round(ratio, 3), "together": True}


@kitchen_required
def tests(request: KitchenRequest, pk: int) -> HttpResponse:
    """A test, its guide, its timer and its one number; a post notes what it says."""
    desk = desk_of(request, pk)
    by_what = request.POST.get("by") or request.GET.get("by") or ""
    by = by_what if by_what in FORMS else "spread"
    kind = FORMS[by]
    if not desk.can_be_used:
        messages.error(request, "There is nothing melted in this bowl to test.")
        return redirect("bowls:bowl", pk=pk)
    if request.method != "POST":
        return _page(request, desk, kind(desk=desk), by)
    form = kind(request.POST, desk=desk)
    if not form.is_valid() or form.reading is None or not form.cleaned_data.get("key"):
        return _page(request, desk, form, by, 422)
    seq, key = form.cleaned_data.get("seq") or 0, form.cleaned_data["key"]
    typed = " ".join(str(form.data.get(name, "")).strip() for name in form.fields if name not in ("seq", "key", "keep"))
    sent = hashlib.sha256(f"{by} {typed}".encode()).hexdigest()[:24]
    line = _line(by, form, desk)
    try:
        append(desk.bowl, [line], expected_seq=seq, key=key, sent=sent)
    except BowlChanged:
        messages.error(request, CHANGED)
        return _page(request, desk, form, by, 409)
    said = NOTED_TOGETHER if "together" in line[1] else NOTED
    base = _one_base(desk)
    if form.cleaned_data.get("keep") and base is not None:
        _keep_for(base, desk_of(request, pk), form.reading.off)
        said += f" {base.name} keeps it too, as measured by you."
    messages.success(request, said)
    return redirect("bowls:bowl", pk=pk)


def _one_base(desk: Desk) -> Ingredient | None:
    """The cupboard's row of what the bowl is made of, when that is one thing."""
    names = {p.ingredient.name for p in desk.now.parts if p.ingredient.is_base}
    rows = [r for r in desk.stock.rows if r.code in names]
    return rows[0] if len(rows) == 1 else None


def _keep_for(base: Ingredient, desk: Desk, off: float) -> None:
    """What the test says of the bag: its number at 40 degC, before anything was added."""
    number = desk.now.label_number
    values = {"number": (round(number, 1), round(number * (1 - off), 1), round(number * (1 + off), 1), "measured")}
    row = Ingredient.objects.with_parameters().get(pk=base.pk)
    fresh = change_ingredient(row, expected=row.version, name=row.name, stocked=row.stocked, values=values)
    follow_new_values(row, fresh, but=desk.bowl)


@kitchen_required
@require_POST
def hole(request: KitchenRequest, pk: int) -> HttpResponse:
    """How wide the bag's hole really is: kept for every drain of this kitchen."""
    desk = desk_of(request, pk)
    if not desk.can_be_used:
        messages.error(request, "There is nothing melted in this bowl to test.")
        return redirect("bowls:bowl", pk=pk)
    form = HoleForm(request.POST, desk=desk)
    if not form.is_valid():
        return _page(request, desk, BagTestForm(desk=desk), "bag", 422, hole=form)
    Kitchen.objects.filter(pk=request.kitchen.pk).update(drain_hole_mm=round(form.hole_mm, 2))
    messages.success(
        request, f"Your hole is {sized(round(form.hole_mm, 1))} wide: kept, and half as uncertain from now on."
    )
    return redirect(reverse("bowls:tests", args=[pk]) + "?by=bag")


def _page(
    request: KitchenRequest, desk: Desk, form: TestForm, by: str, status: int = 200, *, hole: HoleForm | None = None
) -> HttpResponse:
    context = {
        "hole": hole or (HoleForm(desk=desk) if by == "bag" else None),
        "bowl": desk.bowl,
        "form": form,
        "by": by,
        "reading": form.reading,
        "base": _one_base(desk),
        "kinds": [(word, kind.title) for word, kind in FORMS.items()],
        "send_key": uuid.uuid4(),
        "window": desk.window,
        "reckoned": desk.now.stands_at(),
        "stands_says": how_it_stands(desk, desk.now),
    }
    return render(request, "bowls/tests.html", context, status=status)


class TestLive(LiveView):
    """What the test says while it is typed."""

    part_templates = {"answer": "bowls/parts/test_answer.html"}

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> TestForm:
        desk = desk_of(request, kwargs["pk"])
        return FORMS.get(fields.get("by", ""), SpreadTestForm)(fields, desk=desk)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        reading = form.reading
        result = (
            {"number": reading.number, "low": reading.low, "high": reading.high, "word": reading.word}
            if reading
            else {}
        )
        return {"form": form, "reading": reading, "result": result}
