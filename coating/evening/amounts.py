"""What became of what was melted: on the pieces, taken out, lost, or left."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from coating.errors import OutOfBounds


@dataclass(frozen=True)
class Taken:
    """Something that was taken out of a bowl and used, g, or given into another bowl; and what of the rest was thrown
    away with it, g."""

    mass_g: float
    lost_g: float = 0.0
    given: bool = False


@dataclass(frozen=True)
class Came:
    """All that went into a bowl and where it went, g: what goes in comes out again.

    melted_g = on_pieces_g + given_g + lost_g + left_g.
    """

    melted_g: float = 0.0
    on_pieces_g: float = 0.0
    given_g: float = 0.0
    lost_g: float = 0.0
    left_g: float = 0.0

    def __add__(self, other: Came) -> Came:
        return Came(
            self.melted_g + other.melted_g,
            self.on_pieces_g + other.on_pieces_g,
            self.given_g + other.given_g,
            self.lost_g + other.lost_g,
            self.left_g + other.left_g,
        )


def came_of(put_in_g: float, taken: Iterable[Taken]) -> Came:
    """Where all went that was put into a bowl.

    Parameters
    ----------
    put_in_g : float
        Everything that went in and was not struck out, g.
    taken : iterable of Taken
        What was taken out, in any order. More than there was counts as all there was.

    Returns
    -------
    Came

    Raises
    ------
    OutOfBounds
        A mass is below zero, or no number.

    Examples
    --------
    >>> came_of(280.0, [Taken(200.0), Taken(20.0, lost_g=10.0)])
    Came(melted_g=280.0, on_pieces_g=220.0, given_g=0.0, lost_g=10.0, left_g=50.0)
    """
    if not put_in_g >= 0:
        raise OutOfBounds("What went into a bowl is a mass from 0 g on.", field="put_in_g")
    left_g, came = put_in_g, Came(put_in_g)
    for one in taken:
        if not (one.mass_g >= 0 and one.lost_g >= 0):
            raise OutOfBounds("What is taken out of a bowl is a mass from 0 g on.", field="taken")
        out_g = min(one.mass_g, left_g)
        lost_g = min(one.lost_g, left_g - out_g)
        left_g -= out_g + lost_g
        came += Came(0.0, 0.0 if one.given else out_g, out_g if one.given else 0.0, lost_g)
    return came + Came(left_g=left_g)
