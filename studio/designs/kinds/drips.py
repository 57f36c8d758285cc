"""Drips round a tier, grown: uneven by nature, in one colour or two, all round or half."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from django import forms

from coating.errors import CoatingError
from coating.figures.sheet import PaperSheet, sheet_of
from coating.figures.tier import drip_outline, middles_mm, side_paths, turned_view
from coating.flow.drip import squeeze_for
from coating.flow.windows import window
from coating.limits import BOUNDS
from coating.piece.drips import CHILLED, LENGTH_MM, SPACING_MM, WIDTH_MM
from coating.shape.drips import RIM_MM
from coating.shape.grown_drips import GrownDrips, grown_drips
from coating.shape.pieces import CakeTier
from coating.shape.strokes import Drawing
from coating.steps import SET, WET, Step
from studio.common.forms import CountField, LengthField, NumberField
from studio.common.types import Json, Typed
from studio.designs.kinds.base import DesignForm, DesignKind, Other, Worked
from studio.designs.place import Place
from studio.pieces.forms import TOPS, WALLS

ARRANGED = [
    ("round", "All the way round"),
    ("half", "Half the cake"),
    ("turns", "Two colours in turn"),
    ("double", "Two rows, one over the other"),
]
UNDER = 1.25  # how much longer the row beneath hangs
FETCH_S, CHILL_MIN, TOP_S = 20.0, 20.0, 60.0  # into the fridge, how long there, the top; common practice, no source
UNDER_SETS_MIN = 5.0  # until a row can be covered by another; common practice, no source
A_DRIP_S = 6.0  # squeezed, and on to the next; an assumption


class DripsForm(DesignForm):
    """What is asked about drips down a cake."""

    arranged = forms.ChoiceField(
        label="Where the drips go", choices=ARRANGED, initial="round", widget=forms.RadioSelect
    )
    second = forms.ChoiceField(label="Second colour", required=False)
    diameter_mm = LengthField("tier_mm", label="Tier diameter", initial=180.0)
    height_mm = LengthField("tier_height_mm", label="Tier height", initial=100.0)
    length_mm = LengthField("drip_mm", label="Average drip length", initial=LENGTH_MM)
    width_mm = LengthField("drip_width_mm", label="Widest drip", initial=WIDTH_MM)
    spacing_mm = LengthField("spacing_mm", label="Spacing between drips", initial=SPACING_MM)
    variation = NumberField("variation", label="Unevenness", initial=0.35, help_text="0 is regular, 0.35 looks grown.")
    flooded = forms.ChoiceField(label="Top of the cake", choices=TOPS, required=False, widget=forms.RadioSelect)
    wall = forms.ChoiceField(label="Temperature of the cake", choices=WALLS, initial=CHILLED, widget=forms.RadioSelect)
    turn = NumberField("turn_deg", label="Rotation (degrees)", initial=0.0)
    seed = CountField("seed", label="Variation", initial=1, low=1, high=9999)
    main = (
        "arranged",
        "second",
        "diameter_mm",
        "height_mm",
        "length_mm",
        "width_mm",
        "spacing_mm",
        "variation",
        "seed",
    )
    more = ("flooded", "wall")
    pills = ("arranged", "flooded", "wall")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for name in ("line_mm", "hole_mm", "speed_mm_s"):
            del self.fields[name]
        field = self.fields["second"]
        assert isinstance(field, forms.ChoiceField)
        field.choices = [("", "plain"), *kwargs["colours"]]


class DripsKind(DesignKind):
    """Drips down a cake in the studio."""

    name, title, says, techniques, form = (
        "drips",
        "Drips",
        "A drip round a tier, uneven by nature",
        ("cake_drip",),
        DripsForm,
    )
    steps_template = "designs/parts/drips_steps.html"
    colours = ("second",)

    def fits(self, place: Place) -> dict[str, float]:
        size = place.layer.piece.size["mm"] if place.layer else []
        return dict(zip(("diameter_mm", "height_mm"), size, strict=False))

    def first(self, place: Place) -> Typed:
        shown = super().first(place)
        layer = place.layer
        if layer is None:
            return shown
        known = ("length_mm", "width_mm", "spacing_mm", "wall")
        values = {n: layer.parameters[n] for n in known if layer.parameters.get(n)}
        return shown | values | {"flooded": "yes" if layer.parameters.get("flooded") else ""}

    def _rows(self, values: Typed) -> list[GrownDrips]:
        tier = CakeTier(values["diameter_mm"], values["height_mm"])
        options = {name: values[name] for name in ("spacing_mm", "width_mm", "variation")}
        row = grown_drips(
            tier,
            length_mm=values["length_mm"],
            seed=int(values["seed"]),
            flooded=bool(values.get("flooded")),
            **options,
        )
        if values["arranged"] != "double":
            return [row]
        under = grown_drips(tier, length_mm=values["length_mm"] * UNDER, seed=int(values["seed"]) + 5000, **options)
        return [replace(under, flooded=False), row]

    def work(self, values: Typed, place: Place) -> Worked:
        rows = self._rows(values)
        row, share = rows[-1], 0.5 if values["arranged"] == "half" else 1.0
        around = row.tier.round_mm
        shown = [i for i, x in enumerate(middles_mm(row)) if x <= share * around]
        top_g = row.top_g * share if row.flooded else 0.0
        drips_g = row.each_g
        each = [sum(drips_g[i] for i in shown[k::2]) for k in (0, 1)] if values["arranged"] == "turns" else []
        first_g = (each[0] if each else sum(drips_g[i] for i in shown)) + row.rim_g * share + top_g
        second_g = each[1] if each else rows[0].mass_g if len(rows) > 1 else 0.0
        seconds = A_DRIP_S * (len(shown) + (len(rows[0].gaps_mm) if len(rows) > 1 else 0))
        frame, shapes = self._side(row, share)
        sheet = sheet_of(
            Drawing(()),
            "Side of the tier",
            line_mm=1.0,
            guides=[frame],
            areas=shapes,
            says=[f"{len(shown)} drips", "lay it round the tin and mark where each begins"],
        )
        bag = self.bag_of(place, "cake_drip", 6.0, first_g + second_g, 30.0)
        papers = [sheet, self._card(row, values)]
        second = str(values.get("second") or "")
        beneath = len(rows[0].gaps_mm) if len(rows) > 1 else 0
        steps = [
            Step("Into the fridge with the cake.", FETCH_S, warm=False, looks="a cold, dry coat all round"),
            *self._squeezed(len(shown), beneath, second, place.name_of(second) or "plain", in_turn=bool(each)),
            *([Step("Then the top, spread to the rim.", TOP_S, WET, 0.0, 5.0, warm=True)] if row.flooded else []),
        ]
        worked = Worked(
            place,
            self.window_of("cake_drip"),
            papers,
            6.0,
            first_g + second_g,
            seconds,
            0.0,
            len(shown),
            bag,
            steps=steps,
            others=self.others_of(place, Other(second, second_g)),
        )
        flats = side_paths(row, end_mm=share * around)
        in_turn = 2 if values["arranged"] == "turns" else 1
        view = turned_view(rows, turn_deg=values["turn"], share=share, colours=in_turn)
        worked.context = {
            "rows": rows,
            "drips": row,
            "count": len(shown),
            "around_mm": around,
            "rim_mm": RIM_MM,
            "height_mm": values["height_mm"],
            "flats": [[p for i, p in enumerate(flats) if i % in_turn == k] for k in range(in_turn)],
            "under": side_paths(rows[0]) if len(rows) > 1 else [],
            "view": view,
            "share": share,
            "second_g": second_g,
            "second_name": place.name_of(second).lower() or "plain",
            "squeeze": self._squeeze(values, place, values["length_mm"]),
            "squeezes": [(mm, self._squeeze(values, place, mm)) for mm in dict.fromkeys(self._marks(row, values))],
            "longest": max(row.lengths_mm),
            "shortest": min(row.lengths_mm),
            "arranged": values["arranged"],
            "shades": self._shades(values, place, len(rows), in_turn),
            "rim_to_mm": share * around,
        }
        if max(row.lengths_mm) > 0.78 * values["height_mm"]:
            worked.warnings.append("The longest nearly reach the board: a shorter drip.")
        return worked

    @staticmethod
    def _squeezed(count: int, beneath: int, second: str, called: str, *, in_turn: bool) -> list[Step]:
        """Drips of one colour, of two in turn, or a row beneath that is set before the other goes over it."""
        first = count - count // 2 if in_turn else count
        which = ", every other one, one at the back first." if in_turn else ", one at the back first."
        chilled = Step(f"Squeeze {first} drips{which}", A_DRIP_S * first, SET, CHILL_MIN, None, "fridge", warm=True)
        if beneath:
            words = f"Squeeze {beneath} drips beneath in {called.lower()}, one at the back first."
            under = replace(chilled, says=words, hands_s=A_DRIP_S * beneath, of=second)
            return [under, replace(chilled, says=f"Squeeze {count} drips over them.", from_min=UNDER_SETS_MIN)]
        if in_turn:
            between = Step(f"The {count // 2} between them in {called.lower()}.", A_DRIP_S * (count // 2), of=second)
            return [chilled, between]
        return [chilled]

    def _shades(self, values: Typed, place: Place, rows: int, in_turn: int) -> list[Any]:
        """Lab of each path of the turned view."""
        second = place.lab_of(values.get("second"))
        if rows > 1:
            return [second, place.lab]
        return [place.lab, second] if in_turn > 1 else [place.lab]

    @staticmethod
    def _squeeze(values: Typed, place: Place, length_mm: float) -> float | None:
        """ml for a drip that long from the bowl as it stands, or as it should."""
        number = place.desk.now.stands_at() if place.desk else None
        options: Json = {"temperature_c": place.desk.now.temperature_c} if place.desk else {}
        low, high = window("cake_drip").number
        try:
            return squeeze_for(
                min(number or (low + high) / 2, BOUNDS["number"].high),
                length_mm=length_mm,
                wall=values["wall"],
                width_mm=values["width_mm"],
                **({"temperature_c": 36.0} | options),
            ).volume_ml
        except CoatingError:
            return None

    @staticmethod
    def _marks(row: GrownDrips, values: Typed) -> tuple[float, float, float]:
        """The shortest, what is wanted on the whole, the longest, mm."""
        wanted = round(float(values["length_mm"]), 1)
        return round(min(row.lengths_mm), 1), wanted, round(max(row.lengths_mm), 1)

    @classmethod
    def _card(cls, row: GrownDrips, values: Typed) -> PaperSheet:
        """A card to test a drip on: hold it upright against the chilled tin, squeeze at the rim, read how far it ran.
        A line every 10 mm, long ones at the shortest, the wanted and the longest."""
        high = row.tier.height_mm
        lines = [np.array([(0.0, 0.0), (60.0, 0.0), (60.0, high), (0.0, high), (0.0, 0.0)])]
        lines += [np.array([(0.0, y), (8.0 if y % 50 else 14.0, y)]) for y in np.arange(10.0, high, 10.0)]
        marks = cls._marks(row, values)
        lines += [np.array([(18.0, y), (60.0, y)]) for y in marks]
        says = [
            "squeeze one at the upper edge",
            "it should stop between the long lines: " + ", ".join(f"{y:.0f}" for y in marks) + " mm",
        ]
        return sheet_of(Drawing(()), "Card to test a drip on", line_mm=1.0, guides=lines, says=says)

    @staticmethod
    def _side(row: GrownDrips, share: float) -> tuple[Any, list[Any]]:
        """The side laid out flat as a frame, and the rim with its drips, for paper."""
        from shapely import Polygon, box, unary_union

        wide, high = row.tier.round_mm * share, row.tier.height_mm
        frame = np.array([(0.0, 0.0), (wide, 0.0), (wide, high), (0.0, high), (0.0, 0.0)])
        shapes = zip(middles_mm(row), row.lengths_mm, row.widths_mm, strict=True)
        drips = [
            Polygon(np.add(drip_outline(long, across), (x, 0.0))).buffer(0) for x, long, across in shapes if x <= wide
        ]
        return frame, [unary_union([box(0, 0, wide, RIM_MM), *drips]).intersection(box(0, 0, wide, high))]
