"""What else is learned from what is done anyway, and what never happens silently."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from dataclasses import replace
from datetime import datetime, timedelta
from unittest import mock

from django.test import TestCase
from scipy.optimize import brentq

from coating.flow.home_tests import spread
from coating.heat.cooling import BowlCooling
from coating.learning.factors import NOTHING, Factor, Factors
from coating.shape.coats import coat_thickness_mm
from studio.bowls.actions import append, begin_bowl
from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl, Timer
from studio.common import clock
from studio.cupboard.actions import change_ingredient
from studio.cupboard.models import Ingredient
from studio.cupboard.stock import Stock
from studio.day.models import DayEvent, DayPlan
from studio.learned.fitted import Taught, learnt
from studio.learned.models import Said
from studio.pieces.known import known_to
from studio.pieces.models import Job, Piece
from studio.pieces.reckoned import kitchen_of, reckoned, reckoned_at
from tests.studio.kitchens import bowl_for, half_dip, maker
from tests.studio.test_day_plan import FORM


class MoreLearning(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()

    # -- what is known --------------------------------------------------------------------------------------------
    def stock(self) -> Stock:
        self.kitchen.refresh_from_db()
        return Stock.of(self.kitchen)

    def thing(self, name: str) -> Taught:
        return learnt(self.kitchen, self.stock()).things[name]

    def used(self) -> Mapping[str, float]:
        return {name: factor.value for name, factor in self.stock().factors(self.kitchen).of.items()}

    def say(self, name: str, word: str, **more: str) -> None:
        self.assertRedirects(self.client.post(f"/learned/{name}/", {"word": word, **more}), "/learned/")

    def melts(self, piece: Piece) -> float:
        self.kitchen.refresh_from_db()
        return sum(b.melt_g for b in reckoned(Job.objects.whole(self.kitchen, piece.job_id), self.kitchen).bowls)

    # -- what is done ---------------------------------------------------------------------------------------------
    def evening(self, coat: float, count: int = 24) -> Piece:
        """Biscuits half dipped by a hand that leaves so many times the coat; what is left is weighed."""
        piece = half_dip(self.kitchen, count=count)
        bowl, job = bowl_for(piece), Job.objects.whole(self.kitchen, piece.job_id)
        wanted = reckoned(job, self.kitchen).bowls[0]
        rows, melt_g = {r.code: r for r in self.stock().rows}, 2 * wanted.melt_g
        lines = [
            ("added", {"ingredient": rows["bright"].pk, "mass_g": melt_g, "pins": {}}),
            ("warmed", {"to_c": 40.0}),
        ]
        append(bowl, lines, expected_seq=0, key=uuid.uuid4())
        flow, line = Desk.of(bowl, self.kitchen).now.flow(), wanted.lines[0]
        assert flow
        per_mm = wanted.made_g / line.thickness_mm
        left_g = melt_g - wanted.lost_g - coat * per_mm * coat_thickness_mm(flow, below_line_mm=30.0)
        sent = {"seq": bowl.last_seq, "key": str(uuid.uuid4()), "left_g": f"{left_g:.1f}", "used_g": ""}
        self.assertRedirects(self.client.post(f"/bowls/{bowl.pk}/done/", sent), "/bowls/")
        return piece

    def melted(self, **amounts: float) -> Bowl:
        """A bowl of 200 g that is warm, of no job."""
        bowl = begin_bowl(self.kitchen, name="Plain", white="coating", colour=None)
        rows = {r.code: r for r in self.stock().rows}
        lines = [("added", {"ingredient": rows["bright"].pk, "mass_g": 200.0, "pins": {}}), ("warmed", {"to_c": 40.0})]
        append(bowl, lines, expected_seq=0, key=uuid.uuid4())
        return bowl

    def note(self, bowl: Bowl, kind: str, at: datetime | None = None, **payload: object) -> None:
        append(bowl, [(kind, payload)], expected_seq=bowl.last_seq, key=uuid.uuid4(), at=at)


class Grams(MoreLearning):
    def test_a_thicker_hand_is_asked_about_once_and_then_melts_more_in_every_room(self) -> None:
        for _ in range(3):
            self.evening(1.3)
        piece = half_dip(self.kitchen)
        before = self.melts(piece)
        self.assertTrue(self.thing("coat.dip").asks)
        self.assertEqual(self.used(), {}, "a change of a third is asked about first")
        page = self.client.get("/learned/")
        self.assertContains(page, "One thing waits for")
        self.assertContains(page, "come out about a third thicker than planned: 3 jobs say so")
        self.assertContains(page, "Shall it be so from now on?")
        self.say("coat.dip", "use")
        self.assertAlmostEqual(self.used()["coat.dip"], 1.3, delta=0.04)
        after = self.melts(piece)
        self.assertGreater(after, before)
        job = Job.objects.whole(self.kitchen, piece.job_id)
        wanted = reckoned(job, self.kitchen).bowls[0]
        desk = Desk.of(bowl_for(piece), self.kitchen)
        self.assertEqual(
            (desk.melt_g, reckoned_at(job.pk, self.kitchen).bowls[0].melt_g), (wanted.melt_g, wanted.melt_g)
        )
        for room in ("", "shopping/", "choices/"):
            self.assertEqual(self.client.get(f"/pieces/jobs/{job.pk}/{room}").status_code, 200)
        self.assertContains(
            self.client.get(f"/pieces/jobs/{job.pk}/"), "This goes by your own coats (dip), about a third"
        )

    def test_a_job_that_is_begun_keeps_to_it_until_it_is_worked_out_anew(self) -> None:
        begun = half_dip(self.kitchen, count=60)
        bowl_for(begun)
        before = self.melts(begun)
        for _ in range(3):
            self.evening(1.3)
        self.say("coat.dip", "use")
        self.assertEqual(self.melts(begun), before)
        address = f"/pieces/jobs/{begun.job_id}/"
        self.assertContains(self.client.get(address), "Since this was begun more is known of your coats (dip)")
        self.client.post(f"/learned/anew/{begun.job_id}/", {"word": "leave"})
        self.assertNotContains(self.client.get(address), "Since this was begun")
        self.assertEqual(self.melts(begun), before)
        self.client.post(f"/learned/anew/{begun.job_id}/", {"word": "anew"})
        self.assertGreater(self.melts(begun), 1.1 * before)
        _, _, other = maker("other@example.org")
        self.assertEqual(other.post(f"/learned/anew/{begun.job_id}/", {"word": "anew"}).status_code, 404)

    def test_less_is_melted_only_once_three_jobs_say_so(self) -> None:
        for _ in range(2):
            self.evening(0.87)
        self.assertEqual(self.used(), {})
        self.evening(0.87)
        self.assertAlmostEqual(self.used()["coat.dip"], 0.87, delta=0.03)

    def test_nobody_looked_is_no_record_and_a_glance_is_a_wide_one(self) -> None:
        piece = half_dip(self.kitchen)
        bowl = bowl_for(piece)
        rows = {r.code: r for r in self.stock().rows}
        added = {"ingredient": rows["bright"].pk, "mass_g": 200.0, "pins": {}}
        append(bowl, [("added", added), ("warmed", {"to_c": 40.0})], expected_seq=0, key=uuid.uuid4())
        sent = {"seq": bowl.last_seq, "key": str(uuid.uuid4()), "used_g": "100"}
        wrong = self.client.post(f"/bowls/{bowl.pk}/done/", {**sent, "left_g": "a lot"}, follow=True)
        self.assertContains(wrong, "message-error")
        self.assertContains(
            self.client.post(f"/bowls/{bowl.pk}/done/", {**sent, "count": "all"}, follow=True), "message-error"
        )
        self.client.post(f"/bowls/{bowl.pk}/done/", {**sent, "left": "half", "count": "13"})
        (made,) = [e.payload["made"] for e in bowl.events.filter(kind="used")]
        line = reckoned(Job.objects.whole(self.kitchen, piece.job_id), self.kitchen).bowls[0].lines[0]
        self.assertAlmostEqual(made["expected_g"], 13 * line.on_one_g / line.thickness_mm, delta=0.01)
        noted = learnt(self.kitchen, self.stock()).noted
        self.assertEqual([(n.record.kind, n.record.off > 0.05) for n in noted], [("used", True)])
        other = self.melted()
        self.client.post(f"/bowls/{other.pk}/done/", {"seq": other.last_seq, "key": str(uuid.uuid4()), "used_g": "100"})
        self.assertEqual(len(learnt(self.kitchen, self.stock()).noted), 1)


class Flow(MoreLearning):
    def spread(self) -> Bowl:
        """A spoonful that spreads as one does that is a third thicker than its label."""
        bowl = self.melted()
        flow = Desk.of(bowl, self.kitchen).now.flow()
        assert flow
        wide_mm = brentq(
            lambda mm: spread(volume_ml=15.0, diameter_mm=mm, wait_s=60.0).yield_stress_pa - 1.3 * flow.yield_stress_pa,
            40.0,
            140.0,
        )
        raw = {"volume_ml": 15.0, "diameter_mm": wide_mm}
        self.note(bowl, "tested", test="stands", how="spread", value=60.0, off=0.1, raw=raw)
        return bowl

    def test_a_thick_bag_is_thinned_more_and_a_tested_one_is_left_alone(self) -> None:
        plain = Desk.of(self.melted(), self.kitchen).now.label_number
        for _ in range(3):
            self.spread()
        times = self.used()["flow.bright"]
        self.assertGreater(times, 1.08)
        self.assertContains(self.client.get("/learned/"), "thicker than its label: 3 spreads say so")
        self.kitchen.refresh_from_db()
        after = Desk.of(self.melted(), self.kitchen)
        self.assertAlmostEqual(after.now.label_number / plain, times, places=3)
        page = self.client.get(f"/bowls/{after.bowl.pk}/")
        self.assertContains(page, "This goes by your own bright white coating")
        self.assertEqual(page.context["form"]["number"].value(), 58, "the label says what it says")
        begun = bowl_for(half_dip(self.kitchen))
        row = Ingredient.objects.with_parameters().get(kitchen=self.kitchen, code="bright")
        tested = {"number": (50.0, 45.0, 55.0, "measured")}
        change_ingredient(row, expected=row.version, name=row.name, stocked=True, values=tested)
        self.assertEqual(self.used(), {}, "what was tested wins")
        self.assertIn("flow.bright", begun.taught)
        job = Job.objects.whole(self.kitchen, begun.job_id)
        self.assertEqual((Desk.of(begun, self.kitchen).known.of, known_to(job, self.kitchen).of), ({}, {}))


class Times(MoreLearning):
    def cooled(self, loss: float) -> None:
        """A bowl whose warmth was read twice, a quarter of an hour apart."""
        bowl, at = self.melted(), clock.now()
        self.note(bowl, "cooled", at=at, to_c=40.0, read=True)
        end_c = BowlCooling(200.0, self.kitchen.room_c, loss).temperature_c(40.0, 900)
        self.note(bowl, "cooled", at=at + timedelta(minutes=15), to_c=round(end_c, 1), read=True)

    def test_cooling_shortens_by_itself_and_lengthens_only_with_a_yes(self) -> None:
        self.kitchen.has_thermometer = True
        self.kitchen.save()
        for _ in range(4):
            self.cooled(1.5)
        self.assertAlmostEqual(self.used()["loss"], 1.5, delta=0.15)
        before, after = (Desk.of(self.melted(), self.kitchen) for _ in range(2))
        self.assertEqual(before.context.loss, after.context.loss)
        self.assertAlmostEqual(after.context.loss, self.used()["loss"], places=3)
        Said.objects.create(kitchen=self.kitchen, name="loss", word=Said.FORGET, at=clock.now() + timedelta(hours=1))
        with mock.patch.object(clock, "now", return_value=clock.now() + timedelta(hours=2)):
            for _ in range(4):
                self.cooled(0.6)
            self.assertTrue(self.thing("loss").asks)
            self.assertNotIn("loss", self.used())
            self.say("loss", "use")
            self.assertLess(self.used()["loss"], 0.8)

    def test_a_coat_that_was_seen_to_be_set(self) -> None:
        for _ in range(4):
            bowl = bowl_for(half_dip(self.kitchen))
            rows = {r.code: r for r in self.stock().rows}
            added = {"ingredient": rows["bright"].pk, "mass_g": 200.0, "pins": {}}
            append(bowl, [("added", added), ("warmed", {"to_c": 40.0})], expected_seq=0, key=uuid.uuid4())
            page = self.client.get(f"/bowls/{bowl.pk}/waits/")
            wait = page.context["waits"][0]
            sent = {
                "says": wait.timer_says,
                "seconds": wait.timer_min * 60,
                "place": wait.place,
                "thickness_mm": page.context["thickness_mm"],
            }
            self.client.post(f"/bowls/{bowl.pk}/timer/", sent)
            timer = Timer.objects.latest("pk")
            self.assertContains(self.client.get("/pieces/"), "It is set")
            late = timer.begun_at + timedelta(seconds=1.3 * timer.seconds)
            with mock.patch.object(clock, "now", return_value=late):
                self.client.post(f"/bowls/timers/{timer.pk}/stop/", {"what": "set", "back": "/bowls/"})
        self.assertTrue(self.thing("set").said)
        self.assertTrue(self.thing("set").asks)
        self.say("set", "use")
        self.kitchen.refresh_from_db()
        longer = self.client.get(f"/bowls/{bowl.pk}/waits/").context["waits"][0].timer_min
        self.assertAlmostEqual(longer, wait.timer_min, delta=0.01, msg="a job that is begun keeps to it")
        self.client.post(f"/learned/anew/{bowl.job_id}/", {"word": "anew"})
        longer = self.client.get(f"/bowls/{bowl.pk}/waits/").context["waits"][0].timer_min
        self.assertGreater(longer, 1.1 * wait.timer_min)

    def bench(self, times: float, count: int = 24) -> DayPlan:
        """A day at the bench where hands took so many times as long as planned."""
        piece = half_dip(self.kitchen, count=count)
        self.assertEqual(self.client.post(f"/day/{piece.job_id}/plan/", FORM).status_code, 302)
        row = DayPlan.objects.get(job=piece.job_id)
        at, ends = clock.now(), dict[str, datetime]()
        for name, _ in sorted(row.plan.starts_s.items(), key=lambda pair: pair[1]):
            step = row.day.by_name[name]
            if not step.handled:
                continue
            waits = [
                ends[la.before] + timedelta(seconds=la.min_s)
                for la in row.day.lags
                if la.after == name and la.before in ends
            ]
            at = max([at, *waits]) + timedelta(seconds=times * step.duration_s)
            ends[name] = at
            sent = {"key": str(uuid.uuid4()), "step": name, "kind": "done"}
            with mock.patch.object(clock, "now", return_value=at):
                self.client.post(f"/day/{piece.job_id}/happened/", sent)
        return row

    def test_the_pace_of_hands_is_asked_about_and_of_what_was_said_nothing_is_learned(self) -> None:
        for count in (40, 60, 80):
            self.bench(0.7, count)
        self.assertTrue(self.thing("pace").asks)
        self.assertAlmostEqual(self.thing("pace").product.factor, 0.7, delta=0.05)
        before = self.hands()
        self.say("pace", "use")
        self.assertLess(self.hands(), 0.85 * before)
        self.assertEqual(DayEvent.objects.filter(plan__job__taught={}).count(), 0)
        self.kitchen.paces = {"dip": 12.0}
        self.kitchen.save()
        self.kitchen.cupboard_version += 1
        self.kitchen.save()
        self.assertNotIn("pace", learnt(self.kitchen, self.stock()).things)

    def test_minutes_that_were_written_down_and_a_nought_that_was_forgotten(self) -> None:
        for minutes in ("30", "31", "29", "3"):
            piece = half_dip(self.kitchen, count=40)
            self.assertEqual(self.client.post(f"/day/{piece.job_id}/plan/", FORM).status_code, 302)
            sent = self.client.post(f"/day/{piece.job_id}/took/", {"took_min": minutes}, follow=True)
            self.assertContains(sent, "days are planned by it")
        page = self.client.get("/learned/")
        self.assertContains(page, "does not fit the")
        self.assertContains(page, "It was 30 min")
        (odd,) = self.thing("pace").odd
        before = self.thing("pace").product.factor
        self.assertRedirects(self.client.post(f"/learned/record/{odd}/", {"word": "meant"}), "/learned/")
        self.assertEqual((DayPlan.objects.get(job=piece.job_id).took_min, self.thing("pace").odd), (30.0, frozenset()))
        self.assertAlmostEqual(self.thing("pace").product.factor, before, delta=0.1)
        wrong = self.client.post(f"/day/{piece.job_id}/took/", {"took_min": "half an hour"}, follow=True)
        self.assertContains(wrong, "message-error")
        self.assertEqual(self.client.post(f"/learned/record/{odd}/", {"word": "meant"}).status_code, 404)

    def test_a_helpers_hands_are_not_ones_own_and_heat_takes_nothing(self) -> None:
        for count in (40, 60, 80):
            row = self.bench(0.7, count)
            by = dict.fromkeys((s.name for s in row.day.steps), "helper:1")
            DayPlan.objects.filter(pk=row.pk).update(best={**row.best, "by": by})
        self.assertNotIn("pace", learnt(self.kitchen, self.stock()).things)
        job = Job.objects.whole(self.kitchen, half_dip(self.kitchen).job_id)
        own = Factors({name: Factor(1.6) for name in ("loss", "set", "pace")})
        heats = []
        for known in (NOTHING, own):
            reckoning = reckoned(job, self.kitchen, around=replace(kitchen_of(self.kitchen), factors=known), steps={})
            heats.append([(s.id, s.heat_s) for s in reckoning.steps if s.heat_s])
        self.assertTrue(heats[0])
        self.assertEqual(heats[0], heats[1], "however it cools, it is heated as before")

    def hands(self) -> float:
        """Seconds of hands of a job that is not begun."""
        self.kitchen.refresh_from_db()
        job = Job.objects.whole(self.kitchen, half_dip(self.kitchen).job_id)
        return sum(step.hands_s for step in reckoned(job, self.kitchen, steps={}).steps if step.piece)


class Drops(MoreLearning):
    def weigh(self, code: str, times: float) -> None:
        row = Ingredient.objects.with_parameters().get(kitchen=self.kitchen, code=code)
        twenty_g = 20 * times * row.current()["drop_g"].value
        sent = {"what": "weigh", "twenty_g": f"{twenty_g:.3f}"}
        self.assertEqual(self.client.post(f"/cupboard/{row.pk}/measure/", sent).status_code, 302)

    def test_heavy_drops_of_two_colours_count_for_all_and_tighten_what_may_go_in(self) -> None:
        before = {c.name: c for c in self.stock().cupboard("coating", self.kitchen).colourants}
        self.weigh("blue", 1.25)
        self.assertEqual(self.used(), {}, "one colour says nothing of the others")
        at_once = {c.name: c for c in self.stock().cupboard("coating", self.kitchen).colourants}
        self.assertLess(at_once["teal"].cap_share, before["teal"].cap_share / 1.2, "but caps are tightened at once")
        self.weigh("red", 1.25)
        after = {c.name: c for c in self.stock().cupboard("coating", self.kitchen).colourants}
        self.assertAlmostEqual(self.used()["strength.teal"], 1.25, delta=0.06)
        self.assertNotIn("strength.blue", self.used(), "what was weighed wins")
        self.assertLess(after["teal"].cap_share, before["teal"].cap_share / 1.2)
        self.assertAlmostEqual(after["teal"].strength / before["teal"].strength, self.used()["strength.teal"])
        self.assertContains(self.client.get("/learned/"), "A colour you have not used yet uses that too.")
