"""What goes with what: the coat against what is inside, and a topping that announces it. Common practice, no source."""

from __future__ import annotations

from collections.abc import Sequence

from coating.piece.extras import Extra

TASTES = {
    "": "not said",
    "nut": "nutty",
    "berry": "sharp fruit",
    "caramel": "caramel",
    "cream": "mild and creamy",
    "salty": "salty",
    "sweet": "just sweet",
}
_INSIDE = ("filling", "insert")
_SAYS_SO = ("topping", "dust")


def flavours(white: str, extras: Sequence[Extra]) -> list[str]:
    """What to say of a piece: in `white` ("coating", "tempered" or "untempered"), with these on and in it."""
    inside = [e for e in extras if e.kind in _INSIDE and e.taste]
    outside = [e for e in extras if e.kind in _SAYS_SO]
    names = []
    for extra in inside:
        if not any(e.taste == extra.taste for e in outside):
            names.append(f"Nothing outside says {extra.name.lower()}: a {TASTES[extra.taste]} topping would.")
    tastes = {e.taste for e in inside}
    if white == "coating" and tastes & {"cream", "sweet"} and not tastes & {"berry", "caramel", "nut", "salty"}:
        names.append(
            "A mild filling under coating tastes of little: white chocolate carries it, or something sharp does."
        )
    if white != "coating" and tastes and tastes <= {"sweet", "caramel"}:
        names.append("Sweet inside and sweet outside: a salty or sharp topping lifts it.")
    if not inside and outside and all(e.taste in ("", "sweet") for e in outside):
        names.append("Sweet on sweet: something salty, nutty or sharp on top would be tasted first.")
    return names
