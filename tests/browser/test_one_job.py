"""A job is changed in the builder, and every page of it says what it comes to now."""

from __future__ import annotations

from tests.browser.browsing import BrowserTest


class OneJob(BrowserTest):
    def marks(self, address: str) -> dict[str, float]:
        """What a page says, by what it is."""
        self.browser.get(address)
        data = self.browser.execute_script(
            "return [...document.querySelectorAll('[data-of]')]"
            ".map(e => [e.dataset.of, e.dataset.value, e.textContent])"
        )
        self.assertTrue(all(text.strip() for _, _, text in data), data)
        return {of: float(value) for of, value, _ in data}

    def everywhere(self) -> dict[str, float]:
        """What all pages of the job say; where two say the same thing they agree."""
        known: dict[str, float] = {}
        for page in (self.job, f"{self.job}shopping/", f"{self.job}choices/", self.day, self.bowl):
            for of, value in self.marks(page).items():
                self.assertAlmostEqual(known.setdefault(of, value), value, delta=0.01, msg=f"{of} on {page}")
        return known

    def test_changed_in_the_builder_and_every_page_follows(self) -> None:
        self.visit("/")
        self.press("Open the demo kitchen")
        self.bowl = self.browser.current_url
        self.visit("/pieces/")
        self.follow(self.find(".line-link"))
        self.job = self.browser.current_url
        self.visit("/day/")
        self.day = self.browser.current_url
        before = self.everywhere()
        self.browser.get(self.job)
        self.press("Comet biscuits")
        said = self.inside("[data-live-part=answer]")
        self.type("#id_count", "60")
        self.until_changes("[data-live-part=answer]", said)
        self.press("Save it")
        self.assertEqual(self.browser.current_url, self.job)
        after = self.everywhere()
        changed = {of for of in before if before[of] != after.get(of)}
        blue = next(of for of in before if of.startswith("made ") and of in changed).removeprefix("made ")
        self.assertLessEqual({f"made {blue}", f"melt {blue}"}, changed)
        self.assertTrue(changed <= {f"made {blue}", f"melt {blue}"}, "nothing else of the job has changed")
        self.assertAlmostEqual(after[f"made {blue}"] / before[f"made {blue}"], 62 / 26, delta=0.01)
        self.browser.get(self.day)
        self.assertIn("was changed since it was planned", self.inside("main"))
        self.assertIn("62 comet biscuits", self.inside("main"))
