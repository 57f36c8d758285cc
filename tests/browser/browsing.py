"""Base of browser tests: one Chromium for all, and no console error or policy violation goes unseen."""

from __future__ import annotations

import atexit
from typing import ClassVar

from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from selenium.common.exceptions import StaleElementReferenceException, WebDriverException
from selenium.webdriver.common.by import By
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait

from tools.chrome import Chrome

_shared: list[Chrome] = []


def shared_browser() -> Chrome:
    """The browser every test class uses; closed when the run ends."""
    if not _shared:
        _shared.append(Chrome())
        atexit.register(_shared[0].quit)
    return _shared[0]


class BrowserTest(StaticLiveServerTestCase):
    browser: ClassVar[Chrome]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.browser = shared_browser()

    def setUp(self) -> None:
        self.browser.resize("desk")
        self.browser.delete_all_cookies()
        self.browser.complaints()

    def tearDown(self) -> None:
        self.assertEqual(self.unexpected(self.browser.complaints()), [])

    def unexpected(self, complaints: list[str]) -> list[str]:
        """A refused live question shows in the console as 422; that is how it should be."""
        return [c for c in complaints if "422" not in c]

    def visit(self, address: str) -> None:
        self.browser.get(self.live_server_url + address)

    def find(self, css: str) -> WebElement:
        return self.browser.find_element(By.CSS_SELECTOR, css)

    def all(self, css: str) -> list[WebElement]:
        return self.browser.find_elements(By.CSS_SELECTOR, css)

    def role(self, name: str) -> WebElement:
        return self.find(f'[data-role="{name}"]')

    def press(self, text: str) -> None:
        """Follow the button or link that says `text`; one that an answer puts in anew meanwhile is looked for again."""
        quoted = f'"{text}"' if "'" in text else f"'{text}'"
        xpath = f"//button[normalize-space()={quoted}] | //a[normalize-space()={quoted}]"
        try:
            self.follow(self.browser.find_element(By.XPATH, xpath))
        except StaleElementReferenceException:
            self.follow(self.browser.find_element(By.XPATH, xpath))

    def follow(self, element: WebElement) -> None:
        """Click what leads to another page, and wait until that one is there."""
        self.browser.execute_script("window.leaving = true")
        self.click(element)
        arrived = "return !window.leaving && document.readyState === 'complete'"
        self.until(lambda: self.browser.execute_script(arrived), "no other page came")

    def click(self, element: WebElement) -> None:
        """Bring it into view and click it."""
        self.browser.execute_script("arguments[0].scrollIntoView({block: 'center', behavior: 'instant'})", element)
        element.click()

    def tap(self, css: str) -> None:
        self.browser.execute_script("arguments[0].click()", self.find(css))

    def type(self, css: str, text: str) -> None:
        """Replace what is in a field, as typing would."""
        field = self.find(css)
        field.clear()
        field.send_keys(text)

    def until(self, condition: object, what: str = "") -> None:
        """Wait for it; an element put in anew while it is looked at is looked at again."""

        def met(_: object) -> bool:
            try:
                return bool(condition())  # type: ignore[operator]
            except WebDriverException as error:
                if isinstance(error, StaleElementReferenceException) or "does not belong" in str(error.msg):
                    return False
                raise

        WebDriverWait(self.browser, 20, poll_frequency=0.05).until(met, what)

    def inside(self, css: str) -> str:
        """The markup in an element, read at once: it may be put in anew at any moment."""
        return self.browser.execute_script("return document.querySelector(arguments[0])?.innerHTML ?? ''", css) or ""

    def until_changes(self, css: str, before: str) -> str:
        self.until(lambda: self.inside(css) not in ("", before), f"{css} stayed as it was")
        return self.inside(css)

    def no_sideways_scroll(self) -> None:
        wide = self.browser.execute_script("return document.documentElement.scrollWidth > window.innerWidth")
        self.assertFalse(wide, "the page scrolls sideways")
