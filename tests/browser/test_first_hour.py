"""The first hour on a phone: signing up, a first job, its day, the bench, counted in taps and fields; the walk."""

from __future__ import annotations

from studio.bowls.models import Bowl
from studio.day.models import DayEvent
from studio.pieces.models import Job
from studio.work.worker import work_off
from tests.browser.browsing import BrowserTest
from tests.studio.kitchens import PASSWORD

MOST_TAPS, MOST_FIELDS = 25, 4


class FirstHour(BrowserTest):
    taps = fields = 0

    def tearDown(self) -> None:
        self.browser.resize("desk")
        super().tearDown()

    def types(self, css: str, text: str) -> None:
        self.fields += 1
        self.type(css, text)

    def taps_on(self, css: str, *, stays: bool = False) -> None:
        self.taps += 1
        if stays:
            self.click(self.find(css))
        else:
            self.follow(self.find(css))

    def test_twenty_balls_in_two_colours_for_saturday(self) -> None:
        self.browser.resize("phone")
        self.visit("/sign-up/")
        self.types("#id_email", "twenty@example.org")
        self.types("#id_password", PASSWORD)
        self.taps_on("main form .btn-primary")
        for _ in range(5):  # measures, warmth, melting, room, where
            self.taps_on(".choices .choice")
        self.assertIn("What are you making?", self.role_or_answer())
        self.taps_on(".first-pick[href$='/pops/']")
        self.taps_on(".chip[data-set='20']", stays=True)
        for name in ("Dusk blue", "Apricot"):
            self.taps_on(f"label[title='{name}']", stays=True)
        self.taps_on("main form .btn-primary")  # Saturday is what it begins with
        job = Job.objects.get()
        counts = sorted(piece.count for piece in job.pieces.all())
        self.assertEqual((counts, job.due_on and job.due_on.weekday() in (5, 6)), ([10, 10], True))
        self.taps_on("#main .job-nav a[href*='/day/']")
        self.taps_on(".day-form .btn-primary")
        while work_off():
            pass
        self.until(lambda: "Planned" in self.inside(".day-state"))
        self.taps_on("a[href$='/bench/']")
        self.assertIn("Before you begin", self.inside("main"))
        self.taps_on("[data-bench-done]", stays=True)
        self.until(lambda: DayEvent.objects.count() == 1)
        self.browser.get(self.browser.current_url.split("/day/")[0] + f"/pieces/jobs/{job.pk}/")
        self.taps += 2  # back to the job by the bar and its line
        self.taps_on("button[name='need']")
        self.assertEqual(Bowl.objects.count(), 1)
        self.assertLessEqual(self.taps, MOST_TAPS)
        self.assertLessEqual(self.fields, MOST_FIELDS)

    def role_or_answer(self) -> str:
        return self.find("main .answer").text

    def test_an_easy_evening_is_led(self) -> None:
        self.visit("/sign-up/")
        self.type("#id_email", "easy@example.org")
        self.type("#id_password", PASSWORD)
        self.press("Make my kitchen")
        self.follow(self.find("[name='later']"))
        self.press("Make the easy ones first")
        self.assertIn("Start at", self.role("answer").text)
        self.assertIn("look before you go on", self.inside(".ribbon"))

    def test_a_walk_through_the_demo(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        self.assertEqual(self.all(".walk"), [])
        self.press("Walk through it in five stops")
        for number, place in enumerate(("/bowls/", "/pieces/jobs/", "/studio/", "/day/", "/bench/"), 1):
            self.assertIn(f"{number} of 5", self.find(".walk").text)
            self.assertIn(place, self.browser.current_url)
            if number == 5:
                self.no_sideways_scroll()
            self.press("Next stop" if number < 5 else "End of the walk")
        self.assertEqual(self.all(".walk"), [])
        self.press("Walk through it in five stops")
        self.press("Leave the walk")
        self.assertEqual(self.all(".walk"), [])
