"""What is done with a transfer sheet, and when: cut at half-set, peel when set."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from coating.heat.setting import Pliable, Setting
from coating.steps import CUTS, DULL, HALF_SET, KNIFE_AGE, SET, WET, Step
from studio.common.types import Typed
from studio.designs.kinds.words import many, mm, size

# Hands for a sheet, a piece, a cavity, s; assumptions.
SPREAD_S, LIFT_S, CUT_S, PEEL_S, FILL_S = 60.0, 10.0, 4.0, 4.0, 8.0
STRIP_S, ON_STRIP_S, SHAPE_S = 10.0, 20.0, 30.0
ROUGH = Step(
    "Rub a fingertip over the sheet: the side that feels rough is printed, and lies against the chocolate, whichever "
    "way up that is.",
    5.0,
    warm=False,
    looks="the printed side up, dry and without a crease",
)
PEEL = "Peel the film when it lets go by itself at a corner."
CAVITY_LONGER = 2.5  # a cavity sets that much slower than a sheet as thick; an assumption


@dataclass(frozen=True)
class CutPieces:
    """What is cut: how many in all, how many on one dessert (0: not round one), size on the film, g of each."""

    count: int
    on_one: int
    gap_mm: float
    wide_mm: float
    high_mm: float
    each_g: float


def steps_of(values: Typed, cut: CutPieces, sheets: int, window: Pliable, sets: Setting) -> Sequence[Step]:
    """From the film to the piece.

    Parameters
    ----------
    values : the form. cut : what is cut. sheets : of film. window : when it bends. sets : when it is set.
    """
    if values["cut"] == "frame":
        return _framed(int(values["count"]), cut, sets, values["where"])
    if values["cut"] in ("sleeve", "loop"):
        return _strips(values, cut, window, sets)
    return _panels(values, cut, sheets, window, sets)


def _framed(cavities: int, cut: CutPieces, sets: Setting, where: str) -> list[Step]:
    return [
        ROUGH,
        Step(f"Cut {many(cut.count, 'film')} of {size(cut.wide_mm, cut.high_mm)}.", 20.0 * cut.count, warm=False),
        Step(f"Lay a film into each frame, print up, and fill the {cavities} cavities; tap.", FILL_S * cavities, WET),
        Step("Open the frame. " + PEEL, PEEL_S * cavities, SET, CAVITY_LONGER * sets.release_min, None, where),
    ]


def _strips(values: Typed, cut: CutPieces, window: Pliable, sets: Setting) -> list[Step]:
    sleeve, where = values["cut"] == "sleeve", values["where"]
    wet_min = window.from_min / 2
    shaped = (
        "Roll a straight vessel over it, press the ends together, trim the edges."
        if sleeve
        else "Drape it over its piece, film outside, and trim it to its length."
    )
    return [
        ROUGH,
        Step(
            f"Cut {many(cut.count, 'strip')} of film, {size(cut.wide_mm, cut.high_mm)}.",
            STRIP_S * cut.count,
            warm=False,
        ),
        Step(f"Spread each {mm(values['thickness_mm'])} thin, print up.", ON_STRIP_S * cut.count),
        Step(shaped, SHAPE_S * cut.count, WET, wet_min, window.until_min, where),
        Step(
            ("Ease the vessel out. " if sleeve else "") + PEEL,
            PEEL_S * cut.count,
            SET,
            max(0.0, sets.release_min - wet_min),
            None,
            where,
        ),
    ]


def _panels(values: Typed, cut: CutPieces, sheets: int, window: Pliable, sets: Setting) -> list[Step]:
    where, disc = values["where"], values["cut"] == "disc"
    how = "Stamp them out" if disc else "Rule and cut them from edge to edge with the tip of a knife"
    bent = values["around"] == "bent" and cut.on_one > 0
    then = "and bend them over a vessel of that size" if bent else "lay a board on them, so that they stay flat"
    lift_min = 0.6 * window.from_min
    which = f"{sheets} sheets" if sheets > 1 else "the sheet"
    each = f"{mm(cut.wide_mm)} across" if disc else size(cut.wide_mm, cut.high_mm)
    return [
        ROUGH,
        Step(
            f"Lay {which} print up, plain film beside where panels stay plain; spread {mm(values['thickness_mm'])} "
            "thin and even, a little over the edge.",
            SPREAD_S * sheets,
        ),
        Step(
            "Lift it to clean paper, so that its edges are crisp.",
            LIFT_S * sheets,
            HALF_SET,
            lift_min,
            window.until_min,
            where,
            looks=DULL,
        ),
        Step(
            f"{how}, {each}; {then}.",
            CUT_S * cut.count,
            HALF_SET,
            window.from_min - lift_min,
            max(window.from_min, window.until_min - lift_min),
            where,
            looks=CUTS,
            from_age=KNIFE_AGE,
        ),
        Step(PEEL, PEEL_S * cut.count, SET, max(0.0, sets.release_min - window.from_min), None, where),
    ]
