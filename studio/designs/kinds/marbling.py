"""Marbling a slab: blobs of a second colour in a ground, and passes of a skewer, drawn or in a rhythm."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any
from urllib.parse import urlencode

import numpy as np
from django import forms
from django.core.exceptions import ValidationError

from coating.errors import CoatingError, OutOfBounds, Unreadable
from coating.figures.sheet import sheet_of
from coating.flow.material import ORDINARY
from coating.flow.trade_number import number_from_flow
from coating.flow.windows import window
from coating.heat.times import set_time
from coating.limits import BOUNDS
from coating.shape.curves import ellipse
from coating.shape.marbling import Drop, Surface, marbled, verdict
from coating.shape.marbling.rhythm import Pass, blobs, drawn, operations, rhythm
from coating.shape.strokes import Drawing
from coating.stack.layers import on_one_g
from coating.steps import KNIFE_AGE, SET, SHINES, WET, Step, hands_s
from studio.common.brought import strict_json
from studio.common.forms import CountField, LengthField, MassField, NumberField
from studio.common.types import Context, Json, Typed
from studio.designs.kinds.base import DesignForm, DesignKind, Other, Worked
from studio.designs.kinds.words import grams, many, mm
from studio.designs.place import Place
from studio.pieces.reckoned import as_core_layer, core_of

POURED = [
    ("rows", "in rows"),
    ("scattered", "scattered"),
    ("lines", "in lines"),
    ("one", "one"),
    ("placed", "where I tap"),
]
RHYTHMS = [
    ("along", "There and back"),
    ("crossed", "Crossed"),
    ("slanted", "Slanting"),
    ("swirl", "Round and round"),
    ("none", "Only what I draw"),
]
WORDS = {"bold": "Bold:", "fine": "Fine:", "stop": "Overworked:"}
ALIKE = 1.3  # numbers of two flows that marble
LOOKED_AT, SHOWN = 512, 640
MOST_STROKES, MOST_BLOBS = 24, 60
POUR_S, BLOB_S, PASS_S, TOP_S = 20.0, 3.0, 4.0, 60.0  # hands; assumptions
WET_OF_TOUCH = 0.5  # how long toppings still sink in, of when it is dry to the touch; an assumption


class DrawnField(forms.Field):
    """What was drawn on the slab, as shares of it: [[...], ...], so many numbers each and so many at most."""

    widget = forms.HiddenInput

    def __init__(self, numbers: int, most: int, what: str, **kwargs: Any) -> None:
        self.numbers, self.most, self.what = numbers, most, what
        super().__init__(required=False, initial="", **kwargs)

    def to_python(self, value: Any) -> list[list[float]]:
        text = value if isinstance(value, str) else json.dumps(value or [])
        try:
            drawn = [[float(v) for v in one] for one in strict_json(text[:8000] or "[]")]
        except (Unreadable, ValueError, TypeError):
            raise ValidationError(f"These {self.what} cannot be read. Undo them and draw again.") from None
        if len(drawn) > self.most:
            raise ValidationError(f"Draw at most {self.most} {self.what}. The slab is well mixed before that.")
        if any(len(one) != self.numbers or not all(-1 <= v <= 2 for v in one) for one in drawn):
            raise ValidationError(f"One of the {self.what} lies beside the slab. Undo it and draw again.")
        return drawn

    def prepare_value(self, value: Any) -> Any:
        return json.dumps(value) if isinstance(value, list) and value else "" if isinstance(value, list) else value


class TwoColours(DesignForm):
    """A second colour in a ground, and no bag."""

    ground = forms.ChoiceField(label="Ground colour", required=False)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for name in ("line_mm", "hole_mm", "speed_mm_s"):
            del self.fields[name]
        field = self.fields["ground"]
        assert isinstance(field, forms.ChoiceField)
        field.choices = [("", "plain"), *kwargs["colours"]]


class MarblingForm(TwoColours):
    """What is asked about a marbled slab."""

    width_mm = LengthField("slab_mm", label="Slab length", initial=300.0, low=40)
    height_mm = LengthField("slab_mm", label="Slab width", initial=200.0, low=40)
    thickness_mm = LengthField("thickness_mm", label="Thickness", initial=6.0, low=1, high=40)
    share = NumberField(
        "marbled_share", label="Second colour: share of the slab", initial=0.4, help_text="0.5 is half and half."
    )
    poured = forms.ChoiceField(label="Arrangement of blobs", choices=POURED, initial="rows", widget=forms.RadioSelect)
    count = CountField("blobs", label="Number of blobs", initial=9)
    rhythm = forms.ChoiceField(label="Path of the skewer", choices=RHYTHMS, initial="along", widget=forms.RadioSelect)
    passes = CountField("passes", label="Number of passes", initial=3)
    reach_mm = LengthField("reach_mm", label="Width of the drag", initial=9.0, low=1, high=60)
    portions = CountField("count", label="Number of pieces", required=False, high=500)
    seed = CountField("seed", label="Variation", initial=1, low=1, high=9999)
    after = CountField("passes", required=False, initial=24, widget=forms.HiddenInput)
    strokes = DrawnField(4, MOST_STROKES, "passes")
    placed = DrawnField(2, MOST_BLOBS, "blobs")
    second_g = MassField(
        "mass_g",
        label="Amount of the second colour",
        required=False,
        low=1,
        help_text="Leave blank to follow its share.",
    )
    main = ("width_mm", "height_mm", "thickness_mm", "share", "second_g", "poured", "count", "rhythm", "passes")
    more = ("ground", "reach_mm", "portions", "seed")
    pills = ("poured", "rhythm")

    def __init__(self, *args: Any, place: Place, **kwargs: Any) -> None:
        super().__init__(*args, place=place, **kwargs)
        if _ground_of(place):  # it says itself how deep it is and of what
            self.fields["thickness_mm"].widget = self.fields["ground"].widget = forms.HiddenInput()


class MarblingKind(DesignKind):
    """A marbled slab in the studio."""

    name, title, says, techniques, form = (
        "marbling",
        "Marbling",
        "Blobs in a ground, and a skewer through",
        ("marbling",),
        MarblingForm,
    )

    group = "Poured"
    pictured = (
        "width_mm",
        "height_mm",
        "share",
        "poured",
        "count",
        "rhythm",
        "passes",
        "reach_mm",
        "seed",
        "after",
        "strokes",
        "placed",
    )
    after_word = "After so many passes"
    colours = ("ground",)

    def fits(self, place: Place) -> dict[str, float]:
        mm = place.layer.piece.size["mm"] if place.layer else []
        if len(mm) < 2:
            return {}
        return {"width_mm": max(40.0, min(1000.0, mm[0])), "height_mm": max(40.0, min(1000.0, mm[1]))}

    def first(self, place: Place) -> Typed:
        shown = super().first(place)
        layer = place.layer
        if layer is None:
            return shown | {"colour": next(iter(place.first_colours), "")}
        deep = layer.parameters.get("thickness_mm")
        return shown | ({"thickness_mm": deep} if deep else {})

    def _done(self, values: Typed) -> tuple[list[Drop], list[Pass]]:
        wide, high, reach = values["width_mm"], values["height_mm"], values["reach_mm"]
        poured = blobs(
            values["poured"],
            values["share"],
            wide,
            high,
            count=int(values["count"]),
            seed=int(values["seed"]),
            placed=[(x * wide, y * high) for x, y in values.get("placed") or []],
        )
        passes = rhythm(values["rhythm"], int(values["passes"]), wide, high, reach_mm=reach)
        passes += [
            drawn((a * wide, b * high), (c * wide, d * high), reach_mm=reach)
            for a, b, c, d in values.get("strokes") or []
        ]
        return poured, passes

    def surface(self, values: Typed, resolution: int, finer: int = 1) -> Surface:
        """The slab after so many of its passes as are to be shown. Raises CoatingError."""
        poured, passes = self._done(values)
        done = operations(poured, passes, self._shown(values, len(passes)))
        return marbled(
            done, width_mm=values["width_mm"], height_mm=values["height_mm"], resolution=resolution, finer=finer
        )

    @staticmethod
    def _share(values: Typed, ground_g: float | None, whole_g: float) -> float:
        """As asked, or from the grams that were asked: of the whole, or beside a ground that is there. Raises
        OutOfBounds."""
        if not values.get("second_g"):
            return float(values["share"])
        second_g, bound = values["second_g"], BOUNDS["marbled_share"]
        share = second_g / whole_g if ground_g is None else second_g / (ground_g + second_g)
        if not bound.low <= share <= bound.high:
            least, most = (s * whole_g if ground_g is None else s / (1 - s) * ground_g for s in (bound.low, bound.high))
            takes = f"The whole slab takes {grams(whole_g)}" if ground_g is None else f"The ground is {grams(ground_g)}"
            raise OutOfBounds(f"{takes}: between {grams(least)} and {grams(most)} marbles it.", field="second_g")
        return float(share)

    def _whole(self, values: Typed, place: Place) -> tuple[Context, float]:
        """What is asked with its share and its depth, and the g of both; a ground that is a layer of its own says how
        much it is. Raises OutOfBounds."""
        layer, kg_m2 = _ground_of(place), values["width_mm"] * values["height_mm"] * ORDINARY.g_per_mm3
        ground_g = on_one_g(core_of(layer.piece), as_core_layer(layer)) if layer else None
        whole_g = kg_m2 * values["thickness_mm"]
        share = self._share(values, ground_g, whole_g)
        if layer is not None and ground_g is not None:
            whole_g = ground_g / (1 - share)
            values = {**values, "ground": layer.tone.key, "thickness_mm": whole_g / kg_m2}
        return {**values, "share": share}, whole_g

    @staticmethod
    def _shown(values: Typed, most: int) -> int:
        shown = values.get("after")
        return most if shown is None else min(most, int(shown))

    def work(self, values: Typed, place: Place) -> Worked:
        wide, high = values["width_mm"], values["height_mm"]
        values, whole_g = self._whole(values, place)
        poured, passes = self._done(values)
        judgement = verdict(self.surface(values, LOOKED_AT))
        second_g = whole_g * values["share"] if poured else 0.0
        sheet = sheet_of(
            Drawing(()),
            "Where to pour, where to draw",
            line_mm=1.0,
            width_mm=wide,
            height_mm=high,
            guides=[
                [(0.0, 0.0), (wide, 0.0), (wide, high), (0.0, high), (0.0, 0.0)],
                *[ellipse((d.x_mm, d.y_mm), 2 * d.radius_mm, 2 * d.radius_mm) for d in poured],
                *[_arrow(p) for p in passes],
            ],
            says=[f"{len(passes)} passes", "each begins at its ring"],
        )
        portions = values.get("portions")
        steps = self._steps(values, place, passes, poured, (whole_g - second_g, second_g), portions)
        apart = bool(_ground_of(place))  # the ground is a layer of its own
        others = [] if apart else self.others_of(place, Other(str(values.get("ground") or ""), whole_g - second_g))
        worked = Worked(
            place,
            window("marbling"),
            [sheet],
            1.0,
            second_g if apart else whole_g,
            hands_s(steps),
            0.0,
            len(passes),
            None,
            steps=steps,
            others=others,
        )
        shown = self._shown(values, len(passes))
        scale = SHOWN / max(wide, high)
        worked.context = {
            "word": judgement.word,
            "empty": not poured,
            "word_says": WORDS[judgement.word],
            "bold": judgement.bold_share,
            "light": judgement.light_share,
            "ground_g": whole_g - second_g,
            "second_g": second_g,
            "passes_told": len(passes),
            "all_passes": len(passes),
            "stop_says": _stop_says(judgement.word, len(passes)),
            "passes_shown": shown,
            "flows": self._flows(place),
            "query": query_of(self, values, place),
            "ground_lab": place.lab_of(values.get("ground")),
            "image_wide": round(wide * scale),
            "image_high": round(high * scale),
            "extra_numbers": [
                (f"{judgement.light_share * 100:.0f} %", "is the second colour"),
                (f"{judgement.bold_share * 100:.0f} %", "of that lies broad"),
            ],
        }
        return worked

    @staticmethod
    def _steps(
        values: Typed,
        place: Place,
        passes: list[Pass],
        poured: list[Drop],
        masses: tuple[float, float],
        portions: Any,
    ) -> list[Step]:
        """Poured, drawn and left alone; each of them while it is wet."""
        sets = set_time("slab", values["thickness_mm"], "room", room_c=place.kitchen.room_c, white=place.white)
        wet = WET_OF_TOUCH * sets.touch_min
        ground_g, second_g = masses
        steps = []
        if not _ground_of(place):
            steps.append(
                Step(
                    f"Pour the ground {mm(values['thickness_mm'])} deep: {grams(ground_g)}. Tap it level.",
                    POUR_S,
                    of=str(values.get("ground") or ""),
                )
            )
        if poured:
            each = f"{many(len(poured), 'blob')} of about {mm(2 * poured[0].radius_mm)} across"
            steps.append(Step(f"Pour {each}: {grams(second_g)} together.", BLOB_S * len(poured), WET, 0.0, wet))
        steps += [
            Step(f"A skewer through, {_said(p)}.", PASS_S, WET, 0.0, wet, warm=False, from_age=KNIFE_AGE)
            for p in passes
        ]
        steps.append(Step("Toppings now, glitter last.", TOP_S, WET, 0.0, wet, warm=False, looks=SHINES))
        if portions:
            each = grams((ground_g + second_g) / portions)
            steps.append(Step(f"Break it into {portions}: about {each} each.", 4.0 * portions, SET, sets.release_min))
        return steps

    @staticmethod
    def _flows(place: Place) -> str:
        """Whether the two bowls flow alike, where both stand there."""
        ground = _ground_of(place)
        if place.desk is None or ground is None:
            return ""
        other = Place.of(place.kitchen, ground)
        if other.desk is None:
            return ""
        try:
            one, two = (number_from_flow(p.flow("marbling")) for p in (place, other))
        except CoatingError:
            return "One of the two does not flow: warm it first."
        if max(one, two) / min(one, two) <= ALIKE:
            return ""
        thick = place if one > two else other
        return f"{thick.called} is the stiffer by far: thin it till both fall alike, or they will not draw out."


def _ground_of(place: Place) -> Any:
    """The layer that is its ground, where one was poured for it."""
    layer = place.layer
    return next((la for la in layer.piece.stack if la.technique == "pour"), None) if layer else None


def query_of(kind: Any, values: Typed, place: Place) -> str:
    """What a picture is asked for with: only numbers, and both colours."""
    labs = {"g": place.lab_of(values.get("ground")), "l": place.lab}
    query: Json = {"kind": kind.name}
    for name in kind.pictured:
        value = values.get(name)
        if value not in (None, []):
            query[name] = json.dumps(value) if isinstance(value, list) else value
    return urlencode({**query, **{key: ",".join(f"{v:.1f}" for v in lab) for key, lab in labs.items()}})


def _said(done: Pass) -> str:
    where = "" if done.at_mm is None else f", {mm(done.at_mm)} {done.edge}"
    return done.way + where + ("" if done.long_mm is None else f", {mm(done.long_mm)} long")


def _arrow(done: Pass) -> Sequence[tuple[float, float]]:
    """A pass with a ring at its beginning."""
    ring = ellipse(done.begin, 5.0, 5.0, points=12)
    return [*[(float(x), float(y)) for x, y in ring], (float(ring[0][0]), float(ring[0][1])), done.begin, done.end]


def painted(surface: Surface, labs: Sequence[Any], finer: int) -> np.ndarray[Any, np.dtype[np.uint8]]:
    """Colours of the dots as sRGB with the soft relief of what was poured, made smaller by `finer`."""
    from scipy.ndimage import gaussian_filter

    from coating.colour.cie import srgb_from_lab

    shades = np.array([np.clip(srgb_from_lab(lab)[0], 0, 1) for lab in labs])
    dots = shades[surface.colours]
    high, wide = (side // finer * finer for side in surface.colours.shape)
    small = dots[:high, :wide].reshape(high // finer, finer, wide // finer, finer, 3).mean(axis=(1, 3))
    mask = surface.colours[:high, :wide].reshape(high // finer, finer, wide // finer, finer).mean(axis=(1, 3))
    slope = gaussian_filter(mask, 1.6)
    light = 1 + 0.16 * (np.gradient(slope, axis=0) + np.gradient(slope, axis=1))
    return np.round(255 * np.clip(small * light[..., None], 0, 1)).astype(np.uint8)


def _stop_says(word: str, passes: int) -> str:
    """Whether to go on; past its best, what to do next time."""
    if word == "stop":
        return f"It is past its best: {'fewer passes' if passes > 2 else 'larger blobs'}."
    return "One pass more would be too much." if word == "fine" else "Stop while it looks too plain."
