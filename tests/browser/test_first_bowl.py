"""From an empty machine to half-dipped biscuits: what a maker does, end to end."""

from __future__ import annotations

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from studio.bowls.models import Bowl, BowlEvent
from tests.browser.browsing import BrowserTest
from tests.studio.kitchens import PASSWORD, maker

TOO_SMALL = """
return [...document.querySelectorAll("main p, main span, main small, main label, main dt, main li")]
  .filter((e) => e.innerText && e.offsetParent && parseFloat(getComputedStyle(e).fontSize) < 13.5)
  .map((e) => e.innerText.slice(0, 40));
"""


class FirstBowl(BrowserTest):
    def test_from_quick_card_to_dipped(self) -> None:
        self.taps_a_card()
        self.signs_up_and_keeps_it()
        self.says_the_kitchen_in_five_taps()
        self.fills_the_bowl()
        self.sees_everything_move()
        self.slips_and_strikes_out()
        self.reaches_the_bowl_from_the_band_and_finishes()
        self.comes_back_tomorrow()
        self.is_alone_in_the_kitchen()

    def taps_a_card(self) -> None:
        self.visit("/")
        before = self.role("answer").get_attribute("innerHTML") or ""
        self.tap("[data-set='24']")
        for name, value in (("depth", "half"), ("colour", "apricot"), ("white", "untempered")):
            self.tap(f"[name={name}][value={value}]")
        self.until(lambda: "apricot" in self.role("answer").text and "ivory" in self.role("answer").text)
        self.assertNotEqual(self.role("answer").get_attribute("innerHTML"), before)
        steps = [h.text.split()[-1] for h in self.all(".step-row h2")]
        self.assertEqual(steps, ["Melt", "Tint", "Thin", "Dip", "Wait", "Finish"])
        self.until(lambda: "colour=apricot" in self.browser.current_url)
        self.press("Save this card")

    def signs_up_and_keeps_it(self) -> None:
        self.assertIn("24 biscuits in apricot", self.find(".answer").text)
        self.type("#id_email", "comet@example.org")
        self.type("#id_password", PASSWORD)
        self.press("Save this and start")

    def says_the_kitchen_in_five_taps(self) -> None:
        for asks, answer in (
            ("measure", "With a scale"),
            ("warm it is", "A thermometer"),
            ("melt with", "A strong microwave"),
            ("kitchen today", "Ordinary"),
            ("is your kitchen", "Elsewhere, in grams"),
        ):
            self.assertIn(asks, self.find("h1").text)
            choice = f"//*[contains(@class, 'choice')][b[normalize-space()='{answer}']]"
            self.follow(self.browser.find_element(By.XPATH, choice))
        self.assertIn("Apricot, for 24 dipped biscuits", self.find("h1").text)
        kitchen = Bowl.objects.get().kitchen
        self.assertEqual((kitchen.power_w, kitchen.has_thermometer, kitchen.room_c), (1000.0, True, 21.0))

    def fills_the_bowl(self) -> None:
        for name in ("answer", "swatches", "ribbon", "band", "did-this"):
            self.assertTrue(self.role(name).is_displayed(), name)
        self.assertIn("Melt", self.role("answer").text)
        self.press("I did this")
        self.assertIn("Noted.", self.browser.page_source)
        kinds = list(BowlEvent.objects.values_list("kind", flat=True))
        self.assertEqual(sorted(set(kinds)), ["added", "stirred", "warmed"])

    def sees_everything_move(self) -> None:
        answer = self.role("answer").get_attribute("innerHTML") or ""
        ribbon = self.role("ribbon").get_attribute("innerHTML") or ""
        if not self.find("[aria-label='More Red oil colour']").is_displayed():
            self.click(self.find("details.more summary"))
        for _ in range(6):
            self.click(self.find("[aria-label='More Red oil colour']"))
        self.until_changes("[data-role=answer]", answer)
        self.until(lambda: len(self.all("[data-role=swatches] rect")) == 3)
        self.assertIn("another colour", self.role("swatches").text)
        self.type("#id_number", "60")
        self.until_changes("[data-role=ribbon]", ribbon)
        self.until(lambda: len(self.all("[data-role=ribbon] [data-pin]")) == 2)

    def slips_and_strikes_out(self) -> None:
        field = f"#{self.find('input[aria-label^=Red]').get_attribute('id')}"
        self.type(field, "lots")
        self.until(lambda: self.all("[data-live-error]"))
        self.assertEqual(self.find(field).get_attribute("value"), "lots")
        self.type(field, "40")
        self.until(lambda: not self.all("[data-live-error]"))
        self.press("I did this")
        self.assertIn("40 drops Red oil colour added", self.find(".history").text)
        self.follow(self.find("[aria-label='Strike out: 40 drops Red oil colour added']"))
        self.assertIn("40 drops Red oil colour added", self.find(".history s").text)

    def reaches_the_bowl_from_the_band_and_finishes(self) -> None:
        self.press("Cupboard")
        self.assertIn("Apricot", self.role("band").text)
        self.follow(self.find("[data-role=band] a"))
        self.assertIn("Apricot, for 24", self.find("h1").text)
        self.press("All dipped")
        self.assertNotIn("Apricot", self.role("band").text)

    def logs_in(self, email: str) -> None:
        self.browser.delete_all_cookies()
        self.visit("/log-in/")
        self.type("#id_username", email)
        self.type("#id_password", PASSWORD + Keys.ENTER)
        self.until(lambda: "/bowls/" in self.browser.current_url)

    def comes_back_tomorrow(self) -> None:
        self.press("Log out")
        self.logs_in("Comet@example.org")
        self.assertIn("Apricot", self.find("main").text)

    def is_alone_in_the_kitchen(self) -> None:
        maker("stranger@example.org")
        self.logs_in("stranger@example.org")
        self.assertNotIn("Apricot", self.browser.page_source)
        self.visit(f"/bowls/{Bowl.objects.get().pk}/")
        self.assertIn("no such page", self.find("main").text)

    def unexpected(self, complaints: list[str]) -> list[str]:
        return [c for c in super().unexpected(complaints) if "404" not in c]


class Rooms(BrowserTest):
    def test_demo_job_piece_and_bowl(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        self.assertGreaterEqual(len(self.all("[data-role=band] [data-curve]")), 3)
        self.press("Pieces")
        self.follow(self.find(".line-link"))
        self.assertIn("Melt", self.role("answer").text)
        self.press("Add a piece")
        self.press("Half-dipped biscuits")
        self.type("#id_name", "Ring plaques")
        self.type("#id_count", "40")
        self.until(lambda: "40 and 2 extra" in self.role("answer").text)
        self.tap(".stack-list li:first-child label[title='Plum'] input")
        self.until(lambda: "plum" in self.find(".layer-line").text)
        self.press("Add it to the job")
        row = self.browser.find_element(By.XPATH, "//tr[contains(., 'Plum')]")
        self.follow(row.find_element(By.CSS_SELECTOR, ".act button"))
        self.assertIn("Plum, for 40 ring plaques", self.find("h1").text)
        self.assertIn("Plum", self.role("band").text)

    def test_the_band_ticks_without_asking(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        shown = self.find("[data-band-warmth]").text
        self.browser.execute_script("const now = Date.now; Date.now = () => now() + 9e5")
        self.until(lambda: self.find("[data-band-warmth]").text != shown)

    def test_fits_every_size(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        bowl = self.browser.current_url.removeprefix(self.live_server_url)
        for size in ("desk", "tablet", "phone"):
            self.browser.resize(size)
            for address in ("/", bowl, "/bowls/", "/pieces/", "/cupboard/", "/kitchen/", "/about/"):
                self.visit(address)
                self.no_sideways_scroll()
                self.assertEqual(self.browser.execute_script(TOO_SMALL), [], f"{address} at {size}")

    def test_works_without_script(self) -> None:
        self.browser.execute_cdp_cmd("Emulation.setScriptExecutionDisabled", {"value": True})
        try:
            self.visit("/?count=6&size=small&depth=all&colour=plum&white=coating")
            self.assertIn("plum", self.find(".answer").text)
            self.press("Open the demo kitchen")
            self.find("input[aria-label^=Blue]").send_keys("1")
            self.press("I did this")
            self.assertIn("1 drop Blue oil colour added", self.find(".history").text)
        finally:
            self.browser.execute_cdp_cmd("Emulation.setScriptExecutionDisabled", {"value": False})


class TwoWindows(BrowserTest):
    def unexpected(self, complaints: list[str]) -> list[str]:
        return [c for c in super().unexpected(complaints) if "409" not in c]

    def test_a_second_window_is_told_and_keeps_what_was_typed(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        first = self.browser.current_window_handle
        address = self.browser.current_url
        self.browser.switch_to.new_window("tab")
        self.browser.resize("desk")
        self.browser.get(address)
        self.press("I did this")
        self.browser.close()
        self.browser.switch_to.window(first)
        field = f"#{self.find('input[aria-label^=Blue]').get_attribute('id')}"
        self.type(field, "7")
        self.press("I did this")
        self.assertIn("another window", self.find(".form-wrong").text)
        self.assertEqual(self.find(field).get_attribute("value"), "7")
        self.press("I did this")
        self.assertIn("7 drops Blue oil colour added", self.find(".history").text)

    def test_keyboard_alone_reaches_and_does_it(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        before = BowlEvent.objects.count()
        body = self.find("body")
        for _ in range(60):
            body = self.browser.switch_to.active_element
            if body.get_attribute("data-role") == "did-this":
                break
            body.send_keys(Keys.TAB)
        self.assertEqual(body.get_attribute("data-role"), "did-this")
        outline = self.browser.execute_script("return getComputedStyle(arguments[0]).outlineStyle", body)
        self.assertNotEqual(outline, "none", "focus is to be seen")
        body.send_keys(Keys.ENTER)
        self.until(lambda: BowlEvent.objects.count() > before)
