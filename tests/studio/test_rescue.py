"""Something is wrong: five bowls spoilt in five ways, what is written down for a move, and what cannot be asked."""

from __future__ import annotations

import html
import uuid
from datetime import timedelta
from typing import Any
from urllib.parse import urlencode

from django.test import TestCase
from django.utils import timezone

from coating.care.diagnosis import SYMPTOMS, TABLES
from studio.accounts.models import Kitchen
from studio.bowls.actions import append
from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl, BowlEvent, Timer
from studio.bowls.stock_left import stock_left_g
from studio.colours.models import Colour
from studio.common.coming import seen_coming
from studio.cupboard.actions import cupboard_changed
from studio.cupboard.models import Ingredient, Parameter
from studio.cupboard.stock import Stock
from studio.day.models import DayEvent, DayPlan
from studio.rescue.models import Rescue
from studio.rescue.spoken.causes import CAUSES, coming_says
from studio.rescue.spoken.looks import LOOKS
from studio.rescue.spoken.moves import MOVES
from studio.rescue.spoken.signs import SIGNS
from tests.studio.designing import Designing
from tests.studio.kitchens import bowl_for, half_dip, live, maker, step
from tests.studio.test_day_plan import FORM


class RescueTests(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.kitchen.has_thermometer = True
        self.kitchen.save()
        self.piece = half_dip(self.kitchen)
        self.bowl = bowl_for(self.piece)
        Bowl.objects.filter(pk=self.bowl.pk).update(started_at=timezone.now() - timedelta(hours=1))
        self.bowl.refresh_from_db()

    def row(self, code: str) -> Ingredient:
        return Ingredient.objects.get(kitchen=self.kitchen, code=code)

    def note(self, minutes_ago: float, *lines: tuple[str, dict[str, Any]]) -> None:
        self.bowl.refresh_from_db()
        at = timezone.now() - timedelta(minutes=minutes_ago)
        append(self.bowl, lines, expected_seq=self.bowl.last_seq, key=uuid.uuid4(), at=at)

    def put(self, code: str, **amount: float) -> tuple[str, dict[str, Any]]:
        return "added", {"ingredient": self.row(code).pk, "pins": {}, **amount}

    def ask(self, symptom: str, **more: str) -> Any:
        return self.client.get(f"/wrong/{symptom}/", {"bowl": self.bowl.pk, **more})

    def offered(self, page: Any) -> list[str]:
        offers = [page.context["offer"], *(o for o, _, _ in page.context["others"])]
        return [offer.move for offer in offers if offer]

    def do(self, symptom: str, move: str, **more: Any) -> Any:
        self.bowl.refresh_from_db()
        data = {"move": move, "seq": self.bowl.last_seq, "key": str(uuid.uuid4()), **more}
        return self.client.post(f"/wrong/{symptom}/do/?bowl={self.bowl.pk}", data)

    def desk(self) -> Desk:
        return Desk.of(Bowl.objects.with_colour().with_layers().get(pk=self.bowl.pk), self.kitchen)


class FiveBowlsSpoilt(RescueTests):
    def test_too_hot(self) -> None:
        self.note(16, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 60.0}), ("stirred", {}))
        page = self.ask("clumpy")
        self.assertContains(page, "it was <em>too hot</em>")
        self.assertContains(page, "It was above 50 °C for")
        self.assertContains(page, "More heat would make it worse for good.")
        self.assertEqual(page.context["offer"].move, "thin")
        self.assertNotIn("warm", self.offered(page))
        self.assertIsNotNone(page.context["figure"].hottest)
        self.assertEqual(self.do("clumpy", "thin").status_code, 302)
        events = list(BowlEvent.objects.filter(bowl=self.bowl).order_by("seq"))
        self.assertEqual([e.kind for e in events[-2:]], ["added", "stirred"])
        done = page.context["offer"].done
        self.assertAlmostEqual(events[-2].payload["mass_g"], done.parts[0].mass_g)
        row = Rescue.objects.get()
        self.assertEqual((row.symptom, row.cause, row.move), ("clumpy", "overheated", "thin"))
        self.client.post(f"/wrong/done/{row.pk}/", {"helped": "yes"})
        row.refresh_from_db()
        self.assertEqual(row.helped, "yes")

    def test_water_is_refused_honestly_and_a_fresh_bowl_takes_its_place(self) -> None:
        self.note(3, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 39.0}), ("stirred", {}))
        page = self.ask("stiffening", wet="yes", **{"look-water_seen": "yes", "look-lip": "warm"})
        self.assertContains(page, "<em>nothing brings it back</em>")
        self.assertContains(page, "It still does for a filling.")
        self.assertAlmostEqual(page.context["anew_g"], self.desk().melt_g)
        answer = self.client.post(
            f"/wrong/stiffening/do/?bowl={self.bowl.pk}&wet=yes&look-water_seen=yes&look-lip=warm",
            {"move": "swap", "seq": 3, "key": str(uuid.uuid4())},
        )
        fresh = Bowl.objects.latest("pk")
        self.assertRedirects(answer, f"/bowls/{fresh.pk}/")
        self.bowl.refresh_from_db()
        self.assertTrue(self.bowl.finished_at)
        self.assertEqual({u.layer_id for u in fresh.uses.all()}, {u.layer_id for u in self.bowl.uses.all()})
        self.assertEqual(fresh.colours["anew_g"], round(page.context["anew_g"], 1))
        self.assertFalse(Ingredient.objects.filter(kitchen=self.kitchen, code__startswith="left-").exists())

    def test_only_cold(self) -> None:
        self.note(40, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 39.0}), ("stirred", {}))
        page = self.ask("thick")
        self.assertContains(page, "it has only <em>cooled</em>")
        self.assertEqual(page.context["offer"].move, "warm")
        self.assertEqual(self.do("thick", "warm").status_code, 302)
        self.assertAlmostEqual(self.desk().now.temperature_c, 38, delta=0.3)

    def test_twice_the_drops(self) -> None:
        self.note(5, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 39.0}))
        self.note(2, self.put("blue", units=40), ("stirred", {"seconds": 90}))
        page = self.ask("too_dark")
        self.assertContains(page, "<em>too much colour</em> went in")
        self.assertEqual(page.context["offer"].move, "correct")
        colour_page = self.client.get(f"/bowls/{self.bowl.pk}/colour/")
        theirs = {p.ingredient.name: p.mass_g for p in colour_page.context["recipe"].parts}
        ours = {p.ingredient.name: p.mass_g for p in page.context["offer"].done.parts}
        self.assertEqual(ours, theirs)

    def test_not_stirred_through(self) -> None:
        self.note(5, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 39.0}), ("stirred", {}))
        self.note(1, self.put("blue", units=8))
        page = self.ask("streaks")
        self.assertContains(page, "<em>not stirred through</em>")
        self.assertEqual(page.context["offer"].move, "stir")
        self.do("streaks", "stir")
        self.assertEqual(BowlEvent.objects.latest("pk").payload, {"seconds": 120, "sent": "rescue stir"})


class Doing(RescueTests):
    def test_a_thick_bag_takes_the_half_that_its_own_page_gives(self) -> None:
        colours = [self.put("blue", units=15), self.put("red", units=4)]
        self.note(2, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 40.0}), *colours, ("stirred", {}))
        self.note(1, ("tested", {"test": "number", "value": 110.0}))
        page, bowl = self.ask("thick"), self.client.get(f"/bowls/{self.bowl.pk}/")
        self.assertEqual(page.context["besides"][0].cause, "thick_product")
        theirs = [p.mass_g for p in bowl.context["proposal"].additions if p.ingredient.kind == "fat"]
        self.assertEqual([p.mass_g for p in page.context["offer"].done.parts], theirs)

    def test_a_move_counts_once_and_an_old_page_writes_nothing(self) -> None:
        self.note(40, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 39.0}), ("stirred", {}))
        key = str(uuid.uuid4())
        for _ in range(2):
            self.assertEqual(self.do("thick", "warm", key=key, seq=3).status_code, 302)
        self.assertEqual(Rescue.objects.count(), 1)
        seq = BowlEvent.objects.filter(bowl=self.bowl).count()
        answer = self.do("thick", "warm", seq=1)
        self.assertEqual(BowlEvent.objects.filter(bowl=self.bowl).count(), seq)
        self.assertIn("/wrong/thick/", answer["Location"])

    def test_what_waits_starts_a_timer(self) -> None:
        self.note(2, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 46.0}), ("stirred", {}))
        page = self.ask("thin")
        self.assertEqual(page.context["offer"].move, "cool")
        self.do("thin", "cool")
        timer = Timer.objects.get()
        self.assertAlmostEqual(timer.seconds / 60, page.context["offer"].wait_min, delta=0.2)
        self.assertContains(self.client.get(f"/wrong/?timer={timer.pk}"), "What do you see?")

    def test_what_is_stirred_in_is_in_the_piece(self) -> None:
        self.note(16, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 60.0}), ("stirred", {}))
        Ingredient.objects.filter(pk=self.row("palm_flakes").pk).update(allergens=["soya"], allergens_said=True)
        self.do("clumpy", "thin")
        self.assertContains(self.client.get(f"/pieces/jobs/{self.piece.job_id}/inside/"), "soya")


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


class Words(RescueTests):
    def test_everything_has_its_words(self) -> None:
        self.assertEqual(set(SIGNS), set(SYMPTOMS))
        self.assertEqual(set(CAUSES), set(TABLES.by_cause))
        self.assertEqual(set(MOVES), {m.name for m in TABLES.moves})
        for look in TABLES.looks:
            self.assertEqual(set(LOOKS[look.name].answers), set(look.answers))
            self.assertEqual(set(LOOKS[look.name].points), set(look.answers))

    def test_every_symptom_is_answered_of_a_bowl_of_a_layer_and_of_nothing(self) -> None:
        self.note(16, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 44.0}), ("stirred", {}))
        for symptom in SYMPTOMS:
            for query in ({"bowl": self.bowl.pk}, {"layer": self.piece.stack[0].pk}, {}):
                page = self.client.get(f"/wrong/{symptom}/", query)
                self.assertEqual(page.status_code, 200, (symptom, query))
                text = page.content.decode()
                self.assertNotIn("{", text.split("<main")[1].split("</main>")[0], symptom)
                self.assertNotRegex(text.split("<main")[1], r"\bnan\b|\bNone\b")

    def test_spoons_and_fahrenheit(self) -> None:
        self.kitchen.has_scale, self.kitchen.temperature_unit = False, "F"
        self.kitchen.save()
        self.note(16, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 60.0}), ("stirred", {}))
        page = self.ask("clumpy")
        self.assertContains(page, "It was above 122 °F for")
        self.assertRegex(page.content.decode(), r"<em>[^<]*(tsp|teaspoon)[^<]*</em>")

    def test_every_fault_has_its_page_and_is_found(self) -> None:
        for symptom in (*SYMPTOMS, "too_busy"):
            self.assertEqual(self.client.get(f"/wrong/why/{symptom}/").status_code, 200, symptom)
        for cause in TABLES.by_cause:
            self.assertEqual(self.client.get(f"/wrong/why/cause/{cause}/").status_code, 200, cause)
        self.assertContains(self.client.get("/wrong/why/?q=lace+breaks"), "Why lace breaks")
        self.assertContains(self.client.get("/wrong/why/?q=unicorns"), "Nothing is called")
        sheet = self.client.get("/wrong/why/sheet/")
        self.assertContains(sheet, "Throw it away")
        self.assertNotContains(sheet, "Water in the bowl:</i> Take it off the heat and stir in")

    def test_asking_is_quick_for_the_database(self) -> None:
        self.note(16, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 60.0}), ("stirred", {}))
        self.ask("clumpy")
        with self.assertNumQueries(9):
            self.ask("clumpy")


class InReach(RescueTests):
    def leads(self, address: str) -> str:
        return str(self.client.get(address).context["wrong_url"])

    def test_every_page_knows_what_is_meant(self) -> None:
        job, piece, layer = self.piece.job_id, self.piece.pk, self.piece.stack[0].pk
        self.assertEqual(self.leads(f"/bowls/{self.bowl.pk}/melt/"), f"/wrong/?bowl={self.bowl.pk}")
        for room in ("", "shopping/", "boxes/", "build/"):
            self.assertEqual(self.leads(f"/pieces/jobs/{job}/{room}"), f"/wrong/?job={job}")
        self.assertEqual(self.leads(f"/pieces/{piece}/build/"), f"/wrong/?piece={piece}")
        self.assertEqual(self.leads(f"/day/{job}/"), f"/wrong/?job={job}")
        self.assertEqual(self.leads(f"/studio/new/dip/?layer={layer}"), f"/wrong/?layer={layer}")
        self.assertEqual(self.leads("/cupboard/"), "/wrong/")
        for query, first in (
            ({"piece": piece}, "coat_thick"),
            ({"job": job}, "coat_thick"),
            ({"layer": layer}, "coat_thick"),
        ):
            page = self.client.get("/wrong/", query)
            self.assertEqual(page.context["likely"][0][0].name, first, query)
        self.assertContains(self.client.get("/wrong/", {"job": job}), "Dusk blue")
        self.assertNotContains(self.client.get("/wrong/"), 'class="wrong-tag"')


class WhatCannotBe(RescueTests):
    def test_what_is_not_there_and_what_is_somebody_elses(self) -> None:
        _, _, stranger = maker("stranger@example.org")
        for query in (
            f"bowl={self.bowl.pk}",
            f"job={self.piece.job_id}",
            f"layer={self.piece.stack[0].pk}",
            f"piece={self.piece.pk}",
        ):
            for page in ("", "thick/"):
                self.assertEqual(stranger.get(f"/wrong/{page}?{query}").status_code, 404, query)
        sent = {"move": "warm", "seq": 0, "key": str(uuid.uuid4())}
        self.assertEqual(stranger.post(f"/wrong/thick/do/?bowl={self.bowl.pk}", sent).status_code, 404)
        for address in ("sad/", "thick/?bowl=x", "thick/?bowl=99999999", "?timer=7", "?design=1e3"):
            self.assertEqual(self.client.get(f"/wrong/{address}").status_code, 404, address)

    def test_a_bowl_without_events_and_a_symptom_that_does_not_fit(self) -> None:
        self.assertContains(self.ask("thick"), "Next to nothing was noted for this bowl")
        self.assertContains(self.ask("lace_breaks"), "that is rare with")

    def test_looks_that_contradict_each_other(self) -> None:
        self.note(2, self.put("bright", mass_g=290.0))
        looks = {"look-spoonful_warmed": "worse", "look-squash": "smooth", "look-lip": "cold"}
        self.assertContains(self.ask("clumpy", **looks), "What you saw points different ways")
        self.assertContains(self.ask("clumpy", **{"look-lip": "spicy"}), "Something's wrong")

    def test_a_number_that_is_none_is_said_at_its_field(self) -> None:
        page = self.client.get("/wrong/stuck/", {"since_min": "soon", "thickness_mm": "8", "place": "freezer"})
        self.assertContains(page, "The time must be a number.", status_code=422)
        self.assertContains(page, 'value="8"', status_code=422)
        page = self.client.get("/wrong/stuck/", {"since_min": "-4"})
        self.assertEqual(page.status_code, 422)

    def test_a_move_that_is_not_offered_writes_nothing(self) -> None:
        self.note(16, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 60.0}), ("stirred", {}))
        self.do("clumpy", "warm")
        self.assertEqual((Rescue.objects.count(), BowlEvent.objects.filter(bowl=self.bowl).count()), (0, 3))
        self.assertEqual(self.do("clumpy", "burn").status_code, 404)
        self.assertFalse(DayPlan.objects.exists())

    def test_burnt_is_thrown_away(self) -> None:
        self.note(16, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 66.0}), ("stirred", {}))
        page = self.ask("burnt_smell")
        self.assertContains(page, "Throw it away")
        self.assertNotContains(page, "It still does for")
        self.assertEqual(self.offered(page), ["swap"])


class TakenBack(RescueTests):
    def test_undo_strikes_out_what_it_wrote(self) -> None:
        self.note(40, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 39.0}), ("stirred", {}))
        before = self.desk().now.temperature_c
        self.do("thick", "warm")
        row = Rescue.objects.get()
        self.assertContains(self.client.get(f"/bowls/{self.bowl.pk}/"), "Too thick: warm it again.")
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
