"""What is seen when something is wrong, and where."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

BOWL, PIECE, BAG, FILM, END = "bowl", "piece", "bag", "film", "end"

WHERE: Mapping[str, tuple[str, ...]] = MappingProxyType(
    {
        BOWL: (
            "clumpy",
            "thick",
            "thin",
            "stiffening",
            "grainy",
            "specks",
            "streaks",
            "too_dark",
            "too_pale",
            "wrong_tint",
            "burnt_smell",
        ),
        PIECE: (
            "coat_thick",
            "coat_thin",
            "slides",
            "cracks",
            "foot",
            "bubbles",
            "soft",
            "grey",
            "wet",
            "runs_together",
        ),
        BAG: ("line_stops", "line_breaks", "line_spreads", "drip_far", "drip_short", "lace_breaks", "lace_tears"),
        FILM: ("stuck", "breaks_out", "corners", "no_print", "muddy", "first_plain"),
        END: ("joint_slips", "paint_streaky", "toppings_fall", "toppings_sink"),
    }
)
SYMPTOMS: tuple[str, ...] = tuple(name for names in WHERE.values() for name in names)

# Symptoms at which what is done to a piece is thought of.
ON_THE_PIECE = (*WHERE[PIECE], *WHERE[FILM], *WHERE[END])
LINES = ("line_stops", "line_breaks", "line_spreads")
DRIPS = ("drip_far", "drip_short")
BOWL_SYMPTOMS = WHERE[BOWL]


def where_of(symptom: str) -> str:
    """The group a symptom stands in: "bowl", "piece", "bag", "film" or "end"."""
    return next(where for where, names in WHERE.items() if symptom in names)
