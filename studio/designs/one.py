"""How one of what was designed looks, as pictures of pieces show it: paths in mm, with what fills and draws them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from coating.figures.sheet import PaperSheet, path
from coating.figures.solid import View
from studio.pieces.pictures import OWN

PER_MM = 10  # facets are kept in tenths of a mm


def of_sheet(sheet: PaperSheet, *, fill: str = OWN) -> Mapping[str, Any]:
    """What is piped and flooded of a template that shows one; `fill` : of what is flooded, sRGB where it is of another
    colour."""
    marks = [[sheet.flooded, fill, "", 0.0]] if sheet.areas else []
    marks += [[sheet.drawn, "", OWN, sheet.line_mm]] if sheet.lines else []
    marks += [[sheet.pressed, "", OWN, sheet.line_mm]] if sheet.dots else []
    return _told(sheet.width_mm, sheet.height_mm, marks)


def of_outline(shape: Any) -> Mapping[str, Any]:
    """What came out of a mould, of its outline from above: a shapely polygon, mm."""
    low_x, low_y, high_x, high_y = shape.bounds
    ring = [(x - low_x, y - low_y) for x, y in shape.exterior.coords]
    return _told(high_x - low_x, high_y - low_y, [[f"{path(ring)}Z", OWN, "", 0.0]], alone=True)


def of_view(view: View, *, alone: bool = False) -> Mapping[str, Any]:
    """What stands in space."""
    marks = [[facet.path, facet.fill, "", 0.0] for facet in view.facets]
    return _told(view.width_mm, view.height_mm, marks, alone=alone, per_mm=PER_MM)


def _told(wide_mm: float, high_mm: float, marks: list[list[Any]], **more: Any) -> Mapping[str, Any]:
    if not marks:
        return {}
    return {"v": 1, "wide_mm": round(wide_mm, 1), "high_mm": round(high_mm, 1), "marks": marks, **more}
