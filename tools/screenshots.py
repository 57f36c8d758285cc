"""Pictures of the main views from the demo kitchen: `python -m tools.screenshots ADDRESS FOLDER [name ...]`."""

from __future__ import annotations

import sys
import time
from collections.abc import Callable
from pathlib import Path

from selenium.webdriver.common.by import By

from tools.chrome import Chrome


def _follow(browser: Chrome, css: str) -> None:
    browser.find_element(By.CSS_SELECTOR, css).click()
    time.sleep(0.4)


def _bowl_views(browser: Chrome, picture: Callable[[str], None]) -> None:
    """From a bowl's page: a drip of it, a test of it, all bowls, and one being melted."""
    bowl = browser.current_url
    browser.get(f"{bowl}drip/")
    picture("drip")
    browser.get(f"{bowl}tests/")
    picture("home-test")
    browser.get(f"{bowl}uses/")
    picture("uses")
    browser.get(f"{bowl}waits/?shape=line")
    picture("waits")
    _follow(browser, "a[href='/bowls/']")
    picture("bowls")
    _follow(browser, ".line-row .btn")
    _follow(browser, "[formaction]")
    for _ in range(2):
        _follow(browser, "[name=seen][value=burst]")
    picture("melting")


def shoot(address: str, folder: Path, only: list[str]) -> None:
    """Take every picture, or only the named ones."""
    folder.mkdir(parents=True, exist_ok=True)
    browser = Chrome()

    def picture(name: str, size: str = "desk", *, whole: bool = False) -> None:
        if only and name not in only:
            return
        browser.resize(size)
        time.sleep(0.5)
        if whole:
            height = browser.execute_script("return document.documentElement.scrollHeight")
            width = browser.execute_script("return window.innerWidth")
            metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": size == "phone"}
            browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
            time.sleep(0.3)
        browser.save_screenshot(str(folder / f"{name}.png"))
        browser.resize("desk")

    try:
        browser.resize("desk")
        browser.get(address)
        for size in ("desk", "tablet", "phone"):
            picture(f"quick-card-{size}", size, whole=size != "desk")
        browser.get(f"{address}/sign-up/")
        picture("sign-up")
        browser.get(address)
        _follow(browser, "button[form=demo]")
        for size in ("desk", "tablet", "phone"):
            picture(f"bowl-{size}", size, whole=size != "desk")
        picture("bowl-whole", whole=True)
        _bowl_views(browser, picture)
        _follow(browser, "a[href='/pieces/']")
        picture("jobs")
        _follow(browser, ".line-link")
        for size in ("desk", "phone"):
            picture(f"job-{size}", size, whole=size != "desk")
        job = browser.current_url
        _follow(browser, ".pieces h2 a")
        picture("piece")
        picture("piece-phone", "phone", whole=True)
        browser.get(job)
        browser.find_element(By.PARTIAL_LINK_TEXT, "Observatory cake").click()
        picture("cake")
        _follow(browser, "a[href='/cupboard/']")
        picture("cupboard")
        browser.find_element(By.PARTIAL_LINK_TEXT, "Blue oil colour").click()
        picture("ingredient")
        browser.get(f"{address}/kitchen/")
        picture("kitchen")
        browser.get(f"{address}/kitchen/five-taps/?measure=scale&warmth=lip")
        picture("five-taps")
        for line in browser.complaints():
            print("console:", line)
    finally:
        browser.quit()


if __name__ == "__main__":
    shoot(sys.argv[1].rstrip("/"), Path(sys.argv[2]), sys.argv[3:])
