"""The notebook: an evening as it went, closed, photographed, noted, made again, found and looked back at."""

from __future__ import annotations

import re
import uuid
from datetime import date, timedelta
from typing import Any

from django.db import connection
from django.test import TestCase, TransactionTestCase
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from coating.evening import Came
from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl
from studio.colours.models import Colour
from studio.common import clock
from studio.cupboard.models import Ingredient
from studio.demo.evenings import turns_before
from studio.demo.load_demo import delete_kitchen, open_demo_kitchen
from studio.designs.models import Design
from studio.notebook.again import previewed
from studio.notebook.compare import compared
from studio.notebook.copying import Changes, make_again
from studio.notebook.evenings import evenings, one_evening, season_in
from studio.notebook.looking import stretch_of
from studio.notebook.models import KeptPhoto, MadeAgain, Note, OpenedPack, Outcome
from studio.notebook.record import record_of
from studio.notebook.says import headline
from studio.pieces.adapters import colour_needs
from studio.pieces.models import Job, Layer, Piece
from studio.pieces.stacks import dipped, keep_piece
from tests.studio.kitchens import add, bowl_for, half_dip, maker, step

A_DAY = timedelta(days=1)


class DemoEvenings(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.kitchen = open_demo_kitchen()

    def setUp(self) -> None:
        self.client.force_login(self.kitchen.owner, backend="django.contrib.auth.backends.ModelBackend")
        turns = turns_before(timezone.localdate(clock.now()))
        self.jobs = [Job.objects.get(kitchen=self.kitchen, name=name) for _, name in turns]

    def record(self, place: int) -> Any:
        return record_of(one_evening(self.kitchen, self.jobs[place].pk), self.kitchen)

    def test_what_goes_in_comes_out(self) -> None:
        for place in range(3):
            record = self.record(place)
            for made in record.bowls:
                came: Came = made.came
                self.assertAlmostEqual(
                    came.melted_g, came.on_pieces_g + came.given_g + came.lost_g + came.left_g, places=6
                )
                self.assertAlmostEqual(came.melted_g, sum(p.mass_g for p in made.parts), places=1)

    def test_the_same_drops_wherever_they_are_said(self) -> None:
        """21 drops of blue, 9 of red in 280 g: struck drops count nowhere."""
        bowl = Bowl.objects.get(job=self.jobs[2], colour__name="Dusk blue")
        blue = Ingredient.objects.get(kitchen=self.kitchen, code="blue")
        pages = {
            "evening": f"/notebook/{self.jobs[2].pk}/",
            "colour": f"/colours/{bowl.colour_id}/",
            "ingredient": f"/cupboard/{blue.pk}/",
            "near": "/notebook/find/?near=68,-8,-17",
        }
        for name, address in pages.items():
            text = re.sub(r"<[^>]+>", "", self.client.get(address).content.decode())
            self.assertIn("21 drops", text, name)
        evening = re.sub(r"\s+", " ", re.sub(r"<[^>]+>", "", self.client.get(pages["evening"]).content.decode()))
        self.assertIn("280 g bright white coating, 21 drops blue and 9 drops red", evening)
        self.assertIn("a little dark", evening)
        green = Ingredient.objects.get(kitchen=self.kitchen, code="green")
        self.assertNotContains(self.client.get(f"/cupboard/{green.pk}/"), "6 drops")

    def test_what_a_maker_asks_of_the_demo(self) -> None:
        """What went wrong, and what twice as many take, is on the second page."""
        listed = self.client.get("/notebook/").content.decode()
        self.assertIn("a drop of water", listed)
        self.assertIn(f"/notebook/{self.jobs[2].pk}/again/?times=2", listed)
        again = self.client.get(f"/notebook/{self.jobs[2].pk}/again/?times=2")
        self.assertContains(again, "of dusk blue")
        self.assertContains(again, "<b>80</b>", html=True)

    def test_the_headline(self) -> None:
        words = headline(self.record(0)).replace("*", "")
        self.assertIn("one bowl was lost: a drop of water", words)
        for place in range(3):
            self.assertLessEqual(len(headline(self.record(place)).split()), 25)

    def test_twice_as_many_is_what_the_new_job_says(self) -> None:
        job, record = self.jobs[2], self.record(2)
        pieces = {p.pk: 2 * p.count for p in job.pieces.all()}
        before = Job.objects.count(), Piece.objects.count(), Design.objects.count()
        shown = previewed(record, self.kitchen, Changes(counts=pieces))
        self.assertEqual((Job.objects.count(), Piece.objects.count(), Design.objects.count()), before)
        new = make_again(Job.objects.whole(self.kitchen, job.pk), self.kitchen, Changes(counts=pieces))
        needs = colour_needs(Job.objects.whole(self.kitchen, new.pk), self.kitchen)
        self.assertEqual([round(n.melt_g, 3) for n in needs], [round(n.melt_g, 3) for n in shown.needs])
        page = self.client.get(f"/pieces/jobs/{new.pk}/").content.decode()
        for need in needs:
            self.assertIn(f'data-of="melt {need.key}" data-value="{need.melt_g:.4f}"', page)
        lines = {line.what: line for line in shown.lines}
        self.assertEqual((lines["Moon discs"].then, lines["Moon discs"].now), ("40", "80"))
        self.assertIn("for 84 pieces instead of 42", lines["Melt dusk blue"].why)

    def test_another_colour_another_size_and_less(self) -> None:
        job = Job.objects.whole(self.kitchen, self.jobs[2].pk)
        discs, cake = sorted(job.pieces.all(), key=lambda p: -p.count)
        blue, plum = (Colour.objects.get(kitchen=self.kitchen, name=n) for n in ("Dusk blue", "Plum"))
        new = make_again(
            job,
            self.kitchen,
            Changes("Plum discs", date(2030, 1, 2), {discs.pk: 40, cake.pk: 0}, {}, 1.2, {blue.pk: plum}),
        )
        (piece,) = new.pieces.all()
        self.assertEqual(piece.layers.get().colour, plum)
        self.assertEqual(piece.size["mm"], [66.0, 8.4])
        self.assertEqual(
            (new.name, new.due_on, MadeAgain.objects.get(job=new).of), ("Plum discs", date(2030, 1, 2), job)
        )
        self.assertEqual(new.taught, {})  # it goes by what is known when it is begun
        page = self.client.get(f"/notebook/{new.pk}/differs/")
        for words in ("left out", "Plum", "120 %"):
            self.assertContains(page, words)

    def test_a_bowl_is_mixed_again(self) -> None:
        bowl = Bowl.objects.get(job=self.jobs[2], colour__name="Dusk blue")
        address, count = f"/notebook/bowl/{bowl.pk}/again/", Bowl.objects.count()
        page = self.client.get(address, {"melt_g": "560 g"})
        self.assertContains(page, "560 g")
        self.assertContains(page, "it came out a little dark last time")
        self.assertEqual(Bowl.objects.count(), count)
        self.assertEqual(self.client.get(address, {"melt_g": "9 kg"}).status_code, 422)
        response = self.client.post(address, {"melt_g": "560 g"})
        new = Bowl.objects.latest("pk")
        self.assertRedirects(response, f"/bowls/{new.pk}/")
        drops = re.search(r"(\d+ drops) blue", re.sub(r"<[^>]+>", "", page.content.decode()))
        assert drops is not None
        self.assertContains(self.client.get(f"/bowls/{new.pk}/"), drops[1])

    def test_a_bag_that_is_gone_from_the_cupboard(self) -> None:
        bag = Ingredient.objects.get(kitchen=self.kitchen, code="bright")
        job = Job.objects.create(kitchen=self.kitchen, name="As bought")
        plan = dipped("Bars", 6, diameter_mm=50.0, thickness_mm=8.0, share=1.0, white="coating", base=bag)
        keep_piece(job, plan)
        Ingredient.objects.filter(pk=bag.pk).update(put_away=True)
        Kitchen.objects.filter(pk=self.kitchen.pk).update(cupboard_version=self.kitchen.cupboard_version + 40)
        rows = Ingredient.objects.count()
        self.assertEqual(self.client.get(f"/notebook/{job.pk}/again/").status_code, 200)
        self.assertEqual(Ingredient.objects.count(), rows)
        self.assertEqual(
            self.client.post(
                f"/notebook/{job.pk}/again/", {"name": "x", f"count-{job.pieces.get().pk}": "6"}
            ).status_code,
            302,
        )
        self.assertEqual(self.client.get(f"/notebook/{job.pk}/again/").status_code, 200)

    def test_bad_input_is_said_at_its_field_and_nothing_is_lost(self) -> None:
        address = f"/notebook/{self.jobs[2].pk}/again/"
        piece = self.jobs[2].pieces.first()
        data = {"name": "Kept words", f"count-{piece.pk}": "many", "size": "9000"}
        response = self.client.post(address, data)
        self.assertEqual(response.status_code, 422)
        for words in ("Kept words", "must be a whole number", "9000"):
            self.assertContains(response, words, status_code=422)
        self.assertEqual(self.client.get("/notebook/compare/?one=1&other=1").status_code, 404)
        self.assertEqual(self.client.get("/notebook/compare/?one=x").status_code, 404)
        self.assertEqual(self.client.get("/notebook/back/?year=99999").status_code, 200)
        self.assertEqual(self.client.get("/notebook/back/2026/monsoon/").status_code, 404)
        self.assertEqual(self.client.get("/notebook/find/?near=1,2").status_code, 422)
        self.assertEqual(self.client.get("/notebook/find/?words=%2B").status_code, 422)

    def test_side_by_side_only_what_differed(self) -> None:
        lines = {line.what: line for line in compared(self.record(2), self.record(1))}
        self.assertIn("Season", lines)
        self.assertEqual(lines["Dusk blue"].one, "21 drops blue and 9 drops red into 280 g bright white coating")
        self.assertEqual(compared(self.record(2), self.record(2)), [])

    def test_as_many_evenings_on_every_page(self) -> None:
        first = one_evening(self.kitchen, self.jobs[0].pk).begun_at.year
        says = self.client.get("/notebook/").context["says"].replace("*", "")
        self.assertIn("Four evenings so far: dusk blue came out a little dark twice", says)
        years = range(first, timezone.localdate(clock.now()).year + 1)
        backs = [self.client.get("/notebook/back/", {"year": year}).context["stretch"] for year in years]
        self.assertEqual(sum(len(stretch.jobs) for stretch in backs), 4)

    def test_looking_back(self) -> None:
        first = one_evening(self.kitchen, self.jobs[0].pk).begun_at.date()
        span = stretch_of(self.kitchen, first - 3 * A_DAY, first + 3 * A_DAY)
        self.assertEqual([line.mass_g for line in span.wasted], [160.0])
        self.assertIn("a drop of water", span.wasted[0].what)
        self.assertIn("Dry spoon", span.wasted[0].saved_by)
        cost = span.wasted[0].cost
        assert cost is not None
        self.assertAlmostEqual(cost, 160.0 * 5.8 / 340, delta=0.1)  # at what a bag of 340 g costs
        self.assertEqual([line.name for line in span.best], ["Night-sky plaques", "Shooting stars"])
        season = season_in(self.kitchen, first)
        page = self.client.get(f"/notebook/back/{first.year + (first.month == 12)}/{season}/")
        self.assertContains(page, self.jobs[0].name)

    def test_as_many_queries_for_many_evenings_as_for_few(self) -> None:
        for address in ("/notebook/", "/notebook/back/", f"/notebook/{self.jobs[2].pk}/"):
            self.client.get(address)
            with CaptureQueriesContext(
                connection,
            ) as few:
                self.client.get(address)
            for _ in range(3):
                new = make_again(Job.objects.whole(self.kitchen, self.jobs[1].pk), self.kitchen, Changes())
                Job.objects.filter(pk=new.pk).update(due_on=date(2026, 1, 1))
                Outcome.objects.create(kitchen=self.kitchen, job=new, key=uuid.uuid4(), at=clock.now())
            self.client.get(address)
            with CaptureQueriesContext(connection) as many:
                self.client.get(address)
            self.assertLessEqual(len(many), len(few) + 2, address)
            self.assertLess(len(many), 80, address)

    def test_nothing_is_left_of_a_kitchen_that_is_deleted(self) -> None:
        kitchen = open_demo_kitchen()
        folder = KeptPhoto.objects.filter(kitchen=kitchen).first().path("large").parent
        self.assertEqual(len(list(folder.glob("*.jpg"))), 14)
        with self.captureOnCommitCallbacks(execute=True):
            delete_kitchen(kitchen.owner)
        self.assertEqual(list(folder.glob("*")), [])


class Afterwards(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.piece = half_dip(self.kitchen)
        self.job = self.piece.job
        self.bowl = bowl_for(self.piece)
        self.page = f"/notebook/{self.job.pk}/"

    def close(self, **fields: Any) -> Any:
        data = {f"p{self.piece.pk}-{n}": v for n, v in fields.items() if n != "words"}
        return self.client.post(f"{self.page}close/", {**data, "words": fields.get("words", "")})

    def test_closing_keeps_what_was_said_before(self) -> None:
        self.assertRedirects(self.close(good=22, coat="thick", liked="so_so", words="Too warm."), self.page)
        self.close(good=22, coat="thick", liked="so_so")
        self.assertEqual(Outcome.objects.exclude(piece=None).count(), 1)
        self.close(good=23, coat="right", liked="yes")
        page = self.client.get(self.page)
        self.assertContains(page, "23 good, 1 not · coat just right · liked")
        self.assertContains(page, "22 good, 2 not · coat too thick · so-so")  # under what was said before
        self.assertContains(page, "Too warm.")
        self.assertContains(self.client.get(f"{self.page}close/"), 'value="23"')

    def test_all_of_it_may_be_left_out_and_wrong_things_are_said(self) -> None:
        self.assertRedirects(self.close(), self.page)
        self.assertTrue(Outcome.objects.filter(job=self.job, piece=None).exists())
        response = self.close(good="lots", words="Stays here.")
        self.assertContains(response, "must be a whole number", status_code=422)
        self.assertContains(response, "Stays here.", status_code=422)
        self.assertEqual(self.close(coat="crunchy").status_code, 422)

    def test_a_piece_without_coating_is_asked_nothing_of_it(self) -> None:
        Layer.objects.filter(piece=self.piece).update(technique="topping", colour=None, parameters={"v": 2, "count": 1})
        self.assertNotContains(self.client.get(f"{self.page}close/"), "Thickness of the coat")

    def test_notes_gather_and_are_put_otherwise(self) -> None:
        for about, pk in (("bowl", self.bowl.pk), ("piece", self.piece.pk), ("job", self.job.pk)):
            response = self.client.post(
                "/notebook/note/", {"text": f"About the {about}", "about": about, "pk": pk, "back": self.page}
            )
            self.assertRedirects(response, self.page)
            self.assertContains(self.client.get(self.page), f"About the {about}")
        note = Note.objects.get(bowl=self.bowl)
        self.client.post(f"/notebook/note/{note.pk}/", {"text": "In other words", "back": self.page})
        page = self.client.get(self.page)
        self.assertContains(page, "In other words")
        self.assertNotContains(page, "About the bowl")
        self.assertTrue(Note.objects.filter(text="About the bowl").exists())
        self.assertContains(self.client.get(f"/bowls/{self.bowl.pk}/"), "In other words")
        self.client.post(f"/notebook/note/{Note.objects.get(before=note).pk}/", {"what": "delete", "back": self.page})
        self.assertNotContains(self.client.get(self.page), "In other words")

    def test_what_is_counted_together_is_made_again_by_its_shares(self) -> None:
        job = Job.objects.create(kitchen=self.kitchen, name="For the tall cake")
        self.client.post(f"/pieces/jobs/{job.pk}/build/", {"do": "whole:sprays"})
        whole = Job.objects.whole(self.kitchen, job.pk)
        then = {p.name: p.count for p in whole.pieces.all()}
        (family,) = whole.families.all()
        new = make_again(whole, self.kitchen, Changes(families={family.pk: 2 * family.count}))
        self.assertEqual({p.name: p.count for p in new.pieces.all()}, {name: 2 * n for name, n in then.items()})
        melts = [
            sum(n.melt_g for n in colour_needs(Job.objects.whole(self.kitchen, j.pk), self.kitchen)) for j in (job, new)
        ]
        self.assertGreater(melts[1], 1.3 * melts[0])

    def test_what_was_left_and_goes_into_the_next_bowl_counts_once(self) -> None:
        def done(bowl: Bowl, left_g: int) -> None:
            at = f"/bowls/{bowl.pk}/done/"
            self.assertEqual(self.client.post(at, step(bowl, left_g=str(left_g))).status_code, 302)

        second = bowl_for(self.piece)
        self.client.post(f"/bowls/{self.bowl.pk}/did/", step(self.bowl, **add(self.kitchen, bright=200)))
        done(self.bowl, 80)
        rest = Ingredient.objects.get(kitchen=self.kitchen, code__startswith="left-")
        self.client.post(f"/bowls/{second.pk}/did/", step(second, **add(self.kitchen, bright=70, **{rest.code: 80.0})))
        done(second, 30)
        self.kitchen.refresh_from_db()
        record = record_of(one_evening(self.kitchen, self.job.pk), self.kitchen)
        self.assertAlmostEqual(record.melted_g, 270.0, places=3)
        self.assertAlmostEqual(record.left_g, 30.0, places=3)
        self.assertAlmostEqual(record.came.on_pieces_g, 240.0, places=3)
        self.assertIn("270", re.sub(r"<[^>]+>", "", self.client.get(self.page).content.decode()))

    def test_a_note_leads_nowhere_else(self) -> None:
        for back in ("https://elsewhere.example/", "//elsewhere.example", "javascript:alert(1)"):
            response = self.client.post(
                "/notebook/note/", {"text": "x", "about": "job", "pk": self.job.pk, "back": back}
            )
            self.assertRedirects(response, "/notebook/")
        self.assertEqual(
            self.client.post("/notebook/note/", {"text": "x", "about": "job", "pk": 10**9}).status_code, 404
        )
        _, _, stranger = maker("stranger@example.org")
        foreign = {"text": "x", "about": "job", "pk": self.job.pk}
        self.assertEqual(stranger.post("/notebook/note/", foreign).status_code, 404)

    def test_packs_say_until_when_and_which_lot(self) -> None:
        row = Ingredient.objects.get(kitchen=self.kitchen, code="bright")
        soon = timezone.localdate(clock.now()) + timedelta(days=2)
        response = self.client.post(f"/notebook/pack/{row.pk}/", {"lot": "L204", "best_before": soon.isoformat()})
        self.assertRedirects(response, f"/cupboard/{row.pk}/")
        self.client.post(f"/bowls/{self.bowl.pk}/did/", step(self.bowl, **add(self.kitchen, bright=200)))
        self.assertContains(self.client.get(self.page), "lot L204")
        labels = self.client.get(f"/pieces/jobs/{self.job.pk}/inside/").content.decode()
        self.assertIn(f"{soon:%B} {soon.day}".split()[0], labels)
        text = self.client.get(f"/pieces/jobs/{self.job.pk}/labels.txt").content.decode()
        self.assertIn("Lots: Bright white coating L204.", text)
        self.assertIn(f"Eat by {soon:%d %B %Y}.", text)
        self.client.post(f"/notebook/pack/{row.pk}/", {})
        self.assertEqual(OpenedPack.objects.count(), 1)


class Found(TransactionTestCase):
    """The full-text index of the database sees what is committed."""

    def setUp(self) -> None:
        self.kitchen: Kitchen = open_demo_kitchen()
        self.client.force_login(self.kitchen.owner, backend="django.contrib.auth.backends.ModelBackend")
        _, self.other, self.stranger = maker()
        half_dip(self.other)
        turns = turns_before(timezone.localdate(clock.now()))
        self.jobs = [Job.objects.get(kitchen=self.kitchen, name=name) for _, name in turns]

    def names(self, query: str) -> list[str]:
        response = self.client.get(f"/notebook/find/?{query}")
        return [line.job.name for line, _ in response.context["lines"]]

    def test_words_wherever_they_stand(self) -> None:
        old, middle, last = (job.name for job in self.jobs)
        self.assertEqual(self.names("words=whisk"), [old])  # a note
        self.assertEqual(self.names("words=water"), [old])  # what went wrong
        self.assertEqual(self.names("words=MERINGUE"), [middle])  # a piece
        self.assertEqual(self.names("words=moon+disc"), ["Comet night", last])
        self.assertEqual(self.names("words=dusk+blue+drip"), [last])  # a bowl and a photo
        self.assertEqual(self.names("words=nowhere"), [])
        Note.objects.create(
            kitchen=self.kitchen, job=self.jobs[1], text="Crème brûlée", key=uuid.uuid4(), at=clock.now()
        )
        self.assertEqual(self.names("words=CRÈME"), [middle])
        listed = self.client.get("/notebook/find/", {"words": "dusk & lace", "found": 2})
        self.assertEqual(listed.context["query"], "words=dusk+%26+lace&")  # the next page looks for the same
        page = self.client.get("/notebook/find/?words=dusk")
        self.assertContains(page, "/colours/")
        self.assertEqual(self.stranger.get("/notebook/find/?words=whisk").context["lines"], [])

    def test_other_ways(self) -> None:
        season = season_in(self.kitchen, one_evening(self.kitchen, self.jobs[0].pk).begun_at.date())
        self.assertIn(self.jobs[0].name, self.names(f"season={season}"))
        self.assertIn(self.jobs[2].name, self.names("technique=cake_drip"))
        self.assertNotIn(self.jobs[0].name, self.names("technique=cake_drip"))
        purple = Ingredient.objects.get(kitchen=self.kitchen, code="purple")
        self.client.get("/notebook/")
        self.assertEqual(set(self.names(f"ingredient={purple.pk}")), {self.jobs[0].name, self.jobs[2].name})
        page = self.client.get("/notebook/find/?near=76,11,-13")
        self.assertContains(page, self.jobs[0].name)
        self.assertNotContains(page, self.jobs[1].name)
        self.assertEqual(list(evenings(self.other)), [])
