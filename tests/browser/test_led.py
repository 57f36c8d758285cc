"""Melted burst by burst with one reading too hot, the spoon, the spread with its minute, and thinning by halves."""

from __future__ import annotations

from datetime import timedelta

from django.utils import timezone

from studio.bowls.models import Bowl, Timer
from studio.cupboard.models import Ingredient
from tests.browser.browsing import BrowserTest


class Led(BrowserTest):
    def test_from_lumps_to_a_tested_bowl(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        self.visit("/bowls/")
        self.press("Begin it")
        self.press("Melt it step by step")
        self.assertIn("all lumps", self.find(".melt-state").text)
        self.press("Done, stirred")
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
        self.assertRegex(self.find("[data-timer-left]").text, r"^(1:00|0:5\d)$")
        Timer.objects.update(rings_at=timezone.now() + timedelta(seconds=2))
        self.browser.refresh()
        self.until(lambda: self.find("[data-timer-left]").text == "now")
        self.assertIn("measure the spread", self.find("[data-timer-rings]").get_attribute("textContent") or "")
        self.assertIn("Now:", self.browser.title)
        self.press("Stop")
        self.assertEqual(self.all("[data-timer]"), [])
        asked = self.find("[data-live-part=answer]").get_attribute("innerHTML") or ""
        self.type("#id_diameter_mm", "5.8 cm")
        self.until_changes("[data-live-part=answer]", asked)
        self.assertIn("It stands at", self.find("[data-live-part=answer]").text)
        self.press("Note what it says")
        self.assertIn("Spread test: stands at", self.find(".history").text)

    def thins_by_halves(self) -> None:
        for _ in range(6):
            if self.find("[data-role=did-this]").get_attribute("class").find("btn-primary") < 0:
                break
            self.press("I did this")
        self.assertIn("right for this dip", self.role("answer").text)
        bowl = Bowl.objects.order_by("pk").last()
        assert bowl is not None
        fat = Ingredient.objects.get(kitchen=bowl.kitchen, code="palm_flakes").pk
        doses = [e.payload["mass_g"] for e in bowl.events.all() if e.payload.get("ingredient") == fat]
        self.assertGreater(len(doses), 1, "fat went in by halves")
        self.assertEqual(doses, sorted(doses, reverse=True))
