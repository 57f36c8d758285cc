"""The notebook as a maker uses it: closed on a phone, found by colour, made again; in spoons; taken elsewhere."""

from __future__ import annotations

import re
import tempfile
from pathlib import Path

from PIL import Image
from selenium.webdriver.common.by import By

from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl
from studio.notebook.models import KeptPhoto, Outcome
from studio.pieces.models import Job
from studio.work.worker import work_off
from tests.browser.browsing import BrowserTest
from tests.studio.kitchens import PASSWORD, maker


class Notebook(BrowserTest):
    def demo(self) -> Kitchen:
        self.visit("/")
        self.press("Open the demo kitchen")
        return Kitchen.objects.get(is_demo=True)

    def log_in(self, email: str) -> None:
        self.browser.delete_all_cookies()
        self.visit("/log-in/")
        self.type("[name=username]", email)
        self.type("[name=password]", PASSWORD)
        self.follow(self.find("main form button"))

    def words(self, css: str = "main") -> str:
        return re.sub(r"\s+", " ", self.find(css).text)

    def test_closed_on_a_phone_found_by_colour_and_made_again(self) -> None:
        kitchen = self.demo()
        self.browser.resize("phone")
        job = Job.objects.get(kitchen=kitchen, name="Equinox evening")
        self.visit(f"/notebook/{job.pk}/close/")
        self.no_sideways_scroll()
        piece = job.pieces.get(name="Moon discs")
        self.tap(f"[name=p{piece.pk}-coat][value=thin]")
        self.click(self.find(".closing-piece [data-step='-1']"))
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "discs.jpg"
            Image.new("RGB", (640, 480), (150, 170, 190)).save(file)
            self.find(".closing input[type=file]").send_keys(str(file))
            self.until(lambda: "1 photo kept" in self.find("[data-photos-says]").text)
        self.type("[name=words]", "Thinner next time")
        self.press("Save how it went")
        self.no_sideways_scroll()
        said = self.words()
        self.assertIn("37 good, 3 not · coat too thin", said)
        self.assertIn("Thinner next time", said)
        self.assertEqual(len(self.all(".photo-tile")), 4)
        self.assertEqual(KeptPhoto.objects.filter(kitchen=kitchen, drawn=False).count(), 1)
        self.assertEqual(Outcome.objects.filter(piece=piece).count(), 2)
        self.visit("/notebook/")
        self.no_sideways_scroll()
        self.click(self.find(".find-form summary"))
        self.follow(self.find(".near-swatches a[title='Bowls near dusk blue']"))
        self.assertIn("21 drops blue and 9 drops red into 280 g", self.words())
        self.press("Equinox evening")
        self.press("For twice as many")
        self.no_sideways_scroll()
        melt = re.search(r"(\d+ g) of dusk blue", self.words("h1"))
        assert melt is not None
        self.press("Begin this job")
        self.assertIn(f"{melt[1]} of dusk blue", self.words("h1"))
        self.press("To the job and its bowls")
        self.assertIn(melt[1], self.words())
        counts = [field.get_attribute("value") for field in self.all(".count-form [name=count]")]
        self.assertEqual(sorted(counts), ["2", "80"])

    def test_in_spoons_and_inches(self) -> None:
        kitchen = self.demo()
        Kitchen.objects.filter(pk=kitchen.pk).update(
            has_scale=False, mass_unit="oz", length_unit="in", temperature_unit="F", has_thermometer=False
        )
        job = Job.objects.get(kitchen=kitchen, name="Equinox evening")
        self.visit(f"/notebook/{job.pk}/")
        evening = self.words(".made-of")
        self.assertIn("wafers", evening)
        self.assertNotIn(" g ", evening)
        self.press("Make it again")
        again = re.search(r"melt (.+?) of dusk blue", self.words("h1"))
        assert again is not None
        self.press("Begin this job")
        self.press("To the job and its bowls")
        self.assertIn(again[1], self.words())
        bowl = Bowl.objects.filter(job=job, colour__name="Dusk blue").get()
        self.visit(f"/bowls/{bowl.pk}/")
        self.assertIn("21 drops", self.words())

    def test_noted_where_it_is_seen_and_looked_back_at(self) -> None:
        kitchen = self.demo()
        job = Job.objects.get(kitchen=kitchen, name="Comet night")
        bowl = Bowl.objects.filter(kitchen=kitchen, finished_at=None).order_by("pk").first()
        assert bowl is not None
        self.visit(f"/bowls/{bowl.pk}/")
        self.click(self.find(".note-here summary"))
        self.type("#note-here", "The red one is stronger than it looks")
        self.press("Save note")
        self.assertIn(f"/bowls/{bowl.pk}/", self.browser.current_url)
        self.visit(f"/day/{job.pk}/bench/")
        self.click(self.find(".note-here summary"))
        self.type("#note-here", "Towel under the bowl")
        self.press("Save note")
        self.visit(f"/notebook/{job.pk}/")
        self.assertIn("The red one is stronger than it looks", self.words())
        self.assertIn("Towel under the bowl", self.words())
        self.press("Notebook")
        self.press("Looking back")
        self.assertIn("wasted", self.words("h1"))
        self.follow(self.find(".days a"))
        self.assertIn("/notebook/", self.browser.current_url)

    def test_the_whole_kitchen_goes_elsewhere(self) -> None:
        kitchen = self.demo()
        self.visit("/notebook/archive/")
        self.press("Write an archive")
        while work_off():
            pass
        self.until(lambda: self.all("a[href$='.zip']"), "no archive came")
        file = next(
            iter((KeptPhoto(kitchen=kitchen).path("large").parents[2] / "archives" / str(kitchen.pk)).glob("*.zip"))
        )
        _, other, _ = maker("elsewhere@example.org")
        self.log_in("elsewhere@example.org")
        self.visit("/notebook/archive/")
        self.find("[name=file]").send_keys(str(file))
        self.press("Bring it in")
        while work_off():
            pass
        self.until(lambda: "brought in" in self.words(".came-list") and "%" not in self.words(".came-list"))
        self.visit("/notebook/")
        self.assertIn("dusk blue came out a little dark twice", self.words("h1"))
        self.assertEqual(len(self.browser.find_elements(By.CSS_SELECTOR, ".evening-pictures img")), 7)
        self.assertEqual(Job.objects.filter(kitchen=other).count(), Job.objects.filter(kitchen=kitchen).count())
