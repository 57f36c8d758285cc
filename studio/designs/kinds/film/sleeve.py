"""Sleeves to fill, and cuffs round a dessert."""

from __future__ import annotations

from typing import Any

from django import forms

from coating.figures.film import sleeve_view
from coating.figures.sheet import sheet_of
from coating.piece.cores import Tier
from coating.shape.curves import ellipse
from coating.shape.film.sleeve import sleeve
from coating.shape.strokes import Drawing
from coating.steps import SET, Step
from studio.common.forms import LengthField
from studio.common.types import Typed
from studio.designs.kinds.film.base import Film, FilmForm, FilmKind
from studio.designs.kinds.words import many, mm, size, volume
from studio.designs.place import Place

CLOSED = [("base", "closed below, to fill"), ("cuff", "open, round a dessert")]
SPREAD_S, ROLL_S, BASE_S = 25.0, 40.0, 30.0  # hands for one; assumptions


class SleeveForm(FilmForm):
    """What is asked about a sleeve."""

    closed = forms.ChoiceField(label="Kind of sleeve", choices=CLOSED, initial="base", widget=forms.RadioSelect)
    diameter_mm = LengthField("tier_or_cup_mm", label="Diameter", initial=60.0)
    height_mm = LengthField("sleeve_mm", label="Height", initial=70.0)
    overlap_mm = LengthField("overlap_mm", label="Overlap of the ends", initial=2.0)
    strip_mm = LengthField(
        "strip_mm",
        label="Length of your film",
        required=False,
        low=5,
        help_text="Leave blank to use as much as it takes.",
    )
    main = ("closed", "diameter_mm", "height_mm", "thickness_mm", "count")
    more = ("overlap_mm", "strip_mm", "where")
    pills = ("closed", "where")


class SleeveKind(FilmKind):
    """A sleeve in the studio."""

    name, title, says, techniques, form = (
        "sleeve",
        "Sleeve or cuff",
        "A strip rolled round, its ends pressed together",
        ("film",),
        SleeveForm,
    )

    def fits(self, place: Place) -> dict[str, float]:
        """Round a tier, over most of its side."""
        if not isinstance(place.core, Tier):
            return {}
        return {"diameter_mm": place.core.across_mm, "height_mm": max(5.0, min(300.0, 0.7 * place.core.length_mm))}

    def first(self, place: Place) -> Typed:
        shown, core = super().first(place), place.core
        if not isinstance(core, Tier):
            return shown
        return shown | {"closed": "cuff"}

    def made(self, values: Typed, place: Place) -> Film:
        base, count = values["closed"] == "base", int(values["count"])
        one = sleeve(
            values["diameter_mm"],
            values["height_mm"],
            thickness_mm=values["thickness_mm"],
            overlap_mm=values["overlap_mm"],
            base=base,
            strip_mm=values.get("strip_mm"),
        )
        long, high = one.strip_mm, one.height_mm
        frame = [(0.0, 0.0), (long, 0.0), (long, high), (0.0, high), (0.0, 0.0)]
        lap = [(long - one.overlap_mm, 0.0), (long - one.overlap_mm, high)]
        sheets = [
            sheet_of(
                Drawing(()),
                "Strip",
                line_mm=1.0,
                guides=[frame, lap],
                says=[f"spread {count}", f"{mm(one.thickness_mm)} thick", "the ends overlap at the mark"],
            )
        ]
        if base:
            disc = ellipse((one.diameter_mm / 2, one.diameter_mm / 2), one.diameter_mm, one.diameter_mm, points=72)
            sheets.append(
                sheet_of(
                    Drawing(()),
                    "Base",
                    line_mm=1.0,
                    guides=[_closed(disc)],
                    says=[f"spread {count}", f"{mm(one.base_thick_mm)} thick"],
                )
            )
        what = "sleeve" if base else "cuff"
        after = []
        if base:
            after = [
                Step(
                    f"Stand each on its base in a ring of melted coating; {volume(one.holds_ml)} go in.",
                    BASE_S * count,
                    SET,
                    warm=True,
                )
            ]
        return Film(
            one.mass_g * count,
            sheets,
            sleeve_view(one, place.lab),
            count,
            SPREAD_S,
            ROLL_S,
            one.bend,
            f"Spread {many(count, 'strip')} on film, {size(long, high)}, right to the edge"
            + (f"; and {many(count, 'base')}." if base else "."),
            "Roll a straight vessel over the strip, press the ends together, trim the edges.",
            after=after,
            pieces=count,
            context={"sleeve": one, "what": what},
            numbers=[(mm(long), "strip"), *([(volume(one.holds_ml), "one holds")] if base else [])],
        )


def _closed(ring: Any) -> list[tuple[float, float]]:
    points = [(float(x), float(y)) for x, y in ring]
    return [*points, points[0]]
