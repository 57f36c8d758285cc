"""Tests at home: a minute, one number, and the bowl is worked out from it."""

from __future__ import annotations

import hashlib
import uuid
from typing import Any

from django import forms
from django.contrib import messages
from django.core.exceptions import ValidationError
from django.http import HttpResponse
from django.shortcuts import redirect, render

from coating.errors import CoatingError
from coating.flow.casson1959 import Flow
from coating.flow.home_tests import measured, spread
from coating.flow.home_tests.bag_drain import FULL_G, LEFT_G
from coating.flow.home_tests.reading import Reading, read_card, read_drain, read_drip, read_spread
from coating.limits import BOUNDS
from studio.bowls.actions import BowlChanged, Line, append, follow_new_values
from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl
from studio.bowls.sends import SendForm
from studio.bowls.views import CHANGED, desk_of
from studio.common.forms import LengthField, MassField, NumberField
from studio.common.live import LiveView
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.cupboard.actions import change_ingredient
from studio.cupboard.models import Ingredient
from studio.pieces.forms import WALLS

NOTED_TOGETHER = "Noted: spread and bag together say both how it holds and how it runs."
NOTED = "Noted: everything about this bowl is worked out from your test now."
TABLESPOON_ML, SPREAD_WAIT_S, CARD_WAIT_S = 15.0, 60.0, 30.0


class TestForm(SendForm):
    """Abstract: one home test. `reading` is set once the form is valid."""

    title, asks, wait_s, wait_says = "", "", 0.0, ""
    reading: Reading | None = None

    def __init__(self, data: Any = None, *, desk: Desk, **kwargs: Any) -> None:
        super().__init__(data, **kwargs)
        self.flow = _flow(desk)
        self.temperature_c = warmth_c(desk)
        del self.fields["used_g"]
        self.fields["keep"] = forms.BooleanField(required=False)
        for name in ("seq", "key"):
            self.fields[name].required = False  # a live question sends nothing

    def read(self, data: dict[str, Any], flow: Flow) -> Reading:
        raise NotImplementedError

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        if not self.errors and self.flow is not None:
            try:
                self.reading = self.read(data, self.flow)
            except CoatingError as refusal:
                raise ValidationError(refusal.message, code=refusal.code) from refusal
        return data


class SpreadForm(TestForm):
    title = "Spread"
    asks = "Pour a tablespoon on a warm plate, wait a minute, and measure how wide it is."
    steps = (
        "Warm a flat plate to the touch, and stand it level.",
        "Level a tablespoon (15 ml), and pour it out in one go from a finger's height.",
        "Start the minute. Do not nudge it.",
        "Measure across, twice, and take the middle.",
    )
    wait_s, wait_says = SPREAD_WAIT_S, "measure the spread"
    diameter_mm = LengthField("spread_mm", label="How wide it is")
    volume_ml = NumberField("spread_ml", label="Poured, ml", initial=TABLESPOON_ML)

    def read(self, data: dict[str, Any], flow: Flow) -> Reading:
        found = spread(volume_ml=data["volume_ml"], diameter_mm=data["diameter_mm"], wait_s=SPREAD_WAIT_S)
        return read_spread(found, flow)


class BagForm(TestForm):
    title = "Bag"
    asks = "Hang up a bag with a small hole, and time how long it takes to run out."
    steps = (
        "Fill a bag with as much as you weigh in below, and fold it shut.",
        "Hang it over the bowl on a scale and cut the hole, or open the tip.",
        "Start a stopwatch at once; stop it when the scale shows what is left.",
        "The hole decides most: measure it, or use a tip whose width you know.",
    )
    seconds = NumberField("duration_s", label="Seconds it took", low=1)
    hole_mm = LengthField("hole_mm", label="The hole is", initial=4.0)
    from_g = MassField("mass_g", label="From", initial=FULL_G)
    to_g = MassField("mass_g", label="to", initial=LEFT_G)

    def read(self, data: dict[str, Any], flow: Flow) -> Reading:
        if data["from_g"] <= data["to_g"] or data["to_g"] <= 0:
            raise ValidationError({"to_g": "It must end with less than it began with, and with something left."})
        given = {name: data[name] for name in ("hole_mm", "from_g", "to_g")}
        return read_drain(data["seconds"], flow, **given)


class CardForm(TestForm):
    title = "Dipped card"
    asks = "Dip a stiff card, hold it upright for half a minute, and weigh what stays on."
    steps = (
        "Weigh a stiff card, and mark how deep you will dip it.",
        "Dip it to the mark, lift it straight out, and start the half minute.",
        "Hold it upright over the bowl; touch off the last drop at the end.",
        "Weigh it again: what it gained is the number.",
    )
    wait_s, wait_says = CARD_WAIT_S, "weigh the card"
    mass_g = MassField("mass_g", label="It gained")
    width_mm = LengthField("card_mm", label="The card is wide", initial=60.0)
    dipped_mm = LengthField("card_mm", label="and was dipped", initial=80.0)

    def read(self, data: dict[str, Any], flow: Flow) -> Reading:
        given = {name: data[name] for name in ("width_mm", "dipped_mm")}
        return read_card(data["mass_g"], flow, wait_s=CARD_WAIT_S, **given)


class DripForm(TestForm):
    title = "Drip"
    asks = "Squeeze one drip at the back of the cake, and measure how far it runs."
    steps = (
        "Fill a small bag or a bottle, and know how much one squeeze gives: count what a spoon takes.",
        "Squeeze one drip over the rim at the back, in a second or two.",
        "Wait until it stands: half a minute at most.",
        "Measure from the rim to its end.",
    )
    wait_s, wait_says = 30.0, "measure the drip"
    length_mm = LengthField("drip_mm", label="It ran")
    volume_ml = NumberField("drip_ml", label="Squeezed, ml", initial=0.5)
    width_mm = LengthField("drip_width_mm", label="It is wide", initial=9.0)
    wall = forms.ChoiceField(label="The cake is", choices=WALLS, initial="chilled", widget=forms.RadioSelect)

    def read(self, data: dict[str, Any], flow: Flow) -> Reading:
        given = {name: data[name] for name in ("volume_ml", "width_mm", "wall")}
        return read_drip(data["length_mm"], flow, temperature_c=self.temperature_c, **given)


FORMS: dict[str, type[TestForm]] = {"spread": SpreadForm, "bag": BagForm, "card": CardForm, "drip": DripForm}


# What of a test is kept so that it can be read together with its partner.
RAW = {"spread": ("volume_ml", "diameter_mm"), "bag": ("seconds", "hole_mm", "from_g", "to_g")}


def warmth_c(desk: Desk) -> float:
    """How warm the bowl is, degC, within what a drip is reckoned for."""
    bound = BOUNDS["drip_c"]
    return min(bound.high, max(bound.low, desk.now.temperature_c))


def _flow(desk: Desk) -> Flow | None:
    return None if desk.now.empty or desk.now.is_set else desk.now.flow()


def _line(by: str, form: TestForm, desk: Desk) -> Line:
    """The event of a test; with its partner, a spread with a bag, the two are read together."""
    assert form.reading is not None
    raw = {name: form.cleaned_data[name] for name in RAW.get(by, ())}
    told: dict[str, Any] = {"value": round(form.reading.number, 2), "off": round(form.reading.off, 3)}
    partner = _partner(by, desk)
    if partner is not None:
        told |= _together({**raw, **partner})
    return "tested", {"test": "stands", "how": by, "raw": raw, **told}


def _partner(by: str, desk: Desk) -> dict[str, Any] | None:
    """What the other test of the pair measured, if nothing was added to the bowl since."""
    for event in sorted(desk.bowl.events.all(), key=lambda e: -e.seq):
        if event.struck_by_id is not None or event.kind == "struck":
            continue
        if event.kind == "added":
            return None
        if event.payload.get("how") in RAW and event.payload.get("how") != by and by in RAW:
            return dict(event.payload.get("raw", {}))
    return None


def _together(raw: dict[str, Any]) -> dict[str, Any]:
    """Both values of the flow; nothing more than the one test says when the two cannot both be right."""
    found = spread(volume_ml=raw["volume_ml"], diameter_mm=raw["diameter_mm"], wait_s=SPREAD_WAIT_S)
    bag = {name: raw[name] for name in ("hole_mm", "from_g", "to_g")}
    try:
        both = measured(found.yield_stress_pa, raw["seconds"], **bag)
    except CoatingError:
        return {}
    ratio = both.flow.yield_stress_pa / both.flow.viscosity_pa_s
    return {"value": round(both.number, 2), "off": both.number_off, "ratio_per_s": round(ratio, 3), "together": True}


@kitchen_required
def tests(request: KitchenRequest, pk: int) -> HttpResponse:
    """A test, its guide, its timer and its one number; a post notes what it says."""
    desk = desk_of(request, pk)
    asked = request.POST.get("by") or request.GET.get("by") or ""
    by = asked if asked in FORMS else "spread"
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
    others = Bowl.objects.for_kitchen(desk.kitchen).in_use().holding(row.pk).exclude(pk=desk.bowl.pk)
    follow_new_values(row, fresh, list(others))


def _page(request: KitchenRequest, desk: Desk, form: TestForm, by: str, status: int = 200) -> HttpResponse:
    context = {
        "bowl": desk.bowl, "form": form, "by": by, "reading": form.reading,
        "base": _one_base(desk), "kinds": [(word, kind.title) for word, kind in FORMS.items()],
        "send_key": uuid.uuid4(), "window": desk.window, "reckoned": desk.now.stands_at(),
    }  # fmt: skip
    return render(request, "bowls/tests.html", context, status=status)


class TestLive(LiveView):
    """What the test says while it is typed."""

    part_templates = {"answer": "bowls/parts/test_answer.html"}

    def make_form(self, request: KitchenRequest, fields: dict[str, Any], **kwargs: Any) -> TestForm:
        desk = desk_of(request, kwargs["pk"])
        return FORMS.get(fields.get("by", ""), SpreadForm)(fields, desk=desk)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> dict[str, Any]:
        found = form.reading
        result = {"number": found.number, "low": found.low, "high": found.high, "word": found.word} if found else {}
        return {"form": form, "reading": found, "result": result}
