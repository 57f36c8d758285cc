"""Pictures of the main views from the demo kitchen: `python -m tools.screenshots ADDRESS FOLDER [name ...]`."""

from __future__ import annotations

import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
from PIL import Image
from selenium.webdriver.common.by import By

from tools.chrome import Chrome


def _follow(browser: Chrome, css: str) -> None:
    browser.find_element(By.CSS_SELECTOR, css).click()
    time.sleep(0.4)


def _bowl_views(browser: Chrome, picture: Callable[[str], None]) -> None:
    """From a bowl's page: a drip of it, a test of it, all bowls, and one being melted."""
    bowl = browser.current_url
    browser.get(f"{bowl}colour/")
    picture("drop-by-drop")
    browser.get(f"{bowl}tests/")
    picture("home-test")
    browser.get(f"{bowl}uses/")
    picture("uses")
    browser.get(f"{bowl}waits/?shape=line")
    picture("waits")
    _follow(browser, "a[href='/bowls/']")
    picture("bowls")
    _follow(browser, ".line-row .btn")
    _follow(browser, "a[href*='/melt/']")
    for css in ("form[action$='/put-in/'] button", "[name=seen][value=burst]", "[name=seen][value=lumpy]"):
        _follow(browser, css)
    picture("melting")


def _colour_views(browser: Chrome, address: str, picture: Callable[[str], None]) -> None:
    """The swatch book, one colour and a photo with white paper under a lamp."""
    browser.get(f"{address}/colours/")
    picture("swatch-book")
    browser.find_element(By.PARTIAL_LINK_TEXT, "Young olive").click()
    picture("recipe")
    browser.get(f"{address}/colours/new/?way=photo")
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "lamp.jpg"
        _still_life().save(file, quality=92)
        browser.find_element(By.ID, "id_picture").send_keys(str(file))
        browser.find_element(By.CSS_SELECTOR, "form[enctype] .btn").click()
    photo = browser.current_url.partition("?")[0]
    browser.get(f"{photo}?x=0.66&y=0.45&card_x=0.2&card_y=0.5&half=0.015&card_kind=white&mark=spot")
    picture("photo")


def _follow_words(browser: Chrome, words: str) -> None:
    """To where a link of these words leads."""
    browser.get(browser.find_element(By.PARTIAL_LINK_TEXT, words).get_attribute("href") or "")


def _job_views(browser: Chrome, job: str, picture: Callable[..., None]) -> None:
    """What to begin with, a piece with its parts, what is in it, its boxes, other ways to make it."""
    browser.get(f"{job}build/")
    picture("begin")
    browser.get(f"{job.partition('/pieces/')[0]}/pieces/")
    _follow_words(browser, "Launch day")
    _follow_words(browser, "Rockets")
    for size in ("desk", "tablet", "phone"):
        picture("build" if size == "desk" else f"build-{size}", size, whole=size != "desk")
    for room in ("inside", "boxes", "choices", "shopping"):
        browser.get(f"{job}{room}/")
        picture(room)


def _studio_views(browser: Chrome, address: str, picture: Callable[..., None]) -> None:
    """The studio, and a design of some kinds."""
    browser.get(f"{address}/cupboard/add/")
    picture("add")
    browser.get(f"{address}/studio/")
    picture("studio", whole=True)
    links = {
        a.text.splitlines()[0]: a.get_attribute("href") for a in browser.find_elements(By.CSS_SELECTOR, ".line-link")
    }
    for title, name in (
        ("Collar of star arcs", "lace"),
        ("Orbit panels", "transfer"),
        ("Nebula bark", "marbling"),
        ("Half moons", "mould"),
    ):
        browser.get(links[title] or address)
        time.sleep(1.5)
        picture(name, whole=True)


def _day_views(browser: Chrome, address: str, picture: Callable[..., None]) -> None:
    """The Day sheet once it is planned, and the bench in the middle of a step, with timers that run."""
    browser.get(f"{address}/day/")
    _follow(browser, ".day-change summary")
    _follow(browser, ".day-form .btn")
    for _ in range(40):
        time.sleep(1)
        if "Looking for" not in browser.find_element(By.ID, "main").text:
            break
    picture("day")
    browser.get(browser.find_element(By.CSS_SELECTOR, "a[href$='/bench/']").get_attribute("href") or address)
    for _ in range(24):
        counted = browser.find_elements(By.CSS_SELECTOR, "[data-bench-one]:not([hidden])")
        if counted and len(browser.find_elements(By.CSS_SELECTOR, ".bench-waits li")) > 1:
            break
        _follow(browser, "[data-bench-main] button[value=done]")
        time.sleep(0.4)
    for _ in range(4):
        _follow(browser, "[data-bench-one]")
        time.sleep(0.4)
    picture("bench")


def _notebook_views(browser: Chrome, address: str, picture: Callable[..., None]) -> None:
    """All evenings, the last one that is over, and how to make it again."""
    browser.get(f"{address}/notebook/")
    picture("evenings", whole=True)
    evening = browser.find_elements(By.CSS_SELECTOR, ".evening-line")[1].get_attribute("href") or address
    browser.get(evening)
    for size in ("desk", "phone"):
        picture("notebook" if size == "desk" else f"notebook-{size}", size, whole=True)
    browser.get(f"{evening}again/?times=2")
    picture("again", whole=True)


def _rescue_views(browser: Chrome, bowl: str, picture: Callable[..., None]) -> None:
    """A bowl that reads far too hot: what is seen, and the answer."""
    browser.get(bowl)
    field = browser.find_element(By.CSS_SELECTOR, "[name=temperature_c]")
    field.clear()
    field.send_keys("62")
    time.sleep(1)
    _follow(browser, "[data-role=did-this]")
    _follow(browser, ".wrong-tag")
    picture("what-do-you-see", whole=True)
    picture("what-do-you-see-phone", "phone", whole=True)
    _follow(browser, ".see-tile[href*='/clumpy/']")
    picture("rescue", whole=True)
    picture("rescue-phone", "phone", whole=True)


def _still_life() -> Image.Image:
    """A made-up photo by lamplight: white paper, and a glazed disc on a dark table."""
    across, down = np.meshgrid(np.arange(1600) / 1600, np.arange(1100) / 1100)
    linear = np.empty((1100, 1600, 3))
    linear[:] = 0.06 + 0.015 * np.sin(60 * down + 3 * np.sin(7 * across))[..., None]
    linear[(across > 0.06) & (across < 0.34) & (down > 0.2) & (down < 0.85)] = 0.85
    radius = np.hypot((across - 0.66) * 1.4545, down - 0.5)
    linear[radius < 0.36] = (0.2, 0.4, 0.55)
    linear[radius < 0.33] = (0.22, 0.43, 0.58)
    glint = np.exp(-(((across - 0.56) * 14) ** 2) - ((down - 0.3) * 14) ** 2) * (radius < 0.36)
    lamp = np.array([1.0, 0.78, 0.5]) * (1.05 - 0.5 * np.hypot(across - 0.4, down - 0.3))[..., None]
    lit = np.clip((linear + 0.25 * glint[..., None]) * lamp, 0, 1)
    return Image.fromarray(
        np.round(255 * np.where(lit < 0.0031308, 12.92 * lit, 1.055 * lit ** (1 / 2.4) - 0.055)).astype(np.uint8)
    )


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
        bowl = browser.current_url
        _bowl_views(browser, picture)
        _follow(browser, "a[href='/pieces/']")
        picture("jobs")
        _follow(browser, ".line-link")
        for size in ("desk", "phone"):
            picture(f"job-{size}", size, whole=size != "desk")
        job = browser.current_url
        _job_views(browser, job, picture)
        _studio_views(browser, address, picture)
        _day_views(browser, address, picture)
        _follow(browser, "a[href='/cupboard/']")
        picture("cupboard")
        _colour_views(browser, address, picture)
        _notebook_views(browser, address, picture)
        browser.get(f"{address}/kitchen/")
        picture("kitchen")
        browser.get(f"{address}/kitchen/five-taps/?measure=scale&warmth=lip")
        picture("five-taps")
        _rescue_views(browser, bowl, picture)
        for line in browser.complaints():
            print("console:", line)
    finally:
        browser.quit()


if __name__ == "__main__":
    shoot(sys.argv[1].rstrip("/"), Path(sys.argv[2]), sys.argv[3:])
