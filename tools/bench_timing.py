"""Times with a yardstick beside each: machines stall by a factor of five for minutes, and both stall together.

A plain loop is run before and after what is timed. A time is judged as so many loops; on the machine the targets were
set on, with nothing else to do, a loop takes `LOOP_MS`. The milliseconds are printed too.
"""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable, Iterable
from dataclasses import dataclass

LOOP_MS = 10.0
_TURNS = 80_000


@dataclass(frozen=True)
class Took:
    """A time in ms, and in loops that were run beside it."""

    ms: float
    loops: float


def loop_ms() -> float:
    """How long the plain loop takes now."""
    begun, held = time.perf_counter(), dict.fromkeys(range(64), 0)
    for i in range(_TURNS):
        held[i & 63] += i ^ 21
    return (time.perf_counter() - begun) * 1000


def timed(times: int, act: Callable[[int], object], *, pause_s: float = 0.0) -> list[Took]:
    """Each call with the loops before and after it, and a pause between calls."""
    taken, before = [], loop_ms()
    for i in range(times):
        begun = time.perf_counter()
        act(i)
        ms = (time.perf_counter() - begun) * 1000
        after = loop_ms()
        taken.append(Took(ms, 2 * ms / (before + after)))
        before = after
        time.sleep(pause_s)
    return taken


def took(act: Callable[..., object], *given: object) -> Took:
    """One call of `act(*given)`."""
    return timed(1, lambda _: act(*given))[0]


def p95(taken: Iterable[Took]) -> Took:
    """The time that one in twenty takes longer than."""
    return _of(taken, lambda values: statistics.quantiles(values, n=20)[-1])


def median(taken: Iterable[Took]) -> Took:
    """The middle one of several."""
    return _of(taken, statistics.median)


def slowest(taken: Iterable[Took]) -> Took:
    """The slowest of several."""
    return _of(taken, max)


def _of(taken: Iterable[Took], pick: Callable[[list[float]], float]) -> Took:
    all_of_it = list(taken)
    return Took(pick([t.ms for t in all_of_it]), pick([t.loops for t in all_of_it]))


class Report:
    """Prints lines `name value unit target pass|miss`, times in loops with their milliseconds behind, and remembers a
    miss."""

    def __init__(self) -> None:
        self.missed = False

    def line(self, name: str, value: float, unit: str, target: float) -> None:
        """Print one figure beside its target."""
        good = value <= target
        self.missed |= not good
        print(f"{name} {value:.3g} {unit} {target:g} {'pass' if good else 'miss'}", flush=True)

    def time(self, name: str, value: Took, target_ms: float) -> None:
        """A time against a target that is said in ms of the machine the targets were set on."""
        good = value.loops <= target_ms / LOOP_MS
        self.missed |= not good
        print(
            f"{name} {value.loops:.3g} loops {target_ms / LOOP_MS:g} {'pass' if good else 'miss'}  {value.ms:.3g} ms",
            flush=True,
        )

    def say(self, name: str, value: Took) -> None:
        """A time without a target."""
        print(f"{name} {value.loops:.3g} loops - -  {value.ms:.3g} ms", flush=True)
