"""./bench: how quick it is, each time beside a plain loop (`tools.bench_timing`)."""

from __future__ import annotations

import argparse
import http.client
import json
import re
import shutil
import statistics
import subprocess
import sys
import threading
import time
import uuid
from collections.abc import Callable
from functools import partial
from http.cookies import SimpleCookie
from pathlib import Path
from typing import Any
from urllib.parse import urlencode

from tools.bench_colour import measure_colour
from tools.bench_day import measure_days
from tools.bench_designs import measure_cut_plans, measure_designs, measure_marbling, measure_shapes
from tools.bench_job import measure_reckoning
from tools.bench_learning import measure_learning
from tools.bench_notebook import measure_notebook
from tools.bench_rescue import measure_rescue
from tools.bench_timing import Report, Took, loop_ms, median, p95, slowest, timed, took
from tools.database import ROOT, CannotStart, Database, free_port
from tools.parts import ServerPart, until_it_answers, web_command
from tools.runtime import RUNTIME, environment, manage

LIVE_MS, PAGE_MS, MEMORY_MB, CALL_S = 100.0, 200.0, 350.0, 0.6
PROPOSALS_MS = 300.0
CORE_MS = 20.0  # drip, drain, set
KITCHENS, BOWLS, EVENTS = 200, 200, 5000  # of these kitchens the first has so many bowls and events
AT_ONCE, ROUNDS, AT_ONCE_MS = 50, 4, 1000.0
PAUSE_S = 0.055  # live endpoints allow so many a second


class Maker:
    """A signed-in visitor on one kept-open connection."""

    def __init__(self, port: int) -> None:
        self.line = http.client.HTTPConnection("127.0.0.1", port, timeout=30)
        self.cookies: SimpleCookie = SimpleCookie()

    def ask(self, method: str, address: str, body: str = "", kind: str = "") -> tuple[int, str, str]:
        """Status, text and where it leads."""
        headers = {"Cookie": "; ".join(f"{k}={m.value}" for k, m in self.cookies.items())}
        if kind:
            headers |= {"Content-Type": kind, "X-CSRFToken": self.cookies["csrftoken"].value}
        try:
            self.line.request(method, address, body or None, headers)
            response = self.line.getresponse()
        except (BrokenPipeError, ConnectionResetError, http.client.RemoteDisconnected):  # closed while nobody asked
            self.line.close()
            self.line.request(method, address, body or None, headers)
            response = self.line.getresponse()
        text = response.read().decode(errors="replace")
        for value in response.headers.get_all("Set-Cookie") or []:
            self.cookies.load(value)
        return response.status, text, response.headers.get("Location", "")

    @classmethod
    def logged_in(cls, port: int, login: str) -> Maker:
        """As the maker whose log-in this is."""
        maker = cls(port)
        maker.cookies["sessionid"] = login
        return maker

    def open_demo(self) -> str:
        """The address of the demo's first bowl."""
        self.ask("GET", "/")
        return self.ask("POST", "/demo/open/", urlencode({"x": 1}), "application/x-www-form-urlencoded")[2]


def _good(status: int, wanted: int = 200) -> None:
    if status != wanted:
        raise CannotStart(f"a page answered {status} instead of {wanted}")


def _look(maker: Maker, address: str, _: int) -> None:
    _good(maker.ask("GET", address)[0])


def measure_pages(report: Report, port: int) -> None:
    """Live answers and pages over the wire, one maker."""
    maker = Maker(port)
    bowl = maker.open_demo()
    page = maker.ask("GET", bowl)[1]
    fields = dict(re.findall(r'name="(seq|key|add-\d+|temperature_c|number)" value="([^"]*)"', page))
    drops: list[str] = re.findall(r'name="(add-\d+)"', page)
    match = re.search(r'href="(/pieces/jobs/\d+/)"', maker.ask("GET", "/pieces/")[1])
    job = match.group(1) if match else "/pieces/"

    def live(i: int) -> None:
        amounts = {**fields, drops[i % len(drops)]: str(1 + i % 9), "temperature_c": str(30 + i % 12)}
        body = json.dumps({"request": i, "fields": amounts})
        _good(maker.ask("POST", f"{bowl}live/", body, "application/json")[0])

    def quick(i: int) -> None:
        card = {
            "what": "biscuit",
            "count": str(6 + i),
            "size": "small",
            "depth": "half",
            "colour": "lilac-hour",
            "white": "coating",
        }
        body = json.dumps({"request": i, "fields": card})
        _good(maker.ask("POST", "/quick/live/", body, "application/json")[0])

    def cake(i: int) -> None:
        piece = {"name": "Cake", "count": "1", "core": "cake_tier", "layers": "1", "version": "0", "d0": "180 mm"}
        drips = {
            "technique": "cake_drip",
            "white": "coating",
            "colour": "",
            "wall": ("chilled", "room")[i % 2],
            "length_mm": f"{25 + i} mm",
            "width_mm": "9 mm",
            "spacing_mm": "28 mm",
            "flooded": "",
        }
        fields = {**piece, "d1": "110 mm", **{f"0-{name}": value for name, value in drips.items()}}
        body = json.dumps({"request": i, "fields": fields})
        _good(maker.ask("POST", f"{job}build/live/", body, "application/json")[0])

    addresses = [bowl, "/", "/bowls/", "/pieces/", "/cupboard/", "/kitchen/"]
    addresses.append(job)

    timed(10, lambda _: maker.ask("GET", "/healthz/empty"))
    empty = p95(timed(60, lambda _: maker.ask("GET", "/healthz/empty")))
    timed(8, live, pause_s=PAUSE_S)
    lives = timed(150, live, pause_s=PAUSE_S)
    cards = timed(60, quick, pause_s=PAUSE_S)
    cakes = timed(60, cake, pause_s=PAUSE_S)
    pages: list[Took] = []
    for address in addresses:
        pages += timed(30, partial(_look, maker, address))
    report.say("empty_view_p95", empty)
    report.time("live_bowl_p95", p95(lives), LIVE_MS)
    report.time("live_card_p95", p95(cards), LIVE_MS)
    report.time("live_cake_p95", p95(cakes), LIVE_MS)
    report.time("page_p95", p95(pages), PAGE_MS)


def measure_day_pages(report: Report, port: int) -> None:
    """Comet night's day: its page, an order at once while something is typed, a step moved, the bench."""
    maker = Maker(port)
    maker.open_demo()
    day = maker.ask("GET", "/day/")[2]
    page = maker.ask("GET", day)[1]
    rows = page.split("data-knot-row")[1:]
    step = next(hit[1] for row in rows[4:] if (hit := re.search(r'data-knot="([^"]+)"', row)))
    start = next(re.findall(r'data-knot-start="(\d+)"', row)[0] for row in rows if f'data-knot="{step}"' in row)
    query = {"begin": "09:00", "hands": "1", "fridge": "4", "freezer": "2"}

    def live(i: int) -> None:
        fields = {**query, "hands": str(1 + i % 3), "fridge": str(i % 5), "on": "2099-01-05"}
        body = json.dumps({"request": i, "fields": fields})
        _good(maker.ask("POST", f"{day}live/", body, "application/json")[0])

    def move(i: int) -> None:
        sent = urlencode({**query, "step": step, "to_s": int(start) + 60 * (i % 20)})
        _good(maker.ask("POST", f"{day}move/", sent, "application/x-www-form-urlencoded")[0])

    def look(address: str) -> Callable[[int], None]:
        return lambda _: _good(maker.ask("GET", address)[0])

    for name, act, pause, target in (
        ("page", look(day), 0.0, PAGE_MS),
        ("at_once", live, PAUSE_S, PROPOSALS_MS),
        ("moved", move, 0.0, PROPOSALS_MS),
        ("bench", look(f"{day}bench/"), 0.0, PAGE_MS),
    ):
        report.time(f"day_{name}_p95", p95(timed(30, act, pause_s=pause)), target)


def measure_colour_pages(report: Report, port: int) -> None:
    """Three recipes while a colour is changed; what to stir in next into a bowl that goes ever further astray."""
    maker = Maker(port)
    bowl = maker.open_demo()
    corrections = list[Took]()

    def recipes(i: int) -> None:
        lab = f"{60 + i % 30},{-12 + i % 25},{20 - i % 38}"
        query = {"lab": lab, "white": "coating", "melt_g": "200 g", "colourants": "3", "way": "best", "called": "it"}
        body = json.dumps({"request": i, "fields": query})
        _good(maker.ask("POST", "/colours/live/", body, "application/json")[0])

    def correction(i: int) -> None:
        page = maker.ask("GET", bowl)[1]
        drops: list[str] = re.findall(r'name="(add-\d+)"', page)
        seq = dict(re.findall(r'name="(seq)" value="(\d+)"', page))
        drop = {**seq, drops[i % len(drops)]: str(1 + i % 5), "key": str(uuid.uuid4())}
        token = maker.cookies["csrftoken"].value
        sent = urlencode({**drop, "csrfmiddlewaretoken": token})
        _good(maker.ask("POST", f"{bowl}did/", sent, "application/x-www-form-urlencoded")[0], 302)
        maker.ask("GET", bowl)
        corrections.append(took(lambda: _good(maker.ask("GET", f"{bowl}colour/")[0])))

    colours = timed(60, recipes, pause_s=PAUSE_S)
    for i in range(20):
        correction(i)
    report.time("live_three_recipes_p95", p95(colours), PROPOSALS_MS)
    report.time("next_drops_or_correction_p95", p95(corrections), PROPOSALS_MS)


def fill(env: dict[str, str]) -> list[dict[str, Any]]:
    """Kitchens with a history, and how to get into them."""
    words = [sys.executable, "-m", "tools.crowd", str(KITCHENS), str(BOWLS), str(EVENTS)]
    done = subprocess.run(words, cwd=ROOT, env=env, capture_output=True, text=True, check=False)
    if done.returncode:
        raise CannotStart(done.stderr[-2000:])
    return [json.loads(line) for line in done.stdout.splitlines()]


def measure_scale(report: Report, port: int, crowd: list[dict[str, Any]]) -> None:
    """Every page of a kitchen with a long history, among many kitchens."""
    maker = Maker.logged_in(port, crowd[0]["login"])
    bowl, job = f"/bowls/{crowd[0]['bowl']}/", f"/pieces/jobs/{crowd[0]['job']}/"

    def look(address: str) -> Took:
        for i in range(8):  # whichever worker answers has answered once
            _look(maker, address, i)
        return p95(timed(40, partial(_look, maker, address)))

    times = []
    for address in (bowl, job, "/", "/bowls/", "/bowls/?in-use=3&done=3", "/pieces/", "/cupboard/", "/kitchen/"):
        times.append(look(address))
        report.say(f"big_kitchen_p95 {address}", times[-1])
    report.time("big_kitchen_slowest_page_p95", slowest(times), PAGE_MS)
    full, times = f"/pieces/jobs/{crowd[0]['pieces']}/", []
    for room in ("", "inside/", "boxes/", "shopping/", "choices/", "build/"):
        pages: list[str] = []
        first = took(lambda: pages.append(maker.ask("GET", full + room)[1]))  # noqa: B023 (called at once)
        times.append(look(full + room))
        report.say(f"two_hundred_pieces_p95 {room or 'job/'}", times[-1])
        report.say(f"two_hundred_pieces_first {room or 'job/'}", first)
        print(f"two_hundred_pieces_size {room or 'job/'} {len(pages[0]) / 1000:.0f} kB - -")
    report.time("two_hundred_pieces_slowest_page_p95", slowest(times), PAGE_MS)


def measure_crowd(report: Report, port: int, crowd: list[dict[str, Any]]) -> None:
    """Many makers at once: each looks at a bowl, asks, and notes a drop, over and over."""
    wrong: list[str] = []
    taken: list[float] = []

    def work(who: dict[str, Any]) -> None:
        maker, bowl = Maker.logged_in(port, who["login"]), f"/bowls/{who['bowl']}/"

        def ask(wanted: int, *request: str) -> str:
            begun = time.perf_counter()
            status, text, _ = maker.ask(*request)
            taken.append((time.perf_counter() - begun) * 1000)
            if status != wanted:
                wrong.append(f"{request[:2]} answered {status}")
            return text

        try:
            for i in range(ROUNDS):
                page = ask(200, "GET", bowl)
                fields = dict(re.findall(r'name="(seq|key|add-\d+|temperature_c|number)" value="([^"]*)"', page))
                drops: list[str] = re.findall(r'name="(add-\d+)"', page)
                fields[drops[-1]] = str(1 + i)
                ask(200, "POST", f"{bowl}live/", json.dumps({"request": i, "fields": fields}), "application/json")
                token = maker.cookies["csrftoken"].value
                noted = urlencode({**fields, "csrfmiddlewaretoken": token})
                ask(302, "POST", f"{bowl}did/", noted, "application/x-www-form-urlencoded")
                ask(200, "GET", "/bowls/")
        except Exception as problem:
            wrong.append(repr(problem))

    threads = [threading.Thread(target=work, args=(who,)) for who in crowd[1 : AT_ONCE + 1]]
    loop, begun = statistics.median(loop_ms() for _ in range(9)), time.perf_counter()
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    rate = len(taken) / (time.perf_counter() - begun)
    for line in wrong[:5]:
        print(f"  {line}")
    loop = (loop + statistics.median(loop_ms() for _ in range(9))) / 2
    print(f"at_once {len(threads)} makers, {len(taken)} requests, {rate:.3g} a second - -")
    report.time("at_once_p95", p95(Took(ms, ms / loop) for ms in taken), AT_ONCE_MS)
    report.line("at_once_errors", len(wrong), "requests", 0)


def measure_memory(report: Report, parent: int) -> None:
    """Resident memory of the biggest worker."""
    sizes = []
    for task in Path("/proc").glob("[0-9]*/status"):
        text = task.read_text() if task.exists() else ""
        if f"\nPPid:\t{parent}\n" in text:
            sizes.append(int(re.search(r"VmRSS:\s+(\d+)", text).group(1)) / 1024)  # type: ignore[union-attr]
    report.line("worker_memory", max(sizes), "MB", MEMORY_MB)


def measure_core(report: Report) -> None:
    """Drips, waits, and one call of the scriptable core."""
    from coating.flow.drip import drip_length
    from coating.flow.home_tests import drain_time_s
    from coating.flow.trade_number import flow_from_number
    from coating.heat.setting import setting_time

    walls = [(n, wall) for n in (15, 20, 27, 37) for wall in ("chilled", "room") for _ in range(5)]
    drips = [took(partial(drip_length, n, volume_ml=0.5, temperature_c=38, wall=w)) for n, w in walls]
    report.time("drip_median", median(drips), CORE_MS)
    drains = timed(20, lambda i: drain_time_s(flow_from_number(20 + i), hole_mm=4))
    report.time("drain_median", median(drains), CORE_MS)
    sets = timed(20, lambda i: setting_time(1 + i / 5, pour_c=38, surround_c=21))
    report.time("set_median", median(sets), CORE_MS)
    command = [sys.executable, "-m", "coating", "flow.from_number"]

    def call(_: int) -> None:
        subprocess.run(command, input=b'{"number": 37}', capture_output=True, cwd=ROOT, check=True)

    report.time("facade_call_median", median(timed(5, call)), 1000 * CALL_S)


PARTS = ("pages", "colours", "designs", "pieces", "crowd", "core", "day", "rescue", "notebook")


def measure(parts: list[str], report: Report, port: int, web: ServerPart, env: dict[str, str], folder: Path) -> None:
    """The parts that are wanted."""
    if "pages" in parts:
        measure_pages(report, port)
    if "colours" in parts:
        measure_colour_pages(report, port)
    if "designs" in parts:
        measure_shapes(report)
        measure_marbling(report)
        measure_cut_plans(report)
        measure_designs(report, Maker(port))
    if "pieces" in parts or "crowd" in parts:
        crowd = fill(env)
        measure_scale(report, port, crowd)
        if "crowd" in parts:
            measure_crowd(report, port, crowd)
            measure_memory(report, web.pid)
    if "day" in parts:
        measure_day_pages(report, port)
        measure_days(report)
    if "rescue" in parts:
        measure_rescue(report, Maker(port))
    if "notebook" in parts:
        measure_notebook(report, partial(Maker.logged_in, port), env, folder / "notebook")
    if "core" in parts:
        measure_core(report)
        measure_reckoning(report)
        measure_learning(report)
        measure_colour(report)


def main() -> int:
    """All of it, or the parts that are named."""
    options = argparse.ArgumentParser(prog="./bench", description="Speed figures; all of them unless some are named.")
    options.add_argument("parts", nargs="*", choices=[*PARTS, []])
    parts = options.parse_args().parts or list(PARTS)
    report = Report()
    folder = RUNTIME / "bench"
    shutil.rmtree(folder, ignore_errors=True)
    RUNTIME.mkdir(exist_ok=True)
    database, port = Database(folder, durable=True), free_port()
    web = ServerPart("The web server", web_command("127.0.0.1", port), kindly_s=6)
    try:
        database.start()
        env = environment(database, port=port)
        manage(env, "migrate", "--noinput", "-v0")
        manage(env, "collectstatic", "--noinput", "-v0")
        web.start(env)
        until_it_answers(web, port, "127.0.0.1")
        measure(parts, report, port, web, env, folder)
    except CannotStart as problem:
        print(problem, file=sys.stderr)
        return 1
    finally:
        web.end()
        database.stop()
        shutil.rmtree(folder, ignore_errors=True)
    return 1 if report.missed else 0


if __name__ == "__main__":
    sys.exit(main())
