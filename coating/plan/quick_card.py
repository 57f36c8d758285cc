"""The quick card: from "12 biscuits, half dipped, dusk blue" to grams, drops, fat and minutes, in one go."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from coating.colour.mixing import Ingredient
from coating.colour.recipe import Recipe, colour_range, find_recipe
from coating.errors import OutOfBounds
from coating.flow.casson1959 import Flow
from coating.flow.thinning import Thinning
from coating.flow.windows import window
from coating.heat.melting import first_burst_s, melt_to_c, melting_time_s, working_temperature_c
from coating.heat.setting import Setting, setting_time
from coating.limits import check
from coating.plan.proposal import cupboard_of, plain_base, thinning_for
from coating.plan.quantities import DipNeed, Quantity, quantity
from coating.shape.coats import Coat, dip_coat
from coating.shape.pieces import RoundBiscuit
from coating.simulate.bowl import BowlContext, BowlState

DIP = "dip"
TYPICAL_POWER_W = 800.0


@dataclass(frozen=True)
class QuickCard:
    """Everything the card says; masses in g, times in s or min, temperatures in degC."""

    coat: Coat
    quantity: Quantity
    recipe: Recipe
    colour_low: float
    colour_high: float
    thinning: Thinning | None
    flow: Flow | None
    state: BowlState
    melt_to_c: float
    melt_s: float
    burst_s: float
    working_c: float
    working_s: float | None
    setting: Setting | None
    chilled: Setting | None


def quick_card(
    *,
    piece: RoundBiscuit,
    count: int,
    spares: int,
    depth_share: float,
    target_lab: tuple[float, float, float],
    white: str,
    ingredients: Sequence[Ingredient],
    thinner: Ingredient,
    room_c: float = 21.0,
) -> QuickCard:
    """Work out one colour of half-dipped biscuits from an empty bowl.

    Parameters
    ----------
    piece : biscuit, mm. count, spares : how many. depth_share : 0.1 to 1. target_lab : wanted colour.
    white : coating, untempered or tempered. ingredients, thinner : what there is. room_c : degC.

    Raises
    ------
    EmptyBowl : no base of that white. OutOfBounds : a value outside its bounds.
    """
    check("count", count), check("spares", spares), check("depth_share", depth_share)
    tip = window(DIP)
    cupboard = cupboard_of(ingredients, thinner=thinner)
    working_c = working_temperature_c(white)
    aimed = dip_coat(piece, depth_share, tip.aim)
    need = DipNeed(aimed.mass_g, count, spares, piece, depth_share)
    amounts = quantity([need])
    bases = plain_base(cupboard, white)
    recipe = find_recipe(target_lab, bases, cupboard.colourants, amounts.melt_g)
    context = BowlContext(room_c=check("room_c", room_c), white=white, window=tip)
    bowl = BowlState(context, 0.0, recipe.parts, working_c, 0.0, 0.0, None)
    thinning = thinning_for(bowl, tip, thinner, temperature_c=working_c)
    _, low, high = colour_range(recipe.parts, target_lab)
    hot_c = melt_to_c(white)
    return QuickCard(
        coat=aimed,
        quantity=amounts,
        recipe=recipe,
        colour_low=low,
        colour_high=high,
        thinning=thinning,
        flow=bowl.flow(),
        state=bowl,
        melt_to_c=hot_c,
        melt_s=melting_time_s(amounts.melt_g, start_c=room_c, target_c=hot_c, power_w=TYPICAL_POWER_W),
        burst_s=first_burst_s(amounts.melt_g, power_w=TYPICAL_POWER_W),
        working_c=working_c,
        working_s=_working_s(bowl),
        setting=_setting(aimed, working_c, room_c, "room", white),
        chilled=_setting(aimed, working_c, 5.0, "fridge", white),
    )


def _working_s(bowl: BowlState) -> float | None:
    until = replace(bowl, context=replace(bowl.context, window=None)).usable_until_s()
    return None if until is None else until - bowl.at_s


def _setting(coat: Coat, pour_c: float, surround_c: float, place: str, white: str) -> Setting | None:
    try:
        return setting_time(coat.thickness_mm, pour_c=pour_c, surround_c=surround_c, place=place, white=white)
    except OutOfBounds:
        return None
