"""Lumps in a bowl seen from above: the first ones of a fixed sunflower, so that melting takes them away one by one."""

from __future__ import annotations

import math

MOST = 34
_RADIUS, _CENTRE = 39.0, 60.0
_GOLDEN = math.pi * (3 - math.sqrt(5))


def lump_places(solid_fraction: float) -> list[tuple[float, float, int]]:
    """Centre x, y in a drawing of 120 by 120 and turn in degrees of each lump; none for a smooth bowl."""
    count = round(MOST * min(1.0, max(0.0, solid_fraction)))
    places = []
    for i in range(count):
        away = _RADIUS * math.sqrt((i + 0.5) / MOST)
        places.append(
            (
                round(_CENTRE + away * math.cos(i * _GOLDEN), 1),
                round(_CENTRE + away * math.sin(i * _GOLDEN), 1),
                i * 53 % 90,
            )
        )
    return places
