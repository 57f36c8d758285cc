"""The one place that looks at the clock, so that tests can hold it."""

from datetime import datetime

from django.utils import timezone


def now() -> datetime:
    """This moment, UTC, aware."""
    return timezone.now()
