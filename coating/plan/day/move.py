"""A step is moved by hand: what that costs, or what is in its way."""

from __future__ import annotations

from dataclasses import dataclass

from coating.errors import UnknownName
from coating.limits import check
from coating.plan.day.follow import followed
from coating.plan.day.greedy import Greedy
from coating.plan.day.job import Day
from coating.plan.day.network import Arc, Stuck
from coating.plan.day.plan import Plan


@dataclass(frozen=True)
class Moved:
    """The plan with it, by how much longer all of it takes, s, and the rule that it does not begin earlier for; `plan`
    None: it cannot be there, and `why` says what goes round in a circle. `along`: what was moved with it."""

    plan: Plan | None
    costs_s: int
    why: tuple[Arc, ...]
    along: tuple[str, ...] = ()


def moved(day: Day, plan: Plan, step: str, to_s: int) -> Moved:
    """A step at another moment, with what is joined to it by a longest wait; the rest follows in its order.

    Parameters
    ----------
    day, plan : as they are. step : its name. to_s : when it is to begin, s; earlier than it can be: as early as it
    can. Raises UnknownName, OutOfBounds.
    """
    if step not in day.by_name:
        raise UnknownName("There is no such step.", field="step", choices=[])
    to = int(check("wait_s", to_s, "to_s"))
    greedy = Greedy(day)
    along = tuple(greedy.blocks[greedy.block_of[step]])
    by = to - plan.starts_s[step]
    keys = {name: at + (by if name in along else 0.0) for name, at in plan.starts_s.items()}
    later = {step: to} if by > 0 else None
    outcome = followed(day, keys, plan.melts, by=plan.by, not_before=later)
    if isinstance(outcome, Stuck):
        return Moved(None, 0, outcome.arcs, along)
    starts = outcome.plan.starts_s
    held = outcome.tight.get(step) if starts[step] > to else None
    others = tuple(n for n in along if n != step and starts[n] != plan.starts_s[n])
    return Moved(outcome.plan, outcome.plan.makespan_s - plan.makespan_s, (held,) if held else (), others)
