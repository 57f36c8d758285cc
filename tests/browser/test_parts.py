"""Parts made in one place and put on another: twelve rockets on a phone, and a plaque with words on a kept cake."""

from __future__ import annotations

from datetime import timedelta

from django.db.models import F
from selenium.webdriver.common.by import By

from studio.day.models import DayEvent, DayPlan, part_of
from studio.designs.models import Design
from studio.pieces.models import Job, Layer, Piece
from studio.pieces.reckoned import counts_of
from tests.browser.browsing import BrowserTest
from tests.studio.kitchens import PASSWORD

MOST_TAPS = 90


class Parts(BrowserTest):
    def signs_up(self, **answers: str) -> None:
        self.visit("/sign-up/")
        self.type("#id_email", "parts@example.org")
        self.type("#id_password", PASSWORD)
        self.press("Make my kitchen")
        if answers:
            taps = self.browser.current_url.split("?")[0]
            self.browser.get(f"{taps}?" + "&".join(f"{n}={v}" for n, v in answers.items()))
            self.follow(self.find("button[name=where][value=us]"))

    def new_job(self, name: str) -> Job:
        self.visit("/pieces/jobs/new/")
        self.type("#id_name", name)
        self.follow(self.find("main form .btn-primary"))
        return Job.objects.get(name=name)

    def test_twelve_rockets_on_a_phone(self) -> None:
        """In spoons and inches, from their picture to the last step at the bench."""
        self.browser.resize("phone")
        self.signs_up(measure="spoons", warmth="lip", melt="microwave", room="ordinary")
        job = self.new_job("Launch day")
        self.visit(f"/pieces/jobs/{job.pk}/build/")
        self.follow(self.find("button[value='whole:rockets']"))
        said = self.find("main").text
        for words in (
            "13 for rockets",
            "26 for rockets",
            "2 on each, left and right, glued",
            "1 on each, on the front, while the coat is half-set",
        ):
            self.assertIn(words, said)
        rockets, fins = (Piece.objects.get(name=name) for name in ("Rockets", "Fins"))
        self.press("Rockets")
        self.assertEqual(len(self.all(".build-picture svg")), 2, "from the front and from above")
        before = self.role("answer").text
        self.type("#id_count", "14")
        self.until_changes("[data-role=answer]", before)
        self.type("#id_count", "12")
        self.press("Save it")
        self.assertEqual(counts_of(Job.objects.whole(rockets.kitchen, job.pk))[fins.pk], (26, 2))
        self.visit(f"/day/{job.pk}/")
        self.no_sideways_scroll()
        self.press("Plan my day")
        self.visit(f"/day/{job.pk}/bench/")
        glued, shown, step = str(Layer.objects.get(part=fins).pk), False, ""
        for _ in range(MOST_TAPS):
            if not self.all("[data-bench-main]"):
                break
            step, before = self.find("[data-bench-main] [data-bench-step]").get_attribute("value") or "", step
            if step == before:  # a bowl that is warmed again and again while something sets: let the time pass
                DayEvent.objects.update(happened_at=F("happened_at") - timedelta(minutes=12))
                self.visit(f"/day/{job.pk}/bench/")
                continue
            if part_of(step) == glued and not shown:
                shown = True
                self.assertIn("Two fins: here and here", self.find(".bench-now").text)
                self.assertEqual(len(self.all(".bench-now .here")), 2)
            self.no_sideways_scroll()
            self.follow(self.browser.find_element(By.XPATH, "//form[@data-bench-main]//button[@value='done']"))
        self.assertTrue(shown, "the fins were glued on")
        hands = {s.name for s in DayPlan.objects.get().day.steps if s.handled}
        done = set(DayPlan.objects.get().events.filter(kind="done").values_list("step", flat=True))
        self.assertLessEqual(hands, done)

    def test_a_plaque_with_words_on_a_kept_cake(self) -> None:
        """In grams: a cake that was kept, a plaque begun from it, words designed for the plaque at its size."""
        self.signs_up()
        job = self.new_job("First cake")
        self.visit(f"/pieces/jobs/{job.pk}/build/?begin=drip_cake")
        self.press("Save as a start")
        job = self.new_job("Second cake")
        self.visit(f"/pieces/jobs/{job.pk}/build/")
        self.follow(self.find("a.start-pick[href*='template=']"))
        self.follow(self.find("button[value='on:new']"))
        self.assertIn("What goes on cake with drips?", self.find("main").text)
        self.follow(self.find("a.core-pick[href*='core=shape']"))
        self.tap("details.layer-core summary")
        self.follow(self.find("button[value='size:3']"))
        self.follow(self.find("button[value='add:flood']"))
        self.type("#id_name", "Plaque")
        self.press("Put it on cake with drips")
        self.follow(self.find(".part-link a"))
        self.follow(self.find("button[value='on:new']"))
        self.follow(self.find("a.core-pick[href*='core=shape']"))
        self.tap("details.layer-core summary")
        self.follow(self.find("button[value='size:3']"))
        self.follow(self.find("button[value='add:lettering']"))
        self.type("#id_name", "Words")
        self.press("Put it on plaque")
        self.press("Save it")
        words = Layer.objects.get(piece__name="Words")
        self.visit(f"/studio/layer/{words.pk}/")
        self.assertEqual(self.find("#id_width_mm").get_attribute("value"), "70 mm", "as wide as the plaque")
        self.type("#id_text", "Bravo")
        self.until(lambda: "Bravo" in self.inside(".word title"))
        self.follow(self.find("button[value='keep']"))
        self.assertEqual(Design.objects.get().asked["text"], "Bravo")
        cake = Piece.objects.get(job=job, name="Cake with drips")
        counts = counts_of(Job.objects.whole(cake.kitchen, job.pk))
        self.assertEqual(
            {p.name: counts[p.pk][0] for p in job.pieces.all()},
            {"Cake with drips": 1, "Plaque": 1, "Words": 1 + counts[Piece.objects.get(name="Plaque").pk][1]},
        )
        self.visit(f"/pieces/{cake.pk}/build/")
        own = Design.objects.get().one["marks"][0][0][:60]
        self.assertIn(own, self.inside(".build-picture"), "the words are on the plaque on the cake")
