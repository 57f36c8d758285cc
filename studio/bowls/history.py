"""The history of a bowl as lines to read, the last one first."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from coating.plan.colouring import EYES
from studio.bowls.adapters import Desk
from studio.bowls.models import BowlEvent
from studio.common.templatetags.kitchen import FLOW_VERBS, mass, until
from studio.common.types import Typed

TESTS = {"spread": "Spread test", "bag": "Bag test", "card": "Card test", "drip": "Test drip"}


@dataclass(frozen=True)
class HistoryLine:
    """One line: when, what, whether it was struck out, and whether it can be."""

    seq: int
    at: datetime
    text: str
    struck: bool
    can_strike: bool


def _text(event: BowlEvent, desk: Desk) -> str:
    data: Typed = event.payload
    match event.kind:
        case "added":
            row = desk.stock.by_id.get(data["ingredient"])
            return f"{data.get('typed', '')} {row.name if row else 'something'} added".strip()
        case "received":
            row = desk.stock.by_id.get(data["ingredient"])
            return f"{mass(data['mass_g'])} {row.name if row else 'something'} taken over"
        case "split":
            return f"{mass(data['mass_g'])} taken out for the {data.get('for', 'next bowl')}"
        case "warmed" | "cooled":
            verb = "Warmed" if event.kind == "warmed" else "Cooled"
            if "to_c" in data and (data.get("read") or data.get("typed") == "read"):
                return f"It {until(data['to_c']).removeprefix('it ')}"
            if "to_c" in data:
                return f"{verb} until {until(data['to_c'])}"
            half = " at half power" if data.get("power_fraction", 1) < 1 else ""
            return f"{data['seconds']:g} s in the microwave{half}"
        case "tested" if data.get("test") == "lumps":
            return "Smooth" if data["value"] <= 0 else "Still hard" if data.get("how") == "hard" else "Still lumpy"
        case "tested":
            if data.get("how") in TESTS:
                return f"{TESTS[data['how']]}: stands at {data['value']:.0f}"
            if data.get("how") == "spoon":
                return f"It {FLOW_VERBS[data['word']]}"
            return f"Flow number set to {data['value']:g}"
        case "read":
            return read_says(data)
        case "used":
            return used_text(data)
        case "remeasured":
            row = desk.stock.by_id.get(data["ingredient"])
            return f"{row.name if row else 'An ingredient'} measured anew"
        case "struck":
            struck = next((e for e in desk.rows if e.seq == data["target_seq"]), None)
            return f"Struck out: {_text(struck, desk) if struck else 'a line'}"
    return event.kind.capitalize()


def used_text(data: Typed) -> str:
    """What was used, and what of the rest was thrown away or put aside.

    >>> used_text({"mass_g": 120.0}), used_text({"mass_g": 0.0, "lost_g": 90.0})
    ('120 g used', 'Nothing used, 90 g thrown away')
    """
    used = f"{mass(data['mass_g'])} used" if data["mass_g"] else "Nothing used"
    rest = {"lost_g": "thrown away", "aside_g": "put aside"}
    return ", ".join([used, *(f"{mass(data[name])} {word}" for name, word in rest.items() if data.get(name))])


def read_says(data: Typed) -> str:
    """What was read or seen of a colour.

    >>> read_says({"how": "eyes", "word": "green", "much": True}), read_says({"how": "eyes", "word": "right"})
    ('It looks clearly too green', 'It looks right')
    >>> read_says({"how": "read"})
    'Its colour was read'
    """
    if data.get("how") != "eyes":
        return "Its colour was read"
    how = "" if data["word"] == "right" else "clearly " if data.get("much") else "a bit "
    return f"It looks {how}{EYES[data['word']]}"


def history(desk: Desk) -> list[HistoryLine]:
    """Lines of a bowl, newest first."""
    lines = []
    for event in sorted(desk.rows, key=lambda e: -e.seq):
        struck = event.struck_by_id is not None
        text = _text(event, desk)
        can = not struck and event.kind not in ("struck", "stirred", "remeasured") and desk.bowl.finished_at is None
        lines.append(HistoryLine(event.seq, event.happened_at, text, struck, can))
    return lines
