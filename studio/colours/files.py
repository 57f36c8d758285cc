"""The swatch book as files: CSV, JSON and a palette text, out and in again."""

from __future__ import annotations

import csv
import io
import json
import re
from collections.abc import Iterable

from coating.colour.cie import hex_from_lab, lab_from_srgb
from coating.colour.readings import MOST_CHARACTERS, MOST_ROWS, ColourReading, read_readings
from coating.errors import CoatingError, Unreadable
from coating.limits import check
from studio.colours.models import Colour
from studio.common.brought import json_apart
from studio.common.names import plain
from studio.common.sheets import harmless
from studio.common.templatetags.kitchen import colour_word
from studio.common.types import Json

KIND = "olive-ribbon-swatches"
PALETTE = "GIMP Palette"  # the first line every reader of this open format looks for
_LINE = re.compile(r"\s*(\d{1,3})\s+(\d{1,3})\s+(\d{1,3})\s*(.*)")


def recipe_words(colour: Colour) -> str:
    """How it was made last: "200 g bright white coating, 3 drops red"; "" when it was not yet."""
    return ", ".join(_part_words(p) for p in colour.made.get("parts", ()))


def _part_words(part: Json) -> str:
    name = colour_word(part["name"])
    if part.get("counted"):
        return f"{part['units']:g} {part['counted']} {name}"
    return f"{part['mass_g']:g} g {name}"


def as_csv(colours: Iterable[Colour]) -> str:
    """One line a colour. A name that a spreadsheet would reckon with has an apostrophe before it."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["name", "L", "a", "b", "hex", "since", "came from", "note", "recipe"])
    for c in colours:
        since = c.since.date().isoformat() if c.since else ""
        words = [harmless(w) for w in (c.name, c.note, recipe_words(c))]
        numbers = [f"{v:.3f}" for v in c.lab]
        writer.writerow([words[0], *numbers, hex_from_lab(c.lab), since, c.get_came_from_display(), words[1], words[2]])
    return out.getvalue()


def as_json(colours: Iterable[Colour]) -> str:
    """Colours as a file that can be brought in again."""
    rows = [
        {
            "name": c.name,
            "lab": list(c.lab),
            "note": c.note,
            "made": c.made,
            "since": c.since.date().isoformat() if c.since else None,
        }
        for c in colours
    ]
    return json.dumps({"kind": KIND, "v": 1, "colours": rows}, indent=1, ensure_ascii=False)


def as_palette(colours: Iterable[Colour], name: str) -> str:
    """Red, green, blue and a name a line: an open text format that drawing programs read."""
    lines = [PALETTE, f"Name: {' '.join(name.split())}", "Columns: 6", "#"]
    for c in colours:
        r, g, b = (int(hex_from_lab(c.lab)[i : i + 2], 16) for i in (1, 3, 5))
        lines.append(f"{r:3d} {g:3d} {b:3d}\t{' '.join(c.name.split())}")
    return "\n".join(lines) + "\n"


def read_swatches(raw: bytes) -> list[tuple[ColourReading, str, Json]]:
    """Colours of a file with their notes and recipes, whichever of the formats it is. Raises Unreadable."""
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = raw.decode("latin-1")
    if len(text) > MOST_CHARACTERS:
        raise Unreadable("That file is too long: 500 colours at most.", field="file")
    start = text.lstrip()[:12]
    if start.startswith(("{", "[")):
        return _from_json(raw)
    if start.startswith(PALETTE):
        return [(r, "", {}) for r in _from_palette(text)]
    return [(ColourReading(r.name.removeprefix("'"), r.lab), "", {}) for r in read_readings(text)]


def _from_palette(text: str) -> list[ColourReading]:
    readings = []
    for number, line in enumerate(text.splitlines()[1:], 2):
        if not line.strip() or line.startswith(("#", "Name:", "Columns:")):
            continue
        match = _LINE.fullmatch(line)
        values = [int(v) for v in match.groups()[:3]] if match else [256]
        if match is None or max(values) > 255:
            raise Unreadable(f"Line {number} is no colour: red, green and blue up to 255, then a name.", field="file")
        lab = lab_from_srgb([v / 255 for v in values])
        readings.append(ColourReading(match[4].strip()[:60], (float(lab[0]), float(lab[1]), float(lab[2]))))
    if not readings or len(readings) > MOST_ROWS:
        raise Unreadable("A palette has 1 to 500 colours.", field="file")
    return readings


def _from_json(raw: bytes) -> list[tuple[ColourReading, str, Json]]:
    try:
        data = json_apart(raw)
        rows = data["colours"]
        assert data["kind"] == KIND and isinstance(rows, list) and len(rows) <= MOST_ROWS
        return [_from_row(row) for row in rows]
    except (CoatingError, ValueError, KeyError, TypeError, AttributeError, AssertionError) as problem:
        raise Unreadable("That JSON is not a swatch book of ours.", field="file") from problem


def _from_row(row: Json) -> tuple[ColourReading, str, Json]:
    lightness, a, b = (float(v) for v in row["lab"])
    if not (0 <= lightness <= 100 and abs(a) <= 200 and abs(b) <= 200):
        raise ValueError("no colour")
    made = row.get("made") or {}
    parts = [
        {
            "code": str(p["code"])[:40],
            "name": plain(str(p["name"]))[:80],
            "mass_g": check("total_g", p["mass_g"]),
            "units": check("total_g", p["units"]),
            "counted": str(p["counted"])[:12],
        }
        for p in made.get("parts", [])[:24]
    ]
    kept = (
        {
            "v": 1,
            "on": str(made.get("on", ""))[:10],
            "white": str(made.get("white", ""))[:12],
            "lab": [check("lab_chroma", v) for v in made["lab"]][:3],
            "de00": check("total_g", made["de00"]),
            "parts": parts,
        }
        if parts
        else {}
    )
    return ColourReading(str(row["name"])[:60], (lightness, a, b)), str(row.get("note", ""))[:200], kept
