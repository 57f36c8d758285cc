"""The same colour in several ways: nearest, with the fewest bottles, for the least money."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from types import MappingProxyType

from coating.colour.mixing import Ingredient, Part
from coating.colour.recipe import Lab, Recipe, find_recipes, kitchen_weights
from coating.colour.search.space import Bounds
from coating.colour.search.weights import Weights
from coating.errors import EmptyBowl

BEST, FEWEST, CHEAPEST = WAYS = ("best", "fewest", "cheapest")
USUAL, MATCHES = "usual", 2.0  # the fewest bottles that come within so many dE00, else the nearest
_PER_BOTTLE = 2.0  # dE00 that one bottle less is worth
_TENTH_OF_THE_PRICE = 1.0  # dE00 that a tenth of the price is worth
NO_PRICES: Mapping[str, float] = MappingProxyType({})


@dataclass(frozen=True)
class ColourWay:
    """How a maker wants a colour found: which way, what must be in, what must not, whether fats may mix."""

    way: str = USUAL
    locked: tuple[str, ...] = ()
    forbidden: tuple[str, ...] = ()
    mixed_fats: bool = False
    colourants: int = 3

    @property
    def bounds(self) -> Bounds:
        """What the search may use, as it takes it."""
        return Bounds(colourants=self.colourants, mixed_fats=self.mixed_fats, locked=self.locked)

    def allowed(self, ingredients: tuple[Ingredient, ...]) -> tuple[Ingredient, ...]:
        """Those that are not forbidden."""
        return tuple(i for i in ingredients if i.name not in self.forbidden)


ANY_WAY = ColourWay()


def weights_of(
    way: str, bases: tuple[Ingredient, ...], base_mass_g: float, prices: Mapping[str, float], *, adding: bool = False
) -> Weights:
    """Weights of a way; `prices` in any money per g by name, what has none counts nothing."""
    best = kitchen_weights(bases, max(base_mass_g, 1.0), adding=adding)
    if way == FEWEST:
        return replace(best, colourant=_PER_BOTTLE, base=_PER_BOTTLE, item=0.0)
    known = [prices[b.name] for b in bases if prices.get(b.name)]
    if way == CHEAPEST and known:
        scale = 10 * _TENTH_OF_THE_PRICE / (min(known) * max(base_mass_g, 1.0))
        return replace(best, per_g=tuple((name, price * scale) for name, price in sorted(prices.items())))
    return best


def recipe_in(
    target_lab: Lab,
    bases: tuple[Ingredient, ...],
    colourants: tuple[Ingredient, ...],
    base_mass_g: float,
    wanted: ColourWay,
    start: tuple[Part, ...] = (),
    prices: Mapping[str, float] = NO_PRICES,
) -> Recipe:
    """The recipe of one way; see `recipes_in_every_way`. The usual one has the fewest bottles that match to the eye,
    and is the nearest where none do; what is added to a bowl is the nearest."""
    if wanted.way == USUAL and not start:
        both = tuple(weights_of(way, bases, base_mass_g, prices) for way in (FEWEST, BEST))
        few, near = _found(target_lab, bases, colourants, base_mass_g, wanted, both)
        return few if few.de00 <= MATCHES else near
    ways = (weights_of(wanted.way, bases, base_mass_g, prices, adding=bool(start)),)
    return _found(target_lab, bases, colourants, base_mass_g, wanted, ways, start)[0]


def recipes_in_every_way(
    target_lab: Lab,
    bases: tuple[Ingredient, ...],
    colourants: tuple[Ingredient, ...],
    base_mass_g: float,
    wanted: ColourWay,
    prices: Mapping[str, float] = NO_PRICES,
) -> dict[str, Recipe]:
    """Recipes for a new bowl by way, in one search. Without prices of two bases or more there is no cheapest.

    Parameters
    ----------
    target_lab : wanted, CIELAB under D65. base_mass_g : g of base. wanted : what is locked, forbidden, allowed.
    prices : money per g by name of ingredient.

    Raises EmptyBowl : every base is forbidden, or more bases or colours are locked than a recipe may have.
    """
    names = [w for w in WAYS if w != CHEAPEST or any(prices.get(b.name) for b in bases)]
    ways = tuple(weights_of(w, bases, base_mass_g, prices) for w in names)
    return dict(zip(names, _found(target_lab, bases, colourants, base_mass_g, wanted, ways), strict=True))


def _found(
    target_lab: Lab,
    bases: tuple[Ingredient, ...],
    colourants: tuple[Ingredient, ...],
    base_mass_g: float,
    wanted: ColourWay,
    ways: tuple[Weights, ...],
    start: tuple[Part, ...] = (),
) -> tuple[Recipe, ...]:
    bases, colourants, bounds = wanted.allowed(bases), wanted.allowed(colourants), wanted.bounds
    here = {i.name for i in (*bases, *colourants)} - {p.ingredient.name for p in start}
    bounds = replace(bounds, locked=tuple(n for n in bounds.locked if n in here))
    locked_bases = sum(b.name in bounds.locked for b in bases)
    if locked_bases > bounds.bases or len(bounds.locked) - locked_bases > bounds.colourants:
        raise EmptyBowl(
            f"A recipe takes at most two bases and {bounds.colourants} colours. Say of fewer that they must go in.",
            field="locked",
        )
    if not start and not bases:
        raise EmptyBowl("Every base is left out, so there is nothing to colour.", field="forbidden")
    return find_recipes(target_lab, bases, colourants, float(round(base_mass_g)), ways, start, bounds)
