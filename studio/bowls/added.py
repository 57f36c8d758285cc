"""An amount that goes into a bowl, as a line of its log."""

from __future__ import annotations

from coating.colour.mixing import Part
from studio.bowls.actions import Line
from studio.bowls.adapters import Desk, pins_of
from studio.common.templatetags.kitchen import UNIT_WORDS, amount_text


def added_line(desk: Desk, part: Part) -> Line:
    """What is counted is kept as it is counted, all else in g."""
    row = next(r for r in desk.stock.rows if r.code == part.ingredient.name)
    counted = row.kind in UNIT_WORDS
    amount = {"units": round(part.units)} if counted else {"mass_g": round(part.mass_g, 3)}
    return "added", {"ingredient": row.pk, "pins": pins_of(row), "typed": amount_text(part), **amount}
