"""A day planned: asked for, looked for outside of the page, shown when it is found, and used on a phone."""

from __future__ import annotations

from studio.day.actions import solve_next
from studio.day.models import DayPlan
from tests.browser.browsing import BrowserTest


class Planning(BrowserTest):
    def test_a_day_is_planned_while_the_page_is_open(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        self.visit("/day/")
        answer = self.role("answer").text
        self.type("#id_begin", "13:00")
        self.until(lambda: "Begin at 13:00" in self.role("answer").text)
        self.assertNotEqual(answer, self.role("answer").text)
        self.press("Plan my day")
        self.assertIn("Looking for a shorter day", self.find(".day-state").text)
        self.assertTrue(solve_next())
        self.until(lambda: "Planned" in self.find(".day-state").text)
        row = DayPlan.objects.get()
        self.assertIn(f"{13 + row.plan.makespan_s // 3600}:", self.role("answer").text)
        self.assertGreater(len(self.all(".lane-step")), 30)
        self.assertGreater(len(self.all(".day-list li")), 30)
        for size in ("tablet", "phone"):
            self.browser.resize(size)
            self.no_sideways_scroll()
