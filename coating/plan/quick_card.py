"""The quick card: from "12 biscuits, half dipped, dusk blue" to grams, drops, fat and minutes, in one go."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from coating.colour.mixing import LIQUID, Ingredient, Part, mix
from coating.colour.reach import is_ready_coloured
from coating.colour.recipe import Lab, Recipe, colour_range, find_recipe, find_recipes, kitchen_weights
from coating.colour.search.space import Bounds
from coating.flow.casson1959 import Flow
from coating.flow.thinning import Thinning
from coating.flow.windows import Window, window
from coating.heat.melting import warmth_of
from coating.heat.schools import ORDINARY_W, MeltingWay
from coating.heat.setting import Setting
from coating.heat.times import melt_time, sets_where
from coating.limits import check
from coating.piece.amounts import need_of
from coating.piece.cores import Core
from coating.piece.layers import FILM, Layer, coat_of_dip_mm, on_one_g
from coating.plan.proposal import Cupboard, cupboard_of, plain_base, plainly_of, thinning_for
from coating.plan.quantities import Quantity, quantity
from coating.simulate.bowl import BowlContext, BowlState

MANY_DROPS = 60.0  # from which on a bag that is coloured already is worth buying; common practice, no source


@dataclass(frozen=True)
class QuickCard:
    """Everything the card says; masses in g, times in s or min, temperatures in degC; `settings` where it sets.

    `one_g`, `thick_mm` : on one piece. `bag` : a coating sold in the colour, where so much colour is wanted that it is
    the better buy, with the recipe from it.
    """

    one_g: float
    thick_mm: float
    quantity: Quantity
    recipe: Recipe
    colour_low: float
    colour_high: float
    thinning: Thinning | None
    flow: Flow | None
    window: Window
    state: BowlState
    melt_to_c: float
    melting: MeltingWay
    working_c: float
    working_s: float | None
    settings: Mapping[str, Setting]
    bag: tuple[Ingredient, Recipe] | None = None

    @property
    def drops(self) -> float:
        """Drops in the recipe, of all colours."""
        return drops_of(self.recipe)

    @property
    def bag_drops(self) -> float:
        """Drops in the recipe from the bag sold in the colour."""
        return drops_of(self.bag[1]) if self.bag else 0.0

    @property
    def bag_is_quicker(self) -> bool:
        """Whether it takes less than half the drops from that bag."""
        return self.bag is not None and self.bag_drops < self.drops / 2


def drops_of(recipe: Recipe) -> float:
    """Drops in a recipe, of all colours."""
    return sum(p.units for p in recipe.parts if p.ingredient.kind == LIQUID)


def quick_card(
    *,
    core: Core,
    layer: Layer,
    count: int,
    spares: int,
    target_lab: Lab | None,
    white: str,
    ingredients: Sequence[Ingredient],
    thinner: Ingredient,
    base: Ingredient | None = None,
    ready: Sequence[Ingredient] = (),
    room_c: float = 21.0,
    school: str = "half_power",
    power_w: float = ORDINARY_W,
    melt_up: Callable[[float], float] = float,
) -> QuickCard:
    """Work out one coat on pieces of one kind, from an empty bowl.

    Parameters
    ----------
    core, layer : what is coated, and how. count, spares : how many. target_lab : wanted colour; None: as it was bought.
    white : coating, untempered or tempered. ingredients, thinner : what there is. base : the bag it is made of as
    bought; None: the white one. ready : coatings sold in a colour that one could buy. room_c : degC.
    school, power_w : how it is melted. melt_up : the mass in g that can be measured, from the one that is needed.

    Raises
    ------
    EmptyBowl : no base of that white. OutOfBounds : a value outside its bounds.
    """
    pieces = int(check("count", count)) + int(check("spares", spares))
    right, cupboard = window(layer.kind.window), cupboard_of(ingredients, thinner=thinner)
    amounts = quantity([need_of(core, layer, pieces)])
    amounts = replace(amounts, up_to_g=melt_up(amounts.melt_g))
    recipe = _recipe(target_lab, base, cupboard, white, amounts.melt_g)
    mostly = max((p for p in recipe.parts if p.ingredient.is_base), key=lambda p: p.mass_g).ingredient
    warmth = warmth_of(white, mostly.chocolate)
    context = BowlContext(room_c=check("room_c", room_c), white=white, window=right)
    bowl = BowlState(context, 0.0, recipe.parts, warmth.work_at_c, 0.0, 0.0, None)
    thinning = thinning_for(bowl, right, thinner, temperature_c=warmth.work_at_c)
    _, low, high = colour_range(recipe.parts, target_lab) if target_lab else (0.0, 0.0, 0.0)
    thick_mm = coat_of_dip_mm(core, layer.share) if layer.kind.measured == FILM else (
        layer.thickness_mm or layer.kind.thickness_mm)  # fmt: skip
    return QuickCard(
        one_g=on_one_g(core, layer),
        thick_mm=thick_mm,
        quantity=amounts,
        recipe=recipe,
        colour_low=low,
        colour_high=high,
        thinning=thinning,
        flow=bowl.flow(),
        window=right,
        state=bowl,
        melt_to_c=warmth.melt_to_c,
        melting=melt_time(
            amounts.melt_g, white=white, chocolate=mostly.chocolate, room_c=room_c, school=school, power_w=power_w
        ),
        working_c=warmth.work_at_c,
        working_s=_working_s(bowl),
        settings=sets_where("coat", thick_mm, room_c=room_c, white=white),
        bag=_bag(target_lab, recipe, cupboard, amounts.melt_g, ready) if target_lab and white == "coating" else None,
    )


def _recipe(target_lab: Lab | None, base: Ingredient | None, cupboard: Cupboard, white: str, melt_g: float) -> Recipe:
    if target_lab is not None:
        return find_recipe(target_lab, plain_base(cupboard, white), cupboard.colourants, melt_g)
    part = Part(base or plainly_of(cupboard, white), melt_g)
    return Recipe((part,), mix([part]).lab(), 0.0, 0.0)


def _bag(
    target_lab: Lab, recipe: Recipe, cupboard: Cupboard, melt_g: float, ready: Sequence[Ingredient]
) -> tuple[Ingredient, Recipe] | None:
    """The coating sold in a colour that comes nearest, where this recipe does not get there or takes twice the
    drops."""
    if recipe.reachable and drops_of(recipe) < MANY_DROPS:
        return None
    whites, found = plain_base(cupboard, "coating"), []
    for base in (b for b in ready if is_ready_coloured(b)):
        others = tuple(b for b in whites if b.name != base.name and b.sort == "white")
        weights = (kitchen_weights((base, *others), melt_g),)
        bounds = Bounds(colourants=3, locked=(base.name,))
        found.append(
            (base, find_recipes(target_lab, (base, *others), cupboard.colourants, melt_g, weights, (), bounds)[0])
        )
    best = min(found, key=lambda pair: pair[1].de00, default=None)
    if best is None or not best[1].reachable:
        return None
    return best if not recipe.reachable or drops_of(best[1]) < drops_of(recipe) / 2 else None


def _working_s(bowl: BowlState) -> float | None:
    until = replace(bowl, context=replace(bowl.context, window=None)).usable_until_s()
    return None if until is None else until - bowl.at_s
