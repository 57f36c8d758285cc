"""Draws the pictures of the demo's earlier evenings, with our own renderers: `python -m tools.demo_photos`."""

from __future__ import annotations

import base64
import io
import os
import random
from collections.abc import Sequence

import django
from PIL import Image

WIDE, HIGH = 1000, 750
STARS_AT = ((220, 230, 270), (510, 200, 270), (800, 300, 270), (350, 530, 270), (670, 560, 270))
SUNS_AT = ((240, 240, 300), (570, 210, 300), (380, 530, 300), (750, 500, 300))
CLOTHS = {"night": "#39425a", "sand": "#d8d2c0", "grey": "#dcdcdb", "olive": "#6c7540"}


def pictures() -> dict[str, str]:
    """Every picture as SVG, by the name of its file."""
    from studio.colours.actions import STARTER_COLOURS
    from studio.colours.models import Colour
    from studio.pieces.stacks import dipped, dripped

    def shade(name: str) -> Colour:
        lightness, a, b = STARTER_COLOURS[name]
        return Colour(pk=1, name=name, lightness=lightness, a=a, b=b)

    def discs(name: str, share: float = 0.5) -> object:
        return dipped(
            "x", 1, diameter_mm=55.0, thickness_mm=7.0, share=share, white="coating", colour=shade(name), spares=0
        )

    drips = {"wall": "chilled", "length_mm": 45.0, "width_mm": 10.0, "spacing_mm": 32.0}
    cake = dripped("x", 1, diameter_mm=200.0, height_mm=110.0, white="coating", colour=shade("Midnight"), **drips)
    return {
        "discs.jpg": scene("night", discs("Dusk blue"), ((280, 240, 330), (650, 290, 330), (440, 560, 330))),
        "stars.jpg": scene("olive", discs("Lilac hour"), STARS_AT),
        "suns.jpg": scene("sand", discs("Apricot"), SUNS_AT),
        "plaques.jpg": scene("grey", discs("Dusk blue", 1.0), ((310, 390, 400), (710, 360, 400))),
        "clouds.jpg": scene("night", discs("Dusk blue", 0.333), ((270, 290, 260), (520, 470, 260), (770, 270, 260))),
        "cake.jpg": scene("sand", cake, ((500, 400, 760),), low=0.25),
        "blues.jpg": swatches("#6f93b4", "#84a9c3"),
    }  # fmt: skip


def scene(cloth: str, plan: object, places: Sequence[tuple[int, int, int]], *, low: float = 0.42) -> str:
    """Some of a piece on a cloth, each by its middle and size; `low` is where it stands, as a share of that."""
    from django.template.loader import render_to_string

    from studio.pieces.parts import picture_of_plan

    picture = picture_of_plan(plan)  # type: ignore[arg-type]
    marks = render_to_string("figures/piece.html", {"strokes": picture.front})
    each = "".join(
        f'<ellipse cx="{x}" cy="{y + size * low}" rx="{size * 0.36}" ry="{size * 0.06}" fill="#000" opacity=".16"/>'
        f'<svg x="{x - size / 2}" y="{y - size / 2}" width="{size}" height="{size}" viewBox="{picture.box}">'
        f"{marks}</svg>"
        for x, y, size in places
    )
    return _page(cloth, each)


def swatches(one: str, other: str) -> str:
    """Two shades side by side, as a maker would smear them on paper."""
    paper = '<rect x="120" y="120" width="760" height="510" fill="#fbfaf6"/>'
    return _page("grey", f'{paper}<rect x="190" y="190" width="310" height="370" fill="{one}"/>'
                 f'<rect x="500" y="190" width="310" height="370" fill="{other}"/>')  # fmt: skip


def _page(cloth: str, marks: str) -> str:
    random.seed(cloth)
    threads = "".join(
        f'<path d="M0 {y} H{WIDE}" stroke="#fff" stroke-opacity="{random.uniform(0.02, 0.07):.3f}"/>'
        for y in range(6, HIGH, 9)
    )
    ground = f'<rect width="{WIDE}" height="{HIGH}" fill="{CLOTHS[cloth]}"/>{threads}'
    return f'<svg xmlns="http://www.w3.org/2000/svg" width="{WIDE}" height="{HIGH}">{ground}{marks}</svg>'


def main() -> None:
    """Write every picture as JPEG."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "studio.settings.dev")
    django.setup()
    from studio.demo.evenings import PHOTOS
    from tools.chrome import Chrome
    from tools.database import ROOT

    css = (ROOT / "studio" / "static" / "studio" / "css" / "parts.css").read_text()
    PHOTOS.mkdir(exist_ok=True)
    browser = Chrome()
    try:
        size = {"width": WIDE, "height": HIGH, "deviceScaleFactor": 1, "mobile": False}
        browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
        for name, svg in pictures().items():
            html = f"<style>{css} body{{margin:0}}</style>{svg}"
            browser.get("data:text/html;base64," + base64.b64encode(html.encode()).decode())
            with Image.open(io.BytesIO(browser.get_screenshot_as_png())) as image:
                image.convert("RGB").save(PHOTOS / name, "JPEG", quality=86, optimize=True)
    finally:
        browser.quit()


if __name__ == "__main__":
    main()
