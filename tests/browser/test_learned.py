"""Three evenings with a strong blue: the third bowl goes by the first two, and says why."""

from __future__ import annotations

import uuid

from coating.colour.cie import hex_from_lab
from coating.colour.fitting import with_strength
from coating.colour.mixing import Part, mix
from studio.accounts.models import Kitchen
from studio.bowls.actions import append, begin_bowl
from studio.bowls.models import Bowl
from studio.colours.models import Colour
from studio.cupboard.stock import Stock
from tests.browser.browsing import BrowserTest

STRONG = {"blue": 1.4}


class ThreeEvenings(BrowserTest):
    def test_the_third_bowl_knows_the_blue(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        for drops in (6, 9):
            bowl, lab = self.stirred(drops)
            self.visit(f"/bowls/{bowl.pk}/colour/")
            self.assertEqual(self.all(".taught"), [])
            self.type("#id_hex", hex_from_lab(lab))
            self.press("Note the reading")
        third, _ = self.stirred(4)
        self.visit(f"/bowls/{third.pk}/colour/")
        self.assertIn("your own blue oil colour, about a third stronger", self.find(".taught").text)
        self.press("it looks right")
        self.press("Why?")
        self.assertIn("your own blue oil colour", self.find("h1").text)
        self.assertIn("about a third stronger than its label", self.find(".learned").text)
        self.assertGreaterEqual(len(self.all(".learned-dot")), 2)
        self.press("Use the label instead")
        self.assertIn("What was assumed is used", self.find("main").text)
        self.press("Use what was learned")
        self.browser.resize("phone")
        self.no_sideways_scroll()

    def stirred(self, drops: int) -> tuple[Bowl, tuple[float, float, float]]:
        """A new bowl with so many drops of a blue that is stronger than its label, and its colour."""
        kitchen = Kitchen.objects.latest("pk")
        stock = Stock.of(kitchen)
        rows = {row.code: row for row in stock.rows}
        white, blue = stock.cores[rows["bright"].pk], stock.cores[rows["blue"].pk]
        colour = Colour.objects.filter(kitchen=kitchen, name="Dusk blue").get()
        bowl = begin_bowl(kitchen, name=f"Blue, {drops} drops", white="coating", colour=colour)
        lines = [
            ("added", {"ingredient": rows["bright"].pk, "mass_g": 200.0, "pins": {}}),
            ("warmed", {"to_c": 38.0}),
            ("added", {"ingredient": rows["blue"].pk, "units": drops, "pins": {}}),
        ]
        append(bowl, lines, expected_seq=0, key=uuid.uuid4())
        return bowl, mix([Part(white, 200.0), Part(with_strength(blue, STRONG), drops * blue.unit_g)]).lab()
