"""Differences between starts: a thing begins so long after another at least, or (turned round) at most.

The earliest starts are longest paths; where there is none, the way goes round in a circle, and its steps are those that
stand in each other's way [Dechter, Meiri, Pearl 1991, simple temporal networks; from memory].
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

ORIGIN = ""


@dataclass(frozen=True)
class Arc:
    """`to` starts at least `seconds` after `from_` started; why, and for which step."""

    from_: str
    to: str
    seconds: int
    why: str
    of: str = ""


@dataclass(frozen=True)
class Stuck:
    """Steps that stand in each other's way, in a circle, and the rules between them."""

    arcs: tuple[Arc, ...]


def earliest(nodes: list[str], arcs: list[Arc]) -> dict[str, int] | Stuck:
    """Starts that keep every arc, none earlier than it has to be, and none below nought; or the circle in its way."""
    start, because = {ORIGIN: 0, **dict.fromkeys(nodes, 0)}, dict[str, Arc]()
    for _ in range(len(start) + 1):
        last = ""
        for arc in arcs:
            at = start[arc.from_] + arc.seconds
            if at > start[arc.to]:
                if arc.to == ORIGIN:
                    way, round_ = _way(arc.from_, because)
                    return Stuck(way if round_ else (arc, *way))
                start[arc.to], because[arc.to], last = at, arc, arc.to
        if not last:
            return start
    return Stuck(_way(last, because)[0])


def _way(name: str, because: Mapping[str, Arc]) -> tuple[tuple[Arc, ...], bool]:
    """Back from a start to what it was because of; only the circle, where it comes to one, and whether it does."""
    arcs: list[Arc] = []
    seen: list[str] = []
    while name in because:
        if name in seen:
            return tuple(arcs[seen.index(name) :]), True
        seen.append(name)
        arcs.append(because[name])
        name = because[name].from_
    return tuple(arcs), False
