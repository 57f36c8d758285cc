"""The warmth of a bowl over the last while, as a line with its readings, and the range it is worked in."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

WIDTH, HEIGHT, LEFT, BOTTOM = 640.0, 250.0, 2.0, 36.0
LOWEST_C, HIGHEST_C = 18.0, 52.0
_POINTS = 60


@dataclass(frozen=True)
class TemperChart:
    """A drawing of 640 by 240: the line, readings as (x, y), the band of the range as (y, height), ticks as (place,
    what is there) in degC and in minutes before now."""

    line: str
    readings: tuple[tuple[float, float], ...]
    band: tuple[float, float]
    degrees: tuple[tuple[float, float], ...]
    minutes: tuple[tuple[float, float], ...]
    right: float = WIDTH
    left: float = LEFT
    floor: float = HEIGHT - BOTTOM


def _y(temperature_c: float) -> float:
    share = (min(HIGHEST_C, max(LOWEST_C, temperature_c)) - LOWEST_C) / (HIGHEST_C - LOWEST_C)
    return round((HEIGHT - BOTTOM) * (1 - share), 1)


def chart_moments(begun_s: float, now_s: float) -> list[float]:
    """The moments (s) at which the line wants to know how warm it was."""
    return [begun_s + (now_s - begun_s) * i / (_POINTS - 1) for i in range(_POINTS)]


def temper_chart(
    warmth: Sequence[tuple[float, float]],
    *,
    readings: Sequence[tuple[float, float]],
    range_c: tuple[float, float],
    ticks_c: Sequence[float] = (20, 30, 40, 50),
) -> TemperChart:
    """The line through `warmth`, with `readings` on it; both as (s, degC), the first one from first to now."""
    begun_s, now_s = warmth[0][0], warmth[-1][0]
    span = max(60.0, now_s - begun_s)

    def x(at_s: float) -> float:
        return round(LEFT + (WIDTH - LEFT) * (at_s - begun_s) / span, 1)

    line = " L".join(f"{x(t)} {_y(c)}" for t, c in warmth)
    seen = tuple((x(t), _y(c)) for t, c in readings if begun_s <= t <= now_s)
    step = 5 if span < 2400 else 15 if span < 7200 else 60
    ago = [float(m) for m in range(0, int(span / 60) + 1, step)]
    low, high = range_c
    return TemperChart(
        f"M{line}",
        seen,
        (_y(high), round(_y(low) - _y(high), 1)),
        tuple((_y(c), float(c)) for c in ticks_c),
        tuple((x(now_s - 60 * m), m) for m in ago),
    )
