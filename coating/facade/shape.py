"""shape.drips, shape.lettering."""

from __future__ import annotations

from typing import Any

from coating.facade.fields import Choice, Number, Record, Text
from coating.facade.registry import Entry


def _drips(given: dict[str, Any]) -> dict[str, Any]:
    from coating.shape.grown_drips import grown_drips
    from coating.shape.pieces import CakeTier

    found = grown_drips(
        CakeTier(given["diameter_mm"], given["height_mm"]), spacing_mm=given["spacing_mm"],
        length_mm=given["length_mm"], width_mm=given["width_mm"], variation=given["variation"],
        seed=int(given["seed"]),
    )  # fmt: skip
    return {
        "gaps_mm": list(found.gaps_mm), "lengths_mm": list(found.lengths_mm), "widths_mm": list(found.widths_mm),
        "mass_g": found.mass_g, "top_g": found.top_g,
    }  # fmt: skip


def _lettering(given: dict[str, Any]) -> dict[str, Any]:
    from coating.shape.legible import legible
    from coating.shape.lettering import LIFT_S, letters

    text, face, cap_mm, line_mm = (given[name] for name in ("text", "face", "cap_mm", "line_mm"))
    found = letters(text, face=face, cap_mm=cap_mm)
    open_ = legible(text, face=face, cap_mm=cap_mm, line_mm=line_mm)
    drawing = found.drawing
    return {
        "length_mm": drawing.length_mm, "strokes": drawing.strokes, "lifts": drawing.lifts,
        "mass_g": drawing.mass_g(line_mm), "duration_s": drawing.duration_s(given["hand_speed_mm_s"], LIFT_S),
        "width_mm": found.advance_mm, "undrawable": list(found.undrawable), "blocks": bool(open_.blocked),
        "blocked_letters": list(open_.blocked), "smallest_cap_mm": open_.smallest_cap_mm,
    }  # fmt: skip


ENTRIES = (
    Entry("shape.drips", "drips round a tier, uneven by nature: gaps, lengths, grams", Record({
        "diameter_mm": Number("tier_mm"), "height_mm": Number("tier_height_mm"), "spacing_mm": Number("spacing_mm"),
        "variation": Number("variation"), "length_mm": Number("drip_mm"), "width_mm": Number("drip_width_mm"),
        "seed": Number("seed", 1, whole=True),
    }), _drips),
    Entry("shape.lettering", "a text piped in one line: length, strokes, grams, seconds, blocked letters", Record({
        "text": Text(most=200), "face": Choice(("futural", "cursive", "gothiceng", "timesi"), default="futural"),
        "cap_mm": Number("cap_mm"), "line_mm": Number("bead_mm"), "hand_speed_mm_s": Number("hand_speed_mm_s", 15.0),
    }), _lettering),
)  # fmt: skip
