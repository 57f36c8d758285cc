"""plan.quantities."""

from __future__ import annotations

import math
from typing import Any

from coating.errors import MissingField
from coating.facade.fields import Choice, Many, Number, Record, Text
from coating.facade.registry import Entry
from coating.flow.windows import WINDOWS
from coating.piece.amounts import BAG_HOLDS_G
from coating.piece.layers import BEAD_HEIGHT, DENSITY, FILM, LINE, TECHNIQUES, Technique, film_mm
from coating.plan.quantities import BAG_LOSS_G, BOWL_LOSS_G

_REACH_MM = 30.0  # how far below its line an area of a dip lies on average, where nothing else is known
# A window that is no layer of its own is the layer it belongs to.
_OF_WINDOW = {
    "dip_fruit": "dip",
    "balls": "dip",
    "solid_mould": "solid",
    "outline": "flood",
    "sheet": "transfer",
    "coarse_mould": "solid",
    "small_face": "flood",
    "slab": "spread",
}
_NAMES = tuple(dict.fromkeys([*TECHNIQUES, *(w.technique for w in WINDOWS)]))
LAYER = Record({
    "technique": Choice(_NAMES), "colour": Text(), "area_mm2": Number("area_mm2", None),
    "length_mm": Number("line_mm", None), "volume_ml": Number("volume_ml", None),
    "goes_on_g": Number("mass_g", None),
})  # fmt: skip


def _kind(name: str) -> tuple[Technique, str]:
    """The technique, and the window its film is taken from."""
    kind = TECHNIQUES[_OF_WINDOW.get(name, name)]
    return kind, name if name in _OF_WINDOW else kind.window


def _on_one_g(layer: dict[str, Any], path: str) -> float:
    kind, window = _kind(layer["technique"])
    if layer["goes_on_g"] is not None:
        return float(layer["goes_on_g"])
    if layer["volume_ml"] is not None:
        return float(layer["volume_ml"]) * DENSITY * 1e-3
    if layer["length_mm"] is not None:
        wide = kind.width_mm if kind.measured == LINE else 2.0
        return math.pi / 4 * wide**2 * BEAD_HEIGHT * float(layer["length_mm"]) * DENSITY * 1e-6
    if layer["area_mm2"] is not None:
        thick = film_mm(window, _REACH_MM) if kind.measured == FILM else kind.thickness_mm
        return float(layer["area_mm2"]) * thick * DENSITY * 1e-6
    raise MissingField("Say its area, its length, its volume or how much goes on.", field=f"{path}.area_mm2")


def _quantities(given: dict[str, Any]) -> dict[str, Any]:
    found: dict[str, dict[str, Any]] = {}
    for i, piece in enumerate(given["pieces"]):
        for j, layer in enumerate(piece["layers"]):
            one_g = _on_one_g(layer, f"pieces[{i}].layers[{j}]")
            row = found.setdefault(
                layer["colour"], {"colour": layer["colour"], "goes_on_g": 0.0, "spare_g": 0.0, "bagged_g": 0.0}
            )
            row["goes_on_g"] += one_g * piece["count"]
            row["spare_g"] += one_g * piece["spares"]
            if _kind(layer["technique"])[0].bag:
                row["bagged_g"] += one_g * (piece["count"] + piece["spares"])
    for row in found.values():
        row["bags"] = math.ceil(row.pop("bagged_g") / BAG_HOLDS_G - 1e-9)
        takes = row["goes_on_g"] + row["spare_g"] > 0
        row["lost_g"] = given["bowl_loss_g"] + row["bags"] * given["bag_loss_g"] if takes else 0.0
        row["melt_g"] = row["goes_on_g"] + row["lost_g"] + row["spare_g"]
    return {"colours": list(found.values())}


ENTRIES = (
    Entry("plan.quantities", "what each colour of a job takes: goes on, spares, lost, melt",
          Record({"pieces": Many(Record({"count": Number("count", whole=True),
                                         "spares": Number("spares", 0.0, whole=True), "layers": Many(LAYER, most=40)})),
                  "bowl_loss_g": Number("mass_g", BOWL_LOSS_G), "bag_loss_g": Number("mass_g", BAG_LOSS_G)}),
          _quantities),
)  # fmt: skip
