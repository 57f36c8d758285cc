"""The quick card: from "12 biscuits, half dipped, dusk blue" to grams, drops, fat and minutes, in one go."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from coating.colour.mixing import Ingredient
from coating.colour.recipe import Recipe, colour_range, find_recipe
from coating.flow.casson1959 import Flow
from coating.flow.thinning import Thinning
from coating.flow.windows import window
from coating.heat.melting import melt_to_c, working_temperature_c
from coating.heat.schools import ORDINARY_W, MeltingWay, melting_way
from coating.heat.setting import Setting, settings_by_place
from coating.limits import check
from coating.plan.proposal import cupboard_of, plain_base, thinning_for
from coating.plan.quantities import DipNeed, Quantity, quantity
from coating.shape.coats import Coat, dip_coat
from coating.shape.pieces import RoundBiscuit
from coating.simulate.bowl import BowlContext, BowlState

DIP = "dip"


@dataclass(frozen=True)
class QuickCard:
    """Everything the card says; masses in g, times in s or min, temperatures in degC; `settings` where it sets."""

    coat: Coat
    quantity: Quantity
    recipe: Recipe
    colour_low: float
    colour_high: float
    thinning: Thinning | None
    flow: Flow | None
    state: BowlState
    melt_to_c: float
    melting: MeltingWay
    working_c: float
    working_s: float | None
    settings: Mapping[str, Setting]


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
    school: str = "half_power",
    power_w: float = ORDINARY_W,
    melt_up: Callable[[float], float] = float,
) -> QuickCard:
    """Work out one colour of half-dipped biscuits from an empty bowl.

    Parameters
    ----------
    piece : biscuit, mm. count, spares : how many. depth_share : 0.1 to 1. target_lab : wanted colour.
    white : coating, untempered or tempered. ingredients, thinner : what there is. room_c : degC.
    school, power_w : how it is melted. melt_up : the mass in g that can be measured, from the one that is needed.

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
    amounts = replace(amounts, up_to_g=melt_up(amounts.melt_g))
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
        melting=melting_way(school, amounts.melt_g, start_c=min(room_c, 30.0), target_c=hot_c, power_w=power_w),
        working_c=working_c,
        working_s=_working_s(bowl),
        settings=settings_by_place(aimed.thickness_mm, pour_c=working_c, room_c=room_c, white=white),
    )


def _working_s(bowl: BowlState) -> float | None:
    until = replace(bowl, context=replace(bowl.context, window=None)).usable_until_s()
    return None if until is None else until - bowl.at_s
