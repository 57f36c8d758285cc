"""The band under the header: the bowls in use, the newest of them when there are many."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass

from django.http import HttpRequest

from coating.figures.band import band_curve
from coating.plan.standing import standing
from coating.units import fahrenheit
from studio.accounts.models import Kitchen
from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl, Timer
from studio.bowls.settled import fetch_events
from studio.common import measures
from studio.common.templatetags.kitchen import minutes
from studio.common.types import Context
from studio.cupboard.stock import Stock


@dataclass(frozen=True)
class BandItem:
    """One bowl on the band; `needs` says what helps when no minutes are left."""

    bowl: Bowl
    lab: tuple[float, float, float] | None
    word: str
    left_s: float | None
    needs: str
    temperature_c: float | None
    curve: str
    empty: bool
    current: bool

    @property
    def says(self) -> str:
        """How it stands, under its name."""
        if self.empty:
            return "not started"
        if self.word in _STANDS:
            return _STANDS[self.word]
        return self.word if self.left_s is None else f"{self.word}, {minutes(self.left_s)} left"


_STANDS = {"set": "set: remelt it to use it", "melting": "melting, with lumps in it"}
# What is said of a bowl with no minutes left, by what helps it.
NEEDS = {
    "": "ready",
    "melt": "melt it",
    "warm": "rewarm it",
    "cool": "let it cool",
    "fat": "thin it",
    "another": "see why",
}
SHOWN = 8  # bowls on the band; a link leads to the rest


def band_item(desk: Desk, *, current: bool = False) -> BandItem:
    """The bowl in the band at the top of every page."""
    state = desk.now
    if state.empty:
        return BandItem(desk.bowl, desk.target_lab, "", None, "", None, "", True, current)
    until = state.usable_until_s()
    curve = band_curve(state)
    fahrenheits = measures.current().temperature == "F"
    shown = [round(fahrenheit(t), 1) for t in curve.temperatures_c] if fahrenheits else curve.temperatures_c
    data = json.dumps({"step": curve.step_s, "t": shown, "w": curve.words}, separators=(",", ":"))
    stands = standing(state, desk.window)
    word = stands.verdict if stands.verdict in ("melting", "set") else state.word
    left = None if until is None else until - state.at_s
    needs = NEEDS[stands.helps]
    lab = state.mixture().lab()
    return BandItem(desk.bowl, lab, word, left, needs, state.temperature_c, data, False, current)


def band(request: HttpRequest) -> Context:
    """Bowls in use, for every page of a maker: a fixed number of queries."""
    kitchen = getattr(request, "kitchen", None)
    if not kitchen:
        return {"band": [], "timers": []}
    match = request.resolver_match
    here = match.kwargs.get("pk") if match and match.app_name == "bowls" else None
    in_use = Bowl.objects.for_kitchen(kitchen).in_use()
    shelf, count = getattr(request, "shelf", (None, 0))  # the page shows the newest bowls already
    if shelf is None:
        bowls = in_use.newest(SHOWN)
        count = len(bowls) if len(bowls) < SHOWN else in_use.count()
        if here and count > SHOWN and here not in {bowl.pk for bowl in bowls}:
            old = in_use.filter(pk=here).newest(1)
            bowls = [*old, *bowls[len(old) :]]
        items = band_items(kitchen, bowls, here=here, stock=getattr(request, "stock", None))
    else:
        items = shelf[-SHOWN:]
    timers = Timer.objects.for_kitchen(kitchen).running().only("says", "rings_at", "about", "bowl__name")
    return {"band": items, "band_all": count, "at_hand": _at_hand(items), "timers": timers}


def _at_hand(items: Sequence[BandItem]) -> BandItem | None:
    """The one that a phone shows: that of the page, else the one that will be too thick first, else the newest."""
    waiting = [item for item in items if item.left_s is not None]
    here = next((item for item in items if item.current), None)
    return here or min(waiting, key=lambda item: item.left_s or 0.0, default=items[-1] if items else None)


def band_items(
    kitchen: Kitchen, bowls: Sequence[Bowl], *, here: int | None = None, stock: Stock | None = None
) -> list[BandItem]:
    """These bowls of a kitchen, fetched with their colours."""
    if not bowls:
        return []
    stock = stock or Stock.of(kitchen)
    desks = [Desk.of(bowl, kitchen, stock=stock) for bowl in bowls]
    fetch_events(desks)
    return [band_item(desk, current=desk.bowl.pk == here) for desk in desks]
