"""Melted burst by burst with one reading too hot, the spoon, the spread with its minute, and thinning by halves."""

from __future__ import annotations

from datetime import timedelta
from unittest import mock

from django.utils import timezone

from studio.bowls.models import Bowl, Timer
from studio.common import clock
from studio.cupboard.models import Ingredient
from tests.browser.browsing import BrowserTest


class Led(BrowserTest):
    def test_from_lumps_to_a_tested_bowl(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        self.visit("/bowls/")
        self.press("Start a bowl")
        self.press("Melt it step by step")
        self.assertIn("nothing in it", self.find(".melt-state").text)
        self.press("It is in the bowl")
        self.assertIn("all lumps", self.find(".melt-state").text)
        self.press("Heated and stirred")
        self.press("Lumps")
        self.type("#id_temperature_c", "53 °C")
        self.press("Go by this reading")
        self.assertIn("Off the heat", self.find("h1").text)
        self.type("#id_temperature_c", "39")
        self.press("Go by this reading")
        self.assertIn("It is melted", self.find("h1").text)
        self.press("To the bowl")
        self.sees_the_spoon_and_tests_it()
        self.thins_by_halves()

    def sees_the_spoon_and_tests_it(self) -> None:
        self.follow(self.find(".ribbon-words button[value=mounds]"))
        self.assertIn("It falls in mounds", self.find(".history").text)
        self.press("test it")
        self.press("Start the minute")
        self.assertRegex(self.find("[data-timer-left]").text, r"^(1 min|5\d s)$")
        Timer.objects.update(rings_at=timezone.now() + timedelta(seconds=2))
        self.browser.refresh()
        self.until(lambda: self.find("[data-timer-left]").text == "now")
        self.assertIn("measure the spread", self.find("[data-timer-rings]").get_attribute("textContent") or "")
        self.assertIn("Now:", self.browser.title)
        self.press("Stop")
        self.assertEqual(self.all("[data-timer]"), [])
        query = self.find("[data-live-part=answer]").get_attribute("innerHTML") or ""
        self.type("#id_diameter_mm", "5.8 cm")
        self.until_changes("[data-live-part=answer]", query)
        self.assertIn("It stands at", self.find("[data-live-part=answer]").text)
        self.press("Note what it says")
        self.assertIn("Spread test: stands at", self.find(".history").text)

    def test_a_timer_half_an_hour_without_a_connection(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        self.visit("/bowls/")
        bowl = Bowl.objects.order_by("pk").last()
        assert bowl is not None
        at = timezone.now() + timedelta(minutes=40)
        Timer.objects.create(kitchen=bowl.kitchen, bowl=bowl, says="look at it", seconds=2400, rings_at=at)
        self.browser.refresh()
        self.assertRegex(self.find("[data-timer-left]").text, "^40 min$")
        self.browser.set_network_conditions(offline=True, latency=0, throughput=0)
        try:
            self.browser.execute_script("const real = Date.now; Date.now = () => real() + 1800000;")
            self.until(lambda: self.find("[data-timer-left]").text == "10 min")
        finally:
            self.browser.delete_network_conditions()
        later = timezone.now() + timedelta(minutes=30)
        with mock.patch.object(clock, "now", lambda: later):
            self.browser.refresh()
            self.assertRegex(self.find("[data-timer-left]").text, "^10 min$")

    def test_tempered_by_seed(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        self.visit("/pieces/")
        self.follow(self.find(".line-link"))
        self.press("Add a piece")
        self.press("Half-dipped biscuits")
        self.type("#id_name", "Shining discs")
        self.tap("input[name='0-colour'][value='']")
        self.tap("input[name='0-white'][value=tempered]")
        self.press("Add it to the job")
        rows = [row for row in self.all(".figures-table tbody tr") if "tempered" in row.text and "Plain" in row.text]
        self.follow(rows[0].find_element("css selector", ".act button"))
        self.assertIn("until it reads 45 °C", self.role("answer").text)
        self.press("I did this")
        self.press("Temper it")
        self.assertIn("Stir in up to", self.find("h1").text)
        for seed, reads, says in (("40 g", "31", "Nearly there"), ("", "28.6", "in temper"), ("", "25.4", "too far")):
            self.type("#id_seed_g", seed)
            self.type("#id_temperature_c", reads)
            self.press("Note it")
            self.assertIn(says, self.find("h1").text)
        bowl = Bowl.objects.order_by("-pk")[0]
        self.visit(f"/bowls/{bowl.pk}/melt/")
        self.assertIn("It has only cooled", self.find("h1").text)
        self.assertIn("temper is lost", self.find("main").text)
        self.press("Heated and stirred")
        self.visit(f"/bowls/{bowl.pk}/temper/")
        self.assertIn("in temper", self.find("h1").text)

    def test_a_drip_predicted_tried_and_done(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        self.visit("/pieces/")
        self.follow(self.find(".line-link"))
        rows = [row for row in self.all(".figures-table tbody tr") if "Midnight" in row.text]
        self.follow(rows[0].find_element("css selector", ".act button"))
        self.does_all()
        self.press("Take it out")
        self.does_all()
        self.assertIn("right for this drip", self.role("answer").text)
        self.press("See it run")
        before = self.find(".answer").text
        self.assertIn("For 45 mm squeeze", before)
        self.press("Try one at the back")
        self.type("#id_length_mm", "35 mm")
        self.until(lambda: "It stands at" in self.find("[data-live-part=answer]").text)
        self.press("Note what it says")
        self.assertIn("Test drip: stands at", self.find(".history").text)
        self.press("See it run")
        self.assertNotEqual(self.find(".answer").text, before)
        self.follow(self.find(".where a"))
        self.press("All dripped")
        bowl = Bowl.objects.get(name="Midnight, for the drips")
        self.assertIsNotNone(bowl.finished_at)
        used = bowl.events.get(kind="used").payload["mass_g"]
        self.assertTrue(15 < used < 45, used)

    def does_all(self) -> None:
        """Whatever the bowl's page says, until there is nothing more to do."""
        for _ in range(6):
            if not self.all("[data-role=did-this]"):
                break
            self.follow(self.role("did-this"))

    def thins_by_halves(self) -> None:
        self.does_all()
        self.press("Take it out")
        self.does_all()
        self.assertIn("this drip", self.role("answer").text)
        bowl = Bowl.objects.order_by("pk").last()
        assert bowl is not None
        fat = Ingredient.objects.get(kitchen=bowl.kitchen, code="palm_flakes").pk
        doses = [e.payload["mass_g"] for e in bowl.events.all() if e.payload.get("ingredient") == fat]
        self.assertGreater(len(doses), 1, "fat went in by halves")
        self.assertEqual(doses, sorted(doses, reverse=True))
