"""What we learned: a line and a picture for each colour, its records one by one, and what a maker says to it."""

from __future__ import annotations

import math
from dataclasses import dataclass

from django.contrib import messages
from django.db import transaction
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from coating.colour.fitting import with_strength
from coating.colour.mixing import Part, mix
from coating.learning.next_test import what_to_test
from studio.bowls.models import BowlEvent
from studio.common import clock
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.cupboard.actions import cupboard_changed
from studio.cupboard.stock import Stock
from studio.learned.fitted import TaughtColour, learnt
from studio.learned.models import Said
from studio.learned.records import Noted
from studio.learned.says import DROPS, head_says, next_says, so_says, strength_says

BASE_G = 200.0
WIDE, ENDS = 460.0, math.log(2.5)  # of the line, and as far as it goes either way of the label, of ln
DONE = {
    Said.LABEL: "Recipes use the label of your {name} from now on.",
    Said.USE: "Recipes go by what your bowls said of your {name}.",
    Said.FORGET: "What was learned of your {name} is forgotten.",
    Said.NEW_BOTTLE: "Your new {name} begins at its label.",
}
Lab = tuple[float, float, float]


@dataclass(frozen=True)
class Dot:
    """What one record alone would have a colour be: where it stands on the line, and whether it looked odd."""

    x: float
    noted: Noted
    times: float | None
    odd: bool


@dataclass(frozen=True)
class TaughtLine:
    """A colour on the page: its sentences, the line from half to double with band and dots, and both swatches."""

    one: TaughtColour
    says: str
    so: str
    low_x: float
    wide: float
    at_x: float
    dots: list[Dot]
    label_lab: Lab
    own_lab: Lab


def _x(factor: float) -> float:
    return WIDE / 2 * (1 + max(-1.0, min(1.0, math.log(factor) / ENDS)))


def _shown(one: TaughtColour, stock: Stock) -> TaughtLine:
    core = next(core for core in stock.cores.values() if core.name == one.code)
    bases = [c for c in stock.cores.values() if c.is_base and c.sort == "white"]
    dose_g = DROPS * core.unit_g
    labs = [
        mix([*(Part(b, BASE_G) for b in bases[:1]), Part(with_strength(core, {one.code: times}), dose_g)]).lab()
        for times in (1.0, one.product.factor)
    ]
    dots = [
        Dot(
            _x(one.says.get(n.record.id, 1.0)),
            n,
            one.says.get(n.record.id),
            n.record.id in one.odd,
        )
        for n in one.noted
    ]
    low_x, high_x = _x(one.product.low), _x(one.product.high)
    return TaughtLine(
        one, strength_says(one), so_says(one), low_x, high_x - low_x, _x(one.product.factor), dots, labs[0], labs[1]
    )


@kitchen_required
def learned(request: KitchenRequest) -> HttpResponse:
    """All that was learned."""
    stock = Stock.of(request.kitchen)
    all_of_it = learnt(request.kitchen, stock)
    strengths = sorted(all_of_it.strengths.values(), key=lambda one: (not one.said, -one.bowls, one.name))
    spoken = {code for n in all_of_it.noted for code in (p.ingredient.name for p in n.record.parts)}
    cores = {f"strength.{r.code}": (r.name, stock.cores[r.pk]) for r in stock.rows if r.ticked or r.code in spoken}
    colours = {name: core for name, (_, core) in cores.items() if core.is_colourant}
    test = what_to_test(all_of_it.fitted, list(colours), {name: c.counted_in_drops for name, c in colours.items()})
    context = {
        "says": head_says(strengths, len(all_of_it.noted)),
        "shown": [_shown(one, stock) for one in strengths],
        "next_says": next_says(test, {name: title for name, (title, _) in cores.items()}),
        "wide": WIDE,
        "label_x": WIDE / 2,
    }
    return render(request, "learned/learned.html", context)


@kitchen_required
@require_POST
@sent_once
@transaction.atomic
def say(request: KitchenRequest, code: str) -> HttpResponse:
    """A word on one colour: its label, what was learned, forget it, or a new bottle."""
    word, stock = request.POST.get("word", ""), Stock.of(request.kitchen)
    row = next((r for r in stock.rows if r.code == code and stock.cores[r.pk].is_colourant), None)
    if row is None or word not in DONE:
        raise Http404("no such colour, or no such word")
    Said.objects.create(kitchen=request.kitchen, name=f"strength.{code}", word=word, at=clock.now())
    cupboard_changed(request.kitchen)
    messages.success(request, DONE[word].format(name=row.name[:1].lower() + row.name[1:]))
    return redirect("learned:all")


@kitchen_required
@require_POST
@sent_once
@transaction.atomic
def leave_out(request: KitchenRequest, pk: int) -> HttpResponse:
    """A record counts for nothing, or counts again."""
    event = BowlEvent.objects.filter(kind="read").get_for(request.kitchen, pk=pk)
    word = Said.IN if request.POST.get("word") == Said.IN else Said.OUT
    Said.objects.create(kitchen=request.kitchen, name=f"record.{event.pk}", word=word, at=clock.now())
    cupboard_changed(request.kitchen)
    messages.success(request, "It counts again." if word == Said.IN else "It counts for nothing now.")
    return redirect("learned:all")
