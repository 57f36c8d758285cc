"""Does the tasks that wait, one after the other, and says that it is at it."""

from __future__ import annotations

import logging
import threading
import time
import uuid
from collections.abc import Iterator
from contextlib import contextmanager, nullcontext
from typing import Any

from django.db import DatabaseError, connection
from django_tasks.base import TaskContext
from django_tasks_db.management.commands.db_worker import Worker as DatabaseWorker
from django_tasks_db.models import DBTaskResult

from studio.work.lost import Watch, again
from studio.work.models import Beat

BEATS_S, LOOKS_S = 2.0, 4.0
log = logging.getLogger(__name__)


class Worker(DatabaseWorker):
    """The package's worker, with beats, tries, and a look at what others lost."""

    def __init__(self, *, batch: bool = False, interval: float = 0.5) -> None:
        super().__init__(
            queue_names=["*"],
            interval=interval,
            batch=batch,
            backend_name="default",
            startup_delay=False,
            max_tasks=None,
            worker_id=uuid.uuid4().hex,
            excluded_queue_names=[],
        )
        self.watch = Watch()

    def run_task(self, db_task_result: DBTaskResult[Any, Any]) -> None:
        tries = Beat.begin(db_task_result.pk, self.worker_id)
        self.running_task = True
        try:
            with nullcontext() if self.batch else beating(db_task_result.pk, self.worker_id):
                result: Any = db_task_result.task_result
                arguments = db_task_result.args_kwargs
                context = (TaskContext(task_result=result),) if db_task_result.task.takes_context else ()
                value = db_task_result.task.call(*context, *arguments["args"], **arguments["kwargs"])
            db_task_result.set_successful(value)
            Beat.objects.filter(pk=db_task_result.pk).delete()
        except DatabaseError:
            raise  # it comes back, and the task is taken up again
        except Exception as problem:
            log.exception("a task failed, try %s", tries)
            again(db_task_result, tries, problem)
        finally:
            self.running_task = False
            self._run_tasks += 1

    def run_for_ever(self) -> None:
        """Until told to stop; a database that is away is waited for."""
        threading.Thread(target=self._look_after_others, daemon=True).start()
        while self.running:
            try:
                self.run()
            except DatabaseError:
                connection.close()
                time.sleep(self.interval)

    def _look_after_others(self) -> None:
        while True:
            time.sleep(LOOKS_S)
            try:
                self.watch.look()
            except DatabaseError:
                pass
            finally:
                connection.close()


@contextmanager
def beating(task: uuid.UUID, worker: str) -> Iterator[None]:
    """Beats while the block runs, in a thread with a connection of its own."""
    over = threading.Event()

    def beat() -> None:
        while not over.wait(BEATS_S):
            try:
                Beat.go_on(task, worker)
            except DatabaseError:
                pass
            finally:
                connection.close()

    thread = threading.Thread(target=beat, daemon=True)
    thread.start()
    try:
        yield
    finally:
        over.set()
        thread.join()


def work_off() -> int:
    """Do all that waits, here and now. Returns how many tasks that were."""
    worker = Worker(batch=True)
    worker.run()
    return worker._run_tasks
