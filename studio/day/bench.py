"""At the bench: one thing, big; what waits beside it, what comes next. Late? The rest follows what happened."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from datetime import datetime, timedelta

from django import forms
from django.contrib import messages
from django.http import HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST

from coating.errors import CoatingError
from coating.plan.day import Day, DayStep, Melt, Plan
from coating.plan.day.rest import Rest, rest_of
from studio.common import clock
from studio.common.forms import asked_and_reckoned
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.types import Context, Json, Typed
from studio.day import actions
from studio.day.adapters import MELTED, Planned, day_of
from studio.day.broken import can_break, parts_made
from studio.day.folding import MELT, Happened, MadePieces, fold
from studio.day.forms import DayForm, nights_from
from studio.day.models import DayEvent, DayPlan, asked_of, part_of
from studio.day.reckoning import unsaid
from studio.day.says import then_says
from studio.day.shown import shown_of
from studio.pieces.models import Job

OLDEST = timedelta(days=2)
AT_ONCE_S, LEAST_S = 60, 10.0


class EventForm(forms.Form):
    """What a button sends."""

    key = forms.UUIDField()
    step = forms.CharField(max_length=80)
    kind = forms.ChoiceField(choices=DayEvent.KINDS)
    ago_s = forms.FloatField(required=False)  # how long ago it happened; left out: now

    def moment(self, now: datetime) -> datetime:
        """Never in the future, never long ago: clocks of tablets go wrong."""
        ago_s = self.cleaned_data.get("ago_s") or 0.0
        return now - timedelta(seconds=min(max(ago_s, 0.0), OLDEST.total_seconds()))


def _row(request: KitchenRequest, pk: int) -> DayPlan:
    plan: DayPlan = DayPlan.objects.select_related("job").get_for(request.kitchen, job_id=pk)
    return plan


def _now(request: KitchenRequest, pk: int) -> Context:
    """What the bench shows."""
    row, now = _row(request, pk), clock.now()
    job = Job.objects.whole(request.kitchen, pk)
    _, form = asked_and_reckoned(DayForm, asked_of(row))
    planned = day_of(job, request.kitchen, form.asked(request.kitchen))
    parts = parts_made(job)
    had = fold(row.events.all(), planned.counts if planned else {}, parts)
    day = row.day
    done = _with_what_stood(day, had.done, now)
    from_now = max(now, had.longer or now)
    here = timezone.localtime(from_now)
    rest = rest_of(
        day,
        row.plan.starts_s,
        {name: at.timestamp() for name, at in done.items()},
        {name: at.timestamp() for name, at in had.melted.items()},
        from_now.timestamp(),
        left_s=_left_s(day, had, done, planned, from_now, parts),
        melts=_to_melt(row.plan, had),
        by=row.plan.by,
        closed=nights_from(form, here.replace(tzinfo=None)),
    )
    hands = [s.name for s in day.steps if s.handled]
    context: Context = {
        "job": job,
        "row": row,
        "done_count": sum(n in done for n in hands),
        "count": len(hands),
        "now": now,
        "longer": had.longer if had.longer and had.longer > now else None,
        "last": had.order[-1] if had.order else None,
        "key": uuid.uuid4(),
        "undo_key": uuid.uuid4(),
    }
    if rest is None or planned is None:
        return context | {"over": True}
    todo = _lines(rest, planned, day, here, had)
    mine = [line for line in todo if not line["who"]]
    meanwhile = [{**line, "key": uuid.uuid4()} for line in todo if line["who"] and line["wait_s"] <= AT_ONCE_S]
    end = here + timedelta(seconds=rest.plan.makespan_s)
    first = mine[0] if mine else None
    if first is not None:
        first["shown"] = shown_of(planned, first["step"])
    helped, spare = {line["step"] for line in meanwhile}, _spare_s(form, end)
    return context | {
        "line": first,
        "all": [line for line in todo if line is not first and line["step"] not in helped][:40],
        "meanwhile": meanwhile,
        "waiting": _waiting(day, planned, done, now, first),
        "late_s": rest.late_s,
        "end": end,
        "wrong": had.wrong.get(first["step"]) if first else None,
        "again_key": uuid.uuid4(),
        "breaks": [(b, uuid.uuid4()) for b in can_break(job, first["step"], day.by_name, had)] if first else [],
        "spare_s": max(0.0, spare),
        "overdue_s": max(0.0, -spare),
    }


def _to_melt(plan: Plan, had: Happened) -> list[Melt]:
    """Melts that are still to come: of each bowl the first ones are over."""
    over, left = dict(had.melts), []
    for melt in plan.melts:
        if over.get(melt.bowl, 0) > 0:
            over[melt.bowl] -= 1
        else:
            left.append(melt)
    return left


def _spare_s(form: DayForm, end: datetime) -> float:
    """How long before it has to be ready, s; 0 where nothing was said, or that day is still to come."""
    try:
        deadline = form.deadline_s()
    except CoatingError:
        return 0.0
    if deadline is None or form.begins.date() > end.date():
        return 0.0
    return (form.begins + timedelta(seconds=deadline) - end.replace(tzinfo=None)).total_seconds()


def _left_s(
    day: Day,
    had: Happened,
    done: dict[str, datetime],
    planned: Planned | None,
    now: datetime,
    parts: Mapping[str, MadePieces],
) -> dict[str, float]:
    """How long what was begun still takes: what goes piece by piece, and what stands somewhere."""
    seconds = {}
    for name, ones in had.ones.items():
        of = planned.counts.get(name, 0) if planned else 0
        if name in day.by_name and 0 < ones < of:
            seconds[name] = day.by_name[name].duration_s * (of - ones) / of
    for step in day.steps:
        more, many = had.more.get(part_of(step.name), 0), parts.get(part_of(step.name))
        if more and many and step.handled:
            seconds[step.name] = max(LEAST_S, step.duration_s * min(1.0, more / many.made))
        begun = None if step.handled else _begun(step, day, done)
        if begun is not None:
            seconds[step.name] = max(0.0, step.duration_s - (now - begun).total_seconds())
    return seconds


def _begun(step: DayStep, day: Day, done: dict[str, datetime]) -> datetime | None:
    """When what only stands somewhere was put there: as soon as all before it was done."""
    before = [la.before for la in day.lags if la.after == step.name]
    if not before or any(name not in done for name in before):
        return None
    return max(done[name] for name in before)


def _with_what_stood(day: Day, done: dict[str, datetime], now: datetime) -> dict[str, datetime]:
    """With what only stands somewhere: that begins and ends by itself, nobody taps for it."""
    ends = dict(done)
    for step in day.steps:
        begun = None if step.handled or step.name in ends else _begun(step, day, ends)
        ended = None if begun is None else begun + timedelta(seconds=step.duration_s)
        if ended is not None and ended <= now:
            ends[step.name] = ended
    return ends


def _lines(rest: Rest, planned: Planned, day: Day, here: datetime, had: Happened) -> list[Context]:
    """All that is still done by somebody, by the clock from now on."""
    lines: list[tuple[int, Context]] = []
    for name, start in rest.plan.starts_s.items():
        step = day.by_name[name]
        if step.handled and name in planned.says:
            more = had.more.get(part_of(name), 0)
            line = {
                "says": planned.says[name],
                "look": planned.looks.get(name),
                "shown": shown_of(planned, name, joints_only=True),
                "piece": unsaid(planned, name),
                "of": None if more else planned.counts.get(name),
                "more": more,
                "need": planned.bowls.get(step.bowl or ""),
                "ones": had.ones.get(name, 0),
                "who": planned.names.get(rest.plan.by.get(name, ""), ""),
            }
            lines.append((start, {"step": name, "long_s": step.duration_s, **line}))
    for melt in rest.plan.melts:
        bowl, need = day.bowls[melt.bowl], planned.bowls.get(melt.bowl)
        then = then_says(need, again=melt.again) if need else ""
        line = {"melt": need, "need": need, "who": "", "look": MELTED, "again": melt.again, "then": then}
        lines.append((melt.start_s, {"step": f"{MELT}{melt.bowl}", "long_s": bowl.off_s(again=melt.again), **line}))
    lines = _warm_last(sorted(lines, key=lambda pair: pair[0]), day)
    return [{**line, "wait_s": start, "at": here + timedelta(seconds=start)} for start, line in lines]


def _warm_last(lines: list[tuple[int, Context]], day: Day) -> list[tuple[int, Context]]:
    """A bowl is warmed again right before it is used: what that use waits for comes first, or it is cold once more by
    then."""
    before: dict[str, list[str]] = {}
    for lag in day.lags:
        before.setdefault(lag.after, []).append(lag.before)
    made = list(lines)
    for at, line in lines:
        if not line.get("again"):
            continue
        place = made.index((at, line))
        bowl = line["step"].removeprefix(MELT)
        use = next((t["step"] for _, t in made[place + 1 :] if t["need"] and _from(t["step"], day) == bowl), None)
        wanted, left = set[str](), [use] if use else []
        while left:
            more = [name for name in before.get(left.pop(), ()) if name not in wanted]
            wanted |= set(more)
            left += more
        first = [
            pair for pair in made[place + 1 :] if pair[1]["step"] in wanted and _from(pair[1]["step"], day) != bowl
        ]
        rest = [pair for pair in made[place:] if pair not in first]
        made = [*made[:place], *((at, told_first) for _, told_first in first), *rest]
    return made


def _from(step: str, day: Day) -> str | None:
    """The bowl that a step is done from."""
    return day.by_name[step].bowl if step in day.by_name else None


def _wait(planned: Planned, step: str, least_s: float, most_s: float | None) -> Json:
    """A step that waits: for how long at least and at most, and when its timer rings, if it does."""
    missed = most_s is not None and most_s < 0
    return {
        "says": planned.says.get(step, ""),
        "piece": unsaid(planned, step),
        "least_s": max(0.0, least_s),
        "most_s": most_s,
        "missed": missed,
        "rings_s": least_s if least_s > 0 else None if missed else most_s,
    }


def _waiting(
    day: Day, planned: Planned, done: dict[str, datetime], now: datetime, first: Typed | None
) -> list[Context]:
    """What was begun and waits: until when at least, and at most. What is in hand says its own window."""
    lines: list[Context] = []
    for lag in day.lags:
        if lag.before not in done or lag.after in done or not (lag.min_s or lag.max_s is not None):
            continue
        gone = (now - done[lag.before]).total_seconds()
        step = day.by_name[lag.after]
        least = lag.min_s - gone + (step.duration_s if not step.handled else 0)
        most = None if lag.max_s is None or not step.handled else lag.max_s - gone
        line = _wait(planned, lag.after, least, most)
        if first is not None and first.get("step") == lag.after:
            first["window"] = line
        else:
            lines.append(line)
    told_of = {la.after for la in day.lags if la.before in done and (la.min_s or la.max_s is not None)}
    for step in (s for s in day.steps if not s.handled and s.name not in done and s.name in planned.says):
        begun = None if step.name in told_of else _begun(step, day, done)
        if begun is not None:
            left_s = step.duration_s - (now - begun).total_seconds()
            lines.append(_wait(planned, step.name, left_s, None))
    return sorted(lines, key=lambda w: w["least_s"])[:6]


@kitchen_required
def bench(request: KitchenRequest, pk: int) -> HttpResponse:
    """One thing, big."""
    row = DayPlan.objects.for_kitchen(request.kitchen).filter(job_id=pk).first()
    if row is None or not row.found:
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
