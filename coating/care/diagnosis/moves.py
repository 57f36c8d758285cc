"""What can be done about it, what it costs, what it mends and what it makes worse. Common practice, no source.

No move puts water in, and none is unsafe to do.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from coating.care.diagnosis.symptoms import DRIPS, LINES, ON_THE_PIECE, WHERE

NOW, NEXT_ONE, NEXT_TIME = "now", "next_one", "next_time"


@dataclass(frozen=True)
class Move:
    """One thing to do.

    Attributes
    ----------
    name : str
    minutes : float
        How long it takes.
    mends : mapping of str to float
        By cause, how much of the trouble it mends, 0 to 1.
    cost : float
        What it takes besides time, in the same measure.
    worse_for : tuple of str
        Causes it makes worse for good.
    only_for : tuple of str
        Symptoms for which there is such a thing; () for all.
    """

    name: str
    minutes: float
    mends: Mapping[str, float]
    cost: float = 0.0
    worse_for: tuple[str, ...] = ()
    only_for: tuple[str, ...] = ()

    def is_for(self, symptom: str) -> bool:
        """Whether there is such a thing where that is seen."""
        return not self.only_for or symptom in self.only_for


MOVES: tuple[Move, ...] = (
    Move("stir", 2, {"undermixed": 1, "powder": 0.5, "edge_set": 0.5, "lumps": 0.3, "fat_unmelted": 0.3}),
    Move(
        "warm",
        4,
        {"cold": 1, "lumps": 1, "fat_unmelted": 1, "edge_set": 1, "cold_bag": 0.5, "undermixed": 0.9, "powder": 0.6},
        worse_for=("overheated",),
    ),
    Move("cool", 10, {"too_warm": 1, "overheated": 0.1}),
    Move(
        "thin",
        6,
        {"thick_product": 1, "overheated": 0.5, "water": 0.3, "water_colour": 0.3, "cold": 0},
        cost=0.03,
        worse_for=(
            "cold",
            "lumps",
            "edge_set",
            "thin_product",
            "too_much_fat",
            "liquid_oil",
            "cold_bag",
            "fat_unmelted",
        ),
    ),
    Move("add_base", 10, {"too_much_fat": 1, "overdose": 0.6, "liquid_oil": 0.1}, cost=0.05),
    Move("correct", 8, {"overdose": 1, "underdose": 1, "wrong_hue": 1}, cost=0.03, worse_for=("undermixed",)),
    Move("temper", 50, {"lost_temper": 1, "never_tempered": 1, "chilled_hard": 0.6}, worse_for=("overheated",)),
    Move(
        "keep",
        1,
        {
            "water": 0.5,
            "water_colour": 0.5,
            "overheated": 0.5,
            "liquid_oil": 0.5,
            "mixed_fats": 0.5,
            "thin_product": 0.5,
            "too_much_fat": 0.4,
            "thick_product": 0.3,
            "overdose": 0.3,
            "wrong_hue": 0.3,
        },
        cost=0.25,
    ),
    Move(
        "swap",
        15,
        {
            "thin_product": 1,
            "thick_product": 0.9,
            "liquid_oil": 0.8,
            "mixed_fats": 0.8,
            "water": 0.6,
            "water_colour": 0.6,
            "overheated": 0.6,
        },
        cost=0.35,
    ),
    Move(
        "warm_bag",
        2,
        {"cold_bag": 1, "fat_unmelted": 0.7, "lumps": 0.7, "edge_set": 0.7, "cold": 0.5},
        worse_for=("overheated",),
        only_for=LINES,
    ),
    Move("cut_hole", 1, {"hole_small": 1}, only_for=LINES),
    Move("new_bag", 4, {"hole_big": 1, "lumps": 0.5, "fat_unmelted": 0.5}, only_for=LINES),
    Move(
        "squeeze_less",
        1,
        {"drip_big": 1, "too_warm": 0.4, "thin_product": 0.4, "wall_warm": 0.6, "too_much_fat": 0.4},
        only_for=DRIPS,
    ),
    Move("squeeze_more", 1, {"drip_small": 1, "wall_cold": 0.6, "cold": 0.3, "thick_product": 0.3}, only_for=DRIPS),
    Move("chill_wall", 20, {"wall_warm": 1, "too_warm": 0.3}, only_for=DRIPS),
    Move("warm_wall", 15, {"wall_cold": 1}, only_for=(*DRIPS, "cracks")),
    Move(
        "cold_place",
        15,
        {"warm_room": 1, "early_out": 0.9},
        worse_for=(
            "damp",
            "chilled_hard",
        ),
        only_for=ON_THE_PIECE,
    ),
    Move(
        "wait",
        12,
        {"early_out": 1, "stick_not_set": 1, "lifted_early": 1, "toppings_early": 1, "damp": 0.3},
        only_for=(*ON_THE_PIECE, "lace_tears"),
    ),
    Move("boxed", 30, {"damp": 1, "cold_core": 1, "chilled_hard": 0.6, "moist_core": 0.2}, only_for=ON_THE_PIECE),
    Move("dry_core", 10, {"moist_core": 1, "damp": 0.4}, only_for=ON_THE_PIECE),
    Move("shake", 1, {"not_shaken": 1, "not_scraped": 0.6}, only_for=ON_THE_PIECE),
    Move("scrape", 1, {"not_scraped": 1, "not_shaken": 0.5}, only_for=ON_THE_PIECE),
    Move("tap", 1, {"not_tapped": 1, "thick_product": 0.3}, only_for=ON_THE_PIECE),
    Move(
        "ease",
        8,
        {"mould_dirty": 1, "early_out": 0.5},
        only_for=(
            "stuck",
            "breaks_out",
            "corners",
            "no_print",
            "muddy",
            "first_plain",
        ),
    ),
    Move(
        "second_coat",
        15,
        {"thin_wall": 1, "thin_product": 0.5},
        worse_for=(
            "early_out",
            "damp",
        ),
        only_for=ON_THE_PIECE,
    ),
    Move("panels", 5, {"lifted_late": 1}, only_for=("lace_breaks",)),
    Move("turn_film", 2, {"print_away": 1}, only_for=("no_print",)),
    Move("stop_sooner", 1, {"overworked": 1}, only_for=("muddy",)),
    Move("order", 2, {"bottle_order": 1}, only_for=("first_plain",)),
    Move(
        "sooner",
        1,
        {"toppings_late": 1, "lifted_late": 0.4},
        only_for=(
            "toppings_fall",
            "lace_breaks",
        ),
    ),
    Move("thin_coats", 5, {"thick_paint": 1}, only_for=("paint_streaky",)),
    Move(
        "short_runs",
        2,
        {"bead_set": 1},
        only_for=(
            "joint_slips",
            "lace_breaks",
        ),
    ),
)

GIVING_UP = ("keep", "swap")
IN_THE_BOWL = ("stir", "warm", "cool", "thin", "add_base", "correct", "temper", *GIVING_UP)
_TOO_LATE = {"scrape", "tap", "turn_film", "order", "panels", "squeeze_less", "squeeze_more", "shake", "sooner"}
_NEXT_TIME = {"order", "turn_film", "stop_sooner"}


def mends_what(move: str, symptom: str) -> str:
    """Whether a move mends this piece or bowl ("now"), only the next one ("next_one"), or comes next time
    ("next_time")."""
    if move in _NEXT_TIME:
        return NEXT_TIME
    in_bowl = move in IN_THE_BOWL and symptom not in WHERE["bowl"]
    return NEXT_ONE if move in _TOO_LATE or in_bowl else NOW
