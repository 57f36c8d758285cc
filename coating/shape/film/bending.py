"""Does it bend, how many can be bent before the first is too stiff, and how many a bowl gives.

The outer skin of a sheet bent to a radius is stretched by t/2R. Set coating cracks at half a per cent to one [assumed];
that soft coating tears at eight is common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass

from coating.errors import OutOfBounds
from coating.heat.setting import Pliable
from coating.limits import check

CRACKS, TEARS = 0.005, 0.08


@dataclass(frozen=True)
class Bend:
    """A sheet so thick, bent to that radius to its middle, mm."""

    thickness_mm: float
    radius_mm: float

    @property
    def strain(self) -> float:
        """How far its outer skin is stretched.

        >>> round(Bend(2.0, 75.0).strain, 4)
        0.0133
        """
        return self.thickness_mm / (2 * self.radius_mm)

    @property
    def while_soft(self) -> bool:
        """Whether it would crack once set."""
        return self.strain > CRACKS


def bend(thickness_mm: float, radius_mm: float, field: str = "thickness_mm") -> Bend:
    """A bend that a soft sheet can take. Raises OutOfBounds for one that tears, or a value outside its bounds."""
    arc = Bend(check("film_mm", thickness_mm, "thickness_mm"), check("bend_mm", radius_mm, "radius_mm"))
    if arc.strain > TEARS:
        most = 2 * radius_mm * TEARS
        raise OutOfBounds(
            "A sheet that thick tears in such a tight bend. Make it at most {most_mm} thick, or bend it wider.",
            most_mm=most,
            field=field,
        )
    return arc


@dataclass(frozen=True)
class Rounds:
    """How many are spread before the first is bent, how often that is, minutes for one round, and seconds in all."""

    at_a_time: int
    rounds: int
    round_min: float
    seconds: float


def rounds(count: int, window: Pliable, *, spread_s: float, each_s: float) -> Rounds | None:
    """As many as one pair of hands spreads one after another and then bends, each within its own window.

    Parameters
    ----------
    count : in all. window : from when until when one bends, minutes after it was spread. spread_s, each_s : hands for
    spreading one, and for bending and joining one.

    Returns
    -------
    Rounds; None where not even one can be bent in time.
    """
    wanted = int(check("count", count))
    check("duration_s", spread_s, "spread_s"), check("duration_s", each_s, "each_s")
    best, took = 0, 0.0
    for tried in range(1, wanted + 1):
        ended = _ended_s(tried, window, spread_s, each_s)
        if ended is None:
            break
        best, took = tried, ended
    if not best:
        return None
    last = _ended_s(wanted % best or best, window, spread_s, each_s) or took
    often = -(-wanted // best)
    return Rounds(best, often, took / 60, took * (often - 1) + last)


def _ended_s(count: int, window: Pliable, spread_s: float, each_s: float) -> float | None:
    """When the last of so many is bent, all of them in time; None where one is too late."""
    at = count * spread_s
    for i in range(count):
        spread = (i + 1) * spread_s
        at = max(at, spread + window.from_min * 60) + each_s
        if at > spread + window.until_min * 60 + 1e-9:
            return None
    return at


def per_melt(usable_s: float, *, spread_s: float, each_s: float) -> int:
    """How many one melt gives before the bowl is too cool, hands spreading and bending in turn; one at least."""
    return max(1, int(min(usable_s, 86400.0) / max(1.0, spread_s + each_s)))
