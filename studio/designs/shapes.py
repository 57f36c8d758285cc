"""Shapes as rows keep them."""

from __future__ import annotations

from typing import Any

import numpy as np

from coating.shape.areas import Areas
from studio.common.types import Json


def areas_json(areas: Areas) -> Json:
    """Points in mm, flat."""

    def flat(points: Any) -> list[float]:
        return [round(float(v), 3) for point in points for v in point[:2]]

    parts = [[flat(p.exterior.coords), *[flat(hole.coords) for hole in p.interiors]] for p in areas.parts]
    return {"v": 1, "parts": parts, "lines": [flat(line) for line in areas.lines]}


def areas_from(data: Json) -> Areas:
    """The same back."""
    from shapely import Polygon

    def points(flat: list[float]) -> Any:
        return np.array(flat, dtype=float).reshape(-1, 2)

    parts = tuple(Polygon(points(rings[0]), [points(ring) for ring in rings[1:]]).buffer(0) for rings in data["parts"])
    return Areas(
        tuple(p for part in parts for p in getattr(part, "geoms", [part]) if p.area > 0),
        tuple(points(line) for line in data["lines"]),
    )
