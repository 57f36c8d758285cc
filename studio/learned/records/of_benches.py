"""Benches: how long hands took over the steps of a day, as it was tapped, beside how long they were planned for."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime, timedelta
from itertools import pairwise

from django.db.models import Prefetch, Q
from django.urls import reverse

from coating.learning import Observation
from coating.learning.names import PACE
from coating.plan.day import HANDS, DayStep
from studio.accounts.models import Kitchen
from studio.common.words import many
from studio.day.folding import MELT
from studio.day.models import DayEvent, DayPlan, part_of
from studio.day.took import wrote_down
from studio.learned.records.noted import Known, Noted, day_of
from studio.pieces.models import Layer

NEWEST, LEAST_S = 100, 240.0
LIKELY = (0.2, 4.0)  # times as long as planned: taps one after the other, or supper, say nothing


def of_benches(kitchen: Kitchen, known: Known) -> Iterable[Noted]:
    """One record for each job that was made at the bench, or whose minutes were written down."""
    events = DayEvent.objects.order_by("happened_at", "pk")
    made = Q(pk__in=DayEvent.objects.for_kitchen(kitchen).filter(kind="done").values("plan")) | Q(took_min__gt=0)
    plans = DayPlan.objects.for_kitchen(kitchen).filter(made).order_by("-pk")
    plans = plans.select_related("job", "kitchen").prefetch_related(Prefetch("events", queryset=events))[:NEWEST]
    said = _said_by_hand(kitchen, list(plans))
    for plan in plans:
        if plan.took_min and plan.took_at:
            if not known.words.is_forgotten(PACE, plan.took_at) and not said:
                yield _written(plan, plan.took_min, plan.took_at)
            continue
        taps = list(plan.events.all())
        at = taps[-1].happened_at
        took_s, planned_s, steps = _hands(plan, taps, said)
        if planned_s < LEAST_S or known.words.is_forgotten(PACE, at):
            continue
        record = Observation(
            f"pace-{plan.pk}", "pace", f"job-{plan.job_id}", day_of(at), value=took_s, given={"expected_s": planned_s}
        )
        says = f"{many(steps, 'step')} took {took_s / 60:.0f} min of hands, {planned_s / 60:.0f} as assumed"
        page = reverse("day:bench", args=[plan.job_id])
        yield Noted(record, f"pace-{plan.pk}", says, plan.job.name, page, at)


def _written(plan: DayPlan, minutes: float, at: datetime) -> Noted:
    """Minutes that were written down, of all that one's own hands do on a day."""
    who, pace = plan.best.get("by", {}), plan.went_by_pace
    own = [s for s in plan.day.steps if s.handled and who.get(s.name, HANDS) == HANDS]
    planned_s = sum(s.duration_s / (pace if s.name[:1].isdigit() else 1.0) for s in own)
    name, of = f"took-{plan.pk}", {"expected_s": planned_s}
    record = Observation(name, "pace", f"job-{plan.job_id}", day_of(at), value=60 * minutes, given=of)
    page = reverse("day:day", args=[plan.job_id])

    def mend(value: float) -> None:
        wrote_down(plan, value / 60)

    return Noted(record, name, f"{minutes:.0f} min of hands, written down", plan.job.name, page, at, mend)


def _said_by_hand(kitchen: Kitchen, plans: list[DayPlan]) -> set[str]:
    """Layers whose seconds their maker said: of these nothing is learned."""
    own = list(kitchen.paces)
    if not own or not plans:
        return set()
    jobs = [plan.job_id for plan in plans]
    return {str(pk) for pk in Layer.objects.filter(piece__job__in=jobs, technique__in=own).values_list("pk", flat=True)}


def _hands(plan: DayPlan, taps: list[DayEvent], said: set[str]) -> tuple[float, float, int]:
    """Seconds that the steps of one's own hands took and were to take as assumed, and how many they are."""
    steps = {s.name: s for s in plan.day.steps}
    ready = {lag.after: (lag.before, lag.min_s) for lag in plan.day.lags if lag.min_s}
    who, pace = plan.best.get("by", {}), plan.went_by_pace
    ends = {tap.step: tap.happened_at for tap in taps if tap.kind == "done"}
    took = planned = 0.0
    counted = 0
    for before, tap in pairwise(taps):
        step = steps.get(tap.step)
        if tap.kind != "done" or before.step == tap.step or before.kind not in ("done", "one") or step is None:
            continue
        if not _is_ones_own(step, who) or part_of(step.name) in said:
            continue
        begun = before.happened_at
        if step.name in ready and ready[step.name][0] in ends:
            first, least_s = ready[step.name]
            begun = max(begun, ends[first] + timedelta(seconds=least_s))
        long_s, default_s = (tap.happened_at - begun).total_seconds(), step.duration_s / pace
        if LIKELY[0] * default_s <= long_s <= LIKELY[1] * default_s:
            took, planned, counted = took + long_s, planned + default_s, counted + 1
    return took, planned, counted


def _is_ones_own(step: DayStep, who: dict[str, str]) -> bool:
    """Whether it is made with one's own hands: not a bowl's step, not a helper's."""
    return (
        step.handled
        and step.name[:1].isdigit()
        and not step.name.startswith(MELT)
        and who.get(step.name, HANDS) == HANDS
    )
