"""Keyboard, zoom, paper, calm: every page works for whoever comes, however they come."""

from __future__ import annotations

import base64
import re

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from studio.bowls.models import BowlEvent
from tests.browser.browsing import BrowserTest
from tests.studio.kitchens import PASSWORD

UNSEEN_FOCUS = """
const seen = (style) => style.outlineStyle !== "none" && parseFloat(style.outlineWidth) >= 2;
const able = "a[href], button, input:not([type=hidden]), select, textarea, summary";
const unseen = [];
for (const part of document.querySelectorAll(able)) {
  if (!part.getClientRects().length || part.disabled) continue;
  part.focus();
  if (document.activeElement !== part) continue;
  const shown = [part, part.nextElementSibling, part.parentElement.querySelector("svg")].filter(Boolean);
  if (!shown.some((each) => seen(getComputedStyle(each)))) unseen.push(part.outerHTML.slice(0, 90));
}
return unseen;
"""
WIDE = """
const room = document.documentElement.clientWidth + 1;
if (document.documentElement.scrollWidth <= room) return [];
return [...document.querySelectorAll("body *")]
  .filter((part) => part.getBoundingClientRect().right > room && !part.closest(".band-row"))
  .map((part) => part.outerHTML.slice(0, 80));
"""


class Keyboard(BrowserTest):
    """From the card to the last dip without a pointer."""

    MOST_TABS = 90

    def at(self) -> WebElement:
        return self.browser.switch_to.active_element

    def tab_to(self, css: str) -> WebElement:
        """Press Tab until the focus is on what `css` names."""
        wanted = self.find(css)
        for _ in range(self.MOST_TABS):
            if self.at() == wanted:
                return wanted
            self.at().send_keys(Keys.TAB)
        self.fail(f"Tab never comes to {css}")

    def enter(self, css: str) -> None:
        """Press Enter on it and wait for the page it leads to."""
        self.tab_to(css)
        self.browser.execute_script("window.leaving = true")
        self.at().send_keys(Keys.ENTER)
        self.until(lambda: self.browser.execute_script("return !window.leaving && document.readyState === 'complete'"))

    def test_from_the_card_to_the_last_dip(self) -> None:
        self.visit("/")
        self.tab_to("#id_count").send_keys(Keys.BACKSPACE * 3, "8")
        self.tab_to("[name=depth]:checked").send_keys(Keys.ARROW_RIGHT)
        self.tab_to("[name=colour]:checked").send_keys(Keys.ARROW_RIGHT)
        self.until(lambda: "Dip 8 biscuits" in self.role("answer").text and "sea glass" in self.role("answer").text)
        self.assertIn("depth=all", self.browser.current_url)
        self.browser.execute_script("document.activeElement.blur()")
        self.enter("[form=card]")
        self.tab_to("#id_email").send_keys("keys@example.org")
        self.tab_to("#id_password").send_keys(PASSWORD)
        self.enter("form.narrow .btn")
        for _ in range(5):
            self.enter(".choices li:first-child .choice")
        self.assertIn("Sea glass, for 8", self.find("h1").text)
        self.enter("[data-role=did-this]")
        self.tab_to("details.more summary").send_keys(Keys.ENTER)
        self.tab_to("details.more [data-unit=''] input").send_keys(Keys.BACKSPACE * 3, "2", Keys.ENTER)
        self.until(lambda: self.all("[aria-label^='Strike out: 2 drops']"))
        said = (self.find("[aria-label^='Strike out: 2 drops']").get_attribute("aria-label") or "").partition(": ")[2]
        self.enter(f"[aria-label='Strike out: {said}']")
        self.assertEqual(self.find(".history s").text, said)
        self.enter("[form=done]")
        self.assertIn("done and off the band", self.find(".message").text)
        self.enter("a[href='/pieces/']")
        self.enter(".line-link")
        self.enter(".head-row .btn")
        self.enter(".start-pick")
        self.tab_to("#id_name").send_keys("Rings", Keys.ENTER)
        self.until(lambda: "Rings" in self.find(".pieces").text)


class EveryWay(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        self.visit("/")
        self.press("Open the demo kitchen")
        self.bowl = self.browser.current_url.removeprefix(self.live_server_url)

    def pages(self) -> list[str]:
        result = [self.bowl, "/", "/bowls/", "/pieces/", "/pieces/jobs/new/", "/cupboard/", "/kitchen/", "/about/"]
        for address, link in (("/pieces/", ".line-link"), ("/cupboard/", ".board a")):
            self.visit(address)
            result.append((self.find(link).get_attribute("href") or "").removeprefix(self.live_server_url))
        self.visit(result[-2])
        for css in (".pieces h2 a", ".head-row .btn"):
            result.append((self.find(css).get_attribute("href") or "").removeprefix(self.live_server_url))
        job = result[-4]
        return [
            *result,
            *(f"{job}{room}" for room in ("build/?begin=filled", "inside/", "boxes/", "choices/", "shopping/")),
            "/kitchen/five-taps/",
            "/cupboard/extras/",
            *(f"{self.bowl}{more}" for more in ("melt/", "drip/", "uses/", "temper/", "tests/?by=drip")),
        ]

    def window(self, width: int, height: int) -> None:
        metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
        self.browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)

    def test_focus_is_seen_and_nothing_needs_scrolling_sideways_at_any_zoom(self) -> None:
        for address in self.pages():
            self.visit(address)
            self.browser.switch_to.active_element.send_keys(Keys.TAB)
            self.assertEqual(self.browser.execute_script(UNSEEN_FOCUS), [], address)
            for percent in (200, 400):
                self.window(1280 * 100 // percent, 1024 * 100 // percent)
                self.assertEqual(self.browser.execute_script(WIDE), [], f"{address} at {percent} %")
            self.browser.resize("desk")
            self.browser.execute_script("document.documentElement.style.fontSize = '200%'")
            self.assertEqual(self.browser.execute_script(WIDE), [], f"{address} with text twice as large")

    def test_paper(self) -> None:
        for address, sheets in (("/", 1), (self.bowl, 2), ("/pieces/", 2)):
            self.visit(address)
            paper = {"paperWidth": 8.27, "paperHeight": 11.69, "preferCSSPageSize": True, "printBackground": True}
            printed = base64.b64decode(self.browser.execute_cdp_cmd("Page.printToPDF", paper)["data"])
            self.assertLessEqual(len(re.findall(rb"/Type\s*/Page\b(?!s)", printed)), sheets, address)
            self.browser.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": "print"})
            try:
                self.assertTrue(self.find(".answer").is_displayed(), address)
                for css in (".rooms", ".band", ".foot", "main .btn", "main .link-button"):
                    for part in self.all(css):
                        self.assertFalse(part.is_displayed(), f"{css} on the paper of {address}")
            finally:
                self.browser.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": ""})

    def test_calm(self) -> None:
        calm = [{"name": "prefers-reduced-motion", "value": "reduce"}]
        moving = "return document.getAnimations().length"
        for features, least, most in (([], 1, 9), (calm, 0, 0)):
            self.browser.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": features})
            self.visit(self.bowl)
            before = self.role("ribbon").get_attribute("innerHTML") or ""
            self.browser.execute_script(
                "window.moved = 0; new MutationObserver(() => { window.moved = Math.max(window.moved, "
                "document.getAnimations().length); }).observe(document.querySelector('[data-role=ribbon]'), "
                "{childList: true, subtree: true});"
            )
            self.type("#id_number", "95")
            self.until_changes("[data-role=ribbon]", before)
            moved = self.browser.execute_script("return window.moved") + self.browser.execute_script(moving)
            self.assertTrue(least <= moved <= most, f"{moved} things moved")
        self.browser.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": []})

    def test_the_kitchen_page_shows_at_once_what_follows(self) -> None:
        self.visit("/kitchen/")
        said = self.find("[data-live-part=answer]").text
        self.assertIn("°C", said)
        for pick in (
            "mass_unit]:not(:checked)",
            "has_thermometer]:not(:checked)",
            "melting_school][value=double_boiler]",
        ):
            self.tap(f"[name={pick}")
        self.until(lambda: "oz" in self.find("[data-live-part=answer]").text)
        self.until(lambda: "finger of water" in self.find("[data-live-part=follows]").text)
        self.assertNotIn("°C", self.find("[data-live-part=answer]").text)
        self.press("Save kitchen")
        self.visit("/")
        self.assertIn(" oz", self.find(".answer").text)

    def test_one_letter_keys(self) -> None:
        before = BowlEvent.objects.count()
        self.key("?")
        listed = self.find("[data-keys-list]").text
        for words in ("I did this", "All dipped", "Pieces", "Dusk blue"):
            self.assertIn(words, listed)
        self.assertEqual(self.browser.switch_to.active_element.text, "Close")
        self.browser.switch_to.active_element.send_keys("d")
        self.assertEqual(BowlEvent.objects.count(), before, "no key acts while the list is open")
        self.browser.switch_to.active_element.send_keys(Keys.ENTER)
        self.type("#id_number", "d?")
        self.assertEqual(BowlEvent.objects.count(), before, "no key acts while something is typed")
        self.assertFalse(self.find("[data-keys]").is_displayed())
        self.visit(self.bowl)
        self.key("d")
        self.until(lambda: BowlEvent.objects.count() > before)
        self.until(lambda: "Noted." in self.browser.page_source)
        self.key("p")
        self.until(lambda: self.browser.current_url.endswith("/pieces/"))
        self.click(self.find("[data-keys-open]"))
        self.click(self.find("[data-keys-on]"))
        self.visit("/pieces/")
        self.key("b")
        self.key("?")
        self.assertFalse(self.find("[data-keys]").is_displayed(), "they can be switched off")
        self.assertTrue(self.browser.current_url.endswith("/pieces/"))
        self.browser.execute_script("localStorage.clear()")

    def key(self, letter: str) -> None:
        self.browser.find_element(By.TAG_NAME, "body").send_keys(letter)
