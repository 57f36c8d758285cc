"""The season of a date, by whole months as weather services count them."""

from __future__ import annotations

from datetime import date

SEASONS = ("winter", "spring", "summer", "autumn")


def season_of(on: date, *, south: bool = False) -> str:
    """The season of a date.

    Parameters
    ----------
    on : datetime.date
    south : bool
        Whether it is south of the equator, where seasons are the other way round.

    Returns
    -------
    str
        One of SEASONS. Meteorological seasons: winter in the north is December to February. Common practice, no source.

    Examples
    --------
    >>> season_of(date(2026, 3, 1)), season_of(date(2026, 12, 31)), season_of(date(2026, 12, 31), south=True)
    ('spring', 'winter', 'summer')
    """
    return SEASONS[(on.month % 12 // 3 + 2 * south) % 4]


def season_year(on: date) -> int:
    """The year a season counts to: a winter is that of its January."""
    return on.year + (on.month == 12)
