"""Readings of an instrument, from a CSV or CGATS text: Lab, XYZ, sRGB, hex or a spectrum."""

from __future__ import annotations

import csv
import re
import shlex
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from coating.colour.cie import lab_from_reflectance, lab_from_srgb, lab_from_xyz
from coating.colour.spectra import WAVELENGTHS_NM
from coating.errors import Unreadable

MOST_ROWS, MOST_CHARACTERS = 500, 400_000
_NAMES = ("name", "samplename", "sampleid", "id", "title", "colour", "color")
_HEX = re.compile(r"#?([0-9a-fA-F]{6})")
_BAND = re.compile(r"(?:spectral|nm|r|spectral_nm|spectral_|nm_)*?(\d{3})(?:nm)?")


@dataclass(frozen=True)
class ColourReading:
    """A name ("" without one) and CIELAB."""

    name: str
    lab: tuple[float, float, float]


def lab_from_hex(text: str) -> tuple[float, float, float]:
    """CIELAB of #rrggbb. Raises Unreadable."""
    match = _HEX.fullmatch(text.strip())
    if not match:
        raise Unreadable("Write the shade as six digits, such as #8fb0c8.", field="hex")
    lab = lab_from_srgb([int(match[1][i : i + 2], 16) / 255 for i in (0, 2, 4)])
    return float(lab[0]), float(lab[1]), float(lab[2])


def read_readings(text: str) -> list[ColourReading]:
    """Readings in the order of the file.

    The columns are known by their headings: L a b (LAB_L ...), X Y Z (of 100), R G B (of 255 or of 1), hex, or bands
    from 400 to 700 nm (in % or of 1), between which it is interpolated.

    Raises
    ------
    Unreadable : says in which line, and why.
    """
    if len(text) > MOST_CHARACTERS:
        raise Unreadable("That file is too long. It can have at most 500 readings.", field="file")
    if not text.strip() or "\x00" in text:
        raise Unreadable("That is not a text file of readings.", field="file")
    heads, rows = _cgats(text) if "BEGIN_DATA" in text.upper() else _csv(text)
    if not rows:
        raise Unreadable("There are headings, but no readings under them.", field="file")
    if len(rows) > MOST_ROWS:
        raise Unreadable("That file can have at most 500 readings.", field="file")
    keys = [_key(h) for h in heads]
    name = next((i for i, k in enumerate(keys) if k in _NAMES), None)
    readings = []
    for line, row in rows:
        if len(row) != len(heads):
            raise Unreadable(f"Line {line} has {len(row)} columns, but there are {len(heads)} headings.", field="file")
        lab = _lab(keys, row, line)
        if not (np.isfinite(lab).all() and 0 <= lab[0] <= 100.5 and np.abs(lab[1:]).max() <= 200):
            raise Unreadable(f"Line {line} is not a colour that a surface can have.", field="file")
        said = row[name].strip()[:60] if name is not None else ""
        readings.append(ColourReading(said, (min(100.0, float(lab[0])), float(lab[1]), float(lab[2]))))
    return readings


def _key(head: str) -> str:
    return re.sub(r"[^a-z0-9]", "", head.lower()).removeprefix("lab").replace("cie", "").removeprefix("rgb") or "lab"


def _cgats(text: str) -> tuple[list[str], list[tuple[int, list[str]]]]:
    heads: list[str] = []
    rows: list[tuple[int, list[str]]] = []
    part = ""
    for number, raw in enumerate(text.splitlines(), 1):
        line = raw.strip()
        word = line.upper()
        if word in ("BEGIN_DATA_FORMAT", "BEGIN_DATA"):
            part = word
        elif word.startswith("END_DATA"):
            part = ""
        elif part and line:
            try:
                fields = shlex.split(line)
            except ValueError as problem:
                raise Unreadable(f"Line {number}: a quotation mark is not closed.", field="file") from problem
            if part == "BEGIN_DATA":
                rows.append((number, fields))
            else:
                heads += fields
    return heads, rows


def _csv(text: str) -> tuple[list[str], list[tuple[int, list[str]]]]:
    lines = text.lstrip("\ufeff").splitlines()
    first = next((line for line in lines if line.strip()), "")
    mark = max(";\t,", key=first.count)
    try:
        read = list(csv.reader(lines, delimiter=mark))
    except csv.Error as problem:
        raise Unreadable("That is not a table.", field="file") from problem
    rows = [(i, row) for i, row in enumerate(read, 1) if any(cell.strip() for cell in row)]
    return (rows[0][1], rows[1:]) if rows else ([], [])


def _number(text: str, line: int) -> float:
    try:
        return float(text.strip().replace(",", ".").removesuffix("%"))
    except ValueError as problem:
        raise Unreadable(f"Line {line}: {text.strip()[:20]!r} is not a number.", field="file") from problem


def _columns(keys: Sequence[str], wanted: Sequence[str]) -> list[int] | None:
    return [keys.index(w) for w in wanted] if set(wanted) <= set(keys) else None


def _lab(keys: Sequence[str], row: Sequence[str], line: int) -> np.ndarray:
    bands = {int(m[1]): i for i, k in enumerate(keys) if (m := _BAND.fullmatch(k)) and 380 <= int(m[1]) <= 780}
    if (at := _columns(keys, ("l", "a", "b"))) is not None:
        return np.array([_number(row[i], line) for i in at])
    if (at := _columns(keys, ("x", "y", "z"))) is not None:
        return lab_from_xyz(np.array([_number(row[i], line) for i in at]) / 100)
    if (at := _columns(keys, ("r", "g", "b"))) is not None:
        values = np.array([_number(row[i], line) for i in at])
        if values.min() < 0 or values.max() > 255:
            raise Unreadable(f"Line {line}: red, green and blue go from 0 to 255.", field="file")
        return lab_from_srgb(values / (255 if values.max() > 1 else 1))
    if (at := _columns(keys, ("hex",))) is not None:
        return np.array(lab_from_hex(row[at[0]]))
    if len(bands) >= 16 and min(bands) <= 420 and max(bands) >= 680:
        order = sorted(bands)
        values = np.array([_number(row[bands[nm]], line) for nm in order])
        values = values / 100 if values.max() > 1.5 else values
        if values.min() < 0 or values.max() > 1.5:
            raise Unreadable(f"Line {line}: a reflectance is below zero or far above white.", field="file")
        return lab_from_reflectance(np.interp(WAVELENGTHS_NM, order, values))
    raise Unreadable(
        "The headings name no colour: L, a, b; or R, G, B; or hex; or bands such as 400, 410 to 700.", field="file"
    )
