"""The kinds of design as pictures to pick from."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from coating.figures.sheet import Sheet, sheet_of
from coating.figures.tier import TierView, turned_view
from coating.shape.face_lines import Face, face_lines
from coating.shape.fitting import in_line
from coating.shape.grown_drips import grown_drips
from coating.shape.lace import PATTERNS
from coating.shape.lace.collar import strip
from coating.shape.lace.patterns import Cell
from coating.shape.pieces import CakeTier
from coating.shape.ready_shapes import ready_shape
from coating.shape.run_outs import run_out
from studio.designs.kinds import KINDS


@dataclass(frozen=True)
class KindTile:
    """A kind, its words, and its picture: a sheet, or a tier."""

    name: str
    title: str
    says: str
    sheet: Sheet | None
    tier: TierView | None


@lru_cache(maxsize=1)
def tiles() -> tuple[KindTile, ...]:
    """One of each."""
    shape = run_out(ready_shape("comet", width_mm=60), line_mm=1.6)
    row = face_lines("zigzag", Face(50, 50), line_mm=1.6, pieces=2)
    edges = [[(x + at, y) for x, y in row.face.outline.exterior.coords] for at in row.places]
    pictures = {
        "lace": sheet_of(strip(PATTERNS["stars"], Cell(30.0, 44.0, 1.6), "top", 3), "", line_mm=1.6),
        "lettering": sheet_of(in_line("Look up", face="cursive", width_mm=100).drawing, "", line_mm=1.8),
        "run_out": sheet_of(shape.outline, "", line_mm=1.6, areas=shape.flooded),
        "face": sheet_of(row.row, "", line_mm=1.6, guides=edges),
    }
    drips = grown_drips(CakeTier(120, 80), spacing_mm=24, length_mm=34, width_mm=10, variation=0.35, seed=3)
    tier = turned_view([drips], turn_deg=10)
    return tuple(
        KindTile(k.name, k.title, k.says, pictures.get(k.name), tier if k.name == "drips" else None)
        for k in KINDS.values()
    )


@lru_cache(maxsize=1)
def pattern_tiles() -> tuple[tuple[str, str, Sheet], ...]:
    """Every lace pattern, two repeats of it."""
    found = []
    for pattern in PATTERNS.values():
        rails = pattern.rails
        drawn = strip(pattern, Cell(28.0, 40.0, 1.6), rails, 2)
        found.append((pattern.name, pattern.title, sheet_of(drawn, "", line_mm=1.6)))
    return tuple(found)
