"""A job as a whole: families and counts, bowls joined and split, what is in it, boxes, other ways, out and in."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase
from django.utils import timezone

from coating.stack.starts import STARTS
from studio.colours.models import Colour
from studio.cupboard.models import Extra, Ingredient
from studio.pieces.carried_out import job_text
from studio.pieces.models import Family, Job, Layer, Piece, Template
from studio.pieces.reckoned import counts_of
from tests.studio.kitchens import cake_drip, half_dip, live, maker
from tests.studio.test_build import stack


class JobTest(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.job = Job.objects.create(kitchen=self.kitchen, name="Comet night")
        self.at = f"/pieces/jobs/{self.job.pk}/"

    def send(self, to: str, **data: Any) -> Any:
        return self.client.post(f"{self.at}{to}", data)

    def start(self, name: str, **more: Any) -> None:
        """What the page of a start sends when nothing is changed."""
        self.assertRedirects(self.send("build/", **{**self.begun(name), "do": "save", **more}), self.at)

    def begun(self, name: str) -> dict[str, Any]:
        """What a form holds of a start."""
        form = self.client.get(f"{self.at}build/", {"begin": name}).context["form"]
        return {n: form[n].value() for n in form.fields if form[n].value() is not None}

    def extra(self, name: str) -> Extra:
        return Extra.objects.get(kitchen=self.kitchen, name=name)

    def counts(self) -> dict[str, int]:
        return {p.name: p.count for p in Piece.objects.all()}


class Beginning(JobTest):
    def test_every_start_is_built_as_it_is(self) -> None:
        self.assertContains(self.client.get(f"{self.at}build/"), "What shall it be?")
        for start in (s for s in STARTS.values() if not s.joined):
            if len(start.parts) > 1:
                self.assertRedirects(self.send("build/", do=f"whole:{start.name}"), self.at)
            else:
                self.start(start.name)
        page = self.client.get(self.at)
        self.assertEqual(page.status_code, 200)
        self.assertEqual(len(page.context["groups"]), 3)
        self.assertEqual(self.counts()["Twists"], 24)
        for to in ("inside", "boxes", "choices", "shopping"):
            self.assertEqual(self.client.get(f"{self.at}{to}/").status_code, 200, to)
        self.assertRedirects(self.client.get(f"{self.at}build/?begin=cathedral"), f"{self.at}build/")
        self.assertContains(self.client.get(f"{self.at}build/?core=brick"), "What shall it be?")
        self.assertEqual(self.send("build/", do="whole:cathedral").status_code, 302)

    def test_four_variants_of_dipped_berries_share_a_drizzle(self) -> None:
        also = {f"also-{c.pk}": "on" for c in Colour.objects.filter(name__in=["Apricot", "Plum", "Lemon ice"])}
        answer = live(self.client, f"{self.at}build/live/", {**self.begun("berries"), "count": "26", **also}).json()
        self.assertIn("26</em> in 4 colours", answer["parts"]["answer"])
        self.assertIn("in 5 bowls", answer["parts"]["answer"])
        self.start("berries", count="26", **also)
        self.assertEqual(sorted(self.counts().values()), [6, 6, 7, 7])
        self.assertEqual(Family.objects.get().count, 26)
        needs = self.client.get(self.at).context["needs"]
        self.assertEqual([n.name for n in needs].count("Plain"), 1)
        self.assertEqual(len(needs), 5)

    def test_kept_to_begin_with_again(self) -> None:
        data = stack("dip", "topping", name="House biscuit", **{"1-extra": str(self.extra("Sugar pearls").pk)})
        page = self.send("build/", **data, do="template")
        self.assertContains(page, "is kept")
        self.send("build/", **{**data, "1-count": "9"}, do="template")
        template = Template.objects.get()
        form = self.client.get(f"{self.at}build/", {"template": template.pk}).context["form"]
        self.assertEqual(form["1-extra"].value(), str(self.extra("Sugar pearls").pk))
        self.assertEqual(form["1-count"].value(), 9)
        self.assertContains(self.client.get(f"{self.at}build/"), "House biscuit")
        forget = f"/pieces/kept/{template.pk}/forget/"
        _, _, stranger = maker("stranger@example.org")
        other = Job.objects.create(kitchen_id=stranger.get("/pieces/").wsgi_request.kitchen.pk, name="x")
        result = stranger.get(f"/pieces/jobs/{other.pk}/build/", {"template": template.pk})
        self.assertEqual((result.status_code, stranger.post(forget).status_code), (404, 404))
        self.client.post(forget)
        self.assertNotContains(self.client.get(f"{self.at}build/"), "?template=")

    def test_a_variant_of_one_that_is_there(self) -> None:
        self.start("half_dipped")
        first = Piece.objects.get()
        page = self.client.post(f"/pieces/{first.pk}/build/", {**stack("dip", "dots"), "do": "variant"})
        self.assertContains(page, f"?beside={first.pk}")
        self.send(f"build/?beside={first.pk}", **stack("dip", "dots", name="Dotted", count="6"), do="save")
        family = Family.objects.get()
        self.assertEqual((family.kind, family.count, self.counts()["Dotted"]), ("variants", 30, 6))
        self.client.post(f"/pieces/{first.pk}/remove/")
        self.assertEqual((Family.objects.count(), self.counts()), (0, {"Dotted": 6}))

    def test_a_layer_that_is_moved_keeps_its_bowl(self) -> None:
        data = stack("dip", "drizzle", name="Comets")
        self.send("build/", **data, do="save")
        piece = Piece.objects.get()
        self.client.post(f"/bowls/begin/{self.job.pk}/", {"need": ":coating"})
        data = stack("own", "dip", "dust", "drizzle", name="Comets", version="1")
        self.client.post(f"/pieces/{piece.pk}/build/", {**data, "do": "anyway"})
        self.assertEqual([la.technique for la in piece.layers.all()], ["own", "dip", "dust", "drizzle"])
        held = Layer.objects.exclude(uses=None).values_list("technique", "order")
        self.assertEqual(list(held.order_by("order")), [("dip", 2), ("drizzle", 4)])


class Counted(JobTest):
    def test_motifs_and_variants_and_the_whole_job(self) -> None:
        self.send("build/", do="whole:sprays")
        family = Family.objects.get()
        self.start("half_dipped")
        alone = Piece.objects.get(family=None)
        self.send("count/", family=family.pk, version=family.version, count=10)
        self.assertEqual(self.counts(), {"Rods": 10, "Twists": 30, "Half-dipped biscuits": 24})
        twists = Piece.objects.get(name="Twists")
        refused = self.send("count/", piece=twists.pk, version=twists.version, count=31)
        self.assertContains(refused, "count in 3s", status_code=422)
        self.send("count/", piece=twists.pk, version=twists.version, count=36)
        self.assertEqual(self.counts()["Rods"], 12)
        self.send("scale/", was=24, will_be=40)
        self.assertEqual(self.counts(), {"Rods": 20, "Twists": 60, "Half-dipped biscuits": 40})
        stale = self.send("count/", piece=alone.pk, version=alone.version, count=7)
        self.assertContains(stale, "Somebody changed this", status_code=409)

    def test_bad_counts_change_nothing(self) -> None:
        self.start("half_dipped")
        piece = Piece.objects.get()
        for to, data in (
            ("count/", {"piece": piece.pk, "version": 1, "count": "0"}),
            ("scale/", {"was": 1, "will_be": 2000}),
            ("count/", {"piece": piece.pk, "version": 1, "count": "many"}),
            ("scale/", {"was": "", "will_be": "-3"}),
            ("together/", {"name": "x", "kind": "variants", "count": 4, f"take-{piece.pk}": "on"}),
            ("together/", {"name": "", "kind": "motif", "count": 0}),
        ):
            self.assertEqual(self.send(to, **data).status_code, 422, (to, data))
        self.assertEqual((self.counts(), Family.objects.count()), ({"Half-dipped biscuits": 24}, 0))

    def test_counted_together_and_alone_again(self) -> None:
        self.start("half_dipped")
        self.start("rods")
        a, b = Piece.objects.order_by("pk")
        motif = {"name": "Sprays", "kind": "motif", "count": 5, f"take-{a.pk}": "on", f"take-{b.pk}": "on"}
        self.send("together/", **motif, **{f"each-{a.pk}": 1, f"each-{b.pk}": 2})
        self.assertEqual(self.counts(), {a.name: 5, b.name: 10})
        self.client.post(f"/pieces/{b.pk}/alone/")
        self.assertEqual((Family.objects.count(), self.counts()), (0, {a.name: 5, b.name: 10}))

    def test_bowls_are_joined_and_split_by_choice(self) -> None:
        for name in ("Comets", "Moons"):
            self.send("build/", **stack("dip", "drizzle", name=name), do="save")
        (one,) = self.client.get(self.at).context["needs"]
        self.send("bowls/", do=f"split {one.key}")
        comets, moons = self.client.get(self.at).context["needs"]
        self.assertEqual((comets.name, moons.name), ("Plain", "Plain 2"))
        self.assertAlmostEqual(comets.goes_on_g + moons.goes_on_g, one.goes_on_g, delta=0.01)
        self.send("bowls/", do=f"join {comets.key} {moons.key}")
        (again,) = self.client.get(self.at).context["needs"]
        self.assertEqual((again.key, again.melt_g), (one.key, one.melt_g))
        self.send("bowls/", do=f"split {one.key}")
        begin = {"need": ":coating:1"}
        self.client.post(f"/bowls/begin/{self.job.pk}/", begin)
        self.assertEqual(Layer.objects.filter(uses__bowl__name="Plain 2").count(), 2)
        for do in ("join x y", f"join {one.key} {one.key}", "split", ""):
            self.assertEqual(self.send("bowls/", do=do).status_code, 404, do)


class Inside(JobTest):
    def test_what_is_put_on_is_on_the_label_and_what_is_not_edible_stops(self) -> None:
        nuts, glitter = self.extra("Chopped hazelnuts"), self.extra("Craft glitter")
        data = stack("dip", "topping", "dust", name="Comets", **{"1-extra": str(nuts.pk), "2-extra": str(glitter.pk)})
        self.send("build/", **data, do="save")
        self.send("build/", **stack("dip", name="Moons"), do="save")
        page = self.client.get(f"{self.at}inside/")
        self.assertContains(page, "Not yet: Craft glitter only says non-toxic")
        labels = {i.piece.name: i.label for i in page.context["insides"]}
        self.assertEqual(dict(labels["Comets"].contains)["nuts"], ("Chopped hazelnuts",))
        self.assertEqual(labels["Moons"].may_contain, ("nuts",))
        self.assertContains(self.client.get(f"{self.at}labels.txt"), "NOT YET: Craft glitter")

    def test_fillings_keep_and_are_made_in_one_batch(self) -> None:
        self.job.due_on = timezone.localdate() + timedelta(days=9)
        self.job.made_on = timezone.localdate()
        self.job.save()
        self.start("pralines")
        page = self.client.get(f"{self.at}inside/")
        self.assertContains(page, "Soft ganache keeps 5 days, and it is 9 days")
        ((row, batch, _),) = page.context["batches"]
        layer = Layer.objects.get(technique="filling")
        piece = layer.piece
        self.assertEqual(row.name, "Soft ganache")
        self.assertAlmostEqual(
            batch.goes_in_g, sum(counts_of(Job.objects.whole(self.kitchen, self.job.pk))[piece.pk]) * 6.809, delta=1
        )
        self.assertAlmostEqual(sum(g for _, g in batch.parts), batch.make_g)
        Layer.objects.filter(pk=layer.pk).update(extra=None)
        self.assertContains(self.client.get(f"{self.at}inside/"), "Nobody said what these are of")

    def test_picks_are_counted_out_and_in(self) -> None:
        data = stack(
            "stick",
            "dip",
            core="ball",
            name="Planets",
            count="10",
            spares="2",
            **{"0-extra": str(self.extra("Wooden pick").pk)},
        )
        self.send("build/", **data, do="save")
        self.assertContains(self.client.get(f"{self.at}inside/"), "12 picks are out")
        layer = Layer.objects.get(technique="stick")
        self.assertContains(self.send("picks/", **{f"back-{layer.pk}": "13"}), "Only 12 went in", status_code=422)
        self.send("picks/", **{f"back-{layer.pk}": "11"})
        self.assertContains(self.client.get(f"{self.at}inside/"), "1 pick is out: count in")
        self.assertContains(self.client.get(f"{self.at}labels.txt"), "1 of its picks not counted in")
        self.send("picks/", **{f"back-{layer.pk}": "12"})
        self.assertNotContains(self.client.get(f"{self.at}labels.txt"), "NOT YET")
        self.job.little_ones = True
        self.job.save()
        self.assertContains(self.client.get(f"{self.at}inside/"), "no sticks or picks")

    def test_what_is_in_use_is_not_deleted(self) -> None:
        nuts = self.extra("Chopped hazelnuts")
        self.send("build/", **stack("dip", "topping", name="Comets", **{"1-extra": str(nuts.pk)}), do="save")
        data = self.client.post(f"/cupboard/extras/{nuts.pk}/remove/", follow=True)
        self.assertContains(data, "Comets is made with it")
        self.client.post(f"/cupboard/extras/{self.extra('Sugar pearls').pk}/remove/")
        self.assertEqual(Extra.objects.filter(name__in=["Chopped hazelnuts", "Sugar pearls"]).count(), 1)


class Packed(JobTest):
    def test_boxes_are_chosen_and_kept_and_what_is_too_large_is_said(self) -> None:
        self.start("half_dipped")
        piece = Piece.objects.get()
        cake_drip(self.kitchen, job=self.job)
        page = self.client.get(f"{self.at}boxes/")
        (biscuit, cake) = page.context["boxed"]
        self.assertGreaterEqual(biscuit.fit.boxes * biscuit.fit.in_box, 24)
        self.assertEqual(cake.title, "cake box")
        own = {"piece": piece.pk, "box": "own", "layers": 2, "length_mm": "20 cm", "width_mm": "13.5 cm"}
        self.assertContains(self.send("box/", **own), "Give the inside measures", status_code=422)
        self.send("box/", **own, height_mm="4 cm")
        fit = self.client.get(f"{self.at}boxes/").context["boxed"][0].fit
        self.assertEqual((fit.in_layer, fit.layers, fit.boxes), (6, 2, 2))
        self.send("box/", piece=piece.pk, box="small", layers=1, shred_mm="4 cm")
        self.assertContains(self.client.get(f"{self.at}boxes/"), "The lid does not close")
        self.send("box/", **{**own, "width_mm": "5 cm"}, height_mm="4 cm")
        self.assertContains(self.client.get(f"{self.at}boxes/"), "larger than the box")


class Cupboard(JobTest):
    def test_a_filling_of_ones_own(self) -> None:
        new = {
            "name": "Moon cream",
            "edible": "yes",
            "recipe": "200 g cream\n6 oz white chocolate",
            "allergens": ["milk"],
            "keeps_days": "3",
            "taste": "cream",
            "version": "1",
        }
        said = self.client.post("/cupboard/extras/new/?kind=filling", new)
        self.assertEqual(said.status_code, 302, said.context and said.context["form"].errors)
        row = self.extra("Moon cream")
        self.assertEqual([(p["name"], round(p["g"])) for p in row.parts], [("cream", 200), ("white chocolate", 170)])
        for wrong, says in (
            ({"recipe": "some cream"}, "Line 1: write it as 200 g cream"),
            ({"keeps_days": "-1"}, "The shelf life"),
            ({"recipe": "3 eggs"}, "Line 1"),
            ({"name": "Moon cream"}, "You already have one with that name"),
            ({"name": ""}, "required"),
            ({"allergens": ["dust"]}, "valid choice"),
        ):
            data = self.client.post("/cupboard/extras/new/?kind=filling", {**new, "name": "Other", **wrong})
            self.assertContains(data, says, status_code=422, msg_prefix=str(wrong))
        self.client.post(f"/cupboard/extras/{row.pk}/", {**new, "keeps_days": "4", "version": "1"})
        late = self.client.post(f"/cupboard/extras/{row.pk}/", {**new, "keeps_days": "9", "version": "1"})
        self.assertContains(late, "Somebody changed this", status_code=409)
        self.assertEqual(self.extra("Moon cream").keeps_days, 4)

    def test_other_ways_and_costs(self) -> None:
        self.start("half_dipped")
        self.start("cups")
        page = self.client.get(f"{self.at}choices/")
        self.assertEqual(page.context["several"].bowls, len(page.context["turns"]))
        self.assertLessEqual(page.context["one"].melt_g, page.context["several"].melt_g)
        stick = self.extra("Star sprinkles")
        stick.pack, stick.price = 80, 4.0
        stick.save()
        self.start("slab")
        shopping = self.client.get(f"{self.at}shopping/")
        slab = next(cost for piece, cost in shopping.context["costs"] if piece.name == "Marbled slab")
        self.assertAlmostEqual(slab.extras, 18.0 * 4 / 80)
        self.assertIn("Cream", shopping.content.decode())
        self.assertContains(self.client.get(f"{self.at}shopping.txt"), "Star sprinkles: 18 g")

    def test_without_any_base_every_page_still_answers(self) -> None:
        self.start("half_dipped")
        Ingredient.objects.filter(kitchen=self.kitchen, kind="base").update(stocked=False)
        self.kitchen.__class__.objects.filter(pk=self.kitchen.pk).update(cupboard_version=99)
        for to in ("", "inside/", "boxes/", "choices/", "shopping/", "labels.txt"):
            self.assertEqual(self.client.get(f"{self.at}{to}").status_code, 200, to)
        self.assertContains(self.client.get(f"{self.at}shopping/"), "There is no coating on the shelf")


class OutAndIn(JobTest):
    def full(self) -> Job:
        Piece.objects.filter(pk=half_dip(self.kitchen).pk).update(job=self.job)
        cake_drip(self.kitchen, job=self.job)
        self.start("filled")
        self.send("build/", do="whole:sprays")
        filled = Piece.objects.get(name="Filled shapes on sticks")
        own = {"length_mm": "20.4 cm", "width_mm": "16 cm", "height_mm": "6 cm"}
        self.send("box/", piece=filled.pk, box="own", layers=2, **own)
        return Job.objects.whole(self.kitchen, self.job.pk)

    def bring(self, client: Any, text: str | bytes) -> Any:
        raw = text.encode() if isinstance(text, str) else text
        return client.post("/pieces/bring/", {"file": SimpleUploadedFile("job.json", raw)}, follow=True)

    def test_another_kitchen_makes_the_same(self) -> None:
        text = job_text(self.full())
        self.assertEqual(self.client.get(f"{self.at}job.json").content.decode(), text)
        _, other, stranger = maker("stranger@example.org")
        other.__class__.objects.filter(pk=other.pk).update(length_unit="in", mass_unit="oz")
        Colour.objects.filter(kitchen=other, name="Dusk blue").update(lightness=20)
        Extra.objects.filter(kitchen=other, name="Soft ganache").update(allergens=["nuts"])
        page = self.bring(stranger, text)
        self.assertContains(page, "is here, with its pieces and colours")
        brought = Job.objects.whole(other, Job.objects.get(kitchen=other).pk)
        mine, theirs = json.loads(text), json.loads(job_text(brought))
        for colour in theirs["colours"]:
            colour["name"] = colour["name"].removesuffix(" (brought)")
        for extra in theirs["extras"]:
            extra["name"] = extra["name"].removesuffix(" (brought)")
        self.assertEqual(mine, theirs)
        self.assertTrue(Colour.objects.filter(kitchen=other, name="Dusk blue (brought)").exists())
        self.assertEqual(brought.families.get().pieces.count(), 2)
        (box,) = brought.boxes["by"].values()
        self.assertAlmostEqual(box["length_mm"], 204.0)
        self.assertEqual(box["layers"], 2)
        melted = [
            sum(n.melt_g for n in c.get(f"/pieces/jobs/{j.pk}/").context["needs"])
            for c, j in ((self.client, self.job), (stranger, brought))
        ]
        self.assertEqual(*melted)

    def test_a_bad_file_says_where_and_changes_nothing(self) -> None:
        good = json.loads(job_text(self.full()))
        jobs, colours = Job.objects.count(), Colour.objects.count()

        def bent(*path: Any, value: Any) -> str:
            data = json.loads(json.dumps(good))
            at = data
            for step in path[:-1]:
                at = at[step]
            at[path[-1]] = value
            return json.dumps(data)

        for text, says in (
            ("not json", "cannot be read as JSON"),
            ("[1]", "not a job of ours"),
            ("[" * 5000, "cannot be read as JSON"),
            (bent("v", value=2), "newer version"),
            (bent("job", "name", value=""), "The job"),
            (bent("pieces", 0, "count", value=0), "Piece 1"),
            (bent("pieces", 2, "core", value="brick"), "Piece 3"),
            (bent("pieces", 2, "size", value={"v": 2, "mm": [1e9, 2, 3]}), "Piece 3"),
            (bent("pieces", 2, "layers", 1, "parameters", value={"v": 2, "volume_ml": 1e9}), "Piece 3: It holds"),
            (bent("pieces", 2, "layers", 0, "colour", value=99), "Piece 3"),
            (bent("pieces", 2, "layers", 0, "parameters", value={"v": 2, "goes": 3}), "Piece 3"),
            (bent("pieces", 0, "size", value={"v": 1}), "Piece 1"),
            (bent("colours", 0, "lab", value=[1, 2]), "Colour 1"),
            (bent("pieces", 2, "box", value={"box": "own", "layers": 1}), "Piece 3: its box"),
            (bent("pieces", 2, "box", value=[1]), "Piece 3"),
            (bent("colours", 0, "lab", value=[1, 2, 900]), "Colour 1"),
            (bent("extras", 0, "edible", value="x"), "Thing 1"),
            (json.dumps(good).replace('"count": 12', '"count": NaN', 1), "cannot be read as JSON"),
            (b"\xff\xfe\x00", "cannot be read as JSON"),
            ("x" * 1_000_001, "too long"),
        ):
            page = self.bring(self.client, text)
            self.assertContains(page, says, status_code=422, msg_prefix=str(text)[:60])
        self.assertEqual((Job.objects.count(), Colour.objects.count()), (jobs, colours))
