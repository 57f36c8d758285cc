"""Text where it goes: in a line of a given width, along the edge of a round, or on a plaque in as many lines as make it
largest."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from coating.errors import EmptyDrawing, OutOfBounds
from coating.limits import check
from coating.shape.curves import smoothed
from coating.shape.lettering import CAP_UNITS, SPACE_UNITS, Lettering, letters
from coating.shape.strokes import Array, Drawing

LEADING = 1.7  # of the cap height, from line to line
MOST_ROWS, MOST_WORDS = 5, 12
_UNIT = 100.0


@dataclass(frozen=True, eq=False)
class FittedWords:
    """What is drawn, the cap height it has, its rows, and what cannot be drawn."""

    drawing: Drawing
    cap_mm: float
    rows: tuple[str, ...]
    undrawable: tuple[str, ...]


def _drawn(text: str, face: str, cap_mm: float) -> Lettering:
    """A text with its curves smoothed, corners kept."""
    lettering = letters(text, face=face, cap_mm=cap_mm)
    lines = tuple(smoothed(line) for line in lettering.drawing.lines)
    return replace(lettering, drawing=Drawing(lines, lettering.drawing.presses, lettering.advance_mm))


def _width(text: str, face: str) -> float:
    """For each mm of cap height: its words with a gap between each two."""
    words = text.split()
    return sum(_word(word, face)[0] for word in words) + max(0, len(words) - 1) * SPACE_UNITS / CAP_UNITS


def _reach(rows: Sequence[str], face: str) -> tuple[float, float]:
    """How far letters stand above their base line and hang below it, for each mm of cap height."""
    words = [_word(word, face) for row in rows for word in row.split()]
    return max([1.0, *[above for _, above, _ in words]]), max([0.0, *[under for *_, under in words]])


@lru_cache(maxsize=4096)
def _word(word: str, face: str) -> tuple[float, float, float]:
    """Width, height above the base line and depth below it, for each mm of cap height; nothing where it cannot be
    drawn."""
    try:
        lettering = letters(word, face=face, cap_mm=_UNIT)
    except EmptyDrawing:
        return 0.0, 0.0, 0.0
    ys = [line[:, 1] for line in lettering.drawing.lines] + [np.array([y]) for _, y in lettering.drawing.presses]
    above, under = -min(float(y.min()) for y in ys), max(float(y.max()) for y in ys)
    return lettering.advance_mm / _UNIT, above / _UNIT, under / _UNIT


def in_line(
    text: str, *, face: str, width_mm: float, most_cap_mm: float = 200.0, cap_mm: float | None = None
) -> FittedWords:
    """As large as a width allows, or with the capitals that are asked for. Raises as `letters`, and OutOfBounds where
    it would be smaller than 3 mm."""
    undrawable = letters(text, face=face).undrawable
    room = min(check("page_mm", width_mm, "width_mm") / _width(text, face), most_cap_mm)
    cap = _allowed(room) if cap_mm is None else check("cap_mm", cap_mm)
    return FittedWords(_drawn(text, face, cap).drawing, cap, (text,), undrawable)


def _allowed(cap_mm: float) -> float:
    if cap_mm < 3:
        raise OutOfBounds("There is no room for so much text. Use fewer words, or a larger piece.", field="text")
    return min(cap_mm, 200.0)


def on_arc(
    text: str,
    *,
    face: str,
    diameter_mm: float,
    margin_mm: float = 6.0,
    spread_deg: float = 150.0,
    below: bool = False,
    cap_mm: float | None = None,
) -> FittedWords:
    """Along the edge of a round piece, from its middle at the origin; y runs down.

    Parameters
    ----------
    diameter_mm, margin_mm : of the piece, and free to its edge. spread_deg : how much of the way round it may take.
    below : along the lower edge, read from the left. cap_mm : None: as large as the spread allows.

    Raises
    ------
    OutOfBounds : no room, or more than all the way round.
    """
    reach = check("core_mm", diameter_mm, "diameter_mm") / 2 - margin_mm
    undrawable = letters(text, face=face).undrawable
    spread, wide = math.radians(spread_deg), _width(text, face)
    above, under = _reach((text,), face)
    tight = under if below else above
    cap = cap_mm if cap_mm is not None else _allowed(reach * spread / (wide + spread * tight))
    base = reach - cap * tight
    if base <= cap * (above if below else under) or not wide or wide * cap / base > 2 * math.pi:
        raise OutOfBounds(
            "The text would meet its own beginning. Use smaller letters, or a larger piece.", field="cap_mm"
        )
    lettering = _drawn(text, face, cap)
    if below:  # tops lie nearer the middle and shrink: more room between letters
        lettering = _tracked(text, face, cap, base)
    middle = lettering.advance_mm / 2

    def place(points: Array) -> Array:
        x, up = points[:, 0] - middle, -points[:, 1]
        if below:
            angle, radius = -math.pi / 2 + x / base, base - up
        else:
            angle, radius = math.pi / 2 - x / base, base + up
        return np.column_stack([radius * np.cos(angle), -radius * np.sin(angle)])

    return FittedWords(_placed(lettering.drawing, place), cap, (text,), undrawable)


def _tracked(text: str, face: str, cap: float, base: float) -> Lettering:
    """Letters drawn apart, so that their tops have the room that they would have in a straight line."""
    apart = cap / max(base - cap, cap) * 0.5 * cap
    lines, dots, along, missing = list[Array](), list[tuple[float, float]](), 0.0, dict[str, None]()
    for letter in " ".join(text.split()):
        if letter == " ":
            along += _width("n", face) * cap * 0.7 + apart
            continue
        try:
            letter_drawn = _drawn(letter, face, cap)
        except EmptyDrawing:
            missing[letter] = None
            continue
        missing.update(dict.fromkeys(letter_drawn.undrawable))
        lines += [np.add(line, (along, 0.0)) for line in letter_drawn.drawing.lines]
        dots += [(x + along, y) for x, y in letter_drawn.drawing.presses]
        along += letter_drawn.advance_mm + apart
    wide = along - apart
    return Lettering(Drawing(tuple(lines), tuple(dots), wide), tuple(missing), wide)


def _placed(drawing: Drawing, place: Callable[[Array], Array]) -> Drawing:
    from shapely import LineString, segmentize

    fine = [np.asarray(segmentize(LineString(line), 0.5).coords) if len(line) > 1 else line for line in drawing.lines]
    dots = place(np.array(drawing.presses)) if drawing.presses else np.empty((0, 2))
    return Drawing(tuple(place(line) for line in fine), tuple((float(x), float(y)) for x, y in dots), drawing.width_mm)


def on_plaque(
    text: str,
    *,
    face: str,
    width_mm: float,
    height_mm: float | None = None,
    margin_mm: float = 5.0,
    most_cap_mm: float = 60.0,
) -> FittedWords:
    """On a plaque `width_mm` by `height_mm`, or a round one where `height_mm` is None, in the rows that make letters
    largest; its middle is the origin. Line breaks in the text are kept. Raises OutOfBounds without room."""
    round_ = height_mm is None
    wide = check("core_mm", width_mm) - 2 * margin_mm
    high = wide if height_mm is None else check("core_mm", height_mm) - 2 * margin_mm
    if min(wide, high) <= 0:
        raise OutOfBounds("The margin leaves no room for the text.", field="margin_mm")
    undrawable = letters(text, face=face).undrawable
    best: tuple[float, tuple[str, ...]] = (0.0, ())
    for rows in _breaks(text):
        widths = [_width(row, face) for row in rows]
        cap = min(_largest(widths, _reach(rows, face), wide, high, round_=round_), most_cap_mm)
        if cap > best[0] * (1 + 1e-6):
            best = cap, rows
    cap, rows = _allowed(best[0]), best[1]
    lines, dots = list[Array](), list[tuple[float, float]]()
    for row, base in zip(rows, _bases(len(rows), cap, _reach(rows, face)), strict=True):
        if not _width(row, face):
            continue
        lettering = _drawn(row, face, cap)
        off = (-lettering.advance_mm / 2, base)
        lines += [np.add(line, off) for line in lettering.drawing.lines]
        dots += [(x + off[0], y + off[1]) for x, y in lettering.drawing.presses]
    return FittedWords(Drawing(tuple(lines), tuple(dots), wide), cap, rows, undrawable)


def _breaks(text: str) -> Iterator[tuple[str, ...]]:
    """All ways to break a text into rows; its own breaks where it has them."""
    own = tuple(" ".join(row.split()) for row in text.splitlines() if row.strip())
    words = text.split()
    if len(own) > 1 or len(words) < 2 or len(words) > MOST_WORDS:
        yield own or (text,)
        return
    for where in range(2 ** (len(words) - 1)):
        if where.bit_count() < MOST_ROWS:
            rows, row = [], [words[0]]
            for i, word in enumerate(words[1:]):
                if where >> i & 1:
                    rows.append(" ".join(row))
                    row = []
                row.append(word)
            yield (*rows, " ".join(row))


def _bases(rows: int, cap: float, reach: tuple[float, float]) -> list[float]:
    """Where the base lines of rows lie round the middle."""
    high = cap * sum(reach) + (rows - 1) * LEADING * cap
    return [-high / 2 + cap * reach[0] + i * LEADING * cap for i in range(rows)]


def _largest(widths: list[float], reach: tuple[float, float], wide: float, high: float, *, round_: bool) -> float:
    """The cap height at which the rows just fit."""
    low, most = 0.0, high / (sum(reach) + (len(widths) - 1) * LEADING)
    if not round_:
        return min(most, wide / max([*widths, 1e-9]))

    def fits(cap: float) -> bool:
        for row, base in zip(widths, _bases(len(widths), cap, reach), strict=True):
            far = max(abs(base - reach[0] * cap), abs(base + reach[1] * cap))
            if far >= wide / 2 or row * cap > 2 * math.sqrt((wide / 2) ** 2 - far**2):
                return False
        return True

    for _ in range(40):
        middle = (low + most) / 2
        low, most = (middle, most) if fits(middle) else (low, middle)
    return low


def mirrored(drawing: Drawing, width_mm: float | None = None) -> Drawing:
    """As it is piped on film that is turned over: x becomes W - x, and the last stroke comes first."""
    points = [*drawing.lines, *([np.array(drawing.presses)] if drawing.presses else [])]
    if width_mm is None:
        xs = np.concatenate(points)[:, 0] if points else np.zeros(1)
        width_mm = float(xs.min() + xs.max())
    lines = tuple(np.column_stack([width_mm - line[:, 0], line[:, 1]]) for line in reversed(drawing.lines))
    return Drawing(lines, tuple((width_mm - x, y) for x, y in reversed(drawing.presses)), drawing.width_mm)
