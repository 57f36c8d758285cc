"""Allergens along what goes into a piece, and what may have got in from the same tools. Common practice, no source: the
label of each thing and local rules come first."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

ALLERGENS = ("milk", "soya", "nuts", "peanuts", "wheat", "sesame", "egg")


@dataclass(frozen=True)
class Contents:
    """What a piece contains, each with what brings it in; what it may contain from shared bowls and tools; and what in
    it nobody has said the contents of."""

    contains: tuple[tuple[str, tuple[str, ...]], ...]
    may_contain: tuple[str, ...]
    unsaid: tuple[str, ...] = ()

    @property
    def label(self) -> str:
        """The line for a label.

        >>> contents([("white coating", ("milk",))], [("bark", ("nuts", "milk"))]).label
        'Contains milk. May contain nuts.'
        """
        first = f"Contains {_listed(name for name, _ in self.contains)}." if self.contains else ""
        second = f"May contain {_listed(self.may_contain)}." if self.may_contain else ""
        third = f"Not said: what is in {_listed(self.unsaid)}." if self.unsaid else ""
        known = " ".join(part for part in (first, second, third) if part)
        return known or "No allergens are known of what is in it."


Thing = tuple[str, Iterable[str] | None]


def contents(things: Iterable[Thing], beside: Iterable[Thing] = ()) -> Contents:
    """Parameters
    ----------
    things : (name, allergens) of everything in the piece: core, bases, toppings, fillings, remelts; None where nobody
    has looked at the pack.
    beside : the same of whatever goes through the same bowls, bags, moulds and tables.
    """
    sources: dict[str, list[str]] = {}
    unsaid: list[str] = []
    for name, allergens in things:
        if allergens is None:
            unsaid.append(name[:1].lower() + name[1:])
        for allergen in allergens or ():
            sources.setdefault(allergen, []).append(name)
    inside = tuple((a, tuple(dict.fromkeys(sources[a]))) for a in _ordered(sources))
    shared = {a for _, allergens in beside for a in allergens or ()} - set(sources)
    return Contents(inside, tuple(_ordered(shared)), tuple(dict.fromkeys(unsaid)))


def contents_of_each(things: Mapping[int, Iterable[Thing]]) -> dict[int, Contents]:
    """The same for every piece of a job by its key: each may contain what is in any of the others."""
    listed = {key: [(name, None if a is None else tuple(a)) for name, a in mine] for key, mine in things.items()}
    of = {key: {a for _, allergens in mine for a in allergens or ()} for key, mine in listed.items()}
    count = Counter(a for mine in of.values() for a in mine)
    elsewhere = {key: [("", [a for a, n in count.items() if n > (a in mine)])] for key, mine in of.items()}
    return {key: contents(mine, elsewhere[key]) for key, mine in listed.items()}


def remelted(of: Mapping[str, Iterable[str]], into: Iterable[str]) -> tuple[str, ...]:
    """Allergens of a bowl into which leftovers were melted: its own and theirs."""
    return tuple(_ordered({*into, *(a for allergens in of.values() for a in allergens)}))


def _ordered(names: Iterable[str]) -> list[str]:
    known = {name: i for i, name in enumerate(ALLERGENS)}
    return sorted(names, key=lambda a: (known.get(a, len(known)), a))


def _listed(words: Iterable[str]) -> str:
    *first, last = list(words)
    return f"{', '.join(first)} and {last}" if first else last
