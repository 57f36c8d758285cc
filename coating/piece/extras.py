"""What goes on or into a piece and is no coating: toppings, fillings, dusts, picks; and fillings made as one batch."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from coating.errors import OutOfBounds
from coating.limits import check

EDIBLE, NON_TOXIC, UNSAID = "yes", "non_toxic", "unsaid"
BATCH_LOSS = 0.06  # of a batch stays in pan and bag; common practice, no source


@dataclass(frozen=True)
class Extra:
    """One of them. `each_g` : of what is counted. `allergens` : None until its pack was looked at.
    `edible` : "yes" (sold as food), "non_toxic" or "unsaid".
    `keeps_days` : from when it is made or opened. `cold` : only in the fridge. `small` : small or hard.
    `comes_out` : a pick that is taken out again. `parts` : its recipe as (name, g). `taste` : a key of
    `coating.plan.flavours.TASTES`."""

    kind: str
    name: str
    each_g: float | None = None
    allergens: tuple[str, ...] | None = ()
    edible: str = EDIBLE
    keeps_days: int | None = None
    cold: bool = False
    small: bool = False
    comes_out: bool = False
    parts: tuple[tuple[str, float], ...] = ()
    taste: str = ""


@dataclass(frozen=True)
class BatchOfFilling:
    """What to make: g that go in, g to make, and the recipe scaled to it, g."""

    goes_in_g: float
    make_g: float
    parts: tuple[tuple[str, float], ...]

    @property
    def lost_g(self) -> float:
        """What stays in the pot and in the bag, g."""
        return self.make_g - self.goes_in_g


def batch_of(goes_in_g: float, parts: Sequence[tuple[str, float]] = (), *, loss: float = BATCH_LOSS) -> BatchOfFilling:
    """A filling for all pieces at once, its recipe scaled so that nothing is short.

    >>> [(name, round(g)) for name, g in batch_of(188, [("white chocolate", 200), ("cream", 100)]).parts]
    [('white chocolate', 133), ('cream', 67)]

    Raises OutOfBounds for a recipe of nothing, or a loss of all of it.
    """
    check("total_g", goes_in_g)
    if not 0 <= loss < 1:
        raise OutOfBounds("The loss must be less than the whole batch.", field="loss", low=0, high=1)
    make_g = goes_in_g / (1 - loss)
    whole = sum(check("total_g", g, name) for name, g in parts)
    if parts and whole <= 0:
        raise OutOfBounds("The recipe has nothing in it.", field="parts")
    return BatchOfFilling(goes_in_g, make_g, tuple((name, g / whole * make_g) for name, g in parts))


def keeps_for(extras: Sequence[Extra], core_keeps_days: int | None = None) -> tuple[int, str] | None:
    """For how many days from making a piece can be eaten, and what decides it; None where nothing in it is known to
    spoil.

    >>> keeps_for([Extra("filling", "Cream", keeps_days=1), Extra("filling", "Jam", keeps_days=14)])
    (1, 'Cream')
    """
    days = [(e.keeps_days, e.name) for e in extras if e.keeps_days is not None]
    if core_keeps_days is not None:
        days.append((core_keeps_days, "the fruit"))
    return min(days) if days else None


# Invented examples to begin with; ratios and keeping are common practice, no source.
STARTING_EXTRAS: tuple[Extra, ...] = (
    Extra("topping", "Star sprinkles", 0.05, taste="sweet"),
    Extra("topping", "Sugar pearls", 0.3, small=True, taste="sweet"),
    Extra("topping", "Chopped hazelnuts", 0.4, ("nuts",), taste="nut"),
    Extra("topping", "Freeze-dried berries", 0.3, taste="berry"),
    Extra("topping", "Crushed pretzels", 0.3, ("wheat",), taste="salty"),
    Extra("topping", "Popping sugar", 0.2, ("milk",), taste="sweet"),
    Extra(
        "filling",
        "Soft ganache",
        allergens=("milk", "soya"),
        keeps_days=5,
        cold=True,
        taste="cream",
        parts=(("white chocolate", 200.0), ("cream", 100.0)),
    ),
    Extra(
        "filling",
        "Nut cream",
        allergens=("nuts", "milk", "soya"),
        keeps_days=14,
        taste="nut",
        parts=(("hazelnut paste", 150.0), ("white chocolate", 150.0)),
    ),
    Extra("filling", "Thick berry jam", keeps_days=14, taste="berry", parts=(("berries", 180.0), ("sugar", 120.0))),
    Extra(
        "filling",
        "Soft caramel",
        allergens=("milk",),
        keeps_days=14,
        taste="caramel",
        parts=(("sugar", 150.0), ("cream", 100.0), ("butter", 50.0)),
    ),
    Extra(
        "filling",
        "Whipped cream",
        allergens=("milk",),
        keeps_days=1,
        cold=True,
        taste="cream",
        parts=(("cream", 200.0), ("sugar", 20.0)),
    ),
    Extra(
        "icing",
        "White icing",
        allergens=("egg",),
        keeps_days=7,
        taste="sweet",
        parts=(("powdered sugar", 250.0), ("dried egg white", 8.0), ("water", 40.0)),
    ),
    Extra(
        "modelling",
        "White modelling chocolate",
        8.0,
        ("milk", "soya"),
        keeps_days=30,
        taste="sweet",
        parts=(("white chocolate", 200.0), ("glucose syrup", 60.0)),
    ),
    Extra("insert", "Whole hazelnut", 1.2, ("nuts",), small=True, taste="nut"),
    Extra("insert", "Biscuit", 6.0, ("wheat", "milk"), taste="sweet"),
    Extra("dust", "Pearl dust"),
    Extra("dust", "Craft glitter", edible=NON_TOXIC),
    Extra("leaf", "Silver leaf"),
    Extra("stick", "Paper stick"),
    Extra("stick", "Wooden pick", comes_out=True),
    Extra("mould", "My mould"),
    Extra("sheet", "Printed transfer sheet"),
)
