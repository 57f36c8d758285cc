"""Lines over pieces: drizzle over a row, stripes, borders, dots, guides."""

from __future__ import annotations

from collections.abc import Sequence

from django import forms

from coating.figures.sheet import sheet_of
from coating.shape.bag import BAG_HOLDS_G
from coating.shape.face_lines import FACE_PATTERNS, Face, face_lines
from studio.common.forms import CountField, LengthField
from studio.common.types import Typed
from studio.designs.kinds.base import DesignForm, DesignKind, Worked
from studio.designs.place import Place
from studio.designs.tiles import Tile, face_tiles

OUTLINES = [("round", "round"), ("oblong", "oblong"), ("ball", "a ball or dome")]
DIPPED = [
    ("1.0", "all over"),
    ("0.9", "nearly all over"),
    ("0.667", "two thirds"),
    ("0.5", "half"),
    ("0.333", "a third"),
]
TOOLS = [("bag", "a bag"), ("spoon", "a spoon")]
SPOON_MM = 3.0  # what falls off a spoon settles no narrower; common practice, no source
BELOW = ("0.9", "0.667", "0.5", "0.333")  # dipped as far: it has a dip line
ALL_OVER = 15  # so many dots are not an edge any more
BALLS = ("ball", "berry", "marshmallow", "sweet")


class FaceForm(DesignForm):
    """What is asked about lines over a face."""

    pattern = forms.ChoiceField(
        label="Pattern", choices=[(p.name, p.title) for p in FACE_PATTERNS.values()], initial="zigzag"
    )
    outline = forms.ChoiceField(
        label="Outline of the piece", choices=OUTLINES, initial="round", widget=forms.RadioSelect
    )
    width_mm = LengthField("core_mm", label="Width", initial=60.0, low=8)
    height_mm = LengthField("core_mm", label="Height", initial=60.0, low=8)
    dipped = forms.ChoiceField(label="Depth of the dip", choices=DIPPED, initial="1.0", widget=forms.RadioSelect)
    spacing_mm = LengthField("pitch_mm", label="Spacing between lines", required=False, low=2)
    row = CountField("count", label="Pieces in a row", initial=4, high=24)
    count = CountField("count", label="Number of pieces", initial=24)
    tool = forms.ChoiceField(label="Piped from", choices=TOOLS, initial="bag", widget=forms.RadioSelect)
    apart_mm = LengthField("shred_mm", label="Gap between pieces", initial=15.0)
    main = ("outline", "width_mm", "height_mm", "dipped", "tool", "line_mm")
    more = ("spacing_mm", "row", "count", "apart_mm", "hole_mm", "speed_mm_s")
    pills = ("outline", "dipped", "tool")


class FaceKind(DesignKind):
    """Lines over a face in the studio."""

    name, title, says, techniques, form = (
        "face",
        "Lines over pieces",
        "Drizzle, stripes, borders and dots",
        ("drizzle", "dots", "lines"),
        FaceForm,
    )
    steps_template = "designs/parts/face_steps.html"
    pick = "pattern"

    def tiles(self) -> Sequence[Tile]:
        return face_tiles()

    def suits(self, place: Place) -> bool:
        return place.layer is not None and place.layer.piece.core != "shape"

    def fits(self, place: Place) -> dict[str, float]:
        if place.layer is None:
            return {}
        mm = place.layer.piece.size["mm"]
        return {"width_mm": mm[0], "height_mm": mm[1] if len(mm) > 2 else mm[0]}

    def first(self, place: Place) -> Typed:
        shown = {**super().first(place), "speed_mm_s": 60.0}
        layer = place.layer
        if layer is None:
            return shown
        mm, piece = layer.piece.size["mm"], layer.piece
        dip = next((la for la in piece.stack if la.technique in ("dip", "angled_dip")), None)
        share = str(float((dip.parameters if dip else {}).get("share", 1.0)))
        outline = "ball" if piece.core in BALLS else "oblong" if len(mm) > 2 else "round"
        many = int(layer.parameters.get("count", 1)) >= ALL_OVER
        dots = "dip_border" if share in BELOW else "all_over" if many else "dots"
        pattern = dots if layer.technique == "dots" else "zigzag" if layer.technique == "drizzle" else "stripes"
        return shown | {
            "outline": outline,
            "count": place.made,
            "dipped": share if share in dict(DIPPED) else "1.0",
            "pattern": pattern,
        }

    def work(self, values: Typed, place: Place) -> Worked:
        over = FACE_PATTERNS[values["pattern"]].over
        technique = "drizzle" if over else "lettering"
        spoon = values["tool"] == "spoon"
        line_mm = max(SPOON_MM, values["line_mm"]) if spoon else self.line_of(values, place, technique)
        round_ = values["outline"] != "oblong"
        high = values["width_mm"] if round_ else values["height_mm"]
        lineless = values["pattern"] == "dip_border" and float(values["dipped"]) >= 1
        dipped = 0.5 if lineless else float(values["dipped"])
        face = Face(values["width_mm"], high, round_=round_, ball=values["outline"] == "ball", dipped=dipped)
        count, row = int(values["count"]), min(int(values["row"]), int(values["count"]))
        speed = values["speed_mm_s"] if over else min(values["speed_mm_s"], 20.0)
        lines = face_lines(
            values["pattern"],
            face,
            line_mm=line_mm,
            spacing_mm=values.get("spacing_mm"),
            pieces=row,
            apart_mm=values["apart_mm"],
            speed_mm_s=speed,
        )
        rows = -(-count // row)
        goes_on_g, leaves_g = lines.one_g() * count, lines.row_g() * count / row
        bag = self.bag_of(place, technique, line_mm, leaves_g, speed)
        edges = [[(x + at, y) for x, y in face.outline.exterior.coords] for at in lines.places]
        sheet = sheet_of(
            lines.row,
            lines.pattern.title,
            line_mm=line_mm,
            guides=edges,
            says=[f"{row} in a row", f"{lines.row_s:.0f} s a row"],
        )
        worked = Worked(
            place,
            self.window_of(technique),
            [sheet],
            line_mm,
            goes_on_g,
            lines.row_s * rows,
            lines.length_mm * count,
            lines.row.strokes * rows,
            bag,
            pieces=count,
        )
        fields = [
            [(x + at, y) for x, y in part.exterior.coords]
            for at in lines.places
            for part in getattr(face.field, "geoms", [face.field])
        ]
        drawn = sheet_of(lines.row, "", line_mm=line_mm, guides=[*edges, *fields])
        worked.context = {
            "lines": lines,
            "sheet": drawn,
            "pieces": drawn.guides[: len(edges)],
            "coats": drawn.guides[len(edges) :],
            "count": count,
            "row": row,
            "rows": rows,
            "one_g": lines.one_g(),
            "leaves_g": leaves_g,
            "a_bag": max(1, int(BAG_HOLDS_G / (leaves_g / count))) if leaves_g else count,
            "then": lines.pattern.then,
            "spoon": spoon,
        }
        if lineless:
            worked.warnings.append("Dipped all over it has no dip line: this is drawn for one that is half dipped.")
        if spoon and not over:
            worked.warnings.append("That wants a bag: a spoon draws no such lines.")
        return worked
