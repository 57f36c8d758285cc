"""How much has to be melted anew when a bowl is lost: what the pieces still want that are not made yet."""

from __future__ import annotations

from coating.errors import CoatingError
from studio.day.folding import fold
from studio.day.models import part_of
from studio.pieces.reckoned import reckoned_at
from studio.rescue.subject import Subject

LEAST_G = 30.0


def made_g(subject: Subject) -> float:
    """What ended up on pieces from the bowl so far, g: what was said to be used, else what was tapped at the bench."""
    desk = subject.desk
    if desk is None:
        return 0.0
    return max(desk.now.used_g - desk.now.given_g, _tapped_g(subject))


def anew_g(subject: Subject) -> float:
    """What to melt in its place, g."""
    desk = subject.desk
    if desk is None:
        return 0.0
    return max(LEAST_G, desk.melt_g - _tapped_g(subject))


def _tapped_g(subject: Subject) -> float:
    """By the taps at the bench, g."""
    desk, job = subject.desk, subject.job
    if desk is None or job is None or desk.reckoned is None:
        return 0.0
    row, reckoned = subject.plan, subject.reckoned_day
    if row is None:
        return 0.0
    had = fold(row.events.all(), reckoned[1].counts if reckoned else {})
    mine, on_pieces = {str(layer.pk) for layer in desk.layers}, 0.0
    try:
        lines = reckoned_at(job.pk, subject.kitchen).lines
    except CoatingError:
        return 0.0
    makes = {step.name for step in row.day.steps if step.bowl and not step.name.startswith("bowl:")}
    for line in lines:
        if line.layer not in mine or line.bowl != desk.reckoned.key:
            continue
        steps = [name for name in makes if part_of(name) == line.layer]
        done = sum(1 for name in steps if name in had.done) / len(steps) if steps else 0.0
        ones = max((had.ones.get(name, 0) for name in steps if name not in had.done), default=0)
        on_pieces += line.on_one_g * min(line.pieces, max(done * line.pieces, ones))
    return on_pieces
