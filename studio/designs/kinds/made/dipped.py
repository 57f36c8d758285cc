"""Dips: what goes on, what drips off, how much must be melted to reach it, sticks, stands and rounds."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django import forms

from coating.errors import OutOfBounds
from coating.figures.sheet import sheet_of
from coating.heat.times import sets_where, usable_time
from coating.job.lines import BELOW_MM
from coating.piece.cores import Core
from coating.piece.kinds import KINDS as CORES
from coating.piece.kinds import CoreKind
from coating.shape.curves import ellipse
from coating.shape.strokes import Drawing
from coating.stack.dipping import DIP_S, GLASS_BAND, SLANTED, STICKS, STRAIGHT, TWO_SIDED, foot_g, stand_rounds
from coating.stack.layers import Layer, on_one_g, thick_mm
from coating.steps import HALF_SET, SET, WET, Step, hands_s
from studio.common.forms import CountField, LengthField
from studio.common.types import Typed
from studio.designs.kinds.base import DesignForm, DesignKind, Worked
from studio.designs.kinds.words import grams, mm
from studio.designs.place import Place
from studio.pieces.pictures import strokes_of

DIPPED = (
    "ball",
    "round_biscuit",
    "finger_biscuit",
    "sandwich_biscuit",
    "berry",
    "fruit",
    "pretzel_twist",
    "pretzel_rod",
    "marshmallow",
    "sweet",
    "glass_rim",
)
SHARES = [
    ("1.0", "all of it"),
    ("0.9", "nearly all of it"),
    ("0.667", "two thirds"),
    ("0.5", "half"),
    ("0.333", "a third"),
    ("0.1", "a finger wide"),
]
WAYS = [(STRAIGHT, "straight"), (SLANTED, "at a slant"), (TWO_SIDED, "one side, then the other")]
TOPPED_S, RIM_SHARE = 3.0, 0.2


class DipForm(DesignForm):
    """What is asked about dipped pieces."""

    core = forms.ChoiceField(
        label="What is dipped", choices=[(n, CORES[n].title) for n in DIPPED], initial="round_biscuit"
    )
    across_mm = LengthField(
        "core_mm", label="Width", required=False, help_text="Leave blank for the usual size.", high=300
    )
    high_mm = LengthField("core_mm", label="Length or height", required=False, high=300)
    thick_mm = LengthField("core_mm", label="Thickness", required=False, high=200)
    share = forms.ChoiceField(label="Depth of the dip", choices=SHARES, initial="0.5", widget=forms.RadioSelect)
    way = forms.ChoiceField(label="Way of dipping", choices=WAYS, initial=STRAIGHT, widget=forms.RadioSelect)
    coats = CountField("dip_coats", label="Number of coats", initial=1)
    count = CountField("count", label="How many", initial=24, high=1000)
    sticks = forms.ChoiceField(
        label="Kind of stick",
        choices=[(s.name, s.title) for s in STICKS.values()],
        initial="none",
        widget=forms.RadioSelect,
    )
    holes = CountField("cavities", label="Places in the stand or on the tray", initial=24, high=400)
    top = forms.BooleanField(label="Topping put on while wet", required=False)
    main: tuple[str, ...] = ("share", "way", "coats", "count", "sticks", "holes")
    more = ("across_mm", "high_mm", "thick_mm", "top")
    pills = ("share", "way", "sticks")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for name in ("line_mm", "hole_mm", "speed_mm_s"):
            del self.fields[name]
        if self.place.layer is None:
            self.main = ("core", *self.main)
        else:  # the piece says what is dipped, and how large it is
            for name in ("core", "across_mm", "high_mm", "thick_mm"):
                del self.fields[name]


class DipKind(DesignKind):
    """Dipped pieces in the studio."""

    name, title, says, techniques, form = (
        "dip",
        "Dip",
        "What goes on, what to melt, sticks and stands",
        ("dip", "second_dip", "angled_dip", "rim"),
        DipForm,
    )
    group = "Made"
    steps_more = "designs/parts/dip_more.html"

    def suits(self, place: Place) -> bool:
        return True

    def first(self, place: Place) -> Typed:
        shown, layer = super().first(place), place.layer
        if layer is None:
            return shown
        piece = layer.piece
        shown |= {
            "count": min(1000, place.made),
            "core": piece.core if piece.core in DIPPED else "ball",
        }
        share = min((s for s, _ in SHARES), key=lambda s: abs(float(s) - float(layer.parameters.get("share", 1.0))))
        stuck = any(la.technique == "stick" for la in piece.stack)
        way = SLANTED if layer.technique == "angled_dip" else STRAIGHT
        return shown | {
            "share": share,
            "sticks": "seated" if stuck else "none",
            "way": way,
            "coats": max(1, min(4, int(layer.parameters.get("coats", 1)))),
        }

    @staticmethod
    def _core(values: Typed, place: Place) -> tuple[CoreKind, Core]:
        """What is dipped: the piece's own, or one that is picked. Raises OutOfBounds."""
        if place.layer is not None and place.core is not None:
            return CORES[place.layer.piece.core], place.core
        kind = CORES[values["core"]]
        size = (values.get("across_mm"), values.get("high_mm"), values.get("thick_mm"))
        return kind, kind.core(*[said or usual for said, usual in zip(size, kind.usual, strict=False)])

    def work(self, values: Typed, place: Place) -> Worked:
        kind, core = self._core(values, place)
        count, share, way, coats = int(values["count"]), float(values["share"]), values["way"], int(values["coats"])
        rim = kind.name == GLASS_BAND
        if rim and share > RIM_SHARE:
            raise OutOfBounds("A rim is a band: a finger wide.", field="share", high=RIM_SHARE)
        sides, flow_name = 2 if way == TWO_SIDED else 1, "dip" if rim else kind.flow
        technique = "rim" if rim else "angled_dip" if way == SLANTED else "dip"
        amounts, flow = {"share": share, "coats": coats * sides}, place.flow(flow_name)
        layer = Layer(technique, white=place.white, share=share, coats=coats * sides)
        one_g, thick = on_one_g(core, layer, flow=flow), thick_mm(core, layer, flow=flow)
        sets = sets_where("coat", thick, room_c=place.kitchen.room_c, white=place.white)
        stick = STICKS[values["sticks"]]
        stands = stand_rounds(count, int(values["holes"]))
        deep_mm = share * core.length_mm + BELOW_MM
        steps = self._steps(values, count, deep_mm, sets, rim, stick, stands)
        worked = Worked(
            place,
            self.window_of(flow_name),
            [],
            1.0,
            one_g * count,
            hands_s(steps),
            0.0,
            0,
            None,
            pieces=count,
            steps=steps,
            told=amounts,
            holes=int(values["holes"]),
            deep=way == TWO_SIDED or stick.name != "none",
        )
        drawn = Layer(technique, share=min(1.0, share * sides))
        worked.context = {
            "count": count,
            "stick": stick,
            "stands": stands,
            "coats": coats,
            "share": share,
            "way": way,
            "core": core,
            "core_name": kind.name,
            "technique": technique,
            "one_g": one_g,
            "deep_mm": deep_mm,
            "foot_g": foot_g(core, share, flow),
            "strokes": strokes_of(kind, core, [drawn], [place.lab]),
            "core_title": kind.title,
            "sets": sets,
            "two_sided": way == TWO_SIDED,
            "core_many": _plural(kind.title),
        }
        wide_mm = max((bowl.vessel_mm for bowl in worked.bowls), default=core.across_mm)
        ring = [(float(x), float(y)) for x, y in ellipse((0.0, 0.0), wide_mm, wide_mm, points=72)]
        worked.sheets = [sheet_of(Drawing(()), "The bowl is about so wide", line_mm=1.0, guides=[[*ring, ring[0]]])]
        life_s = usable_time(worked.melt_g, white=place.white, room_c=place.kitchen.room_c)
        warm_for = max(1, int(life_s / DIP_S))
        worked.context |= {
            "wide_mm": wide_mm,
            "warm_for": warm_for,
            "rewarms": max(0, -(-count * sides * coats // warm_for) - 1),
            "extra_numbers": [
                (grams(one_g), "on one"),
                (mm(thick), "thick"),
                (grams(worked.context["foot_g"]), "drips off one set down at once"),
                *([(str(stands), "stands full")] if stands > 1 else []),
            ],
        }
        if coats > 1 and not sets:
            worked.warnings.append("A second coat wants the first one set, and nothing sets here: use the fridge.")
        if way == TWO_SIDED and share > 0.67:
            worked.warnings.append("Both sides overlap: the middle gets two coats. Dip each a half.")
        if stick.comes_out:
            worked.warnings.append(f"Count {count} picks out, and {count} in again before anything is served.")
        return worked

    @staticmethod
    def _steps(
        values: Typed, count: int, deep_mm: float, sets: Mapping[str, Any], rim: bool, stick: Any, stands: int
    ) -> list[Step]:
        coats, way = int(values["coats"]), values["way"]
        place = "room" if "room" in sets else "fridge"
        dry = sets[place].touch_min if sets else 0.0
        steps = []
        if stick.says:
            steps.append(Step(stick.says, 6.0 * count))
        wait = (SET, stick.wait_min, None, "room", True) if stick.wait_min else ("", 0.0, None, "room", True)
        if rim:
            steps.append(Step(f"Turn each rim in the coating, {mm(deep_mm)} deep; sprinkles at once.", DIP_S * count))
        else:
            how = "at a slant, up to the line" if way == SLANTED else "straight in, wiggle up to the line, straight out"
            again = f", {stands} stands one after the other" if stands > 1 else ""
            steps.append(
                Step(
                    f"Dip {count}, {how}; shake, scrape the base on the rim so that no foot forms, set down{again}.",
                    DIP_S * count,
                    *wait,
                )
            )
        if values.get("top"):
            steps.append(
                Step("What lies on top, at once: it sinks in.", TOPPED_S * count, WET, 0.0, dry / 2, warm=False)
            )
        if way == TWO_SIDED:
            steps.append(Step("Now the other side, to the same line.", DIP_S * count, SET, dry, None, place, warm=True))
        for coat in range(2, coats + 1):
            steps.append(
                Step(f"Coat {coat}, once the last one is dry.", DIP_S * count, SET, dry, None, place, warm=True)
            )
        if stick.comes_out:
            half = dry / 2
            steps.append(
                Step(
                    "Pull the picks out with a turn, count them, close each hole with a dab.",
                    5.0 * count,
                    HALF_SET,
                    half,
                    max(half, dry),
                    place,
                    warm=True,
                )
            )
        release = sets[place].release_min if sets else 0.0
        return [*steps, Step("Leave them until they lift off clean.", 0.0, SET, release, None, place, warm=False)]


def _plural(title: str) -> str:
    word = title.lower()
    first = word.split(" or ")[0]
    return first[:-1] + "ies" if first.endswith("y") else first + ("es" if first.endswith("sh") else "s")
