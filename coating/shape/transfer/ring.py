"""How many pieces go round a dessert: bent to its side, or flat against it; and how long a sleeve is."""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.errors import OutOfBounds
from coating.limits import check


@dataclass(frozen=True)
class Ring:
    """How many, and the gap between two, mm."""

    count: int
    gap_mm: float


def ring(diameter_mm: float, side_mm: float, *, gap_mm: float = 0.0, flat: bool = False) -> Ring:
    """Squares round a dessert.

    Parameters
    ----------
    diameter_mm : float
        Of the dessert, mm.
    side_mm : float
        Of a piece, along the side, mm.
    gap_mm : float
        At least, between two, mm.
    flat : bool
        They do not bend, each touches in its middle.

    Returns
    -------
    Ring

    Raises
    ------
    OutOfBounds
        None goes round, or a value outside its bounds.
    """
    across, side = check("tier_or_cup_mm", diameter_mm, "diameter_mm"), check("piece_side_mm", side_mm, "side_mm")
    least = check("kerf_mm", gap_mm, "gap_mm")
    if flat:
        count = math.floor(math.pi / math.atan((side + least) / across) + 1e-9)
        around = count * across * math.tan(math.pi / count) if count > 2 else 0.0
    else:
        count = math.floor(math.pi * across / (side + least) + 1e-9)
        around = math.pi * across
    if count < (3 if flat else 1):
        raise OutOfBounds("A piece that large does not go round it. Make it smaller.", field="side_mm")
    return Ring(count, around / count - side)


def oval_round_mm(long_mm: float, wide_mm: float) -> float:
    """The way round an oval (Ramanujan 1914, second formula).

    Parameters
    ----------
    long_mm, wide_mm : float
        Its axes, mm.

    Returns
    -------
    float
        mm.

    Raises
    ------
    OutOfBounds
        A value outside its bounds.

    >>> round(oval_round_mm(100, 100), 6) == round(100 * math.pi, 6)
    True
    """
    a, b = (check("tier_or_cup_mm", mm, "diameter_mm") / 2 for mm in (long_mm, wide_mm))
    h = ((a - b) / (a + b)) ** 2
    return math.pi * (a + b) * (1 + 3 * h / (10 + math.sqrt(4 - 3 * h)))


def oval_ring(long_mm: float, wide_mm: float, side_mm: float, *, gap_mm: float = 0.0) -> Ring:
    """Pieces bent round an oval.

    Parameters
    ----------
    long_mm, wide_mm : float
        Its axes, mm.
    side_mm : float
        Of a piece, mm.
    gap_mm : float
        The least gap between pieces, mm.

    Returns
    -------
    Ring

    Raises
    ------
    OutOfBounds
        A value outside its bounds, or a piece that does not go round.
    """
    around = oval_round_mm(long_mm, wide_mm)
    side, least = check("piece_side_mm", side_mm, "side_mm"), check("kerf_mm", gap_mm, "gap_mm")
    count = math.floor(around / (side + least) + 1e-9)
    if count < 1:
        raise OutOfBounds("A piece that large does not go round it. Make it smaller.", field="side_mm")
    return Ring(count, around / count - side)


def box_ring(long_mm: float, wide_mm: float, side_mm: float, *, gap_mm: float = 0.0) -> tuple[int, int, Ring]:
    """Flat pieces along the sides of a dessert with corners.

    Parameters
    ----------
    long_mm, wide_mm : float
        Its sides, mm.
    side_mm : float
        Of a piece, mm.
    gap_mm : float
        The least gap between pieces, mm.

    Returns
    -------
    on_long, on_wide : int
        How many stand on a long and on a wide side.
    ring : Ring
        All four sides, with the narrower of their gaps.

    Raises
    ------
    OutOfBounds
        A value outside its bounds, or a piece longer than a side.
    """
    side, least = check("piece_side_mm", side_mm, "side_mm"), check("kerf_mm", gap_mm, "gap_mm")
    sides = [check("tier_or_cup_mm", mm, "diameter_mm") for mm in (long_mm, wide_mm)]
    on = [math.floor((mm + least) / (side + least) + 1e-9) for mm in sides]
    if not all(on):
        raise OutOfBounds("A piece that large does not fit on the side. Make it smaller.", field="side_mm")
    gaps = [(mm - n * side) / (n - 1) for mm, n in zip(sides, on, strict=True) if n > 1]
    return on[0], on[1], Ring(2 * sum(on), min(gaps, default=0.0))


def sleeve_mm(diameter_mm: float, thickness_mm: float, overlap_mm: float) -> float:
    """How long a strip is that goes round with its ends pressed together: pi (D + t) + overlap.

    Parameters
    ----------
    diameter_mm, thickness_mm, overlap_mm : float

    Returns
    -------
    float
        mm.

    Raises
    ------
    OutOfBounds
        A value outside its bounds.
    """
    across = check("tier_or_cup_mm", diameter_mm, "diameter_mm")
    return math.pi * (across + check("thickness_mm", thickness_mm)) + check("overlap_mm", overlap_mm)
