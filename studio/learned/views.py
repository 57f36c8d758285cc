"""What we learned: a line and a picture for each thing, its records one by one, and what a maker says to it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import UTC, datetime

from django.contrib import messages
from django.db import transaction
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from coating.colour.fitting import with_strength
from coating.colour.mixing import Part, mix
from coating.learning.fit import Odd
from coating.learning.names import FLOW, LOSS, STRENGTH
from coating.learning.next_test import what_to_test
from coating.learning.slips import slip_of
from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl
from studio.common import clock
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.cupboard.actions import cupboard_changed
from studio.cupboard.stock import Stock
from studio.learned.figures import Beside, ChartBar, bars, picture_of
from studio.learned.fitted import Learnt, Taught, learnt
from studio.learned.models import Said
from studio.learned.records import Noted
from studio.learned.records.noted import DAY_S
from studio.learned.says import (
    DROPS,
    KINDS,
    drift_says,
    expected_says,
    head_says,
    next_says,
    so_says,
    taught_says,
    value_says,
)
from studio.learned.worth import evenings, first_looks
from studio.pieces.known import known_to, leave_as_it_is, work_out_anew
from studio.pieces.models import Job

BASE_G = 200.0
JUST_S = 0.001  # before the first of the bowls since then
WIDE, ENDS = 460.0, math.log(2.5)  # of the line, and as far as it goes either way of the label, of ln
DONE = {
    Said.LABEL: "What was assumed is used from now on: {title}.",
    Said.USE: "Your own records are used from now on: {title}.",
    Said.FORGET: "Forgotten, and it begins anew: {title}.",
    Said.NEW_BOTTLE: "A new bottle begins at its label: {title}.",
    Said.SAME_BATCH: "Then what was known holds for it too: {title}.",
    Said.SAME_BOTTLE: "Then all of its records count together: {title}.",
}
RECORD_DONE = {
    Said.OUT: "It counts for nothing now.",
    Said.IN: "It counts again.",
    Said.RIGHT: "It counts as right, however far from the others.",
}
OF_A_BOTTLE = (Said.NEW_BOTTLE, Said.SAME_BATCH)
ANEW = "Worked out anew, with all that is known now."
MEANT = "meant"
Lab = tuple[float, float, float]


@dataclass(frozen=True)
class Dot:
    """What one record alone would have a thing be: where it stands on the line, whether it looked odd, and what the
    others would have it be."""

    x: float
    noted: Noted
    times: float | None
    odd: bool
    expected: str
    meant: float | None = None

    @property
    def status(self) -> str:
        """How it stands to the others."""
        if self.noted.record.struck:
            return "left out"
        if not self.odd:
            return ""
        beside = f" ({self.expected})" if self.expected else ""
        counts = "" if self.noted.record.sure else ", and counts for nothing"
        return f"does not fit the others{beside}{counts}"

    @property
    def choices(self) -> list[tuple[str, str]]:
        """What can be said to it: the word that is sent, and its button."""
        if self.noted.record.struck:
            return [(Said.IN, "Count it again")]
        meant = [] if self.meant is None else [(MEANT, f"It was {value_says(self.noted.record.kind, self.meant)}")]
        right = [(Said.RIGHT, "It is right")] if self.odd and not self.noted.record.sure else []
        return [*meant, *right, (Said.OUT, "Leave it out")]


@dataclass(frozen=True)
class TaughtLine:
    """A thing on the page: its sentences, the line from half to double with band and dots, and swatches or a
    picture."""

    one: Taught
    says: str
    so: str
    drift: str
    ends: tuple[str, str]
    low_x: float
    wide: float
    at_x: float
    dots: list[Dot]
    labs: tuple[Lab, Lab] | None
    picture: Beside | None

    @property
    def choices(self) -> list[tuple[str, str]]:
        """What can be said to it first: the word that is sent, and its button."""
        if self.one.asks:
            return [(Said.USE, "Yes, go by my records"), (Said.LABEL, "No, as assumed")]
        if self.one.before:
            return [(Said.SAME_BATCH, "It is the same batch")]
        if not self.one.said or self.one.too_far or self.one.measured:
            return []
        if self.one.by_label:
            return [(Said.USE, "Use what was learned")]
        of_label = self.one.kind in ("strength", "flow")
        return [(Said.LABEL, f"Use {'the label' if of_label else 'what was assumed'} instead")]


def _x(factor: float) -> float:
    return WIDE / 2 * (1 + max(-1.0, min(1.0, math.log(factor) / ENDS)))


def _labs(one: Taught, stock: Stock) -> tuple[Lab, Lab] | None:
    """Six drops of a colour by its label, and six of these; None of what is no colour."""
    code = one.name.partition(".")[2]
    core = next((core for core in stock.cores.values() if core.name == code), None)
    if core is None or not core.is_colourant:
        return None
    bases = [c for c in stock.cores.values() if c.is_base and c.sort == "white"]
    white, dose_g = [Part(b, BASE_G) for b in bases[:1]], DROPS * core.unit_g
    label, own = (
        mix([*white, Part(with_strength(core, {code: times}), dose_g)]).lab() for times in (1.0, one.product.factor)
    )
    return label, own


def _shown(one: Taught, odd: dict[str, Odd], stock: Stock, kitchen: Kitchen) -> TaughtLine:
    dots = []
    for n in one.noted:
        times, strange = one.says.get(n.record.id), odd.get(n.record.id)
        expected = expected_says(n.record.kind, strange) if strange else ""
        meant = slip_of(n.record.value, strange.expected[0]) if strange and n.mend else None
        dots.append(Dot(_x(times or 1.0), n, times, n.record.id in one.odd, expected, meant))
    low_x, high_x = _x(one.product.low), _x(one.product.high)
    return TaughtLine(
        one,
        taught_says(one),
        so_says(one),
        drift_says(one),
        KINDS[one.kind].ends,
        low_x,
        high_x - low_x,
        _x(one.product.factor),
        dots,
        _labs(one, stock),
        picture_of(one, kitchen) if one.said else None,
    )


@kitchen_required
def learned(request: KitchenRequest) -> HttpResponse:
    """All that was learned."""
    kitchen, stock = request.kitchen, Stock.of(request.kitchen)
    all_of_it = learnt(kitchen, stock)
    things = sorted(all_of_it.things.values(), key=lambda one: (not one.asks, not one.said, -one.bowls, one.title))
    odd = {o.id: o for o in all_of_it.fitted.odd}
    context = {
        "says": head_says(things, len(all_of_it.noted)),
        "shown": [_shown(one, odd, stock, kitchen) for one in things],
        "next_says": _next(all_of_it, stock),
        "wide": WIDE,
        "label_x": WIDE / 2,
        "charts": [chart for chart in _charts(all_of_it, kitchen) if chart[2]],
    }
    return render(request, "learned/learned.html", context)


def _charts(all_of_it: Learnt, kitchen: Kitchen) -> list[tuple[str, str, list[ChartBar]]]:
    """What it is worth: a title, what its bars are, and these."""
    looks = bars([(look.by_records, look.by_label, look.told) for look in first_looks(all_of_it.noted)])
    left = bars([(day.left_g, day.melted_g, day.told) for day in evenings(kitchen)])
    missed = "Pale: what the labels alone would have missed. Dark: what was missed with what was known by then."
    over = "Pale: what was melted on a day. Dark: what was left of it."
    return [("How far off first looks were", missed, looks), ("What was left over", over, left)]


def _next(all_of_it: Learnt, stock: Stock) -> str:
    """What to test next, of the colours that are there or were used."""
    spoken = {p.ingredient.name for n in all_of_it.noted for p in n.record.parts}
    cores = {f"strength.{r.code}": (r.name, stock.cores[r.pk]) for r in stock.rows if r.ticked or r.code in spoken}
    colours = {name: core for name, (_, core) in cores.items() if core.is_colourant}
    test = what_to_test(all_of_it.fitted, list(colours), {name: c.counted_in_drops for name, c in colours.items()})
    return next_says(test, {name: title for name, (title, _) in cores.items()})


@kitchen_required
@require_POST
@sent_once
@transaction.atomic
def say(request: KitchenRequest, name: str) -> HttpResponse:
    """A word on one thing: its label, what was learned, forget it, a new bottle or the same one."""
    word = request.POST.get("word", "")
    one = learnt(request.kitchen, Stock.of(request.kitchen)).things.get(name)
    if one is None or word not in DONE or (word in OF_A_BOTTLE and one.kind != "strength"):
        raise Http404("nothing of that name, or no such word")
    at = clock.now()
    if request.POST.get("since") and one.drift is not None:
        at = datetime.fromtimestamp(one.drift.since * DAY_S - JUST_S, UTC)
    Said.objects.create(kitchen=request.kitchen, name=name, word=word, at=at)
    cupboard_changed(request.kitchen)
    messages.success(request, DONE[word].format(title=one.title[:1].lower() + one.title[1:]))
    return redirect("learned:all")


@kitchen_required
@require_POST
@sent_once
@transaction.atomic
def anew(request: KitchenRequest, pk: int) -> HttpResponse:
    """A job that is begun is worked out with what is known now, with its bowls under way; or it stays as it is."""
    job = Job.objects.get_for(request.kitchen, pk=pk)
    if request.POST.get("word") == "leave":
        leave_as_it_is(job, request.kitchen)
        messages.success(request, "It stays as it was worked out.")
        return redirect("pieces:job", pk=pk)
    work_out_anew(job, request.kitchen)
    Bowl.objects.for_kitchen(request.kitchen).in_use().filter(job=job).update(taught=_taught(job, request.kitchen))
    cupboard_changed(request.kitchen)
    messages.success(request, ANEW)
    return redirect("pieces:job", pk=pk)


@kitchen_required
@require_POST
@sent_once
@transaction.atomic
def anew_bowl(request: KitchenRequest, pk: int) -> HttpResponse:
    """A bowl under way is worked out with what is known now; what its job melts stays."""
    bowl = Bowl.objects.in_use().get_for(request.kitchen, pk=pk)
    Bowl.objects.filter(pk=bowl.pk).update(taught=_taught(None, request.kitchen))
    messages.success(request, ANEW)
    return redirect("bowls:bowl", pk=pk)


def _taught(job: Job | None, kitchen: Kitchen) -> dict[str, float]:
    """What a bowl keeps of what is known now."""
    known = known_to(job, kitchen).only(STRENGTH, FLOW, LOSS)
    return {name: round(factor.value, 4) for name, factor in known.of.items()}


@kitchen_required
@require_POST
@sent_once
@transaction.atomic
def on_record(request: KitchenRequest, key: str) -> HttpResponse:
    """A record counts for nothing, counts again, or was looked at once more and is right."""
    all_of_it, word = learnt(request.kitchen, Stock.of(request.kitchen)), request.POST.get("word", "")
    one = next((n for n in all_of_it.noted if n.key == key), None)
    if one is None or word not in (*RECORD_DONE, MEANT):
        raise Http404("no such record, or no such word")
    if word == MEANT:
        odd = next((o for o in all_of_it.fitted.odd if o.id == one.record.id), None)
        meant = slip_of(one.record.value, odd.expected[0]) if odd else None
        if meant is None or one.mend is None:
            raise Http404("nothing else was meant")
        one.mend(meant)
        messages.success(request, "Mended: it counts as what you meant.")
        return redirect("learned:all")
    Said.objects.create(kitchen=request.kitchen, name=f"record.{key}", word=word, at=clock.now())
    cupboard_changed(request.kitchen)
    messages.success(request, RECORD_DONE[word])
    return redirect("learned:all")
