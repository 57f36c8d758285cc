"""Days with helpers, nights, stands and moulds; steps moved by hand; what cannot be; what goes wrong at the bench."""

from __future__ import annotations

import re
import uuid
from datetime import timedelta
from typing import Any
from unittest import mock

from django.test import TransactionTestCase
from django.utils import timezone

from coating.piece.kinds import KINDS
from coating.plan.day import HANDS
from coating.steps import SET, WET, Step, steps_json
from studio.accounts.models import Kitchen
from studio.day.adapters import Asked, day_of
from studio.day.helping import Helper
from studio.day.models import DayEvent, DayPlan
from studio.day.reckoning import at_once
from studio.designs.models import Design
from studio.pieces.models import Job, Piece
from studio.pieces.stacks import LayerPlan, PiecePlan, keep_piece
from studio.work.worker import work_off
from tests.coating.plan.day_checks import broken
from tests.studio.every_form import untouched
from tests.studio.kitchens import half_dip, live, maker, topped
from tests.studio.true_day import untrue

FORM = {"begin": "10:00", "ready": "", "hands": "1", "fridge": "4", "freezer": "2"}
ANA = {"helper1_name": "Ana", "helper1_scatter": "on", "helper1_build": "on"}


class MoreDays(TransactionTestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.piece = half_dip(self.kitchen)
        self.job = self.piece.job
        self.address = f"/day/{self.job.pk}/"
        self.tomorrow = f"{timezone.localdate() + timedelta(days=1):%Y-%m-%d}"

    def planned(self, **settings: Any) -> Any:
        job = Job.objects.whole(self.kitchen, self.job.pk)
        day_planned = day_of(job, self.kitchen, Asked(**settings))
        assert day_planned is not None
        plan = at_once(day_planned)
        self.assertEqual(broken(day_planned.day, plan.starts_s, plan.melts, plan.by), [])
        self.assertEqual(untrue(job, day_planned, plan), [])
        return day_planned, plan

    def test_chocolate_is_tempered_before_it_is_used_and_never_too_warm_again(self) -> None:
        self.piece.layers.update(white="tempered")
        Kitchen.objects.update(has_thermometer=True)
        day_planned, plan = self.planned()
        (bowl,) = day_planned.day.bowls.values()
        self.assertLess(bowl.off_s(again=True), bowl.off_s())
        self.assertFalse(
            any("no streak" in says for says in day_planned.says.values()), "it is tinted before it is tempered"
        )
        page = self.client.get(f"{self.address}?do=plan").content.decode()
        (melted,) = re.findall(r"Melt <b>.*?<small>", page)
        self.assertIn(
            "Stir the colour in until no streak is left, then seed it bit by bit until it reads 28.5 °C", melted
        )
        first = min(plan.starts_s[s.name] for s in day_planned.day.steps if s.bowl)
        self.assertGreaterEqual(first, bowl.off_s())
        Piece.objects.filter(pk=self.piece.pk).update(count=90)
        page = self.client.get(self.address).content.decode()
        again = re.findall(r"Warm <b>.*?<small>", page)
        self.assertTrue(again and all("until it reads 28.5 °C and no further" in says for says in again), again)

    def test_a_helper_does_what_is_allowed_and_no_more(self) -> None:
        topped(self.piece)
        alone, plan = self.planned()
        scatter = Helper("helper1", "Ana", frozenset({"scatter"}))
        helped, quicker = self.planned(helpers=(scatter,))
        theirs = [n for n, who in quicker.by.items() if who == "helper1"]
        self.assertTrue(theirs and all("topping" in helped.says[n] for n in theirs))
        self.assertLess(quicker.makespan_s, plan.makespan_s)
        calm = Helper("helper1", "Ana", frozenset({"scatter", "dip"}), calm=True)  # wet toppings are hurried, dips hot
        _, same = self.planned(helpers=(calm,))
        self.assertEqual((same.by, same.makespan_s), ({}, plan.makespan_s))
        self.assertTrue(all(s.uses == {HANDS: 1} for s in alone.day.steps if s.handled))
        calm_ana = {"helper1_name": "Ana", "helper1_dip": "on", "helper1_calm": "on"}
        page = live(self.client, f"{self.address}live/", {**FORM, **ANA}).json()["parts"]["answer"]
        self.assertRegex(page, r"Ana is needed from 10:\d\d to 10:\d\d, for about")
        page = live(self.client, f"{self.address}live/", {**FORM, **calm_ana}).json()["parts"]["answer"]
        self.assertIn("There is nothing for Ana to do", page)

    def test_what_has_to_meet_wet_coating_is_done_in_rounds(self) -> None:
        topped(self.piece)
        day_planned, _ = self.planned()
        dips = [s for s in day_planned.day.steps if day_planned.says[s.name].startswith("Dip")]
        tops = [s for s in day_planned.day.steps if day_planned.says[s.name].startswith("Put the topping")]
        self.assertGreater(len(dips), 1)
        self.assertEqual(len(dips), len(tops))
        windows = [la.max_s for la in day_planned.day.lags if la.after in {t.name for t in tops}]
        self.assertEqual(set(windows), {30, None})  # None: one round after the other
        self.assertLessEqual(max(d.duration_s for d in dips), 120)

    def test_a_stand_and_moulds_are_taken_until_it_is_set(self) -> None:
        day_planned, plan = self.planned(stand=10)
        _, free = self.planned()
        self.assertEqual([h.places for h in day_planned.day.holds], [8, 9, 9])
        self.assertGreater(plan.makespan_s, free.makespan_s)
        layer = LayerPlan("solid", "coating", None, None, {"v": 2})
        moons = keep_piece(self.job, PiecePlan("Moons", 26, KINDS["mould"], (29.0, 24.0, 15.0), (layer,), 0))

        def holds(moulds: int, cavities: int) -> list[tuple[str, int]]:
            moons.layers.update(parameters={"v": 2, "drawn": {"moulds": [moulds, cavities]}})
            return [(h.resource, h.places) for h in self.planned()[0].day.holds]

        name = f"moulds:{moons.layers.get().pk}"
        self.assertEqual(holds(1, 9), [(name, 1)] * 3)
        self.assertEqual(holds(4, 1), [(name, n) for n in (3, 4, 4, 3, 4, 4, 4)])  # very often: all four at once

    def test_no_fridge_a_full_room_and_a_second_microwave(self) -> None:
        steps = [Step("Pour.", 60), Step("Take it off.", 60, SET, 10, None, "fridge")]
        Design.objects.create(
            kitchen=self.kitchen,
            name="Slab",
            kind="paint",
            layer=self.piece.layers.get(),
            asked={"v": 1},
            drawn={"v": 1, "steps": steps_json(steps)},
        )
        cold, quick = self.planned(fridge=1)
        warm, slow = self.planned()
        self.assertEqual((cold.moved, warm.moved), ((), (("fridge", "room"),)))
        self.assertGreater(slow.makespan_s, quick.makespan_s)
        self.assertContains(self.client.get(self.address, {**FORM, "fridge": "0"}), "There is no space in the fridge")
        full, _ = self.planned(room=1, heat=2)
        self.assertEqual((full.day.resources["room"], full.day.resources["heat"]), (1, 2))
        self.assertTrue(any(s.uses == {"room": 1} for s in full.day.steps))
        self.kitchen.room_c = 33.0
        self.kitchen.save()
        self.assertContains(
            self.client.get(self.address, {**FORM, "fridge": "0", "freezer": "0"}), "too warm for it to set in the room"
        )
        self.kitchen.has_fridge = False  # the freezer is left, and colder
        self.kitchen.save()
        page = self.client.get(self.address, FORM)
        self.assertContains(page, "There is no space in the fridge: what would wait there waits in the freezer.")
        self.assertNotContains(page, "Shelf space in the fridge")
        frozen, soon = self.planned(freezer=2)
        self.assertEqual(frozen.moved, (("fridge", "freezer"),))
        self.assertLess(soon.makespan_s, quick.makespan_s)

    def test_lace_is_laid_round_while_it_bends_and_on_what_is_set(self) -> None:
        topped(self.piece)
        layer = self.piece.layers.get(technique="topping")
        layer.technique, layer.parameters = "lace", {"v": 2}
        layer.save()
        form = untouched(self.client.get(f"/studio/new/lace/?layer={layer.pk}").context["form"])
        self.assertEqual(self.client.post("/studio/new/lace/", {**form, "do": "keep"}).status_code, 302)
        day_planned, _ = self.planned()
        by_words = {words: name for name, words in day_planned.says.items()}
        first = next(name for words, name in by_words.items() if words.startswith("Pipe"))
        laid = next(name for words, name in by_words.items() if words.startswith("Lay"))
        windows = {la.after: la for la in day_planned.day.lags}
        self.assertTrue(any(la.min_s > 0 for la in day_planned.day.lags if la.after == first))
        self.assertLess(windows[laid].min_s, windows[laid].max_s)
        self.assertEqual(
            (day_planned.day.by_name[first].bowl is None, day_planned.day.by_name[laid].bowl), (False, None)
        )

    def test_several_days(self) -> None:
        sent = {**FORM, "on": self.tomorrow, "begin": "10:00", "until": "10:30", "stand": "6"}
        page = self.client.get(self.address, sent)
        self.assertGreater(page.context["days"], 1)
        self.assertGreater(len(page.context["parts"]), 1)
        for line in page.context["lines"]:
            self.assertLessEqual((line["at"] + timedelta(seconds=line["long_s"])).strftime("%H:%M"), "10:30")
        self.assertRegex(page.context["parts"][-1].title, r"^\w+day, ")
        for change, field in (({"until": "10:10"}, "until"), ({"until": "9:00"}, "until")):
            self.assertIn(field, self.client.post(f"{self.address}plan/", {**sent, **change}).context["form"].errors)

    def test_a_plan_of_yesterday_is_one_for_today(self) -> None:
        query = {**FORM, "on": self.tomorrow, "ready": "20:00", "ready_on": self.tomorrow}
        self.client.post(f"{self.address}plan/", query)
        work_off()
        later = (timezone.localtime() + timedelta(days=5)).replace(hour=6)
        with mock.patch("studio.common.clock.now", return_value=later):
            page = self.client.get(self.address)
            self.assertEqual(page.context["begin"].date(), timezone.localdate(later))
            self.assertEqual(page.context["form"].errors, {})
            self.assertContains(page, "It leaves")
            self.assertEqual(self.client.post(f"{self.address}plan/", page.context["form"].data).status_code, 302)

    def test_days_that_are_over_and_helpers_who_may_do_nothing(self) -> None:
        yesterday = f"{timezone.localdate() - timedelta(days=1):%Y-%m-%d}"
        before = {"on": self.tomorrow, "ready": "12:00", "ready_on": f"{timezone.localdate():%Y-%m-%d}"}
        for change, field in (
            ({"on": yesterday}, "on"),
            (before, "ready_on"),
            ({"helper2_name": "Ben"}, "helper2_name"),
            ({"stand": "-3"}, "stand"),
            ({"on": "soon"}, "on"),
        ):
            sent = self.client.post(f"{self.address}plan/", {**FORM, **change})
            self.assertEqual(sent.status_code, 422, change)
            self.assertIn(field, sent.context["form"].errors)
            self.assertEqual(sent.context["form"]["begin"].value(), "10:00")
        self.assertFalse(DayPlan.objects.exists())

    def test_what_stands_in_each_others_way_is_named_in_words(self) -> None:
        """Twenty minutes of filling and twenty of lids within five do not fit into half an hour a day."""
        steps = [
            Step("Cut out.", 60),
            Step("Fill them.", 1200, SET, 1),
            Step("Lids on.", 1200, WET, 0, 5),
            Step("Dust them.", 60),
        ]
        Design.objects.create(
            kitchen=self.kitchen,
            name="Moons",
            kind="paint",
            layer=self.piece.layers.get(),
            asked={"v": 1},
            drawn={"v": 1, "steps": steps_json(steps)},
        )
        sent = {**FORM, "on": self.tomorrow, "until": "10:30"}
        self.assertContains(self.client.get(self.address, sent), "No order was found at once")
        self.assertEqual(self.client.post(f"{self.address}plan/", sent).status_code, 302)
        self.assertContains(self.client.get(self.address), "Looking for an order that keeps every wait")
        self.assertTrue(work_off())
        page = self.client.get(self.address)
        self.assertContains(page, "stand in each other")
        self.assertEqual(len(page.context["in_the_way"]), 2)
        self.assertContains(page, "ill them (comet biscuits)")
        self.assertContains(page, "Lids on (comet biscuits)")
        self.assertTrue(self.client.get(f"{self.address}progress/").json()["over"])
        self.assertEqual(self.client.get(f"{self.address}bench/").status_code, 302)
        self.client.post(f"{self.address}plan/", {**sent, "until": "12:00"})
        self.assertTrue(work_off())
        self.assertContains(self.client.get(self.address), "nothing can be shorter")

    def test_a_step_is_moved_and_kept(self) -> None:
        topped(self.piece)
        sent = {**FORM, **ANA, "on": self.tomorrow}
        self.client.post(f"{self.address}plan/", sent)
        work_off()
        before = DayPlan.objects.get().plan
        step = max(before.starts_s, key=lambda n: before.starts_s[n])
        later = {**sent, "step": step, "to_s": before.starts_s[step] + 60}
        answer = self.client.post(f"{self.address}move/", later).json()
        self.assertIn("everything is done 60 s later", answer["parts"]["moved"])
        self.assertFalse(answer["kept"])
        self.assertEqual(DayPlan.objects.get().plan.starts_s, before.starts_s)
        first = min((n for n in before.starts_s), key=lambda n: before.starts_s[n])
        never = self.client.post(f"{self.address}move/", {**sent, "step": step, "to_s": 0}).json()
        self.assertIn("first comes: Put the topping", never["parts"]["moved"])
        kept = self.client.post(f"{self.address}move/", {**later, "keep": "on"})
        self.assertTrue(kept.json()["kept"])
        row = DayPlan.objects.get()
        self.assertEqual((row.state, row.plan.makespan_s), ("moved", before.makespan_s + 60))
        self.assertEqual(broken(row.day, row.plan.starts_s, row.plan.melts, row.plan.by), [])
        self.assertContains(self.client.get(self.address), "In the order you gave it")
        for change in ({"step": "fly", "to_s": 60}, {"step": first, "to_s": "x"}, {"hands": "0", "step": first}):
            self.assertEqual(self.client.post(f"{self.address}move/", {**sent, **change}).status_code, 422, change)
        _, _, stranger = maker("stranger@example.org")
        self.assertEqual(stranger.post(f"{self.address}move/", sent).status_code, 404)

    def test_spoilt_is_made_again_and_the_day_can_begin_anew(self) -> None:
        topped(self.piece)
        self.client.post(f"{self.address}plan/", {**FORM, **ANA, "ready": "23:59"})
        work_off()
        row, bench = DayPlan.objects.get(), f"{self.address}bench/"
        self.assertTrue(row.again)
        self.assertTrue(all(end >= row.plan.makespan_s for end in row.again.values()))
        for _ in range(3):
            self.tap(self.client.get(bench).context["line"]["step"], "done")
        line = self.client.get(bench).context["line"]
        done = next(e.step for e in row.events.all() if not e.step.startswith(("melt:", "bowl:")))
        where = f"/wrong/?job={self.job.pk}&step={line['step']}"
        self.assertContains(self.client.get(where), "Make it again from the start")
        self.tap(done, "again")
        after = self.client.get(bench).context
        self.assertIn(done, [after["line"]["step"], *(one["step"] for one in after["all"])])
        self.tap(done, "anew")
        self.assertEqual(self.client.get(bench).context["done_count"], 0)

    def test_half_of_the_pieces_take_half_of_the_time(self) -> None:
        self.client.post(f"{self.address}plan/", FORM)
        work_off()
        bench = f"{self.address}bench/"
        for _ in range(2):  # melted, and tinted
            self.tap(self.client.get(bench).context["line"]["step"], "done")
        line, end = (self.client.get(bench).context[name] for name in ("line", "end"))
        for _ in range(line["of"] // 2):
            self.tap(line["step"], "one")
        sooner = (end - self.client.get(bench).context["end"]).total_seconds()
        self.assertAlmostEqual(sooner, line["long_s"] * (line["of"] // 2) / line["of"], delta=20)

    def tap(self, step: str, kind: str) -> None:
        data = {"key": str(uuid.uuid4()), "step": step, "kind": kind}
        self.assertEqual(self.client.post(f"{self.address}happened/", data).status_code, 302)
        self.assertEqual(DayEvent.objects.latest("pk").kind, kind)
