"""Leaves: painted on film, spread over, cut along the grain, bent over a roll."""

from __future__ import annotations

from types import MappingProxyType
from typing import Any

from django import forms

from coating.figures.film import leaves_view
from coating.figures.sheet import sheet_of
from coating.piece.cores import Sheet as SheetCore
from coating.shape.film.leaves import leaves
from coating.shape.strokes import Drawing
from coating.steps import HALF_SET, Step
from studio.common.forms import CountField, LengthField
from studio.common.types import Typed
from studio.designs.kinds.film.base import Film, FilmForm, FilmKind
from studio.designs.kinds.words import grams, mm
from studio.designs.place import Place

PAINT_LAB, METAL_LAB = (48.0, -26.0, 26.0), (76.0, 3.0, 40.0)
HALF_DRY_MIN, DRY_MIN = 2.0, 8.0  # of a brushed coat of cocoa butter; common practice, no source
BRUSH_S, SPREAD_S, CUT_S = 20.0, 20.0, 20.0  # hands for one leaf; assumptions


class LeafForm(FilmForm):
    """What is asked about leaves."""

    long_mm = LengthField("piece_side_mm", label="Leaf length", initial=70.0, low=15, high=300)
    wide_mm = LengthField("petal_mm", label="Leaf width", initial=30.0)
    roll_mm = LengthField("tier_or_cup_mm", label="Diameter of the roll they bend over", initial=80.0)
    paint = forms.ChoiceField(label="Colour painted first", required=False)
    coats = CountField("paint_coats", label="Coats of paint", initial=2, help_text="The second is metallic.")
    film_w_mm = LengthField("slab_mm", label="Film thickness along the brush", initial=400.0, low=60)
    film_h_mm = LengthField("slab_mm", label="Film thickness across the brush", initial=250.0, low=30)
    main = ("long_mm", "wide_mm", "roll_mm", "thickness_mm", "count", "paint", "coats")
    more = ("film_w_mm", "film_h_mm", "where")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.offers("paint", kwargs["colours"], "a leaf green")


class LeafKind(FilmKind):
    """Leaves in the studio."""

    name, title, says, techniques, form = (
        "leaves",
        "Painted leaves",
        "Brushed on film, spread over, cut along the grain",
        ("film",),
        LeafForm,
    )

    told_at = MappingProxyType({"pieces": "long_mm"})
    colours = ("paint",)

    def fits(self, place: Place) -> dict[str, float]:
        core = place.core
        if not isinstance(core, SheetCore):
            return {}
        return {"long_mm": max(15.0, min(300.0, core.length_mm)), "wide_mm": max(8.0, min(120.0, core.across_mm))}

    def first(self, place: Place) -> Typed:
        return super().first(place) | {"thickness_mm": 1.5}

    def made(self, values: Typed, place: Place) -> Film:
        made = leaves(
            int(values["count"]),
            values["long_mm"],
            values["wide_mm"],
            thickness_mm=values["thickness_mm"],
            roll_mm=values["roll_mm"],
            coats=int(values["coats"]),
            film_mm=(values["film_w_mm"], values["film_h_mm"]),
        )
        first = [p for p in made.plan.placed if p.sheet == 0]
        guides = [[(x + p.x_mm, y + p.y_mm) for x, y in made.outline] for p in first]
        high = max(p.y_mm + p.height_mm for p in first)
        arrow = [(0.0, high + 8), (60.0, high + 8), (54.0, high + 5), (60.0, high + 8), (54.0, high + 11)]
        sheet = sheet_of(
            Drawing(()),
            "Leaves",
            line_mm=1.0,
            guides=[*guides, arrow],
            says=[f"cut {made.count}", "brush along the arrow"],
        )
        paint = place.lab_of(values["paint"]) if values.get("paint") else PAINT_LAB
        called = place.name_of(values.get("paint")) or "leaf green"
        count = made.count
        before = [
            Step(
                f"Brush {called.lower()} cocoa butter thickly on the film, all one way: {grams(made.paint_g)}. "
                "What is painted first is seen in front.",
                BRUSH_S * count,
                warm=False,
            )
        ]
        before += [
            Step(
                f"Half dry, brush metallic over it, lightly: coat {i + 2}.", BRUSH_S * count / 2, HALF_SET, HALF_DRY_MIN
            )
            for i in range(made.coats - 1)
        ]
        return Film(
            made.coating_g,
            [sheet],
            leaves_view(made, paint, METAL_LAB),
            count,
            SPREAD_S,
            CUT_S,
            made.bend,
            f"Once the paint is dry, spread the coating {mm(made.thickness_mm)} thick over it.",
            "Cut the leaves along the grain with the tip of a knife; bend them over the roll, film and all.",
            dries_min=DRY_MIN,
            before=before,
            pieces=count,
            context={"leaves": made, "paint_name": called},
            numbers=[
                (grams(made.paint_g * made.coats), "paint"),
                (f"{made.plan.sheets}", "film, sheets"),
                (grams(made.cut_off_g), "cut off, to melt again"),
            ],
        )
