"""What most makers make most, from the first tap to paper: a filled mould, a dip that is painted, a house."""

from __future__ import annotations

from studio.designs.models import Design
from tests.browser.browsing import BrowserTest
from tests.browser.test_designs import FETCHED


class Making(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        self.visit("/")
        self.press("Open the demo kitchen")
        self.visit("/studio/")

    def answer(self) -> str:
        return self.role("answer").text

    def steps(self) -> str:
        return self.inside(".steps-list")

    def paper(self) -> None:
        """The template can be had on both papers."""
        address = self.find("a[href*='film=1']").get_attribute("href").split("?")[0]
        for paper in ("A4", "Letter"):
            got = self.browser.execute_async_script(FETCHED, f"{address}?paper={paper}")
            self.assertEqual(got, [200, "application/pdf", "%PDF-"])

    def test_a_filled_mould_from_its_picture_to_grams_and_cycles(self) -> None:
        self.follow(self.find("a[href='/studio/new/mould/']"))
        self.tap("input[name=preset][value=half_ball]")
        self.until(lambda: "4.9 g" in self.inside(".mould-parts"))
        self.type("#id_count", "60")
        self.type("#id_cavities", "15")
        self.until(lambda: "used 4 times" in self.answer() and "15 at once" in self.answer())
        self.type("#id_moulds", "2")
        self.until(lambda: "used twice" in self.answer())
        self.tap("details.also summary")
        self.type("#id_filling_ml", "30")
        self.until(lambda: "above the rim" in self.find("main").text)
        self.type("#id_filling_ml", "8")
        self.until(
            lambda: not self.find("[data-live-message]").is_displayed() and "8.8 g" in self.inside(".mould-parts")
        )
        self.assertIn("Filling: cool, and below the rim", self.steps())
        self.press("Save design")
        kept = Design.objects.filter(kind="mould").latest("pk")
        self.assertEqual((kept.asked["preset"], kept.asked["filling_ml"]), ("half_ball", 8.0))
        self.paper()
        self.no_sideways_scroll()

    def test_a_two_sided_dip_with_painted_details(self) -> None:
        self.follow(self.find("a[href='/studio/new/dip/']"))
        said = self.answer()
        self.tap("input[name=way][value=two_sided]")
        self.until(lambda: self.answer() != said and "dipped on two sides" in self.answer())
        self.assertIn("Now the other side", self.steps())
        self.press("Save design")
        self.visit("/studio/new/paint/")
        said = self.inside("[data-live-part=picture]")
        self.browser.execute_script("""
            const pick = document.querySelector("#id_paint2");
            pick.value = pick.options[3].value;
            pick.dispatchEvent(new Event("input", {bubbles: true}));
        """)
        self.until_changes("[data-live-part=picture]", said)
        self.until(lambda: self.answer().count("coat") == 4)
        said = self.inside("[data-live-part=picture]")
        self.tap("input[name=way][value=behind]")
        self.until(lambda: "the first one seen in front" in self.answer())
        self.assertIn("what was painted first is seen in front", self.steps())
        self.press("Save design")
        self.assertEqual(Design.objects.filter(kind="paint").latest("pk").asked["way"], "behind")
        for size in ("tablet", "phone"):
            self.browser.resize(size)
            self.no_sideways_scroll()

    def test_a_panel_house_from_dimensions_to_template_and_order(self) -> None:
        self.follow(self.find("a[href='/studio/new/house/']"))
        said = self.answer()
        self.type("#id_long_mm", "150 mm")
        self.until(lambda: self.answer() != said)
        self.type("#id_inside", "sweets, a light")
        self.until(lambda: "Put in sweets, a light before the roof" in self.answer())
        steps = self.steps()
        self.assertLess(steps.index("put in: a light"), steps.index("First roof half"))
        self.assertLess(steps.index("Back gable"), steps.index("Left side wall"))
        self.tap("details.also summary")
        self.type("#id_sweet_mm", "14 mm")
        self.until(lambda: "11 sweets go along the ridge" in self.answer())
        self.type("#id_thick_mm", "9.5 mm")
        self.type("#id_wide_mm", "30 mm")
        self.until(lambda: "no room inside" in self.find("main").text)
        self.type("#id_thick_mm", "5 mm")
        self.type("#id_wide_mm", "90 mm")
        self.until(lambda: not self.find("[data-live-message]").is_displayed())
        self.press("Save design")
        kept = Design.objects.filter(kind="house").latest("pk")
        self.assertEqual([sheet.title for sheet in kept.sheets][:2], ["Base", "Side wall, 2 of it"])
        self.assertAlmostEqual(kept.sheets[0].width_mm, 166 + 5, delta=1)  # as long as it is, with room round it
        self.paper()
        self.no_sideways_scroll()
