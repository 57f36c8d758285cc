"""Where a function crosses zero: bracketed regula falsi (Illinois), so that the core starts without scipy."""

from __future__ import annotations

from collections.abc import Callable


def crossing(function: Callable[[float], float], low: float, high: float, *, tolerance: float = 1e-12) -> float:
    """A point of [low, high] where `function` changes sign, to a relative `tolerance`.

    Raises
    ------
    ValueError : the ends have the same sign.

    Source: Dowell & Jarratt 1971, the Illinois modification.

    >>> round(crossing(lambda x: x * x - 2, 0, 2), 9)
    1.414213562
    """
    f_low, f_high = function(low), function(high)
    if f_low == 0:
        return low
    if f_high == 0:
        return high
    if (f_low > 0) == (f_high > 0):
        raise ValueError("the ends have the same sign")
    side = 0
    for _ in range(200):
        middle = (low * f_high - high * f_low) / (f_high - f_low)
        f_middle = function(middle)
        if f_middle == 0 or abs(high - low) <= tolerance * max(abs(low), abs(high), 1e-300):
            return middle
        if (f_middle > 0) == (f_high > 0):
            moved = abs(high - middle)
            high, f_high = middle, f_middle
            f_low = f_low / 2 if side == 1 else f_low
            side = 1
        else:
            moved = abs(middle - low)
            low, f_low = middle, f_middle
            f_high = f_high / 2 if side == -1 else f_high
            side = -1
        if moved <= tolerance * max(abs(low), abs(high)) and abs(f_middle) < 1e-9 * (abs(f_low) + abs(f_high) + 1):
            return middle
    return (low + high) / 2
