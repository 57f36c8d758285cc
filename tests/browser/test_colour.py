"""A colour from a photo with a card, its recipe, drop by drop with one surprise, brought back, kept in the book."""

from __future__ import annotations

import tempfile
from pathlib import Path

from PIL import Image
from selenium.webdriver.common.action_chains import ActionChains

from studio.bowls.models import Bowl
from studio.colours.models import Colour
from tests.browser.browsing import BrowserTest


class FromAPhoto(BrowserTest):
    def test_from_photo_to_swatch_book(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        self.press("Colours")
        self.press("A new colour")
        self.press("Like this photo")
        self.sends_a_photo()
        self.finds_a_recipe()
        self.is_led_with_a_surprise()
        self.brings_it_back_and_keeps_it()

    def sends_a_photo(self) -> None:
        """Lamplight: white paper on the left reads yellowish, the wanted blue on the right looks grey."""
        picture = Image.new("RGB", (800, 600), (110, 90, 70))
        picture.paste((232, 210, 178), (60, 80, 330, 520))
        picture.paste((127, 151, 150), (420, 80, 740, 520))
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "lamp.jpg"
            picture.save(file, quality=95)
            self.find("#id_picture").send_keys(str(file))
            self.press("Send it")
        self.tap_photo(0.72, 0.5)
        self.draw_patch()
        before = self.shade()
        self.choose("mark", "card")
        self.tap_photo(0.24, 0.5)
        self.until(lambda: "taken out by the card" in self.find("[data-live-part=answer]").text)
        self.assertNotEqual(self.shade(), before)
        self.no_sideways_scroll()
        self.press("Take this colour")

    def tap_photo(self, across: float, down: float) -> None:
        photo = self.find("[data-photo-picture]")
        self.browser.execute_script("arguments[0].scrollIntoView({block: 'center', behavior: 'instant'})", photo)
        marks = self.find("[data-live-part=marks]").get_attribute("innerHTML") or ""
        right, below = (int((share - 0.5) * photo.size[side]) for share, side in ((across, "width"), (down, "height")))
        ActionChains(self.browser).move_to_element_with_offset(photo, right, below).click().perform()
        self.until_changes("[data-live-part=marks]", marks)

    def draw_patch(self) -> None:
        """A stroke across the blue marks a patch as wide as the stroke."""
        photo = self.find("[data-photo-picture]")
        small = float(self.find(".mark-spot rect").get_attribute("width") or 0)
        marks = self.find("[data-live-part=marks]").get_attribute("innerHTML") or ""
        start = int(0.16 * photo.size["width"]), 0
        stroke = ActionChains(self.browser).move_to_element_with_offset(photo, *start).click_and_hold()
        stroke.move_by_offset(int(0.16 * photo.size["width"]), 20).release().perform()
        self.until_changes("[data-live-part=marks]", marks)
        self.assertGreater(float(self.find(".mark-spot rect").get_attribute("width") or 0), 2 * small)

    def shade(self) -> str:
        return self.find(".photo-shade rect").get_attribute("fill") or ""

    def choose(self, name: str, value: str) -> None:
        self.tap(f"[name={name}][value={value}]")

    def finds_a_recipe(self) -> None:
        self.assertRegex(self.role("answer").text, r"drops? .+ in 200 g bright white coating: (a match|close) to")
        first = self.role("answer").text
        self.choose("way", "fewest")
        self.until(
            lambda: self.role("answer").text != first or "Fewest bottles chosen" in self.find(".way-chosen").text
        )
        self.choose("way", "best")
        self.type("#id_melt_g", "150 g")
        self.until(lambda: "150 g bright" in self.role("answer").text)
        self.type("#id_melt_g", "much")
        self.until(lambda: self.all(".errorlist"))
        self.type("#id_melt_g", "150 g")
        self.until(lambda: not self.all(".errorlist"))
        self.type("#id_name", "Lamp blue")
        self.press("Make a bowl of it")
        self.assertIn("Lamp blue", self.find("h1").text)

    def is_led_with_a_surprise(self) -> None:
        for field in self.all(".add input"):
            if (field.get_attribute("value") or "").endswith("drops") or field.get_attribute("inputmode") == "numeric":
                self.browser.execute_script("arguments[0].value = ''", field)
        self.press("I did this")
        self.press("Drop by drop")
        self.press("Done, it looks like this")
        ahead = self.role("strip").text
        self.tap("[name=much]")
        self.press("a bit too green")
        self.assertNotEqual(self.role("strip").text, ahead)
        self.assertIn("From what you saw", self.find("main").text)

    def brings_it_back_and_keeps_it(self) -> None:
        bowl = Bowl.objects.latest("pk")
        self.visit(f"/bowls/{bowl.pk}/")
        black = self.find("[aria-label='Black oil colour to add']")
        self.browser.execute_script("arguments[0].closest('details').open = true", black)
        black.clear()
        black.send_keys("12")
        for field in self.all(".add input"):
            if field != black:
                self.browser.execute_script("arguments[0].value = ''", field)
        self.press("I did this")
        self.visit(f"/bowls/{bowl.pk}/colour/")
        self.assertIn("The bowl goes from", self.find("main").text)
        self.assertIn("bright white coating", self.role("colour-answer").text)
        self.press("I stirred that in")
        self.no_sideways_scroll()
        self.press("Save recipe")
        self.assertIn("is in your swatch book", self.find(".message").text)
        self.press("Swatch book")
        self.assertIn("Lamp blue", self.find(".book").text)
        self.assertIn("12 drops black", self.find(".book").text)
        self.assertTrue(Colour.objects.get(name="Lamp blue").made["parts"])

    def test_chart_by_keys_and_every_page_on_a_phone(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        self.visit("/colours/new/")
        stop = self.find("[data-chart] a[tabindex='0']")
        self.assertEqual(len(self.all("[data-chart] a[tabindex='0']")), 1)
        self.browser.execute_script("arguments[0].focus()", stop)
        ActionChains(self.browser).send_keys("\ue012").perform()  # left
        moved = self.browser.switch_to.active_element
        self.assertNotEqual(moved.get_attribute("href"), stop.get_attribute("href"))
        self.follow(moved)
        self.assertIn("/colours/try/", self.browser.current_url)
        colour, bowl = Colour.objects.latest("pk").pk, Bowl.objects.latest("pk").pk
        self.browser.resize("phone")
        for page in (
            "",
            "sheet/",
            "new/",
            "new/?way=photo",
            "new/?way=bowl",
            "new/?way=numbers",
            "ladder/",
            "coats/",
            "water/",
            f"{colour}/",
            f"{colour}/shades/",
        ):
            self.visit(f"/colours/{page}")
            self.no_sideways_scroll()
        self.visit(f"/bowls/{bowl}/colour/")
        self.no_sideways_scroll()
