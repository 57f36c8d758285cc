"""Bags of a maker's own: added in three taps, used as bought in every room, carried in files, and taken out again."""

import json

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase
from django.urls import reverse
from django.utils import timezone

from coating.colour.ciede2000 import colour_difference
from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl
from studio.colours.models import Colour
from studio.cupboard.adapters import core_ingredient
from studio.cupboard.models import Extra, Ingredient
from studio.cupboard.pictures import lab_of
from studio.cupboard.stock import Stock
from studio.pieces.models import Job, Layer, Piece, Template
from tests.studio.kitchens import add, half_dip, live, maker, step
from tests.studio.test_build import stack

RED = (40.0, 34.64, 20.0)


class Bags(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.job = Job.objects.create(kitchen=self.kitchen, name="First evening")

    def bought(self, what: str, **fields: str) -> Ingredient:
        response = self.client.post(f"/cupboard/add/{what}/", fields)
        self.assertEqual(response.status_code, 302, response)
        self.kitchen.refresh_from_db()
        return Ingredient.objects.with_parameters().filter(kitchen=self.kitchen, own=True).last()

    def piece(self, *layers: str, **fields: str) -> Piece:
        sent = {**stack(*layers, **fields), "do": "save"}
        response = self.client.post(f"/pieces/jobs/{self.job.pk}/build/", sent)
        self.assertEqual(response.status_code, 302)
        return Piece.objects.filter(job=self.job).last()

    def test_three_taps_and_what_is_assumed_says_so(self) -> None:
        self.assertContains(self.client.get("/cupboard/add/"), "/cupboard/add/palm-coloured/")
        page = self.client.get("/cupboard/add/palm-coloured/")
        self.assertContains(page, 'name="shade"')
        row = self.bought("palm-coloured", shade=",".join(f"{v:g}" for v in RED))
        self.assertEqual(
            (row.name, row.family, row.sort, row.ticked), ("My deep red coating", "palm", "coloured", True)
        )
        self.assertLess(float(colour_difference(lab_of(row), RED)), 0.1)
        self.assertEqual({p.provenance for p in row.current().values()}, {"default"})
        self.assertContains(self.client.get(f"/cupboard/{row.pk}/"), "assumed: read your pack")
        dark = self.bought("cocoa-dark", bag_g="250 g", price="3.20", there="buy")
        self.assertEqual((dark.sort, dark.ticked, dark.current()["bag_g"].value), ("dark", False, 250.0))

    def test_bad_shades_are_told_at_the_field(self) -> None:
        for data in ({}, {"hex": "blue"}, {"shade": "1,2"}, {"shade": "95,100,90"}, {"shade": "nan,0,0"}):
            response = self.client.post("/cupboard/add/palm-coloured/", data)
            self.assertEqual(response.status_code, 422, data)
            self.assertTrue(response.context["form"].errors["hex"], data)
        self.assertEqual(self.client.get("/cupboard/add/lard/").status_code, 404)

    def test_a_bottle_like_one_of_ours_or_by_its_tint(self) -> None:
        like = self.bought("liquid", shade="pink", name="Rose drops")
        pink = Ingredient.objects.with_parameters().get(kitchen=self.kitchen, code="pink")
        self.assertEqual(core_ingredient(like).absorption, core_ingredient(pink).absorption)
        self.assertIn(
            "Rose drops", {c.title for c in Stock.of(self.kitchen).cupboard("coating", self.kitchen).colourants}
        )
        self.bought("powder", shade="74,32.91,19")

    def test_as_bought_needs_no_recipe_and_no_drops(self) -> None:
        red, dark = self.bought("palm-coloured", shade="40,34.64,20"), self.bought("cocoa-dark")
        self.piece("dip", **{"0-colour": f"bag{red.pk}"})
        piece = self.piece("dip", **{"0-colour": f"bag{dark.pk}", "name": "Dark ones"})
        layer = piece.layers.get()
        self.assertEqual((layer.base, layer.colour, layer.white), (dark, None, "tempered"), "chocolate is tempered")
        page = self.client.get(f"/pieces/jobs/{self.job.pk}/")
        needs = {need.name: need for need in page.context["needs"]}
        self.assertEqual(set(needs), {"My deep red coating", "My dark chocolate"})
        for name, white in (("My deep red coating", "coating"), ("My dark chocolate", "tempered")):
            self.client.post(f"/bowls/begin/{self.job.pk}/", {"need": needs[name].key})
            bowl = Bowl.objects.get(name=name)
            desk = Desk.of(bowl, self.kitchen)
            self.assertEqual((bowl.white, desk.proposal.kind), (white, "fill"))
            names = {p.ingredient.title for p in desk.proposal.additions if p.ingredient.kind != "fat"}
            self.assertEqual(names, {name}, "no drops")
        self.assertEqual(desk.proposal.take_to_c, 48.0, "dark chocolate bears more heat")
        self.client.post(f"/bowls/{bowl.pk}/did/", step(bowl, **{f"add-{dark.pk}": "200"}, touch="hot"))
        self.assertContains(self.client.get(f"/bowls/{bowl.pk}/"), "unmelted pieces")
        self.assertEqual(Desk.of(Bowl.objects.with_colour().get(pk=bowl.pk), self.kitchen).now.warmth.work_at_c, 31.5)
        shopping = self.client.get(f"/pieces/jobs/{self.job.pk}/shopping/")
        self.assertContains(shopping, "My deep red coating")

    def test_the_studio_and_other_colours_of_a_design(self) -> None:
        dark = self.bought("palm-dark")
        self.assertContains(self.client.get("/studio/new/marbling/"), "My dark coating, as bought")
        piece = self.piece("marbling", core="slab")
        layer = piece.layers.get()
        form = self.client.get(f"/studio/new/marbling/?layer={layer.pk}").context["form"]
        sent = {n: form[n].value() for n in form.fields if form[n].value() is not None}
        response = self.client.post("/studio/new/marbling/", {**sent, "ground": f"bag{dark.pk}"})
        self.assertEqual(response.status_code, 302)
        layer.refresh_from_db()
        self.assertEqual([o["base"] for o in layer.parameters["others"]], [dark.pk])
        needs = self.client.get(f"/pieces/jobs/{self.job.pk}/").context["needs"]
        self.assertIn("My dark coating", {n.name for n in needs})
        self.assertEqual(self.client.get(f"/day/{self.job.pk}/").status_code, 200)

    def test_files_and_templates_carry_the_bag(self) -> None:
        red = self.bought("palm-coloured", shade="40,34.64,20")
        self.piece("dip", **{"0-colour": f"bag{red.pk}"})
        self.client.post(
            f"/pieces/jobs/{self.job.pk}/build/",
            {**stack("dip", **{"0-colour": f"bag{red.pk}"}), "name": "Red ones", "do": "template"},
        )
        text = self.client.get(f"/pieces/jobs/{self.job.pk}/job.json").content
        self.assertEqual(json.loads(text)["bags"][0]["name"], red.name)
        _, other, stranger = maker("stranger@example.org")
        for _ in range(2):
            stranger.post("/pieces/bring/", {"file": SimpleUploadedFile("job.json", text)})
        (bag,) = Ingredient.objects.with_parameters().filter(kitchen=other, own=True)
        self.assertFalse(bag.ticked, "it is still to be bought there")
        self.assertLess(float(colour_difference(lab_of(bag), lab_of(red))), 0.5)
        self.assertEqual(Layer.objects.filter(kitchen=other, base=bag).count(), 2)
        template = Template.objects.get(kitchen=self.kitchen)
        page = self.client.get(f"/pieces/jobs/{self.job.pk}/build/?template={template.pk}")
        self.assertContains(page, f'value="bag{red.pk}" checked')

    def test_taken_out_unless_something_is_made_of_it(self) -> None:
        red = self.bought("palm-coloured", shade="40,34.64,20")
        piece = self.piece("dip", **{"0-colour": f"bag{red.pk}"})
        self.client.post(f"/cupboard/{red.pk}/take-out/")
        self.assertContains(self.client.get(f"/cupboard/{red.pk}/"), "is made of it")
        self.client.post(reverse("pieces:piece-remove", args=[piece.pk]))
        bowl = Bowl.objects.create(kitchen=self.kitchen, name="x", white="coating", started_at=self.job.created_at)
        self.client.post(f"/bowls/{bowl.pk}/did/", step(bowl, **{f"add-{red.pk}": "120"}))
        self.client.post(f"/cupboard/{red.pk}/take-out/")
        shelves = self.client.get("/cupboard/").context["shelves"]
        self.assertNotIn(red, [row for _, rows in shelves for row, *_ in rows])
        desk = Desk.of(Bowl.objects.with_colour().get(pk=bowl.pk), type(self.kitchen).objects.get(pk=self.kitchen.pk))
        self.assertAlmostEqual(desk.now.mass_g, 120.0, msg="the bowl still knows what it is of")

    def test_what_to_buy_goes_on_the_list_with_one_tap(self) -> None:
        midnight = Colour.objects.get(kitchen=self.kitchen, name="Midnight")
        page = self.client.get(f"/colours/{midnight.pk}/")
        self.assertContains(page, "Put it on the shopping list")
        self.client.post("/cupboard/have/black_coating/", {"buy": "yes"})
        row = Ingredient.objects.get(kitchen=self.kitchen, code="black_coating")
        self.assertEqual((row.stocked, row.ticked), (True, False))
        self.client.post("/cupboard/have/black_coating/")
        row.refresh_from_db()
        self.assertTrue(row.ticked)


class Contents(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.job = half_dip(self.kitchen).job

    def label(self) -> str:
        return self.client.get(f"/pieces/jobs/{self.job.pk}/labels.txt").content.decode()

    def test_a_bought_sweet_is_not_said_until_its_pack_was_read(self) -> None:
        sent = {**stack("dip", core="sweet", name="Sweets"), "do": "save"}
        self.client.post(f"/pieces/jobs/{self.job.pk}/build/", sent)
        self.assertIn("Not said: what is in bought sweet.", self.label())
        self.assertContains(self.client.get(f"/pieces/jobs/{self.job.pk}/inside/"), "Read the pack of bought sweet")
        piece = Piece.objects.get(name="Sweets")
        data = {**sent, "contains-nuts": "on", "version": piece.version}
        self.client.post(f"/pieces/{piece.pk}/build/", data)
        piece.refresh_from_db()
        self.assertEqual(piece.contains, ["nuts"])
        self.assertIn("nuts", self.label())
        self.assertNotIn("Not said", self.label())

    def test_a_new_filling_is_not_said_and_a_pick_comes_out(self) -> None:
        self.client.post("/cupboard/extras/new/?kind=filling", {"name": "From a jar", "edible": "yes", "version": 1})
        self.assertIsNone(Extra.objects.get(name="From a jar").allergens)
        self.client.post(
            "/cupboard/extras/new/?kind=topping", {"name": "Plain", "edible": "yes", "looked": "on", "version": 1}
        )
        self.assertEqual(Extra.objects.get(name="Plain").allergens, [])
        for name, out in (("Skewer", True), ("Lolly stick", False)):
            self.client.post("/cupboard/extras/new/?kind=stick", {"name": name, "version": 1})
            self.assertEqual(Extra.objects.get(name=name).comes_out, out, name)


class Noting(TestCase):
    """A reading is a reading, and says what it says."""

    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.kitchen.has_thermometer = True
        self.kitchen.save()
        self.bowl = Bowl.objects.create(kitchen=self.kitchen, name="White", white="coating", started_at=timezone.now())
        self.address = f"/bowls/{self.bowl.pk}/"
        self.client.post(f"{self.address}did/", step(self.bowl, **add(self.kitchen, bright=250), temperature_c="38"))

    def asked(self, **fields: str) -> dict[str, str]:
        parts: dict[str, str] = live(self.client, f"{self.address}live/", step(self.bowl, **fields)).json()["parts"]
        return parts

    def test_50_degrees_is_noted_with_a_warning_and_never_ordered(self) -> None:
        parts = self.asked(temperature_c="50 °C")
        self.assertNotIn("Warm it until", parts["answer"])
        self.assertIn("it reads 50 °C", parts["answer"])
        self.assertIn("goes thick for good", parts["answer"])
        self.assertIn("Note it", parts["do"])
        self.client.post(f"{self.address}did/", step(self.bowl, temperature_c="50 °C"))
        self.assertContains(self.client.get(self.address), "It reads 50 °C")

    def test_nothing_to_note_has_no_button_and_stiff_is_not_ready(self) -> None:
        page = self.client.get(self.address)
        self.assertNotIn("I did this", self.asked(temperature_c="38 °C")["do"])
        for number in ("20", "75", "95"):
            answer = self.asked(temperature_c="38 °C", number=number)["answer"]
            self.assertEqual("Nothing to add" in answer, False, number)
        self.assertIn(page.context["stands"].verdict, page.context["verdict"])

    def test_headline_band_and_test_page_tell_one_verdict(self) -> None:
        for number in ("20", "40", "58", "95"):
            self.client.post(f"{self.address}did/", step(self.bowl, number=number))
            page = self.client.get(self.address)
            stands, says = page.context["stands"], page.context["stands_says"]
            self.assertContains(page, says.split(",")[0])
            self.assertContains(self.client.get(f"{self.address}tests/"), says)
            item = page.context["band"][0]
            self.assertEqual(item.needs == "ready", stands.is_right, number)

    def test_too_much_water_based_colour_is_refused_at_3_oz(self) -> None:
        self.client.post("/cupboard/have/blue_gel/")
        small = Bowl.objects.create(kitchen=self.kitchen, name="Little", white="coating", started_at=timezone.now())
        gel = Ingredient.objects.get(kitchen=self.kitchen, code="blue_gel")
        self.client.post(f"/bowls/{small.pk}/did/", step(small, **add(self.kitchen, bright=85)))
        refused = self.client.post(f"/bowls/{small.pk}/did/", step(small, **{f"add-{gel.pk}": "40"}))
        self.assertContains(refused, "The water in that would thicken", status_code=422)
        few = live(self.client, f"/bowls/{small.pk}/live/", step(small, **{f"add-{gel.pk}": "2"})).json()
        self.assertIn("Water-based colour thickens a bowl", few["parts"]["answer"])
