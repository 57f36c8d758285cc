"""A first evening in a kitchen of spoons and inches: two bags of one's own, two pieces, from signing up to shopping."""

from __future__ import annotations

import re

from studio.bowls.models import BowlEvent
from studio.pieces.models import Layer
from tests.browser.browsing import BrowserTest
from tests.studio.kitchens import PASSWORD

METRIC = r"\b\d[\d.,]* (?:mm|cm|ml|g|kg|°C)\b|\b0 oz\b"


class FirstEvening(BrowserTest):
    def test_from_signing_up_to_shopping(self) -> None:
        self.signs_up_in_spoons_and_inches()
        self.adds_a_red_and_a_dark_bag()
        self.makes_twelve_red_fingers_and_twelve_dark_marshmallows()
        self.shops_without_a_wrong_number()
        self.melts_by_eye()

    def says(self) -> str:
        said = self.find("main").text
        self.assertEqual(re.findall(METRIC, said), [], said)
        self.no_sideways_scroll()
        return said

    def signs_up_in_spoons_and_inches(self) -> None:
        self.visit("/sign-up/")
        self.type("#id_email", "evening@example.org")
        self.type("#id_password", PASSWORD)
        self.press("Make my kitchen")
        taps = self.browser.current_url.split("?")[0]
        self.browser.get(f"{taps}?measure=spoons&warmth=lip&melt=microwave&room=ordinary")
        self.follow(self.find("button[name=where][value=us]"))
        self.says()

    def adds_a_red_and_a_dark_bag(self) -> None:
        self.visit("/cupboard/add/")
        self.press("Coloured coating")
        self.tap(".shade-chart label[title='deep red'] input")
        self.press("Add it")
        self.visit("/cupboard/add/palm-dark/")
        self.press("Add it")
        self.assertIn("2 things in the cupboard", self.says())

    def makes_twelve_red_fingers_and_twelve_dark_marshmallows(self) -> None:
        self.visit("/pieces/jobs/new/")
        self.type("#id_name", "First evening")
        self.follow(self.find("main form .btn-primary"))
        self.job = self.browser.current_url
        self.browser.get(f"{self.job}build/?core=finger_biscuit")
        self.follow(self.find("button[value='add:dip']"))
        self.tap("label[title='My deep red coating'] input[name='0-colour']")
        self.says()
        self.press("Add it to the job")
        self.browser.get(f"{self.job}build/?core=marshmallow")
        self.follow(self.find("button[value='add:dip']"))
        self.tap("label[title='My dark coating'] input[name='0-colour']")
        self.follow(self.find("button[value='add:drizzle']"))
        self.says()
        self.press("Add it to the job")
        of = [(la.technique, la.base and la.base.name, la.white) for la in Layer.objects.order_by("pk")]
        self.assertEqual(
            of,
            [
                ("dip", "My deep red coating", "coating"),
                ("dip", "My dark coating", "coating"),
                ("drizzle", None, "coating"),
            ],
        )
        self.assertIn("in 3 bowls", self.says())

    def shops_without_a_wrong_number(self) -> None:
        self.browser.get(f"{self.job}shopping/")
        said = self.says()
        self.assertNotIn("drop", said)  # nothing is coloured
        self.assertIn("look whether there is enough", said)
        self.assertNotIn("enough is there", said)
        self.assertIn("Buy bright white coating", said)
        for room in ("", "inside/", "boxes/", "choices/"):
            self.browser.get(f"{self.job}{room}")
            self.says()

    def melts_by_eye(self) -> None:
        self.browser.get(self.job)
        row = "//tr[contains(., 'My dark coating')]//button[normalize-space()='Start a bowl']"
        self.follow(self.browser.find_element("xpath", row))
        bowl = self.browser.current_url
        self.assertNotIn("drop", self.role("answer").text)
        self.press("Melt it step by step")
        self.says()
        self.assertEqual(BowlEvent.objects.count(), 0, "looking at it writes nothing")
        self.press("It is in the bowl")
        looks: list[str] = []
        for _ in range(12):
            if "Smooth" not in self.find(".melt-buttons").text and "Heated" not in self.find(".melt-buttons").text:
                break
            noted = BowlEvent.objects.count()
            self.press("Heated and stirred")
            self.assertEqual(BowlEvent.objects.count(), noted + 2, "heated, and stirred")
            self.press("Lumps" if "Heated" not in looks else "Smooth")
            looks.append("Heated")
        self.assertNotIn("Heated", self.find(".melt-buttons").text, "no burst once it is smooth")
        self.says()
        self.press("To the bowl")
        self.assertIn(bowl, self.browser.current_url)
        answer = self.role("answer").text
        self.assertFalse("othing" in answer and ("stiff" in answer or "heavy" in answer), answer)
        self.says()
