"""What is left of a day that was begun: the rest of it, planned anew from what happened until now."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.utils import timezone

from coating.job.looking import SMOOTH
from coating.plan.day import Day, DayStep, Melt, Plan
from coating.plan.day.rest import Rest, rest_of
from coating.steps import HOT_AGE
from studio.common.types import Context
from studio.day.adapters import Planned
from studio.day.broken import parts_made
from studio.day.folding import MELT, Happened, MadePieces, fold
from studio.day.forms import DayForm, nights_from
from studio.day.models import DayPlan, part_of
from studio.day.says import then_says
from studio.day.shown import shown_of
from studio.pieces.models import Job

LEAST_S = 10.0


@dataclass(frozen=True)
class Left:
    """What happened, when each step was done, the rest as it is planned from `here` on (None: nothing is left), and its
    lines by the clock."""

    had: Happened
    done: Mapping[str, datetime]
    rest: Rest | None
    here: datetime
    lines: list[Context]

    @property
    def end(self) -> datetime:
        """When everything is done."""
        return self.here + timedelta(seconds=self.rest.plan.makespan_s if self.rest else 0)


def left_of(job: Job, row: DayPlan, planned: Planned | None, form: DayForm, now: datetime) -> Left:
    """Of a whole job with a plan that was found, as its events tell."""
    parts = parts_made(job)
    had = fold(row.events.all(), planned.counts if planned else {}, parts)
    day = row.day
    done = with_what_stood(day, had.done, now)
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
    lines = _lines(rest, planned, day, here, had) if rest is not None and planned is not None else []
    return Left(had, done, rest, here, lines)


def _to_melt(plan: Plan, had: Happened) -> list[Melt]:
    """Melts that are still to come: of each bowl the first ones are over."""
    over, left = dict(had.melts), []
    for melt in plan.melts:
        if over.get(melt.bowl, 0) > 0:
            over[melt.bowl] -= 1
        else:
            left.append(melt)
    return left


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
        since = None if step.handled else begun(step, day, done)
        if since is not None:
            seconds[step.name] = max(0.0, step.duration_s - (now - since).total_seconds())
    return seconds


def begun(step: DayStep, day: Day, done: Mapping[str, datetime]) -> datetime | None:
    """When what only stands somewhere was put there: as soon as all before it was done."""
    before = [la.before for la in day.lags if la.after == step.name]
    if not before or any(name not in done for name in before):
        return None
    return max(done[name] for name in before)


def with_what_stood(day: Day, done: dict[str, datetime], now: datetime) -> dict[str, datetime]:
    """With what only stands somewhere: that begins and ends by itself, nobody taps for it."""
    ends = dict(done)
    for step in day.steps:
        since = None if step.handled or step.name in ends else begun(step, day, ends)
        ended = None if since is None else since + timedelta(seconds=step.duration_s)
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
                "piece": planned.unsaid(name),
                "age": planned.ages.get(name, 0),
                "did_one": planned.did_one.get(name, ""),
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
        line = {
            "melt": need,
            "need": need,
            "who": "",
            "look": SMOOTH,
            "age": HOT_AGE,
            "again": melt.again,
            "then": then,
        }
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
