"""The season of a month, by whole months as weather services count them."""

from __future__ import annotations

from coating.errors import OutOfBounds

SEASONS = ("winter", "spring", "summer", "autumn")


def season_of(month: int, *, south: bool = False) -> str:
    """The season of a month.

    Parameters
    ----------
    month : int
        1 to 12.
    south : bool
        Whether it is south of the equator, where seasons are the other way round.

    Returns
    -------
    str
        One of SEASONS. Meteorological seasons: winter in the north is December to February. Common practice, no source.

    Raises
    ------
    OutOfBounds
        There is no such month.

    Examples
    --------
    >>> season_of(3), season_of(12), season_of(12, south=True)
    ('spring', 'winter', 'summer')
    """
    if not 1 <= month <= 12:
        raise OutOfBounds("A year has months 1 to 12.", field="month")
    return SEASONS[(month % 12 // 3 + 2 * south) % 4]


def season_year(year: int, month: int) -> int:
    """The year a season counts to: a winter, or a summer in the south, is that of its January."""
    return year + (month == 12)
