"""What a job goes by: what its kitchen has learned until it is begun, then what was known at that time, until its maker
wants it worked out anew."""

from __future__ import annotations

import math
from collections.abc import Iterable

from coating.job import Bowl
from coating.learning.factors import Factor, Factors
from coating.learning.names import COAT, FLOW, HOLE, LOSS, PACE, SET, STRENGTH
from coating.learning.speaking import LEAST_OFF
from coating.techniques import TECHNIQUES
from coating.techniques.base import LINE
from studio.accounts.models import Kitchen
from studio.common.types import Json
from studio.cupboard.stock import Stock
from studio.pieces.models import Job


def known_to(job: Job | None, kitchen: Kitchen) -> Factors:
    """What a job goes by; without one, what its kitchen has learned."""
    if job is None or not job.taught:
        return Stock.of(kitchen).factors(kitchen)
    return Stock.of(kitchen).still_known(_factors(job.taught["of"]), kitchen)


def keeps_to_it(job: Job, kitchen: Kitchen) -> None:
    """The job is begun: from now on it goes by what is known now. The first time counts."""
    if not job.taught:
        work_out_anew(job, kitchen)


def work_out_anew(job: Job, kitchen: Kitchen) -> None:
    """The job goes by what is known now."""
    _kept(job, as_json(Stock.of(kitchen).factors(kitchen)))


def leave_as_it_is(job: Job, kitchen: Kitchen) -> None:
    """What is known now is not offered again for this job, unless it becomes something else."""
    _kept(job, {**job.taught, "left": as_json(Stock.of(kitchen).factors(kitchen))["of"]})


def learned_since(job: Job, kitchen: Kitchen) -> dict[str, float]:
    """What became known otherwise since a job was begun, by name: so many times what it goes by. What was offered and
    left is not counted; nothing of a job that is not begun."""
    if not job.taught:
        return {}
    went_by, left = known_to(job, kitchen), job.taught.get("left")
    seen = _factors(left) if left is not None else went_by
    now = Stock.of(kitchen).factors(kitchen)
    since = otherwise(went_by, now)
    return {name: times for name, times in since.items() if _is_other(now[name].value, seen[name].value)}


def concerning(bowls: Iterable[Bowl]) -> set[str]:
    """The names of all that has a part in what is made from some bowls: colours, bags, techniques, times."""
    names = {SET, PACE, LOSS}
    for bowl in bowls:
        names |= {f"{kind}.{part.ingredient.name}" for part in bowl.parts for kind in (STRENGTH, FLOW)}
        for line in bowl.lines:
            names.add(HOLE if TECHNIQUES[line.technique].measured == LINE else f"{COAT}.{line.technique}")
    return names


def otherwise(went_by: Factors, now: Factors) -> dict[str, float]:
    """What is known otherwise now than something goes by, by name: so many times that."""
    names = sorted({*now.of, *went_by.of})
    return {
        name: now[name].value / went_by[name].value for name in names if _is_other(now[name].value, went_by[name].value)
    }


def as_json(factors: Factors) -> Json:
    """Factors to keep."""
    of = {name: [round(v, 5) for v in (f.value, *f.range_or(0.0))] for name, f in factors.of.items()}
    return {"v": 1, "of": of}


def _factors(kept: Json) -> Factors:
    return Factors({name: Factor(*values) for name, values in kept.items()})


def _is_other(one: float, other: float) -> bool:
    return abs(math.log(one / other)) >= math.log(1 + LEAST_OFF)


def _kept(job: Job, taught: Json) -> None:
    job.taught = taught
    Job.objects.filter(pk=job.pk).update(taught=taught)
