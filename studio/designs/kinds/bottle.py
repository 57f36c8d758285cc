"""A squeeze bottle filled in layers: what each cavity shows in order, and how to make them more even."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from django import forms

from coating.figures.sheet import sheet_of
from coating.flow.additions.fat import density_kg_m3
from coating.flow.windows import window
from coating.shape.bottle import BottleLayer, dispensed, evenness, plain_until
from coating.shape.curves import ellipse
from coating.shape.strokes import Drawing
from studio.common.forms import CountField, NumberField
from studio.designs.kinds.base import DesignForm, Kind, Worked
from studio.designs.place import Place

ROWS = 8
FIRST_ML = (30.0, 20.0, 30.0, 20.0)
UNEVEN, FEW_LAYERS = 0.5, 6
LIFE_MIN = 10.0  # until a bottle of it wants warming; common practice, no source
_HIGH, _WIDE = 210.0, 84.0  # of the picture of the bottle


class BottleForm(DesignForm):
    cavities = CountField("cavities", label="Cavities", initial=12, high=60)
    each_ml = NumberField("layer_ml", label="One holds, ml", initial=8.0)
    main = ("cavities", "each_ml")
    more = ()

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for name in ("line_mm", "hole_mm", "speed_mm_s", "colour"):
            self.fields.pop(name, None)
        for i in range(ROWS):
            colour = self.fields[f"colour{i}"]
            assert isinstance(colour, forms.ChoiceField)
            colour.choices = [("", "plain"), *kwargs["colours"]]

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        if not self.errors and not any(data.get(f"ml{i}") for i in range(ROWS)):
            self.add_error("ml0", "Pour at least one layer.")
        return data

    @property
    def rows(self) -> list[tuple[Any, Any]]:
        """How much and of which colour, from the nozzle up as it is squeezed."""
        return [(self[f"ml{i}"], self[f"colour{i}"]) for i in range(ROWS)]


for _i in range(ROWS):
    BottleForm.base_fields[f"ml{_i}"] = NumberField(
        "layer_ml", label="ml", required=False, initial=FIRST_ML[_i] if _i < len(FIRST_ML) else None
    )
    BottleForm.base_fields[f"colour{_i}"] = forms.ChoiceField(label="of", required=False)


@dataclass(frozen=True)
class Band:
    """A layer in the picture of the bottle, or a disc in that of a cavity: its shade, where it begins, how much."""

    lab: Any
    at: float
    much: float


class BottleKind(Kind):
    name, title, says, form = "bottle", "Layered bottle", "Layers squeezed out one into the other", BottleForm

    def first(self, place: Place) -> dict[str, Any]:
        known = [str(pk) for (pk,) in place.colours.values_list("pk")[:1]]
        return super().first(place) | {f"colour{i}": known[0] if known and i % 2 else "" for i in range(ROWS)}

    def work(self, asked: dict[str, Any], place: Place) -> Worked:
        told = [(asked[f"ml{i}"], str(asked.get(f"colour{i}") or "")) for i in range(ROWS) if asked.get(f"ml{i}")]
        layers = [BottleLayer(colour, ml) for ml, colour in told]
        total_ml, wanted_ml = sum(ml for ml, _ in told), asked["cavities"] * asked["each_ml"]
        fill = min(int(asked["cavities"]), max(1, math.floor(total_ml / asked["each_ml"] + 1e-9)))
        shares = dispensed(layers, max(1, round(total_ml / asked["each_ml"])))[:fill]
        labs = {colour: place.lab_of(colour) for _, colour in told}
        names = dict(place.colours.values_list("pk", "name"))
        called = {colour: names.get(int(colour), "plain") if colour else "plain" for colour in labs}
        grams = {called[c]: sum(ml for ml, of in told if of == c) * density_kg_m3(0.32) / 1000 for c in labs}
        apart = max((evenness(shares, colour) for colour in labs), default=0.0)
        rings = [ellipse((14 + 28 * (i % 6), 14 + 28 * (i // 6)), 24, 24) for i in range(int(asked["cavities"]))]
        sheet = sheet_of(Drawing(()), "Cavities, in the order they are filled", line_mm=1.0, guides=rings,
                         says=["from the left, row by row"])  # fmt: skip
        worked = Worked(place, window("solid_mould"), [sheet], 1.0, sum(grams.values()), 6.0 * fill, 0.0, fill, None)
        if total_ml < wanted_ml - 1e-6:
            worked.warnings.append(
                f"It fills {fill} of {asked['cavities']:.0f}: {wanted_ml - total_ml:.0f} ml are short."
            )
        if worked.seconds > LIFE_MIN * 60:
            worked.warnings.append("It cools before it is empty: stand the bottle in warm water in between, cap on.")
        plain = sum(1 for cavity in shares if max(cavity.values()) > 0.97)
        worked.context = {
            "bottle": True, "bands": self._bands(told, labs, total_ml), "cavities_drawn": self._cavities(shares, labs),
            "plain_count": plain, "apart": apart, "uneven": apart > UNEVEN, "few": len(told) < FEW_LAYERS,
            "until": plain_until(layers), "grams": grams, "fill": fill, "passes_told": None,
            "extra_numbers": [(f"{total_ml:.0f} ml", "in the bottle"), (f"{fill}", "cavities")],
        }  # fmt: skip
        return worked

    @staticmethod
    def _bands(told: list[tuple[float, str]], labs: dict[str, Any], total_ml: float) -> list[Band]:
        """The bottle as it is squeezed, its nozzle below."""
        found, at = [], _HIGH
        for ml, colour in told:
            high = _HIGH * ml / total_ml
            at -= high
            found.append(Band(labs[colour], at, high))
        return found

    @staticmethod
    def _cavities(shares: list[dict[str, float]], labs: dict[str, Any]) -> list[list[Band]]:
        """Each cavity as discs, one within the other, as large as each colour's share."""
        found = []
        for cavity in shares:
            left, discs = 1.0, []
            for colour, share in cavity.items():
                discs.append(Band(labs[colour], 0.0, 30.0 * math.sqrt(max(0.0, left))))
                left -= share
            found.append(discs)
        return found
