"""shape.drips."""

from __future__ import annotations

from typing import Any

from coating.facade.fields import Number, Record
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


ENTRIES = (
    Entry("shape.drips", "drips round a tier, uneven by nature: gaps, lengths, grams", Record({
        "diameter_mm": Number("tier_mm"), "height_mm": Number("tier_height_mm"), "spacing_mm": Number("spacing_mm"),
        "variation": Number("variation"), "length_mm": Number("drip_mm"), "width_mm": Number("drip_width_mm"),
        "seed": Number("seed", 1, whole=True),
    }), _drips),
)  # fmt: skip
