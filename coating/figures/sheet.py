"""A template: what is drawn at true size on one sheet, in mm from its left upper corner, ready for screen and paper."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from coating.shape.fitting import mirrored
from coating.shape.lace.holds import parts_of
from coating.shape.strokes import Array, Drawing

AROUND_MM = 2.0


@dataclass(frozen=True)
class PaperSheet:
    """Lines and presses to pipe, areas to flood, thin guides that are not piped, and words.

    Each line, ring and guide is a tuple of (x, y); an area is its outer ring and its holes. `left_mm` and `top_mm` say
    where its corner lies in the drawing it was made of.
    """

    title: str
    width_mm: float
    height_mm: float
    line_mm: float
    lines: tuple[tuple[tuple[float, float], ...], ...] = ()
    dots: tuple[tuple[float, float], ...] = ()
    areas: tuple[tuple[tuple[tuple[float, float], ...], ...], ...] = ()
    guides: tuple[tuple[tuple[float, float], ...], ...] = ()
    says: tuple[str, ...] = field(default=())
    left_mm: float = 0.0
    top_mm: float = 0.0

    @property
    def line_paths(self) -> list[str]:
        """One SVG path a line."""
        return [path(line) for line in self.lines]

    @property
    def drawn(self) -> str:
        """All lines as one path of an SVG."""
        return "".join(self.line_paths)

    @property
    def pressed(self) -> str:
        """All presses as one path: lines of no length with round ends."""
        return "".join(f"M{x:.2f} {y:.2f}h0" for x, y in self.dots)

    @property
    def flooded(self) -> str:
        """The flooded areas as one SVG path."""
        return "".join(path(ring) + "Z" for area in self.areas for ring in area)

    @property
    def guided(self) -> str:
        """The guides as one SVG path."""
        return "".join(path(guide) for guide in self.guides)

    @property
    def starts(self) -> list[tuple[int, float, float]]:
        """Where each stroke begins, counted from one."""
        return [(i, *line[0]) for i, line in enumerate(self.lines, 1)]

    def turned_over(self) -> PaperSheet:
        """For film that is turned over: mirrored, what lies in front first."""
        drawn = mirrored(Drawing(tuple(np.array(line) for line in self.lines), self.dots), self.width_mm)

        def flip(ring: Iterable[tuple[float, float]]) -> tuple[tuple[float, float], ...]:
            return tuple((self.width_mm - x, y) for x, y in ring)

        return replace(
            self,
            lines=tuple(_points(line) for line in drawn.lines),
            dots=drawn.presses,
            areas=tuple(tuple(flip(ring) for ring in area) for area in reversed(self.areas)),
            guides=tuple(flip(guide) for guide in self.guides),
        )


def path(line: Sequence[tuple[float, float]]) -> str:
    """A line as SVG reads it."""
    return "M" + "L".join(f"{x:.2f} {y:.2f}" for x, y in line)


def _points(line: Array | Sequence[Any]) -> tuple[tuple[float, float], ...]:
    return tuple((round(float(x), 2), round(float(y), 2)) for x, y in line)


def sheet_of(
    drawing: Drawing,
    title: str,
    *,
    line_mm: float,
    areas: Sequence[Any] = (),
    guides: Sequence[Any] = (),
    says: Sequence[str] = (),
    width_mm: float | None = None,
    height_mm: float | None = None,
) -> PaperSheet:
    """A sheet with room all round.

    Parameters
    ----------
    drawing : to be piped. title : over it. line_mm : settled. areas : shapely polygons to flood. guides : lines that
    are not piped. says : what stands under it. width_mm, height_mm : of a strip that begins at the origin; None: as
    much as is drawn.
    """
    rings = [[part.exterior.coords, *[hole.coords for hole in part.interiors]] for part in _parts(areas)]
    every = [*drawing.lines, *guides, *[np.asarray(area[0]) for area in rings]]
    every += [np.array(drawing.presses)] if drawing.presses else []
    points = np.concatenate([np.asarray(e, dtype=float)[:, :2] for e in every]) if every else np.zeros((1, 2))
    around = AROUND_MM + line_mm / 2
    low, high = points.min(axis=0) - around, points.max(axis=0) + around
    if width_mm is not None:
        low[0], high[0] = min(low[0], -around), max(high[0], width_mm + around)
    if height_mm is not None:
        low[1], high[1] = min(low[1], -around), max(high[1], height_mm + around)
    return PaperSheet(
        title,
        float(high[0] - low[0]),
        float(high[1] - low[1]),
        line_mm,
        tuple(_points(np.asarray(line) - low) for line in drawing.lines),
        tuple((round(x - float(low[0]), 2), round(y - float(low[1]), 2)) for x, y in drawing.presses),
        tuple(tuple(_points(np.asarray(ring)[:, :2] - low) for ring in area) for area in rings),
        tuple(_points(np.asarray(guide)[:, :2] - low) for guide in guides),
        tuple(says),
        float(low[0]),
        float(low[1]),
    )


def _parts(areas: Sequence[Any]) -> list[Any]:
    return [part for area in areas for part in parts_of(area)]


def sheet_json(sheet: PaperSheet) -> dict[str, Any]:
    """The drawn numbers, to keep."""
    return {
        "title": sheet.title,
        "width_mm": sheet.width_mm,
        "height_mm": sheet.height_mm,
        "line_mm": sheet.line_mm,
        "lines": [[v for point in line for v in point] for line in sheet.lines],
        "dots": [v for dot in sheet.dots for v in dot],
        "areas": [[[v for point in ring for v in point] for ring in area] for area in sheet.areas],
        "guides": [[v for point in guide for v in point] for guide in sheet.guides],
        "says": list(sheet.says),
    }


def sheet_from(sheet: dict[str, Any]) -> PaperSheet:
    """The same back."""

    def pairs(flat: Sequence[float]) -> tuple[tuple[float, float], ...]:
        return tuple(zip(flat[::2], flat[1::2], strict=True))

    return PaperSheet(
        sheet["title"],
        sheet["width_mm"],
        sheet["height_mm"],
        sheet["line_mm"],
        tuple(pairs(line) for line in sheet["lines"]),
        pairs(sheet["dots"]),
        tuple(tuple(pairs(ring) for ring in area) for area in sheet["areas"]),
        tuple(pairs(guide) for guide in sheet["guides"]),
        tuple(sheet["says"]),
    )
