"""A bow: loops of strips, set in rings on a disc."""

from __future__ import annotations

import math

from coating.figures.film import bow_view
from coating.figures.sheet import sheet_of
from coating.piece.cores import Sheet as SheetCore
from coating.shape.curves import ellipse
from coating.shape.film.bow import bow
from coating.shape.strokes import Drawing
from coating.shape.tiling import in_rows
from coating.steps import SET, Step
from studio.common.forms import CountField, LengthField
from studio.common.types import Typed
from studio.designs.kinds.film.base import Film, FilmForm, FilmKind
from studio.designs.kinds.words import mm, size
from studio.designs.place import Place

LEAST_STRIP_MM = 90.0  # of less a loop of an ordinary sheet tears
SPREAD_S, JOIN_S, SET_ON_S, HOLD_MIN = 15.0, 25.0, 10.0, 3.0  # assumptions


class BowForm(FilmForm):
    """What is asked about a bow."""

    strip_mm = LengthField("strip_mm", label="Strip length", initial=200.0, low=40, high=400)
    wide_mm = LengthField("piece_side_mm", label="Strip width", initial=20.0, low=4, high=80)
    around = CountField("bow_loops", label="Loops in the first ring", initial=8)
    rings = CountField("bow_rings", label="Number of rings", initial=3)
    main = ("strip_mm", "wide_mm", "thickness_mm", "around", "rings", "count")


class BowKind(FilmKind):
    """A bow in the studio."""

    name, title, says, techniques, form = "bow", "Bow", "Loops of strips, ring upon ring on a disc", ("film",), BowForm

    def fits(self, place: Place) -> dict[str, float]:
        """As wide as the piece, as far as a sheet can be bent."""
        if not isinstance(place.core, SheetCore):
            return {}
        usual = bow(200.0, 20.0, thickness_mm=1.5, around=8, rings=3).across_mm
        return {"strip_mm": max(LEAST_STRIP_MM, min(400.0, round(200.0 * place.core.across_mm / usual)))}

    def first(self, place: Place) -> Typed:
        return super().first(place) | {"thickness_mm": 1.5} | ({} if place.layer else {"count": 1})

    def made(self, values: Typed, place: Place) -> Film:
        one = bow(
            values["strip_mm"],
            values["wide_mm"],
            thickness_mm=values["thickness_mm"],
            around=int(values["around"]),
            rings=int(values["rings"]),
        )
        count = int(values["count"])
        strips = count * (one.loops + one.spares)
        long, wide = one.strip_mm, one.wide_mm
        frames = [
            [(x, y), (x + long, y), (x + long, y + wide), (x, y + wide), (x, y)]
            for x, y in in_rows(min(strips, 24), long, wide, apart_mm=6)
        ]
        rays = [
            [(0.0, 0.0), (one.disc_mm / 2 * math.cos(a), one.disc_mm / 2 * math.sin(a))]
            for a in (2 * math.pi * i / one.rings[0] for i in range(one.rings[0]))
        ]
        ring = ellipse((0.0, 0.0), one.disc_mm, one.disc_mm, points=72)
        sheets = [
            sheet_of(Drawing(()), "Strips", line_mm=1.0, guides=frames, says=[f"spread {strips}"]),
            sheet_of(
                Drawing(()),
                "Disc, and where the first loops lie",
                line_mm=1.0,
                guides=[[*map(tuple, ring), tuple(ring[0])], *rays],
                says=["one loop along each ray"],
            ),
        ]
        after = [
            Step(
                f"Set {one.rings[0]} loops on the disc, points to the middle; drizzle the points to lock them.",
                SET_ON_S * one.rings[0] * count,
                SET,
                warm=True,
            )
        ]
        after += [
            Step(
                f"Then {n}, standing steeper, in the gaps; lock them too.",
                SET_ON_S * n * count,
                SET,
                HOLD_MIN,
                warm=True,
            )
            for n in one.rings[1:]
        ]
        after += [Step("Fill the middle with loops whose points were dipped.", 30.0 * count, SET, HOLD_MIN, warm=True)]
        return Film(
            one.mass_g * count,
            sheets,
            bow_view(one, place.lab),
            strips,
            SPREAD_S,
            JOIN_S,
            one.bend,
            f"Spread {strips} strips on film, {size(long, wide)}, and a disc of {mm(one.disc_mm)}; clean the edges.",
            "Press the ends of each strip together, film outside, and lay the loop on its side.",
            after=after,
            pieces=count,
            context={"bow": one, "strips": strips},
            numbers=[(" + ".join(map(str, one.rings)), "loops"), (mm(one.across_mm), "across")],
        )
