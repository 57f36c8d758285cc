"""Whether a planned day is what happens at a bench, looked at from the layers themselves and not from its rules."""

from __future__ import annotations

import re

from coating.heat.times import set_time
from coating.plan.day import DayStep
from coating.plan.day.plan import Plan
from coating.techniques import technique
from studio.day.adapters import Planned
from studio.pieces.models import Job, Layer, Piece

BAG_S = 600  # what is in a bag sets in its tip; common practice, no source
STICK_S = 180  # in the cold; ten minutes in the room
LEAST_S = 30 * set_time("bits", 0.8, "freezer", white="coating").touch_min  # nothing is set sooner, wherever it is


def untrue(job: Job, planned: Planned, plan: Plan) -> list[str]:
    """What is not so, in words: bowl before use, bag right before, stick before dip, out of the mould before it is
    decorated, set at the end."""
    ends = {s.name: plan.starts_s[s.name] + s.duration_s for s in planned.day.steps}
    wrong = [
        f"{s.name} before its bowl is ready"
        for s in planned.day.steps
        if s.bowl and not s.name.startswith("bowl:") and plan.starts_s[s.name] < ends.get(f"bowl:{s.bowl}", 0)
    ]
    wrong += [
        f"{name} lies for {first - ends[name]} s"
        for name in ends
        if ".bag." in name
        for first in [_first_from(name, plan)]
        if first > ends[name] + BAG_S
    ]
    return [*wrong, *(data for piece in job.pieces.all() for data in _piece(piece, planned, plan, ends))]


def _first_from(bag: str, plan: Plan) -> int:
    """When a bag is first used."""
    layer = re.compile(rf"{bag.partition('.bag.')[2]}(r\d+)?\.")
    return min((at for name, at in plan.starts_s.items() if layer.match(name)), default=0)


def _steps(planned: Planned, layer: Layer) -> dict[str, list[DayStep]]:
    """What hands do for a layer, round by round."""
    result: dict[str, list[DayStep]] = {}
    for step in planned.day.steps:
        named = re.match(rf"{layer.pk}(r\d+)?\.", step.name)
        if named and step.handled:
            result.setdefault(named[1] or "", []).append(step)
    return result


def _piece(piece: Piece, planned: Planned, plan: Plan, ends: dict[str, int]) -> list[str]:
    wrong, last = list[str](), 0
    cast: dict[str, int] = {}  # when the last that was done in the mould was over, by round
    stick: dict[str, int] = {}
    for layer in piece.stack:
        kind, rounds = technique(layer.technique), _steps(planned, layer)
        for name, steps in rounds.items():
            first = min(plan.starts_s[s.name] for s in steps)
            after_cast, after_stick = cast.get(name), stick.get(name, stick.get(""))
            if kind.in_mould or kind.name in ("shell", "solid"):
                cast[name] = max(ends[s.name] for s in steps)
            elif kind.name == "stick":
                stick[name] = max(ends[s.name] for s in steps)
            elif after_cast is not None and first < after_cast:
                wrong.append(f"{kind.name} of {piece.name} while it is in its mould")
            if kind.dips and after_stick is not None and not cast and first < after_stick + STICK_S:
                wrong.append(f"{piece.name} is dipped {first - after_stick} s after its stick")
            last = max([last, *(ends[s.name] for s in steps if s.bowl and kind.coating)])
    end = max((ends[s.name] for s in planned.day.steps if planned.of.get(s.name) == piece), default=0)
    joined = _joined(piece, planned, plan)
    if last and (end if joined is None else max(end, joined)) < last + LEAST_S:
        wrong.append(f"{piece.name} ends {end - last} s after its last coating")
    own = [ends[s.name] for layer in piece.stack for steps in _steps(planned, layer).values() for s in steps]
    if joined is not None and own and joined < max(own):
        wrong.append(f"{piece.name} is put on {max(own) - joined} s before it is done")
    return wrong


def _joined(piece: Piece, planned: Planned, plan: Plan) -> int | None:
    """When the first of it is put on something; None of what goes on nothing."""
    on = [la for other in piece.job.pieces.all() for la in other.stack if la.part_id == piece.pk]
    return min(
        (plan.starts_s[s.name] for la in on for steps in _steps(planned, la).values() for s in steps), default=None
    )
