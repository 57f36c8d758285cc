"""A marbled dip: lines of a second colour swirled on the bowl, and how many pieces before it muddies."""

from __future__ import annotations

import math

from django import forms

from coating.figures.sheet import sheet_of
from coating.flow.material import ORDINARY
from coating.flow.windows import window
from coating.piece.cores import Sheet as SlabCore
from coating.shape.curves import ellipse
from coating.shape.marbling.dips import MOST_DIPS, Swirl, lasts, swirl
from coating.shape.marbling.surface import Surface
from coating.shape.strokes import Drawing
from coating.steps import WET, Step, hands_s
from studio.common.forms import CountField, LengthField, NumberField
from studio.common.types import Typed
from studio.designs.kinds.base import DesignKind, Other, Worked
from studio.designs.kinds.marbling import TwoColours, query_of
from studio.designs.kinds.words import grams, many, mm
from studio.designs.place import Place

DIPPED = [("1.0", "all of it"), ("0.5", "half"), ("0.333", "a third")]
LINE_MM, ROOM_MM = 1.5, 15.0  # how deep the lines lie, and what is free under the piece; assumptions
LINES_S, TURN_S, DIP_S = 20.0, 4.0, 12.0  # hands; assumptions
SHOWN = 480


class SwirlForm(TwoColours):
    """What is asked about a swirl to dip into."""

    bowl_mm = LengthField("slab_mm", label="Bowl diameter", initial=150.0, low=50, high=400)
    piece_mm = LengthField("core_mm", label="Piece diameter", initial=32.0, low=8, high=200)
    dipped = forms.ChoiceField(label="Depth of the dip", choices=DIPPED, initial="0.5", widget=forms.RadioSelect)
    count = CountField("count", label="How many", initial=24, high=400)
    ground = forms.ChoiceField(label="Colour of the bowl", required=False)
    share = NumberField("marbled_share", label="Second colour: share of the surface", initial=0.1)
    lines = CountField("blobs", label="Number of lines", initial=5, low=1, high=20)
    turns = CountField("passes", label="Number of passes", initial=3, low=0, high=12)
    after = CountField("passes", required=False, initial=0, widget=forms.HiddenInput)
    main = ("bowl_mm", "piece_mm", "dipped", "count", "share", "turns")
    more = ("ground", "lines")
    pills = ("dipped",)


class SwirlKind(DesignKind):
    """A swirl to dip into in the studio."""

    name, title, says, techniques, form = (
        "swirl",
        "Marbled dip",
        "Lines swirled on the bowl, dipped once",
        ("marbling",),
        SwirlForm,
    )
    group = "Poured"
    pictured = ("bowl_mm", "piece_mm", "dipped", "share", "lines", "turns", "after")
    after_word = "After so many dips"
    colours = ("ground",)

    def suits(self, place: Place) -> bool:
        return place.core is not None and not isinstance(place.core, SlabCore)

    def fits(self, place: Place) -> dict[str, float]:
        return {"piece_mm": max(8.0, min(200.0, place.core.across_mm))} if place.core else {}

    def first(self, place: Place) -> Typed:
        shown, core, layer = super().first(place), place.core, place.layer
        if layer is None or core is None:
            return shown | {"colour": next(iter(place.first_colours), "")}
        return shown | {"count": min(400, place.wanted)}

    @staticmethod
    def _swirl(values: Typed) -> Swirl:
        taken = math.pi * values["piece_mm"] ** 2 * float(values["dipped"])
        return swirl(
            values["bowl_mm"], taken, share=values["share"], lines=int(values["lines"]), turns=int(values["turns"])
        )

    def surface(self, values: Typed, resolution: int, finer: int = 1) -> Surface:
        """The bowl from above after so many dips. Raises CoatingError."""
        return self._swirl(values).surface(min(MOST_DIPS, int(values.get("after") or 0)), resolution, finer)

    def work(self, values: Typed, place: Place) -> Worked:
        made, count = self._swirl(values), int(values["count"])
        enough = lasts(made)
        a_swirl = max(1, min(count, enough))
        swirls = math.ceil(count / a_swirl)
        kg_m3 = ORDINARY.g_per_mm3
        each_g = made.share * math.pi / 4 * made.bowl_mm**2 * LINE_MM * kg_m3
        deep = float(values["dipped"]) * values["piece_mm"] + ROOM_MM
        ground_g = math.pi / 4 * made.bowl_mm**2 * deep * kg_m3
        ground, taken_g = str(values.get("ground") or ""), each_g * swirls * (1 / made.share - 1)
        again = f", {swirls} times over" if swirls > 1 else ""
        steps = [
            Step(f"Have {grams(ground_g)} in the bowl, {mm(deep)} deep.", of=ground),
            Step(f"Lay {made.lines} lines of the second colour on it: {grams(each_g)}{again}.", LINES_S * swirls, WET),
            Step(
                f"{many(made.turns, 'pass', 'passes')} of a skewer across the lines, there and back.",
                TURN_S * made.turns * swirls,
                WET,
                warm=False,
            ),
            Step(
                f"Dip {a_swirl}, each beside the last: straight in, out with a turn of the wrist, and set it down "
                "pattern up. Do not dip twice.",
                DIP_S * count,
                WET,
                of=ground,
            ),
        ]
        if swirls > 1:
            steps.append(
                Step(
                    "Stir what is left in, or scrape it off, and lay fresh lines.", 15.0 * (swirls - 1), WET, of=ground
                )
            )
        ring = [(float(x), float(y)) for x, y in ellipse((0.0, 0.0), made.bowl_mm, made.bowl_mm, points=72)]
        sheet = sheet_of(
            Drawing(()),
            "The bowl, and where the lines lie",
            line_mm=1.0,
            guides=[[*ring, ring[0]], *[[(x, -made.bowl_mm / 2.4), (x, made.bowl_mm / 2.4)] for x in _rows(made)]],
        )
        others = self.others_of(place, Other(ground, taken_g, ground_g))
        worked = Worked(
            place,
            window("marbling"),
            [sheet],
            1.0,
            each_g * swirls + taken_g,
            hands_s(steps),
            0.0,
            0,
            None,
            pieces=count,
            steps=steps,
            others=others,
        )
        worked.context = {
            "enough": enough,
            "open_end": enough >= MOST_DIPS,
            "a_swirl": a_swirl,
            "swirls": swirls,
            "each_g": each_g,
            "ground_g": ground_g,
            "count": count,
            "query": query_of(self, values, place),
            "bowl": made,
            "shown": SHOWN,
            "ground_lab": place.lab_of(values.get("ground")),
            "dips_shown": int(values.get("after") or 0),
            "extra_numbers": [(str(swirls), "swirls"), (grams(each_g), "second colour, each")],
        }
        if not enough:
            worked.warnings.append("Even the first piece comes out muddy: fewer passes, or more of the second colour.")
        return worked


def _rows(made: Swirl) -> list[float]:
    return [made.bowl_mm * ((i + 0.5) / made.lines - 0.5) for i in range(made.lines)]
