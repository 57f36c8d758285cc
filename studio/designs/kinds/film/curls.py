"""Curls: two from one rectangle, wound into a glass."""

from __future__ import annotations

from coating.figures.film import curls_view
from coating.figures.sheet import sheet_of
from coating.shape.film.curls import curl, rectangles
from coating.shape.strokes import Drawing
from studio.common.forms import LengthField
from studio.common.types import Typed
from studio.designs.kinds.film.base import Film, FilmForm, FilmKind
from studio.designs.kinds.words import many, mm, size
from studio.designs.place import Place

SPREAD_S, WIND_S = 20.0, 30.0  # hands for a rectangle, and for its two curls; assumptions


class CurlForm(FilmForm):
    """What is asked about curls."""

    long_mm = LengthField("strip_mm", label="Rectangle length", initial=250.0, low=40, high=600)
    wide_mm = LengthField("piece_side_mm", label="Rectangle width", initial=30.0, low=5, high=200)
    glass_mm = LengthField("tier_or_cup_mm", label="Inner diameter of the glass", initial=60.0)
    main = ("long_mm", "wide_mm", "glass_mm", "thickness_mm", "count")


class CurlKind(FilmKind):
    """Curls in the studio."""

    name, title, says, techniques, form = (
        "curls",
        "Curls",
        "A rectangle cut from corner to corner, wound into a glass",
        ("film",),
        CurlForm,
    )

    def made(self, values: Typed, place: Place) -> Film:
        one = curl(
            values["long_mm"], values["wide_mm"], thickness_mm=values["thickness_mm"], glass_mm=values["glass_mm"]
        )
        count = int(values["count"])
        spread = rectangles(count)
        long, wide = one.long_mm, one.wide_mm
        frame = [(0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide), (0.0, 0.0)]
        sheet = sheet_of(
            Drawing(()),
            "Rectangle",
            line_mm=1.0,
            guides=[frame, [(0.0, wide), (long, 0.0)]],
            says=[f"spread {spread}", f"{mm(one.thickness_mm)} thick", "cut from corner to corner"],
        )
        slanted = one.slant_rad > 0
        return Film(
            2 * one.mass_g * spread,
            [sheet],
            curls_view(one, place.lab),
            spread,
            SPREAD_S,
            WIND_S,
            one.bend,
            f"Spread {many(spread, 'rectangle')} on film, {size(long, wide)}.",
            "Cut from corner to corner, through to the film; wind both halves into the glass"
            + (", climbing, so that none lies on itself." if slanted else ", level."),
            pieces=count,
            context={"curl": one, "spread": spread, "odd": count % 2},
            numbers=[(f"{one.turns:.1f}", "turns"), (mm(one.high_mm), "high in the glass")],
        )
