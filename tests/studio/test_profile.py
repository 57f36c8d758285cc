"""The kitchen says once what it has; amounts, tests and sentences follow."""

import re
from urllib.parse import urlencode

from django.test import TestCase

from studio.accounts.forms import KitchenForm
from studio.accounts.models import Kitchen
from studio.accounts.profile import QUESTIONS
from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl, BowlEvent
from studio.common.measures import read_in
from studio.cupboard.models import Ingredient
from studio.cupboard.stock import Stock
from studio.pieces.models import Piece
from tests.studio.kitchens import add, bowl_for, cake_drip, half_dip, live, maker, step
from tests.studio.test_pieces import DATA

AMERICAN = {"mass_unit": "oz", "temperature_unit": "F", "length_unit": "in"}


class ProfileTests(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()

    def say(self, **values: object) -> None:
        Kitchen.objects.filter(pk=self.kitchen.pk).update(**values)
        self.kitchen.refresh_from_db()

    def sent(self, **changes: str) -> dict[str, str]:
        """What the kitchen page sends as it stands."""
        form = KitchenForm(initial=KitchenForm.initial_of(Kitchen.objects.get(pk=self.kitchen.pk)))
        return {n: form[n].value() or "" for n in form.fields} | changes


class FiveTaps(ProfileTests):
    def test_five_taps_and_it_is_said(self) -> None:
        address, taps = "/kitchen/five-taps/", {}
        for question, word in zip(QUESTIONS[:-1], ("spoons", "thermometer", "small", "warm"), strict=True):
            page = self.client.get(f"{address}?{urlencode(taps)}")
            self.assertContains(page, question.asks)
            taps[question.word] = word
        self.assertContains(self.client.get(f"{address}?{urlencode(taps)}"), QUESTIONS[-1].asks)
        done = self.client.post(address, {**taps, "where": "us", "onward": "/pieces/"})
        self.assertRedirects(done, "/pieces/")
        self.kitchen.refresh_from_db()
        said = self.kitchen
        self.assertEqual((said.has_scale, said.has_thermometer, said.power_w, said.room_c), (False, True, 600.0, 25.0))
        self.assertEqual(
            (said.mass_unit, said.temperature_unit, said.length_unit, said.region), ("oz", "F", "in", "us")
        )
        self.assertTrue(said.profile_said)

    def test_the_picture_shows_what_is_ticked_and_a_keypad_comes_where_numbers_do(self) -> None:
        answer = live(self.client, "/kitchen/live/", self.sent(has_scale="no", setting_school="fridge"))
        drawn = answer.json()["parts"]["counter"]
        self.assertIn("#tool-measure-spoons", drawn)
        self.assertRegex(drawn, r"with spoons,[^<]+pieces set\s+in the fridge")
        for length, keypad in (("mm", True), ("in", False)):
            self.say(length_unit=length)
            page = self.client.get("/studio/new/drips/").content.decode()
            field = re.search(r'<input[^>]+id="id_spacing_mm"[^>]*>', page)
            self.assertEqual('inputmode="decimal"' in (field[0] if field else ""), keypad, length)

    def test_every_choice_is_a_kitchen_that_can_be_saved(self) -> None:
        for question in QUESTIONS:
            for choice in question.choices:
                for name, value in choice.sets.items():
                    setattr(self.kitchen, name, value)
                self.kitchen.full_clean(exclude=["owner"])
                self.say(**choice.sets)
                self.assertEqual(self.client.post("/kitchen/", self.sent()).status_code, 302, choice.word)

    def test_nonsense_asks_again_and_goes_nowhere_else(self) -> None:
        page = self.client.post("/kitchen/five-taps/", {"measure": "thumb", "where": "us"})
        self.assertContains(page, QUESTIONS[0].asks)
        for bad in ("https://elsewhere.example/", "//elsewhere.example", "javascript:1", "x"):
            later = self.client.post("/kitchen/five-taps/", {"later": "1", "onward": bad})
            self.assertRedirects(later, "/bowls/")


class KitchenPage(ProfileTests):
    def test_what_was_not_touched_keeps_its_last_digit(self) -> None:
        self.say(room_c=21.37)
        for units in (AMERICAN, {"mass_unit": "g", "temperature_unit": "C", "length_unit": "mm"}) * 2:
            self.assertEqual(self.client.post("/kitchen/", self.sent(**units)).status_code, 302)
            self.kitchen.refresh_from_db()
            self.assertEqual(self.kitchen.room_c, 21.37)
        self.client.post("/kitchen/", self.sent(room_c="warm"))
        self.kitchen.refresh_from_db()
        self.assertEqual(self.kitchen.room_c, 25.0)

    def test_names_zones_and_two_windows(self) -> None:
        sent = self.sent(name="Hill", zone="Europe/Lisbon", room_c="24,5", has_scale="no")
        self.assertEqual(self.client.post("/kitchen/", sent).status_code, 302)
        self.assertEqual(self.client.post("/kitchen/", {**sent, "room_c": "18"}).status_code, 409)
        self.kitchen.refresh_from_db()
        self.assertEqual((self.kitchen.name, self.kitchen.room_c, self.kitchen.has_scale), ("Hill", 24.5, False))
        for name, values in (
            ("room_c", ("", "nan", "inf", "90", "-5", "tepid", "9" * 400)),
            ("zone", ("Moon/Crater",)),
        ):
            for bad in values:
                page = self.client.post("/kitchen/", {**sent, "version": "2", name: bad})
                self.assertEqual(page.status_code, 422, bad)
                self.assertIn(name, page.context["form"].errors)

    def test_ways_that_do_not_go_together_are_said(self) -> None:
        for changes, field in (
            ({"has_fridge": "no", "setting_school": "fridge"}, "setting_school"),
            ({"power_w": "20"}, "power_w"),
            ({"region": "moon"}, "region"),
            ({"mass_unit": ""}, "mass_unit"),
        ):
            page = self.client.post("/kitchen/", self.sent(**changes))
            self.assertEqual(page.status_code, 422, changes)
            self.assertIn(field, page.context["form"].errors)

    def test_the_sentence_follows_while_it_is_ticked(self) -> None:
        texts = [
            live(self.client, "/kitchen/live/", self.sent(**change)).json()["parts"]
            for change in (
                {},
                {"has_scale": "no"},
                {"has_thermometer": "yes"},
                {"temperature_unit": "F"},
                {"melting_school": "double_boiler"},
                {"setting_school": "freezer"},
                {"thinner_school": "shortening"},
                {"room_c": "29"},
                AMERICAN,
            )
        ]
        self.assertEqual(len({t["answer"] + t["follows"] for t in texts}), len(texts) - 1, "°F says nothing by the lip")
        self.assertFalse(Kitchen.objects.get(pk=self.kitchen.pk).profile_said)


class EverythingFollows(ProfileTests):
    def as_shown(self, address: str) -> dict[str, object]:
        """What a page sends when nothing on it is touched."""
        form = self.client.get(address).context["form"]
        with read_in(lambda: self.kitchen.measures):
            return {n: form[n].value() for n in form.fields if form[n].value() is not None}

    def test_ounces_fahrenheit_and_inches_on_every_page(self) -> None:
        self.say(**AMERICAN, has_thermometer=True)
        bowl = bowl_for(half_dip(self.kitchen))
        self.client.post(f"/bowls/{bowl.pk}/did/", step(bowl, **add(self.kitchen, bright=11), temperature_c="102"))
        event = BowlEvent.objects.get(bowl=bowl, kind="added")
        self.assertAlmostEqual(event.payload["mass_g"], 11 * 28.349523125, places=6)
        for address in (f"/bowls/{bowl.pk}/", f"/pieces/jobs/{bowl.job_id}/", "/", "/kitchen/", "/bowls/"):
            page = self.client.get(address).content.decode().split("<main")[1].split("</main")[0]
            said = re.sub(r"<[^>]*>|drop 0.04 g, likely 0.032 g to 0.048 g", " ", page)
            self.assertEqual(re.findall(r"\d ?(?:g|mm|°C|cm²)\s", said), [], address)
            self.assertTrue("oz" in said or address == "/bowls/", address)
        self.assertContains(self.client.get(f"/bowls/{bowl.pk}/"), "102 °F")

    def test_amounts_are_typed_in_any_unit_and_kept_as_typed(self) -> None:
        bowl = bowl_for(half_dip(self.kitchen))
        rows = add(self.kitchen, bright=0, palm_flakes=0, blue=0)
        typed = dict(zip(rows, ("3/4 bag", "2 tsp", "5 drops"), strict=True))
        self.client.post(f"/bowls/{bowl.pk}/did/", step(bowl, **typed, touch="warm"))
        masses = [e.payload.get("mass_g", e.payload.get("units")) for e in bowl.events.filter(kind="added")]
        self.assertEqual(masses, [255.0, 5, 9.0])
        self.assertContains(self.client.get(f"/bowls/{bowl.pk}/"), "3/4 bag Bright white coating added")
        for bad in ("lots", "3 bags of fun", "-1 oz", "900 oz", "1/0"):
            page = self.client.post(f"/bowls/{bowl.pk}/did/", step(bowl, **{next(iter(rows)): bad}))
            self.assertEqual(page.status_code, 422, bad)
            self.assertContains(page, f'value="{bad}"', status_code=422)

    def test_a_piece_in_inches_is_a_piece_in_mm(self) -> None:
        job = half_dip(self.kitchen).job
        self.client.post(f"/pieces/jobs/{job.pk}/build/", {**DATA, "name": "Rings", "d0": "2 3/8 in", "d1": "0,8 cm"})
        piece = Piece.objects.get(name="Rings")
        self.assertAlmostEqual(piece.size["mm"][0], 60.325)
        self.say(**AMERICAN)
        sent = self.as_shown(f"/pieces/{piece.pk}/build/")
        self.assertEqual(sent["d0"], "2 3/8 in")
        self.client.post(f"/pieces/{piece.pk}/build/", {**sent, "do": "save"})
        self.assertAlmostEqual(Piece.objects.get(pk=piece.pk).size["mm"][0], 60.325)
        self.assertEqual(Piece.objects.get(pk=piece.pk).size["mm"][1], 8.0)

    def test_a_bag_keeps_its_grams_when_it_reads_in_ounces(self) -> None:
        ivory = Ingredient.objects.with_parameters().get(kitchen=self.kitchen, code="ivory")
        self.say(**AMERICAN)
        sent = self.as_shown(f"/cupboard/{ivory.pk}/")
        self.assertEqual(sent["bag_g"], "12 oz")
        self.client.post(f"/cupboard/{ivory.pk}/", sent)
        again = Ingredient.objects.with_parameters().get(pk=ivory.pk)
        self.assertEqual([p.value for p in again.history()["bag_g"]], [340.0])

    def test_own_hands_are_what_a_day_is_planned_with(self) -> None:
        job = half_dip(self.kitchen).job
        day = self.client.get(f"/day/{job.pk}/").context["plan"].makespan_s
        self.assertContains(self.client.get("/kitchen/hands/"), 'placeholder="15"')
        sent = {"version": self.kitchen.version, "dip": "45"}
        self.assertEqual(self.client.post("/kitchen/hands/", {**sent, "dip": "soon"}).status_code, 422)
        self.assertEqual(self.client.post("/kitchen/hands/", {**sent, "dip": "0"}).status_code, 422)
        self.assertEqual(self.client.post("/kitchen/hands/", sent).status_code, 302)
        self.assertEqual(self.client.post("/kitchen/hands/", sent).status_code, 409)
        later = self.client.get(f"/day/{job.pk}/").context["plan"].makespan_s
        self.assertGreater(later - day, 26 * 30 - 60)
        self.assertContains(self.client.get("/kitchen/hands/"), "your own pace for <em>1</em> technique,")

    def test_the_thinner_of_the_school_is_proposed_and_in_the_cupboard(self) -> None:
        self.client.post("/kitchen/", self.sent(thinner_school="coconut_oil"))
        self.kitchen.refresh_from_db()
        self.assertTrue(Ingredient.objects.get(kitchen=self.kitchen, code="coconut_oil").stocked)
        self.assertEqual(Stock.of(self.kitchen).cupboard("coating", self.kitchen).thinner.name, "coconut_oil")
        self.assertEqual(Stock.of(self.kitchen).cupboard("untempered", self.kitchen).thinner.name, "cocoa_butter")
        bowl = Bowl.objects.with_colour().with_layers().get(pk=bowl_for(cake_drip(self.kitchen)).pk)
        self.assertIn("coconut_oil", [p.ingredient.name for p in Desk.of(bowl, self.kitchen).proposal.additions])

    def test_melting_setting_and_region_are_said_where_they_matter(self) -> None:
        bowl = bowl_for(half_dip(self.kitchen))
        Ingredient.objects.filter(kitchen=self.kitchen, code="white_dispersion").update(stocked=True)
        self.say(cupboard_version=self.kitchen.cupboard_version + 1)
        self.assertContains(self.client.get(f"/bowls/{bowl.pk}/"), "Microwave at half power")
        self.say(melting_school="double_boiler", has_fridge=False, has_freezer=False, room_c=29.0, region="eu")
        self.assertContains(self.client.get(f"/bowls/{bowl.pk}/"), "water that does not touch the bowl")
        self.assertContains(self.client.get("/"), "Your kitchen is too warm for it to set")
        self.assertNotIn(
            "white_dispersion", [c.name for c in Stock.of(self.kitchen).cupboard("coating", self.kitchen).colourants]
        )
        self.client.post(f"/bowls/{bowl.pk}/did/", step(bowl, **add(self.kitchen, bright=290, white_dispersion=4)))
        self.assertContains(self.client.get(f"/bowls/{bowl.pk}/"), "not allowed in food in the EU")
