"""Where blobs are poured, and passes of a skewer in a rhythm; what each pass is called."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from coating.errors import OutOfBounds, UnknownName
from coating.limits import check
from coating.shape.marbling.operations import Circle, Drop, Operation, Stroke, Tine
from coating.shape.marbling.surface import marbled
from coating.shape.strokes import Array

POURED = ("rows", "lines", "one", "scattered", "placed")
RHYTHMS = ("along", "crossed", "slanted", "swirl", "none")
_LOOKS, _COARSE = 5, 96
DRAG = 0.55  # of a pass's length: how far what lies under the skewer is taken along


@dataclass(frozen=True)
class Pass:
    """One pass: what it does, where it begins and ends for the picture, mm; and in words which way it goes, how far
    from which edge (None: it slants), how long."""

    done: Operation
    begin: tuple[float, float]
    end: tuple[float, float]
    way: str
    at_mm: float | None = None
    edge: str = ""
    long_mm: float | None = None  # where it does not go right through


def blobs(
    way: str,
    share: float,
    width_mm: float,
    height_mm: float,
    *,
    count: int = 8,
    seed: int = 1,
    rows: int | None = None,
    placed: Sequence[tuple[float, float]] = (),
) -> list[Drop]:
    """Blobs of the second colour that together cover a share of the slab.

    Parameters
    ----------
    way : one of POURED. share : 0.02 to 0.8. count : about so many. seed : for what is scattered. rows : of lines;
    None: as many as look right for the count. placed : where they are, mm, for that way.

    Raises UnknownName, OutOfBounds.
    """
    if way not in POURED:
        raise UnknownName(f"There is no way to pour called {way[:40]!r}.", field="poured", choices=list(POURED))
    check("marbled_share", share, "share"), check("slab_mm", width_mm, "width_mm")
    check("slab_mm", height_mm, "height_mm"), check("blobs", count, "blobs")
    area = share * width_mm * height_mm
    if way == "one":
        places = np.array([(width_mm / 2, height_mm / 2)])
    elif way == "placed":
        if not placed:
            return []
        places = np.array([[check("place_mm", v, "placed") for v in place] for place in placed])
    elif way == "scattered":
        places = _scattered(width_mm, height_mm, count, seed)
    elif way == "lines":
        many = rows or max(1, round(math.sqrt(count * height_mm / width_mm) / 1.6))
        each = max(4, round(count * 3 / many))
        places = np.array(
            [((i + 0.5) * width_mm / each, (r + 0.5) * height_mm / many) for r in range(many) for i in range(each)]
        )
    else:
        across = max(1, round(math.sqrt(count * width_mm / height_mm)))
        down = max(1, round(count / across))
        places = np.array(
            [
                ((i + 0.5 + 0.25 * (r % 2 * 2 - 1)) * width_mm / across, (r + 0.5) * height_mm / down)
                for r in range(down)
                for i in range(across)
            ]
        )
    radius, drops = math.sqrt(area / len(places) / math.pi), list[Drop]()
    for _ in range(_LOOKS):  # blobs push each other over the edge: what is seen is brought to what was wanted
        drops = [Drop(float(x), float(y), radius, 1) for x, y in places]
        seen = marbled(drops, width_mm=width_mm, height_mm=height_mm, resolution=_COARSE).share(1)
        radius *= min(1.3, math.sqrt(share / max(seen, 1e-3)))
    return drops


def _scattered(width: float, height: float, count: int, seed: int) -> Array:
    """Far from each other: of many the one furthest from those there are, again and again."""
    draw = np.random.default_rng(seed)
    points = [draw.random(2) * (width, height)]
    for _ in range(count - 1):
        tried = (0.08 + 0.84 * draw.random((40, 2))) * (width, height)
        far = np.min([np.hypot(*(tried - place).T) for place in points], axis=0)
        points.append(tried[int(far.argmax())])
    return np.array(points)


def rhythm(name: str, passes: int, width_mm: float, height_mm: float, *, reach_mm: float) -> list[Pass]:
    """So many passes, there and back. Raises UnknownName, OutOfBounds."""
    if name not in RHYTHMS:
        raise UnknownName(f"There is no rhythm called {name[:40]!r}.", field="rhythm", choices=list(RHYTHMS))
    count = int(check("passes", passes))
    if name == "none":
        return []
    if name == "swirl":
        return _circles(count, width_mm, height_mm, reach_mm)
    all_passes = []
    for i in range(count):
        upright = name == "crossed" and i % 2 == 1
        rows = max(1, (count + 1 - int(upright)) // 2) if name == "crossed" else count
        at = (i // 2 if name == "crossed" else i) + 0.5
        back = (i // 2 if name == "crossed" else i) % 2 == 1
        if upright:
            x = at * width_mm / rows
            begin, end = (x, 0.0), (x, height_mm)
        else:
            y = at * height_mm / rows
            lean = 0.25 * height_mm if name == "slanted" else 0.0
            begin, end = (0.0, min(height_mm, y + lean)), (width_mm, max(0.0, y - lean))
        if back:
            begin, end = end, begin
        all_passes.append(stroke(begin, end, reach_mm=reach_mm))
    return all_passes


def stroke(begin: tuple[float, float], end: tuple[float, float], *, reach_mm: float) -> Pass:
    """A straight pass from one place to another, right through the slab in that direction.

    Raises OutOfBounds for one without a length.
    """
    long, angle = _run(begin, end)
    return _pass(Tine(*begin, angle, DRAG * long, reach_mm), begin, end)


def drawn(begin: tuple[float, float], end: tuple[float, float], *, reach_mm: float) -> Pass:
    """A straight pass from one place to another and no further. Raises OutOfBounds for one without a length."""
    long, angle = _run(begin, end)
    return replace(_pass(Stroke(*begin, angle, long, DRAG * long, reach_mm), begin, end), long_mm=long)


def _run(begin: tuple[float, float], end: tuple[float, float]) -> tuple[float, float]:
    """How long, and at which angle."""
    (x0, y0), (x1, y1) = ((check("place_mm", v, "strokes") for v in place) for place in (begin, end))
    long = math.hypot(x1 - x0, y1 - y0)
    if long < 1:
        raise OutOfBounds("A pass needs a length. Draw it longer.", field="strokes")
    return long, math.degrees(math.atan2(y1 - y0, x1 - x0))


def _pass(done: Operation, begin: tuple[float, float], end: tuple[float, float]) -> Pass:
    return Pass(done, begin, end, *_way(end[0] - begin[0], end[1] - begin[1], begin))


def _way(dx: float, dy: float, begin: tuple[float, float]) -> tuple[str, float | None, str]:
    if abs(dx) > 2 * abs(dy):
        return "to the right" if dx > 0 else "to the left", begin[1], "from the upper edge"
    if abs(dy) > 2 * abs(dx):
        return "down" if dy > 0 else "up", begin[0], "from the left"
    return f"slanting {'down' if dy > 0 else 'up'} to the {'right' if dx > 0 else 'left'}", None, ""


def _circles(count: int, width: float, height: float, reach: float) -> list[Pass]:
    """Rings round the middle, one outside the other, this way and that."""
    middle, most = (width / 2, height / 2), 0.42 * min(width, height)
    passes = []
    for i in range(count):
        radius = most * (i + 1) / count
        turn = (-1) ** i
        done = Circle(*middle, radius, turn * DRAG * 2 * math.pi * radius * 0.5, reach)
        word = f"round the middle {'one way' if turn > 0 else 'the other way'}"
        passes.append(Pass(done, (middle[0] + radius, middle[1]), middle, word, radius, "from it"))
    return passes


def operations(poured: Sequence[Drop], passes: Sequence[Pass], shown: int | None = None) -> list[Operation]:
    """Blobs, then the first so many passes."""
    return [*poured, *[p.done for p in (passes if shown is None else passes[:shown])]]
