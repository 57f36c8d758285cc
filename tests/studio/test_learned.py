"""What bowls teach: records by themselves, recipes that go by them; all of it can be doubted, left out, forgotten."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from dataclasses import replace
from importlib import import_module

from django.apps import apps
from django.test import TestCase

from coating.colour.ciede2000 import colour_difference
from coating.colour.fitting import with_strength
from coating.colour.mixing import Ingredient, Part, mix
from coating.learning.factors import NOTHING
from studio.bowls.actions import append, begin_bowl
from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl, BowlEvent
from studio.colours.models import Colour
from studio.cupboard.actions import keep_reading
from studio.cupboard.models import Ingredient as Row
from studio.cupboard.stock import Stock
from studio.day.models import DayPlan
from studio.learned.fitted import learnt
from studio.learned.models import Said
from studio.pieces.known import known_to
from studio.pieces.models import Job
from tests.studio.kitchens import bowl_for, half_dip, maker, step

TIMES, DROPS = 1.35, 6


def _drops(parts: tuple[Part, ...]) -> list[float]:
    return [p.units for p in parts if p.ingredient.counted_in_drops]


class Learning(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.colour = Colour.objects.get(kitchen=self.kitchen, name="Dusk blue")

    def stock(self) -> Stock:
        self.kitchen.refresh_from_db()
        return Stock.of(self.kitchen)

    def begin(self) -> Bowl:
        self.kitchen.refresh_from_db()
        return begin_bowl(self.kitchen, name="Dusk blue", white="coating", colour=self.colour)

    def desk(self, bowl: Bowl) -> Desk:
        self.kitchen.refresh_from_db()
        return Desk.of(Bowl.objects.get(pk=bowl.pk), self.kitchen)

    def strengths(self) -> dict[str, float]:
        return self.stock().factors(self.kitchen).strengths

    def recipe(self, bowl: Bowl) -> tuple[Part, ...]:
        """What is to go into an empty bowl."""
        return self.desk(bowl).proposal.additions

    def evening(self, times: float = TIMES, code: str = "blue") -> Bowl:
        """A bowl with six drops of a colour so many times as strong, read."""
        bowl, stock = self.begin(), self.stock()
        rows = {r.code: r for r in stock.rows}
        white, colour = stock.cores[rows["bright"].pk], stock.cores[rows[code].pk]
        strong = with_strength(colour, {code: times})
        lab = mix([Part(white, 200.0), Part(strong, DROPS * colour.unit_g)]).lab()
        lines = [
            ("added", {"ingredient": rows["bright"].pk, "mass_g": 200.0, "pins": {}}),
            ("added", {"ingredient": rows[code].pk, "units": DROPS, "pins": {}}),
            ("read", {"lab": list(lab), "how": "read"}),
        ]
        append(bowl, lines, expected_seq=0, key=uuid.uuid4())
        return bowl


class FromBowls(Learning):
    def test_the_third_bowl_goes_by_the_first_two(self) -> None:
        self.assertEqual(self.strengths(), {})
        before = self.recipe(self.begin())
        self.evening(code="teal")
        self.assertEqual(self.strengths(), {}, "one bowl concludes nothing")
        self.evening(code="teal")
        taught = self.strengths()
        self.assertEqual(list(taught), ["teal"])
        self.assertAlmostEqual(taught["teal"], TIMES, delta=0.08)
        bowl = self.begin()
        after = self.recipe(bowl)
        own = {"teal": TIMES}
        misses = [
            colour_difference(
                mix([replace(p, ingredient=self.own(p, own, known)) for p in parts]).lab(), self.colour.lab
            )
            for parts, known in ((before, {}), (after, taught))
        ]
        self.assertLess(misses[1], 0.5 * misses[0])
        label, own = (
            next(c for c in self.stock().cupboard("coating", self.kitchen, factors=f).colourants if c.name == "teal")
            for f in (NOTHING, None)
        )
        self.assertEqual((own.cap_share, own.unit_g), (label.cap_share, label.unit_g), "a strong bottle loosens no cap")
        self.assertLess(sum(_drops(after)), sum(_drops(before)))
        self.assertContains(self.client.get(f"/bowls/{bowl.pk}/"), "your own teal oil colour, about a third stronger")

    def own(self, part: Part, own: dict[str, float], known: Mapping[str, float]) -> Ingredient:
        """What it is, of what a recipe took it for."""
        name = part.ingredient.name
        return (
            with_strength(part.ingredient, {name: own[name] / known.get(name, 1.0)}) if name in own else part.ingredient
        )

    def test_a_bowl_that_is_begun_keeps_to_what_it_began_with(self) -> None:
        begun = self.begin()
        first = self.recipe(begun)
        self.evening()
        self.evening()
        self.assertEqual(self.recipe(begun), first)
        self.assertEqual((begun.taught, list(self.begin().taught)), ({}, ["strength.blue"]))
        self.desk(begun)
        rows = {r.code: r for r in self.stock().rows}
        added = ("added", {"ingredient": rows["blue"].pk, "units": 2, "pins": {}})
        append(begun, [added], expected_seq=0, key=uuid.uuid4())
        address = f"/bowls/{begun.pk}/"
        self.assertContains(self.client.get(address), "Since this bowl was begun more is known of your blue oil colour")
        self.client.post(f"/learned/anew/bowl/{begun.pk}/")
        page = self.client.get(address)
        self.assertNotContains(page, "Since this bowl was begun")
        self.assertContains(page, "This goes by your own blue oil colour, about a third stronger")

    def test_nothing_of_one_kitchen_reaches_another(self) -> None:
        self.evening()
        self.evening()
        _, other, client = maker("other@example.org")
        self.assertEqual(Stock.of(other).factors(other).of, {})
        self.assertContains(client.get("/learned/"), "Nothing is learned yet")
        mine = BowlEvent.objects.filter(kind="read").first()
        assert mine
        self.assertEqual(client.post(f"/learned/record/{mine.pk}/", {"word": "out"}).status_code, 404)

    def test_looks_of_old_become_records(self) -> None:
        """What was seen before the swatch was kept with it: the shade beside which it was seen is worked out."""
        bowl, stock = self.begin(), self.stock()
        rows = {r.code: r for r in stock.rows}
        lines = [
            ("added", {"ingredient": rows["bright"].pk, "mass_g": 200.0, "pins": {}}),
            ("added", {"ingredient": rows["blue"].pk, "units": 6, "pins": {}}),
            ("read", {"lab": [70.0, -20.0, -24.0], "how": "eyes", "word": "blue", "much": False}),
        ]
        append(bowl, lines, expected_seq=0, key=uuid.uuid4())
        record = learnt(self.kitchen, self.stock()).noted[0].record
        self.assertEqual((record.kind, record.word, record.lab), ("look", "blue", (70.0, -20.0, -20.0)))

    def test_bowls_from_before_keep_what_they_went_by(self) -> None:
        """Version 0.10 first kept it by codes; a job that was begun goes by what its first bowl went by."""
        bowl = bowl_for(half_dip(self.kitchen))
        Bowl.objects.filter(pk=bowl.pk).update(taught={"blue": 1.3})
        Job.objects.update(taught={})
        import_module("studio.bowls.migrations.0009_what_was_known_by_name").by_name(apps, None)
        bowl.refresh_from_db()
        job = Job.objects.get()
        self.assertEqual(bowl.taught, {"strength.blue": 1.3})
        self.assertEqual(job.taught, {"v": 1, "of": {"strength.blue": [1.3, 1.3, 1.3]}})
        self.assertEqual(known_to(job, self.kitchen).strengths, {"blue": 1.3})
        planned = half_dip(self.kitchen).job
        DayPlan.objects.create(kitchen=self.kitchen, job=planned)
        import_module("studio.day.migrations.0006_planned_jobs_keep_to_it").keep_to_labels(apps, None)
        planned.refresh_from_db()
        self.assertEqual(planned.taught["of"], {})


class Doubting(Learning):
    def setUp(self) -> None:
        super().setUp()
        for _ in range(3):
            self.evening()

    def say(self, word: str) -> None:
        self.assertRedirects(self.client.post("/learned/strength.blue/", {"word": word}), "/learned/")

    def taught(self) -> dict[str, float]:
        return self.strengths()

    def test_the_page_says_what_why_and_what_next(self) -> None:
        page = self.client.get("/learned/")
        self.assertContains(page, "about a third stronger than its label: 3 bowls say so")
        self.assertContains(page, "6 drops now do what 8 did.")
        self.assertContains(self.client.get("/kitchen/"), "/learned/")

    def test_the_label_instead_and_back(self) -> None:
        self.say("label")
        self.assertEqual(self.taught(), {})
        self.assertContains(self.client.get("/learned/"), "What was assumed is used all the same")
        self.say("use")
        self.assertEqual(list(self.taught()), ["blue"])

    def test_forget_and_a_new_bottle(self) -> None:
        self.say("new bottle")
        self.assertEqual(self.taught(), {})
        self.assertContains(self.client.get("/learned/"), "That is of the bottle before")
        self.say("same batch")
        self.assertIn("blue", self.taught())
        self.say("new bottle")
        self.evening(1.0)
        self.evening(1.0)
        self.assertEqual(self.taught(), {}, "the new one is as its label says")
        self.say("forget")
        self.assertContains(self.client.get("/learned/"), "Nothing is learned yet")

    def test_a_wrong_reading_counts_for_nothing_and_can_be_left_out(self) -> None:
        wrong = self.evening(0.2)
        event = wrong.events.get(kind="read")
        self.assertAlmostEqual(self.taught()["blue"], TIMES, delta=0.1)
        page = self.client.get("/learned/")
        self.assertContains(page, "one looked odd")
        self.assertContains(page, "does not fit the")
        self.client.post(f"/learned/record/{event.pk}/", {"word": "out"})
        page = self.client.get("/learned/")
        self.assertContains(page, "left out")
        self.assertNotContains(page, "looked odd")
        self.client.post(f"/learned/record/{event.pk}/", {"word": "in"})
        self.assertContains(self.client.get("/learned/"), "one looked odd")

    def test_what_was_measured_since_wins(self) -> None:
        self.assertIn("blue", self.taught())
        row = Row.objects.with_parameters().get(kitchen=self.kitchen, code="blue")
        core = self.stock().cores[row.pk]
        keep_reading(row, absorption=core.absorption, scattering=core.scattering, how={"how": "tint"})
        self.assertEqual(self.taught(), {}, "what was noted before counts for nothing any more")
        for _ in range(3):
            self.evening()
        self.assertEqual(self.taught(), {})
        self.assertContains(
            self.client.get("/learned/"), "You measured it yourself, and that is used: measure it again."
        )

    def test_looked_at_once_more_it_counts_however_odd(self) -> None:
        event = self.evening(0.55).events.get(kind="read")
        before = self.taught()["blue"]
        self.client.post(f"/learned/record/{event.pk}/", {"word": "right"})
        one = learnt(self.kitchen, self.stock()).things["strength.blue"]
        self.assertLess(one.product.factor, before - 0.1)
        self.assertEqual(self.client.post("/learned/record/9999/", {"word": "right"}).status_code, 404)

    def test_when_the_last_bowls_say_otherwise_it_asks_for_a_new_bottle(self) -> None:
        for _ in range(3):
            self.evening(0.9)
        self.assertContains(
            self.client.get("/learned/"), "The last three say otherwise than the 3 before. A new bottle?"
        )
        self.say("same bottle")
        self.assertNotContains(self.client.get("/learned/"), "A new bottle?")
        Said.objects.all().delete()
        self.client.post("/learned/strength.blue/", {"word": "new bottle", "since": "yes"})
        one = learnt(self.kitchen, self.stock()).things["strength.blue"]
        self.assertEqual((one.bowls, one.odd), (3, frozenset()))
        self.assertLess(one.product.factor, 1.0)

    def test_too_far_to_be_true_is_shown_and_not_used(self) -> None:
        Said.objects.create(kitchen=self.kitchen, name="strength.blue", word="forget", at=self.desk(self.begin()).at)
        for _ in range(4):
            self.evening(3.0)
        self.assertEqual(self.taught(), {})
        self.assertContains(self.client.get("/learned/"), "too far off to go by")

    def test_struck_out_in_the_bowl_it_is_gone(self) -> None:
        for read in BowlEvent.objects.filter(kind="read"):
            fields = step(read.bowl)
            self.client.post(f"/bowls/{read.bowl_id}/strike/{read.seq}/", {"seq": fields["seq"], "key": fields["key"]})
        self.assertEqual(self.taught(), {})

    def test_what_cannot_be_said(self) -> None:
        for address, word in (
            ("/learned/strength.blue/", "louder"),
            ("/learned/bright/", "label"),
            ("/learned/none/", "label"),
        ):
            self.assertEqual(self.client.post(address, {"word": word}).status_code, 404)
