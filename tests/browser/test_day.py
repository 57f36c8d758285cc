"""A day planned, looked for outside of the page; the bench, with the network cut in between."""

from __future__ import annotations

from studio.day.actions import solve_next
from studio.day.models import DayEvent, DayPlan
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

    def test_the_bench_with_the_network_cut_in_between(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        self.visit("/day/")
        self.press("Plan my day")
        self.assertTrue(solve_next())
        self.visit(self.find("a[href*='/bench/']").get_attribute("href").removeprefix(self.live_server_url))
        first = self.find(".bench-big").text
        self.click(self.find("button[value=done]"))
        self.until(lambda: DayEvent.objects.count() == 1 and self.inside(".bench-big") != first)
        while not self.find("[data-bench-one]").is_displayed():
            shown = self.inside(".bench")
            self.click(self.find("button[value=done]"))
            self.until_changes(".bench", shown)
        self.click(self.find("[data-bench-one]"))
        self.until(lambda: self.inside("[data-bench-now] [data-bench-ones]") == "1")
        self.until(lambda: DayEvent.objects.filter(kind="one").count() == 1)
        known = DayEvent.objects.count()
        self.network(cut=True)
        for kept in ("one answer is kept", "2 answers are kept"):
            shown = self.inside(".bench-big")
            self.click(self.find("button[value=done]"))
            self.until_changes(".bench-big", shown)
            self.until(lambda kept=kept: kept in self.find("[data-bench-note]").text)
        self.assertEqual(DayEvent.objects.count(), known)
        self.network(cut=False)
        self.until(lambda: DayEvent.objects.count() == known + 2)
        self.until(lambda: not self.find("[data-bench-note]").is_displayed())
        self.browser.refresh()
        self.assertEqual(DayEvent.objects.count(), known + 2)
        self.click(self.find("button[value=longer]"))
        self.until(lambda: "Noted: until" in self.inside("main"))
        self.assertEqual([c for c in self.browser.complaints() if "INTERNET_DISCONNECTED" not in c], [])
        for size in ("tablet", "phone"):
            self.browser.resize(size)
            self.no_sideways_scroll()

    def network(self, *, cut: bool) -> None:
        speed = 0 if cut else -1
        self.browser.execute_cdp_cmd("Network.enable", {})
        self.browser.execute_cdp_cmd("Network.emulateNetworkConditions", {
            "offline": cut, "latency": 0, "downloadThroughput": speed, "uploadThroughput": speed})  # fmt: skip
