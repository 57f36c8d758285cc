"""The poured ribbon: an outline that thickens and folds from left to right, words below, windows as tags."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from coating.flow.casson1959 import Flow
from coating.flow.ribbon import WORDS, ribbon_position
from coating.flow.windows import Window

WIDTH, LEFT, RIGHT = 720.0, 0.0, 720.0
MIDDLE, HEIGHT = 46.0, 80.0
_STEPS = 180
_CLOSE = 16.0


@dataclass(frozen=True)
class Pin:
    """A bowl above the ribbon: where, what it is called, its colour; `low`, `high` the range of where it may be;
    `anchor` which end of its label hangs on it."""

    x: float
    label: str
    role: str
    fill: str
    low: float
    high: float
    anchor: str = "middle"


@dataclass(frozen=True)
class Tag:
    """A technique window below the ribbon."""

    x: float
    width: float
    title: str


@dataclass(frozen=True)
class RibbonFigure:
    """Everything the template draws. The outline is in units of the viewBox; where things hang is in % across."""

    width: float
    height: float
    middle: float
    outline: str
    words: tuple[tuple[str, str], ...]
    pins: tuple[Pin, ...]
    arc: str
    tag: Tag | None


def x_of(position: float) -> float:
    """Where a ribbon position (0 to 6) lies across the drawing, in %; never at the very edge."""
    return min(98.0, max(2.0, 100 * position / 6))


def _outline() -> str:
    """Closed path: a thin stream at the left, higher and tighter folds to the right."""
    upper, lower = [], []
    for i in range(_STEPS + 1):
        share = i / _STEPS
        x = LEFT + (RIGHT - LEFT) * share
        fold = max(0.0, share - 0.3) / 0.7
        swing = 19 * fold**1.2
        phase = 2 * math.pi * (1.2 * share + 7.2 * share**2.2)
        half = 2.5 + 9 * share
        upper.append((x, MIDDLE - half - swing * (0.5 + 0.5 * math.sin(phase))))
        lower.append((x, MIDDLE + half + swing * 0.35 * (0.5 + 0.5 * math.sin(phase + 1.1))))
    points = [*upper, *reversed(lower)]
    return "M" + " L".join(f"{x:.1f} {y:.1f}" for x, y in points) + " Z"


_PATH = _outline()
_LABELS = tuple((word, word.replace(" ", "-")) for word in WORDS)


def _pin(flow: Flow, low: Flow | None, high: Flow | None, label: str, role: str, fill: str) -> Pin:
    x = x_of(ribbon_position(flow))
    ends = sorted(x_of(ribbon_position(f)) if f else x_of(6) for f in (low or flow, high or flow))
    return Pin(x, label, role, fill, min(ends[0], x), max(ends[1], x))


def _kept_apart(pins: list[Pin]) -> list[Pin]:
    """Labels of close pins lean away from each other, and none leaves the drawing."""
    ordered = sorted(pins, key=lambda p: p.x)
    close = len(ordered) == 2 and ordered[1].x - ordered[0].x < _CLOSE
    leaning = {id(p): ("end", "start")[i] for i, p in enumerate(ordered)} if close else {}
    edge = {id(p): "end" for p in pins if p.x > 94} | {id(p): "start" for p in pins if p.x < 6}
    return [replace(p, anchor={**leaning, **edge}.get(id(p), "middle")) for p in pins]


def ribbon_figure(
    *,
    now: tuple[Flow | None, Flow | None, Flow | None] | None,
    after: tuple[Flow | None, Flow | None, Flow | None] | None,
    now_fill: str = "",
    after_fill: str = "",
    window: Window | None = None,
) -> RibbonFigure:
    """The ribbon with its pins.

    Parameters
    ----------
    now, after : (flow, flow at the low label number, at the high one), or None for no bowl; a flow of None
    (set or seized) hangs at the stiff end. window : the technique whose tag hangs below.
    """
    pins = []
    for state, label, role, fill in ((now, "now", "now", now_fill), (after, "after", "after", after_fill)):
        if state is None:
            continue
        flow, low, high = state
        if flow is None:
            pins.append(Pin(x_of(6), label, role, fill, x_of(6), x_of(6)))
        else:
            pins.append(_pin(flow, low, high, label, role, fill))
    arc = ""
    if len(pins) == 2 and abs(pins[0].x - pins[1].x) > 4:
        a, b = (WIDTH * p.x / 100 for p in pins)
        arc = f"M{a:.1f} 34 Q{(a + b) / 2:.1f} 2 {b:.1f} 34"
    pins = _kept_apart(pins)
    tag = None
    if window:
        x0, x1 = x_of(ribbon_position(window.thin_end())), x_of(ribbon_position(window.thick_end()))
        tag = Tag(x0, x1 - x0, window.title)
    return RibbonFigure(WIDTH, HEIGHT, MIDDLE, _PATH, _LABELS, tuple(pins), arc, tag)
