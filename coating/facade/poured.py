"""shape.marble, shape.bottle, shape.transfer, shape.ring."""

from __future__ import annotations

from typing import Any

from coating.errors import MissingField
from coating.facade.fields import Choice, Flag, ListOf, Number, Record, Text, Vector
from coating.facade.registry import Entry

_NEEDS = {
    "drop": ("x_mm", "y_mm", "radius_mm", "colour"),
    "tine": ("x_mm", "y_mm", "angle_deg", "shift_mm", "half_distance_mm"),
    "comb": ("angle_deg", "spacing_mm", "shift_mm", "half_distance_mm"),
    "wave": ("angle_deg", "amplitude_mm", "wavelength_mm"),
    "circle": ("x_mm", "y_mm", "radius_mm", "shift_mm", "half_distance_mm"),
}
_OPERATION = Record(
    {
        "op": Choice(tuple(_NEEDS)),
        "x_mm": Number("place_mm", None),
        "y_mm": Number("place_mm", None),
        "radius_mm": Number("blob_mm", None),
        "colour": Number("two_colours", None, whole=True),
        "angle_deg": Number("turn_deg", None),
        "shift_mm": Number("place_mm", None),
        "half_distance_mm": Number("reach_mm", None),
        "spacing_mm": Number("pitch_mm", None),
        "amplitude_mm": Number("place_mm", None),
        "wavelength_mm": Number("wave_mm", None),
    }
)


def _operation(operation: dict[str, Any], place: int) -> Any:
    from coating.shape import marbling

    needs = _NEEDS[operation["op"]]
    for name in needs:
        if operation[name] is None:
            raise MissingField(f"A {operation['op']} needs {name}.", field=f"operations[{place}].{name}")
    values = {name: int(operation[name]) if name == "colour" else operation[name] for name in needs}
    return getattr(marbling, operation["op"].capitalize())(**values)


def _marble(given: dict[str, Any]) -> dict[str, Any]:
    from coating.shape.marbling import marbled, verdict

    done = [_operation(operation, i) for i, operation in enumerate(given["operations"])]
    surface = marbled(
        done, width_mm=given["width_mm"], height_mm=given["height_mm"], resolution=int(given["resolution_px"])
    )
    judgement = verdict(surface)
    return {"light_share": judgement.light_share, "bold_share": judgement.bold_share, "verdict": judgement.word}


def _bottle(given: dict[str, Any]) -> dict[str, Any]:
    from coating.shape.bottle import BottleLayer, dispensed

    return {"shares": dispensed([BottleLayer(**layer) for layer in given["layers"]], int(given["cavities"]))}


def _transfer(given: dict[str, Any]) -> dict[str, Any]:
    from coating.shape.transfer import WantedPieces, cut_plan

    wanted = [WantedPieces(t["width_mm"], t["height_mm"], int(t["count"]), t["may_turn"]) for t in given["pieces"]]
    plan = cut_plan(given["sheet_mm"], wanted, kerf_mm=given["kerf_mm"])
    placed = [
        {
            "sheet": p.sheet,
            "x_mm": p.x_mm,
            "y_mm": p.y_mm,
            "width_mm": p.width_mm,
            "height_mm": p.height_mm,
            "piece": p.piece,
        }
        for p in plan.placed
    ]
    return {
        "sheets": plan.sheets,
        "placements": placed,
        "waste_fraction": plan.waste_fraction,
        "straight_cuts": plan.straight_cuts,
    }


def _ring(given: dict[str, Any]) -> dict[str, Any]:
    from coating.shape.transfer.ring import ring

    row = ring(given["diameter_mm"], given["side_mm"], gap_mm=given["gap_mm"], flat=given["flat"])
    return {"count": row.count, "gap_mm": row.gap_mm}


ENTRIES = (
    Entry(
        "shape.marble",
        "a marbled slab: how much is light, how much of it bold, whether to stop",
        Record(
            {
                "width_mm": Number("slab_mm"),
                "height_mm": Number("slab_mm"),
                "resolution_px": Number("resolution", 512, whole=True),
                "operations": ListOf(_OPERATION, most=400),
            }
        ),
        _marble,
    ),
    Entry(
        "shape.bottle",
        "what each cavity holds from a bottle filled in layers",
        Record(
            {
                "layers": ListOf(Record({"colour": Text(), "volume_ml": Number("layer_ml")}), most=30),
                "cavities": Number("cavities", whole=True),
            }
        ),
        _bottle,
    ),
    Entry(
        "shape.transfer",
        "pieces cut from transfer sheets: how many sheets, where they lie, straight cuts",
        Record(
            {
                "sheet_mm": Vector(("slab_mm", "slab_mm")),
                "kerf_mm": Number("kerf_mm", 1.0),
                "pieces": ListOf(
                    Record(
                        {
                            "width_mm": Number("piece_side_mm"),
                            "height_mm": Number("piece_side_mm"),
                            "count": Number("count", 1, whole=True),
                            "may_turn": Flag(False),
                        }
                    ),
                    most=60,
                ),
            }
        ),
        _transfer,
    ),
    Entry(
        "shape.ring",
        "how many squares go round a dessert, bent or flat",
        Record(
            {
                "diameter_mm": Number("tier_or_cup_mm"),
                "side_mm": Number("piece_side_mm"),
                "gap_mm": Number("kerf_mm", 0.0),
                "flat": Flag(False),
            }
        ),
        _ring,
    ),
)
