"""Allergens along what goes into a piece, and what may have got in from the same tools. Common practice, no source: the
label of each thing and local rules come first."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

ALLERGENS = ("milk", "soya", "nuts", "peanuts", "wheat", "sesame", "egg")


@dataclass(frozen=True)
class Contents:
    """What a piece contains, each with what brings it in; and what it may contain from shared bowls and tools."""

    contains: tuple[tuple[str, tuple[str, ...]], ...]
    may_contain: tuple[str, ...]

    @property
    def label(self) -> str:
        """The line for a label.

        >>> contents([("white coating", ("milk",))], [("bark", ("nuts", "milk"))]).label
        'Contains milk. May contain nuts.'
        """
        first = f"Contains {_listed(name for name, _ in self.contains)}." if self.contains else ""
        second = f"May contain {_listed(self.may_contain)}." if self.may_contain else ""
        return f"{first} {second}".strip() or "No allergens are known of what is in it."


def contents(things: Iterable[tuple[str, Iterable[str]]], beside: Iterable[tuple[str, Iterable[str]]] = ()) -> Contents:
    """Parameters
    ----------
    things : (name, allergens) of everything in the piece: core, bases, toppings, fillings, remelts.
    beside : the same of whatever goes through the same bowls, bags, moulds and tables.
    """
    found: dict[str, list[str]] = {}
    for name, allergens in things:
        for allergen in allergens:
            found.setdefault(allergen, []).append(name)
    inside = tuple((a, tuple(dict.fromkeys(found[a]))) for a in _ordered(found))
    shared = {a for _, allergens in beside for a in allergens} - set(found)
    return Contents(inside, tuple(_ordered(shared)))


def contents_of_each(things: Mapping[int, Iterable[tuple[str, Iterable[str]]]]) -> dict[int, Contents]:
    """The same for every piece of a job by its key: each may contain what is in any of the others."""
    listed = {key: [(name, tuple(allergens)) for name, allergens in mine] for key, mine in things.items()}
    of = {key: {a for _, allergens in mine for a in allergens} for key, mine in listed.items()}
    count = Counter(a for mine in of.values() for a in mine)
    elsewhere = {key: [("", [a for a, n in count.items() if n > (a in mine)])] for key, mine in of.items()}
    return {key: contents(mine, elsewhere[key]) for key, mine in listed.items()}


def remelted(of: Mapping[str, Iterable[str]], into: Iterable[str]) -> tuple[str, ...]:
    """Allergens of a bowl into which leftovers were melted: its own and theirs."""
    return tuple(_ordered({*into, *(a for allergens in of.values() for a in allergens)}))


def _ordered(found: Iterable[str]) -> list[str]:
    known = {name: i for i, name in enumerate(ALLERGENS)}
    return sorted(found, key=lambda a: (known.get(a, len(known)), a))


def _listed(words: Iterable[str]) -> str:
    *first, last = list(words)
    return f"{', '.join(first)} and {last}" if first else last
