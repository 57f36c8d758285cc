"""Lace for a tier: so many whole repeats that the ends line up, in panels that can each be lifted while they bend."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np

from coating.errors import OutOfBounds, UnknownName
from coating.flow.material import ORDINARY_FAT
from coating.limits import check
from coating.shape.lace.holds import Held, beads, held, parts_of
from coating.shape.lace.patterns import PATTERNS, RAILS, Cell, Pattern, rail_heights
from coating.shape.order import ordered, piping_s
from coating.shape.strokes import Array, Drawing

HAND_MM_S, LIFT_S = 20.0, 1.2  # lace; assumptions, editable
OVERLAP_MM = 12.0
LEAST_REPEATS, MOST_WIDTHS = 2, 60_000  # of its own line; more is not checked in any time a maker waits
COVERED = 0.3  # of its ground, at least, by lines that are drawn by lot
_BY_LOT = 1.1  # what a repeat that is drawn by lot may take more than the one that was timed
_LOOKED_AT = 4  # repeats that are looked at for all: what holds there holds in a longer strip
FORMS = {"collar": 1.0, "half": 0.5, "panel": 0.25, "arc": 0.4}


@dataclass(frozen=True)
class Lace:
    """What is piped: pattern, repeats in all and in each panel, one repeat's cell, and the hand.

    `panels` has the repeats of each; `fits` is whether each can be piped within the window.
    """

    pattern: Pattern
    cell: Cell
    rails: str
    panels: tuple[int, ...]
    fits: bool
    around_mm: float
    overlap_mm: float
    speed_mm_s: float = HAND_MM_S

    @property
    def repeats(self) -> int:
        """How often the pattern comes round."""
        return sum(self.panels)

    @property
    def strip_mm(self) -> float:
        """The length of all panels in a row, mm."""
        return self.repeats * self.cell.pitch

    @cached_property
    def drawings(self) -> tuple[Drawing, ...]:
        """Each panel from its own left end."""
        return tuple(strip(self.pattern, self.cell, self.rails, n) for n in self.panels)

    @cached_property
    def seconds(self) -> tuple[float, ...]:
        """How long the piping of each panel takes."""
        return tuple(piping_s(drawing, self.speed_mm_s, LIFT_S) for drawing in self.drawings)

    @property
    def duration_s(self) -> float:
        """Seconds to pipe all panels."""
        return sum(self.seconds)

    @property
    def length_mm(self) -> float:
        """All lines, mm."""
        return sum(drawing.length_mm for drawing in self.drawings)

    @property
    def strokes(self) -> int:
        """How often the bag is set down."""
        return sum(drawing.strokes for drawing in self.drawings)

    def mass_g(self, *, fat_fraction: float = ORDINARY_FAT) -> float:
        """All lines, g."""
        return sum(drawing.mass_g(self.cell.line, fat_fraction=fat_fraction) for drawing in self.drawings)

    @cached_property
    def whole(self) -> Drawing:
        """All panels side by side, as they go round."""
        begin, lines, dots = 0.0, list[Array](), list[tuple[float, float]]()
        for n, drawing in zip(self.panels, self.drawings, strict=True):
            lines += [np.add(line, (begin, 0.0)) for line in drawing.lines]
            dots += [(x + begin, y) for x, y in drawing.presses]
            begin += n * self.cell.pitch
        return Drawing(tuple(lines), tuple(dots), self.strip_mm)

    @cached_property
    def held(self) -> Held:
        """Whether it stays in one piece when lifted. Where one repeat is like the next four are looked at, and openings
        are counted on from there; else every panel is."""
        if self.pattern.repeats_alike:
            if self.repeats > _LOOKED_AT:
                return _held_of_alike(self.pattern.name, self.cell, self.rails, self.repeats)
            return held(self.whole, self.cell.line, thread_mm=self.cell.pitch)
        each = {n: held(strip(self.pattern, self.cell, self.rails, n), self.cell.line) for n in set(self.panels)}
        most, worst = min(each.items(), key=lambda pair: (-pair[1].pieces, pair[1].bridge_mm))
        begun = self.cell.pitch * sum(self.panels[: self.panels.index(most)])
        at = (worst.at[0] + begun, worst.at[1]) if worst.at else None
        return replace(worst, at=at, openings=sum(each[n].openings for n in self.panels))


@lru_cache(maxsize=256)
def _held_of_alike(pattern: str, cell: Cell, rails: str, repeats: int) -> Held:
    known = PATTERNS[pattern]
    few = held(strip(known, cell, rails, _LOOKED_AT), cell.line, thread_mm=cell.pitch)
    fewer = parts_of(beads(strip(known, cell, rails, _LOOKED_AT - 1), cell.line))
    more = repeats - _LOOKED_AT
    pieces = few.pieces + more * (few.pieces - len(fewer))
    openings = few.openings + more * (few.openings - sum(len(part.interiors) for part in fewer))
    return replace(few, pieces=pieces, openings=openings)


@lru_cache(maxsize=256)
def strip(pattern: Pattern, cell: Cell, rails: str, repeats: int) -> Drawing:
    """So many repeats with their rails, in the order they are piped; lines are not shared with other calls."""
    lines, dots = pattern.draw(cell, repeats)
    wide = repeats * cell.pitch
    drawn = [np.array([(0.0, y), (wide, y)]) for y in rail_heights(cell, rails)]
    return ordered(Drawing((*drawn, *lines), tuple(dots), wide))


def lace(
    pattern: str,
    *,
    diameter_mm: float,
    height_mm: float,
    line_mm: float,
    pitch_mm: float | None = None,
    wall_mm: float = 0.3,
    overlap_mm: float = OVERLAP_MM,
    window_s: float = 90.0,
    speed_mm_s: float = HAND_MM_S,
    fullness: int = 2,
    rails: str = "",
    share: float = 1.0,
    seed: int = 1,
    panel_mm: float | None = None,
) -> Lace:
    """Lace round a tier, or round a share of it.

    Parameters
    ----------
    pattern : str
        A key of PATTERNS.
    diameter_mm, height_mm : float
        Of the tier and of the strip, mm.
    line_mm : float
        How wide a line settles, mm.
    pitch_mm : float, optional
        Wanted for one repeat, mm; it is changed so that whole repeats go round.
    wall_mm : float
        Thickness of the paper or film, mm.
    overlap_mm : float
        At least, where the ends meet, mm; none unless it goes all the way round.
    window_s : float
        For piping one panel, s.
    speed_mm_s : float
        Of the hand, mm/s.
    fullness : int
        1 to 3.
    rails : str
        One of RAILS; "" as the pattern has them.
    share : float
        Of the way round, 0 to 1.
    seed : int
        Of what is drawn by lot.
    panel_mm : float, optional
        No panel is longer than that, and none shorter than one repeat, mm.

    Returns
    -------
    Lace

    Raises
    ------
    UnknownName
        A pattern or rails that do not exist.
    OutOfBounds
        A line too thick for that height or pitch, or a value outside its bounds.
    """
    if pattern not in PATTERNS:
        raise UnknownName(f"There is no lace called {pattern[:40]!r}.", field="pattern", choices=list(PATTERNS))
    known = PATTERNS[pattern]
    rails = rails or known.rails
    if rails not in RAILS:
        raise UnknownName(f"There are no rails called {rails[:40]!r}.", field="rails", choices=list(RAILS))
    check("lace_height_mm", height_mm, "height_mm"), check("bead_mm", line_mm, "line_mm")
    check("overlap_mm", overlap_mm), check("duration_s", window_s, "window_s"), check("fullness", fullness)
    check("hand_speed_mm_s", speed_mm_s, "hand_speed_mm_s"), check("wall_mm", wall_mm), check("share", share)
    wanted = check("pitch_mm", known.pitch_mm if pitch_mm is None else pitch_mm, "pitch_mm")
    if line_mm > min(height_mm, wanted) / 6:
        most = min(height_mm, wanted) / 6
        raise OutOfBounds(
            "A line of {line_mm} fills the pattern. Make it at most {most_mm} wide.",
            line_mm=line_mm,
            most_mm=most,
            high=most,
            field="line_mm",
        )
    around = math.pi * (check("tier_mm", diameter_mm, "diameter_mm") + wall_mm) * share
    once = max(LEAST_REPEATS if share == 1 else 1, round(around / wanted))
    cell = Cell(around / once, height_mm, line_mm, int(fullness), int(seed))
    repeats = once + (math.ceil(overlap_mm / cell.pitch - 1e-9) if share == 1 else 0)

    if not known.repeats_alike:
        _refuse_over(COVERED * repeats * cell.pitch * height_mm / line_mm, line_mm)  # before it is drawn

    def seconds(n: int) -> float:
        if known.repeats_alike:
            return piping_s(strip(known, cell, rails, n), speed_mm_s, LIFT_S)
        return n * _BY_LOT * piping_s(strip(known, cell, rails, 1), speed_mm_s, LIFT_S)

    if not known.repeats_alike:
        _refuse_over(repeats * strip(known, cell, rails, 1).length_mm, line_mm)
    most, fits = _most_repeats(repeats, window_s, seconds)
    if panel_mm is not None:
        most = max(1, min(most, int(check("page_mm", panel_mm, "panel_mm") / cell.pitch + 1e-9)))
    panels = math.ceil(repeats / most)
    each = tuple(repeats * (i + 1) // panels - repeats * i // panels for i in range(panels))
    return Lace(known, cell, rails, each, fits, around, overlap_mm, speed_mm_s)


def _refuse_over(long_mm: float, line_mm: float) -> None:
    if long_mm > MOST_WIDTHS * line_mm:
        most_m = MOST_WIDTHS * line_mm / 1000
        raise OutOfBounds(
            f"That is over {long_mm / 1000:.0f} m of line, and at most {most_m:.0f} m of such a line can be checked. "
            "Make the line wider, or the lace lower.",
            field="line_mm",
        )


def _most_repeats(repeats: int, window_s: float, seconds: Callable[[int], float]) -> tuple[int, bool]:
    """How many can be piped in time, and whether one can."""
    if seconds(1) > window_s:
        return 1, False
    low, high = 1, repeats + 1
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (middle, high) if seconds(middle) <= window_s else (low, middle)
    return low, True
