"""The bowls of a job in turn, light to dark: what is left of one becomes the next, where adding alone gets it there.

in = goes on + lost + left, over all bowls of the job.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

from coating.colour.mixing import BASE, Ingredient, Part, main_base, merge, mix
from coating.colour.recipe import Lab, Recipe, find_recipe, recipe_of
from coating.colour.spectra import Curve
from coating.errors import EmptyBowl

KEEPS_DAYS = 60  # poured on paper, broken up, dry and dark; common practice, no source
CLOSE, WORSE = 2.0, 0.5  # dE00: good enough, or so little worse than a fresh bowl
LEAST_G = 5.0  # less than that is not worth pouring over
TRIED = 2  # leftovers tried for each bowl, the last ones first


def as_base(name: str, title: str, parts: Sequence[Part], *, number: float, fat_fraction: float) -> Ingredient:
    """What is left of a bowl as a base of its own, which looks, flows and melts as the bowl did.

    Parameters
    ----------
    name, title : key, and what it is called. parts : of the bowl, g. number : its flow number as it was mixed.
    fat_fraction : of all of it.

    Raises
    ------
    EmptyBowl : there is no base in it.
    """
    main = main_base(parts)
    if main is None:
        raise EmptyBowl("There is no base in it.", field="parts")
    whole = mix(parts)
    plain = all(p.ingredient.is_base and p.ingredient.sort == main.sort for p in whole.parts)
    sort = main.sort if plain or main.sort in ("milk", "dark") else "coloured"
    return Ingredient(
        name,
        title,
        BASE,
        Curve(samples=tuple(map(float, whole.absorption))),
        Curve(samples=tuple(map(float, whole.scattering))),
        main.family,
        fat_fraction=fat_fraction,
        number=number,
        k_per_s=main.k_per_s,
        sort=sort,
        piece_g=0.0,
    )


def begun_with(
    rest: Part,
    target_lab: Lab | None,
    melt_g: float,
    base: Ingredient,
    colourants: tuple[Ingredient, ...],
    fresh: Recipe | None,
) -> Recipe | None:
    """A bowl that begins with what is left of another, filled up with a base; None where it does not do.

    Parameters
    ----------
    rest : what is left, g. target_lab : wanted; None: plain. melt_g : g in all. base : what fills it up. colourants :
    what may be stirred in. fresh : the recipe without it; None for plain.
    """
    held = Part(rest.ingredient, min(rest.mass_g, float(round(melt_g))))
    more_g = float(round(melt_g)) - held.mass_g
    filled = (held, Part(base, more_g)) if more_g >= 1 else (held,)
    if target_lab is None:
        return recipe_of(filled, mix(filled).lab()) if rest.ingredient.sort == base.sort else None
    colour = find_recipe(target_lab, (), colourants, 0.0, filled)
    whole = recipe_of(merge((*filled, *colour.parts)), target_lab)
    return whole if whole.de00 <= max(CLOSE, (fresh.de00 if fresh else 0.0) + WORSE) else None


@dataclass(frozen=True)
class WantedBowl:
    """A bowl that is wanted: its name, its colour (None: plain), what it is made of fresh, and what of that is used up,
    g."""

    name: str
    lab: Lab | None
    parts: tuple[Part, ...]
    used_g: float
    never_after: frozenset[str] = frozenset()  # bowls that are used after it: what is left of them comes too late

    @property
    def melt_g(self) -> float:
        """What is in it."""
        return sum(p.mass_g for p in self.parts)

    @cached_property
    def fresh(self) -> Recipe:
        """Made without what is left of another."""
        return recipe_of(self.parts, self.lab or mix(self.parts).lab())


@dataclass(frozen=True)
class Turn:
    """A bowl in its turn. `after` : the bowl whose rest it begins with, "" for a fresh one; `brought_g` of that;
    `recipe` what is stirred in besides (its parts in g, and the colour it comes to); `left_g` what is over then."""

    wanted: WantedBowl
    after: str
    brought_g: float
    recipe: Recipe
    left_g: float

    @property
    def fresh_g(self) -> float:
        """What is melted for it besides what is brought."""
        return sum(p.mass_g for p in self.recipe.parts)

    @property
    def de00(self) -> float | None:
        """How far it is from its colour; None for plain."""
        return None if self.wanted.lab is None else self.recipe.de00


@dataclass
class _Rest:
    """What is still in a bowl that was used."""

    name: str
    parts: tuple[Part, ...]
    grams: float


@lru_cache(maxsize=64)
def in_turn(wanted: tuple[WantedBowl, ...], colourants: tuple[Ingredient, ...]) -> tuple[Turn, ...]:
    """The bowls of one white in the order to make them: light to dark, what lies over another after it."""
    rests: list[_Rest] = []
    turns = []
    for bowl in _in_order(wanted):
        turn, parts, rest = _turn(bowl, rests, colourants)
        if rest is not None:
            rest.grams -= turn.brought_g
        turns.append(turn)
        rests.append(_Rest(bowl.name, parts, turn.left_g))
    return tuple(turns)


def _in_order(wanted: Sequence[WantedBowl]) -> list[WantedBowl]:
    """Light to dark, but each before what is used after it; where two are used after each other, the lighter first."""
    left, ordered = sorted(wanted, key=lambda w: (-(w.lab[0] if w.lab else 101.0), w.name)), list[WantedBowl]()
    while left:
        free = (b for b in left if not any(b.name in other.never_after for other in left if other is not b))
        left.remove(bowl := next(free, left[0]))
        ordered.append(bowl)
    return ordered


def _turn(
    bowl: WantedBowl, rests: Sequence[_Rest], colourants: tuple[Ingredient, ...]
) -> tuple[Turn, tuple[Part, ...], _Rest | None]:
    melt_g, fresh = bowl.melt_g, bowl.fresh
    for rest in [r for r in reversed(rests) if r.grams >= LEAST_G and r.name not in bowl.never_after][:TRIED]:
        brought_g = min(rest.grams, melt_g)
        held = _share(rest.parts, brought_g)
        added = _instead_of_base(fresh, held) or _onto(bowl, held, melt_g - brought_g, colourants)
        if added is not None and added.de00 <= max(CLOSE, fresh.de00 + WORSE):
            whole = merge((*held, *added.parts))
            return _used(bowl, rest.name, brought_g, added), whole, rest
    return _used(bowl, "", 0.0, fresh), fresh.parts, None


def _used(bowl: WantedBowl, after: str, brought_g: float, recipe: Recipe) -> Turn:
    inside_g = brought_g + sum(p.mass_g for p in recipe.parts)
    return Turn(bowl, after, brought_g, recipe, inside_g - bowl.used_g)


def _instead_of_base(fresh: Recipe, held: tuple[Part, ...]) -> Recipe | None:
    """A plain rest takes the place of as much fresh base; None where it is not plain, or another base is wanted."""
    have = {p.ingredient: p.mass_g for p in held}
    wanted = {p.ingredient: p.mass_g for p in fresh.parts if p.ingredient.is_base}
    if any(wanted.get(i, 0.0) < g for i, g in have.items()):
        return None
    less = tuple(Part(p.ingredient, p.mass_g - have.get(p.ingredient, 0.0)) for p in fresh.parts)
    return replace(fresh, parts=tuple(p for p in less if p.mass_g > 1e-9))


def _onto(bowl: WantedBowl, held: tuple[Part, ...], more_g: float, colourants: tuple[Ingredient, ...]) -> Recipe | None:
    """What is stirred into what is left: base up to the amount, then colour; None for plain from coloured."""
    base = max((p for p in held if p.ingredient.is_base), key=lambda p: p.mass_g).ingredient
    top_up = (Part(base, more_g),) if more_g > 0 else ()
    if bowl.lab is None:
        plain = all(p.ingredient.is_base for p in held)
        return recipe_of(top_up, mix(held).lab(), held) if plain else None
    colour = find_recipe(bowl.lab, (), colourants, 0.0, merge((*held, *top_up)))
    return recipe_of(merge((*top_up, *colour.parts)), bowl.lab, held)


def _share(parts: tuple[Part, ...], grams: float) -> tuple[Part, ...]:
    whole = sum(p.mass_g for p in parts)
    return tuple(Part(p.ingredient, p.mass_g * grams / whole) for p in parts)
