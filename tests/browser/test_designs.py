"""Lace from a picture to paper, with a bowl too stiff at first; a shape of one's own; words; a turned cake."""

from __future__ import annotations

import tempfile
from pathlib import Path

from selenium.webdriver.common.action_chains import ActionChains

from studio.designs.models import Design, Shape
from tests.browser.browsing import BrowserTest
from tests.studio.kitchens import drawn_g

FETCHED = """
const done = arguments[arguments.length - 1];
fetch(arguments[0]).then(async (r) => done([r.status, r.headers.get("content-type"),
  new TextDecoder("latin1").decode((await r.arrayBuffer()).slice(0, 5))]));
"""
TURN = """
const slider = document.querySelector("[name=turn]");
slider.value = 90;
slider.dispatchEvent(new Event("input", {bubbles: true}));
"""
MOON = (
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 40"><circle cx="20" cy="20" r="15"/><text>x</text></svg>'
)


class Designing(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        self.visit("/")
        self.press("Open the demo kitchen")

    def answer(self) -> str:
        return self.role("answer").text

    def titled(self) -> str:
        return self.find("figure title").get_attribute("textContent") or ""

    def test_lace_from_choice_to_paper(self) -> None:
        self.begins_a_bowl_that_is_too_stiff()
        self.finds_it_too_stiff_in_the_studio()
        self.thins_it()
        self.picks_another_pattern_and_sees_whether_it_holds()
        self.gets_it_on_paper()

    def begins_a_bowl_that_is_too_stiff(self) -> None:
        self.visit("/pieces/")
        self.follow(self.find(".line-link"))
        self.job = self.browser.current_url
        row = "//tr[contains(., 'Plain')]//button[normalize-space()='Start a bowl']"
        self.follow(self.browser.find_element("xpath", row))
        self.bowl = self.browser.current_url
        self.type("input[aria-label^='Bright white coating']", "60 g")
        said = self.answer()
        self.type("#id_temperature_c", "33")
        self.until(lambda: self.answer() != said)
        self.press("I did this")

    def finds_it_too_stiff_in_the_studio(self) -> None:
        self.browser.get(self.job)
        self.press("As designed: Collar of star arcs")
        self.assertIn("is too stiff for this", self.answer())
        self.until(lambda: "one piece" in self.find(".held").text)
        self.browser.get(self.bowl)

    def thins_it(self) -> None:
        said = self.answer()
        self.type("#id_temperature_c", "42")
        self.until(lambda: self.answer() != said)
        self.follow(self.role("did-this"))
        self.press("Take it out")
        for _ in range(4):
            if self.all("[data-role=did-this]"):
                self.follow(self.role("did-this"))
        self.browser.get(self.job)
        self.press("As designed: Collar of star arcs")
        self.assertNotIn("too stiff", self.answer())

    def picks_another_pattern_and_sees_whether_it_holds(self) -> None:
        before = self.inside("[data-live-part=picture]")
        self.tap("input[name=pattern][value=swags]")
        self.until_changes("[data-live-part=picture]", before)
        self.until(lambda: self.all(".held-ring"))
        self.assertIn("thinnest join", self.find(".held").text)
        said = self.answer()
        self.type("#id_height_mm", "60 mm")
        self.until(lambda: self.answer() != said)
        self.type("#id_line_mm", "12 mm")
        self.until(lambda: "fills the pattern" in self.find("[data-live-message]").text)
        self.type("#id_line_mm", "2 mm")
        self.until(lambda: not self.find("[data-live-message]").is_displayed())

    def gets_it_on_paper(self) -> None:
        self.press("Save design")
        self.assertIn("is kept", self.find("main").text)
        design = Design.objects.get(name="Collar of star arcs")
        assert design.layer is not None
        self.assertEqual((design.asked["pattern"], design.asked["height_mm"]), ("swags", 60.0))
        self.assertAlmostEqual(drawn_g(design.layer), design.drawn["goes_on_g"], places=2)
        address = self.find("a[href*='film=1']").get_attribute("href")
        for end in ("", "&paper=Letter"):
            got = self.browser.execute_async_script(FETCHED, f"{address}{end}")
            self.assertEqual(got, [200, "application/pdf", "%PDF-"])
        for size in ("tablet", "phone"):
            self.browser.resize(size)
            self.no_sideways_scroll()

    def drag(self, begin: tuple[float, float], end: tuple[float, float]) -> None:
        """A pass of the skewer, from one share of the slab to another."""
        slab = self.find("[data-marble]")
        self.browser.execute_script("arguments[0].scrollIntoView({block: 'center', behavior: 'instant'})", slab)
        box = self.browser.execute_script("return arguments[0].getBoundingClientRect().toJSON()", slab)
        (a, b), (c, d) = ((round((x - 0.5) * box["width"]), round((y - 0.5) * box["height"])) for x, y in (begin, end))
        chain = ActionChains(self.browser).move_to_element_with_offset(slab, a, b).click_and_hold()
        chain.move_by_offset(c - a, d - b).release().perform()

    def passes(self) -> list[str]:
        data = "return [...document.querySelectorAll('.steps-list li')].map((li) => li.textContent)"
        return [text for text in self.browser.execute_script(data) if text.startswith("A skewer through")]

    def test_a_slab_by_drawing_three_passes(self) -> None:
        self.visit("/studio/new/marbling/")
        self.tap("input[name=rhythm][value=none]")
        self.until(lambda: not self.passes())
        plain = self.inside(".slab")
        for count, (begin, end) in enumerate(
            (((0.1, 0.3), (0.9, 0.3)), ((0.9, 0.6), (0.1, 0.6)), ((0.5, 0.1), (0.5, 0.9))), 1
        ):
            self.drag(begin, end)
            self.until(lambda count=count: len(self.passes()) == count)
        self.assertIn("to the right", self.passes()[0])
        self.assertIn("to the left", self.passes()[1])
        self.assertIn("down", self.passes()[2])
        address = f"{self.live_server_url}{self.find('[data-marble]').get_attribute('href')}"
        got = self.browser.execute_async_script(FETCHED, address)
        self.assertEqual(got[:2], [200, "image/png"])
        self.assertNotEqual(self.inside(".slab"), plain)
        self.tap("[data-marble-back]")
        self.until(lambda: len(self.passes()) == 2)
        self.press("Save design")
        self.assertEqual(len(Design.objects.filter(kind="marbling").latest("pk").asked["strokes"]), 2)
        self.assertEqual(len(self.passes()), 2)
        self.no_sideways_scroll()

    def test_squares_round_a_dessert_to_a_printed_cut_plan(self) -> None:
        self.visit("/studio/")
        self.follow(self.find("a[href='/studio/new/transfer/']"))
        self.type("#id_diameter_mm", "90 mm")
        self.until(lambda: "6 go round each dessert bent to it" in self.answer())
        self.tap("input[name=printed][value='1']")
        self.until(lambda: len(self.all(".plan-piece")) == 36)
        self.tap("input[name=around][value=flat]")
        self.until(lambda: "round each dessert flat" in self.answer())
        self.assertEqual(len(self.all(".plan-piece")), 42)  # pi/atan(42/90) is 7.2: seven on each of six
        self.tap("details.also summary")
        self.type("#id_sheet_w_mm", "35 mm")
        self.until(lambda: "must be between" in self.find("form.design").text)
        self.type("#id_sheet_w_mm", "300 mm")
        self.type("#id_sheet_h_mm", "200 mm")
        self.until(lambda: "from 2 sheets" in self.answer())
        self.press("Save design")
        design = Design.objects.filter(kind="transfer").latest("pk")
        self.assertEqual((design.drawn["films"], len(design.sheets)), (2, 2))
        self.assertEqual(sum(len(sheet.areas) for sheet in design.sheets), 42)
        address = self.find("a[href*='film=1']").get_attribute("href").split("?")[0]
        for paper in ("A4", "Letter"):
            got = self.browser.execute_async_script(FETCHED, f"{address}?paper={paper}")
            self.assertEqual(got, [200, "application/pdf", "%PDF-"])
        self.no_sideways_scroll()

    def test_a_shape_of_ones_own_words_and_a_turned_cake(self) -> None:
        self.visit("/studio/")
        self.press("Bring a shape of your own")
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "full moon.svg"
            file.write_text(MOON)
            self.find("#id_file").send_keys(str(file))
            self.press("Bring it in")
        self.assertIn("left out: text", self.answer())
        self.press("Save and use it")
        self.assertTrue(self.find(".own-pick input").is_selected())
        self.assertIn("by 60 mm", self.answer())
        self.press("Save design")
        self.assertEqual(Shape.objects.get().name, "full moon")
        self.visit("/studio/new/lettering/")
        self.type("#id_text", "Zoë, look up")
        self.until(lambda: "nothing blocks up" in self.answer() and "Zoë" in self.titled())
        self.type("#id_line_mm", "6 mm")
        self.until(lambda: "would block up" in self.answer())
        self.visit("/studio/new/drips/")
        before = self.inside(".tier-view")
        self.browser.execute_script(TURN)
        self.until_changes(".tier-view", before)
        self.visit("/studio/bag/")
        self.type("#id_line_mm", "3 mm")
        self.until(lambda: "a line of 3 mm" in self.answer())
