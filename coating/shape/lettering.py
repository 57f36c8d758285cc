"""Letters of one stroke, from the Hershey faces (A. V. Hershey 1967): scaled by their cap height, with accents drawn.

The faces know ASCII only. A letter is taken apart (Unicode NFD); its marks are drawn as small strokes, the dot of an i
or j goes under an accent, and what cannot be drawn is named.
"""

from __future__ import annotations

import unicodedata
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType

import numpy as np

from coating.errors import EmptyDrawing, OutOfBounds, UnknownName
from coating.limits import check
from coating.shape.strokes import Array, Drawing, joined

CAP_UNITS, BASE_UNITS = 21.0, 9.0
SPACE_UNITS = 10.0  # the faces' own gap between words is made for plotters
HAND_MM_S, LIFT_S = 15.0, 1.5  # lettering; assumptions, editable
MOST_LETTERS = 200


@dataclass(frozen=True)
class Typeface:
    """A face: its file in the collection, what it is called here, how near ends are drawn through (units)."""

    name: str
    title: str
    joins: float


FACES = MappingProxyType(
    {
        "futural": Typeface("futural", "Plain", 0.3),
        "cursive": Typeface("cursive", "Joined", 3.6),
        "gothiceng": Typeface("gothiceng", "Showpiece, broken", 0.3),
        "timesi": Typeface("timesi", "Showpiece, sloping", 0.3),
    }
)
_LIGATURES = {
    "æ": "ae",
    "Æ": "AE",
    "œ": "oe",
    "Œ": "OE",
    "ß": "ss",
    "ﬁ": "fi",
    "ﬂ": "fl",
    "’": "'",
    "‘": "'",
    "“": '"',
    "”": '"',
    "–": "-",
    "—": "-",
    "…": "...",
    "\u00a0": " ",
}
_SLASHED = {"ø": "o", "Ø": "O", "ł": "l", "Ł": "L", "đ": "d", "Đ": "D"}
# Marks as lines in units, round the middle of the letter: (x, y) from the middle, y up from the mark's own place.
_MARKS: dict[str, tuple[tuple[tuple[float, float], ...], ...]] = {
    "\u0300": (((-2.5, 3), (1.5, 0)),),
    "\u0301": (((2.5, 3), (-1.5, 0)),),
    "\u0302": (((-3, 0), (0, 3), (3, 0)),),
    "\u030c": (((-3, 3), (0, 0), (3, 3)),),
    "\u0303": (((-4, 0.5), (-2, 2.5), (2, 0.5), (4, 2.5)),),
    "\u0304": (((-3, 1), (3, 1)),),
    "\u0306": (((-3, 3), (-1.5, 0.8), (1.5, 0.8), (3, 3)),),
    "\u030a": (((-1.8, 1.5), (0, 3.3), (1.8, 1.5), (0, -0.3), (-1.8, 1.5)),),
    "\u030b": (((-1, 3), (-3, 0)), ((3, 3), (1, 0))),
    "\u0328": (((0, 0), (-1.5, -3), (1.5, -4.5)),),
    "\u0327": (((0, 0), (1, -2), (-2, -4)),),
    "\u0326": (((0.5, -1), (-1, -4)),),
}
_DOTS = {"\u0308": (-3.0, 3.0), "\u0307": (0.0,)}  # presses beside the middle
_BELOW = ("\u0328", "\u0327", "\u0326")
_ROOM = 2.5  # units between a letter and its mark
_TINY = 3.0  # a closed line no larger than that, in units, is a dot: one press


@dataclass(frozen=True)
class Lettering:
    """What is drawn of a text, and what of it cannot be."""

    drawing: Drawing
    undrawable: tuple[str, ...]
    advance_mm: float


@lru_cache(maxsize=8)
def _glyphs(face: str) -> dict[str, tuple[tuple[Array, ...], float, float]]:
    """Lines in units with y up from the base line, the left side and the advance, of each character of a face."""
    from HersheyFonts import HersheyFonts

    fonts = HersheyFonts()
    fonts.load_default_font(face)
    glyphs = {}
    for character, glyph in fonts.all_glyphs.items():
        lines = tuple(np.array([(x, BASE_UNITS - y) for x, y in stroke], dtype=float) for stroke in glyph.strokes)
        glyphs[character] = (
            tuple(line for line in lines if len(line)),
            float(glyph.left_offset),
            float(glyph.char_width),
        )
    return glyphs


@dataclass
class _Letter:
    """One letter in units: lines and dots from its left side, and its advance."""

    lines: list[Array]
    dots: list[tuple[float, float]]
    advance: float


def _parts(text: str) -> list[tuple[str, list[str], bool]]:
    """Each letter with its marks, and whether it is slashed."""
    parts: list[tuple[str, list[str], bool]] = []
    for character in text:
        for plain in _LIGATURES.get(character, character):
            slashed = plain in _SLASHED
            for piece in unicodedata.normalize("NFD", _SLASHED.get(plain, plain)):
                if unicodedata.combining(piece) and parts:
                    parts[-1][1].append(piece)
                else:
                    parts.append((piece, [], slashed))
    return parts


def _letter(face: str, base: str, marks: list[str], slashed: bool) -> _Letter | None:
    """None for what the face does not have."""
    glyph = _glyphs(face).get(base)
    if glyph is None or any(m not in _MARKS and m not in _DOTS for m in marks):
        return None
    strokes, left, advance = glyph
    lines, dots = [], []
    for stroke in strokes:
        line = stroke - (left, 0.0)
        size = float(np.ptp(line, axis=0).max())
        if np.allclose(line[0], line[-1]) and size <= _TINY:
            if not (base in "ij" and marks and line[:, 1].min() > 10):
                dots.append((float(line[:, 0].mean()), float(line[:, 1].mean())))
            continue
        lines.append(line)
    if lines or dots:
        _add_marks(lines, dots, marks, slashed)
    return _Letter(lines, dots, advance)


def _add_marks(lines: list[Array], dots: list[tuple[float, float]], marks: list[str], slashed: bool) -> None:
    points = np.concatenate([*lines, *([np.array(dots)] if dots else [])])
    (low_x, low_y), (high_x, high_y) = points.min(axis=0), points.max(axis=0)
    middle = (low_x + high_x) / 2
    if slashed:
        lines.append(
            np.array([(middle - 3.5, low_y + (high_y - low_y) * 0.3), (middle + 3.5, low_y + (high_y - low_y) * 0.7)])
        )
    over = high_y + _ROOM
    for mark in marks:
        if mark in _BELOW:
            lines += [np.add(line, (middle, min(0.0, low_y))) for line in _MARKS[mark]]
        elif mark in _DOTS:
            dots += [(middle + x, over + 1.0) for x in _DOTS[mark]]
            over += 4.0
        else:
            lines += [np.add(line, (middle, over)) for line in _MARKS[mark]]
            over += 5.0


def letters(text: str, *, face: str = "futural", cap_mm: float = 15.0, join: bool = True) -> Lettering:
    """A text on one line, from its left end; the base line is y = 0, y runs down.

    Parameters
    ----------
    text : up to 200 letters; a line break is a space. face : a key of FACES. cap_mm : how high a capital is.
    join : draw near ends through.

    Raises
    ------
    UnknownName : another face. OutOfBounds : too much text, or a height outside its bounds. EmptyDrawing : nothing in
    it can be drawn.
    """
    if face not in FACES:
        raise UnknownName(f"There is no face called {face[:40]!r}.", field="face", choices=list(FACES))
    if len(text) > MOST_LETTERS:
        raise OutOfBounds(f"A line of text takes at most {MOST_LETTERS} letters.", field="text", high=MOST_LETTERS)
    scale = check("cap_mm", cap_mm) / CAP_UNITS
    along, lines, dots, missing = 0.0, list[Array](), list[tuple[float, float]](), list[str]()
    for base, marks, slashed in _parts(" ".join(text.split())):
        letter = _letter(face, base, marks, slashed)
        if letter is None:
            missing.append(unicodedata.normalize("NFC", base + "".join(marks)))
            continue
        lines += [np.add(line, (along, 0.0)) for line in letter.lines]
        dots += [(x + along, y) for x, y in letter.dots]
        along += letter.advance if base != " " else SPACE_UNITS
    if not lines and not dots:
        raise EmptyDrawing("Nothing in that text can be drawn.", field="text", undrawable=missing)
    drawn = [
        np.column_stack([line[:, 0], -line[:, 1]]) * scale
        for line in (joined(lines, FACES[face].joins) if join else lines)
    ]
    presses = tuple((x * scale, -y * scale) for x, y in dots)
    return Lettering(Drawing(tuple(drawn), presses, along * scale), tuple(dict.fromkeys(missing)), along * scale)
