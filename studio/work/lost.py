"""Tasks that lost their worker: put back, a few times, or given up."""

from __future__ import annotations

import time
import uuid
from collections.abc import Callable
from typing import Any

from django.db import transaction
from django_tasks_db.models import DBTaskResult

from studio.work.models import Beat

LOST_AFTER_S = 12.0  # a count that stands still for so long
MOST_TRIES = 3
GaveUp = Callable[..., None]
_gave_up: dict[str, GaveUp] = {}


def when_given_up(task: Any) -> Callable[[GaveUp], GaveUp]:
    """Register what is done when a task was begun `MOST_TRIES` times and never ended; it gets what the task got."""

    def register(act: GaveUp) -> GaveUp:
        _gave_up[task.module_path] = act
        return act

    return register


class Watch:
    """What one worker has seen of the others' counts, by its own monotonic clock."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self.clock = clock
        self.seen: dict[uuid.UUID, tuple[int, float]] = {}

    def look(self) -> list[uuid.UUID]:
        """Put back the tasks whose counts have stood still. Returns which."""
        now, counts = self.clock(), dict(Beat.objects.values_list("task", "count"))
        running = set(DBTaskResult.objects.running().values_list("pk", flat=True))
        self.seen = {
            task: before
            if (before := self.seen.get(task)) and before[0] == counts.get(task, -1)
            else (counts.get(task, -1), now)
            for task in running
        }
        lost = [task for task, (_, since) in self.seen.items() if now - since > LOST_AFTER_S]
        for task in lost:
            put_back(task, counts.get(task, -1))
            del self.seen[task]
        return lost


def put_back(pk: uuid.UUID, count: int) -> None:
    """A task whose worker is gone waits again, or is given up; one whose count has moved meanwhile is left alone."""
    with transaction.atomic():
        row = DBTaskResult.objects.select_for_update().filter(pk=pk, status="RUNNING").first()
        beat = Beat.objects.select_for_update().filter(pk=pk).first()
        if row is None or (beat.count if beat else -1) != count:
            return
        again(row, beat.tries if beat else 0, RuntimeError("its worker was gone"))


def again(row: DBTaskResult, tries: int, problem: BaseException) -> None:
    """Once more, behind the others; or given up."""
    if tries < MOST_TRIES:
        row.status, row.priority = "READY", max(-100, row.priority - 10)
        row.save(update_fields=["status", "priority"])
        return
    row.set_failed(problem)
    Beat.objects.filter(pk=row.pk).delete()
    act = _gave_up.get(row.task_path)
    if act:
        act(*row.args_kwargs["args"], **row.args_kwargs["kwargs"])
