"""Times of day and what is left of a wait: the two never look alike."""

from __future__ import annotations

from typing import Any

from django import template
from django.utils import timezone

from studio.common.measures import current

register = template.Library()

SECONDS_UNDER_S = 120.0  # from two minutes on nobody counts them


@register.filter
def time_left(seconds: float) -> str:
    """How long there is still, or that it is over; never to be taken for a time of day.

    >>> time_left(0), time_left(54.2), time_left(60), time_left(100), time_left(121), time_left(2400)
    ('now', '55 s', '1 min', '1 min 40 s', '3 min', '40 min')
    """
    left = int(max(0.0, seconds) + 0.999)
    if left >= SECONDS_UNDER_S:
        return f"{-(-left // 60)} min"
    minutes, rest = f"{left // 60} min" if left >= 60 else "", f"{left % 60} s" if left % 60 else ""
    return f"{minutes} {rest}".strip() or "now"


@register.filter
def ring_number(seconds: float) -> str:
    """The figure within a ring of time, whose unit `ring_unit` says.

    >>> ring_number(54.2), ring_number(100), ring_number(121)
    ('55', '100', '3')
    """
    left = int(max(0.0, seconds) + 0.999)
    return str(-(-left // 60) if left >= SECONDS_UNDER_S else left)


@register.filter
def ring_unit(seconds: float) -> str:
    """Minutes, and seconds only under two of them."""
    return "min" if int(max(0.0, seconds) + 0.999) >= SECONDS_UNDER_S else "s"


def clock_text(moment: Any) -> str:
    """A time of day as this kitchen's clock says it: 8:14, or 8:14 am."""
    return f"{moment:%-I:%M} {'am' if moment.hour < 12 else 'pm'}" if current().half_day_clock else f"{moment:%-H:%M}"


@register.filter
def clocked(moment: Any) -> str:
    """A moment by the clock of its kitchen."""
    if moment is None or moment == "":
        return ""
    aware = hasattr(moment, "tzinfo") and hasattr(moment, "date") and timezone.is_aware(moment)
    return clock_text(timezone.localtime(moment) if aware else moment)


@register.filter
def start_wait(seconds: float) -> str:
    """What the button says that starts a wait."""
    return "Start the minute" if seconds == 60 else f"Start {seconds:.0f} s"
