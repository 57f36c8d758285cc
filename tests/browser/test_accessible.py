"""axe-core finds nothing on any page, at desk, tablet and phone size."""

from __future__ import annotations

from pathlib import Path

from selenium.webdriver.common.by import By

from tests.browser.browsing import BrowserTest

AXE = (Path(__file__).parent / "vendor" / "axe.min.js").read_text()
ASK = """
const done = arguments[arguments.length - 1];
axe.run({runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]})
  .then((found) => done(found.violations.map((v) => `${v.id}: ${v.nodes[0].html.slice(0, 160)}`)));
"""
OPEN_PAGES = ("/", "/sign-up/", "/log-in/", "/password/forgotten/", "/about/", "/nowhere/")
ROOMS = ("/bowls/", "/pieces/", "/pieces/jobs/new/", "/cupboard/", "/kitchen/")


class Accessible(BrowserTest):
    def unexpected(self, complaints: list[str]) -> list[str]:
        return [c for c in super().unexpected(complaints) if "404" not in c]

    def look(self, address: str) -> None:
        self.visit(address)
        for size in ("desk", "tablet", "phone"):
            self.browser.resize(size)
            self.browser.execute_script(AXE)
            self.assertEqual(self.browser.execute_async_script(ASK), [], f"{address} at {size}")
        self.browser.resize("desk")

    def test_pages_for_everybody(self) -> None:
        for address in OPEN_PAGES:
            self.look(address)

    def test_the_rooms(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        pages = [self.browser.current_url, *(self.live_server_url + room for room in ROOMS)]
        for address, link in (("/pieces/", ".line-link"), ("/cupboard/", ".shelf a"), ("/bowls/", "li .line-link")):
            self.visit(address)
            pages.append(self.find(link).get_attribute("href") or "")
        self.browser.get(pages[-3])
        pages.append(self.find(".pieces h2 a").get_attribute("href") or "")
        for page in pages:
            self.look(page.removeprefix(self.live_server_url))

    def test_a_page_with_something_wrong_on_it(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        self.click(self.find("details.more summary"))
        self.type("input[aria-label^=Blue]", "lots")
        self.until(lambda: self.browser.find_elements(By.CSS_SELECTOR, "[data-live-error]"))
        self.browser.execute_script(AXE)
        self.assertEqual(self.browser.execute_async_script(ASK), [])
