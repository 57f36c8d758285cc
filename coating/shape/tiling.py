"""A drawing at true size on paper: as few pages as it takes, with an overlap to lay one over the next."""

from __future__ import annotations

import math
from dataclasses import dataclass
from types import MappingProxyType

from coating.errors import OutOfBounds, UnknownName
from coating.limits import check
from coating.units import MILLIMETRES_PER_INCH

POINTS_A_MM = 72 / MILLIMETRES_PER_INCH
MARGIN_MM, OVERLAP_MM = 10.0, 10.0
PAPERS = MappingProxyType({"A4": (210.0, 297.0), "Letter": (215.9, 279.4)})
MOST_PAGES = 40


@dataclass(frozen=True)
class Page:
    """A page: its place in the grid, and what of the drawing it shows: left, top, width, height in mm."""

    column: int
    row: int
    left_mm: float
    top_mm: float
    width_mm: float
    height_mm: float


@dataclass(frozen=True)
class Tiling:
    """A paper, lying (`lying`) or upright, and its pages; sizes in mm."""

    paper: str
    lying: bool
    page_mm: tuple[float, float]
    columns: int
    rows: int
    tiles: tuple[Page, ...]

    @property
    def pages(self) -> int:
        """How many sheets of paper it takes."""
        return len(self.tiles)


def pages_for(length_mm: float, usable_mm: float, overlap_mm: float = OVERLAP_MM) -> int:
    """How many pages a length takes.

    >>> pages_for(594.75, 277)
    3
    """
    return max(1, math.ceil((length_mm - overlap_mm) / (usable_mm - overlap_mm) - 1e-9))


def in_rows(
    count: int,
    width_mm: float,
    height_mm: float,
    *,
    apart_mm: float = 8.0,
    room_mm: tuple[float, float] = (180.0, 220.0),
) -> list[tuple[float, float]]:
    """Where so many of a size lie in rows, no more than go on one page, and one at least."""
    across = max(1, int((room_mm[0] + apart_mm) / (width_mm + apart_mm)))
    down = max(1, int((room_mm[1] + apart_mm) / (height_mm + apart_mm)))
    return [
        (i % across * (width_mm + apart_mm), i // across * (height_mm + apart_mm))
        for i in range(min(count, across * down))
    ]


def tiling(
    width_mm: float,
    height_mm: float,
    *,
    paper: str = "A4",
    margin_mm: float = MARGIN_MM,
    overlap_mm: float = OVERLAP_MM,
    head_mm: float = 0.0,
    foot_mm: float = 0.0,
) -> Tiling:
    """The pages for a drawing of that size, turned so that there are as few as can be.

    Parameters
    ----------
    width_mm, height_mm : of the drawing. paper : a key of PAPERS. margin_mm : free round each page. overlap_mm : what
    two neighbours both show. head_mm, foot_mm : for words on each page.

    Raises
    ------
    UnknownName, OutOfBounds : another paper, or more than 40 pages.
    """
    if paper not in PAPERS:
        raise UnknownName(f"There is no paper called {paper[:40]!r}.", field="paper", choices=list(PAPERS))
    check("strip_mm", width_mm, "width_mm"), check("strip_mm", height_mm, "height_mm")
    best: Tiling | None = None
    for lying in (False, True):
        page = PAPERS[paper][::-1] if lying else PAPERS[paper]
        across, down = page[0] - 2 * margin_mm, page[1] - 2 * margin_mm - head_mm - foot_mm
        columns, rows = pages_for(width_mm, across, overlap_mm), pages_for(height_mm, down, overlap_mm)
        tiles = tuple(
            Page(c, r, c * (across - overlap_mm), r * (down - overlap_mm), across, down)
            for r in range(rows)
            for c in range(columns)
        )
        if best is None or len(tiles) < best.pages:
            best = Tiling(paper, lying, (page[0], page[1]), columns, rows, tiles)
    assert best is not None
    if best.pages > MOST_PAGES:
        raise OutOfBounds(
            f"That would be {best.pages} pages. Print at most {MOST_PAGES}.", field="width_mm", high=MOST_PAGES
        )
    return best
