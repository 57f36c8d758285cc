"""Bowls: which lines share one, how much is melted and why, what goes in, and what is taken out and thinned.

One bowl for one white and colour. What its coating is too thick for is a portion, taken out and thinned; where all of
it is too thick, the bowl is thinned as far as most bear, and no further.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from coating.colour.mixing import Ingredient, Part, mix
from coating.colour.one_recipe import recipe_for
from coating.errors import CoatingError, OutOfBounds, WillNotFlow
from coating.flow.casson1959 import Flow
from coating.flow.state import Conditions, flow_now
from coating.flow.thinning import fat_share_for
from coating.flow.trade_number import number_from_flow
from coating.flow.windows import window
from coating.heat.melting import warmth_of, white_as_bought
from coating.job.kitchen import Kitchen
from coating.job.lines import in_colours, key_of
from coating.job.reckoning import Bowl, Line, Portion
from coating.job.shelf import Shelf
from coating.job.wanted import Tone, Wanted

BOWL_LOSS_G, PORTION_LOSS_G = 12.0, 6.0
LEAST_TEMPER_G = 150.0  # less does not hold its temper; common practice, no source
MOST_FAT = 0.08  # g of fat per g; more, and a thinner coating is the answer. Common practice, no source
LEAST_FAT = 0.005  # less than a label number is uncertain by
PLAIN = Tone()


@dataclass(frozen=True)
class Group:
    """What shares a bowl: its key, white, colour, bag and place apart; the base it is mostly of, and how that flows."""

    key: str
    white: str
    colour: str
    base: str
    made_of: Ingredient | None
    flow: Flow | None


@lru_cache(maxsize=512)
def as_bought(base: Ingredient, white: str) -> Flow | None:
    """How a base flows where it is worked, nothing added; None where it does not flow."""
    warm_c = warmth_of(white, base.chocolate).work_at_c
    kind = "coating" if base.family == "palm" else "chocolate"
    try:
        return flow_now(
            Conditions(
                base.number or 0.0,
                kind=kind,
                fat_fraction=base.fat_fraction,
                temperature_c=warm_c,
                tempered=white == "tempered",
                k_per_s=base.k_per_s,
            )
        )
    except WillNotFlow:
        return None


def flow_for(flow: Flow | None, technique_window: str, white: str) -> Flow:
    """The flow that a layer is made at: as it stands where that is workable, else as far as it is thinned; without a
    bowl, as the technique aims for."""
    want = window(technique_window)
    if flow is None:
        return want.aim
    return want.aim_for(white) if want.verdict(flow, white) in ("thick", "uneven") else flow


def groups_of(wanted: Wanted, shelf: Shelf) -> tuple[dict[str, Group], dict[str, str]]:
    """Groups by key, and the key of each layer in each colour."""
    groups: dict[str, Group] = {}
    keys: dict[str, str] = {}
    for piece in wanted.pieces:
        for layer in piece.layers:
            if not layer.window_for(piece.kind, piece.core) or not layer.takes_coating:
                continue
            for i, part in enumerate(in_colours(layer)):
                group = group_of(part.colour, part.base, layer.white, 0 if i else layer.apart, shelf)
                groups.setdefault(group.key, group)
                keys[key_of(layer.id, part)] = group.key
    return groups, keys


def group_of(colour: str, base: str, white: str, apart: int, shelf: Shelf) -> Group:
    """The bowl of a colour, or of a bag as bought, in a white."""
    bag = shelf.by_name.get(base)
    if bag is not None:
        white = white_as_bought(bag.family, white)
    made_of = bag or (next(iter(shelf.suiting(white)), None) if colour else shelf.plain(white))
    key = f"{f'bag.{base}' if base else colour}:{white}" + (f":{apart}" if apart else "")
    return Group(key, white, colour, base, made_of, as_bought(made_of, white) if made_of else None)


def bowl_of(group: Group, lines: Sequence[Line], tone: Tone, kitchen: Kitchen, shelf: Shelf) -> Bowl:
    """A bowl for its lines: melted = on the pieces + on the spares + lost + left, to the last figure."""
    goes_on_g, spare_g = sum(la.goes_on_g for la in lines), sum(la.spare_g for la in lines)
    thinned = _thinned(group, lines)
    several = len(thinned) - (1 if set(thinned) == {la.window for la in lines} and thinned else 0)
    lost_g = BOWL_LOSS_G + PORTION_LOSS_G * max(0, several) + sum(la.lost_g for la in lines)
    depth_g = max((la.depth_g for la in lines), default=0.0)
    needed_g = goes_on_g + spare_g + lost_g + depth_g
    tempered = group.white == "tempered"
    if tempered:
        needed_g = max(needed_g, LEAST_TEMPER_G)
    melt_g = kitchen.measured_g(needed_g, group.made_of)
    bowl = Bowl(
        group.key,
        group.white,
        group.colour,
        group.base,
        tuple(lines),
        goes_on_g,
        spare_g,
        lost_g,
        melt_g - goes_on_g - spare_g - lost_g,
        depth_g,
        max((_poured_g(la) for la in lines), default=0.0),
        max((la.vessel_mm for la in lines), default=0.0),
        tempered,
        group.made_of,
        flow=group.flow,
        number=number_from_flow(group.flow) if group.flow else None,
        thinner=shelf.thinner(group.white),
    )
    return _filled(replace(bowl, portions=_portions(bowl, thinned)), tone, shelf)


def _poured_g(line: Line) -> float:
    """What the bowl has to hold when it is poured: of shells as many as what is kept for the last of them."""
    at_once = line.depth_g / line.returned_g if line.returned_g > 1e-9 else 1.0
    return line.poured_g * max(1.0, at_once)


# -- thinned ----------------------------------------------------------------------------------------------------
def _thinned(group: Group, lines: Sequence[Line]) -> dict[str, list[Line]]:
    """Lines by window that this coating is too thick for as it is bought."""
    by_bowl: dict[str, list[Line]] = {}
    if group.flow is None:
        return by_bowl
    for line in lines:
        if window(line.window).verdict(group.flow, group.white) in ("thick", "uneven"):
            by_bowl.setdefault(line.window, []).append(line)
    return by_bowl


@lru_cache(maxsize=1024)
def fat_share(flow: Flow, fat_fraction: float, technique_window: str, white: str) -> float | None:
    """Fat in g per g that brings a coating into a window; None where no amount does."""
    aim = window(technique_window).aim_for(white)

    def fits(thinned: Flow) -> bool:
        return thinned.yield_stress_pa <= aim.yield_stress_pa and thinned.viscosity_pa_s <= aim.viscosity_pa_s

    try:
        return fat_share_for(fits, flow, fat_fraction)
    except OutOfBounds:
        return None


def _portions(bowl: Bowl, thinned: Mapping[str, Sequence[Line]]) -> tuple[Portion, ...]:
    """The least thinned first. Where all of it is thinned, the first is the whole bowl."""
    if bowl.flow is None or bowl.made_of is None or not thinned:
        return ()
    known = [(fat_share(bowl.flow, bowl.made_of.fat_fraction, name, bowl.white), name) for name in thinned]
    order = sorted(((share if share is not None else 1.0), name) for share, name in known)
    every, portions = set(thinned) == set(bowl.windows), list[Portion]()
    for i, (share, name) in enumerate(order):
        lines = thinned[name]
        whole = every and i == 0
        mass_g = bowl.melt_g if whole else sum(la.made_g + la.lost_g for la in lines) + PORTION_LOSS_G
        before = order[0][0] if every and i else 0.0  # it is taken out of a bowl that was thinned so far
        dose_g = max(0.0, (share if share < 1 else 0.0) - before) * mass_g
        layers = tuple(dict.fromkeys(la.layer for la in lines))
        if whole and len(order) > 1:
            layers = bowl.layers
        if share >= LEAST_FAT:
            portions.append(Portion(layers, name, mass_g, dose_g, whole))
    return tuple(portions)


# -- filled -----------------------------------------------------------------------------------------------------
def _filled(bowl: Bowl, tone: Tone, shelf: Shelf) -> Bowl:
    """With what goes in."""
    cautions = list[str]()
    if bowl.made_of is None:
        return replace(bowl, cautions=(f"There is no {_word(bowl.white)} on the shelf to make this of.",))
    if any(p.thinner_g > MOST_FAT * p.mass_g for p in bowl.portions):
        cautions.append("So much fat would keep it soft: a thinner coating is the better buy.")
    if (tone.lab is None and not tone.parts) or bowl.base:
        part = Part(bowl.made_of, bowl.melt_g)
        return replace(bowl, parts=(part,), lab=_lab(bowl.made_of), cautions=tuple(cautions))
    try:
        bases = shelf.bases if tone.way.mixed_fats else shelf.suiting(bowl.white)
        recipe = recipe_for(
            tone.lab or mix(tone.parts).lab(),
            bases,
            shelf.colourants,
            bowl.melt_g,
            tone.way,
            kept=tone.parts,
            prices=shelf.prices,
        )
    except CoatingError as refusal:
        return replace(bowl, cautions=(*cautions, refusal.message))
    return replace(
        bowl, recipe=recipe.parts, parts=recipe.parts, de00=recipe.de00, lab=recipe.lab, cautions=tuple(cautions)
    )


@lru_cache(maxsize=256)
def _lab(base: Ingredient) -> tuple[float, float, float]:
    return mix([Part(base, 1.0)]).lab()


def _word(white: str) -> str:
    return "coating" if white == "coating" else "chocolate"
