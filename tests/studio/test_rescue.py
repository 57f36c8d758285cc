"""Something is wrong: five bowls spoilt in five ways, what is written down for a move, and what cannot be asked."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import Any

from django.test import TestCase
from django.utils import timezone

from coating.care.diagnosis import SYMPTOMS, TABLES
from studio.bowls.actions import append
from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl, BowlEvent, Timer
from studio.cupboard.actions import cupboard_changed
from studio.cupboard.models import Ingredient
from studio.day.models import DayPlan
from studio.rescue.models import Rescue
from studio.rescue.spoken.causes import CAUSES
from studio.rescue.spoken.looks import LOOKS
from studio.rescue.spoken.moves import MOVES
from studio.rescue.spoken.signs import SIGNS
from tests.studio.kitchens import bowl_for, half_dip, maker


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
        self.assertEqual(self.ask("clumpy", **{"look-lip": "spicy"}).context["looked"], [])

    def test_a_number_that_is_none_is_said_at_its_field(self) -> None:
        page = self.client.get("/wrong/stuck/", {"since_min": "soon", "thickness_mm": "8", "place": "freezer"})
        self.assertContains(page, "The time must be a number.", status_code=422)
        self.assertContains(page, 'value="8"', status_code=422)
        page = self.client.get("/wrong/stuck/", {"since_min": "-4"})
        self.assertEqual(page.status_code, 422)

    def test_a_fat_that_is_not_in_the_cupboard(self) -> None:
        self.note(16, self.put("bright", mass_g=290.0), ("warmed", {"to_c": 60.0}), ("stirred", {}))
        Ingredient.objects.filter(kitchen=self.kitchen, kind="fat").delete()
        cupboard_changed(self.kitchen)
        self.assertContains(self.ask("clumpy"), "Your cupboard has no palm flakes")
        self.assertEqual(self.do("clumpy", "thin").status_code, 302)
        self.assertEqual(BowlEvent.objects.latest("pk").kind, "stirred")

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
