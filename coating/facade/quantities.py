"""plan.quantities: areas, lengths and volumes by colour, through the one reckoning."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

from coating.errors import MissingField
from coating.facade.fields import Choice, ListOf, Number, Record, Text
from coating.facade.learned import FACTORS
from coating.facade.registry import Entry
from coating.facade.techniques import NAMES, OF_WINDOW
from coating.flow.windows import window
from coating.job import Kitchen, Piece, Shelf, Wanted, reckon
from coating.job.bowls import BOWL_LOSS_G
from coating.job.ranges import goes_on_range
from coating.learning.factors import Factors
from coating.piece.cores import Sheet
from coating.shape.bag import BAG_HOLDS_G, BAG_LOSS_G
from coating.stack.layers import Layer
from coating.techniques import TECHNIQUES
from coating.techniques.base import FILM, LINE, SPREAD
from coating.techniques.measures import DENSITY, bead_g, film_mm

_REACH_MM = 30.0  # how far below its line an area of a dip lies on average, where nothing else is known
_LAYER = Record(
    {
        "technique": Choice(NAMES),
        "colour": Text(),
        "area_mm2": Number("area_mm2", None),
        "length_mm": Number("line_mm", None),
        "volume_ml": Number("volume_ml", None),
        "goes_on_g": Number("mass_g", None),
    }
)


def _measured(layer_values: dict[str, Any], name: str, path: str, factors: Factors) -> Layer:
    """A layer of which only its area, length, volume or grams are known, as this hand leaves it; what was typed is left
    alone. Raises MissingField."""
    layer = Layer(OF_WINDOW.get(layer_values["technique"], layer_values["technique"]), layer_values["colour"], id=name)
    if layer_values["goes_on_g"] is not None:
        return replace(layer, goes_on_g=layer_values["goes_on_g"])
    if layer_values["volume_ml"] is not None:
        return replace(layer, goes_on_g=layer_values["volume_ml"] * DENSITY * 1e-3)
    if layer_values["length_mm"] is not None:
        wide = layer.kind.width_mm if layer.kind.measured == LINE else 2.0
        return replace(layer, goes_on_g=factors.hole**2 * bead_g(layer_values["length_mm"], wide))
    if layer_values["area_mm2"] is not None:
        window_of = layer_values["technique"] if layer_values["technique"] in OF_WINDOW else layer.kind.window or "dip"
        thick = film_mm(window(window_of).aim, _REACH_MM) if layer.kind.measured == FILM else layer.kind.thickness_mm
        thick *= factors.coat(layer_values["technique"]) if layer.kind.measured in (FILM, SPREAD) else 1.0
        return replace(layer, goes_on_g=layer_values["area_mm2"] * thick * DENSITY * 1e-6)
    raise MissingField("Give its area, its length, its volume or how much goes on.", field=f"{path}.area_mm2")


def _quantities(given: dict[str, Any]) -> dict[str, Any]:
    """By colour: what goes on, on the spares, lost; melted without a bowl that is rounded up or kept deep."""
    pieces = tuple(
        Piece(
            f"{i}",
            "shape",
            Sheet(10, 10),
            int(piece["count"]),
            tuple(
                _measured(la, f"{i}.{j}", f"pieces[{i}].layers[{j}]", given["factors"])
                for j, la in enumerate(piece["layers"])
            ),
            int(piece["spares"]),
        )
        for i, piece in enumerate(given["pieces"])
    )
    totals: dict[str, dict[str, Any]] = {}
    bagged: dict[str, float] = {}
    typed = {
        f"{i}.{j}": layer["goes_on_g"] is not None or layer["volume_ml"] is not None
        for i, piece in enumerate(given["pieces"])
        for j, layer in enumerate(piece["layers"])
    }
    lines = [
        replace(line, typed=typed[line.layer], bowl=line.colour or "plain")
        for line in reckon(Wanted(pieces), Kitchen(), Shelf(), steps=False).lines
    ]
    for line in lines:
        row = totals.setdefault(line.colour, {"colour": line.colour, "goes_on_g": 0.0, "spare_g": 0.0})
        row["goes_on_g"] += line.goes_on_g
        row["spare_g"] += line.spare_g
        bagged[line.colour] = bagged.get(line.colour, 0.0) + (line.made_g if TECHNIQUES[line.technique].bag else 0.0)
    for colour, row in totals.items():
        row["bags"] = math.ceil(bagged[colour] / BAG_HOLDS_G - 1e-9)
        takes = row["goes_on_g"] + row["spare_g"] > 0
        row["lost_g"] = given["bowl_loss_g"] + row["bags"] * given["bag_loss_g"] if takes else 0.0
        row["melt_g"] = row["goes_on_g"] + row["lost_g"] + row["spare_g"]
        mine = [line for line in lines if line.colour == colour]
        row["low_goes_on_g"], row["high_goes_on_g"] = goes_on_range(mine, given["factors"])
    return {"colours": list(totals.values())}


ENTRIES = (
    Entry(
        "plan.quantities",
        "what each colour of a job takes: goes on, spares, lost, melt",
        Record(
            {
                "pieces": ListOf(
                    Record(
                        {
                            "count": Number("count", whole=True),
                            "spares": Number("spares", 0.0, whole=True),
                            "layers": ListOf(_LAYER, most=40),
                        }
                    )
                ),
                "bowl_loss_g": Number("mass_g", BOWL_LOSS_G),
                "factors": FACTORS,
                "bag_loss_g": Number("mass_g", BAG_LOSS_G),
            }
        ),
        _quantities,
    ),
)
