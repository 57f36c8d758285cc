"""The shortest day by constraints (CP-SAT): intervals that do not overlap on hands, heat and bowls, places that are
counted, waits with a least and a longest, bowls that cool and are melted as often as it takes.

A good order found at once is the hint. Fewest melts are the second aim. What cannot be done at all names the fewest
steps that stand in each other's way.
"""

from __future__ import annotations

import math
import threading
from collections.abc import Callable
from dataclasses import replace
from typing import Any

from coating.errors import Infeasible
from coating.limits import check
from coating.plan.day.follow import tightened
from coating.plan.day.greedy import LONGER, DayInMaking, Greedy, best_of
from coating.plan.day.job import HANDS, Day, DayBowl, Hold
from coating.plan.day.plan import Melt, Plan

HINT_S, WORKERS, CONFLICT_S, ASKS_S = 1.0, 2, 2.0, 0.5
Told = Callable[[Plan], None]


def solve(
    day: Day,
    *,
    time_limit_s: float = 10.0,
    seed: int = 1,
    workers: int = WORKERS,
    listener: Told | None = None,
    stop: Callable[[], bool] | None = None,
) -> Plan:
    """The shortest plan that is found in the time.

    Parameters
    ----------
    day : Day
        To be planned.
    time_limit_s : float
        In all, s.
    seed, workers : int
        Of the solver.
    listener : callable, optional
        Is called with every better plan.
    stop : callable, optional
        Is asked twice a second, in a thread of its own, whether to stop with the best so far.

    Returns
    -------
    Plan

    Raises
    ------
    Infeasible
        It cannot be done; `steps` names the fewest that stand in each other's way.
    OutOfBounds
        A time limit outside its bounds.
    """
    limit = check("solve_s", time_limit_s, "time_limit_s")
    hint = best_of(day, work=LONGER * min(1.0, limit / 6), seed=seed)
    model = _Model(day, hint)
    status = model.run(max(0.2, limit - min(HINT_S, limit / 6)), seed, workers, listener, stop)
    if status == "infeasible":
        raise _refusal(day)
    if status == "unknown":
        raise Infeasible("No plan was found in the time. Give it longer, or take a step out.", steps=[])
    return tightened(day, model.plan(status == "optimal"))


def _refusal(day: Day) -> Infeasible:
    names = conflict(day)
    names_said = ", ".join(names[:6]) + (f" and {len(names) - 6} more" if len(names) > 6 else "")
    why = (
        "are not done by then"
        if day.deadline_s is not None and _possible(day, deadline=False)
        else "cannot be done as asked"
    )
    return Infeasible(f"These {why}: {names_said}.", steps=names)


def conflict(day: Day) -> list[str]:
    """The fewest steps that cannot be done together: taken out in halves, then one by one."""
    kept = [s.name for s in day.steps]
    size = max(1, len(kept) // 2)
    while True:
        at, shrunk = 0, False
        while at < len(kept) and len(kept) > 1:
            rest = kept[:at] + kept[at + size :]
            if rest and not _possible(day.only(rest)):
                kept, shrunk = rest, True
            else:
                at += size
        if size == 1 and not shrunk:
            return kept
        size = max(1, size // 2)


def _possible(day: Day, *, deadline: bool = True) -> bool:
    """Whether it can be done; not known in the time counts as yes."""
    free = day if deadline else replace(day, deadline_s=None)
    return _Model(free, None, aim=False).run(CONFLICT_S, 1, WORKERS, None, None) != "infeasible"


class _Model:
    """Variables and constraints of a day, in units of its grain."""

    def __init__(self, day: Day, hint: tuple[Greedy, DayInMaking] | None, *, aim: bool = True) -> None:
        from ortools.sat.python import cp_model

        self.cp, self.day, self.grain = cp_model, day, day.grain_s
        self.m = cp_model.CpModel()
        self.long = {s.name: self._up(s.duration_s) for s in day.steps}
        self.horizon = self._horizon(hint, aim)
        self.starts = {n: self.m.new_int_var(0, self.horizon, "") for n in self.long}
        self.on: dict[str, list[tuple[Any, int]]] = {name: [] for name in day.resources}
        self.melts: dict[str, list[tuple[Any, Any]]] = {}
        self.warm_by: dict[str, list[Any]] = {}
        spans = {n: self.m.new_fixed_size_interval_var(v, self.long[n], "") for n, v in self.starts.items()}
        for step in day.steps:
            for name, places in step.uses.items():
                self.on[name].append((spans[step.name], places))
        self.chosen = {s.name: self._whoever(s.name, s.by) for s in day.steps if s.by}
        for hold in day.holds:
            self._held(hold)
        for name in day.rests:
            nights = [night for night in day.closed if night[0] // self.grain < self.horizon]
            self.on[name] += [(self._night(*night), day.resources[name]) for night in nights]
        for name in day.bowls:
            self._bowl(name, spans)
        for name, used in self.on.items():
            self._resource(name, used)
        self._lags()
        self.makespan = self.m.new_int_var(0, self.horizon, "")
        for n, v in self.starts.items():
            self.m.add(self.makespan >= v + self.long[n])
        if day.deadline_s is not None:
            self.m.add(self.makespan <= int(day.deadline_s) // self.grain)
        present = [p for melts in self.melts.values() for _, p in melts]
        self.dark_first = {pair: self._dark_first(*pair) for pair in day.shades if all(self.melts[n] for n in pair)}
        self.weight = (len(present) + 1) * (len(self.dark_first) + 1)
        if aim:
            fewer = (len(self.dark_first) + 1) * sum(present) + sum(self.dark_first.values())
            self.m.minimize(self.weight * self.makespan + fewer)
        if hint is not None:
            self._hint(*hint)

    def _up(self, seconds: float) -> int:
        return -(-int(seconds) // self.grain)

    def _takes(self, bowl: DayBowl, nth: int) -> tuple[int, int]:
        """How long it is heated and stirred the nth time; a bowl that stood for a night is melted anew."""
        heat_s, stir_s = bowl.takes_s(again=self._again(nth))
        return self._up(heat_s), self._up(stir_s)

    def _again(self, nth: int) -> bool:
        return nth > 0 and not self.day.closed

    def _horizon(self, hint: tuple[Greedy, DayInMaking] | None, aim: bool) -> int:
        if hint is not None and aim:
            return hint[0].ends(hint[1])
        melted = sum(sum(self._takes(b, 0)) for b in self.day.bowls.values() for s in self.day.steps)
        shut = sum(self._up(end) - begin // self.grain for begin, end in self.day.closed)
        return sum(self.long.values()) + sum(self._up(la.min_s) for la in self.day.lags) + melted + 2 * shut + 1

    def _whoever(self, step: str, by: tuple[str, ...]) -> dict[str, Any]:
        """One of those who may do it."""
        there = {who: self.m.new_bool_var("") for who in by}
        self.m.add_exactly_one(there.values())
        for who, does in there.items():
            span = self.m.new_optional_fixed_size_interval_var(self.starts[step], self.long[step], does, "")
            self.on[who].append((span, 1))
        return there

    def _held(self, hold: Hold) -> None:
        first, last = hold.steps[0], hold.steps[-1]
        long = self.m.new_int_var(0, self.horizon, "")
        span = self.m.new_interval_var(self.starts[first], long, self.starts[last] + self.long[last], "")
        self.on[hold.resource].append((span, hold.places))

    def _night(self, begin: int, end: int) -> Any:
        at = begin // self.grain
        return self.m.new_fixed_size_interval_var(at, self._up(end) - at, "")

    def _dark_first(self, light: str, dark: str) -> Any:
        """Whether the darker one of two bowls is melted first."""
        wrong = self.m.new_bool_var("")
        self.m.add(self.melts[light][0][0] <= self.melts[dark][0][0]).only_enforce_if(~wrong)
        return wrong

    def _bowl(self, name: str, spans: dict[str, Any]) -> None:
        """As many melts as it is used, in order, each used step within the life of one; nothing of it at once."""
        bowl, m = self.day.bowls[name], self.m
        used = [s.name for s in self.day.steps if s.bowl == name]
        life, melts = int(bowl.life_s) // self.grain, list[tuple[Any, Any]]()
        busy = [spans[n] for n in used]
        for k in range(len(used)):
            start, there = m.new_int_var(0, self.horizon, ""), m.new_bool_var("")
            heat, stir = self._takes(bowl, k)
            hot = m.new_optional_fixed_size_interval_var(start, heat, there, "")
            stirred = m.new_optional_fixed_size_interval_var(start + heat, stir, there, "")
            busy.append(m.new_optional_fixed_size_interval_var(start, heat + stir, there, ""))
            self.on[bowl.heat_resource].append((hot, 1))
            self.on[HANDS].append((stirred, 1))
            if k:
                before, was = melts[-1]
                m.add_implication(there, was)
                m.add(start >= before + sum(self._takes(bowl, k - 1))).only_enforce_if(there)
            melts.append((start, there))
        for n in used:
            from_ = [m.new_bool_var("") for _ in melts]
            m.add_exactly_one(from_)
            for k, (chosen, (start, there)) in enumerate(zip(from_, melts, strict=True)):
                off = sum(self._takes(bowl, k))
                m.add_implication(chosen, there)
                m.add(self.starts[n] >= start + off).only_enforce_if(chosen)
                m.add(self.starts[n] + self.long[n] <= start + off + life).only_enforce_if(chosen)
            self.warm_by[n] = from_
        m.add_no_overlap(busy)
        self.melts[name] = melts

    def _resource(self, name: str, used: list[tuple[Any, int]]) -> None:
        if not used:
            return
        spans, places = zip(*used, strict=True)
        if self.day.resources[name] == 1:
            self.m.add_no_overlap(spans)
        else:
            self.m.add_cumulative(spans, places, self.day.resources[name])

    def _lags(self) -> None:
        for lag in self.day.lags:
            base = self.starts[lag.before] + (0 if lag.from_start else self.long[lag.before])
            self.m.add(self.starts[lag.after] >= base + self._up(lag.min_s))
            if lag.max_s is not None:
                self.m.add(self.starts[lag.after] <= base + int(lag.max_s) // self.grain)

    def _hint(self, greedy: Greedy, placed: DayInMaking) -> None:
        """All of it, so that it is a plan at once."""
        m = self.m
        for n, v in self.starts.items():
            m.add_hint(v, placed.starts[n])
        m.add_hint(self.makespan, greedy.ends(placed))
        for named, there in self.chosen.items():
            for who, does in there.items():
                m.add_hint(does, placed.by[named] == who)
        for (light, dark), wrong in self.dark_first.items():
            m.add_hint(wrong, min(placed.ready[dark]) < min(placed.ready[light]))
        for name, melts in self.melts.items():
            bowl = self.day.bowls[name]
            life = int(bowl.life_s) // self.grain
            ready = sorted(placed.ready[name])
            for k, (start, there) in enumerate(melts):
                m.add_hint(there, k < len(ready))
                m.add_hint(start, ready[k] - sum(self._takes(bowl, k)) if k < len(ready) else 0)
            for step in self.day.steps:
                if step.bowl != name:
                    continue
                at, long = placed.starts[step.name], self.long[step.name]
                warm = next(k for k, r in enumerate(ready) if r <= at and at + long <= r + life)
                for k, chosen in enumerate(self.warm_by[step.name]):
                    m.add_hint(chosen, k == warm)

    def run(
        self, seconds: float, seed: int, workers: int, listener: Told | None, stop: Callable[[], bool] | None
    ) -> str:
        solver = self.cp.CpSolver()
        solver.parameters.max_time_in_seconds = seconds
        solver.parameters.num_workers = workers
        solver.parameters.random_seed = seed
        self.solver = solver
        callback = _callback(self, listener) if listener else None
        over = threading.Event()
        watch = threading.Thread(target=_watched, args=(solver, stop, over), daemon=True) if stop else None
        if watch:
            watch.start()
        status = solver.solve(self.m, callback) if callback else solver.solve(self.m)
        over.set()
        if watch:
            watch.join()
        if status == self.cp.OPTIMAL:
            return "optimal"
        if status == self.cp.FEASIBLE:
            return "feasible"
        return "infeasible" if status == self.cp.INFEASIBLE else "unknown"

    def plan(self, optimal: bool) -> Plan:
        bound = math.ceil((self.solver.best_objective_bound - self.weight + 1) / self.weight - 1e-6)
        return self._plan_of(self.solver.value, optimal, max(0, bound))

    def _plan_of(self, value: Callable[[Any], int], optimal: bool, bound: int) -> Plan:
        starts = {n: int(value(v)) * self.grain for n, v in self.starts.items()}
        melts = []
        for name, pairs in self.melts.items():
            warm = {
                k
                for n, chosen in self.warm_by.items()
                if self.day.by_name[n].bowl == name
                for k, c in enumerate(chosen)
                if value(c)
            }
            melts += [
                Melt(name, int(value(start)) * self.grain, self._again(k))
                for k, (start, _) in enumerate(pairs)
                if k <= max(warm, default=-1)
            ]
        makespan = max(starts[n] + self.long[n] * self.grain for n in starts)
        most = makespan if optimal else min(makespan, bound * self.grain)
        by = {step: next(who for who, does in there.items() if value(does)) for step, there in self.chosen.items()}
        return Plan(starts, tuple(sorted(melts, key=lambda x: x.start_s)), makespan, most, optimal, by)


def _watched(solver: Any, stop: Callable[[], bool], over: threading.Event) -> None:
    """Ask again and again whether to stop."""
    while not over.wait(ASKS_S):
        if stop():
            solver.stop_search()
            return


def _callback(model: _Model, listener: Told) -> Any:
    class Better(model.cp.CpSolverSolutionCallback):  # type: ignore[misc, name-defined]
        def on_solution_callback(self) -> None:
            bound = math.ceil((self.best_objective_bound - model.weight + 1) / model.weight - 1e-6)
            listener(model._plan_of(self.value, False, max(0, bound)))

    return Better()
