"""Looking back: a year as a calendar, what was wasted and what would have saved it, what comes out best; a season on
one page."""

from __future__ import annotations

import calendar
from datetime import date, timedelta

from django.http import Http404, HttpResponse
from django.shortcuts import render
from django.utils import timezone

from coating.evening import SEASONS, season_of
from coating.evening.seasons import season_year
from studio.common import clock
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.templatetags.kitchen import mass
from studio.common.types import Context
from studio.common.words import number_word, stress
from studio.notebook.evenings import is_south
from studio.notebook.looking import TimeSpan, stretch_of
from studio.notebook.record import records_of
from studio.notebook.shown import line_of
from studio.pieces.models import complete

FIRST_YEAR, SHOWN = 1990, 8
LEAST_G = 10.0


def back_says(stretch: TimeSpan, when: str) -> str:
    """What a stretch of time comes to."""
    count = len(stretch.jobs)
    if not count:
        return f"Nothing was made {when}."
    evenings = stress(f"{number_word(count).capitalize()} evening{'' if count == 1 else 's'}")
    said = f"{evenings} {when}: {mass(stretch.melted_g)} melted"
    if stretch.wasted_g < LEAST_G:
        return f"{said}, hardly anything wasted."
    return f"{said}, {stress(mass(stretch.wasted_g))} of it wasted."


def months_of(stretch: TimeSpan, year: int) -> list[Context]:
    """The months of a year as weeks of days, each with its evenings and their colours."""
    months = []
    for month in range(1, 13):
        weeks = [
            [_day(day, stretch) if day.month == month else None for day in week]
            for week in calendar.Calendar().monthdatescalendar(year, month)
        ]
        months.append({"first": date(year, month, 1), "weeks": weeks})
    return months


def _day(day: date, stretch: TimeSpan) -> Context:
    jobs = stretch.days.get(day, [])
    labs = [lab for job in jobs for lab in stretch.labs.get(job.pk, [])[:1]]
    return {"day": day, "jobs": jobs, "lab": labs[0] if labs else None}


def _year(request: KitchenRequest) -> int:
    """The year of the address, or this one."""
    today, said = timezone.localdate(clock.now()).year, request.GET.get("year", "")
    return min(today, max(FIRST_YEAR, int(said))) if said.isdecimal() and len(said) == 4 else today


@kitchen_required
def back(request: KitchenRequest) -> HttpResponse:
    """A year."""
    year, today = _year(request), timezone.localdate(clock.now())
    stretch = stretch_of(request.kitchen, date(year, 1, 1), date(year, 12, 31))
    context = {
        "year": year,
        "says": back_says(stretch, "this year" if year == today.year else f"in {year}"),
        "stretch": stretch,
        "months": months_of(stretch, year),
        "wasted": stretch.wasted[:SHOWN],
        "best": stretch.best[:SHOWN],
        "seasons": SEASONS,
        "later": year < today.year,
    }
    return render(request, "notebook/back.html", context)


def bounds_of(season: str, year: int, *, south: bool) -> tuple[date, date]:
    """From when until when a season lasts; one that goes over the turn of the year is that of its January.

    >>> bounds_of("winter", 2026, south=False), bounds_of("summer", 2026, south=True)[0]
    ((datetime.date(2025, 12, 1), datetime.date(2026, 2, 28)), datetime.date(2025, 12, 1))
    >>> bounds_of("spring", 2026, south=False)[0]
    datetime.date(2026, 3, 1)
    """
    day = date(year - 1, 12, 1)
    days = [day + timedelta(days=i) for i in range(397)]
    mine = [on for on in days if season_of(on.month, south=south) == season and season_year(on.year, on.month) == year]
    return mine[0], mine[-1]


@kitchen_required
def season_page(request: KitchenRequest, year: int, season: str) -> HttpResponse:
    """A season on one page, to print."""
    if season not in SEASONS or not FIRST_YEAR <= year <= 2200:
        raise Http404("no such season")
    first, last = bounds_of(season, year, south=is_south(request.kitchen))
    stretch = stretch_of(request.kitchen, first, last)
    jobs = stretch.jobs[:SHOWN]
    complete(jobs, request.kitchen)
    today = timezone.localdate(clock.now())
    context = {
        "season": season,
        "year": year,
        "says": back_says(stretch, f"in {season} {year}"),
        "stretch": stretch,
        "lines": [line_of(record, today) for record in records_of(jobs, request.kitchen)],
        "wasted": stretch.wasted[:SHOWN],
        "best": stretch.best[:SHOWN],
    }
    return render(request, "notebook/season.html", context)
