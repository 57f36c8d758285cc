"""Parts of a job: put on, counted, carried in files, refused in words; the nine starts that have them."""

from __future__ import annotations

import json
import uuid
from typing import Any

from coating.stack.starts import STARTS, Start
from studio.colours.models import Colour
from studio.day.models import DayPlan, part_of
from studio.designs.models import Design
from studio.pieces.boxes import lies
from studio.pieces.carried_out import job_text
from studio.pieces.models import Job, Layer, Piece, Template
from studio.pieces.reckoned import NO_STEPS, counts_of, reckoned
from tests.studio.agreeing import Agreeing
from tests.studio.every_form import untouched
from tests.studio.kitchens import half_dip, live, maker
from tests.studio.test_build import stack
from tests.studio.test_day_plan import FORM

JOINED = [start for start in STARTS.values() if start.joined]


class PartsTest(Agreeing):
    """Abstract: jobs with parts."""

    def begun(self, start: Start, client: Any = None) -> Job:
        job = Job.objects.create(kitchen=self.kitchen, name=start.title)
        self.client.post(f"/pieces/jobs/{job.pk}/build/", {"do": f"whole:{start.name}"})
        return job

    def whole(self, job: Job) -> Job:
        return Job.objects.whole(self.kitchen, job.pk)

    def form(self, piece: Piece, **more: str) -> dict[str, str]:
        """What the builder shows of a piece, as it is sent."""
        return {**untouched(self.client.get(f"/pieces/{piece.pk}/build/").context["form"]), **more}

    def save(self, piece: Piece, data: dict[str, str], do: str = "save") -> Any:
        return self.client.post(f"/pieces/{piece.pk}/build/", {**data, "do": do})


class Starts(PartsTest):
    """Each of the nine is reckoned, drawn, planned and boxed, and every page says the same of it."""

    def test_all_nine(self) -> None:
        self.assertEqual(len(JOINED), 9)
        for start in JOINED:
            job = self.begun(start)
            named = {piece.name: piece for piece in job.pieces.all()}
            self.assertEqual(len(named), len(start.parts))
            for part in start.parts:
                drawn = named[part.title].layers.filter(designs__stale="").exists()
                self.assertEqual(drawn, bool(part.designs), (start.name, part.title))
            with self.subTest(start.name):
                self.agrees(job)
                self.assertFalse(self.client.get(f"/pieces/jobs/{job.pk}/boxes/").context["refused"])
                for piece in named.values():
                    self.assertEqual(self.client.get(f"/pieces/{piece.pk}/build/").context["wrong"], [], piece)


class PutOn(PartsTest):
    def setUp(self) -> None:
        super().setUp()
        self.job = half_dip(self.kitchen, count=10).job
        self.biscuits = self.job.pieces.get()
        blue = str(Colour.objects.get(kitchen=self.kitchen, name="Dusk blue").pk)
        self.client.post(
            f"/pieces/jobs/{self.job.pk}/build/",
            {
                **stack("flood", core="shape"),
                "d0": "20 mm",
                "d1": "20 mm",
                "name": "Moons",
                "count": "24",
                "do": "save",
                "0-colour": blue,
            },
        )
        self.moons = Piece.objects.get(name="Moons")

    def put(self, on: Piece, part: Piece, **fields: str) -> Any:
        """A part is put on a piece from the shelf, and how is said."""
        page = self.save(on, self.form(on), f"add:part:{part.pk}")
        data = untouched(page.context["form"])
        place = int(data["layers"]) - 1
        return self.save(on, {**data, **{f"{place}-{name}": value for name, value in fields.items()}})

    def test_from_the_shelf_to_the_last_page(self) -> None:
        """Two moons on each of ten biscuits and two spare: 24, which were counted by themselves until now."""
        page = self.put(self.biscuits, self.moons, count="2", where="pairs", placed="glued")
        self.assertRedirects(page, f"/pieces/jobs/{self.job.pk}/", fetch_redirect_response=False)
        self.moons.refresh_from_db()
        self.assertEqual((self.moons.count, self.moons.spares), (0, None))
        self.assertEqual(counts_of(self.whole(self.job))[self.moons.pk], (24, 4))
        shown = self.client.get(f"/pieces/jobs/{self.job.pk}/")
        self.assertContains(shown, "Moons: counted by what they go on from now on.")
        self.assertContains(shown, "24 for comet biscuits, 4 extra")
        self.assertContains(shown, "2 on each, left and right, glued")
        part = self.client.get(f"/pieces/{self.moons.pk}/build/")
        self.assertContains(part, "2 on each, left and right, glued")
        self.agrees(self.job)
        self.assertNotContains(self.client.get(f"/pieces/jobs/{self.job.pk}/boxes/"), "<h2>Moons</h2>")
        self.assertNotContains(self.client.get(f"/pieces/jobs/{self.job.pk}/inside/"), '<th scope="row">Moons</th>')

    def test_glue_is_of_the_colour_of_the_part(self) -> None:
        self.put(self.biscuits, self.moons, count="2", placed="glued")
        glue = Layer.objects.get(technique="part")
        self.assertEqual((glue.colour.name, glue.part), ("Dusk blue", self.moons))
        reckoning = reckoned(self.whole(self.job), self.kitchen)
        self.assertAlmostEqual(sum(la.made_g for la in reckoning.lines if la.layer == str(glue.pk)), 0.6 * 2 * 12)

    def test_one_besides_and_one_change_everywhere(self) -> None:
        self.put(self.biscuits, self.moons, count="1", placed="half_set")
        sent = {"piece": str(self.moons.pk), "family": "", "count": "3", "version": "3"}
        sent["version"] = str(Piece.objects.get(pk=self.moons.pk).version)
        self.assertEqual(self.client.post(f"/pieces/jobs/{self.job.pk}/count/", sent).status_code, 302)
        self.save(self.biscuits, self.form(self.biscuits, count="20"))
        self.assertEqual(counts_of(self.whole(self.job))[self.moons.pk][0], 20 + 2 + 3)
        self.assertContains(self.client.get(f"/pieces/jobs/{self.job.pk}/"), "22 for comet biscuits, 3 besides")
        self.agrees(self.job)

    def test_a_circle_is_refused_in_words(self) -> None:
        self.put(self.biscuits, self.moons)
        page = self.put(self.moons, self.biscuits)
        self.assertContains(page, "Nothing can go on itself: ", status_code=422)
        self.assertEqual(Layer.objects.filter(technique="part").count(), 1)

    def test_what_would_go_wrong_is_said(self) -> None:
        data = {
            **stack("dip", core="ball", name="Balls"),
            "1-technique": "part",
            "layers": "2",
            "1-count": "3",
            "1-part": str(self.biscuits.pk),
            "1-where": "pairs",
            "1-placed": "glued",
        }
        said = live(self.client, f"/pieces/jobs/{self.job.pk}/build/live/", data).json()["parts"]["answer"]
        self.assertIn("3 comet biscuits: pairs want an even number.", said)

    def test_what_would_go_wrong_is_said_in_the_units_of_the_kitchen(self) -> None:
        self.kitchen.__class__.objects.filter(pk=self.kitchen.pk).update(length_unit="in")
        data = {
            **stack("dip", core="ball", name="Balls"),
            "1-technique": "part",
            "layers": "2",
            "1-count": "1",
            "1-part": str(self.biscuits.pk),
            "1-where": "top",
            "1-placed": "glued",
        }
        said = live(self.client, f"/pieces/jobs/{self.job.pk}/build/live/", data).json()["parts"]["answer"]
        self.assertIn("too large for a top of", said)
        self.assertNotIn(" mm", said)

    def test_begun_from_here_and_back(self) -> None:
        page = self.save(self.biscuits, self.form(self.biscuits, name="Moon biscuits"), "on:new")
        at = f"/pieces/jobs/{self.job.pk}/build/?for={self.biscuits.pk}"
        self.assertRedirects(page, at)
        self.assertEqual(Piece.objects.get(pk=self.biscuits.pk).name, "Moon biscuits")
        begun = untouched(self.client.get(f"{at}&core=shape").context["form"])
        self.assertEqual(begun["count"], "0")
        kept = self.client.post(
            at, {**begun, **stack("flood", core="shape"), "count": "0", "name": "Stars", "do": "save"}
        )
        self.assertRedirects(kept, f"/pieces/{self.biscuits.pk}/build/?open=last#open")
        part = Layer.objects.get(technique="part")
        self.assertEqual((part.piece, part.part.name, part.part.count), (self.biscuits, "Stars", 0))

    def test_a_design_becomes_a_part(self) -> None:
        form = untouched(self.client.get("/studio/new/run_out/").context["form"])
        self.client.post("/studio/new/run_out/", {**form, "name": "Comet", "shape": "comet", "do": "keep"})
        design = Design.objects.get()
        page = self.client.get(f"/pieces/{self.biscuits.pk}/build/")
        self.assertContains(page, f'value="on:design:{design.pk}"')
        self.assertRedirects(
            self.save(self.biscuits, self.form(self.biscuits), f"on:design:{design.pk}"),
            f"/pieces/{self.biscuits.pk}/build/?open=last#open",
        )
        part = Layer.objects.get(technique="part").part
        drawn = Design.objects.get(layer__piece=part)
        self.assertEqual(
            (part.name, drawn.asked["shape"], Design.objects.filter(layer=None).count()), ("Comet", "comet", 1)
        )
        self.agrees(self.job)

    def test_kept_to_begin_with_again_and_carried_to_another_kitchen(self) -> None:
        job = self.begun(STARTS["rockets"])
        rockets = job.pieces.get(name="Rockets")
        self.save(rockets, self.form(rockets, key=str(uuid.uuid4())), "template")
        template, again = Template.objects.get(), Job.objects.create(kitchen=self.kitchen, name="Again")
        self.client.post(f"/pieces/jobs/{again.pk}/build/", {"do": f"kept:{template.pk}"})
        data = {p.name: counts_of(self.whole(job))[p.pk] for p in job.pieces.all()}
        self.assertEqual({p.name: counts_of(self.whole(again))[p.pk] for p in again.pieces.all()}, data)
        self.assertEqual(Design.objects.filter(layer__piece__job=again).count(), 2)
        self.agrees(again)
        _, other, client = maker("other@example.org")
        text = job_text(self.whole(job))
        self.assertEqual(client.post("/pieces/bring/", {"file": _file(text)}).status_code, 302)
        brought = Job.objects.whole(other, Job.objects.get(kitchen=other).pk)
        self.assertEqual({p.name: counts_of(brought)[p.pk] for p in brought.pieces.all()}, data)
        for bad, says in (
            ({"part": 99}, "There is no piece"),
            ({"part": 2}, "Nothing can go on itself"),
            ({"part": None}, "has to be one of its pieces"),
        ):
            bent = json.loads(text)
            rows = [la for piece in bent["pieces"] for la in piece["layers"] if la["technique"] == "part"]
            rows[0].update(bad)
            page = client.post("/pieces/bring/", {"file": _file(json.dumps(bent))})
            self.assertContains(page, says, status_code=422)

    def test_off_the_list_is_off_the_others_too(self) -> None:
        self.put(self.biscuits, self.moons)
        self.client.post(f"/pieces/{self.moons.pk}/remove/")
        self.assertFalse(Layer.objects.filter(technique="part").exists())
        self.assertContains(
            self.client.get(f"/pieces/jobs/{self.job.pk}/"), "Moons: off the list, and off comet biscuits."
        )

    def test_another_makers_parts_do_not_exist(self) -> None:
        _, kitchen, client = maker("other@example.org")
        mine = half_dip(kitchen).job
        at = f"/pieces/jobs/{mine.pk}/build/"
        sent = {**stack("dip"), "1-technique": "part", "layers": "2", "1-part": str(self.moons.pk)}
        for do in (f"add:part:{self.moons.pk}", "on:design:1", "on:kept:1"):
            page = client.post(at, {**stack("dip"), "do": do})
            self.assertEqual(page.status_code, 404, do)
        mine_only = client.get("/studio/new/dip/").context["form"]
        client.post("/studio/new/dip/", {**untouched(mine_only), "do": "keep"})
        dip = Design.objects.get(kitchen=kitchen)
        self.assertEqual(client.post(at, {**stack("dip"), "do": f"on:design:{dip.pk}"}).status_code, 404)
        self.assertContains(client.post(at, {**sent, "do": "save"}), "not in this job any more", status_code=422)
        self.assertEqual(client.get(f"{at}?for={self.biscuits.pk}").status_code, 404)
        self.assertEqual(client.post(at, {"do": "kept:1"}).status_code, 404)
        self.assertFalse(Layer.objects.filter(kitchen=kitchen, technique="part").exists())


class Boxes(PartsTest):
    def test_several_kinds_in_one_box(self) -> None:
        """Two biscuits and one ball: of ten and four, four such boxes, and two biscuits over."""
        job = half_dip(self.kitchen, count=10).job
        biscuits = job.pieces.get()
        self.client.post(
            f"/pieces/jobs/{job.pk}/build/", {**stack("dip", core="ball"), "name": "Balls", "count": "4", "do": "save"}
        )
        balls = Piece.objects.get(name="Balls")
        at, mix = f"/pieces/jobs/{job.pk}/mix/", {f"of-{biscuits.pk}": "2", f"of-{balls.pk}": "1", "box": "deep"}
        self.assertContains(self.client.post(at, {**mix, "box": "small"}), "do not all fit", status_code=422)
        self.assertContains(self.client.post(at, {"box": "deep"}), "two or more in all", status_code=422)
        self.client.post(at, mix)
        page = self.client.get(f"/pieces/jobs/{job.pk}/boxes/")
        self.assertContains(page, "each with 2 of comet biscuits and 1 of balls")
        self.assertEqual([(m.boxes, len(m.seats)) for m in page.context["mixed"]], [(4, 3)])
        self.assertEqual([(b.piece, b.count) for b in page.context["boxed"]], [(biscuits, 2)])
        self.client.post(at, {"apart": "0"})
        self.assertEqual(self.client.get(f"/pieces/jobs/{job.pk}/boxes/").context["mixed"], [])

    def test_as_high_as_what_is_on_it(self) -> None:
        job = self.begun(STARTS["bow_cake"])
        cake = next(p for p in self.whole(job).pieces.all() if p.name == "Cake")
        self.assertGreater(lies(cake)[2], 100 + 60)


class AtTheBench(PartsTest):
    """Rockets: 26 fins and 2 spare, of which three break."""

    def setUp(self) -> None:
        super().setUp()
        self.job = self.begun(STARTS["rockets"])
        self.at = f"/day/{self.job.pk}/"
        self.client.post(f"{self.at}plan/", FORM)
        self.row = DayPlan.objects.get()
        self.fins = Layer.objects.get(piece__name="Fins")
        self.glued = Layer.objects.get(part__name="Fins")

    def tap(self, step: str, kind: str = "done") -> None:
        data = {"key": str(uuid.uuid4()), "step": step, "kind": kind}
        self.assertEqual(self.client.post(f"{self.at}happened/", data).status_code, 302)

    def bench(self) -> Any:
        return self.client.get(f"{self.at}bench/")

    def test_two_fins_here_and_here(self) -> None:
        while True:
            page = self.bench()
            line = page.context["line"]
            if part_of(line["step"]) == str(self.glued.pk):
                break
            self.tap(line["step"])
        self.assertContains(page, "Two fins: here and here")
        self.assertContains(page, 'class="here"', 2)
        self.assertContains(page, "2 fins on each of 13 rockets")
        spares = counts_of(self.whole(self.job))[self.fins.piece_id][1]
        for left in range(spares, 0, -1):
            self.assertContains(self.wrong(line["step"]), f"take a spare, {left} {'is' if left == 1 else 'are'} left")
            self.tap(self.first_of_fins(), "broke")
            self.assertEqual(self.bench().context["line"]["step"], line["step"])
        self.assertContains(self.wrong(line["step"]), "no spare is left: make one more")
        self.tap(self.first_of_fins(), "broke")
        page = self.bench()
        made = [la for la in (page.context["line"], *page.context["all"]) if part_of(la["step"]) == str(self.fins.pk)]
        self.assertEqual({la["more"] for la in made}, {1})
        whole = {s.name: s.duration_s for s in self.row.day.steps}
        self.assertTrue(all(la["long_s"] < whole[la["step"]] for la in made if whole[la["step"]] > 100), made)
        self.assertContains(page, "For the one that broke:")
        tapped = []
        while (line := self.bench().context.get("line")) is not None:
            tapped.append(part_of(line["step"]))
            self.tap(line["step"])
        self.assertLess(tapped.index(str(self.fins.pk)), tapped.index(str(self.glued.pk)), "made before it is glued on")
        self.assertFalse(self.bench().context.get("all"))

    def wrong(self, step: str) -> Any:
        return self.client.get("/wrong/", {"job": self.job.pk, "step": step})

    def first_of_fins(self) -> str:
        return min(s.name for s in self.row.day.steps if part_of(s.name) == str(self.fins.pk))


class HalfSet(PartsTest):
    def test_words_are_laid_on_a_plaque_before_it_is_hard(self) -> None:
        """Between the filling and the lifting off, in the window in which it is half-set."""
        job = self.begun(STARTS["lace_cake"])
        plaque = Piece.objects.get(name="Plaque")
        flood, laid = (str(la.pk) for la in plaque.layers.order_by("order"))
        steps = [s for s in reckoned(self.whole(job), self.kitchen, steps=NO_STEPS).steps if s.piece == str(plaque.pk)]
        made = [(s.layer, s.kind) for s in steps if s.kind != "wait"]
        self.assertEqual(made, [(flood, "make"), (flood, "make"), (laid, "make"), (laid, "release")])
        on = next(s for s in steps if s.layer == laid and s.kind == "make")
        waits = next(s for s in steps if s.id in on.after)
        self.assertEqual((waits.kind, waits.after[0].partition(".")[0]), ("wait", flood))
        self.assertIsNotNone(on.until_min)
        self.assertIn("Lift", [s for s in steps if s.kind != "wait"][-1].says)


def _file(text: str) -> Any:
    from django.core.files.uploadedfile import SimpleUploadedFile

    return SimpleUploadedFile("job.json", text.encode())
