"""What to do next with a bowl: fill, tint, warm or cool, thin, or begin. Only ever adding.

Water and overheating are recognised before thinning: fat does not mend them. Of the fat reckoned, half is proposed.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from coating.colour.ciede2000 import colour_difference
from coating.colour.mixing import Ingredient, Part, main_base, merge, mix
from coating.colour.one_recipe import recipe_for
from coating.colour.recipe import REACHABLE, Recipe
from coating.colour.ways import ANY_WAY, MATCHES, NO_PRICES, ColourWay, recipe_in
from coating.errors import EmptyBowl, OutOfBounds
from coating.flow.casson1959 import Flow
from coating.flow.thinning import LABEL, THINNERS, Thinning, dose, fat_share_for
from coating.flow.windows import Window
from coating.plan.leftovers import begun_with
from coating.plan.standing import SMOOTH, TOO_COLD_K, TOO_HOT_K, spoilt, standing
from coating.simulate.bowl import LABEL_SPREAD, BowlState

ENOUGH = 0.9
RESTS_TRIED = 2  # the nearest ones
LEAST_THINNER_G, LEAST_THINNER_SHARE = 0.4, 0.01
FAR_TOO_HOT_K = 2.0  # above where it scorches


@dataclass(frozen=True)
class Cupboard:
    """What there is to work with."""

    bases: tuple[Ingredient, ...] = ()
    colourants: tuple[Ingredient, ...] = ()
    thinner: Ingredient | None = None
    prices: tuple[tuple[str, float], ...] = ()  # money per g by name
    fats: tuple[Ingredient, ...] = ()  # every thinner that is there
    rests: tuple[Part, ...] = ()  # what is left of bowls before, to begin with


@dataclass(frozen=True)
class Wish:
    """What the bowl should become: colour (None for plain) and how it is found, technique window, white, g to melt; or
    a `base` as it was bought, which needs no recipe. `kept` : how the colour was made before."""

    target_lab: tuple[float, float, float] | None
    window: Window | None
    white: str
    melt_g: float
    colours: ColourWay = ANY_WAY
    base: Ingredient | None = None
    kept: tuple[Part, ...] = ()


@dataclass(frozen=True)
class Proposal:
    """One step. `kind`: fill, tint, thin, warm, cool, ready, "off" (out of its window, and nothing that is added brings
    it there: see `coating.plan.standing`), or trouble (`trouble`: wet, overheated or astray, which is a colour that
    adding does not bring back while a fresh bowl would reach it).

    `additions` in g; `take_to_c` where the temperature should be; `thinning` the whole dose and its firmness.
    """

    kind: str
    additions: tuple[Part, ...] = ()
    take_to_c: float | None = None
    thinning: Thinning | None = None
    trouble: str = ""
    de00: float | None = None


def plain_base(cupboard: Cupboard, white: str) -> tuple[Ingredient, ...]:
    """Bases that suit a white: palm fat for coating, cocoa butter for chocolate; those that are white first."""
    family = "palm" if white == "coating" else "cocoa"
    return tuple(sorted((b for b in cupboard.bases if b.family == family), key=lambda b: b.sort != "white"))


def plainly(wish: Wish, cupboard: Cupboard) -> Ingredient | None:
    """The bag a wish without a colour is made of: the one it names, else the white one; None where there is none."""
    first = next(iter(plain_base(cupboard, wish.white)), None)
    return wish.base or (first if first and first.sort == "white" else None)


def plainly_of(cupboard: Cupboard, white: str) -> Ingredient:
    """The white bag of a cupboard. Raises EmptyBowl."""
    ingredient = plainly(Wish(None, None, white, 0.0), cupboard)
    if ingredient is None:
        raise EmptyBowl("There is no white coating or chocolate to melt.", field="bases")
    return ingredient


def bases_for(wish: Wish, cupboard: Cupboard) -> tuple[Ingredient, ...]:
    """Bases a wish may be made from: those of its white, and all where fats may mix; what must be in is among them."""
    if wish.colours.mixed_fats:
        return cupboard.bases
    suiting = plain_base(cupboard, wish.white)
    return suiting + tuple(b for b in cupboard.bases if b.name in wish.colours.locked and b not in suiting)


def _recipe(wish: Wish, cupboard: Cupboard, bases: tuple[Ingredient, ...], start: tuple[Part, ...] = ()) -> Recipe:
    assert wish.target_lab is not None
    prices = dict(cupboard.prices) or NO_PRICES
    if start:
        return recipe_in(wish.target_lab, bases, cupboard.colourants, wish.melt_g, wish.colours, start, prices)
    return recipe_for(
        wish.target_lab, bases, cupboard.colourants, wish.melt_g, wish.colours, kept=wish.kept, prices=prices
    )


def fat_for(state: BowlState, window: Window, temperature_c: float, *, number_factor: float = 1.0) -> float | None:
    """Fat in g per g that brings a bowl into a window; None when it is thin enough or beyond help. With another label
    number if asked."""
    flow = state.flow(temperature_c=temperature_c, number_factor=number_factor)
    if flow is None or window.verdict(flow, state.white) not in ("thick", "uneven"):
        return None
    aim = window.aim_for(state.white)

    def fits(thinned: Flow) -> bool:
        return thinned.yield_stress_pa <= aim.yield_stress_pa and thinned.viscosity_pa_s <= aim.viscosity_pa_s

    try:
        share = fat_share_for(fits, flow, state.fat_fraction)
    except OutOfBounds:
        return None
    return None if share < LEAST_THINNER_SHARE else share  # less than the label number is uncertain by


def _by_label(state: BowlState, window: Window, temperature_c: float) -> tuple[float, float]:
    """What it takes, g, at both ends of what its label number may be."""
    spread = state.context.number_spread
    ends = LABEL if spread == LABEL_SPREAD else (1 - spread, 1 + spread)
    least, most = (fat_for(state, window, temperature_c, number_factor=end) or 0.0 for end in ends)
    return least * state.mass_g, most * state.mass_g


def _dose(state: BowlState, thinner_g: float, thinner: str, by_label: tuple[float, float] | None = None) -> Thinning:
    """With how hard it then sets, the fats counted in that were added before."""
    return dose(
        thinner_g,
        state.mass_g,
        state.fat_fraction,
        base=state.fat_base,
        thinner=thinner,
        room_c=state.context.room_c,
        already=state.added_fats,
        by_label=by_label,
    )


def _firm_up_to_g(state: BowlState, thinning: Thinning) -> float:
    """The most of a dose, g, with which it still sets in the room."""
    low, high = 0.0, thinning.thinner_g
    for _ in range(24):
        middle = (low + high) / 2
        refused = _dose(state, middle, thinning.thinner).verdict == "refused"
        low, high = (low, middle) if refused else (middle, high)
    return low


def thinning_for(state: BowlState, window: Window, thinner: Ingredient, *, temperature_c: float) -> Thinning | None:
    """Whole dose of thinner for a technique at a temperature; None when it is thin enough or beyond help."""
    share = fat_for(state, window, temperature_c)
    if share is None:
        return None
    by_label = _by_label(state, window, temperature_c)
    return _dose(state, share * state.mass_g, thinner.name.replace("_", " "), by_label)


def thinners_beside(state: BowlState, window: Window, *, temperature_c: float) -> tuple[Thinning, ...]:
    """The same dose of every fat makers use, with how hard it then sets, the firmest first; none when not needed."""
    share = fat_for(state, window, temperature_c)
    if share is None:
        return ()
    by_label = _by_label(state, window, temperature_c)
    doses = [_dose(state, share * state.mass_g, name, by_label) for name in THINNERS]
    return tuple(sorted(doses, key=lambda t: ("firm", "soft", "refused").index(t.verdict)))


def first_half(state: BowlState, thinning: Thinning | None, thinner: Ingredient | None) -> tuple[Part, ...]:
    """The first half of a dose, never more than keeps it firm."""
    if thinning is None or thinner is None or thinning.thinner_g < LEAST_THINNER_G:
        return ()
    most = _firm_up_to_g(state, thinning) if thinning.verdict == "refused" else thinning.thinner_g
    if most < LEAST_THINNER_G:
        return ()
    half = max(thinning.first_addition_g, LEAST_THINNER_G)
    half = round(half * 2) / 2 if half >= 1 else round(half, 1)
    return (Part(thinner, min(half, math.floor(most * 10) / 10)),)


def first_fill(wish: Wish, cupboard: Cupboard) -> Recipe:
    """What an empty bowl begins with: what is left of one before where that does, else fresh. Raises EmptyBowl."""
    if wish.target_lab is None:
        main = plainly(wish, cupboard)
        if main is None:
            raise EmptyBowl("The cupboard has no white coating or chocolate to make this from.", field="bases")
        part = Part(main, float(round(wish.melt_g)))
        fresh = Recipe((part,) if part.mass_g else (), mix([Part(main, 1.0)]).lab(), 0.0, 0.0)
    else:
        main = next(iter(bases_for(wish, cupboard)), None)
        fresh = _recipe(wish, cupboard, bases_for(wish, cupboard))
    if main is None or wish.base is not None or wish.colours != ANY_WAY:
        return fresh
    tried = sorted(cupboard.rests, key=lambda rest: _off(rest, fresh))[:RESTS_TRIED]
    plain = None if wish.target_lab is None else fresh
    begun = (begun_with(rest, wish.target_lab, wish.melt_g, main, cupboard.colourants, plain) for rest in tried)
    return next((recipe for recipe in begun if recipe is not None), fresh)


def _off(rest: Part, fresh: Recipe) -> float:
    return float(colour_difference(mix([rest]).lab(), fresh.lab))


def _colour_additions(state: BowlState, wish: Wish, cupboard: Cupboard) -> tuple[tuple[Part, ...], float | None]:
    bases = bases_for(wish, cupboard)
    missing_g = wish.melt_g - state.base_g
    if state.empty:
        recipe = first_fill(wish, cupboard)
        return recipe.parts, None if wish.target_lab is None else recipe.de00
    if wish.target_lab is None:
        main = wish.base or _filler(state, bases)
        if main is not None and missing_g > (1 - ENOUGH) * wish.melt_g:
            return (Part(main, float(round(missing_g))),), None
        return (), None
    start = state.parts
    top_up: tuple[Part, ...] = ()
    if missing_g > (1 - ENOUGH) * wish.melt_g:
        filler = _filler(state, bases)
        if filler:
            top_up = (Part(filler, float(round(missing_g))),)
    is_off = float(colour_difference(state.mixture().lab(), wish.target_lab))
    if not top_up and is_off <= MATCHES and wish.colours == ANY_WAY:
        return (), is_off  # it matches to the eye: nothing more goes in
    recipe = _recipe(wish, cupboard, bases, merge((*start, *top_up)))
    return merge((*top_up, *recipe.parts)), recipe.de00


def _filler(state: BowlState, bases: tuple[Ingredient, ...]) -> Ingredient | None:
    """What a bowl is filled up with: what most of it is, but what was left of another is soon at an end."""
    names = {b.name for b in bases}
    known = tuple(p for p in state.parts if p.ingredient.name in names)
    return main_base(known) or next(iter(bases), None) or main_base(state.parts)


def _astray(state: BowlState, wish: Wish, cupboard: Cupboard, de00: float | None) -> bool:
    """Whether adding cannot bring the colour back, while a fresh bowl would come much nearer."""
    if state.empty or wish.target_lab is None or de00 is None or de00 <= REACHABLE or wish.melt_g < 1:
        return False
    fresh = _recipe(wish, cupboard, bases_for(wish, cupboard))
    return fresh.de00 + REACHABLE < de00


def propose(state: BowlState, wish: Wish, cupboard: Cupboard) -> Proposal:
    """The next step for a bowl.

    Raises
    ------
    EmptyBowl : there is no base of that white in the cupboard.
    """
    if not state.empty:
        trouble = spoilt(state)
        if trouble:
            return Proposal("trouble", trouble=trouble)
        if state.temperature_c > state.warmth.ceiling_c + FAR_TOO_HOT_K:
            return Proposal("cool", take_to_c=state.warmth.work_at_c)
    additions, de00 = _colour_additions(state, wish, cupboard)
    if _astray(state, wish, cupboard, de00):
        return Proposal("trouble", trouble="astray", de00=de00)
    after = replace(state, parts=merge((*state.parts, *additions)), solid_fraction=0.0)
    working_c = after.warmth.work_at_c
    after = replace(after, temperature_c=working_c)
    thinning = None
    if wish.window and cupboard.thinner and not after.empty:
        thinning = thinning_for(after, wish.window, cupboard.thinner, temperature_c=working_c)
    half = first_half(after, thinning, cupboard.thinner)
    lumpy = state.solid_fraction > SMOOTH and state.white != "tempered"
    if state.empty:
        return Proposal("fill", (*additions, *half), after.warmth.melt_to_c, thinning, de00=de00)
    if state.is_set or lumpy or state.temperature_c < working_c - TOO_COLD_K:
        return Proposal("warm", (*additions, *half), working_c, thinning, de00=de00)
    if additions:
        return Proposal("tint", (*additions, *half), None, thinning, de00=de00)
    if half:
        return Proposal("thin", half, None, thinning, de00=de00)
    if state.temperature_c > working_c + TOO_HOT_K:
        return Proposal("cool", (), working_c, thinning, de00=de00)
    right = wish.window is None or standing(state, wish.window).is_right
    return Proposal("ready" if right else "off", de00=de00, thinning=thinning)


def cupboard_of(ingredients: Sequence[Ingredient], *, thinner: Ingredient | None = None) -> Cupboard:
    """Sort ingredients into a Cupboard."""
    return Cupboard(
        tuple(i for i in ingredients if i.is_base), tuple(i for i in ingredients if i.is_colourant), thinner
    )
