"""Painted details: ground and layers in order, coats until they hide, what dries in between, and the true look of
it."""

from __future__ import annotations

import math
from typing import Any

from django import forms

from coating.colour.hiding import COAT_MM
from coating.colour.mixing import WHITE, Part
from coating.colour.painted import DUST_COVERS, LEAF_COVERS, PaintLayer, painted, shaded
from coating.colour.recipe import find_recipe
from coating.colour.upsampling import reflectance_from_lab
from coating.figures.sheet import sheet_of
from coating.piece.extras import NON_TOXIC, UNSAID
from coating.plan.proposal import plain_base
from coating.shape.curves import ellipse
from coating.shape.strokes import Drawing
from coating.steps import HALF_SET, SET, Step, hands_s
from studio.common.forms import CountField, LengthField, NumberField, ShareField
from studio.common.types import Json, Typed
from studio.cupboard.adapters import core_ingredient
from studio.cupboard.models import Extra
from studio.cupboard.stock import Stock
from studio.designs.kinds.base import DesignForm, DesignKind, Other, Worked
from studio.designs.kinds.words import grams
from studio.designs.place import Place

ROWS, PAINT_G, PAINT_KG_M3 = 4, 100.0, 950.0
TOOLS = [("brush", "brushed"), ("spray", "sprayed"), ("dust", "dusted"), ("leaf", "leaf")]
PLACES = [
    ("all", "all over"),
    ("edge", "the edge"),
    ("middle", "the middle"),
    ("spots", "spots"),
    ("eyes", "two eyes"),
    ("cheeks", "cheeks"),
    ("rays", "rays"),
    ("number", "a number"),
]
SHARES = {
    "all": 1.0,
    "edge": 0.44,
    "middle": 0.25,
    "spots": 0.14,
    "eyes": 0.05,
    "cheeks": 0.09,
    "rays": 0.2,
    "number": 0.08,
}
WAYS = [("front", "on the piece"), ("behind", "into a mould or on film")]
HALF_DRY_MIN, DRY_MIN = 2.0, 8.0  # of a thin coat of cocoa butter; common practice, no source
BRUSH_MM2_S, DUST_S = 40.0, 6.0  # assumptions
SPRAY_MM = 0.04


class PaintForm(DesignForm):
    """What is asked about painted pieces."""

    ground = forms.ChoiceField(label="Colour painted on", required=False)
    way = forms.ChoiceField(label="Painted side", choices=WAYS, initial="front", widget=forms.RadioSelect)
    across_mm = LengthField("core_mm", label="Piece diameter", initial=60.0, low=8, high=300)
    count = CountField("count", label="How many", initial=8, high=1000)
    parts = CountField("paint_parts", label="Pieces in a shaded row", initial=1, help_text="1 paints them all alike.")
    dries_min = NumberField("paint_dry_min", label="Minutes between coats", initial=DRY_MIN)
    white_share = ShareField(
        "reflectance", label="White in 100 parts of paint", low=0, high=0.3, initial=0.05, required=False
    )
    dust = forms.ChoiceField(label="Dust or leaf", required=False)
    main = ("ground", "way", "across_mm", "count")
    more = ("parts", "dries_min", "white_share", "dust")
    pills = ("way",)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for name in ("line_mm", "hole_mm", "speed_mm_s", "colour", "white"):
            self.fields.pop(name, None)
        for name, none in (("ground", "plain white"), *((f"paint{i}", "nothing") for i in range(ROWS))):
            field = self.fields[name]
            assert isinstance(field, forms.ChoiceField)
            field.choices = [("", none), *kwargs["colours"]]
        dusts = Extra.objects.for_kitchen(self.place.kitchen).filter(kind__in=("dust", "leaf"))
        self.dusts = {str(e.pk): e for e in dusts}
        field = self.fields["dust"]
        assert isinstance(field, forms.ChoiceField)
        field.choices = [("", "none"), *((pk, e.name) for pk, e in self.dusts.items())]

    def clean_dust(self) -> str:
        """A dust that may be eaten."""
        row = self.dusts.get(self.cleaned_data.get("dust") or "")
        if row is not None and row.edible == NON_TOXIC:
            raise forms.ValidationError(
                f"{row.name} only says non-toxic: that is not edible. Take one that is sold as food, or leave it off."
            )
        return str(row.pk) if row else ""

    def clean(self) -> Typed:
        data = super().clean() or {}
        if not self.errors and not any(data.get(f"paint{i}") for i in range(ROWS)):
            self.add_error("paint0", "Choose a first colour.")
        return data

    @property
    def layers(self) -> list[tuple[Any, Any, Any, Any]]:
        """Paint, how, where and coats of each row."""
        return [(self[f"paint{i}"], self[f"tool{i}"], self[f"where{i}"], self[f"coats{i}"]) for i in range(ROWS)]


for _i in range(ROWS):
    PaintForm.base_fields[f"paint{_i}"] = forms.ChoiceField(label="Paint colour", required=False)
    PaintForm.base_fields[f"tool{_i}"] = forms.ChoiceField(
        label="Way of painting", choices=TOOLS, initial="brush", required=False
    )
    PaintForm.base_fields[f"where{_i}"] = forms.ChoiceField(
        label="Painted area", choices=PLACES, initial=("all", "edge", "spots", "middle")[_i], required=False
    )
    PaintForm.base_fields[f"coats{_i}"] = CountField("paint_coats_most", label="Number of coats", required=False, low=0)
    PaintForm.base_fields[f"coats{_i}"].widget.attrs["placeholder"] = "coats"


class PaintKind(DesignKind):
    """Painted pieces in the studio."""

    name, title, says, techniques, form = (
        "paint",
        "Painted details",
        "Layers as they will look, coats, drying",
        ("paint",),
        PaintForm,
    )
    group = "Made"
    steps_more = "designs/parts/paint_more.html"
    colours = ("ground", *(f"paint{i}" for i in range(ROWS)))

    def suits(self, place: Place) -> bool:
        return True

    def fits(self, place: Place) -> dict[str, float]:
        return {"across_mm": max(8.0, min(300.0, place.layer.piece.size["mm"][0]))} if place.layer else {}

    def first(self, place: Place) -> Typed:
        shown = super().first(place)
        known = place.first_colours[:2]
        own = place.tone.key or next(iter(known), "")
        shown |= {f"paint{i}": "" for i in range(ROWS)} | {"paint0": own}
        if place.layer is None:
            return shown | ({"paint1": known[1]} if len(known) > 1 else {})
        below = next(
            (
                la
                for la in place.layer.piece.stack
                if la.technique != "paint" and la.tone.key and la.pk != place.layer.pk
            ),
            None,
        )
        return shown | {"count": place.wanted, "ground": below.tone.key if below else ""}

    @staticmethod
    def _paint(stock: Stock, place: Place, key: str, white_share: float) -> tuple[Part, ...]:
        """100 g of what it is painted with: its recipe, and white colour for cover."""
        cupboard = stock.cupboard("coating", place.kitchen)
        bases = plain_base(cupboard, "coating")
        tone = place.tone_of(key)
        if tone.base:
            parts: tuple[Part, ...] = (Part(core_ingredient(tone.base), PAINT_G),)
        else:
            parts = find_recipe(place.lab_of(key), bases, cupboard.colourants, PAINT_G).parts
        white = next((c for c in stock.cores.values() if c.kind == WHITE), None)
        if white is None or not white_share:
            return tuple(parts)
        kept = tuple(Part(p.ingredient, p.mass_g * (1 - white_share)) for p in parts)
        return (*kept, Part(white, PAINT_G * white_share))

    def work(self, values: Typed, place: Place) -> Worked:
        stock, count, behind = Stock.of(place.kitchen), int(values["count"]), values["way"] == "behind"
        coat_fields = [
            (
                values[f"paint{i}"],
                values.get(f"tool{i}") or "brush",
                values.get(f"where{i}") or "all",
                values.get(f"coats{i}"),
            )
            for i in range(ROWS)
            if values.get(f"paint{i}")
        ]
        white = float(values.get("white_share") or 0.0)
        paints = [self._paint(stock, place, pk, white) for pk, *_ in coat_fields]
        covers = {"dust": DUST_COVERS, "leaf": LEAF_COVERS}
        stack = [
            PaintLayer(paint, 1 if tool in covers else coats, covers.get(tool, 1.0))
            for paint, (_, tool, _, coats) in zip(paints, coat_fields, strict=True)
        ]
        ground_lab = place.lab_of(values.get("ground"))
        ground = reflectance_from_lab(ground_lab)
        seen = painted(ground, stack, from_behind=behind)
        area = math.pi / 4 * values["across_mm"] ** 2
        rows = []
        for (pk, tool, where, _), one in zip(coat_fields, seen, strict=True):
            thick = SPRAY_MM if tool == "spray" else COAT_MM if tool == "brush" else 0.0
            mass_g = area * SHARES[where] * one.coats * thick * PAINT_KG_M3 * 1e-6
            rows.append(
                {
                    "of": pk,
                    "name": place.name_of(pk) or "plain",
                    "tool": tool,
                    "where": where,
                    "one": one,
                    "mass_g": mass_g * count,
                    "lab": one.lab,
                }
            )
        shades = shaded(paints[0], ground, int(values["parts"])) if int(values["parts"]) > 1 else []
        dust = (
            next((e for e in Extra.objects.for_kitchen(place.kitchen).filter(pk=values["dust"])), None)
            if values.get("dust")
            else None
        )
        steps = self._steps(values, rows, area, count, dust)
        ring = [
            (float(x), float(y)) for x, y in ellipse((0.0, 0.0), values["across_mm"], values["across_mm"], points=72)
        ]
        sheet = sheet_of(Drawing(()), "A piece, to try it out", line_mm=1.0, guides=[[*ring, ring[0]]])
        goes_on_g = sum(r["mass_g"] for r in rows)
        worked = Worked(
            place,
            self.window_of("flood"),
            [sheet],
            1.0,
            goes_on_g,
            hands_s(steps),
            0.0,
            0,
            None,
            pieces=count,
            steps=steps,
            also=[dust.pk] if dust else [],
            others=self.others_of(place, *(Other(r["of"], r["mass_g"]) for r in rows)),
        )
        self._warn(worked, values, rows, dust)
        worked.context = {
            "rows": rows,
            "drawn": rows[::-1] if behind else rows,
            "ground_lab": ground_lab,
            "shades": shades,
            "count": count,
            "behind": behind,
            "dust": dust,
            "coats": sum(r["one"].coats for r in rows if r["tool"] in ("brush", "spray")),
            "dries_min": values["dries_min"],
            "extra_numbers": [(grams(r["mass_g"]), f"of {r['name'].lower()}") for r in rows if r["mass_g"]],
        }
        return worked

    @staticmethod
    def _warn(worked: Worked, values: Typed, rows: list[Json], dust: Extra | None) -> None:
        coats = max((r["one"].coats for r in rows), default=0)
        if values["dries_min"] < HALF_DRY_MIN and coats > 1:
            worked.warnings.append(
                f"{coats} coats with hardly any drying in between lift each other off: give each "
                f"{HALF_DRY_MIN:.0f} min at least."
            )
        for r in rows:
            enough = r["one"].enough
            if r["tool"] == "brush" and (enough is None or enough > r["one"].coats):
                more = f"{enough} coats hide" if enough else "it never hides"
                worked.warnings.append(
                    f"{r['name']} lets the ground through: {more}. A little white colour in it covers sooner."
                )
            if r["tool"] == "spray":
                worked.warnings.append("Never breathe spray: the window open, a box behind it.")
        if dust is not None and dust.edible == UNSAID:
            worked.warnings.append(f"Look at the pack of {dust.name}: it has to say edible and list what is in it.")

    @staticmethod
    def _steps(values: Typed, rows: list[Json], area: float, count: int, dust: Extra | None) -> list[Step]:
        wait = float(values["dries_min"])
        hows = {"brush": "Brush", "spray": "Spray", "dust": "Dust", "leaf": "Lay leaf of"}
        places = dict(PLACES)
        steps = []
        for i, r in enumerate(rows):
            coats = r["one"].coats
            each = area * SHARES[r["where"]] / BRUSH_MM2_S if r["tool"] == "brush" else DUST_S
            over = f", {coats} thin coats, {wait:.0f} min between" if coats > 1 else ""
            dry = "" if r["tool"] in ("brush", "spray") else ", dry, on what has set"
            steps.append(
                Step(
                    f"{hows[r['tool']]} {r['name'].lower()}: {places[r['where']]}{over}{dry}. Barely load the brush.",
                    each * max(1, coats) * count,
                    SET if i else "",
                    wait if i else 0.0,
                    of=r["of"] if r["mass_g"] else None,
                    warm=None if r["mass_g"] else False,
                )
            )
        if dust is not None:
            steps.append(
                Step(f"Last of all {dust.name.lower()}, with a dry soft brush; never blow.", DUST_S * count, SET, wait)
            )
        if values["way"] == "behind":
            steps.append(
                Step("Then the coating over it: what was painted first is seen in front.", 5.0 * count, SET, wait)
            )
        else:
            steps.append(Step("Leave it to dry before it is packed.", 0.0, HALF_SET, wait))
        return steps
