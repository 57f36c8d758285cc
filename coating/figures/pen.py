"""What pictures of pieces are drawn with: paths of plates, dots and stars, and points spread evenly."""

from __future__ import annotations

import math

from coating.figures.outlines import FaceArea

# Of the layer's colour, a line of it, what is light on dark or the reverse, and a thin line on the core.
FILL, LINE, OVER, DETAIL = "fill", "line", "over", "detail"
_GOLDEN = math.pi * (3 - math.sqrt(5))  # Vogel 1979: points spread evenly over a round


def plate(face: FaceArea, grow: float = 1.0) -> str:
    """What covers the face: as round as the face is."""
    rx, ry = face.half_wide * grow, face.half_high * grow
    x, y, k = face.x, face.y, face.square
    return (
        f"M{x - rx:.1f} {y:.1f}C{x - rx:.1f} {y - ry * k:.1f} {x - rx * k:.1f} {y - ry:.1f} {x:.1f} {y - ry:.1f}"
        f"S{x + rx:.1f} {y - ry * k:.1f} {x + rx:.1f} {y:.1f}S{x + rx * k:.1f} {y + ry:.1f} {x:.1f} {y + ry:.1f}"
        f"S{x - rx:.1f} {y + ry * k:.1f} {x - rx:.1f} {y:.1f}Z"
    )


def dot(x: float, y: float, r: float) -> str:
    """A round spot."""
    return f"M{x - r:.1f} {y:.1f}a{r:.1f} {r:.1f} 0 1 0 {2 * r:.1f} 0a{r:.1f} {r:.1f} 0 1 0 {-2 * r:.1f} 0Z"


def star(x: float, y: float, r: float) -> str:
    """A star of four points."""
    points = []
    for i in range(8):
        reach, turn = (r if i % 2 == 0 else r * 0.36), math.pi / 4 * i
        points.append(f"{x + reach * math.sin(turn):.1f} {y - reach * math.cos(turn):.1f}")
    return f"M{'L'.join(points)}Z"


def strewn(face: FaceArea, count: int, out: float = 0.88) -> list[tuple[float, float]]:
    """So many points spread evenly over the face."""
    points = []
    for i in range(count):
        r, turn = out * math.sqrt((i + 0.5) / count), i * _GOLDEN
        points.append((face.x + face.half_wide * r * math.cos(turn), face.y + face.half_high * r * math.sin(turn)))
    return points
