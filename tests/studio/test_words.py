"""Numbers as a kitchen says them, and what the band and the history say."""

import re
from collections.abc import Iterator
from datetime import timedelta
from unittest import mock
from zoneinfo import ZoneInfo

from django.template import Context, Template
from django.test import Client, SimpleTestCase, TestCase
from django.utils import timezone

from coating.colour.mixing import Part
from coating.quantities import Measures
from coating.stock.ingredients import DEMO_INGREDIENTS, demo_ingredient
from studio.accounts.models import Kitchen
from studio.bowls.adapters import Desk
from studio.bowls.history import history
from studio.bowls.models import Bowl
from studio.common.measures import read_in
from studio.common.templatetags import kitchen as words
from studio.common.templatetags import pictures
from studio.common.templatetags.words import stressed
from studio.cupboard.actions import STARTER, change_ingredient
from studio.cupboard.adapters import bag_g, core_ingredient, curve_from, curve_json
from studio.cupboard.models import Ingredient
from studio.cupboard.stock import Stock
from tests.studio.kitchens import add, bowl_for, half_dip, maker, step
from tests.studio.voice import faults


class Filters(SimpleTestCase):
    def test_minutes(self) -> None:
        said = {20: "under a minute", 60: "about 1 min", 95: "about 1.5 min", 170: "about 3 min", 1500: "about 25 min"}
        for seconds, text in said.items():
            self.assertEqual(words.minutes(seconds), text)
        self.assertEqual(words.minutes(None), "")
        self.assertEqual(words.minutes(-5), "under a minute")

    def test_warmth_by_what_the_kitchen_has(self) -> None:
        with read_in(lambda: Measures(has_thermometer=True)):
            self.assertEqual([words.warmth(t) for t in (38.2, 28.5)], ["38 °C", "28.5 °C"])
        spoken = [words.warmth(t) for t in (46, 39, 33, 28.5, 20)]
        self.assertEqual(len(set(spoken)), 5)
        self.assertEqual(spoken[2], "neither warm nor cold")

    def test_amounts(self) -> None:
        blue, red = demo_ingredient("blue"), demo_ingredient("red_powder")
        self.assertEqual(words.amount(Part(blue, 0.04)), "1 drop")
        self.assertEqual(words.amount(Part(blue, 0.2)), "5 drops")
        self.assertEqual(words.amount(Part(blue, 4.0)), "100 drops (4 g)")
        self.assertEqual(words.amount(Part(red, 0.1)), "2 pinches")
        self.assertEqual(words.amount(Part(demo_ingredient("ivory"), 240.3)), "240 g")
        butter, ivory = Part(demo_ingredient("cocoa_butter"), 9.0), Part(demo_ingredient("ivory"), 100.0)
        pairs = [(words.measured(p, 200.0), words.also(p, 200.0)) for p in (butter, ivory, Part(blue, 0.2))]
        self.assertEqual(pairs, [("9 g", "2 teaspoons"), ("100 g", "about 20 squares"), ("5 drops", "")])
        with read_in(lambda: Measures("oz", has_scale=False)):
            self.assertEqual((words.measured(ivory, 200.0), words.also(ivory, 200.0)), ("about 20 squares", "3.5 oz"))
            self.assertEqual((words.measured(Part(blue, 0.2)), words.also(Part(blue, 0.2))), ("5 drops", ""))

    def test_in_a_sentence(self) -> None:
        self.assertEqual(words.colour_word("Blue oil colour"), "blue")
        self.assertEqual(words.colour_word("Palm flakes"), "palm flakes")
        self.assertEqual(words.dipped(0.5), "half dipped")
        self.assertEqual(words.dipped(0.4), "40 % dipped")
        self.assertEqual({words.falls(w) for w in words.FLOW_VERBS}, set(words.FLOW_VERBS.values()))

    def test_when(self) -> None:
        now = timezone.now()
        for ago, text in ((10, "just now"), (600, "10 min ago"), (3 * 3600, "3 h ago")):
            self.assertEqual(words.when(now - timedelta(seconds=ago), now), text)
        self.assertNotIn("ago", words.when(now - timedelta(days=9), now))

    def test_what_a_maker_typed_is_escaped(self) -> None:
        page = Template("{{ name|lower_first }}").render(Context({"name": "<b>Comet</b>"}))
        self.assertEqual(page, "&lt;b&gt;Comet&lt;/b&gt;")

    def test_shades(self) -> None:
        self.assertEqual(words.hexed((100, 0, 0)), "#ffffff")
        self.assertEqual(words.hexed(None), "#dcdcdb")
        self.assertFalse(pictures.on_screen((60, -120, 20)))


class Adapters(TestCase):
    def test_a_copied_ingredient_is_the_ingredient(self) -> None:
        _, kitchen, _ = maker()
        rows = Ingredient.objects.for_kitchen(kitchen).with_parameters()
        self.assertEqual({r.code for r in rows}, set(STARTER))
        for row in rows:
            self.assertEqual(core_ingredient(row), DEMO_INGREDIENTS[row.code])
            self.assertTrue(row.invented)
        self.assertEqual(bag_g(rows.get(code="ivory")), 340)

    def test_curves_survive_json(self) -> None:
        for ingredient in DEMO_INGREDIENTS.values():
            self.assertEqual(curve_from(curve_json(ingredient.absorption)), ingredient.absorption)

    def test_what_is_not_stocked_is_not_proposed(self) -> None:
        _, kitchen, _ = maker()
        names = {c.name for c in Stock.of(kitchen).cupboard("coating", kitchen).colourants}
        self.assertNotIn("white_dispersion", names)
        self.assertEqual(Stock.of(kitchen).cupboard("coating", kitchen).thinner.name, "palm_flakes")
        self.assertEqual(Stock.of(kitchen).cupboard("tempered", kitchen).thinner.name, "cocoa_butter")
        flakes = Ingredient.objects.with_parameters().get(kitchen=kitchen, code="palm_flakes")
        change_ingredient(flakes, expected=1, name="Palm flakes", stocked=False, values={})
        kitchen.refresh_from_db()
        self.assertEqual(Stock.of(kitchen).cupboard("coating", kitchen).thinner.name, "shortening")


class BandAndHistory(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.bowl = bowl_for(half_dip(self.kitchen))
        self.address = f"/bowls/{self.bowl.pk}/"

    def did(self, **fields: object) -> None:
        self.client.post(f"{self.address}did/", step(self.bowl, **fields))

    def test_the_band_says_empty_ready_cool_and_set(self) -> None:
        self.assertContains(self.client.get("/cupboard/"), "empty · not started")
        self.did(**add(self.kitchen, bright=290, palm_flakes=12), touch="warm")
        item = self.client.get("/cupboard/").context["band"][0]
        self.assertEqual((item.word, item.needs), ("folds", "ready"))
        self.assertGreater(item.left_s, 300)
        for minutes, expected in ((27, "rewarm it"), (600, "set · remelt to use")):
            later = timezone.now() + timedelta(minutes=minutes)
            with mock.patch("studio.common.clock.now", return_value=later):
                self.assertContains(self.client.get("/cupboard/"), expected)

    def test_nobody_has_a_band_of_bowls(self) -> None:
        self.client.logout()
        self.assertEqual(self.client.get("/").context["band"], [])

    def test_history_reads_as_it_happened_last_first(self) -> None:
        self.did(**add(self.kitchen, bright=290, blue=5), touch="warm")
        self.did(number="40")
        desk = Desk.of(Bowl.objects.with_colour().get(pk=self.bowl.pk), self.kitchen)
        lines = [line.text for line in history(desk)]
        self.assertEqual(lines[0], "Flow number set to 40")
        self.assertEqual(lines[-1], "290 g Bright white coating added")
        self.assertIn("Warmed until it feels warm on the lip", lines)
        strikeable = {line.text for line in history(desk) if line.can_strike}
        self.assertNotIn("Stirred", strikeable)

    def test_times_follow_the_kitchens_zone(self) -> None:
        self.did(**add(self.kitchen, bright=290), touch="warm")
        self.kitchen.zone = "Pacific/Auckland"
        self.kitchen.save()
        self.client.post(f"{self.address}done/", step(self.bowl, used_g="10"))
        done = Bowl.objects.get(pk=self.bowl.pk).finished_at
        local = timezone.localtime(done, ZoneInfo("Pacific/Auckland"))
        self.assertContains(self.client.get("/bowls/"), f"{local.hour}:{local:%M}")


# What only an engineer would say, or what a template says when it has nothing to say.
FOREIGN = r"\b(None|nan|inf|null|True|False|default|provenance|seq|ΔE|payload|kerf|run-out|e-\d\d)\b|\{\{|&lt;|  %"


class Voice(SimpleTestCase):
    def test_what_would_be_read_twice_is_found(self) -> None:
        form = '<form><label for="a">Tier diameter</label><input id="a"></form>'
        good = f'<h1 class="answer">Melt <em>280 g</em>.</h1>{form}'
        self.assertEqual(faults(good), [])
        for label in ("and wide", "It ran", "L", "From"):
            self.assertTrue(faults(good.replace("Tier diameter", label)), label)
        self.assertTrue(faults(good.replace("</form>", "<label>Tier diameter</label></form>")))
        self.assertTrue(faults(good.replace("280 g", "280 g, " + "then wait " * 13)))
        self.assertTrue(faults(good.replace("280 g", "280 g, off by 2.5")))

    def test_what_is_stressed_is_escaped(self) -> None:
        self.assertEqual(stressed("Melt *280 g* of <b>, 2 * 3"), "Melt <em>280 g</em> of &lt;b&gt;, 2 * 3")


class EveryPage(TestCase):
    """Read aloud: demo and empty kitchens, in grams and degrees and in bags and touch."""

    def pages(self, client: Client) -> Iterator[tuple[str, str]]:
        """Addresses reached by following links, and what their main part holds."""
        ahead, seen = ["/", "/bowls/", "/nowhere/"], set[str]()
        while ahead:
            address = ahead.pop()
            if address in seen:
                continue
            seen.add(address)
            page = client.get(address, follow=True).content.decode()
            yield address, page.split("<main")[1].split("</main>")[0]
            ahead += [a for a in re.findall(r'href="(/[a-z/0-9-]*)"', page) if not a.startswith("/static")]

    def read(self, client: Client) -> int:
        count = 0
        for address, main in self.pages(client):
            text = re.sub(r"<(svg|title|script).*?</\1>|<[^>]+>", " ", main, flags=re.DOTALL)
            self.assertIsNone(re.search(FOREIGN, text), f"{address}: {re.findall(FOREIGN, text)}")
            self.assertRegex(main, r"<h1|answer", address)
            self.assertEqual(faults(main), [], address)
            self.assertRegex(main, r"<a |<button", f"{address} leads nowhere")
            count += 1
        return count

    def test_every_page_that_links_lead_to(self) -> None:
        _, empty, client = maker()
        spoons = {"has_scale": False, "mass_unit": "oz", "length_unit": "in", "temperature_unit": "F", "region": "us"}
        demo = Client()
        demo.post("/demo/open/")
        for visitor, least in ((Client(), 5), (client, 20), (demo, 30)):
            self.assertGreater(self.read(visitor), least)
        Kitchen.objects.exclude(pk=empty.pk).update(**spoons, has_thermometer=False, melting_school="boil_and_off")
        self.assertGreater(self.read(demo), 30)
