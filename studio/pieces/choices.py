"""Other ways to make a job: what is left becomes the next, one colour or several, tinted or ready-coloured, cheaper."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass

from django.http import HttpResponse
from django.shortcuts import render
from django.utils import timezone

from coating.colour.ciede2000 import CLOSE, difference_word
from coating.colour.mixing import Part
from coating.colour.recipe import Recipe
from coating.errors import CoatingError
from coating.flow.trade_number import number_from_flow
from coating.flow.windows import window
from coating.job.bowls import BOWL_LOSS_G
from coating.learning.factors import Factors
from coating.plan.choices import TwoWays, cost_of, is_deep, price_per_g, two_ways, washing_up_min
from coating.plan.flavours import flavours
from coating.plan.leftovers import Turn, WantedBowl, in_turn
from coating.plan.proposal import plain_base, thinners_beside
from coating.plan.which_white import which_white
from coating.simulate.bowl import BowlContext, BowlState
from studio.accounts.models import Kitchen
from studio.common import clock
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.templatetags.kitchen import colour_word, how_much, measured, money
from studio.common.words import listed, lower, stress
from studio.cupboard.adapters import core_extra
from studio.cupboard.stock import Stock
from studio.cupboard.tones import WHITES
from studio.pieces.adapters import ColourNeed, colour_needs
from studio.pieces.empty import empty_room
from studio.pieces.inside import days_of
from studio.pieces.known import known_to
from studio.pieces.models import Job
from studio.pieces.parts import given, with_parts

SHOWN = 6  # colours asked about
MOST_TURNS = 12  # bowls of a white that are put in an order; the others when these are begun


@dataclass(frozen=True)
class Way:
    """A job made in so many colours: bowls, g to melt, what it costs, minutes at the sink."""

    bowls: int
    melt_g: float
    cost: float | None
    washing_min: float


def _open(needs: Sequence[ColourNeed]) -> list[ColourNeed]:
    return [n for n in needs if n.bowl is None]


def turns_of(needs: Sequence[ColourNeed], stock: Stock, kitchen: Kitchen, known: Factors) -> list[Turn]:
    """The bowls that are not begun, each white light to dark, with what is left of one in the next; what is drizzled on
    a coat is melted when that is done, so nothing of it goes into the coat."""
    turns: list[Turn] = []
    for white in dict.fromkeys(n.white for n in _open(needs)):
        cupboard = stock.cupboard(white, kitchen, factors=known)
        there = [n for n in _open(needs) if n.white == white and n.tone.base is None and n.reckoned.parts]
        wanted = [
            WantedBowl(
                n.key,
                n.colour.lab if n.colour else None,
                n.reckoned.parts,
                n.goes_on_g + n.reckoned.lost_g,
                _over(n, there),
            )
            for n in there[:MOST_TURNS]
        ]
        with suppress(CoatingError):
            turns += in_turn(tuple(wanted), cupboard.colourants)
    return turns


def _over(need: ColourNeed, others: Sequence[ColourNeed]) -> frozenset[str]:
    """Bowls that are still wanted for what lies over its own layers."""
    first: dict[int, int] = {}
    for la in need.layers:
        first[la.piece_id] = min(la.order, first.get(la.piece_id, la.order))
    return frozenset(
        n.key for n in others if n is not need and any(la.order > first.get(la.piece_id, la.order) for la in n.layers)
    )


def several_and_one(needs: Sequence[ColourNeed], turns: Sequence[Turn], prices: dict[str, float]) -> tuple[Way, Way]:
    """The job as it is, and all of it in the first colour of each white."""
    costs = [price_per_g(t.recipe.parts, prices) for t in turns]
    known = [c * t.fresh_g for c, t in zip(costs, turns, strict=True) if c is not None]
    cost = sum(known) if len(known) == len(turns) else None
    bags = sum(any(line.bags for line in n.reckoned.lines) for n in needs)
    melt_g = sum(n.melt_g for n in needs)
    several = Way(len(needs), melt_g, cost, washing_up_min(len(needs), bags))
    whites: dict[str, list[ColourNeed]] = {}
    for need in needs:
        whites.setdefault(need.white, []).append(need)
    one_g = sum(_together_g(group) for group in whites.values())
    per_g = (cost or 0.0) / melt_g if melt_g else 0.0
    one_bags = sum(any(line.bags for n in group for line in n.reckoned.lines) for group in whites.values())
    one = Way(len(whites), one_g, None if cost is None else per_g * one_g, washing_up_min(len(whites), one_bags))
    return several, one


def _together_g(group: Sequence[ColourNeed]) -> float:
    """What to melt where all of them are one bowl: they share its depth and what sticks to it."""
    bowls = [n.reckoned for n in group]
    lost_g = sum(b.lost_g for b in bowls) - BOWL_LOSS_G * (len(bowls) - 1)
    return sum(b.made_g for b in bowls) + lost_g + max(b.left_g for b in bowls)


@dataclass(frozen=True)
class Deep:
    """A deep colour made both ways, and what each costs."""

    need: ColourNeed
    ways: TwoWays
    tinted_cost: float | None
    ready_cost: float | None

    @property
    def says(self) -> str:
        """Which is closer, and which we recommend."""
        tinted, ready = self.ways.tinted, self.ways.ready
        by_tint = f"tinted it is {_closely(tinted, self.tinted_cost)}" if tinted else "what there is cannot tint it"
        if ready is None:
            sentence = f"{by_tint}; no coloured coating of its fat is in the cupboard"
        else:
            better = "use the coloured coating" if self.ways.better == "ready" else "tint it"
            sentence = f"{by_tint}; from a coloured coating {_closely(ready, self.ready_cost)}. Recommended: {better}"
        return f"{stress(self.need.name)}: {sentence}."


def _closely(recipe: Recipe, cost: float | None) -> str:
    return difference_word(recipe.de00) + ("" if cost is None else f" for {money(cost)}")


def turn_says(turn: Turn, called: Mapping[str, str]) -> str:
    """What a bowl of the order is made of: what is left of the one before, and what is stirred in."""
    rest = [f"the {how_much(turn.brought_g)} left of {lower(called[turn.after])}"] if turn.after else []
    parts = listed([*rest, *(f"{measured(p)} {colour_word(p.ingredient.title)}" for p in turn.recipe.parts)])
    far = "" if turn.de00 is None or turn.de00 <= CLOSE else f"; {difference_word(turn.de00)}"
    return f"{parts[:1].upper()}{parts[1:]}{far}."


def _deep(
    needs: Sequence[ColourNeed], stock: Stock, kitchen: Kitchen, prices: dict[str, float], known: Factors
) -> list[Deep]:
    deeps = []
    for need in [n for n in _open(needs) if n.colour and is_deep(n.colour.lab)][:SHOWN]:
        assert need.colour is not None
        cupboard = stock.cupboard(need.white, kitchen, factors=known)
        bases = plain_base(cupboard, need.white)
        ways = two_ways(need.colour.lab, bases, cupboard.colourants, need.melt_g)
        both = [price_per_g(r.parts, prices) if r else None for r in (ways.tinted, ways.ready)]
        costs = [None if c is None else c * need.melt_g for c in both]
        deeps.append(Deep(need, ways, *costs))
    return deeps


@dataclass(frozen=True)
class Thinner:
    """A fat that thins all bowls of a white: g of it, what it costs, whether it still sets firm."""

    title: str
    grams: float
    cost: float | None
    verdict: str
    stocked: bool


def _thinners(turns: Sequence[Turn], needs: Sequence[ColourNeed], stock: Stock, kitchen: Kitchen) -> list[Thinner]:
    """For the coating and chocolate bowls together, the cheapest first."""
    by_name = {n.key: n for n in needs}
    rows = {r.code: r for r in stock.rows}
    grams: dict[str, float] = {}
    verdicts: dict[str, str] = {}
    for turn in turns:
        need = by_name[turn.wanted.name]
        tip = window(need.technique)
        context = BowlContext(room_c=kitchen.room_c, white=need.white, window=tip)
        bowl = BowlState(context, 0.0, turn.recipe.parts, 0.0, 0.0, 0.0, None)
        warm_c = bowl.warmth.work_at_c
        if bowl.empty or not bowl.base_g:
            continue
        for thinning in thinners_beside(bowl, tip, temperature_c=warm_c):
            scale = need.melt_g / max(turn.fresh_g, 1.0)
            grams[thinning.thinner] = grams.get(thinning.thinner, 0.0) + thinning.thinner_g * scale
            worse = verdicts.get(thinning.thinner) == "refused" or thinning.verdict == "refused"
            verdicts[thinning.thinner] = "refused" if worse else thinning.verdict
    thinners = []
    for name, g in grams.items():
        row = rows.get(name.replace(" ", "_"))
        cost = cost_of((Part(stock.cores[row.pk], g),), stock.prices) if row else None
        thinners.append(Thinner(row.name if row else name, g, cost, verdicts[name], bool(row and row.stocked)))
    return sorted(thinners, key=lambda t: (t.verdict == "refused", t.cost is None, t.cost or 0.0, t.grams))


@kitchen_required
def choices_page(request: KitchenRequest, pk: int) -> HttpResponse:
    """What else could be done, and what it would cost or save."""
    kitchen = request.kitchen
    job = Job.objects.whole(kitchen, pk)
    if empty := empty_room(request, job, "choices"):
        return empty
    needs, stock = colour_needs(job, kitchen), Stock.of(kitchen)
    prices = dict(stock.prices)
    known = known_to(job, kitchen)
    turns = turns_of(needs, stock, kitchen, known)
    named = {t.wanted.name for t in turns}
    several, one = several_and_one([n for n in _open(needs) if n.key in named], turns, prices)
    saved_g = sum(t.wanted.melt_g for t in turns) - sum(t.fresh_g for t in turns)
    context = {
        "job": job,
        "room": "choices",
        "turns": [(turn, turn_says(turn, {n.key: n.name for n in needs})) for turn in turns],
        "saved_g": max(0.0, saved_g),
        "several": several,
        "one": one,
        "shades": {n.key: n.tone.lab for n in needs},
        "called": {n.key: n.name for n in needs},
        "goes_on": {n.key: n.goes_on_g for n in needs},
        "deep": _deep(needs, stock, kitchen, prices, known),
        "whites": _whites(job, needs, kitchen),
        "thinners": _thinners(turns, needs, stock, kitchen),
        "flavours": _flavours(job),
    }
    return render(request, "pieces/choices.html", context)


def _whites(job: Job, needs: Sequence[ColourNeed], kitchen: Kitchen) -> list[tuple[ColourNeed, str, str]]:
    """Bowls for which we would take another white, with the first reason."""
    _, days = days_of(job)
    left = (job.due_on - timezone.localdate(clock.now())).days if job.due_on else days
    whites = []
    for need in [n for n in _open(needs) if not n.tone.base][:SHOWN]:
        advice = which_white(
            target_lab=need.tone.lab,
            room_c=kitchen.room_c,
            days_left=left,
            has_thermometer=kitchen.has_thermometer,
            number_wanted=number_from_flow(window(need.technique).aim),
        )
        if advice.best != need.white and advice.speaks(advice.best):
            whites.append((need, dict(WHITES)[advice.best], advice.speaks(advice.best)[0]))
    return whites


def _flavours(job: Job) -> list[tuple[str, list[str]]]:
    pairs: list[tuple[str, list[str]]] = []
    for piece in given(job):
        layers = [la for part in with_parts(piece) for la in part.stack]
        said = flavours(layers[0].white if layers else "coating", [core_extra(la.extra) for la in layers if la.extra])
        if said:
            pairs.append((piece.name, said))
    return pairs
