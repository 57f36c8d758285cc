"""Sheets to practise on, from the plainest line to lace and letters."""

from __future__ import annotations

import numpy as np

from coating.figures.sheet import PaperSheet, sheet_of
from coating.shape.curves import ellipse, star, teardrop
from coating.shape.fitting import in_line
from coating.shape.lace.collar import strip
from coating.shape.lace.patterns import PATTERNS, Cell
from coating.shape.strokes import Array, Drawing

_WIDE, _LINE = 170.0, 1.6


def practice_sheets() -> list[PaperSheet]:
    """Three sheets that fit on a page each: lines and dots, curves and shapes, lace and letters."""
    return [_lines(), _curves(), _lace()]


def _row(y: float, *, of: int, high: float) -> Array:
    x = np.linspace(0, _WIDE, 24 * of + 1)
    return np.column_stack([x, y + high / 2 - high / 2 * np.cos(2 * np.pi * of * x / _WIDE)])


def _lines() -> PaperSheet:
    straight = [np.array([(0.0, y), (_WIDE, y)]) for y in (0, 8, 16, 24)]
    short = [np.array([(x, 36.0), (x, 56.0)]) for x in np.arange(0, _WIDE, 10)]
    zigzag = np.column_stack([np.linspace(0, _WIDE, 35), np.where(np.arange(35) % 2, 90.0, 66.0)])
    slack = [_row(100, of=6, high=14), _row(122, of=12, high=14)]
    dots = [(float(x), y) for y, step in ((148.0, 8.5), (156.0, 5.0)) for x in np.arange(0, _WIDE, step)]
    drawn = Drawing((*straight, *short, zigzag, *slack), tuple(dots), _WIDE)
    return sheet_of(drawn, "lines, swags and dots", line_mm=_LINE, says=["even width, even speed; let the line hang"])


def _curves() -> PaperSheet:
    t = np.linspace(0, 2 * np.pi * 10, 500)
    loops = np.column_stack([7 + 15.3 * t / (2 * np.pi) + 9 * np.sin(t), 14 - 12 * np.cos(t)])
    rings = [ellipse((9 + 19 * i, 46), 16, 16) for i in range(9)]
    leaves = [teardrop((9 + 19 * i, 66), (9 + 19 * i, 88), 11) for i in range(9)]
    stars = [star((12 + 24 * i, 106), 20) for i in range(7)]
    turn = np.linspace(0, 2 * np.pi * 3, 150)
    spirals = [
        np.column_stack([18 + 44 * i + turn * 0.85 * np.cos(turn), 142 + turn * 0.85 * np.sin(turn)]) for i in range(4)
    ]
    drawn = Drawing((loops, *rings, *leaves, *stars, *spirals), (), _WIDE)
    return sheet_of(drawn, "loops, rings, leaves, stars", line_mm=_LINE, says=["close each ring without a lump"])


def _lace() -> PaperSheet:
    lines: list[Array] = []
    dots: list[tuple[float, float]] = []
    for y, name in ((0.0, "swags"), (48.0, "picots"), (96.0, "loops")):
        drawn = strip(PATTERNS[name], Cell(28.0, 38.0, _LINE, 1), PATTERNS[name].rails, 6)
        lines += [np.add(line, (0.0, y)) for line in drawn.lines]
        dots += [(x, b + y) for x, b in drawn.presses]
    for y, face, text in ((156.0, "futural", "abcdefghijklm"), (180.0, "cursive", "Clear skies, look up")):
        drawn = in_line(text, face=face, width_mm=_WIDE, most_cap_mm=15).drawing
        lines += [np.add(line, (0.0, y)) for line in drawn.lines]
        dots += [(x, b + y) for x, b in drawn.presses]
    return sheet_of(
        Drawing(tuple(lines), tuple(dots), _WIDE),
        "lace and letters",
        line_mm=_LINE,
        says=["finish a row before its first line is stiff"],
    )
