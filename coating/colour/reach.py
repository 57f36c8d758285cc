"""What to say of a colour that cannot be had: why, how absurd the dose would be, which coating comes nearer."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from coating.colour.mixing import Ingredient, Part, mix
from coating.colour.recipe import REACHABLE, UNBOUND, Lab, Recipe, find_recipes, kitchen_weights
from coating.colour.search.space import Bounds

ABSURD = 10.0  # times what the base carries
VIVID, DARK = 20.0, 50.0


@dataclass(frozen=True)
class OutOfReach:
    """`reason`: "load" when only the dose stands in the way, else "range"; `absurd` what it would take then.

    `ready` : bases that are coloured already, each with the recipe it is softened by, nearest first.
    """

    reason: str
    absurd: Recipe
    ready: tuple[tuple[Ingredient, Recipe], ...]


def is_ready_coloured(base: Ingredient) -> bool:
    """A coating sold in a colour: palm fat, and vivid or dark."""
    lightness, a, b = mix([Part(base, 1.0)]).lab()
    return base.is_base and base.family == "palm" and (float(np.hypot(a, b)) > VIVID or lightness < DARK)


def out_of_reach(
    target_lab: Lab, bases: tuple[Ingredient, ...], colourants: tuple[Ingredient, ...], base_mass_g: float,
    ready: Sequence[Ingredient], *, bounds: Bounds = UNBOUND,
) -> OutOfReach:  # fmt: skip
    """Why a colour is out of reach and what comes nearer.

    Parameters
    ----------
    target_lab, bases, colourants, base_mass_g, bounds : as of the search that did not reach it.
    ready : coatings sold in a colour, whether they are in the cupboard or not.
    """
    weights = (kitchen_weights(bases, max(base_mass_g, 1.0)),)
    high = replace(bounds, load=ABSURD)
    absurd = find_recipes(target_lab, bases, colourants, base_mass_g, weights, (), high)[0]
    found = []
    for base in ready:
        whites = tuple(b for b in bases if b.name != base.name)
        locked = replace(bounds, locked=(base.name,))
        recipe = find_recipes(target_lab, (base, *whites), colourants, base_mass_g, weights, (), locked)[0]
        found.append((base, recipe))
    found.sort(key=lambda pair: pair[1].de00)
    reason = "load" if absurd.de00 <= REACHABLE and absurd.load > bounds.load else "range"
    return OutOfReach(reason, absurd, tuple(found))
