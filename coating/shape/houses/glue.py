"""Gluing: grams of bead, how long a run before it skins, how long a part is held and propped; rows of sweets on an
edge."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from coating.errors import EmptyDrawing, OutOfBounds
from coating.flow.material import ORDINARY
from coating.heat.melting_curve import SPECIFIC_HEAT_LIQUID, TEMPERED_WORK_C
from coating.heat.setting import CONDUCTIVITY, DENSITY_KG_M3, setting_time
from coating.limits import check
from coating.shape.strokes import BEAD_HEIGHT

GLUE_C = {
    "coating": 32.0,
    "tempered": TEMPERED_WORK_C,
    "untempered": 29.0,
}  # near setting, so that it stays; common practice, no source
HAND_MM_S, SEAT_S, HOLD_S, HOLD_SMALL_S = 12.0, 5.0, 10.0, 4.0  # assumptions
LEAST_RUN_MM, MOST_RUN_MM = 40.0, 150.0  # a bead of less is not worth beginning, of more has skinned; common practice
_DENSITY = ORDINARY.density_kg_m3


@dataclass(frozen=True)
class Glue:
    """A bead for so much edge: g, minutes until it skins, the longest run before what was piped first has skinned, mm,
    how often to begin anew, seconds to hold a part, minutes to leave it propped."""

    mass_g: float
    skins_min: float
    run_mm: float
    runs: int
    hold_s: float
    prop_min: float


def skin_s(high_mm: float) -> float:
    """Seconds until a bead so high on a cold part has a skin, by conduction: h2/4a. Raises OutOfBounds.

    >>> round(skin_s(2.8))
    17
    """
    diffusivity = CONDUCTIVITY / (DENSITY_KG_M3 * SPECIFIC_HEAT_LIQUID)
    return (check("bead_mm", high_mm, "high_mm") / 1000) ** 2 / (4 * diffusivity)


def glue(glued_mm: float, bead_mm: float, *, white: str = "coating", room_c: float = 21.0) -> Glue:
    """Raises OutOfBounds where it is too warm to set, or for a value outside its bounds."""
    check("line_mm", glued_mm, "glued_mm"), check("bead_mm", bead_mm)
    high_mm = BEAD_HEIGHT * bead_mm
    skins_s = skin_s(high_mm)
    props = setting_time(high_mm, pour_c=GLUE_C[white], surround_c=room_c, white=white, sides=1.5)
    run_mm = min(MOST_RUN_MM, max(LEAST_RUN_MM, HAND_MM_S * (skins_s - SEAT_S)))
    section = math.pi / 4 * bead_mm**2 * BEAD_HEIGHT
    return Glue(
        section * glued_mm * _DENSITY * 1e-6,
        skins_s / 60,
        run_mm,
        max(1, math.ceil(glued_mm / run_mm)),
        HOLD_S,
        props.touch_min,
    )


@dataclass(frozen=True)
class SweetRow:
    """Sweets along an edge: how many, the gap between two, mm, and the colours in order."""

    count: int
    gap_mm: float
    colours: tuple[str, ...]

    def of(self, colour: str) -> int:
        """How many sweets of this colour are in the row."""
        return sum(c == colour for c in self.colours)


def sweets_along(edge_mm: float, sweet_mm: float, colours: Sequence[str], *, gap_mm: float = 0.0) -> SweetRow:
    """A row from end to end, the colours in turn, the same from both ends where that can be.

    Raises EmptyDrawing for no colour, OutOfBounds for an edge shorter than one.
    """
    check("line_mm", edge_mm, "edge_mm"), check("core_mm", sweet_mm, "sweet_mm"), check("kerf_mm", gap_mm, "gap_mm")
    if not colours:
        raise EmptyDrawing("Choose a colour for the sweets.", field="colours")
    count = math.floor((edge_mm + gap_mm) / (sweet_mm + gap_mm) + 1e-9)
    if count < 1:
        raise OutOfBounds(
            "Not even one sweet of {sweet_mm} fits along {edge_mm}.",
            sweet_mm=sweet_mm,
            edge_mm=edge_mm,
            field="sweet_mm",
        )
    gap = (edge_mm - count * sweet_mm) / (count - 1) if count > 1 else 0.0
    half = [colours[i % len(colours)] for i in range((count + 1) // 2)]
    return SweetRow(count, gap, (*half, *reversed(half[: count // 2])))
