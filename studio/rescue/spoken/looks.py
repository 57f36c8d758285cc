"""Looks, as they are asked: what to do, and what each answer is called."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType


@dataclass(frozen=True)
class AskedLook:
    """`says` : what to do. `answers` : how each is called. `points` : of each answer, how a sentence begins that says
    what it speaks for."""

    says: str
    answers: Mapping[str, str]
    points: Mapping[str, str]


_HOT = "Let a dab cool on a clean spoon, then touch it to your lip. Not on what you sell, and not with children."
LOOKS: Mapping[str, AskedLook] = MappingProxyType(
    {
        "lip": AskedLook(
            _HOT,
            {"warm": "hot", "neither": "as warm as skin", "cold": "cool"},
            {"warm": "A hot dab", "neither": "A dab as warm as skin", "cold": "A cool dab"},
        ),
        "squash": AskedLook(
            "Squash a lump between two fingers.",
            {"smooth": "smears smooth", "hard": "stays hard", "sandy": "feels sandy"},
            {"smooth": "A lump that smears smooth", "hard": "A lump that stays hard", "sandy": "A sandy lump"},
        ),
        "smell": AskedLook(
            "Smell it.",
            {"clean": "smells as usual", "caramel": "smells of caramel", "burnt": "smells burnt"},
            {"clean": "A clean smell", "caramel": "A smell of caramel", "burnt": "A burnt smell"},
        ),
        "spoonful_warmed": AskedLook(
            "Put two spoonfuls in a cup, warm them for five seconds, and stir.",
            {"loosens": "they loosen", "same": "no change", "worse": "they get worse"},
            {
                "loosens": "Two spoonfuls that loosen when warmed",
                "same": "Two spoonfuls that stay as they are when warmed",
                "worse": "Two spoonfuls that get worse when warmed",
            },
        ),
        "tip": AskedLook(
            "Pinch the tip of the bag.",
            {"lump": "a hard lump in it", "stiff": "stiff all over", "free": "nothing in the way"},
            {"lump": "A lump in the tip", "stiff": "A tip that is stiff all over", "free": "A tip with nothing in it"},
        ),
        "stirred_on": AskedLook(
            "Stir for a minute more, down to the bottom.",
            {"gone": "it is gone", "fewer": "it is less", "same": "no change"},
            {
                "gone": "What a minute of stirring takes away",
                "fewer": "What stirring makes less",
                "same": "What stirring leaves as it is",
            },
        ),
        "finger": AskedLook(
            "Bend a smear that set on paper, not a piece you sell.",
            {"snaps": "it snaps", "bends": "it bends", "smears": "it smears"},
            {"snaps": "A smear that snaps", "bends": "A smear that bends", "smears": "A smear that stays soft"},
        ),
        "wipe": AskedLook(
            "Wipe over it with a dry finger.",
            {"off": "it wipes off", "stays": "it stays"},
            {"off": "What wipes off", "stays": "What does not wipe off"},
        ),
        "water_seen": AskedLook(
            "Look for drops: on the piece, the spoon, the rim and under the bowl.",
            {"yes": "there is water", "no": "all dry"},
            {"yes": "Water that you can see", "no": "No water anywhere"},
        ),
        "stick_turns": AskedLook(
            "Tilt the piece. Does the stick move in it?",
            {"yes": "the stick moves", "no": "it sits tight"},
            {"yes": "A stick that moves", "no": "A stick that sits tight"},
        ),
        "back": AskedLook(
            "Look at the sheet you pulled off.",
            {"shiny": "its print is still on it", "bare": "it is bare"},
            {"shiny": "A sheet with its print still on", "bare": "A bare sheet"},
        ),
        "wall_touch": AskedLook(
            "Lay a hand on the side of the cake.",
            {"cold": "as cold as ice", "cool": "cool", "room": "as warm as the room"},
            {"cold": "A side as cold as ice", "cool": "A cool side", "room": "A side as warm as the room"},
        ),
    }
)
UNSURE = "I cannot tell"
