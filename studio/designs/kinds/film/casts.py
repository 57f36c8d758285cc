"""Textured casts: spread over a relief, peeled off, cut or broken."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django import forms

from coating.figures.film import cast_view
from coating.figures.sheet import sheet_of
from coating.shape.film.casts import TEXTURES, THINNEST_MM, cast
from coating.shape.strokes import Drawing
from coating.steps import HALF_SET, Step
from studio.common.forms import CountField, LengthField
from studio.common.types import Typed
from studio.designs.kinds.film.base import Film, FilmForm, FilmKind, bendable
from studio.designs.kinds.words import mm, size
from studio.designs.place import Place
from studio.designs.tiles import Tile, cast_tiles

SPREAD_S, CUT_S = 90.0, 4.0  # hands for a sheet, and for a piece of it; assumptions


class CastForm(FilmForm):
    """What is asked about a cast on textured film."""

    texture = forms.ChoiceField(
        label="Texture", choices=[(t.name, t.title) for t in TEXTURES.values()], initial="bubbles"
    )
    width_mm = LengthField("slab_mm", label="Sheet length", initial=240.0, low=30)
    height_mm = LengthField("slab_mm", label="Sheet width", initial=160.0, low=30)
    across = CountField("count", label="Pieces across", initial=4, high=40)
    down = CountField("count", label="Pieces down", initial=3, high=40)
    main = ("width_mm", "height_mm", "thickness_mm", "count", "across", "down")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["count"].label, self.fields["thickness_mm"].label = "Sheets", "Thick over the crests"


class CastKind(FilmKind):
    """A cast on textured film in the studio."""

    name, title, says, techniques, form = (
        "cast",
        "Textured cast",
        "Spread over a relief, peeled off, cut",
        ("film",),
        CastForm,
    )
    pick, pick_word = "texture", "Texture"

    def tiles(self) -> Sequence[Tile]:
        return cast_tiles()

    def first(self, place: Place) -> Typed:
        return super().first(place) | {"thickness_mm": 2.0, "count": 1}

    def made(self, values: Typed, place: Place) -> Film:
        one = cast(values["texture"], values["width_mm"], values["height_mm"], thickness_mm=values["thickness_mm"])
        sheets, across, down = int(values["count"]), int(values["across"]), int(values["down"])
        wide, high = one.width_mm, one.height_mm
        frame = [(0.0, 0.0), (wide, 0.0), (wide, high), (0.0, high), (0.0, 0.0)]
        cuts = [[(wide * i / across, 0.0), (wide * i / across, high)] for i in range(1, across)]
        cuts += [[(0.0, high * i / down), (wide, high * i / down)] for i in range(1, down)]
        pieces = across * down * sheets
        window = bendable(place, one.mean_mm, values["where"])
        half = (
            [
                Step(
                    f"Rule and cut through to the texture: {pieces} of {size(wide / across, high / down)}.",
                    CUT_S * pieces,
                    HALF_SET,
                    window.from_min,
                    window.until_min,
                    values["where"],
                )
            ]
            if pieces > sheets
            else []
        )
        film = Film(
            one.mass_g * sheets,
            [
                sheet_of(
                    Drawing(()),
                    one.texture.title,
                    line_mm=1.0,
                    guides=[frame, *cuts],
                    says=[f"{sheets} sheets" if sheets > 1 else "one sheet"],
                )
            ],
            cast_view(one, place.lab),
            sheets,
            SPREAD_S,
            0.0,
            None,
            f"Brush a thin coat into the {one.texture.title.lower()} first, then spread {mm(one.thickness_mm)} over "
            "the crests; tap it.",
            half=half,
            pieces=pieces,
            context={"cast": one, "cut_into": pieces},
            numbers=[(mm(one.mean_mm), "thick on the whole"), (f"{pieces}", "pieces")],
        )
        if one.frail:
            film.warnings.append(f"Thinner than {mm(THINNEST_MM)} over the crests it breaks when it is peeled.")
        if one.texture.along and across > 1:
            film.warnings.append("It breaks along its grooves by itself: cut across them first.")
        return film
