"""The test drip: one at the back of the cake, and how far it ran."""

from __future__ import annotations

from coating.flow.drip import drip_length
from coating.limits import BOUNDS, check


def number_from_drip(
    length_mm: float, *, volume_ml: float, temperature_c: float, wall: str = "chilled", width_mm: float = 9.0
) -> float:
    """Trade number as it stands of a coating of which a drip ran so far.

    Parameters
    ----------
    length_mm : float
        How far it ran from the rim, mm.
    volume_ml : float
        What the drip was made of, ml.
    temperature_c : float
        Of the coating.
    wall : str
        What it ran down, as `coating.flow.drip.drip_length` knows it.
    width_mm : float
        Of the drip, mm.

    Returns
    -------
    float
        1 or 400 when it lies beyond.

    Raises
    ------
    OutOfBounds
        A value outside its bounds.
    UnknownName
        There is no such wall.
    """
    check("drip_mm", length_mm, "length_mm")
    low, high = BOUNDS["number"].low, BOUNDS["number"].high
    for _ in range(16):
        middle = (low * high) ** 0.5
        ran = drip_length(middle, volume_ml=volume_ml, temperature_c=temperature_c, wall=wall, width_mm=width_mm)
        low, high = (low, middle) if ran.length_mm < length_mm else (middle, high)
    return float((low * high) ** 0.5)
