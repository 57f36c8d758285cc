"""The warmth of a bowl from its first melt until now, with the time it was too hot; and a moment beside its window."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

WIDTH, HEIGHT, TOP, BOTTOM = 720.0, 190.0, 24.0, 26.0
LEAST_SPAN_C, AROUND_K = 22.0, 3.0
LEAST_SPAN_S = 120.0


@dataclass(frozen=True)
class WarmthFigure:
    """A drawing of 720 by 190: `line` and the part of it that was too hot (`hot`, "" for none) as SVG paths; bands as
    (y, height): `too_hot`, `good`; where it is now and where the hot part is, (x, y)."""

    line: str
    hot: str
    too_hot: tuple[float, float]
    good: tuple[float, float]
    now: tuple[float, float]
    hottest: tuple[float, float] | None
    width: float = WIDTH
    height: float = HEIGHT
    floor: float = HEIGHT - BOTTOM


def warmth_figure(
    curve: Sequence[tuple[float, float]], *, good_c: tuple[float, float], harms_c: float
) -> WarmthFigure | None:
    """The line through a curve of (s, degC).

    Parameters
    ----------
    curve : sequence of (float, float)
        In order, from the first melt until now.
    good_c : tuple of float
        Between which it is worked, degC.
    harms_c : float
        Above it is harmed, degC.

    Returns
    -------
    WarmthFigure or None
        None of a curve that says nothing yet.
    """
    if len(curve) < 2 or curve[-1][0] - curve[0][0] < 1:
        return None
    begin, end = curve[0][0], curve[-1][0]
    span_s = max(LEAST_SPAN_S, end - begin)
    warm = [c for _, c in curve]
    low = min(*warm, good_c[0]) - AROUND_K
    high = max(*warm, harms_c + 2 * AROUND_K, low + LEAST_SPAN_C) + AROUND_K

    def x(at_s: float) -> float:
        return round(WIDTH * (at_s - begin) / span_s, 1)

    def y(warm_c: float) -> float:
        return round(TOP + (HEIGHT - TOP - BOTTOM) * (high - warm_c) / (high - low), 1)

    hot = [(t, c) for t, c in curve if c > harms_c]
    peak = max(hot, key=lambda point: point[1], default=None)
    return WarmthFigure(
        _path([(x(t), y(c)) for t, c in curve]),
        _path([(x(t), y(c)) for t, c in hot]) if len(hot) > 1 else "",
        (TOP, round(y(harms_c) - TOP, 1)),
        (y(good_c[1]), round(y(good_c[0]) - y(good_c[1]), 1)),
        (x(end), y(curve[-1][1])),
        (x(peak[0]), y(peak[1])) if peak else None,
    )


def _path(points: Sequence[tuple[float, float]]) -> str:
    return "M" + " L".join(f"{x} {y}" for x, y in points)


@dataclass(frozen=True)
class WindowFigure:
    """A line of 720: where its window begins and ends, and where it was, x; ends as they are, minutes."""

    begins: float
    ends: float
    was: float
    from_min: float
    until_min: float | None
    since_min: float
    width: float = WIDTH


def window_figure(since_min: float, from_min: float, until_min: float | None) -> WindowFigure:
    """A moment beside the window it belongs in, minutes; `until_min` None: as late as you like."""
    most = 1.15 * max(since_min, from_min, until_min or 1.6 * from_min, 1.0)
    begins, was = (round(WIDTH * m / most, 1) for m in (from_min, since_min))
    ends = WIDTH if until_min is None else round(WIDTH * until_min / most, 1)
    return WindowFigure(begins, ends, was, from_min, until_min, since_min)
