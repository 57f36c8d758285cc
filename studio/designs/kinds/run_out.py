"""Shapes to lift off: outlined and flooded, from our library or a maker's own."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

from django import forms
from shapely.affinity import translate

from coating.errors import OutOfBounds, UnknownName
from coating.figures.sheet import sheet_of
from coating.flow.windows import window
from coating.heat.setting import Setting
from coating.heat.times import sets_where
from coating.shape.areas import Areas
from coating.shape.bag import hole_for
from coating.shape.ready_shapes import READY, ready_shape
from coating.shape.run_outs import run_out
from coating.shape.strokes import BEAD_HEIGHT, repeated
from coating.shape.tiling import in_rows
from coating.steps import CLOSED, HALF_SET, SET, Step
from studio.common.forms import CountField, LengthField
from studio.common.templatetags.kitchen import about_minutes, hexed
from studio.common.types import Typed
from studio.common.words import lower
from studio.designs.kinds.base import DesignForm, DesignKind, Other, Worked
from studio.designs.models import Shape
from studio.designs.one import of_sheet
from studio.designs.place import Place
from studio.designs.shapes import areas_from
from studio.designs.tiles import Tile, shape_tiles
from studio.pieces.pictures import OWN

LIFT_EACH_S = 5.0
BAG_S, BAG_STAYS_MIN = 30.0, 5.0  # a second bag filled, and how long it may lie; common practice, no source
GONE = "That shape is not there any more: choose another."
FLOODED = [("half_set", "once the outline is half-set"), ("wet", "at once, wet into wet"), ("none", "outline only")]


class RunOutForm(DesignForm):
    """What is asked about run-outs."""

    shape = forms.ChoiceField(label="Shape", initial="comet", error_messages={"invalid_choice": GONE})
    width_mm = LengthField("page_mm", label="Width", initial=60.0, low=8, high=600)
    count = CountField("count", label="How many", initial=12, high=400)
    flood = forms.ChoiceField(label="How it is filled", choices=FLOODED, initial="half_set", widget=forms.RadioSelect)
    second = forms.ChoiceField(label="Colour of the filling", required=False)
    depth_mm = LengthField(
        "coat_mm",
        label="Thickness of the filling",
        required=False,
        help_text="Leave blank to stay a little under the outline.",
    )
    main = ("width_mm", "count", "line_mm", "flood")
    more = ("second", "depth_mm", "hole_mm", "speed_mm_s")
    pills = ("flood",)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        mine = Shape.objects.for_kitchen(self.place.kitchen).values_list("pk", "name")
        shapes, second = self.fields["shape"], self.fields["second"]
        assert isinstance(shapes, forms.ChoiceField) and isinstance(second, forms.ChoiceField)
        ours = [(s.name, s.title) for s in READY.values() if not s.small]
        small = [(s.name, s.title) for s in READY.values() if s.small]
        own = [("Yours", [(f"own:{pk}", name) for pk, name in mine])] if mine else []
        shapes.choices = [*own, ("Shapes", ours), ("Small parts", small)]
        second.choices = [("", "the same"), *kwargs["colours"]]


class RunOutKind(DesignKind):
    """Run-outs in the studio."""

    name, title, says, techniques, form = (
        "run_out",
        "Shape to lift off",
        "An outline filled up, lifted when hard",
        ("flood", "lines"),
        RunOutForm,
    )
    steps_template = "designs/parts/run_out_steps.html"
    lifts_off = True
    pick, pick_word = "shape", "Shape"
    colours = ("second",)

    def tiles(self) -> Sequence[Tile]:
        return shape_tiles()

    def fits(self, place: Place) -> dict[str, float]:
        """As wide as the piece; what is higher than wide is drawn higher."""
        return {"width_mm": max(8.0, min(600.0, place.core.length_mm))} if place.core else {}

    def first(self, place: Place) -> Typed:
        shown = super().first(place)
        return shown | ({"count": min(400, place.wanted)} if place.layer else {})

    def _areas(self, values: Typed, place: Place) -> Areas:
        kind, _, pk = values["shape"].partition(":")
        if kind != "own":
            return ready_shape(kind, width_mm=values["width_mm"])
        row = Shape.objects.for_kitchen(place.kitchen).filter(pk=pk).first()
        if row is None:
            raise UnknownName(GONE, field="shape")
        return areas_from(row.areas).sized(values["width_mm"])

    @staticmethod
    def _steps(values: Typed, shape: Any, sets: Mapping[str, Setting], dam: Setting | None, called: str) -> list[Step]:
        """Outlined, filled, left to set, lifted off."""
        count, wet, second = int(values["count"]), values["flood"] == "wet", values.get("second") or None
        filled = f" with {called.lower()}" if second else ""
        outline_s, flood_s = shape.outline_s * count, shape.flood_s * count
        if values["flood"] == "none":
            steps = [Step(f"Pipe {count}.", outline_s)]
        elif wet:
            both = Step(f"Outline and fill {count}, one after the other; shake level.", outline_s + flood_s)
            bag = Step(f"A bag of {called.lower()} for the filling.", BAG_S, of=second)
            steps = [bag, replace(both, until_min=BAG_STAYS_MIN)] if second else [both]
        else:
            dry = dam.touch_min if dam else 5.0
            steps = [
                Step(f"Outline {count}.", outline_s, looks=CLOSED),
                Step(f"Fill{filled} up to the outlines, shake level.", flood_s, HALF_SET, dry, warm=True, of=second),
            ]
        where = "fridge" if "fridge" in sets else "room"
        hard = sets[where].release_min if where in sets else 30.0
        return [*steps, Step("Lift them off, by the middle.", LIFT_EACH_S * count, SET, hard, None, where)]

    def work(self, values: Typed, place: Place) -> Worked:
        line_mm, count = self.line_of(values, place, "outline"), int(values["count"])
        shape = run_out(
            self._areas(values, place),
            line_mm=line_mm,
            depth_mm=values.get("depth_mm"),
            speed_mm_s=values["speed_mm_s"],
        )
        filled = values["flood"] != "none"
        outline_g, flood_g = shape.outline_g() * count, shape.flood_g() * count if filled else 0.0
        seconds = (shape.outline_s + (shape.flood_s if filled else 0.0)) * count
        bag = self.bag_of(place, "outline", line_mm, outline_g, values["speed_mm_s"])
        says = [f"pipe {count}", f"outline {shape.outline_s:.0f} s, filling {shape.flood_s:.0f} s each"]
        kind, _, own = values["shape"].partition(":")
        title = "Your shape" if own else READY[kind].title
        flooded = shape.flooded if filled else ()
        sheet = sheet_of(shape.outline, title, line_mm=line_mm, areas=flooded)
        wide, high = shape.areas.size_mm
        spots = in_rows(count, wide, high)
        printed = sheet_of(
            repeated(shape.outline, spots),
            title,
            line_mm=line_mm,
            says=says,
            areas=[translate(part, x, y) for x, y in spots for part in flooded],
        )
        white, room_c = place.white, place.kitchen.room_c
        sets = sets_where("slab", shape.depth_mm, room_c=room_c, white=white)
        dam = sets_where("line", line_mm * BEAD_HEIGHT, room_c=room_c, white=white)
        worked = Worked(
            place,
            self.window_of("outline"),
            [printed],
            line_mm,
            outline_g + flood_g,
            seconds,
            shape.outline.length_mm * count,
            shape.outline.strokes * count,
            bag,
            pieces=count,
            steps=self._steps(values, shape, sets, dam.get("room"), place.name_of(values.get("second"))),
            others=self.others_of(place, *_filling(values, flood_g)),
            one=of_sheet(sheet, fill=_fill(values, place)),
        )
        flood_bag_hole = hole_for(4.0, window("flood").aim.yield_stress_pa)
        worked.context = {
            "shape": shape,
            "sheet": sheet,
            "count": count,
            "outline_g": outline_g,
            "flood_g": flood_g,
            "filled": filled,
            "fill_says": _fill_says(values["flood"] == "wet", place.name_of(values.get("second")), dam.get("room")),
            "sets": sets.get("fridge") or sets.get("room"),
            "flood_window": window("flood"),
            "flood_hole": flood_bag_hole,
            "thin": [(x - sheet.left_mm, y - sheet.top_mm) for x, y in shape.thin_at],
            "second_lab": place.lab_of(values["second"]) if values.get("second") else None,
            "size": shape.areas.size_mm,
            "left_lines": len(shape.areas.lines),
        }
        if shape.thin_at:
            where = f"{len(shape.thin_at)} places" if len(shape.thin_at) > 1 else "one place"
            worked.warnings.append(f"Thin in {where}, ringed: lift it by its middle, or make it larger.")
        if shape.pieces > 1:
            worked.warnings.append(f"It is {shape.pieces} separate parts.")
        if filled and not shape.flooded:
            raise OutOfBounds(
                "There is no room inside for a filling: a thinner line, or outline only.", field="line_mm"
            )
        return worked


def _fill(values: Typed, place: Place) -> str:
    """What is seen of its filling."""
    return hexed(place.lab_of(values["second"])) if values.get("second") else OWN


def _filling(values: Typed, flood_g: float) -> list[Other]:
    """What it is filled with, where that is another colour."""
    return [Other(str(values["second"]), flood_g)] if values.get("second") else []


def _fill_says(wet: bool, colour: str, dam: Setting | None) -> str:
    """When the outline is filled, and with what; `colour` "" for its own."""
    with_ = f" with {lower(colour)}" if colour else ""
    if wet:
        return f"Fill each at once{with_}, while its outline is wet: both settle to one."
    wait = about_minutes(dam.touch_min) if dam else "until it no longer marks"
    return f"Wait {wait}, then fill up to the outline{with_}."
