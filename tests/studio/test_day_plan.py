"""Plans that are asked for: by one of two windows, by the task that was asked for last, stopped, stale."""

from __future__ import annotations

import uuid

from django.test import TransactionTestCase
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from studio.day.models import ASKED, DONE, STOPPED, DayEvent, DayPlan
from studio.pieces.models import Job, Piece
from studio.work.worker import work_off
from tests.coating.plan.day_checks import broken
from tests.studio.kitchens import half_dip, maker

FORM = {"begin": "10:00", "ready": "", "hands": "1", "fridge": "4", "freezer": "2"}


class Plans(TransactionTestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.job = half_dip(self.kitchen).job
        self.address = f"/day/{self.job.pk}/"

    def ask(self) -> DayPlan:
        self.assertEqual(self.client.post(f"{self.address}plan/", FORM).status_code, 302)
        return DayPlan.objects.get()

    def test_asked_solved_and_shown(self) -> None:
        row = self.ask()
        self.assertEqual((row.state, broken(row.day, row.plan.starts_s, row.plan.melts)), (ASKED, []))
        self.assertContains(self.client.get(self.address), "Looking for a shorter day")
        answer = self.client.get(f"{self.address}progress/").json()
        self.assertFalse(answer["over"])
        self.assertTrue(work_off())
        self.assertEqual(work_off(), 0)
        row.refresh_from_db()
        self.assertEqual((row.state, row.plan.optimal), (DONE, True))
        self.assertEqual(broken(row.day, row.plan.starts_s, row.plan.melts), [])
        page = self.client.get(self.address)
        self.assertContains(page, "nothing can be shorter")
        self.assertContains(page, "Start at <em>10:00</em>")
        self.assertTrue(self.client.get(f"{self.address}progress/").json()["over"])

    def test_too_late_says_what_would_do(self) -> None:
        early = self.client.get(self.address, {**FORM, "ready": "10:01"})
        self.assertContains(early, "too late: start at 9:")
        self.assertNotContains(early, "one place more in the fridge")  # the cold is not what is short
        self.assertContains(self.client.get(self.address, {**FORM, "ready": "9:00"}), "before it begins")

    def test_asked_again_meanwhile(self) -> None:
        """The first task finds that nobody wants it any more; the second plans."""
        first = self.ask().task
        second = self.ask()
        self.assertNotEqual(first, second.task)
        self.assertEqual(second.version, 2)
        self.assertEqual(work_off(), 2)
        self.assertEqual(
            sorted(DBTaskResult.objects.values_list("return_value", flat=True)), ["done", "no longer wanted"]
        )
        self.assertEqual(DayPlan.objects.get().state, DONE)

    def test_two_windows_on_one_plan(self) -> None:
        """The page that was opened before is told so, keeps what was typed, and is let through the second time."""
        opened = self.client.get(self.address).context["plan_version"]
        self.ask()
        late = {**FORM, "begin": "11:15", "plan_version": opened}
        page = self.client.post(f"{self.address}plan/", late)
        self.assertContains(page, "changed this in another window", status_code=409)
        self.assertEqual(page.context["form"]["begin"].value(), "11:15")
        self.assertEqual(DayPlan.objects.get().asked["begin"], "10:00")
        work_off()
        starts_s = DayPlan.objects.get().plan.starts_s
        last = max(starts_s, key=lambda name: starts_s[name])
        here = {**FORM, "plan_version": opened, "step": last, "to_s": starts_s[last] + 60}
        moved = self.client.post(f"{self.address}move/", {**here, "keep": "on"})
        self.assertEqual(moved.status_code, 409)
        again = self.client.post(f"{self.address}plan/", {**late, "plan_version": page.context["plan_version"]})
        self.assertEqual(again.status_code, 302)
        self.assertEqual(DayPlan.objects.get().asked["begin"], "11:15")

    def test_stopped_and_stale(self) -> None:
        self.ask()
        self.client.post(f"{self.address}stop/")
        self.assertEqual(DayPlan.objects.get().state, STOPPED)
        work_off()
        self.assertEqual(DayPlan.objects.get().state, STOPPED)
        self.assertContains(self.client.get(self.address), "Planned")
        Piece.objects.filter(job=self.job).update(count=90)
        self.assertContains(self.client.get(self.address), "was changed since it was planned")

    def test_another_button_of_the_same_page_counts(self) -> None:
        """Back and another button: the key is the same, what is meant is not."""
        self.ask()
        work_off()
        bench, key = f"{self.address}bench/", str(uuid.uuid4())
        step = self.client.get(bench).context["line"]["step"]
        for kind in ("longer", "longer", "done", "done"):
            self.client.post(f"{self.address}happened/", {"key": key, "step": step, "kind": kind})
        self.assertEqual(list(DayEvent.objects.values_list("kind", flat=True)), ["longer", "done"])
        self.assertNotEqual(self.client.get(bench).context["line"]["step"], step)

    def test_at_the_bench_everything_counts_once(self) -> None:
        row = self.ask()
        work_off()
        bench = f"{self.address}bench/"
        first = self.client.get(bench).context["line"]
        self.assertTrue(first["step"].startswith("melt:"))
        sent = {"key": str(uuid.uuid4()), "step": first["step"], "kind": "done", "ago_s": ""}
        for _ in range(2):
            self.assertEqual(self.client.post(f"{self.address}happened/", sent).status_code, 302)
        self.assertEqual(DayEvent.objects.count(), 1)
        tint = self.client.get(bench).context["line"]
        self.assertTrue(tint["step"].startswith("bowl:"))
        self.tap(tint["step"], "done")
        second = self.client.get(bench).context["line"]
        self.assertFalse(second["step"].startswith(("melt:", "bowl:")))
        later = {"key": str(uuid.uuid4()), "step": second["step"], "kind": "longer"}
        self.client.post(f"{self.address}happened/", later)
        self.assertContains(self.client.get(bench), "Noted: until")
        count = second["of"]
        for _ in range(2):
            self.tap(second["step"], "one")
        self.assertEqual(self.client.get(bench).context["line"]["ones"], 2)
        self.tap(second["step"], "undone")
        self.tap(second["step"], "wrong")
        self.assertContains(self.client.get(bench), "/wrong/?job=")
        self.assertEqual(self.client.get(bench).context["line"]["ones"], 1)
        for _ in range(count - 1):
            self.tap(second["step"], "one")
        self.assertNotEqual((self.client.get(bench).context.get("line") or {}).get("step"), second["step"])
        self.tap(second["step"], "undone")
        self.assertEqual(self.client.get(bench).context["line"]["ones"], count - 1)
        known = DayEvent.objects.count()
        done = {"key": str(uuid.uuid4()), "step": second["step"], "kind": "done", "ago_s": "-9e99"}
        kept = self.client.post(f"{self.address}happened/", done, headers={"accept": "application/json"})
        self.assertEqual(kept.json(), {"kept": done["key"]})
        self.assertLessEqual(DayEvent.objects.latest("pk").happened_at, timezone.now())
        self.assertContains(self.client.get(bench), "2 of ")
        undone = {"key": str(uuid.uuid4()), "step": second["step"], "kind": "undone"}
        self.client.post(f"{self.address}happened/", undone)
        self.assertContains(self.client.get(bench), "1 of ")
        for change in ({"kind": "eaten"}, {"key": "x"}, {"step": ""}):
            wrong = self.client.post(
                f"{self.address}happened/", {**undone, **change}, headers={"accept": "application/json"}
            )
            self.assertEqual(wrong.status_code, 422)
        self.assertEqual(row.events.count(), known + 2)
        for name in [s.name for s in row.day.steps]:
            self.client.post(f"{self.address}happened/", {"key": str(uuid.uuid4()), "step": name, "kind": "done"})
        page = self.client.get(bench)
        self.assertContains(page, "All done")
        self.assertContains(page, "You said once that something was wrong.")

    def test_the_time_that_matters(self) -> None:
        row = self.ask()
        work_off()
        page = self.client.get(f"{self.address}bench/")
        melt = page.context["line"]["step"]
        self.assertEqual((page.context["ring"].says, page.context["ring"].over), ("planned for it", ""))
        self.assertContains(page, "Hot: not for children under 12.")
        self.assertContains(page, "Before you begin")
        self.tap(melt, "done")
        page = self.client.get(f"{self.address}bench/")
        self.assertEqual(page.context["ring"].says, "while it is warm")
        life_s = row.day.bowls[melt.removeprefix("melt:")].life_s
        self.assertAlmostEqual(page.context["ring"].left_s, life_s, delta=30)
        self.assertNotContains(page, "Before you begin")
        self.assertContains(page, "Undo: dusk blue is melted")

    def tap(self, step: str, kind: str) -> None:
        data = {"key": str(uuid.uuid4()), "step": step, "kind": kind}
        self.assertEqual(self.client.post(f"{self.address}happened/", data).status_code, 302)

    def test_bad_input_and_other_makers(self) -> None:
        for change, field in (({"ready": "9:00"}, "ready"), ({"hands": "0"}, "hands"), ({"begin": ""}, "begin")):
            sent = self.client.post(f"{self.address}plan/", {**FORM, **change})
            self.assertEqual(sent.status_code, 422, change)
            self.assertIn(field, sent.context["form"].errors)
        self.assertFalse(DayPlan.objects.exists())
        self.ask()
        _, _, stranger = maker("stranger@example.org")
        for address in ("plan/", "stop/", "happened/"):
            self.assertEqual(stranger.post(f"{self.address}{address}", FORM).status_code, 404)
        self.assertEqual(stranger.get(f"{self.address}progress/").status_code, 404)
        self.assertEqual(Job.objects.get().day_plan.state, ASKED)
