"""Timers that were stopped with "it is set": how long a coat really took."""

from __future__ import annotations

from collections.abc import Iterable

from django.urls import reverse

from coating.learning import Observation
from coating.learning.names import SET
from studio.accounts.models import Kitchen
from studio.bowls.models import Timer
from studio.learned.records.noted import Known, Noted, day_of

NEWEST, LEAST_MIN = 400, 0.5


def of_timers(kitchen: Kitchen, known: Known) -> Iterable[Noted]:
    """One record for each coat that was seen to be set."""
    seen = Timer.objects.for_kitchen(kitchen).exclude(set_at=None).select_related("bowl").order_by("-pk")
    for timer in seen[:NEWEST]:
        assert timer.set_at is not None
        minutes, about = (timer.set_at - timer.begun_at).total_seconds() / 60, timer.about
        if minutes < LEAST_MIN or known.words.is_forgotten(SET, timer.set_at):
            continue
        record = Observation(
            f"set-{timer.pk}", "set", str(timer.bowl_id), day_of(timer.set_at), value=minutes, given=about
        )
        page = reverse("bowls:bowl", args=[timer.bowl_id])
        says = f"set after {minutes:.0f} min"
        yield Noted(record, f"set-{timer.pk}", says, timer.bowl.name, page, timer.set_at)
