"""Trouble at the bench and in the studio: the day follows, what comes is said before, a move is taken back."""

from __future__ import annotations

import html
import uuid
from typing import Any
from urllib.parse import urlencode

from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl, BowlEvent, Timer
from studio.bowls.stock_left import stock_left_g
from studio.colours.models import Colour
from studio.common.coming import seen_coming
from studio.cupboard.actions import cupboard_changed
from studio.cupboard.models import Parameter
from studio.cupboard.stock import Stock
from studio.day.models import DayEvent
from studio.rescue.models import Rescue
from studio.rescue.spoken.causes import coming_says
from tests.studio.designing import Designing
from tests.studio.kitchens import live, step
from tests.studio.test_day_plan import FORM
from tests.studio.test_rescue import RescueTests


class Beforehand(RescueTests):
    def test_flakes_in_a_cool_bowl_and_a_tempered_one_that_is_warmed(self) -> None:
        self.note(30, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 39.0}), ("stirred", {}))
        at, fields = f"/bowls/{self.bowl.pk}/live/", {f"add-{self.row('palm_flakes').pk}": "5", "temperature_c": "30"}
        answer = live(self.client, at, step(self.bowl, **fields)).json()
        self.assertIn(coming_says("fat_unmelted"), html.unescape(answer["parts"]["answer"]))
        warm = live(self.client, at, step(self.bowl, **{**fields, "temperature_c": "39"})).json()
        self.assertNotIn("Seen coming", warm["parts"]["answer"])
        Bowl.objects.filter(pk=self.bowl.pk).update(white="tempered")
        self.note(1, ("cooled", {"to_c": 28.5}))
        hot = live(self.client, at, step(self.bowl, temperature_c="35")).json()
        self.assertIn("Seen coming: temper lost. Never take white above 32 °C", hot["parts"]["answer"])

    def test_a_bowl_that_is_for_fruit(self) -> None:
        Bowl.objects.filter(pk=self.bowl.pk).update(technique="dip_fruit")
        self.note(1, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 39.0}), ("stirred", {}))
        self.assertContains(self.client.get(f"/bowls/{self.bowl.pk}/"), coming_says("cold_core"))

    def test_what_comes_is_said_in_the_words_of_rescue(self) -> None:
        self.assertEqual(seen_coming("early_out"), coming_says("early_out"))


class BeforehandInTheStudio(Designing):
    def said(self, kind: str, **change: str) -> str:
        return html.unescape("".join(self.parts(kind, **change).values()))

    def test_lace_that_cannot_be_laid_round_in_time(self) -> None:
        self.assertIn(coming_says("lifted_late"), self.said("lace", speed_mm_s="1", height_mm="120"))
        self.assertNotIn("Seen coming", self.said("lace"))

    def test_a_bottle_the_wrong_way_round(self) -> None:
        blue = str(Colour.objects.get(kitchen=self.kitchen, name="Dusk blue").pk)
        rest = {f"ml{i}": "" for i in range(2, 8)}
        plain_first = {**rest, "ml0": "80", "colour0": "", "ml1": "20", "colour1": blue}
        blue_first = {**rest, "ml0": "20", "colour0": blue, "ml1": "80", "colour1": ""}
        self.assertIn(coming_says("bottle_order"), self.said("bottle", **plain_first))
        self.assertNotIn(coming_says("bottle_order"), self.said("bottle", **blue_first))


class AtTheBench(RescueTests):
    def setUp(self) -> None:
        super().setUp()
        self.job = f"/day/{self.piece.job_id}/"
        self.client.post(f"{self.job}plan/", FORM)
        for _ in range(2):  # melted, and tinted
            self.tap(self.line()["step"], "done")
        self.note(5, self.put("bright", mass_g=250.0), ("warmed", {"to_c": 39.0}), ("stirred", {}))
        for _ in range(9):
            self.tap(self.line()["step"], "one")

    def line(self) -> Any:
        return self.client.get(f"{self.job}bench/").context["line"]

    def tap(self, step: str, kind: str) -> None:
        self.client.post(f"{self.job}happened/", {"key": str(uuid.uuid4()), "step": step, "kind": kind})

    def at_step(self, **more: str) -> dict[str, str]:
        return {"job": str(self.piece.job_id), "step": self.line()["step"], **more}

    def test_it_knows_which_step_and_bowl_are_meant(self) -> None:
        page = self.client.get("/wrong/", self.at_step())
        self.assertEqual(page.context["subject"].bowl, self.bowl)
        self.assertEqual(page.context["likely"][0][0].name, "coat_thick")  # what dips show comes first
        self.assertContains(page, "Make it again from the start")

    def test_the_rest_waits_while_it_is_mended(self) -> None:
        before = self.client.get(f"{self.job}bench/").context["end"]
        query = urlencode(self.at_step())
        page = self.client.get(f"/wrong/thick/?{query}")
        offer = page.context["offer"]
        sent = {"move": offer.move, "seq": self.bowl.last_seq, "key": str(uuid.uuid4())}
        self.client.post(f"/wrong/thick/do/?{query}", sent)
        event = DayEvent.objects.latest("pk")
        self.assertEqual((event.kind, event.minutes), ("mended", offer.minutes))
        later = self.client.get(f"{self.job}bench/").context["end"] - before
        self.assertAlmostEqual(later.total_seconds() / 60, offer.minutes, delta=1.5)

    def test_a_lost_bowl_is_melted_anew_for_what_is_not_made_yet(self) -> None:
        amount = {"value": 400.0, "low": 400.0, "high": 400.0}
        self.row("bright").parameters.create(kitchen=self.kitchen, name="stock_g", provenance="measured", **amount)
        Parameter.objects.filter(name="stock_g").update(since=self.bowl.started_at)
        cupboard_changed(self.kitchen)
        desk, line = self.desk(), self.desk().line
        query = urlencode(self.at_step(wet="yes", **{"look-water_seen": "yes", "look-lip": "warm"}))
        page = self.client.get(f"/wrong/stiffening/?{query}")
        self.assertTrue(page.context["beyond"])
        self.assertAlmostEqual(page.context["anew_g"], desk.melt_g - 9 * line.on_one_g, places=3)
        sent = {"move": "swap", "seq": self.bowl.last_seq, "key": str(uuid.uuid4())}
        self.client.post(f"/wrong/stiffening/do/?{query}", sent)
        self.bowl.refresh_from_db()
        used = BowlEvent.objects.filter(bowl=self.bowl, kind="used").get().payload
        self.assertAlmostEqual(used["mass_g"], 9 * line.on_one_g, delta=0.01)
        self.assertAlmostEqual(used["lost_g"], 250 - 9 * line.on_one_g, delta=0.1)
        self.assertTrue(self.line()["step"].startswith("melt:"))
        fresh = Bowl.objects.latest("pk")
        bowl_page = self.client.get(f"/bowls/{fresh.pk}/")
        base = sum(p.mass_g for p, _ in bowl_page.context["bases"])
        self.assertAlmostEqual(base, page.context["anew_g"], delta=2)
        kitchen = Kitchen.objects.get(pk=self.kitchen.pk)
        kept = stock_left_g(kitchen, Stock.of(kitchen))["bright"]
        self.assertAlmostEqual(kept, 400 - 250, places=3)  # what was lost is gone from the cupboard, and bought again


class TakenBack(RescueTests):
    def test_undo_strikes_out_what_it_wrote(self) -> None:
        self.note(40, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 39.0}), ("stirred", {}))
        before = self.desk().now.temperature_c
        self.do("thick", "warm")
        row = Rescue.objects.get()
        self.assertContains(self.client.get(f"/bowls/{self.bowl.pk}/"), "): warm it again.")
        self.client.post(f"/wrong/done/{row.pk}/", {"what": "undo"})
        self.assertAlmostEqual(self.desk().now.temperature_c, before, delta=0.2)
        row.refresh_from_db()
        self.assertTrue(row.undone)
        self.assertNotContains(self.client.get(f"/bowls/{self.bowl.pk}/"), "Did it help?")
        wrote = [e for e in BowlEvent.objects.filter(bowl=self.bowl, seq__gt=3) if e.kind != "struck"]
        self.assertTrue(all(e.struck_by_id for e in wrote))

    def test_undo_stops_its_timer(self) -> None:
        self.note(2, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 46.0}), ("stirred", {}))
        self.do("thin", "cool")
        self.client.post(f"/wrong/done/{Rescue.objects.get().pk}/", {"what": "undo"})
        self.assertFalse(Timer.objects.running().exists())
