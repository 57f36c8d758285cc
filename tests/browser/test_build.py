"""Pieces built from pictures and defaults: a praline layer by layer, and each of six kinds of job in a few taps."""

from __future__ import annotations

from studio.pieces.models import Piece
from tests.browser.browsing import BrowserTest


class Building(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        self.visit("/")
        self.press("Open the demo kitchen")
        self.visit("/pieces/")
        self.follow(self.find(".line-link"))
        self.job = self.browser.current_url.removeprefix(self.live_server_url)

    def begin(self, title: str) -> None:
        self.visit(f"{self.job}build/")
        self.press(title)

    def put_on(self, *titles: str) -> None:
        for title in titles:
            tile = f"//button[@class='put-pick'][normalize-space()='{title}']"
            self.follow(self.browser.find_element("xpath", tile))

    def test_a_filled_praline_with_sticks(self) -> None:
        self.begin("Mould")
        self.put_on("Lid of coating", "Shell", "Filling")
        self.assertIn("Fill it before the lid goes on", self.role("answer").text)
        self.press("Put them in order")
        self.assertEqual(self.layers(), ["Shell", "Filling", "Lid of coating"])
        said = self.role("answer").text
        self.type("#id_count", "24")
        self.until(lambda: self.role("answer").text != said and self.role("answer").text.startswith("24 and"))
        self.tap(".stack-list details summary")
        self.type("#id_0-thickness_mm", "thick")
        self.until(lambda: self.all(".errorlist"))
        self.type("#id_0-thickness_mm", "2 mm")
        self.until(lambda: not self.all(".errorlist"))
        grams = self.find(".layer-line").text
        self.tap(".stack-list li:first-child label[title='Midnight'] input")
        self.until(lambda: "midnight" in self.find(".layer-line").text and grams != self.find(".layer-line").text)
        self.drags_the_lid_first_and_back()
        self.type("#id_name", "Nebula pralines")
        self.press("Add it to the job")
        self.assertIn("Nebula pralines", self.find("main").text)
        self.assertEqual(Piece.objects.get(name="Nebula pralines").count, 24)
        self.no_sideways_scroll()
        self.press("Nebula pralines")
        for size in ("tablet", "phone"):
            self.browser.resize(size)
            self.no_sideways_scroll()

    def layers(self) -> list[str]:
        return [e.text for e in self.all(".stack-list .layer-says b")]

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
            self.until(lambda first=first: self.layers()[:1] == [first])
        self.assertEqual(self.find("#id_0-thickness_mm").get_attribute("value"), "2 mm")

    def test_the_six_in_a_few_taps(self) -> None:
        """Each from its picture and its defaults; the core's tests weigh by hand what each asks of its bowls."""
        self.begin("Half-dipped biscuits")
        self.tap(".also label[title='Apricot'] input")
        self.press("Add it to the job")
        self.assertIn("Half-dipped biscuits, apricot", self.find("main").text)
        self.assertEqual([p.count for p in Piece.objects.filter(name__startswith="Half-dipped")], [12, 12])
        for title, named in (
            ("Filled shapes on sticks", "Lid of coating"),
            ("Marbled slab", "Marbling"),
            ("Layered cups", "Fill a mould solid"),
        ):
            self.begin(title)
            self.assertIn(named, self.layers())
            self.assertIn("melt at least", self.role("answer").text)
            self.press("Add it to the job")
            self.assertIn(title, self.find("main").text)
        self.begin("Dipped berries")
        for colour in ("Apricot", "Plum", "Lemon ice"):
            self.tap(f".also label[title='{colour}'] input")
        self.until(lambda: "in 4 colours" in self.role("answer").text)
        self.press("Add it to the job")
        berries = Piece.objects.filter(name__startswith="Dipped berries")
        self.assertEqual([p.count for p in berries], [6, 6, 6, 6])
        self.begin("House of panels")
        self.assertEqual([p.count for p in Piece.objects.filter(family__name="House of panels")], [2, 2, 2])
        self.assertIn("glue", self.find("main").text.lower())
        for page, says in (
            ("What is in it", "Soft ganache"),
            ("Boxes", "in all"),
            ("Other ways", "becomes the next"),
            ("Shopping", "What a piece costs"),
        ):
            self.press(page)
            self.assertIn(says, self.find("main").text)
            self.no_sideways_scroll()
