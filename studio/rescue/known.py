"""What the house knows of a piece by itself: how thick it comes out, where it stands, since when, while it bends."""

from __future__ import annotations

from typing import Any

from coating.errors import CoatingError
from coating.heat.setting import Pliable, Setting
from coating.job import JobStep
from coating.techniques import TECHNIQUES
from coating.techniques.base import LINE
from studio.common import clock
from studio.common.types import Typed
from studio.day.folding import fold
from studio.day.models import DayPlan, part_of
from studio.pieces.reckoned import reckoned_at
from studio.rescue.subject import Subject

LONGEST_MIN = 20160.0


def known_of(subject: Subject) -> Typed:
    """Fields of `coating.care.diagnosis.Piece` that need not be asked."""
    facts: dict[str, Any] = {}
    layer = subject.layer
    if subject.timer is not None and subject.timer.about:
        about, begun = subject.timer.about, subject.timer.begun_at
        facts |= {"place": about.get("place"), "thickness_mm": about.get("thickness_mm")}
        facts["since_min"] = max(0.0, (clock.now() - begun).total_seconds() / 60)
    if layer is None and subject.desk is not None and len(subject.desk.layers) == 1:
        layer = subject.desk.layers[0]
    if layer is None or subject.job is None:
        return facts
    if layer.technique == "paint":
        facts["coats"] = int(layer.parameters.get("coats") or 2)
    try:
        reckoning = reckoned_at(subject.job.pk, subject.kitchen)
    except CoatingError:
        return facts
    line = next((la for la in reckoning.lines if la.layer == str(layer.pk)), None)
    if line is not None and line.thickness_mm > 0:
        facts.setdefault("thickness_mm", line.thickness_mm)
    kind = TECHNIQUES[layer.technique]
    if kind.measured == LINE:
        facts["line_mm"] = layer.parameters.get("width_mm") or kind.width_mm
    steps = [step for step in reckoning.steps if step.layer == str(layer.pk)]
    facts |= {name: value for name, value in _waits(steps).items() if value is not None}
    if subject.step:
        facts["since_min"] = _since_min(subject)
    return {name: value for name, value in facts.items() if value is not None}


def _waits(steps: list[JobStep]) -> Typed:
    """Where a layer waits first, when it can be handled, and while it bends, as its own steps say."""
    wait = next((step for step in steps if step.kind == "wait"), None)
    if wait is None:
        return {}
    place = wait.place if wait.place in ("room", "fridge", "freezer") else None
    bend = next((step for step in steps if step.until_min is not None and wait.id in step.after), None)
    if bend is not None and bend.until_min:
        return {"place": place, "pliable": Pliable(wait.from_min, max(bend.until_min, wait.from_min + 0.1))}
    release = next((step for step in steps if step.kind == "release"), None)
    if release is not None and wait.from_min:
        return {"place": place, "sets": Setting(wait.from_min * 0.5, wait.from_min)}
    return {"place": place}


def _since_min(subject: Subject) -> float | None:
    """Minutes since what the step is of was last made, by the taps at the bench."""
    row = DayPlan.objects.for_kitchen(subject.kitchen).filter(job=subject.job).first()
    if row is None:
        return None
    happened = fold(row.events.all(), {})
    part = part_of(subject.step)
    times = [at for name, at in happened.done.items() if part_of(name) == part and name != subject.step]
    if not times:
        return None
    return min(LONGEST_MIN, max(0.0, (clock.now() - max(times)).total_seconds() / 60))
