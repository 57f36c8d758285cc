"""On a phone the answer comes first, what is long is folded, and the rooms are under the thumb."""

from __future__ import annotations

from tests.browser.browsing import BrowserTest

HIGH, WIDE = 844, 390
ANSWER_WITHIN, SCREENS, SCREENS_OF_MAIN = 160, 4, 2.4
STANDS = """
const tops = [...document.querySelectorAll('main h1, main .answer, main [data-role=answer], .bench-now')]
  .map((part) => part.getBoundingClientRect()).filter((box) => box.height > 2).map((box) => box.top + scrollY);
return [Math.min(...tops), document.documentElement.scrollHeight, document.documentElement.scrollWidth];
"""


class Phone(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        self.visit("/")
        self.press("Open the demo kitchen")
        self.bowl = self.browser.current_url.removeprefix(self.live_server_url)
        self.visit("/pieces/")
        job = self.find(".line-link").get_attribute("href") or ""
        self.job = job.removeprefix(self.live_server_url)
        self.browser.resize("phone")

    def tearDown(self) -> None:
        self.browser.resize("desk")
        super().tearDown()

    def test_the_answer_is_seen_at_once_and_no_page_is_endless(self) -> None:
        day = self.job.replace("/pieces/jobs/", "/day/")
        rooms = ("", "shopping/", "inside/", "boxes/", "choices/", "build/")
        of_bowl = ("", "melt/", "tests/", "colour/", "uses/", "waits/?shape=line")
        pages = [
            *("/", "/bowls/", "/pieces/", "/colours/", "/studio/", "/cupboard/", "/cupboard/add/", "/kitchen/"),
            *(f"/studio/new/{kind}/" for kind in ("lace", "drips", "marbling", "lettering", "mould", "transfer")),
            *(self.job + room for room in rooms),
            *(self.bowl + room for room in of_bowl),
            *(day, f"{day}bench/"),
        ]
        main = ("/", "/bowls/", "/pieces/", "/studio/", "/kitchen/", self.bowl, f"{day}bench/")
        for page in pages:
            self.visit(page)
            top, high, wide = self.browser.execute_script(STANDS)
            self.assertLessEqual(top, ANSWER_WITHIN, page)
            most = SCREENS_OF_MAIN if page in main else SCREENS
            self.assertLessEqual(high / HIGH, most, page)
            self.assertLessEqual(wide, WIDE, page)

    def test_the_answer_stays_in_sight_while_fields_change(self) -> None:
        self.visit("/studio/new/drips/")
        field = self.find("#id_spacing_mm")
        self.browser.execute_script("arguments[0].scrollIntoView({block: 'center', behavior: 'instant'})", field)
        self.until(lambda: self.find(".peek").is_displayed())
        before = self.find(".peek").text
        self.assertTrue(before.startswith("20 drips"), before)
        field.clear()
        field.send_keys("40 mm")
        self.until(lambda: self.find(".peek").text not in ("", before))

    def test_the_rooms_are_under_the_thumb(self) -> None:
        bar = self.find(".thumb-bar").rect
        self.assertEqual((round(bar["y"] + bar["height"]), bar["width"]), (HIGH, WIDE))
        self.assertFalse(self.find(".masthead").is_displayed())
        self.follow(self.find(".thumb-bar a[href='/studio/']"))
        self.assertEqual(self.find(".thumb-bar [aria-current]").text, "Studio")
        self.find(".bar-more summary").click()
        self.follow(self.find(".bar-sheet a[href='/cupboard/']"))
        self.assertIn("/cupboard/", self.browser.current_url)
        foot = self.browser.execute_script(
            "scrollTo({top: 1e6, behavior: 'instant'});"
            "return document.querySelector('.foot').getBoundingClientRect().bottom"
        )
        self.assertLessEqual(foot, bar["y"] + 1, "the bar covers nothing")

    def test_one_bowl_until_all_are_asked_for(self) -> None:
        self.visit(self.bowl)
        shown = [bowl for bowl in self.all(".band-bowl") if bowl.is_displayed()]
        self.assertEqual([bowl.get_attribute("aria-current") for bowl in shown], ["page"])
        self.find("[data-band-open]").click()
        self.assertGreater(sum(bowl.is_displayed() for bowl in self.all(".band-bowl")), 1)
        self.assertEqual(self.find("[data-band-open]").get_attribute("aria-expanded"), "true")

    def test_what_was_opened_stays_open_while_something_is_typed(self) -> None:
        self.visit(self.bowl)
        head = self.find(".bowl-figures .fold-button")
        self.assertFalse(self.find(".bowl-figures dl").is_displayed())
        self.click(head)
        self.assertTrue(self.find(".bowl-figures dl").is_displayed())
        before = self.role("answer").text
        self.click(self.find("[data-step]:not([data-step^='-'])"))
        self.until(lambda: self.role("answer").text != before, "no live answer")
        self.assertTrue(self.find(".bowl-figures dl").is_displayed())

    def test_what_goes_in_is_a_list_to_tick_off(self) -> None:
        self.visit(self.bowl)
        lines = [line.text.replace("\n", " ") for line in self.all(".put-in li")]
        self.assertEqual(lines, ["4 drops red", "2 drops pink"])
        self.assertIn("Stir in two things", self.role("answer").text)
        self.click(self.all(".put-in li")[0])
        self.visit(self.bowl)
        ticked = "return [...document.querySelectorAll('[data-tick]')].map((box) => box.checked)"
        self.assertEqual(self.browser.execute_script(ticked), [True, False], "kept over a reload")
        self.click(self.find("[aria-label='More Pink oil colour']"))
        self.until(lambda: "3 drops" in self.find(".put-in").text, "no live answer")
        self.assertEqual(self.browser.execute_script(ticked), [True, False], "kept while something is typed")
        self.press("I did this")
        self.assertEqual(self.all(".put-in li"), [])
