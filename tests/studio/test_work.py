"""Long work: a task is done once, taken up when its worker is gone whatever the clocks say, and given up in the end."""

from __future__ import annotations

import uuid
from unittest import mock

from django.test import TransactionTestCase
from django_tasks_db.models import DBTaskResult

from studio.day.models import FAILED, DayPlan
from studio.day.planning import plan_day
from studio.work.lost import LOST_AFTER_S, MOST_TRIES, Watch
from studio.work.models import Beat
from studio.work.worker import Worker, work_off
from tests.studio.kitchens import half_dip, maker


class Lost(TransactionTestCase):
    def setUp(self) -> None:
        _, kitchen, self.client = maker()
        self.job = half_dip(kitchen).job
        self.client.post(f"/day/{self.job.pk}/plan/", {"begin": "10:00", "hands": "1", "fridge": "1", "freezer": "0"})
        self.task = DBTaskResult.objects.get()

    def begun_by(self, worker: str) -> None:
        """As a worker that takes it and is killed."""
        row = DBTaskResult.objects.ready().get()
        row.claim(worker)
        Beat.begin(row.pk, worker)

    def looked(self, watch: Watch, *at_s: float) -> list[list[uuid.UUID]]:
        times = iter(at_s)
        watch.clock = lambda: next(times)
        return [watch.look() for _ in at_s]

    def test_a_count_that_stands_still(self) -> None:
        self.begun_by("one")
        watch = Watch()
        self.assertEqual(self.looked(watch, 100, 100 + LOST_AFTER_S - 1), [[], []])
        self.assertTrue(Beat.go_on(self.task.pk, "one"))
        self.assertFalse(Beat.go_on(self.task.pk, "another"))
        self.assertEqual(self.looked(watch, 100 + LOST_AFTER_S, 101 + 2 * LOST_AFTER_S), [[], [self.task.pk]])
        self.assertEqual(DBTaskResult.objects.get().status, "READY")
        self.assertEqual(work_off(), 1)
        self.assertEqual(DayPlan.objects.get().state, "done")
        self.assertFalse(Beat.objects.exists())

    def test_no_clock_of_the_wall_counts(self) -> None:
        """An hour back, a year on: a worker that counts keeps its task, one that does not loses it."""
        self.begun_by("one")
        watch = Watch()
        with mock.patch("time.time", side_effect=[1e9, 1e9 - 3600, 1e9 + 3.2e7] * 9):
            for i in range(3):
                Beat.go_on(self.task.pk, "one")
                self.assertEqual(self.looked(watch, 10.0 * i), [[]])
            self.assertEqual(self.looked(watch, 20 + LOST_AFTER_S + 1), [[self.task.pk]])

    def test_killed_again_and_again(self) -> None:
        """A day that kills its planner is given up, and the maker is told what to do."""
        for i in range(MOST_TRIES):
            self.begun_by(f"worker {i}")
            self.assertEqual(self.looked(Watch(), 0), [[]])
            watch = Watch()
            self.assertEqual(self.looked(watch, 0, LOST_AFTER_S + 1)[1], [self.task.pk])
        self.assertEqual(DBTaskResult.objects.get().status, "FAILED")
        row = DayPlan.objects.get()
        self.assertEqual(row.state, FAILED)
        self.assertIn("broke off several times", row.why)
        self.assertTrue(row.found, "the order found at once stays")

    def test_a_mistake_of_ours_is_tried_again_and_then_given_up(self) -> None:
        with mock.patch("studio.day.planning.solve", side_effect=ZeroDivisionError), self.assertLogs("studio.work"):
            self.assertEqual(work_off(), MOST_TRIES)
        self.assertEqual(DBTaskResult.objects.get().status, "FAILED")
        self.assertEqual(DayPlan.objects.get().state, FAILED)

    def test_priorities(self) -> None:
        later, sooner = plan_day.using(priority=-20).enqueue(0), plan_day.using(priority=20).enqueue(0)
        done: list[str] = []
        with mock.patch.object(Worker, "run_task", lambda self, row: (row.set_successful(None), done.append(row.pk))):
            work_off()
        self.assertEqual([uuid.UUID(str(d)) for d in done], [uuid.UUID(sooner.id), self.task.pk, uuid.UUID(later.id)])
