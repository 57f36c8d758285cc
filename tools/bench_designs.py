"""How quick the studio is: lace drawn, split and checked, letters, paper, and a design while it is changed."""

from __future__ import annotations

import json
import re
import time
from collections.abc import Callable
from functools import partial
from typing import Any

from tools.bench_timing import Report, p95, slowest, timed, took

DRAWN_MS, LETTERS_MS, PAPER_MS, LIVE_MS = 1500.0, 100.0, 1000.0, 150.0
CUT_PLAN_MS = 1000.0
PREVIEW_MS, MARBLED_MS, FINE_MS = 60.0, 500.0, 1600.0
PAUSE_S = 0.055
TIER_MM = 300.0


def measure_shapes(report: Report) -> None:
    """The core: every lace on a tier of 300 mm, drawn, split and checked, nothing known from before; a long text."""
    from coating.shape.fitting import on_plaque
    from coating.shape.lace import PATTERNS, lace
    from coating.shape.legible import legible, room_in
    from coating.shape.lettering import letters

    lace("swags", diameter_mm=100, height_mm=30, line_mm=1).held  # noqa: B018  imports

    def draw(name: str, i: int) -> None:
        strip = lace(name, diameter_mm=TIER_MM + 0.1 * i, height_mm=45, line_mm=1.5)
        _ = strip.mass_g(), strip.seconds, strip.held

    times = {name: took(draw, name, i) for i, name in enumerate(PATTERNS)}
    name = max(times, key=lambda n: times[n].loops)
    report.time(f"lace_300_mm_slowest_{name}", times[name], DRAWN_MS)
    text = "Clear skies over the hill tonight, look up and count the comets"
    letters(text)
    room_in.cache_clear()

    def write() -> None:
        drawn = letters(text, face="cursive", cap_mm=15)
        _ = drawn.drawing.length_mm, legible(text, face="cursive", cap_mm=15, line_mm=1.5)

    report.time("lettering", took(write), LETTERS_MS)
    report.say("lettering_on_a_round_plaque", took(lambda: on_plaque(text, face="futural", width_mm=140)))


def measure_cut_plans(report: Report) -> None:
    """Sixty pieces of ten sizes on sheets of 400 x 250 mm, some of which may be turned; and a few that are solved."""
    from coating.shape.transfer import WantedPieces, cut_plan

    wanted = [WantedPieces(30 + 7 * i, 90 - 5 * i, 6, i % 2 == 0) for i in range(10)]
    cut_plan((400, 250), wanted[:1], kerf_mm=1)
    plans: list[Any] = []
    report.time("cut_plan_60_pieces", took(lambda: plans.append(cut_plan((400, 250), wanted, kerf_mm=1))), CUT_PLAN_MS)
    plan = plans[0]
    least = sum(p.width_mm * p.height_mm for p in plan.placed) / (400 * 250)
    print(f"cut_plan_60_sheets {plan.sheets} of_{least:.2g}_by_area - -")
    few = [WantedPieces(130, 120, 6, False), WantedPieces(60, 40, 8, True)]
    report.time("cut_plan_solved_14_pieces", took(lambda: cut_plan((400, 250), few, kerf_mm=1)), 2 * CUT_PLAN_MS)


def measure_marbling(report: Report) -> None:
    """A slab of 300 x 200 mm at three resolutions, and against the plain way: tine by tine in double precision."""
    import numpy as np

    from coating.shape.marbling import Comb, Drop, Tine, marbled

    wide, high = 300.0, 200.0
    drops = [Drop(60 + 45 * i, 60 + 80 * (i % 2), 24) for i in range(5)]
    done: list[Any] = [
        *drops,
        Tine(0, 50, 0, 120, 9),
        Comb(90, 30, 60, 8),
        Comb(0, 25, 40, 7),
        Tine(300, 150, 180, 120, 9),
    ]
    marbled(done, width_mm=wide, height_mm=high, resolution=64)
    for dots, finer, target in ((256, 1, PREVIEW_MS), (1024, 1, MARBLED_MS), (1024, 2, FINE_MS)):
        drawn = took(partial(marbled, done, width_mm=wide, height_mm=high, resolution=dots, finer=finer))
        report.time(f"marbling_{dots}{'_twice_as_fine' if finer > 1 else ''}", drawn, target)
    begun = time.perf_counter()
    marbled(done, width_mm=wide, height_mm=high, resolution=1024)
    ours = time.perf_counter() - begun
    begun = time.perf_counter()
    x, y = np.meshgrid((np.arange(1024) + 0.5) * 300 / 1024, (np.arange(683) + 0.5) * 200 / 683)
    for one in reversed(done):
        if isinstance(one, Drop):
            dx, dy = x - one.x_mm, y - one.y_mm
            far = np.maximum(np.hypot(dx, dy), 1e-9)
            near = np.sqrt(np.maximum(0, far**2 - one.radius_mm**2)) / far
            x, y = one.x_mm + dx * near, one.y_mm + dy * near
            continue
        cos, sin = np.cos(np.radians(one.angle_deg)), np.sin(np.radians(one.angle_deg))
        if isinstance(one, Comb):
            spots = [(-sin * one.spacing_mm * k, cos * one.spacing_mm * k) for k in range(-13, 14)]
        else:
            spots = [(one.x_mm, one.y_mm)]
        was_x, was_y = x, y
        for a, b in spots:
            pull = one.shift_mm * 2.0 ** (-np.abs((was_y - b) * cos - (was_x - a) * sin) / one.half_distance_mm)
            x, y = x - pull * cos, y - pull * sin
    plain = time.perf_counter() - begun
    report.line("marbling_over_plain", ours / plain, "x", 1 / 8)


def _paper(maker: Any, address: str, _: int) -> None:
    assert maker.ask("GET", f"{address}template.pdf")[0] == 200


def measure_designs(report: Report, maker: Any) -> None:
    """Over the wire: each kind while it is changed, the check behind, and a template on paper."""
    maker.open_demo()
    times = []
    for kind, changed in CHANGED.items():
        fields = _fields(maker.ask("GET", f"/studio/new/{kind}/")[1])

        def live(i: int, kind: str = kind, fields: Any = fields, changed: Any = changed) -> None:
            body = json.dumps({"request": i, "fields": {**fields, **changed(i)}})
            status, text, _ = maker.ask("POST", f"/studio/live/{kind}/", body, "application/json")
            assert status == 200, text[:200]

        timed(11, live, pause_s=PAUSE_S)
        times.append(p95(timed(55, live, pause_s=PAUSE_S)))
        report.say(f"live_{kind}_p95", times[-1])
    report.time("live_design_slowest_kind_p95", slowest(times), LIVE_MS)
    fields = _fields(maker.ask("GET", "/studio/new/lace/")[1])

    def check(i: int) -> None:
        body = json.dumps({"request": i, "fields": {**fields, **CHANGED["lace"](i), "diameter_mm": f"{250 + i} mm"}})
        assert maker.ask("POST", "/studio/check/lace/", body, "application/json")[0] == 200

    report.time("lace_checked_p95", p95(timed(22, check, pause_s=PAUSE_S)), DRAWN_MS)
    design = re.findall(r'href="(/studio/\d+/)"', maker.ask("GET", "/studio/")[1])
    slow = slowest(p95(timed(10, partial(_paper, maker, address))) for address in design)
    report.time("template_pdf_slowest_p95", slow, PAPER_MS)
    report.say("studio_page_p95", p95(timed(20, lambda _: maker.ask("GET", "/studio/"))))


def _fields(page: str) -> dict[str, str]:
    """What an untouched page would send."""
    fields = dict(re.findall(r'<input type="(?:text|hidden|range)" name="([a-z_0-9]+)"[^>]* value="([^"]*)"', page))
    fields |= dict(re.findall(r'<input type="radio" name="([a-z_]+)" value="([^"]*)"[^>]* checked', page))
    for name, options in re.findall(r'<select name="([a-z_0-9]+)".*?>(.*?)</select>', page, re.S):
        chosen = re.search(r'value="([^"]*)" selected', options)
        fields[name] = chosen.group(1) if chosen else ""
    text = re.search(r'<textarea name="text"[^>]*>\s*(.*?)</textarea>', page, re.S)
    return {**fields, "version": "0"} | ({"text": text.group(1)} if text else {})


_LACES = ("swags", "stars", "loops", "trellis", "fans", "vine", "picots", "net", "ripples", "arcade", "meander")
_SHAPES = ("star", "comet", "crescent", "planet", "cloud", "flower", "snow", "plaque", "ring", "heart")
_FACES = ("zigzag", "crossed", "stripes", "waves", "spiral", "dots", "scallops", "rays")
_CUTS = ("square", "strip", "disc", "sleeve", "loop", "frame")
_TEXTURES = ("bubbles", "ribs", "grain", "crumpled", "woven")
# What is changed in each kind: something else each time, every pattern in turn.
CHANGED: dict[str, Callable[[int], dict[str, str]]] = {
    "lace": lambda i: {"pattern": _LACES[i % 11], "diameter_mm": f"{200 + i} mm", "height_mm": f"{40 + i % 7} mm"},
    "drips": lambda i: {"seed": str(1 + i), "length_mm": f"{30 + i % 20} mm"},
    "lettering": lambda i: {"text": f"Clear skies {i}", "where": ("line", "above", "round")[i % 3]},
    "run_out": lambda i: {"shape": _SHAPES[i % 10], "width_mm": f"{50 + i} mm"},
    "face": lambda i: {"pattern": _FACES[i % 8], "width_mm": f"{45 + i % 30} mm"},
    "marbling": lambda i: {"seed": str(1 + i), "poured": "scattered", "passes": str(2 + i % 7)},
    "mould": lambda i: {"preset": ("praline", "half_ball", "cup", "cube")[i % 4], "count": str(20 + i)},
    "dip": lambda i: {"core": ("ball", "berry", "round_biscuit")[i % 3], "count": str(20 + i)},
    "paint": lambda i: {"coats0": str(1 + i % 6), "across_mm": f"{40 + i} mm"},
    "house": lambda i: {"long_mm": f"{100 + i} mm", "sweet_mm": "12 mm"},
    "swirl": lambda i: {"bowl_mm": f"{120 + i} mm", "turns": str(i % 6)},
    "bottle": lambda i: {"ml0": str(20 + i), "ml2": str(30 + i % 7)},
    "transfer": lambda i: {"cut": _CUTS[i % 6], "diameter_mm": f"{60 + i} mm", "printed": str(1 + i % 3)},
    "sleeve": lambda i: {"diameter_mm": f"{50 + i} mm"},
    "curls": lambda i: {"long_mm": f"{180 + i} mm"},
    "bow": lambda i: {"strip_mm": f"{150 + i} mm", "around": str(7 + i % 4)},
    "petals": lambda i: {"wide_mm": f"{24 + i % 20} mm"},
    "leaves": lambda i: {"long_mm": f"{60 + i} mm"},
    "cast": lambda i: {"texture": _TEXTURES[i % 5], "width_mm": f"{200 + i} mm"},
}
