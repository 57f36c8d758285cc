"""A day planned, looked for outside of the page; the bench, with the network cut in between."""

from __future__ import annotations

import uuid
from datetime import timedelta
from unittest import mock

from django.contrib.sessions.models import Session
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from studio.accounts.models import Kitchen
from studio.common import clock
from studio.day.actions import happened
from studio.day.models import DayEvent, DayPlan
from studio.pieces.models import Piece
from studio.work.worker import work_off
from tests.browser.browsing import BrowserTest
from tests.studio.kitchens import half_dip, topped


class Planning(BrowserTest):
    def tearDown(self) -> None:
        self.browser.execute_script("localStorage.clear()")
        super().tearDown()

    def unexpected(self, complaints: list[str]) -> list[str]:
        """A network that is cut on purpose is complained of."""
        return [c for c in super().unexpected(complaints) if "INTERNET_DISCONNECTED" not in c]

    def test_a_day_is_planned_while_the_page_is_open(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        self.visit("/day/")
        answer = self.role("answer").text
        self.assertIn("Looking for a shorter day", self.find(".day-state").text)  # it was asked for with the kitchen
        self.assertEqual(self.find("#id_begin").get_attribute("value"), "09:00")
        self.find(".day-change summary").click()
        self.type("#id_begin", "13:00")
        self.until(lambda: "Start at 13:00" in self.role("answer").text)
        self.assertNotEqual(answer, self.role("answer").text)
        self.press("Plan my day")
        self.assertIn("Looking for a shorter day", self.find(".day-state").text)
        self.assertTrue(work_off())
        self.until(lambda: "Planned" in self.find(".day-state").text)
        row = DayPlan.objects.get(job__name="Comet night")
        self.assertIn(f"{13 + row.plan.makespan_s // 3600}:", self.role("answer").text)
        self.assertGreater(len(self.all(".knot")), 30)
        self.assertGreater(len(self.all(".thread")), 5)
        for size in ("tablet", "phone"):
            self.browser.resize(size)
            self.no_sideways_scroll()

    def small_job(self) -> int:
        """Dipped and sprinkled, planned; at its page."""
        self.visit("/")
        self.press("Open the demo kitchen")
        DayPlan.objects.all().delete()
        piece = half_dip(Kitchen.objects.get(is_demo=True))
        topped(piece)
        self.visit(f"/day/{piece.job_id}/")
        self.press("Plan my day")
        while work_off():
            pass
        self.until(lambda: "Planned" in self.find(".day-state").text)
        return piece.job_id

    def test_three_steps_without_a_connection_then_late_then_changed_then_taken_along(self) -> None:
        job = self.small_job()
        self.visit(f"/day/{job}/bench/")
        first = self.find(".bench-big").text
        self.click(self.find("button[value=done]"))
        self.until(lambda: DayEvent.objects.count() == 1 and self.inside(".bench-big") != first)
        first = self.find(".bench-big").text
        self.click(self.find("button[value=done]"))  # tinted
        self.until(lambda: DayEvent.objects.count() == 2 and self.inside(".bench-big") != first)
        self.click(self.find("[data-bench-one]"))
        self.until(lambda: self.inside("[data-bench-now] [data-bench-ones]") == "1")
        self.until(lambda: DayEvent.objects.filter(kind="one").count() == 1)
        self.click(self.find("button[value=longer]"))
        self.until(lambda: "Noted: until" in self.inside("main"))
        for size in ("tablet", "phone", "desk"):
            self.browser.resize(size)
            self.no_sideways_scroll()
        self.network(cut=True)
        for count in range(1, 4):
            shown = self.find("[data-bench-step]").get_attribute("value")
            self.click(self.find("button[value=done]"))
            kept = "one answer is kept" if count == 1 else f"{count} answers are kept"
            self.until(lambda kept=kept: kept in self.find("[data-bench-note]").text)
            self.assertNotEqual(shown, self.find("[data-bench-step]").get_attribute("value"))
        self.network(cut=False)
        self.until(lambda: DayEvent.objects.filter(kind="done").count() == 5)
        self.until(lambda: "of" in self.inside(".bench-count") and not self.find("[data-bench-note]").is_displayed())
        steps = [e.step for e in DayEvent.objects.filter(kind="done")]
        self.assertEqual(len(set(steps)), 5)
        while "topping" not in self.inside(".bench-big"):
            shown = self.inside(".bench")
            self.click(self.find("button[value=done]"))
            self.until_changes(".bench", shown)
        self.assertIn("until it is too late", self.inside(".bench-ring"))
        done, before = DayEvent.objects.count(), self.inside(".bench-count")
        later = clock.now() + timedelta(minutes=25)
        with mock.patch.object(clock, "now", lambda: later):
            self.browser.refresh()
            self.assertIn("Its window is over", self.inside(".bench-window"))
            self.assertNotEqual(self.inside(".bench-count"), before)
            self.click(self.find("button[value=done]"))
            self.until(lambda: DayEvent.objects.count() == done + 1)
        Piece.objects.filter(job=job).update(count=30)
        self.visit(f"/day/{job}/")
        self.until(lambda: "was changed since it was planned" in self.inside("main"))
        self.press("Plan my day")
        while work_off():
            pass
        self.until(lambda: "Planned" in self.find(".day-state").text)
        self.assertEqual(DayEvent.objects.count(), done + 1)
        for suffix, kind in (("pdf", "application/pdf"), ("ics", "text/calendar"), ("csv", "text/csv")):
            address = self.find(f".day-out a[href$='day.{suffix}']").get_attribute("href")
            data = self.browser.execute_async_script(
                "fetch(arguments[0]).then(r => arguments[1]([r.status, r.headers.get('content-type')]))", address
            )
            self.assertEqual((data[0], data[1].split(";")[0]), (200, kind))

    def test_the_bench_opens_without_a_connection_and_hears_a_knock(self) -> None:
        job = self.small_job()
        self.visit(f"/day/{job}/bench/")
        kept = (
            "const d = arguments[0]; caches.open('olive-ribbon-bench-pages').then(c => c.keys()).then(k => d(k.length))"
        )
        self.until(lambda: self.browser.execute_async_script(kept) == 1)
        first = self.inside(".bench-big")
        self.find("body").send_keys(Keys.SPACE)
        self.until(lambda: DayEvent.objects.count() == 1 and self.inside(".bench-big") not in ("", first))
        self.assertIn("Undo: ", self.find("[data-bench-undo]").text)
        second = self.inside(".bench-big")
        self.network(cut=True)
        self.find("body").send_keys(Keys.PAGE_DOWN)
        self.until(lambda: "one answer is kept" in self.find("[data-bench-note]").text)
        self.browser.refresh()  # a tablet whose battery died
        self.until(lambda: self.inside(".bench-big") not in ("", second))
        self.until(lambda: "one answer is kept" in self.find("[data-bench-note]").text)
        self.network(cut=False)
        self.until(lambda: DayEvent.objects.filter(kind="done").count() == 2)
        self.visit("/day/")
        self.find(".masthead").find_element("xpath", ".//button[normalize-space()='Log out']").click()
        self.until(lambda: self.browser.execute_async_script(kept) == 0)

    def test_a_step_is_moved_by_keys_and_by_dragging(self) -> None:
        self.small_job()
        end = self.role("answer").text
        last = self.all("[data-knot]")[-1]
        name = last.get_attribute("data-knot")
        last.send_keys(Keys.ARROW_RIGHT * 3)  # washing up, while what was made sets
        self.until(lambda: "it costs nothing" in self.find("[data-knot-moved]").text)
        self.click(self.find("[data-knot-back]"))
        self.until(lambda: self.role("answer").text == end)
        self.until(lambda: self.find("[data-knot-moved]").text == "")
        self.browser.refresh()
        one, last = self.all("[data-knot]")[-2:]
        ActionChains(self.browser).drag_and_drop(one, last).perform()
        self.until(lambda: "everything is done" in self.find("[data-knot-moved]").text)
        self.click(self.find("[data-knot-back]"))
        self.until(lambda: self.find("[data-knot-moved]").text == "")
        self.browser.refresh()
        self.find(f"[data-knot='{name}']").send_keys(Keys.ARROW_RIGHT)
        self.until(lambda: "costs nothing" in self.find("[data-knot-moved]").text)
        self.click(self.find("[data-knot-keep]"))
        self.until(lambda: "In the order you gave it" in self.inside("main"))
        self.assertEqual(DayPlan.objects.filter(state="moved").count(), 1)

    def test_logged_out_at_the_bench(self) -> None:
        job = self.small_job()
        self.visit(f"/day/{job}/bench/")
        sessions, cookies = list(Session.objects.all()), self.browser.get_cookies()
        Session.objects.all().delete()
        self.click(self.find("button[value=done]"))
        self.until(lambda: "You were logged out" in self.find("[data-bench-note]").text)
        self.assertEqual(DayEvent.objects.count(), 0)
        Session.objects.bulk_create(sessions)
        for cookie in cookies:
            self.browser.add_cookie(cookie)
        self.browser.refresh()
        self.until(lambda: DayEvent.objects.count() == 1)

    def test_timers_are_said_aloud(self) -> None:
        job = self.small_job()
        self.visit(f"/day/{job}/bench/")
        row = DayPlan.objects.get(job=job)
        lag = min((la for la in row.day.lags if la.max_s), key=lambda la: row.plan.starts_s[la.before])
        key = uuid.uuid4()
        happened(row, key=key, step=lag.before, kind="done", at=clock.now() - timedelta(seconds=lag.max_s - 5))
        self.browser.refresh()
        self.browser.execute_script(
            "window.said = []; speechSynthesis.speak = (one) => window.said.push(one.text);"
            "const box = document.querySelector('[data-timer-aloud] input'); box.click();"
        )
        self.until(lambda: self.browser.execute_script("return window.said.length > 1"))
        self.assertIn("Now: Put the topping", self.browser.execute_script("return window.said.join()"))

    def network(self, *, cut: bool) -> None:
        speed = 0 if cut else -1
        self.browser.execute_cdp_cmd("Network.enable", {})
        self.browser.execute_cdp_cmd(
            "Network.emulateNetworkConditions",
            {"offline": cut, "latency": 0, "downloadThroughput": speed, "uploadThroughput": speed},
        )
