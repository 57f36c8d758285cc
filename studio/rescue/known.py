"""What the house knows of a piece by itself: how thick it comes out, where it stands, since when, while it bends."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from coating.errors import CoatingError
from coating.heat.setting import RELEASE, TOUCH, Pliable, Setting
from coating.techniques import TECHNIQUES
from coating.techniques.base import LINE
from studio.common import clock
from studio.common.types import Typed
from studio.day.folding import fold
from studio.day.models import part_of
from studio.pieces.reckoned import reckoned_at
from studio.rescue.subject import Subject

LONGEST_MIN = 20160.0
TOUCHES = TOUCH / RELEASE  # of the time until it can be handled


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
    if subject.step:
        facts |= _at_the_bench(subject)
    return {name: value for name, value in facts.items() if value is not None}


def _at_the_bench(subject: Subject) -> Typed:
    """Minutes since what the step follows was done, and its window, as the bench has them."""
    row = subject.plan
    if row is None:
        return {}
    done = fold(row.events.all(), {}).done
    lags = [la for la in row.day.lags if la.after == subject.step and la.before in done]
    lag = max(lags, key=lambda la: (la.max_s is not None, la.min_s), default=None)
    if lag is None:
        times = [at for name, at in done.items() if part_of(name) == part_of(subject.step) and name != subject.step]
        return {"since_min": _since_min(max(times))} if times else {}
    facts: Typed = {"since_min": _since_min(done[lag.before])}
    if lag.max_s is not None and lag.max_s > lag.min_s:
        facts["pliable"] = Pliable(lag.min_s / 60, lag.max_s / 60)
    elif lag.min_s:
        facts["sets"] = Setting(TOUCHES * lag.min_s / 60, lag.min_s / 60)
    return facts


def _since_min(at: datetime) -> float:
    return min(LONGEST_MIN, max(0.0, (clock.now() - at).total_seconds() / 60))
