"""Lettering: in a line, round an edge, on a plaque; to lift off or straight on the piece."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

import numpy as np
from django import forms

from coating.figures.sheet import sheet_of
from coating.heat.times import first_place, sets_where
from coating.shape.curves import ellipse
from coating.shape.fitting import FittedWords, in_line, on_arc, on_plaque
from coating.shape.lace.holds import beads, parts_of
from coating.shape.legible import legible
from coating.shape.lettering import FACES, LIFT_S
from coating.shape.order import piping_s
from coating.shape.strokes import BEAD_HEIGHT
from coating.steps import SET, Step
from studio.common.forms import LengthField, WordsField
from studio.common.types import Typed
from studio.designs.kinds.base import DesignForm, DesignKind, Worked
from studio.designs.one import of_sheet
from studio.designs.place import Place
from studio.designs.tiles import Tile, letter_tiles

LAY_S = 60.0  # to lift words and set them on
WHERE = [
    ("line", "In a line"),
    ("above", "Round, above"),
    ("below", "Round, below"),
    ("round", "On a round plaque"),
    ("oblong", "On an oblong plaque"),
]


class LetteringForm(DesignForm):
    """What is asked about lettering."""

    text = WordsField(
        lines=True, label="Words", initial="Clear skies", max_length=200, widget=forms.Textarea(attrs={"rows": 2})
    )
    face = forms.ChoiceField(
        label="Lettering style", choices=[(f.name, f.title) for f in FACES.values()], initial="cursive"
    )
    where = forms.ChoiceField(label="Where it goes", choices=WHERE, initial="line", widget=forms.RadioSelect)
    width_mm = LengthField("page_mm", label="Width of the space", initial=150.0, low=15, high=1000)
    height_mm = LengthField("page_mm", label="Height of the space", initial=60.0, low=10, high=1000)
    cap_mm = LengthField(
        "cap_mm", label="Capital height", required=False, help_text="Leave blank to make them as large as fits."
    )
    lifted = forms.ChoiceField(
        label="Kind of lettering",
        choices=[("", "piped where it stays"), ("yes", "lifted off")],
        required=False,
        widget=forms.RadioSelect,
    )
    order = forms.ChoiceField(
        label="Preview",
        choices=[("", "how it looks"), ("yes", "the order of strokes")],
        required=False,
        widget=forms.RadioSelect,
    )
    main = ("text", "where", "width_mm", "height_mm", "line_mm")
    more = ("cap_mm", "lifted", "order", "hole_mm", "speed_mm_s")
    pills = ("where", "lifted", "order")


class LetteringKind(DesignKind):
    """Lettering in the studio."""

    name, title, says, techniques, form = (
        "lettering",
        "Lettering",
        "Words in one stroke, as large as fits",
        ("lettering",),
        LetteringForm,
    )
    steps_template = "designs/parts/lettering_steps.html"
    pick, pick_word = "face", "Letters"

    def tiles(self) -> Sequence[Tile]:
        return letter_tiles()

    def fits(self, place: Place) -> dict[str, float]:
        return {"width_mm": min(400.0, max(20.0, *place.layer.piece.size["mm"][:2]))} if place.layer else {}

    def first(self, place: Place) -> Typed:
        shown = {**super().first(place), "speed_mm_s": 15.0}
        core = place.core
        if core is None or place.layer is None:
            return shown
        round_ = place.layer.piece.core in ("round_biscuit", "cake_tier")
        return shown | {"where": "round" if round_ else "line"}

    def _fitted(self, values: Typed) -> FittedWords:
        text, face, where, cap = values["text"], values["face"], values["where"], values.get("cap_mm")
        if where in ("above", "below"):
            return on_arc(text, face=face, diameter_mm=values["width_mm"], below=where == "below", cap_mm=cap)
        if where == "line":
            return in_line(text, face=face, width_mm=values["width_mm"], cap_mm=cap)
        high = None if where == "round" else values["height_mm"]
        return on_plaque(text, face=face, width_mm=values["width_mm"], height_mm=high, most_cap_mm=cap or 60.0)

    @staticmethod
    def _lifted(place: Place, line_mm: float, seconds: float) -> list[Step]:
        """On film, and lifted when it is hard."""
        sets = sets_where("line", line_mm * BEAD_HEIGHT, room_c=place.kitchen.room_c, white=place.white)
        where = first_place(sets, "fridge")
        hard = sets[where].release_min
        return [
            Step("Pipe the words on film.", seconds),
            Step("Lift them off the edge of a board and set them on.", LAY_S, SET, hard, None, where),
        ]

    def work(self, values: Typed, place: Place) -> Worked:
        line_mm = self.line_of(values, place, "lettering")
        fitted = self._fitted(values)
        drawing, speed = fitted.drawing, values["speed_mm_s"]
        open_ = legible(values["text"], face=values["face"], cap_mm=fitted.cap_mm, line_mm=line_mm)
        goes_on_g = drawing.mass_g(line_mm)
        seconds = piping_s(drawing, speed, LIFT_S)
        bag = self.bag_of(place, "lettering", line_mm, goes_on_g, speed)
        guides = self._edge(values)
        sheet = sheet_of(
            drawing,
            " / ".join(fitted.rows)[:60],
            line_mm=line_mm,
            guides=guides,
            says=[f"capitals {fitted.cap_mm:.0f} mm", f"{seconds:.0f} s to pipe"],
        )
        steps = self._lifted(place, line_mm, seconds) if values.get("lifted") else []
        worked = Worked(
            place,
            self.window_of("lettering"),
            [sheet],
            line_mm,
            goes_on_g,
            seconds,
            drawing.length_mm,
            drawing.strokes,
            bag,
            steps=steps,
            one=of_sheet(sheet_of(drawing, "", line_mm=line_mm)),
        )
        pieces = len(parts_of(beads(drawing, line_mm, quad_segs=4))) if values.get("lifted") else 1
        worked.context = {
            "fitted": fitted,
            "open": open_,
            "sheet": sheet,
            "pieces": pieces,
            "lifted": values.get("lifted"),
            "numbered": bool(values.get("order")),
            "mark_mm": max(1.15 * line_mm, sheet.width_mm / 75),
            "smallest": open_.smallest_cap_mm,
            "text": values["text"],
            "marked": [(c, c in open_.blocked) for c in values["text"]] if open_.blocked else [],
        }
        if fitted.undrawable:
            worked.warnings.append(f"These cannot be drawn in these letters: {' '.join(fitted.undrawable)}")
        if pieces > 1:
            worked.warnings.append(
                f"Lifted, it falls into {pieces} pieces: join the letters with a line, or use the joined letters."
            )
        return worked

    @staticmethod
    def _edge(values: Typed) -> list[Any]:
        wide, high = values["width_mm"], values["height_mm"]
        if values["where"] in ("above", "below", "round"):
            return [ellipse((0.0, 0.0), wide, wide, points=96)]
        if values["where"] == "oblong":
            x, y = wide / 2, high / 2
            return [np.array([(-x, -y), (x, -y), (x, y), (-x, y), (-x, -y)])]
        return [np.array([(0.0, 0.0), (wide, 0.0)])] if math.isfinite(wide) else []
