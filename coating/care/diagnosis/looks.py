"""What to look at where the cause is not certain: quick, harmless, one at a time. Common practice, no source."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from coating.care.diagnosis.cause import FLAT, Cause

CANNOT_TELL = "cannot_tell"


@dataclass(frozen=True)
class Look:
    """A look: minutes it takes, how often each answer is given where nothing speaks for another, and the symptoms it is
    asked for."""

    name: str
    minutes: float
    answers: Mapping[str, float]
    asked_for: tuple[str, ...]

    def likely(self, answer: str, cause: Cause) -> float:
        """How likely an answer is under a cause."""
        place = list(self.answers).index(answer)
        known = cause.looks.get(self.name)
        share = self.answers[answer] if known is None else known[place]
        return (1 - FLAT) * share + FLAT / len(self.answers)


_IN_A_BOWL = (
    "clumpy", "thick", "thin", "stiffening", "grainy", "specks", "streaks", "too_dark", "too_pale", "wrong_tint",
    "burnt_smell", "coat_thick", "coat_thin", "slides", "bubbles", "runs_together", "line_stops", "line_breaks",
    "line_spreads", "drip_far", "drip_short", "muddy", "joint_slips", "toppings_sink",
)  # fmt: skip

LOOKS: tuple[Look, ...] = (
    Look("lip", 0.5, {"warm": 0.3, "neither": 0.5, "cold": 0.2}, _IN_A_BOWL),
    Look(
        "squash",
        0.5,
        {"smooth": 0.75, "hard": 0.15, "sandy": 0.1},
        (
            "clumpy",
            "thick",
            "stiffening",
            "grainy",
            "specks",
            "line_stops",
            "streaks",
        ),
    ),
    Look("smell", 0.5, {"clean": 0.95, "caramel": 0.04, "burnt": 0.01}, _IN_A_BOWL),
    Look(
        "spoonful_warmed",
        2.5,
        {"loosens": 0.3, "same": 0.6, "worse": 0.1},
        (
            "clumpy",
            "thick",
            "stiffening",
            "grainy",
            "specks",
            "coat_thick",
            "line_stops",
            "drip_short",
            "line_breaks",
            "streaks",
        ),
    ),
    Look(
        "tip",
        0.5,
        {"lump": 0.1, "stiff": 0.2, "free": 0.7},
        (
            "line_stops",
            "line_breaks",
        ),
    ),
    Look(
        "stirred_on",
        1.5,
        {"gone": 0.1, "fewer": 0.2, "same": 0.7},
        (
            "streaks",
            "specks",
            "too_pale",
            "grainy",
        ),
    ),
    Look(
        "finger",
        0.5,
        {"snaps": 0.7, "bends": 0.2, "smears": 0.1},
        (
            "cracks",
            "soft",
            "grey",
            "wet",
            "stuck",
            "breaks_out",
            "no_print",
            "foot",
            "paint_streaky",
            "lace_breaks",
            "lace_tears",
        ),
    ),
    Look(
        "wipe",
        0.5,
        {"off": 0.2, "stays": 0.8},
        (
            "grey",
            "wet",
            "paint_streaky",
        ),
    ),
    Look(
        "water_seen",
        0.5,
        {"yes": 0.04, "no": 0.96},
        (
            "clumpy",
            "stiffening",
            "grainy",
            "thick",
            "wet",
            "slides",
            "coat_thin",
            "bubbles",
            "grey",
        ),
    ),
    Look("stick_turns", 0.5, {"yes": 0.25, "no": 0.75}, ("slides",)),
    Look("back", 0.5, {"shiny": 0.6, "bare": 0.4}, ("no_print",)),
    Look(
        "wall_touch",
        0.5,
        {"cold": 0.45, "cool": 0.4, "room": 0.15},
        (
            "drip_far",
            "drip_short",
        ),
    ),
)
