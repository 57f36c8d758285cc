"""What goes wrong on a first evening in a kitchen of inches, ounces and spoons, and what is left at its end."""

import re
from datetime import timedelta

from django.test import TestCase

from coating.colour.ciede2000 import colour_difference
from coating.colour.mixing import Part
from coating.piece.kinds import kind_of_core
from coating.plan.standing import spoilt
from coating.simulate.bowl import Event
from coating.stock.ingredients import demo_ingredient
from studio.bowls.adapters import Desk
from studio.bowls.left import keep_what_is_left
from studio.bowls.models import Bowl, BowlEvent
from studio.common import clock
from studio.cupboard.models import Ingredient, Parameter
from studio.cupboard.pictures import lab_of
from studio.designs.kinds import KINDS, kinds_for
from studio.designs.models import Design
from studio.pieces.models import Job, Layer
from tests.studio.kitchens import add, bowl_for, half_dip, maker, step
from tests.studio.test_build import stack

INCHES = {"mass_unit": "oz", "temperature_unit": "F", "length_unit": "in", "region": "us", "has_scale": False}


def shown(html: str) -> dict[str, str]:
    """The fields that a page sends, from its markup: what is not rendered is not sent."""
    result = {}
    for tag in re.findall(r"<input[^>]*>", html):
        matches = dict(re.findall(r'(\w[\w-]*)="([^"]*)"', tag))
        if "name" in matches and (matches.get("type") not in ("radio", "checkbox") or " checked" in tag):
            result[matches["name"]] = matches.get("value", "")
    for name, inside in re.findall(r'<select[^>]*name="([^"]+)"[^>]*>(.*?)</select>', html, re.S):
        chosen = re.search(r'<option value="([^"]*)" selected', inside)
        result[name] = chosen.group(1) if chosen else ""
    return result


class FirstEvening(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        type(self.kitchen).objects.filter(pk=self.kitchen.pk).update(**INCHES)
        self.kitchen.refresh_from_db()
        self.job = Job.objects.create(kitchen=self.kitchen, name="First evening")

    def layer(self, *layers: str, core: str = "round_biscuit", **fields: str) -> Layer:
        sent = {**stack(*layers, core=core, **fields), "do": "save"}
        response = self.client.post(f"/pieces/jobs/{self.job.pk}/build/", sent)
        self.assertEqual(response.status_code, 302, response.context and response.context["form"].errors)
        return Layer.objects.filter(piece__job=self.job).order_by("pk").last()

    def test_pictures_of_marbling_in_inches(self) -> None:
        for kind in ("marbling", "swirl"):
            page = self.client.get(f"/studio/new/{kind}/").content.decode()
            address = re.search(r'href="(/studio/marble\.png[^"]*)"', page).group(1).replace("&amp;", "&")
            self.assertEqual(self.client.get(address).headers.get("Content-Type"), "image/png", kind)

    def test_a_dip_planned_in_a_job_is_kept_from_what_its_page_shows(self) -> None:
        layer = self.layer("dip")
        page = self.client.get(f"/studio/new/dip/?layer={layer.pk}").content.decode()
        response = self.client.post("/studio/new/dip/", {**shown(page), "layer": layer.pk, "do": "keep"})
        self.assertEqual(response.status_code, 302)

    def test_a_base_is_saved_in_ounces_as_it_stands_and_by_a_grade(self) -> None:
        row = Ingredient.objects.get(kitchen=self.kitchen, code="bright")
        before = Parameter.objects.count()
        fields = shown(self.client.get(f"/cupboard/{row.pk}/").content.decode())
        self.assertEqual(self.client.post(f"/cupboard/{row.pk}/", {**fields, "stocked": "on"}).status_code, 302)
        self.assertEqual(Parameter.objects.count(), before, "nothing was changed")
        fields = shown(self.client.get(f"/cupboard/{row.pk}/").content.decode())
        graded = self.client.post(f"/cupboard/{row.pk}/", {**fields, "stocked": "on", "number": "chips"})
        self.assertEqual(graded.status_code, 302)
        self.assertEqual(row.parameters.filter(name="number").last().provenance, "label")

    def test_a_colour_tried_in_white_chocolate_keeps_that_recipe(self) -> None:
        page = self.client.get("/colours/try/?lab=70,10,20&melt_g=7 oz&white=untempered&way=best&colourants=3")
        fields = shown(page.content.decode())
        self.assertEqual(fields["white"], "untempered")
        kept = self.client.post("/colours/keep/", {**fields, "name": "Sand", "note": ""})
        self.assertIn("white=untempered", kept.url)
        recipe = self.client.get(kept.url).context["recipe"]
        self.assertEqual(recipe.parts, page.context["recipe"].parts)

    def test_plan_it_opens_what_the_layer_is(self) -> None:
        self.assertEqual([k.name for k in kinds_for(self.layer("dip", "glue"))], [])
        self.assertEqual(next(k.name for k in kinds_for(self.layer("dip", "lines"))), "face")

    def test_a_cup_holds_what_it_was_said_to_hold(self) -> None:
        layer = self.layer("shell", core="cup")
        page = self.client.get(f"/studio/new/mould/?layer={layer.pk}").content.decode()
        self.client.post("/studio/new/mould/", {**shown(page), "do": "keep"})
        holds_ml = kind_of_core("cup").core(*layer.piece.size["mm"]).holds_ml
        kept = Design.objects.get(layer=layer)
        self.assertEqual(kept.asked["preset"], "own:piece")
        self.assertAlmostEqual(kept.drawn["of_layer"]["drawn"]["poured_ml"] / holds_ml, 1, delta=0.01)

    def test_a_piece_that_is_refused_says_so_and_is_kept_on_the_page(self) -> None:
        sent = {**stack("dip"), "count": "a dozen dozens", "name": "Moons", "do": "save"}
        page = self.client.post(f"/pieces/jobs/{self.job.pk}/build/", sent)
        self.assertContains(page, "It is not in the job yet.", status_code=422)
        self.assertContains(page, "data-guard", status_code=422)
        self.assertContains(page, "Moons", status_code=422)

    def test_looking_at_the_melting_page_writes_nothing(self) -> None:
        bowl = bowl_for(half_dip(self.kitchen))
        before = BowlEvent.objects.count()
        for _ in range(2):
            self.assertEqual(self.client.get(f"/bowls/{bowl.pk}/melt/?add-1=100").status_code, 200)
        self.assertEqual(BowlEvent.objects.count(), before)

    def test_no_millimetres_in_an_inch_kitchen(self) -> None:
        self.layer("dip", "drizzle")
        pages = [
            "/",
            "/pieces/",
            f"/pieces/jobs/{self.job.pk}/",
            f"/pieces/jobs/{self.job.pk}/shopping/",
            f"/day/{self.job.pk}/",
            "/cupboard/",
            "/colours/",
        ]
        pages += [f"/studio/new/{kind}/" for kind in KINDS]
        for address in pages:
            text = re.sub(
                r"<(script|style|svg)\b.*?</\1>|<[^>]+>", " ", self.client.get(address).content.decode(), flags=re.S
            )
            matches = re.findall(r"[^.]{0,40}\b\d[\d.,]* (?:mm|cm|ml|g|°C)\b|\b0 oz\b", text)
            self.assertEqual(matches, [], address)

    def test_the_day_reads_a_clock_of_half_days(self) -> None:
        self.layer("dip")
        query = {"ready": "", "hands": "1", "fridge": "4", "freezer": "2"}
        for typed in ("2:30 pm", "2:30PM", "14:30"):
            self.assertContains(self.client.get(f"/day/{self.job.pk}/", {**query, "begin": typed}), "2:30 pm")
        wrong = self.client.get(f"/day/{self.job.pk}/", {**query, "begin": "half past"})
        self.assertContains(wrong, "A time like 9:00.", status_code=422)


class LeftOver(TestCase):
    """What a finished bowl leaves is a thing in the cupboard that the next job begins with."""

    def test_from_one_job_to_the_next(self) -> None:
        _, kitchen, client = maker()
        piece = half_dip(kitchen)
        bowl = bowl_for(piece)
        proposal = Desk.of(bowl, kitchen).proposal
        amounts = {
            p.ingredient.name: round(p.units) if p.ingredient.kind == "liquid" else p.mass_g
            for p in proposal.additions
            if p.ingredient.kind != "fat"
        }
        client.post(f"/bowls/{bowl.pk}/did/", step(bowl, **add(kitchen, **amounts), temperature_c="40"))
        held = Desk.of(Bowl.objects.with_colour().get(pk=bowl.pk), kitchen).now
        page = client.post(f"/bowls/{bowl.pk}/done/", step(bowl, used_g="150"), follow=True)
        self.assertContains(page, "is in your cupboard for the next job")
        rest = Ingredient.objects.with_parameters().get(kitchen=kitchen, made_on__isnull=False)
        today = clock.now().date()
        self.assertAlmostEqual(rest.current()["stock_g"].value, held.mass_g - 150, delta=0.1)
        self.assertTrue(today <= rest.keep_until - timedelta(days=59))
        self.assertEqual((rest.name, rest.allergens), ("Dusk blue, left over", ["milk", "soya"]))
        self.assertLess(float(colour_difference(lab_of(rest), held.mixture().lab())), 0.2)
        self.assertContains(client.get("/cupboard/"), "keeps until")
        again = Bowl.objects.create(
            kitchen=kitchen, name="Dusk blue", white="coating", colour=bowl.colour, started_at=clock.now()
        )
        kitchen.refresh_from_db()
        first = Desk.of(Bowl.objects.with_colour().get(pk=again.pk), kitchen).proposal
        begun = {p.ingredient.name: p.mass_g for p in first.additions}
        self.assertAlmostEqual(begun[rest.code], rest.current()["stock_g"].value, delta=0.5)
        self.assertLess(first.de00, 2.5)
        second = half_dip(kitchen)
        lines = client.get(f"/pieces/jobs/{second.job_id}/shopping/").context["lines"]
        self.assertIn(rest.code, [line.item.ingredient.name for line in lines])

    def test_nothing_is_kept_of_too_little_or_of_what_is_spoilt(self) -> None:
        _, kitchen, client = maker()
        bowl = bowl_for(half_dip(kitchen))
        client.post(f"/bowls/{bowl.pk}/did/", step(bowl, **add(kitchen, bright=100), temperature_c="40"))
        client.post(f"/bowls/{bowl.pk}/done/", step(bowl, used_g="98"))
        burnt = bowl_for(half_dip(kitchen))
        client.post(f"/bowls/{burnt.pk}/did/", step(burnt, **add(kitchen, bright=200), temperature_c="40"))
        water = Event(9, "added", 0.0, (Part(demo_ingredient("water"), 4.0),))
        desk = Desk.of(Bowl.objects.with_colour().get(pk=burnt.pk), kitchen)
        self.assertEqual(spoilt(desk.after([water])), "wet")
        desk.__dict__["now"] = desk.after([water])
        self.assertIsNone(keep_what_is_left(desk, 0.0))
        self.assertFalse(Ingredient.objects.filter(made_on__isnull=False).exists())
