"""Three evenings with a strong blue; what is left, when it is set, and a yes."""

from __future__ import annotations

import uuid
from datetime import timedelta

from coating.colour.cie import hex_from_lab
from coating.colour.fitting import with_strength
from coating.colour.mixing import Part, mix
from coating.heat.times import sets_where
from studio.accounts.models import Kitchen
from studio.bowls.actions import append, begin_bowl
from studio.bowls.models import Bowl, BowlEvent, Timer
from studio.colours.models import Colour
from studio.common import clock
from studio.cupboard.actions import cupboard_changed
from studio.cupboard.stock import Stock
from tests.browser.browsing import BrowserTest

STRONG = {"blue": 1.4}


class ThreeEvenings(BrowserTest):
    def test_the_third_bowl_knows_the_blue(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        kitchen = Kitchen.objects.latest("pk")
        BowlEvent.objects.filter(kitchen=kitchen, kind="read").delete()  # of earlier evenings
        cupboard_changed(kitchen)
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


class TapsAndAYes(BrowserTest):
    def test_what_is_left_when_it_is_set_and_a_yes(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        kitchen = Kitchen.objects.latest("pk")
        for _ in range(4):
            bowl = self.coat_that_sets(kitchen)
        self.visit(f"/bowls/{bowl.pk}/waits/")
        self.follow(self.find(".wait-places button"))
        self.find(".timer button[value=set]").click()
        self.assertEqual(Timer.objects.exclude(set_at=None).count(), 5)
        self.visit("/learned/")
        self.assertIn("for your yes", self.find("h1").text)
        self.press("Yes, go by my records")
        self.assertIn("setting times", self.find("h1").text)
        ready = Bowl.objects.get(kitchen=kitchen, name="Ivory, plain")
        self.visit(f"/bowls/{ready.pk}/")
        self.find(".left-over summary").click()
        self.find(".left-over label:has([value=quarter])").click()
        self.find("button[form=done]").click()
        used = ready.events.get(kind="used").payload
        self.assertAlmostEqual(used["left_g"] / (used["mass_g"] + used["left_g"]), 0.25, delta=0.01)
        self.browser.resize("phone")
        self.visit("/learned/")
        self.no_sideways_scroll()

    def coat_that_sets(self, kitchen: Kitchen) -> Bowl:
        """A warm bowl with a measured coat that set a third later than it should."""
        bowl = begin_bowl(kitchen, name="Plain", white="coating", colour=None)
        rows = {row.code: row for row in Stock.of(kitchen).rows}
        added = {"ingredient": rows["bright"].pk, "mass_g": 200.0, "pins": {}}
        append(bowl, [("added", added), ("warmed", {"to_c": 40.0})], expected_seq=0, key=uuid.uuid4())
        about = {"pour_c": 40.0, "surround_c": kitchen.room_c, "place": "room", "white": "coating", "sides": 1.8}
        given = {**about, "until": "release", "thickness_mm": 1.3, "measured": True}
        long = timedelta(minutes=1.33 * sets_where("coat", 1.3, white="coating", pour_c=40.0)["room"].release_min)
        at = clock.now()
        Timer.objects.create(
            kitchen=kitchen,
            bowl=bowl,
            says="coat",
            seconds=600,
            rings_at=at + timedelta(seconds=600) - long,
            stopped_at=at,
            set_at=at,
            about=given,
        )
        return bowl
