"""At the bench: one thing, big; what waits beside it, what comes next. Late? The rest follows what happened."""

from __future__ import annotations

import uuid
from datetime import datetime, timedelta
from typing import Any

from django import forms
from django.contrib import messages
from django.http import HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST

from coating.plan.day import HANDS
from coating.plan.day.rest import Rest, rest_of
from studio.common import clock
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.day import actions
from studio.day.adapters import Planned, day_of
from studio.day.folding import MELT, Happened, fold
from studio.day.models import DayEvent, DayPlan
from studio.pieces.models import Job

OLDEST = timedelta(days=2)


class EventForm(forms.Form):
    """What a button sends."""

    key = forms.UUIDField()
    step = forms.CharField(max_length=80)
    kind = forms.ChoiceField(choices=DayEvent.KINDS)
    at = forms.FloatField(required=False)  # when it happened, s since 1970; left out: now

    def moment(self, now: datetime) -> datetime:
        """Never in the future, never long ago: clocks of tablets go wrong."""
        told = self.cleaned_data.get("at")
        if told is None:
            return now
        at = datetime.fromtimestamp(min(max(told, (now - OLDEST).timestamp()), now.timestamp()), tz=now.tzinfo)
        return at


def _row(request: KitchenRequest, pk: int) -> DayPlan:
    found: DayPlan = DayPlan.objects.select_related("job").get_for(request.kitchen, job_id=pk)
    return found


def _now(request: KitchenRequest, pk: int) -> dict[str, Any]:
    """What the bench shows."""
    row, kitchen, now = _row(request, pk), request.kitchen, clock.now()
    job = Job.objects.whole(kitchen, pk)
    asked = row.asked
    planned = day_of(job, kitchen, hands=int(asked.get("hands") or 1), fridge=int(asked.get("fridge") or 0),
                     freezer=int(asked.get("freezer") or 0))  # fmt: skip
    found = fold(row.events.all(), planned.counts if planned else {})
    done, longer = found.done, found.longer
    day = row.day
    seconds = {name: at.timestamp() for name, at in done.items()}
    warm = {n: at.timestamp() for n, at in found.melted.items()}
    rest = rest_of(day, row.plan.starts_s, seconds, warm, max(now, longer or now).timestamp())
    hands = [s.name for s in day.steps if HANDS in s.uses]
    context: dict[str, Any] = {
        "job": job, "row": row, "done_count": sum(n in done for n in hands), "count": len(hands), "now": now,
        "longer": longer if longer and longer > now else None, "last": found.order[-1] if found.order else None,
        "key": uuid.uuid4(), "undo_key": uuid.uuid4(),
    }  # fmt: skip
    if rest is None or planned is None:
        return context | {"over": True}
    _look_in_the_cold(row, rest, day, done, now)
    lines = _lines(rest, planned, day, now, found)
    end = timezone.localtime(now + timedelta(seconds=rest.plan.makespan_s))
    waiting = _waiting(day, planned, done, now)
    context |= {"line": lines[0] if lines else None, "all": lines[1:40], "waiting": waiting, "late_s": rest.late_s,
                "end": end, "wrong": found.wrong.get(lines[0]["step"]) if lines else None}  # fmt: skip
    return context


def _look_in_the_cold(row: DayPlan, rest: Rest, day: Any, done: dict[str, datetime], now: datetime) -> None:
    """What only stands somewhere begins and ends by itself: nobody taps for it."""
    for name, start in list(rest.plan.starts_s.items()):
        step = day.by_name[name]
        if HANDS in step.uses:
            continue
        before = [done[la.before] for la in day.lags if la.after == name and la.before in done]
        if before and not any(la.before not in done for la in day.lags if la.after == name) and start <= 0:
            ended = max(before) + timedelta(seconds=step.duration_s)
            if ended <= now:
                known = uuid.uuid5(uuid.NAMESPACE_URL, f"{row.pk}:{row.asked_at.isoformat()}:{name}")
                actions.happened(row, key=known, step=name, kind="done", at=ended)


def _lines(rest: Rest, planned: Planned, day: Any, now: datetime, had: Happened) -> list[dict[str, Any]]:
    """All that hands still do, by the clock from now on."""
    found: list[tuple[int, dict[str, Any]]] = []
    for name, start in rest.plan.starts_s.items():
        step = day.by_name[name]
        if HANDS in step.uses and name in planned.says:
            need = planned.bowls.get(step.bowl or "")
            told = {"says": planned.says[name], "piece": planned.of[name], "need": need,
                    "of": planned.counts.get(name), "ones": had.ones.get(name, 0)}  # fmt: skip
            found.append((start, {"step": name, "long_s": step.duration_s, **told}))
    for melt in rest.plan.melts:
        bowl, need = day.bowls[melt.bowl], planned.bowls.get(melt.bowl)
        long_s = bowl.heat_s + bowl.stir_s
        found.append((melt.start_s, {"step": f"{MELT}{melt.bowl}", "melt": need, "long_s": long_s, "need": need}))
    found.sort(key=lambda pair: pair[0])
    return [
        {**told, "wait_s": start, "at": timezone.localtime(now + timedelta(seconds=start))} for start, told in found
    ]


def _waiting(day: Any, planned: Planned, done: dict[str, datetime], now: datetime) -> list[dict[str, Any]]:
    """What was begun and waits: until when at least, and at most."""
    found = []
    for lag in day.lags:
        if lag.before not in done or lag.after in done or not (lag.min_s or lag.max_s is not None):
            continue
        gone = (now - done[lag.before]).total_seconds()
        step = day.by_name[lag.after]
        least = lag.min_s - gone + (step.duration_s if HANDS not in step.uses else 0)
        most = None if lag.max_s is None else lag.max_s - gone
        found.append({
            "says": planned.says.get(lag.after, ""), "piece": planned.of.get(lag.after), "least_s": max(0, least),
            "most_s": most, "missed": most is not None and most < 0,
        })  # fmt: skip
    return sorted(found, key=lambda w: w["least_s"])[:6]


@kitchen_required
def bench(request: KitchenRequest, pk: int) -> HttpResponse:
    """One thing, big."""
    if not DayPlan.objects.for_kitchen(request.kitchen).filter(job_id=pk).exists():
        Job.objects.get_for(request.kitchen, pk=pk)
        messages.info(request, "Plan the day first: then the bench leads you through it.")
        return redirect("day:day", pk=pk)
    return render(request, "day/bench.html", _now(request, pk))


@kitchen_required
@require_POST
def happened(request: KitchenRequest, pk: int) -> HttpResponse:
    """A button was pressed, now or while there was no connection; the same one counts once."""
    row, form = _row(request, pk), EventForm(request.POST)
    if not form.is_valid():
        if request.headers.get("Accept", "").startswith("application/json"):
            return JsonResponse({"message": "That was not understood: load the page again."}, status=422)
        messages.error(request, "That was not understood: try again.")
        return redirect("day:bench", pk=pk)
    data = form.cleaned_data
    actions.happened(row, key=data["key"], step=data["step"], kind=data["kind"], at=form.moment(clock.now()))
    if request.headers.get("Accept", "").startswith("application/json"):
        return JsonResponse({"kept": str(data["key"])})
    return redirect("day:bench", pk=pk)
