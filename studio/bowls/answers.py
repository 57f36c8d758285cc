"""What the bowl page says: now, after, how far from what is wanted, and the pictures of it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any
from urllib.parse import urlencode

from coating.care import rule_for
from coating.colour.first_look import first_look
from coating.colour.mixing import GEL, WHITE, Part
from coating.colour.reach import TooLittle, too_little_base
from coating.colour.recipe import REACHABLE
from coating.figures.ribbon import RibbonFigure, ribbon_figure
from coating.flow.gel import harmless_share
from coating.flow.ribbon import flow_word
from coating.flow.thinning import Thinning
from coating.flow.trade_number import number_from_flow
from coating.heat.melting import CEILING_C
from coating.heat.melting_curve import MELTS_AT_C, curve_of
from coating.heat.schools import MeltingWay, melting_way
from coating.job.ranges import goes_on_range
from coating.plan.proposal import bases_for, thinners_beside, thinning_for
from coating.plan.standing import spoilt, standing
from coating.simulate.bowl import BowlState
from studio.bowls.adapters import Desk
from studio.bowls.coming import coming
from studio.bowls.deed_says import PutIn, deed_says, warmth_says
from studio.bowls.finishing import planned_count
from studio.bowls.forms import StepForm
from studio.bowls.says import closest_says, comes_says, fat_says, stands_says, whole_says
from studio.bowls.times import times
from studio.common.templatetags.kitchen import UNIT_WORDS, hexed, minutes_to, until
from studio.common.types import Context, Json
from studio.common.words import close_says
from studio.cupboard.adapters import bag_g, price_of
from studio.cupboard.models import Ingredient, Optics, Parameter
from studio.pieces.drips import drips_shown
from studio.pieces.known_says import goes_by_says

SEEN_AS = {"wet": "stiffening", "overheated": "thick", "astray": "wrong_tint"}  # what a trouble shows as


def _colour(desk: Desk, state: BowlState) -> Context | None:
    """Distance to the wanted colour with its range."""
    if desk.target_lab is None or state.empty:
        return None
    de00, low, high = first_look(state.parts, desk.target_lab, known=desk.sure)
    return {"de00": de00, "low": low, "high": high, "says": close_says(de00, high), "reachable": de00 <= REACHABLE}


def _comes(desk: Desk, colour: Context | None, *, adding: bool) -> str:
    if colour is None or desk.bowl.colour is None:
        return ""
    return comes_says(colour["de00"], desk.bowl.colour.name, adding=adding)


def _closest(desk: Desk, colour: Context | None, after: BowlState) -> str:
    if colour is None or colour["reachable"]:
        return ""
    little = too_little(desk, colour)
    return closest_says(after.load or 0.0, whole_says(little, after.base_g) if little else "")


def _left_likely(state: BowlState) -> str:
    """How long it stays usable, from the least that is likely to the most."""
    ends = state.usable_range_s()
    return minutes_to(*((end - state.at_s) / 60 for end in ends)) if ends else ""


def _made_range(desk: Desk) -> tuple[float, float] | None:
    """What likely ends up on the pieces, spares too, g."""
    bowl = desk.reckoned
    if bowl is None or bowl.goes_on_g <= 0:
        return None
    low, high = (end * bowl.made_g / bowl.goes_on_g for end in goes_on_range(bowl.lines, desk.job_goes_by))
    return low, high


def _words(state: BowlState) -> list[str]:
    """The flow words its range covers, thinnest first."""
    flows = [f for f in (state.flow_range()[0], state.flow(), state.flow_range()[1]) if f]
    return list(dict.fromkeys(flow_word(f) for f in flows))


def _ribbon(desk: Desk, now: BowlState, after: BowlState) -> RibbonFigure:
    def hung(state: BowlState) -> Any:
        if state.empty:
            return None
        low, high = state.flow_range()
        return (None if state.is_set else state.flow()), low, high

    return ribbon_figure(
        now=hung(now),
        after=hung(after) if after != now else None,
        now_fill="" if now.empty else hexed(now.mixture().lab()),
        after_fill="" if after.empty else hexed(after.mixture().lab()),
        window=desk.window,
    )


def _priced(desk: Desk, doses: tuple[Thinning, ...]) -> list[tuple[Thinning, float | None, bool]]:
    """Each dose with what it costs, if that is known, and whether it is the cheapest of those that will do."""
    rows = {r.code: r for r in desk.stock.rows}
    rows_of = [(d, rows.get(d.thinner.replace(" ", "_"))) for d in doses]
    priced = [(d, price_of(row, d.thinner_g) if row else None) for d, row in rows_of]
    known = [price for d, price in priced if price is not None and d.verdict != "refused"]
    return [(d, price, len(known) > 1 and price == min(known)) for d, price in priced]


def _result(after: BowlState, colour: Json | None, verdict: str) -> Json:
    return {
        "mass_g": after.mass_g,
        "temperature_c": None if after.empty else after.temperature_c,
        "number": None if after.empty else after.stands_at(),
        "word": None if after.empty else after.word,
        "de00": colour["de00"] if colour else None,
        "verdict": verdict,
    }


def answer(desk: Desk, form: StepForm) -> Context:
    """Context of the bowl page's parts for what the (valid) form says."""
    now, proposal = desk.now, desk.proposal
    after = desk.after(form.core_events())
    additions = [(part, bag_g(row) if part.ingredient.is_base else None) for row, part, _ in form.additions()]
    colour, stands = _colour(desk, after), None if after.empty else standing(after, desk.window)
    verdict, thinner = stands.verdict if stands else "", desk.cupboard.thinner
    still = still_wanted(desk, after)
    beside: tuple[Thinning, ...] = ()
    if thinner and not after.empty and proposal.kind != "trouble":
        beside = thinners_beside(after, desk.window, temperature_c=after.warmth.work_at_c)
    usable_s = after.usable_until_s()
    flow = after.flow() if not after.empty and not after.is_set else None
    reading = after.stands_at() if flow else None
    timed = times(desk, after, flow)
    put_in = [PutIn.of(part, bag) for part, bag in additions]
    put_in.sort(key=lambda thing: not thing.is_base)
    return {
        "bowl": desk.bowl,
        "can_be_used": desk.can_be_used,
        "kind": desk.kind,
        "kitchen": desk.kitchen,
        "now": now,
        "after": after,
        "proposal": proposal,
        "additions": additions,
        "put_in": put_in,
        "planned_count": planned_count(desk),
        "taught": goes_by_says(desk.taught_here, desk.stock.titles),
        "deed_says": _deed(desk, form, put_in, ready=bool(stands and stands.is_right), seed_g=timed["seed_g"]),
        "reads_c": form.reads_c(),
        "melt_query": urlencode({f"add-{r.pk}": form.data.get(f"add-{r.pk}", "") for r, _, _ in form.additions()}),
        "nothing_said": form.nothing_said(),
        "ceiling_c": after.warmth.ceiling_c,
        "is_too_hot": _is_too_hot(desk, form, after),
        "stands": stands,
        "watery_g": after.base_g * harmless_share() if any(p.ingredient.kind == GEL for p in after.parts) else None,
        "stands_says": how_it_stands(desk, after),
        "bases": [a for a in additions if a[0].ingredient.is_base],
        "colour": colour,
        "comes_says": _comes(desk, colour, adding=bool(additions)),
        "kind_of_white": "white coating" if desk.bowl.white == "coating" else "white chocolate",
        "closest_says": _closest(desk, colour, after),
        "colour_now": _colour(desk, now),
        "target_lab": desk.target_lab,
        "now_lab": None if now.empty else now.mixture().lab(),
        "after_lab": None if after.empty else after.mixture().lab(),
        "verdict": verdict,
        "words": [] if after.empty else _words(after),
        "window": desk.window,
        "number_now": reading,
        "number_range": _number_range(after) if flow else None,
        "left_s": None if usable_s is None else usable_s - after.at_s,
        "left_likely": _left_likely(after),
        "made_range": _made_range(desk),
        "ribbon": _ribbon(desk, now, after),
        "thinner": thinner,
        "still_thinning": still,
        "coming": coming(desk, after, [part for part, _ in additions], form.to_c()),
        "trouble_sign": SEEN_AS.get(proposal.trouble, "thick"),
        "beside": [fat_says(dose, price, cheapest=least) for dose, price, least in _priced(desk, beside)],
        "working_c": after.warmth.work_at_c,
        "reckoned": desk.reckoned,
        "portions": desk.portions,
        "portion_of": desk.portion,
        "made_g": desk.made_g,
        "one_g": desk.one_g,
        "drips": drips_shown(desk.layers[0], flow) if flow and desk.is_for_drips else None,
        **timed,
        "way": _way(desk, additions, form.to_c()),
        "rules": _rules(desk, after),
        "sources": _sources(desk, after),
        "read": _read(desk, after),
        "result": _result(after, colour, verdict),
    }


def _is_too_hot(desk: Desk, form: StepForm, after: BowlState) -> bool:
    """Whether it was read, just now or before, to be hotter than it may be."""
    now = desk.now
    held_c = None if now.empty or desk.bowl.finished_at else now.temperature_c
    read_c = form.reads_c() or held_c
    return read_c is not None and read_c > after.warmth.ceiling_c


def _deed(desk: Desk, form: StepForm, put_in: Sequence[PutIn], *, ready: bool, seed_g: float | None) -> str:
    """What is to be done now, as the headline begins."""
    to_c, reads_c, now = form.ordered_c(), form.reads_c(), desk.now
    return deed_says(
        put_in,
        empty=now.empty,
        until_says=until(to_c) if to_c else "",
        warmth=warmth_says(to_c, now.temperature_c, seed_g) if to_c else "",
        reads=until(reads_c) if reads_c else "",
        ready=ready and desk.proposal.kind == "ready",
        number=form.new_number(),
    )


def too_little(desk: Desk, colour: Json | None) -> TooLittle | None:
    """Where a whole drop is too much for a bowl that is still to be made; None where it is not that."""
    if colour is None or colour["reachable"] or not desk.now.empty or desk.target_lab is None:
        return None
    wish, cupboard = desk.wish, desk.cupboard
    bases, colourants = wish.colours.allowed(bases_for(wish, cupboard)), wish.colours.allowed(cupboard.colourants)
    return too_little_base(desk.target_lab, bases, colourants, round(wish.melt_g), bounds=wish.colours.bounds)


def still_wanted(desk: Desk, state: BowlState) -> Thinning | None:
    """The fat a bowl still takes to be right for what it is for; None where fat does not help."""
    thinner = desk.cupboard.thinner
    if thinner is None or state.empty or spoilt(state):
        return None
    return thinning_for(state, desk.window, thinner, temperature_c=state.warmth.work_at_c)


def how_it_stands(desk: Desk, state: BowlState) -> str:
    """How a bowl stands, as the end of a sentence: headline and test page tell the same; "" of an empty one."""
    if state.empty:
        return ""
    stands, still, thinner = standing(state, desk.window), still_wanted(desk, state), desk.cupboard.thinner
    return stands_says(
        stands,
        desk.kind,
        white=desk.bowl.white,
        thinner=thinner.title if thinner else "",
        soft=still is not None and still.verdict == "refused",
        dose=still is not None,
    )


def _way(desk: Desk, additions: list[tuple[Part, float | None]], to_c: float | None) -> MeltingWay | None:
    """How to melt the base that is put in, in this kitchen."""
    base_g = sum(part.mass_g for part, _ in additions if part.ingredient.is_base)
    if not base_g or to_c is None or to_c <= MELTS_AT_C:
        return None
    target_c, start_c = min(to_c, CEILING_C), min(desk.kitchen.room_c, MELTS_AT_C - 2)
    school, power_w = desk.kitchen.melting_school, desk.kitchen.oven_w
    curve = curve_of(desk.bowl.white)
    return melting_way(school, base_g, start_c=start_c, target_c=target_c, power_w=power_w, curve=curve)


def _rules(desk: Desk, state: BowlState) -> list[str]:
    """What the region says of the white colours in the bowl."""
    whites = [p for p in state.parts if p.ingredient.kind == WHITE]
    sentences = [rule_for(p.ingredient, desk.kitchen.region, share=p.mass_g / state.mass_g) for p in whites]
    return list(dict.fromkeys(r for r in sentences if r))


def _sources(desk: Desk, state: BowlState) -> list[tuple[Ingredient, Parameter]]:
    """Where the values that count most came from: label numbers of bases, drop masses of colours."""
    rows = {r.code: r for r in desk.stock.rows}
    pairs = []
    for part in state.parts:
        row = rows.get(part.ingredient.name)
        known = row.current() if row else {}
        if row and part.ingredient.is_base and "number" in known:
            pairs.append((row, known["number"]))
        elif row and row.kind in UNIT_WORDS and "drop_g" in known:
            pairs.append((row, known["drop_g"]))
    return pairs


def _read(desk: Desk, state: BowlState) -> list[tuple[Ingredient, Optics]]:
    """What is in it whose colour was read, and when."""
    rows = {r.code: r for r in desk.stock.rows}
    known = [rows[p.ingredient.name] for p in state.parts if p.ingredient.name in rows]
    return [(row, read) for row in known if (read := row.read_last())]


def _number_range(state: BowlState) -> tuple[float, float] | None:
    low, high = state.flow_range()
    return (number_from_flow(low), number_from_flow(high)) if low and high else None
