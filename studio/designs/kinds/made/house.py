"""Boxes and houses of panels: net, glue, props, sweets along an edge, and the order in which nothing blocks a hand."""

from __future__ import annotations

from typing import Any

from django import forms

from coating.figures.house import house_view
from coating.figures.sheet import sheet_of
from coating.heat.times import set_time
from coating.piece.cores import Block
from coating.plan.assembly import house_parts, order
from coating.shape.houses.glue import glue, sweets_along
from coating.shape.houses.net import BOX, HOUSE, net
from coating.shape.strokes import Drawing
from coating.steps import SET, Step, hands_s
from studio.common.forms import CountField, LengthField, NumberField, WordsField
from studio.common.types import Typed
from studio.designs.kinds.base import DesignForm, DesignKind, Worked
from studio.designs.kinds.words import grams, many, mm, volume
from studio.designs.one import of_view
from studio.designs.place import Place
from studio.pieces.models import Layer

KINDS_OF_IT = [(HOUSE, "house"), (BOX, "box with a lid")]
MADE_OF = [("coating", "spread coating"), ("baked", "baked")]
BAKED_LAB, SWEET_LABS = (
    (66.0, 12.0, 34.0),
    ((55.0, 62.0, 36.0), (92.0, 0.0, 4.0), (62.0, -40.0, 34.0), (74.0, 10.0, 66.0)),
)
MOST_INSIDE = 6
CUT_S, PLACE_S = 25.0, 20.0  # hands for a panel; assumptions


class HouseForm(DesignForm):
    """What is asked about a house or box."""

    what = forms.ChoiceField(label="Kind of building", choices=KINDS_OF_IT, initial=HOUSE, widget=forms.RadioSelect)
    made_of = forms.ChoiceField(
        label="Material of the panels", choices=MADE_OF, initial="coating", widget=forms.RadioSelect
    )
    long_mm = LengthField("panel_mm", label="Length", initial=120.0, low=30)
    wide_mm = LengthField("panel_mm", label="Width", initial=90.0, low=30)
    wall_mm = LengthField("panel_mm", label="Wall height", initial=70.0, low=20)
    pitch_deg = NumberField("pitch_deg", label="Roof pitch (degrees)", initial=45.0)
    thick_mm = LengthField("film_mm", label="Panel thickness", initial=5.0, low=1.5)
    overhang_mm = LengthField("kerf_mm", label="Overhang of roof and base", initial=8.0, high=30)
    bead_mm = LengthField("bead_mm", label="Width of the glue bead", initial=5.0, low=2, high=12)
    inside = WordsField(label="Things to hide inside (separated by commas)", max_length=120, required=False)
    sweet_mm = LengthField("core_mm", label="Diameter of the sweets on the ridge", required=False, low=4, high=60)
    sweets = WordsField(label="Colours of the sweets, in turn", max_length=80, required=False, initial="red, white")
    count = CountField("count", label="How many", initial=1, high=40)
    main = ("what", "made_of", "long_mm", "wide_mm", "wall_mm", "pitch_deg", "thick_mm", "count", "inside")
    more = ("overhang_mm", "bead_mm", "sweet_mm", "sweets")
    pills = ("what", "made_of")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for name in ("line_mm", "hole_mm", "speed_mm_s"):
            del self.fields[name]

    def clean_inside(self) -> str:
        """What goes inside, as a list of words."""
        words = [word.strip() for word in self.cleaned_data["inside"].split(",") if word.strip()]
        if len(words) > MOST_INSIDE:
            raise forms.ValidationError(f"{MOST_INSIDE} things at most.")
        return ", ".join(dict.fromkeys(words))


class HouseKind(DesignKind):
    """A house or box in the studio."""

    name, title, says, techniques, form = (
        "house",
        "Box or house",
        "Panels, glue, and the order they stand in",
        ("glue",),
        HouseForm,
    )
    group = "Made"
    picture_template = "designs/pictures/house.html"
    steps_more = "designs/parts/house_more.html"

    def takes(self, layer: Layer) -> bool:
        return layer.piece.core == "panel"

    def first(self, place: Place) -> Typed:
        shown, core = super().first(place), place.core
        if isinstance(core, Block):
            shown |= {
                "long_mm": max(30.0, min(600.0, core.long_mm)),
                "wide_mm": max(30.0, min(600.0, core.width_mm)),
                "thick_mm": max(1.5, min(10.0, core.thickness_mm)),
                "made_of": "baked",
            }
        return shown

    def work(self, values: Typed, place: Place) -> Worked:
        count, baked = int(values["count"]), values["made_of"] == "baked"
        layout = net(
            values["what"],
            long_mm=values["long_mm"],
            wide_mm=values["wide_mm"],
            wall_mm=values["wall_mm"],
            thick_mm=values["thick_mm"],
            pitch_deg=values["pitch_deg"],
            overhang_mm=values["overhang_mm"],
        )
        bead = glue(layout.glued_mm, values["bead_mm"], white=place.white, room_c=place.kitchen.room_c)
        inside = [word for word in (values.get("inside") or "").split(", ") if word]
        parts = order(house_parts(values["what"], [word.capitalize() for word in inside]))
        row = None
        edge = layout.long_mm + (2 * values["overhang_mm"] if values["what"] == HOUSE else 0.0)
        colours = [c.strip() for c in (values.get("sweets") or "").split(",") if c.strip()][:4]
        if values.get("sweet_mm"):
            row = sweets_along(edge, values["sweet_mm"], colours)
        panels_g = 0.0 if baked else layout.panels_g
        goes_on_g = (panels_g + bead.mass_g) * count
        steps = self._steps(values, place, layout, bead, parts, row, baked)
        sheets = [
            sheet_of(
                Drawing(()),
                f"{p.name}, {p.count} of it" if p.count > 1 else p.name,
                line_mm=1.0,
                guides=[[*p.outline, p.outline[0]]],
                says=[f"{mm(layout.thick_mm)} thick", f"cut {p.count * count}"],
            )
            for p in layout.panels
        ]
        labs = dict(zip(colours, SWEET_LABS, strict=False))
        wall = BAKED_LAB if baked else place.lab
        roof = (wall[0] * 0.86, wall[1] + 4, wall[2] + 4)
        # Of a job, what it takes is spread over the panels that are made of a kind.
        panels = place.made if place.layer else count
        worked = Worked(
            place,
            self.window_of("glue"),
            sheets,
            values["bead_mm"],
            goes_on_g,
            hands_s(steps),
            0.0,
            0,
            None,
            pieces=panels,
            steps=steps,
        )
        shown = house_view(layout, wall, roof, row, labs, overhang_mm=values["overhang_mm"])
        worked.one = of_view(shown, alone=True)
        worked.context = {
            "net": layout,
            "bead": bead,
            "parts": parts,
            "row": row,
            "inside": inside,
            "baked": baked,
            "count": count,
            "panels_g": panels_g,
            "colours": [(c, row.of(c)) for c in dict.fromkeys(colours)] if row else [],
            "view": shown,
            "what": "house" if values["what"] == HOUSE else "box",
            "extra_numbers": [
                (str(layout.parts), "panels"),
                (mm(layout.glued_mm), "of glue"),
                (volume(layout.inside_ml), "room inside"),
            ],
        }
        if 2 * max(layout.panels, key=lambda p: p.area_mm2).area_mm2 / layout.thick_mm > 30000:
            worked.warnings.append(f"Such large panels want more than {mm(5)}, or a second coat on the back.")
        return worked

    @staticmethod
    def _steps(
        values: Typed, place: Place, panels: Any, bead: Any, parts: list[Any], row: Any, baked: bool
    ) -> list[Step]:
        count = int(values["count"])
        steps = []
        if not baked:
            sets = set_time("slab", panels.thick_mm, "room", room_c=place.kitchen.room_c, white=place.white)
            steps = [
                Step(
                    f"Spread {grams(panels.panels_g)} {mm(panels.thick_mm)} thick; rule and cut all panels by their "
                    "templates at half-set.",
                    CUT_S * panels.parts * count,
                ),
                Step("Leave them flat until they are hard.", 0.0, SET, sets.release_min),
            ]
        steps.append(
            Step(
                "Build on a mat, so that the base lifts. Keep the glue near setting: thick, and only just warm.",
                20.0,
                warm=False,
            )
        )
        for i, part in enumerate(parts[1:]):
            where = f", leaning on {_listed([p.lower() for p in part.on])}" if part.on != ("Base",) else ""
            if part.inside:
                steps.append(
                    Step(f"Now put in: {part.name.lower()}. A hand does not get in later.", PLACE_S * count, warm=False)
                )
                continue
            hold = f"Hold it {bead.hold_s:.0f} s; prop it with a jar."
            says = f"{part.name}: a bead of {mm(values['bead_mm'])}{where}. {hold}"
            wait = bead.prop_min if part.closes and not parts[i].closes else 0.0
            steps.append(Step(says, (PLACE_S + bead.hold_s) * count, SET if wait else "", wait, warm=True))
        if row is not None:
            steps.append(
                Step(
                    f"Glue {many(row.count, 'sweet')} along the edge, from both ends to the middle.",
                    3.0 * row.count * count,
                    SET,
                    bead.prop_min,
                    warm=True,
                )
            )
        return steps


def _listed(words: list[str]) -> str:
    *first, last = words
    return f"{', '.join(first)} and {last}" if first else last
