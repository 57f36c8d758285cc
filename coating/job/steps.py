"""Steps: what hands, heat and waiting do for a job, each with what comes before it and the window it has."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from coating.heat.times import rewarm_time
from coating.job.bowl_steps import BOWL_KINDS, REWARM_STIR_S, before_use, washed
from coating.job.kitchen import Kitchen
from coating.job.making import Making, chocolate_of
from coating.job.reckoning import Bowl, HeldPlaces, JobStep, Line
from coating.job.stack_steps import StackSteps
from coating.job.wanted import Wanted


def steps_of(
    wanted: Wanted,
    counts: Mapping[str, tuple[int, int]],
    lines: Sequence[Line],
    bowls: Sequence[Bowl],
    kitchen: Kitchen,
) -> tuple[list[JobStep], list[HeldPlaces], list[tuple[str, str]]]:
    """All steps of a job in an order that can be done, what is held while they last, and waits that are elsewhere."""
    by_layer = {(line.layer, f"{line.colour}|{line.base}"): line for line in lines}
    keys = {f"{line.layer}|{line.colour}|{line.base}": line.bowl for line in lines if line.bowl}
    making = Making(kitchen, {bowl.key: bowl for bowl in bowls}, by_layer, keys)
    ready = {bowl.key: before_use(bowl, kitchen) for bowl in bowls}
    for done in ready.values():
        making.steps += done.steps
    for piece in wanted.parts_first():
        count = sum(counts[piece.id])
        if count:
            StackSteps(making, piece, count, ready).make()
    _rewarmed(making)
    for bowl in bowls:
        used = [s.id for s in making.steps if s.bowl == bowl.key and s.kind not in BOWL_KINDS]
        if used:
            making.add(washed(bowl, used))
    return making.steps, making.holds, sorted(making.moved)


def _rewarmed(making: Making) -> None:
    """A bowl whose life ends is warmed again before it is used on, as far as its temper bears."""
    kitchen, done = making.kitchen, list[JobStep]()
    lives = {key: making.life_s(key) for key in making.bowls}
    used_s, last = dict.fromkeys(lives, 0.0), dict.fromkeys(lives, "")
    for i, step in enumerate(making.steps):
        key = step.bowl
        if not key or step.kind in BOWL_KINDS:
            done.append(step)
            continue
        if used_s[key] + step.hands_s > lives[key] and last[key]:
            bowl = making.bowls[key]
            heat_s = rewarm_time(
                bowl.melt_g,
                white=bowl.white,
                chocolate=chocolate_of(bowl),
                school=kitchen.school,
                power_w=kitchen.oven_w,
            )
            warm = JobStep(
                f"{key}.again{i}",
                "rewarm",
                bowl=key,
                hands_s=REWARM_STIR_S,
                heat_s=heat_s,
                after=(last[key],),
                says="Warm the bowl again and stir.",
            )
            done.append(warm)
            used_s[key] = 0.0
            done.append(replace(step, needs=(*step.needs, warm.id)))
        else:
            done.append(step)
        used_s[key], last[key] = used_s[key] + step.hands_s, step.id
    making.steps = done
