"""axe-core finds nothing on any page at desk and phone size, nor on the main ones on a tablet."""

from __future__ import annotations

from pathlib import Path

from django.contrib.sessions.models import Session
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from studio.pieces.models import Job
from tests.browser.browsing import BrowserTest
from tests.studio.kitchens import PASSWORD, maker

AXE = (Path(__file__).parent / "vendor" / "axe.min.js").read_text()
ASK = """
const done = arguments[arguments.length - 1];
axe.run({runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]})
  .then((found) => done(found.violations.map((v) => `${v.id}: ${v.nodes[0].html.slice(0, 160)}`)));
"""
OPEN_PAGES = (
    *("/", "/sign-up/", "/log-in/", "/password/forgotten/", "/password/sent/", "/password/new/x/y/"),
    *("/about/", "/nowhere/"),
)
FIVE = "/kitchen/five-taps/?measure=scale&warmth=lip&melt=hob&room=hot"
COLOURS = (
    *("/colours/", "/colours/sheet/", "/colours/new/", "/colours/new/?way=photo", "/colours/new/?way=bowl"),
    *("/colours/new/?way=numbers", "/colours/try/?lab=32,48,24", "/colours/ladder/", "/colours/coats/"),
    "/colours/water/",
)
ROOMS = (
    *("/bowls/", "/pieces/", "/pieces/jobs/new/", "/cupboard/", "/kitchen/", "/kitchen/five-taps/", FIVE),
    *COLOURS,
    "/pieces/bring/",
    "/cupboard/extras/",
    "/cupboard/extras/new/?kind=filling",
    "/cupboard/extras/new/?kind=mould",
    "/day/",
    "/studio/",
    "/studio/bag/",
    "/studio/shapes/bring/",
    *("/wrong/", "/wrong/lace_breaks/?since_min=30&place=room&thickness_mm=1.5", "/wrong/burnt_smell/"),
    *("/notebook/", "/notebook/find/?words=comet", "/notebook/back/", "/notebook/archive/"),
    *("/wrong/why/", "/wrong/why/?q=lace", "/wrong/why/grey/", "/wrong/why/cause/water/", "/wrong/why/sheet/"),
)
KINDS = (
    *("lace", "drips", "lettering", "run_out", "face", "marbling", "bottle", "swirl"),
    *("transfer", "bow", "cast", "mould", "dip", "paint", "house"),
)


class Accessible(BrowserTest):
    def unexpected(self, complaints: list[str]) -> list[str]:
        return [c for c in super().unexpected(complaints) if "404" not in c]

    def look(self, address: str, sizes: tuple[str, ...] = ("desk", "phone")) -> None:
        self.visit(address)
        self.browser.execute_script(AXE)
        for size in sizes:
            self.browser.resize(size)
            self.assertEqual(self.browser.execute_async_script(ASK), [], f"{address} at {size}")
        self.browser.resize("desk")

    def test_pages_for_everybody(self) -> None:
        for address in OPEN_PAGES:
            self.look(address)

    def test_the_rooms(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        rooms = (*ROOMS, *(f"/studio/new/{kind}/" for kind in KINDS))
        pages = [self.browser.current_url, *(self.live_server_url + room for room in rooms)]
        for address, link in (("/pieces/", ".line-link"), ("/cupboard/", ".board a"), ("/bowls/", "li .line-link")):
            self.visit(address)
            pages.append(self.find(link).get_attribute("href") or "")
        self.browser.get(pages[-3])
        pages.append(self.find(".pieces h2 a").get_attribute("href") or "")
        bowl = pages[0]
        pages += [f"{bowl}{more}" for more in ("melt/", "drip/", "uses/", "temper/", "tests/?by=bag", "tests/?by=drip")]
        self.visit("/day/")
        pages.append(self.find("a[href$='/bench/']").get_attribute("href") or "")
        self.visit("/colours/")
        colour = self.find(".book-shade").get_attribute("href") or ""
        job = pages[len(rooms) + 1]
        of_job = ("build/", "build/?begin=filled", "inside/", "boxes/", "choices/", "shopping/", "?together=1")
        pages += [f"{job}{room}" for room in of_job]
        pages += [colour, f"{colour}shades/", f"{bowl}colour/", f"{pages[len(rooms) + 2]}measure/"]
        number = bowl.rstrip("/").rsplit("/", 1)[-1]
        pages += [f"{self.live_server_url}/wrong/{sign}?bowl={number}" for sign in ("", "clumpy/", "too_dark/")]
        self.visit("/notebook/")
        evening = self.all(".evening-line")[1].get_attribute("href") or ""
        pages += [evening, f"{evening}close/", f"{evening}again/?times=2"]
        numbers = [address.rstrip("/").rsplit("/", 1)[-1] for address in (evening, job)]
        pages.append(f"{self.live_server_url}/notebook/compare/?one={numbers[0]}&other={numbers[1]}")
        for page in pages:
            self.look(page.removeprefix(self.live_server_url), ("desk",))
        for page in (bowl, job, f"{job}shopping/", "/studio/", "/studio/new/lace/", "/colours/", "/cupboard/"):
            self.look(page.removeprefix(self.live_server_url), ("tablet", "phone"))
        rescue = (
            evening,
            f"{evening}close/",
            "/notebook/",
            "/wrong/",
            f"/wrong/clumpy/?bowl={number}",
            "/wrong/why/sheet/",
        )
        for page in ("/pieces/", "/day/", "/kitchen/", f"{bowl}melt/", f"{job}build/", *rescue):
            self.look(page.removeprefix(self.live_server_url), ("phone",))

    def test_an_empty_kitchen_and_what_waited_for_a_log_in(self) -> None:
        maker("quiet@example.org")
        self.visit("/log-in/")
        self.type("#id_username", "quiet@example.org")
        self.type("#id_password", PASSWORD + Keys.ENTER)
        self.until(lambda: "/bowls/" in self.browser.current_url)
        for room in ROOMS:
            self.look(room, ("phone",))
        self.visit("/pieces/jobs/new/")
        Session.objects.all().delete()
        self.type("#id_name", "Open evening")
        self.press("Start this job")
        self.assertIn("Back to your kitchen", self.find("h1").text)
        self.type("#id_username", "quiet@example.org")
        self.type("#id_password", PASSWORD + Keys.ENTER)
        self.until(lambda: "/send-again/" in self.browser.current_url)
        self.assertIn("Open evening", self.find("main").text)
        self.look("/send-again/")
        self.press("Send it now")
        self.assertIn("Open evening", self.find("main").text)
        self.assertEqual(Job.objects.get().name, "Open evening")

    def test_text_twice_as_large(self) -> None:
        """Nothing is cut off and nothing goes sideways."""
        self.visit("/")
        self.press("Open the demo kitchen")
        bowl = self.browser.current_url.removeprefix(self.live_server_url)
        job = Job.objects.get(name="Comet night").pk
        of_job = [f"/pieces/jobs/{job}/{room}" for room in ("", "shopping/", "boxes/", "build/?core=ball")]
        for page in ("/", bowl, *of_job, f"/day/{job}/", f"/day/{job}/bench/", "/studio/new/lace/", "/cupboard/"):
            self.visit(page)
            self.browser.execute_script("document.documentElement.style.fontSize = '200%'")
            self.no_sideways_scroll()

    def test_the_list_of_keys(self) -> None:
        self.visit("/")
        self.click(self.find("[data-keys-open]"))
        self.browser.execute_script(AXE)
        self.assertEqual(self.browser.execute_async_script(ASK), [])

    def test_a_page_with_something_wrong_on_it(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        self.click(self.find("details.more summary"))
        self.type("input[aria-label^=Blue]", "lots")
        self.until(lambda: self.browser.find_elements(By.CSS_SELECTOR, "[data-live-error]"))
        data = self.find("input[aria-label^=Blue]").get_attribute("aria-describedby") or ""
        self.assertIn(self.find("[data-live-error]").get_attribute("id"), data.split())
        self.browser.execute_script(AXE)
        self.assertEqual(self.browser.execute_async_script(ASK), [])
