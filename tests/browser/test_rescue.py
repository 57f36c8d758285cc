"""Something is wrong: a bowl too hot is saved, water is refused, lace breaks at the bench; by keyboard, by phone."""

from __future__ import annotations

from datetime import timedelta

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl
from studio.day.models import DayEvent, DayPlan
from studio.rescue.models import Rescue
from studio.work.worker import work_off
from tests.browser.browsing import BrowserTest
from tests.studio.designing import laced


class SomethingsWrong(BrowserTest):
    def tearDown(self) -> None:
        self.browser.execute_script("localStorage.clear()")
        super().tearDown()

    def demo_bowl(self) -> Bowl:
        self.visit("/")
        self.press("Open the demo kitchen")
        return Bowl.objects.get(pk=int(self.browser.current_url.rstrip("/").split("/")[-1]))

    def see(self, sign: str) -> None:
        self.follow(self.find(f".see-tile[href*='/wrong/{sign}/']"))

    def reads(self, temperature: str) -> None:
        before = self.inside("[data-live-part=answer]")
        self.type("[name=temperature_c]", temperature)
        self.until_changes("[data-live-part=answer]", before)
        self.follow(self.role("did-this"))

    def test_a_bowl_too_hot_is_saved(self) -> None:
        bowl = self.demo_bowl()
        self.reads("62 °C")
        self.press("Something's wrong")
        self.assertIn("no more heat", self.find(".rescue-coming").text)
        self.see("clumpy")
        self.assertIn("too hot", self.find("h1").text)
        self.assertIn("More heat would make it worse for good", self.find(".rescue-because").text)
        amount = self.find(".rescue-answer em:last-of-type").text
        self.press("I stirred that in")
        self.press("It is right again")
        self.assertIn(amount.split(" (")[0].lower(), self.find(".history").text.lower())
        self.assertIn("Lumps in it (too hot): thin it a little. It helped.", self.find(".trouble-line").text)
        self.assertEqual(Rescue.objects.latest("pk").bowl_id, bowl.pk)

    def test_water_is_refused_and_a_fresh_bowl_begun_on_a_phone(self) -> None:
        bowl = self.demo_bowl()
        self.browser.resize("phone")
        self.press("Something's wrong")
        self.no_sideways_scroll()
        self.see("stiffening")
        self.no_sideways_scroll()
        for look, answer in (("water_seen", "There is water"), ("lip", "Hot"), ("squash", "Feels sandy")):
            if f"look-{look}" in self.inside(".rescue-look"):
                self.press(answer)
        self.visit(f"/wrong/stiffening/?bowl={bowl.pk}&look-water_seen=yes&look-lip=warm&wet=yes")
        self.assertIn("nothing brings it back", self.find("h1").text)
        self.assertIn("It still does for a filling", self.find(".rescue-beyond").text)
        anew = self.find(".rescue-beyond em").text
        self.press("Begin a fresh bowl")
        self.assertNotIn(f"/bowls/{bowl.pk}/", self.browser.current_url)
        self.assertIn(f"Melt {anew}", self.find("[data-live-part=answer]").text)

    def test_lace_breaks_at_the_bench_and_the_day_follows(self) -> None:
        self.demo_bowl()
        DayPlan.objects.all().delete()
        job = laced(Kitchen.objects.get(is_demo=True)).job_id
        self.visit(f"/day/{job}/")
        self.press("Plan my day")
        while work_off():
            pass
        self.until(lambda: "Planned" in self.find(".day-state").text)
        self.visit(f"/day/{job}/bench/")
        while "Lay it round" not in self.find(".bench-big").text:
            before, count = self.inside(".bench-big"), DayEvent.objects.count()
            self.click(self.find("button[value=done]"))
            self.until(lambda: DayEvent.objects.count() > count and self.inside(".bench-big") != before)  # noqa: B023
        for event in DayEvent.objects.all():
            DayEvent.objects.filter(pk=event.pk).update(happened_at=event.happened_at - timedelta(minutes=50))
        self.browser.refresh()
        self.press("Something's wrong")
        self.see("lace_breaks")
        self.assertIn("too late", self.find("h1").text)
        self.assertIn("it bends until", self.find(".rescue-because").text)
        self.press("I pipe panels")
        self.press("It is better")
        self.assertIn("/bench/", self.browser.current_url)
        self.assertNotIn("Lay it round", self.find(".bench-big").text)
        self.assertEqual(DayEvent.objects.latest("pk").kind, "again")

    def test_by_keyboard_alone(self) -> None:
        self.demo_bowl()
        self.reads("62")
        keys = ActionChains(self.browser)
        self.browser.execute_script("document.activeElement.blur(); window.leaving = true")
        keys.send_keys("w").perform()
        self.until(lambda: "What do you see?" in self.find("h1").text)
        tile = self.find(".see-tile[href*='/wrong/thick/']")
        self.browser.execute_script("arguments[0].focus()", tile)
        ActionChains(self.browser).send_keys(Keys.ENTER).perform()
        self.until(lambda: "/wrong/thick/" in self.browser.current_url and self.all(".rescue-answer"))
        ActionChains(self.browser).send_keys("d").perform()
        self.until(lambda: "/wrong/done/" in self.browser.current_url)
        self.assertTrue(Rescue.objects.filter(symptom="thick").exists())
