"""Patterns of lace, one function each: what a strip of so many whole repeats is drawn with.

Coordinates in mm from the left end of the strip, y down from its upper edge. `fullness` 1 to 3 is airy, even, rich.
A pattern returns its lines and presses without rails; what crosses the end of a strip goes on in the next one.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from types import MappingProxyType

import numpy as np

from coating.shape.curves import ellipse, star, teardrop
from coating.shape.lace.meander import meander_lines
from coating.shape.strokes import Array

Drawn = tuple[list[Array], list[tuple[float, float]]]


@dataclass(frozen=True)
class Cell:
    """One repeat: pitch, height and settled width of the line in mm, how full, and the seed of what is drawn by lot."""

    pitch: float
    height: float
    line: float
    fullness: int = 2
    seed: int = 1

    @property
    def top(self) -> float:
        """The middle of a line that lies along the upper edge."""
        return self.line / 2

    @property
    def bottom(self) -> float:
        """Where the lowest line runs, mm below the upper edge."""
        return self.height - self.line / 2

    @property
    def deep(self) -> float:
        """From the upper line to the lowest, mm."""
        return self.bottom - self.top


def _hanging(cell: Cell, n: int, depth: float, *, y: float, shift: float = 0.0, points: int = 24) -> Array:
    """A row of swags in one line over n repeats, hanging from y; shifted, it begins and ends part way down one."""
    x = np.linspace(0, n * cell.pitch, n * points + 1)
    u = np.mod(x / cell.pitch - shift, 1.0)
    return np.column_stack([x, y + depth * (1 - (2 * u - 1) ** 2)])


def _nodes(cell: Cell, n: int, *, at: float = 0.0) -> list[float]:
    return [(i + at) * cell.pitch for i in range(n)]


def swags(cell: Cell, n: int) -> Drawn:
    """Swags one within the other, and a drop where they meet."""
    depths = {1: (0.95,), 2: (0.52, 0.97), 3: (0.36, 0.68, 0.99)}[cell.fullness]
    lines = [_hanging(cell, n, d * cell.deep, y=cell.top) for d in depths]
    wide = min(0.24 * cell.pitch, 0.2 * cell.deep + 2 * cell.line)
    lines += [teardrop((x, cell.top), (x, cell.top + 0.62 * cell.deep), wide) for x in _nodes(cell, n, at=1.0)]
    return lines, [(x, cell.top + 0.62 * cell.deep + 0.6 * cell.line) for x in _nodes(cell, n, at=1.0)]


def loops(cell: Cell, n: int) -> Drawn:
    """A line that loops back over itself, through its rail."""
    wide = {1: 0.42, 2: 0.575, 3: 0.72}[cell.fullness] * cell.pitch
    t = np.linspace(0, 2 * math.pi * n, 48 * n + 1)
    x = cell.pitch * t / (2 * math.pi) + wide * np.sin(t)
    return [np.column_stack([x, cell.height / 2 - cell.deep / 2 * np.cos(t)])], []


def trellis(cell: Cell, n: int) -> Drawn:
    """Two zigzags against each other, pressed where they cross, with a line through."""
    times = 2 if cell.fullness == 3 else 1
    count = 2 * times * n + 1
    x = np.linspace(0, n * cell.pitch, count)
    y = np.where(np.arange(count) % 2, cell.bottom, cell.top)
    crossings = [(float(c), cell.height / 2) for c in (x[:-1] + x[1:]) / 2]
    lines = [np.column_stack([x, y]), np.column_stack([x, cell.top + cell.bottom - y])]
    through = [np.array([(0.0, cell.height / 2), (n * cell.pitch, cell.height / 2)])] if cell.fullness > 1 else []
    return lines + through, crossings


def fans(cell: Cell, n: int) -> Drawn:
    """Fans that open downwards from the rail; the rich ones with a dot at the end of each rib."""
    ribs = {1: 3, 2: 5, 3: 7}[cell.fullness]

    def edge(u: Array) -> Array:
        return np.column_stack([u * cell.pitch / 2, cell.top + cell.deep * (1 - np.abs(u) ** 2.6) ** 0.8])

    once = edge(np.sin(np.linspace(-math.pi / 2, math.pi / 2, 33)))
    ends = edge({3: 0.62, 5: 0.8, 7: 0.88}[ribs] * np.linspace(-1, 1, ribs))
    middles = [np.array([x, 0.0]) for x in _nodes(cell, n, at=0.5)]
    lines, dots = [np.concatenate([once + middle for middle in middles])], list[tuple[float, float]]()
    for middle in middles:
        tips, base = ends + middle, np.array([middle[0], cell.top])
        lines += [np.array([tips[j], base, tips[ribs - 1 - j]]) for j in range(ribs // 2)]
        lines.append(np.array([base, tips[ribs // 2]]))
        dots += [(float(x), float(y)) for x, y in tips] if cell.fullness == 3 else []
    return lines, dots


def vine(cell: Cell, n: int) -> Drawn:
    """A winding stem with leaves spread in every bend, all in one line, and a berry where it turns."""
    swing, middle = 0.22 * cell.deep, cell.height / 2
    spread = (0.0,) if cell.fullness == 1 else (-0.5, 0.0, 0.5)
    reach = cell.deep / 2 + swing

    def stem(begin: float, end: float) -> Array:
        t = np.linspace(begin, end, 25)
        return np.column_stack([t * cell.pitch, middle - swing * np.sin(2 * math.pi * t)])

    line, berries, begin = list[Array](), list[tuple[float, float]](), 0.0
    for i, (at, side) in ((i, bend) for i in range(n) for bend in ((0.25, 1), (0.75, -1))):
        line.append(stem(begin, i + at))
        begin, root = i + at, line[-1][-1]
        for lean in spread:
            long = reach * (1.0 if lean == 0 else 0.82 - 0.2 * abs(lean))
            tip = root + long * np.array([math.sin(lean), side * math.cos(lean)])
            line.append(teardrop(root, tip, (0.3 if lean == 0 else 0.2) * long))
        gaps = ((0.0, 0.6),) if cell.fullness < 3 else ((-0.5, 0.5), (0.5, 0.5), (0.0, 1.0))
        berries += [(float(root[0] + x * cell.line), float(root[1] - side * y * cell.line)) for x, y in gaps]
    line.append(stem(begin, float(n)))
    return [np.concatenate(line)], berries


def picots(cell: Cell, n: int) -> Drawn:
    """A scalloped edge with small round loops along it, drawn in one go, and a flat swag above."""
    loops_each = {1: 3, 2: 5, 3: 7}[cell.fullness]
    size = max(2.6 * cell.line, min(0.17 * cell.deep, 0.5 * cell.pitch / loops_each))
    depth = cell.deep - size
    u = np.linspace(0, 1, 16 * (loops_each + 1) + 1)
    x, y = u * cell.pitch, cell.top + depth * (1 - (2 * u - 1) ** 2)
    run: list[Array] = []
    turn = np.linspace(0, 2 * math.pi, 17)
    for k in range(loops_each + 1):
        part = slice(16 * k, 16 * (k + 1) + 1)
        run.append(np.column_stack([x[part], y[part]]))
        if k < loops_each:
            at = 16 * (k + 1)
            along = np.array([x[at + 1] - x[at - 1], y[at + 1] - y[at - 1]])
            along /= np.hypot(*along)
            out = np.array([-along[1], along[0]])
            circle = np.outer(1 - np.cos(turn), out) - np.outer(np.sin(turn), along)
            run.append(run[-1][-1] + size / 2 * circle)
    once = np.concatenate(run)
    edge = np.concatenate([np.add(once, (i * cell.pitch, 0.0)) for i in range(n)])
    return [edge, _hanging(cell, n, 0.42 * depth, y=cell.top)], [(x, cell.top) for x in _nodes(cell, n, at=1.0)]


def net(cell: Cell, n: int) -> Drawn:
    """Waves a part of a turn from each other."""
    strands = {1: 2, 2: 3, 3: 4}[cell.fullness]
    x = np.linspace(0, n * cell.pitch, 36 * n + 1)
    middle = cell.height / 2
    return [
        np.column_stack([x, middle - cell.deep / 2 * np.cos(2 * math.pi * (x / cell.pitch + k / strands))])
        for k in range(strands)
    ], []


def meander(cell: Cell, n: int) -> Drawn:
    """One line that wanders and never crosses itself; it wants rails to be lifted by."""
    return meander_lines(
        n * cell.pitch, cell.top, cell.bottom, line=cell.line, roomy=(1.5, 1.15, 0.9)[cell.fullness - 1], seed=cell.seed
    ), []


def stars(cell: Cell, n: int) -> Drawn:
    """A star in each deep swag, held by its stem; flat swags from one to the next."""
    size = min(0.4 * cell.pitch, 0.36 * cell.deep)
    lines = [_hanging(cell, n, cell.deep, y=cell.top), _hanging(cell, n, 0.62 * cell.deep, y=cell.top, shift=0.5)]
    if cell.fullness == 3:
        lines.append(_hanging(cell, n, 0.3 * cell.deep, y=cell.top, shift=0.5))
    middle = cell.top + 0.54 * cell.deep
    for x in _nodes(cell, n, at=0.5):
        if cell.fullness == 1:
            stem = np.array([(x, cell.top), (x, middle - size / 2)])
            lines += [stem, star((x, middle), size)]
        else:
            lines += [np.array([(x, cell.top), (x, middle - size / 2)]), star((x, middle), size)]
            lines.append(np.array([(x, middle + size / 4), (x, cell.bottom)]))
    return lines, []


def ripples(cell: Cell, n: int) -> Drawn:
    """Rows of scallops, each hung from the one above."""
    rows = cell.fullness + 1
    depth = cell.deep / rows
    return [_hanging(cell, n, depth * 1.0, y=cell.top + row * depth, shift=0.5 * (row % 2)) for row in range(rows)], [
        (x, cell.top + (row + 1) * depth)
        for row in range(rows - 1)
        for x in _nodes(cell, n, at=0.5 if row % 2 == 0 else 1.0)
    ]


def arcade(cell: Cell, n: int) -> Drawn:
    """Arches that stand on the lower edge and cross, each over two repeats, with a ring held in every point."""
    t = np.linspace(0, math.pi, 41)
    lines = []
    for begin in range(-1, n):
        x = (begin + 1 - np.cos(t)) * cell.pitch
        leg = np.column_stack([x, cell.bottom - cell.deep * np.sin(t)])
        leg = leg[(x > -1e-9) & (x < n * cell.pitch + 1e-9)]
        lines += [leg] if len(leg) > 1 else []
    middle = (0.5 * cell.pitch, cell.bottom - 0.46 * cell.deep)
    legs = np.column_stack([(1 - np.cos(t)) * cell.pitch, cell.bottom - cell.deep * np.sin(t)])
    across = 2 * float(np.hypot(*(legs - middle).T).min())
    if cell.fullness > 1:
        lines += [ellipse((x, middle[1]), across, across, start_deg=180) for x in _nodes(cell, n, at=0.5)]
    crossing = cell.bottom - math.sqrt(0.75) * cell.deep
    dots = [(x, crossing) for x in _nodes(cell, n, at=0.5)] if cell.fullness == 3 else []
    return lines, dots


@dataclass(frozen=True)
class Pattern:
    """A pattern: what it is called, how it is drawn, the rails it wants, how far a repeat goes, mm."""

    name: str
    title: str
    draw: Callable[[Cell, int], Drawn]
    rails: str
    pitch_mm: float = 28.0
    repeats_alike: bool = True


PATTERNS = MappingProxyType(
    {
        p.name: p
        for p in (
            Pattern("swags", "Double swags", swags, "top"),
            Pattern("stars", "Star swags", stars, "top"),
            Pattern("loops", "Loops", loops, "through"),
            Pattern("trellis", "Trellis", trellis, "both"),
            Pattern("fans", "Fans", fans, "top"),
            Pattern("vine", "Vine", vine, "both", 34.0),
            Pattern("picots", "Picots", picots, "top"),
            Pattern("net", "Net", net, "both", 42.0),
            Pattern("ripples", "Ripples", ripples, "top"),
            Pattern("arcade", "Arcade", arcade, "bottom"),
            Pattern("meander", "Meander", meander, "both", 30.0, repeats_alike=False),
        )
    }
)
RAILS = ("none", "top", "bottom", "both", "through")


def rail_heights(cell: Cell, rails: str) -> list[float]:
    """Where rails lie, mm from the upper edge."""
    return {
        "none": [],
        "top": [cell.top],
        "bottom": [cell.bottom],
        "both": [cell.top, cell.bottom],
        "through": [0.2 * cell.height],
    }[rails]
