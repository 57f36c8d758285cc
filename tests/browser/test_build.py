"""A filled praline built from pictures and defaults: a mistake told, put in order, saved, its bowl begun."""

from __future__ import annotations

from studio.pieces.models import Piece
from tests.browser.browsing import BrowserTest


class Building(BrowserTest):
    def test_a_filled_praline_with_sticks(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        self.visit("/pieces/")
        self.follow(self.find(".line-link"))
        self.press("Build one")
        self.press("Mould")
        for layer in ("lid of coating", "shell", "filling"):
            self.press(f"+ {layer}")
        self.assertIn("Fill it before the lid goes on", self.role("answer").text)
        self.press("Put them in order")
        order = [e.text for e in self.all(".stack-head b")]
        self.assertEqual(order, ["Shell", "Filling", "Lid of coating"])
        said = self.role("answer").text
        self.type("#id_count", "24")
        self.until(lambda: self.role("answer").text != said and self.role("answer").text.startswith("24 and"))
        self.type("#id_0-thickness_mm", "thick")
        self.until(lambda: self.all(".errorlist"))
        self.type("#id_0-thickness_mm", "2 mm")
        self.until(lambda: not self.all(".errorlist"))
        self.drags_the_lid_first_and_back()
        self.type("#id_name", "Nebula pralines")
        self.press("Add it to the job")
        self.assertIn("Nebula pralines", self.find(".pieces").text)
        self.assertEqual(Piece.objects.get(name="Nebula pralines").count, 24)
        self.no_sideways_scroll()
        self.press("Nebula pralines")
        for size in ("tablet", "phone"):
            self.browser.resize(size)
            self.no_sideways_scroll()

    def drags_the_lid_first_and_back(self) -> None:
        """A drag is sent as the browser would send it; the typed thickness stays with its layer."""
        drag = """
        const [from, to] = [document.querySelector(arguments[0]), document.querySelector(arguments[1])];
        const data = new DataTransfer();
        for (const [what, name] of [[from, 'dragstart'], [to, 'dragover'], [to, 'drop']])
          what.dispatchEvent(new DragEvent(name, {bubbles: true, cancelable: true, dataTransfer: data}));
        """
        for places, first in (((2, 0), "Lid of coating"), ((0, 2), "Shell")):
            self.browser.execute_script(drag, *(f"[data-place='{p}']" for p in places))
            self.until(lambda first=first: self.find(".stack-head b").text == first)
        self.assertEqual(self.find("#id_0-thickness_mm").get_attribute("value"), "2 mm")
