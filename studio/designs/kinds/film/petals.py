"""A flower of knife petals, pale to deep."""

from __future__ import annotations

from typing import Any

import numpy as np
from django import forms

from coating.figures.film import Lab, flower_view
from coating.figures.sheet import sheet_of
from coating.piece.cores import Sheet as SheetCore
from coating.shape.curves import ellipse
from coating.shape.film.petals import flower
from coating.shape.strokes import Drawing
from coating.steps import HALF_SET, SET, Step
from studio.common.forms import CountField, LengthField, NumberField
from studio.common.types import Typed
from studio.designs.kinds.film.base import Film, FilmForm, FilmKind
from studio.designs.kinds.words import mm
from studio.designs.place import Place

DIP_S, SET_ON_S, STAMEN_S = 12.0, 15.0, 2.0  # assumptions


class PetalForm(FilmForm):
    """What is asked about a flower of petals."""

    wide_mm = LengthField("petal_mm", label="Blade width (widest)", initial=32.0, low=8)
    sizes = CountField("petal_sizes", label="Number of blade sizes", initial=3)
    disc_mm = LengthField("core_mm", label="Disc diameter", initial=30.0, low=8, high=120)
    deep = forms.ChoiceField(label="Colour of the inner petals", required=False)
    overlap = NumberField(
        "petal_overlap", label="Overlap of petals", initial=0.1, help_text="0.1 is a tenth of its width."
    )
    stamens = CountField("stamens", label="Number of stamens", initial=20)
    main = ("wide_mm", "sizes", "disc_mm", "thickness_mm", "count", "deep")
    more = ("overlap", "stamens", "where")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.offers("deep", kwargs["colours"], "the same all through")
        self.fields["count"].label, self.fields["thickness_mm"].label = "Flowers", "Thick in the middle"


def _between(one: Lab, other: Lab, share: float) -> Lab:
    """Part of the way from one colour to another."""
    lightness, a, b = ((1 - share) * u + share * v for u, v in zip(one, other, strict=True))
    return lightness, a, b


class PetalKind(FilmKind):
    """A flower of petals in the studio."""

    name, title, says, techniques, form = (
        "petals",
        "Knife petals",
        "Petals off a blade, built big to small",
        ("petals",),
        PetalForm,
    )
    flow = "petals"
    colours = ("deep",)

    def fits(self, place: Place) -> dict[str, float]:
        """As wide as the piece, on a disc of a third of that."""
        if not isinstance(place.core, SheetCore):
            return {}
        usual = flower(32.0, disc_mm=30.0, thickness_mm=1.6, sizes=3, overlap=0.1, stamens=20).across_mm
        share = place.core.across_mm / usual
        return {"wide_mm": max(8.0, round(32.0 * share)), "disc_mm": max(8.0, min(120.0, round(30.0 * share)))}

    def first(self, place: Place) -> Typed:
        known = place.first_colours[:1]
        return (
            super().first(place)
            | {"thickness_mm": 1.6, "deep": known[0] if known and not place.layer else ""}
            | ({} if place.layer else {"count": 1})
        )

    def made(self, values: Typed, place: Place) -> Film:
        one = flower(
            values["wide_mm"],
            disc_mm=values["disc_mm"],
            thickness_mm=values["thickness_mm"],
            sizes=int(values["sizes"]),
            overlap=values["overlap"],
            stamens=int(values["stamens"]),
        )
        count, petals = int(values["count"]), one.petals + sum(r.spares for r in one.rings)
        deep = place.lab_of(values["deep"]) if values.get("deep") else place.lab
        share = np.linspace(0, 1, len(one.rings)) if len(one.rings) > 1 else [0.0]
        labs = [_between(place.lab, deep, float(k)) for k in share]
        guides, x = [], 0.0
        for r in one.rings:
            guides.append([*map(tuple, ellipse((x + r.wide_mm / 2, r.long_mm / 2), r.wide_mm, r.long_mm, points=48))])
            guides[-1].append(guides[-1][0])
            x += r.wide_mm + 8
        sheet = sheet_of(
            Drawing(()),
            "Petals, to lay film over",
            line_mm=1.0,
            guides=guides,
            says=[f"{(r.count + r.spares) * count} of {mm(r.wide_mm)}" for r in one.rings],
        )
        after = [
            Step(
                "A dab on the disc, the largest ring first, each petal in the gap of the last.",
                SET_ON_S * one.petals * count,
                SET,
                warm=True,
            ),
            Step(
                f"Pipe {one.stamens} fine stamens in the middle, standing.",
                STAMEN_S * one.stamens * count,
                HALF_SET,
                warm=True,
            ),
        ]
        if values.get("deep"):
            spray = Step(
                "Spray or brush with coloured cocoa butter, pale outside to deep inside; food-only brush, "
                "never breathe the spray.",
                60.0 * count,
                SET,
                warm=False,
            )
            after.insert(0, spray)
        return Film(
            one.mass_g * count,
            [sheet],
            flower_view(one, labs, place.lab),
            petals * count,
            DIP_S,
            0.0,
            None,
            f"Dip a blade, lay it on film, lift and pull back to a point: {petals * count} petals, thin at the edge. "
            "Lay them over a curve.",
            after=after if one.stamens else after[:-1],
            pieces=count,
            context={
                "flower": one,
                "labs": labs,
                "petals": petals * count,
                "spare": (petals - one.petals) * count,
                "deep_name": place.name_of(values.get("deep")),
                "rings": list(zip(one.rings, one.ring_g, labs, strict=True)),
            },
            numbers=[(f"{petals * count}", "petals"), (mm(one.across_mm), "across")],
        )
