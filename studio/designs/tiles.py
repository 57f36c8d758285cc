"""Kinds, patterns and shapes as pictures to pick from."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from django.template.loader import render_to_string
from django.utils.safestring import SafeString

from coating.figures.film import bow_view, cast_view, curls_view, flower_view, leaves_view, sleeve_view
from coating.figures.house import house_view
from coating.figures.section import Section, from_above, section
from coating.figures.sheet import PaperSheet, sheet_of
from coating.figures.solid import View
from coating.figures.tier import TierView, turned_view
from coating.figures.transfer import Around, around_view
from coating.shape.curves import ellipse
from coating.shape.face_lines import FACE_PATTERNS, Face, FaceLines, face_lines
from coating.shape.film.bow import bow
from coating.shape.film.casts import TEXTURES, cast
from coating.shape.film.curls import curl
from coating.shape.film.leaves import leaves
from coating.shape.film.petals import flower
from coating.shape.film.sleeve import sleeve
from coating.shape.fitting import in_line
from coating.shape.grown_drips import grown_drips
from coating.shape.houses.glue import sweets_along
from coating.shape.houses.net import net
from coating.shape.lace import PATTERNS
from coating.shape.lace.collar import strip
from coating.shape.lace.patterns import Cell
from coating.shape.lettering import FACES
from coating.shape.marbling import marbled
from coating.shape.moulds.fills import shell
from coating.shape.moulds.presets import PRESETS
from coating.shape.moulds.shaped import Shaped
from coating.shape.pieces import CakeTier
from coating.shape.ready_shapes import READY, ready_shape
from coating.shape.run_outs import run_out
from coating.shape.strokes import Drawing

BISCUIT = "#dcbf8d"
PALE_LAB = (91.0, 0.5, 12.0)


@dataclass(frozen=True)
class Tile:
    """Something to pick: its key, its words, and its picture: lines on a sheet, with what fills them where that is
    another shade, or something that stands in space."""

    name: str
    title: str
    sheet: PaperSheet | None
    fill: str = ""
    view: View | None = None
    section: Section | None = None

    @cached_property
    def markup(self) -> SafeString:
        """Drawn once: the tiles of a process stay."""
        return render_to_string("designs/pictures/tile.html", {"tile": self})


@lru_cache(maxsize=1)
def lace_tiles() -> tuple[Tile, ...]:
    """Every lace, two repeats of it."""
    return tuple(
        Tile(p.name, p.title, sheet_of(strip(p, Cell(28.0, 40.0, 1.7), p.rails, 2), "", line_mm=1.7))
        for p in PATTERNS.values()
    )


@lru_cache(maxsize=1)
def shape_tiles() -> tuple[Tile, ...]:
    """Every shape of the library."""
    tiles = []
    for known in READY.values():
        made = run_out(ready_shape(known.name, width_mm=50), line_mm=1.7)
        tiles.append(Tile(known.name, known.title, sheet_of(made.outline, "", line_mm=1.7, areas=made.flooded)))
    return tuple(tiles)


def _on_pieces(row: FaceLines) -> PaperSheet:
    from shapely.affinity import translate

    pieces = [translate(row.face.outline, at) for at in row.places]
    return sheet_of(row.row, "", line_mm=1.7, areas=pieces)


@lru_cache(maxsize=1)
def face_tiles() -> tuple[Tile, ...]:
    """Every pattern on one piece."""
    whole, half = Face(50, 50), Face(50, 50, dipped=0.5)
    return tuple(
        Tile(
            p.name,
            p.title,
            _on_pieces(face_lines(p.name, half if p.name == "dip_border" else whole, line_mm=1.7)),
            BISCUIT,
        )
        for p in FACE_PATTERNS.values()
    )


@lru_cache(maxsize=1)
def letter_tiles() -> tuple[Tile, ...]:
    """Every face."""
    return tuple(
        Tile(f.name, f.title, sheet_of(in_line("Up we go", face=f.name, width_mm=90).drawing, "", line_mm=1.6))
        for f in FACES.values()
    )


@lru_cache(maxsize=1)
def kind_tiles() -> dict[str, Tile]:
    """The picture of each kind."""
    return {
        "lace": Tile("lace", "", sheet_of(strip(PATTERNS["stars"], Cell(30.0, 44.0, 1.6), "top", 3), "", line_mm=1.6)),
        "lettering": Tile(
            "lettering", "", sheet_of(in_line("Look up", face="cursive", width_mm=100).drawing, "", line_mm=1.8)
        ),
        "run_out": shape_tiles()[1],
        "marbling": marbled_tile(),
        "swirl": swirled_tile(),
        "bottle": bottle_tile(),
        "mould": Tile("mould", "", None, section=_filled_mould()),
        "dip": dipped_tile(),
        "paint": painted_tile(),
        **{name: Tile(name, "", None, view=made) for name, made in _film_views().items()},
        "face": Tile("face", "", _on_pieces(face_lines("zigzag", Face(50, 50), line_mm=1.7, pieces=2)), BISCUIT),
    }


def marbled_tile() -> Tile:
    """A slab with its veins as areas."""
    from coating.shape.marbling.rhythm import blobs, operations, rhythm
    from coating.shape.traced import traced

    wide, high = 100.0, 66.0
    done = operations(blobs("rows", 0.35, wide, high, count=5), rhythm("along", 3, wide, high, reach_mm=5))
    surface = marbled(done, width_mm=wide, height_mm=high, resolution=220)
    veins = traced(1.0 - surface.colours.astype(float), width_mm=wide, threshold=0.5)
    frame = [[(0.0, 0.0), (wide, 0.0), (wide, high), (0.0, high), (0.0, 0.0)]]
    return Tile("marbling", "", sheet_of(Drawing(()), "", line_mm=1.0, areas=veins.parts, guides=frame), "#82aac4")


def swirled_tile() -> Tile:
    """A bowl from above with its lines drawn through."""
    from shapely.geometry import Point

    from coating.shape.marbling.dips import swirl
    from coating.shape.traced import traced

    made = swirl(90.0, 600.0, share=0.4, lines=4, turns=3)
    veins = traced(1.0 - made.surface(0, 200).colours.astype(float), width_mm=90.0, threshold=0.5)
    round_ = Point(45, 45).buffer(44)
    parts = [part.intersection(round_) for part in veins.parts]
    ring = [(float(x), float(y)) for x, y in ellipse((45, 45), 88, 88, points=72)]
    drawn = Drawing((np.array([*ring, ring[0]]),))
    return Tile("swirl", "", sheet_of(drawn, "", line_mm=1.6, areas=[p for p in parts if not p.is_empty]), "#82aac4")


def bottle_tile() -> Tile:
    """A bottle in layers, its nozzle below."""
    from shapely import box

    layers = [box(20, 8 + 18 * i, 60, 17 + 18 * i) for i in range(4)]
    glass = [
        [
            (20.0, 4.0),
            (60.0, 4.0),
            (60.0, 80.0),
            (44.0, 90.0),
            (44.0, 100.0),
            (36.0, 100.0),
            (36.0, 90.0),
            (20.0, 80.0),
            (20.0, 4.0),
        ]
    ]
    return Tile("bottle", "", sheet_of(Drawing((np.array(glass[0]),)), "", line_mm=1.6, areas=layers), "#82aac4")


def _film_views() -> dict[str, View]:
    return {
        "transfer": around_view(Around(60, 6, 29, 44, False, 2), PALE_LAB),
        "sleeve": sleeve_view(sleeve(60, 56, thickness_mm=2, overlap_mm=10, base=True), PALE_LAB),
        "curls": curls_view(curl(250, 30, thickness_mm=1.5, glass_mm=60), PALE_LAB),
        "bow": bow_view(bow(160, 24, thickness_mm=1.5), PALE_LAB),
        "petals": flower_view(
            flower(32, disc_mm=30, thickness_mm=1.6, stamens=12),
            [PALE_LAB, (80.0, 10.0, 14.0), (68.0, 22.0, 16.0)],
            PALE_LAB,
        ),
        "leaves": leaves_view(leaves(3, 70, 30, thickness_mm=1.5, roll_mm=80), (66.0, -16.0, 26.0), PALE_LAB),
        "cast": cast_view(cast("bubbles", 60, 44, thickness_mm=2), PALE_LAB),
        "house": house_view(
            net("house", long_mm=90, wide_mm=70, wall_mm=48, thick_mm=4),
            PALE_LAB,
            (78.0, 4.0, 18.0),
            sweets_along(106, 10, ["red", "white"]),
            {"red": (55.0, 60.0, 36.0), "white": (94.0, 0.0, 4.0)},
            overhang_mm=8.0,
        ),
    }


def _filled_mould() -> Section:
    cavity = PRESETS["half_ball"].cavity
    made = shell(cavity, wall_mm=2.4, lid_mm=3.0)
    return section(cavity, shell=made, filled_to_mm=made.fills_to_mm)


def dipped_tile() -> Tile:
    """A biscuit, half dipped."""
    from shapely import box
    from shapely.geometry import Point

    disc = Point(40, 40).buffer(34)
    ring = [(float(x), float(y)) for x, y in ellipse((40, 40), 68, 68, points=72)]
    return Tile(
        "dip",
        "",
        sheet_of(
            Drawing((np.array([*ring, ring[0]]),)), "", line_mm=1.4, areas=[disc.intersection(box(0, 36, 80, 80))]
        ),
        "#82aac4",
    )


def painted_tile() -> Tile:
    """A moon with its craters."""
    from shapely.geometry import Point

    craters = [Point(x, y).buffer(r) for x, y, r in ((30, 30, 9), (52, 26, 5), (50, 50, 12), (26, 54, 6))]
    ring = [(float(x), float(y)) for x, y in ellipse((40, 40), 72, 72, points=72)]
    return Tile(
        "paint", "", sheet_of(Drawing((np.array([*ring, ring[0]]),)), "", line_mm=1.4, areas=craters), "#82aac4"
    )


@lru_cache(maxsize=1)
def mould_tiles() -> tuple[Tile, ...]:
    """Every mould, cut through the middle; from above, where that tells it from others."""
    return tuple(
        Tile(p.name, p.title, None, section=from_above(p.cavity) if isinstance(p.cavity, Shaped) else section(p.cavity))
        for p in PRESETS.values()
    )


@lru_cache(maxsize=1)
def cast_tiles() -> tuple[Tile, ...]:
    """Every texture."""
    return tuple(
        Tile(t.name, t.title, None, view=cast_view(cast(t.name, 34, 26, thickness_mm=2), PALE_LAB))
        for t in TEXTURES.values()
    )


@lru_cache(maxsize=1)
def solid_tiles() -> dict[str, Tile]:
    """All that stand in space, by their name."""
    return {tile.name: tile for tile in (*kind_tiles().values(), *cast_tiles()) if tile.view}


@lru_cache(maxsize=1)
def kind_tier() -> TierView:
    """The picture of drips."""
    drips = grown_drips(CakeTier(120, 80), spacing_mm=24, length_mm=34, width_mm=10, variation=0.35, seed=3)
    return turned_view([drips], turn_deg=10)
