"""The quick card: from "12 biscuits, half dipped, dusk blue" to grams, drops, fat and minutes, by the one reckoning."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from coating.colour.first_look import first_look
from coating.colour.mixing import LIQUID, Ingredient
from coating.colour.reach import is_ready_coloured
from coating.colour.recipe import Lab, Recipe, find_recipes, kitchen_weights, recipe_of
from coating.colour.search.space import Bounds
from coating.errors import EmptyBowl
from coating.flow.casson1959 import Flow
from coating.flow.thinning import LABEL, Thinning, dose
from coating.flow.windows import Window, window
from coating.heat.melting import warmth_of
from coating.heat.schools import MeltingWay
from coating.heat.setting import Setting
from coating.heat.times import melt_time, sets_where, slower, usable_time
from coating.job import Bowl, Kitchen, Line, Piece, Shelf, Tone, Wanted, reckon
from coating.job.bowls import fat_share
from coating.stack.layers import Layer

MANY_DROPS = 60.0  # from which on a bag that is coloured already is worth buying; common practice, no source
COLOUR = "colour"


@dataclass(frozen=True)
class QuickCard:
    """Everything the card says; masses in g, times in s or min, temperatures in degC; `settings` where it sets.

    `line`, `bowl` : as they are reckoned. `bag` : a coating sold in the colour, where so much colour is wanted that it
    is the better buy, with the recipe from it.
    """

    line: Line
    bowl: Bowl
    recipe: Recipe
    colour_low: float
    colour_high: float
    thinning: Thinning | None
    flow: Flow | None
    window: Window
    melt_to_c: float
    melting: MeltingWay
    working_c: float
    working_s: float
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
    piece: Piece,
    *,
    target_lab: Lab | None,
    white: str,
    kitchen: Kitchen,
    shelf: Shelf,
    base: Ingredient | None = None,
    ready: Sequence[Ingredient] = (),
) -> QuickCard:
    """One coat on pieces of one kind, from an empty bowl.

    Parameters
    ----------
    piece : what is coated, how many, and its one layer. target_lab : wanted colour; None: as it was bought. white :
    coating, untempered or tempered. kitchen, shelf : where, and from what. base : the bag it is made of as bought;
    None: the white one. ready : coatings sold in a colour that one could buy.

    Raises
    ------
    EmptyBowl : no base of that white. OutOfBounds : a value outside its bounds.
    """
    (only_layer,) = piece.layers
    layer = replace(
        only_layer,
        id="coat",
        white=white,
        colour=COLOUR if target_lab is not None else "",
        base=base.name if base else "",
    )
    if base is not None:
        shelf = replace(shelf, bags=(*shelf.bags, base))
    wanted = Wanted((replace(piece, layers=(layer,)),), colours={COLOUR: Tone(target_lab)} if target_lab else {})
    reckoning = reckon(wanted, kitchen, shelf, steps=False)
    line, bowl = reckoning.lines[0], reckoning.bowls[0]
    if not bowl.parts or bowl.made_of is None:
        raise EmptyBowl("There is no white coating or chocolate to melt.", field="bases")
    right, warmth = window(line.window), warmth_of(bowl.white, bowl.made_of.chocolate)
    recipe = recipe_of(bowl.parts, target_lab or bowl.lab or (90.0, 0.0, 0.0))
    _, low, high = first_look(recipe.parts, target_lab) if target_lab else (0.0, 0.0, 0.0)
    way = melt_time(
        bowl.melt_g,
        white=bowl.white,
        chocolate=bowl.made_of.chocolate,
        room_c=kitchen.room_c,
        school=kitchen.school,
        power_w=kitchen.oven_w,
    )
    life_s = usable_time(
        bowl.melt_g,
        white=bowl.white,
        chocolate=bowl.made_of.chocolate,
        room_c=kitchen.room_c,
        loss=kitchen.factors.loss,
    )
    return QuickCard(
        line,
        bowl,
        recipe,
        low,
        high,
        _thinning(bowl, kitchen),
        bowl.flow,
        right,
        warmth.melt_to_c,
        way,
        warmth.work_at_c,
        life_s,
        _settings(layer, line, bowl, kitchen),
        _bag(target_lab, recipe, bowl, shelf, ready),
    )


def _settings(layer: Layer, line: Line, bowl: Bowl, kitchen: Kitchen) -> Mapping[str, Setting]:
    sets = sets_where(layer.kind.sets_as, line.thickness_mm, white=bowl.white, room_c=kitchen.room_c)
    return slower(sets, kitchen.factors.set)


def _thinning(bowl: Bowl, kitchen: Kitchen) -> Thinning | None:
    """The fat that its portion wants, with how firm it then sets."""
    if not bowl.portions or bowl.thinner is None or bowl.made_of is None or bowl.thinner_g <= 0:
        return None
    of = "coating" if bowl.made_of.family == "palm" else "chocolate"
    least_g, most_g = (_fat_g(bowl, end) for end in LABEL)
    return dose(
        bowl.thinner_g,
        bowl.melt_g,
        bowl.made_of.fat_fraction,
        base=of,
        thinner=bowl.thinner.name.replace("_", " "),
        room_c=kitchen.room_c,
        by_label=(least_g, most_g),
    )


def _fat_g(bowl: Bowl, times: float) -> float:
    """The fat of its portions, g, where the label number is so many times what it says."""
    if bowl.flow is None or bowl.made_of is None:
        return 0.0
    flow, fat = bowl.flow.scaled(yield_stress=times, viscosity=times), bowl.made_of.fat_fraction
    return sum(p.mass_g * (fat_share(flow, fat, p.window, bowl.white) or 0.0) for p in bowl.portions)


def _bag(
    target_lab: Lab | None, recipe: Recipe, bowl: Bowl, shelf: Shelf, ready: Sequence[Ingredient]
) -> tuple[Ingredient, Recipe] | None:
    """The coating sold in a colour that comes nearest, where this recipe does not get there or takes twice the
    drops."""
    if target_lab is None or bowl.white != "coating" or (recipe.reachable and drops_of(recipe) < MANY_DROPS):
        return None
    whites, bags = shelf.suiting("coating"), []
    for base in (b for b in ready if is_ready_coloured(b)):
        others = tuple(b for b in whites if b.name != base.name and b.sort == "white")
        weights = (kitchen_weights((base, *others), bowl.melt_g),)
        bounds = Bounds(colourants=3, locked=(base.name,))
        made = find_recipes(target_lab, (base, *others), shelf.colourants, bowl.melt_g, weights, (), bounds)[0]
        bags.append((base, made))
    best = min(bags, key=lambda pair: pair[1].de00, default=None)
    if best is None or not best[1].reachable:
        return None
    return best if not recipe.reachable or drops_of(best[1]) < drops_of(recipe) / 2 else None
