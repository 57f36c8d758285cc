"""What a maker can know of a label: wafers, a bar, chips, or one of the professional grades; and which to buy.

Trade numbers of grades are common practice, no source: about 27 thin for hollow shells, 37 general, 47 thick for
dipping by hand; bars near 45, coating wafers near 58, baking chips 60 to 70.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from coating.errors import WillNotFlow
from coating.flow.state import Conditions, flow_now
from coating.flow.windows import Window
from coating.heat.melting import working_temperature_c

OLDER_SCALE = 3.5  # an older reading is about so many times as high; common practice, no source


@dataclass(frozen=True)
class Grade:
    """A kind of label and the trade number it stands for (untempered, 40 degC); `sold` by that number."""

    name: str
    title: str
    number: float
    sold: bool = False


GRADES = (
    Grade("wafers", "a bag of wafers", 58.0),
    Grade("bar", "a bar", 45.0),
    Grade("chips", "baking chips", 65.0),
    Grade("thin", "professional, thin (27)", 27.0, sold=True),
    Grade("middle", "professional, middle (37)", 37.0, sold=True),
    Grade("thick", "professional, thick (47)", 47.0, sold=True),
)


def from_older_scale(reading: float) -> float:
    """Trade number of a reading on the older scale.

    >>> round(from_older_scale(130), 1)
    37.1
    """
    return reading / OLDER_SCALE


@lru_cache(maxsize=128)
def grades_for(window: Window, white: str) -> tuple[Grade, ...]:
    """Grades sold by number that are right for a technique at working temperature, as they are."""
    grades = []
    for grade in GRADES:
        if not grade.sold:
            continue
        kind = "coating" if white == "coating" else "chocolate"
        conditions = Conditions(
            grade.number, kind=kind, temperature_c=working_temperature_c(white), tempered=white == "tempered"
        )
        try:
            if window.verdict(flow_now(conditions), white) == "right":
                grades.append(grade)
        except WillNotFlow:
            continue
    return tuple(grades)
