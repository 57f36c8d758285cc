"""A squeeze bottle filled in layers: what each cavity shows in order, and how to make them more even."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Any

from django import forms

from coating.figures.sheet import sheet_of
from coating.flow.material import ORDINARY
from coating.flow.windows import window
from coating.heat.melting import working_floor_c, working_temperature_c
from coating.heat.schools import bath_rewarm_s
from coating.heat.times import set_time, usable_time
from coating.shape.bottle import BottleLayer, dispensed, evenness, plain_until
from coating.shape.curves import ellipse
from coating.shape.strokes import Drawing
from coating.steps import SET, Step, hands_s
from studio.common.coming import seen_coming
from studio.common.forms import CountField, NumberField, VolumeField
from studio.common.types import Json, Typed
from studio.designs.kinds.base import DesignForm, DesignKind, Other, Worked
from studio.designs.kinds.film.base import WHERE
from studio.designs.kinds.words import volume
from studio.designs.place import Place

ROWS = 8
FIRST_ML = (30.0, 20.0, 30.0, 20.0)
UNEVEN, FEW_LAYERS = 0.5, 6
UNITS = [("1.0", "ml"), ("15.0", "tablespoons"), ("5.0", "teaspoons")]
DEEP_OF_CUBE = 0.5  # what sets at once of a cavity, against the side of a cube as large; an assumption
POUR_S, SQUEEZE_S, EASE_S, BATH_C = 15.0, 6.0, 3.0, 50.0  # assumptions
_HIGH, _WIDE = 210.0, 84.0  # of the picture of the bottle


class BottleForm(DesignForm):
    """What is asked about bottles of layers."""

    unit = forms.ChoiceField(label="Unit of the layers", choices=UNITS, initial="1.0", widget=forms.RadioSelect)
    cavities = CountField("cavities", label="Number of cavities", initial=12, high=240)
    each_ml = VolumeField("layer_ml", label="Cavity volume", initial=8.0)
    a_mould = CountField("cavities", label="Cavities in one mould", initial=12)
    moulds = CountField("cavities", label="Number of moulds", initial=1, high=40)
    where = forms.ChoiceField(label="Place to set", choices=WHERE, initial="freezer", widget=forms.RadioSelect)
    main = ("unit", "cavities", "each_ml", "a_mould", "moulds")
    more = ("where",)
    pills = ("unit", "where")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for name in ("line_mm", "hole_mm", "speed_mm_s", "colour"):
            self.fields.pop(name, None)
        for i in range(ROWS):
            colour = self.fields[f"colour{i}"]
            assert isinstance(colour, forms.ChoiceField)
            colour.choices = [("", "plain"), *kwargs["colours"]]

    def clean(self) -> Typed:
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
        "layer_ml", label="Amount of this layer", required=False, initial=FIRST_ML[_i] if _i < len(FIRST_ML) else None
    )
    BottleForm.base_fields[f"colour{_i}"] = forms.ChoiceField(label="Colour of this layer", required=False)


@dataclass(frozen=True)
class Turns:
    """How often the moulds are filled, cavities each time, minutes until one is free again, how often the bottle is
    warmed in between, for how many minutes, and how many it stays warm enough (None: it does not cool)."""

    rounds: int
    at_once: int
    sets_min: float
    rewarms: int
    rewarm_min: float
    usable_min: float | None


@dataclass(frozen=True)
class BottleBand:
    """A layer in the picture of the bottle, or a disc in that of a cavity: its shade, where it begins, how much."""

    lab: Any
    at: float
    much: float


def _accent_is_last(fillings: list[tuple[float, str]]) -> bool:
    """Whether most of what is nearest the nozzle is the main colour, though there is less of another."""
    whole: dict[str, float] = {}
    for ml, colour in fillings:
        whole[colour] = whole.get(colour, 0.0) + ml
    return len(whole) > 1 and fillings[0][1] == max(whole, key=lambda colour: whole[colour])


class BottleKind(DesignKind):
    """Bottles of layers in the studio."""

    name, title, says, techniques, form = (
        "bottle",
        "Layered bottle",
        "Layers squeezed out one into the other",
        ("solid",),
        BottleForm,
    )
    group = "Poured"
    steps_more = "designs/parts/bottle_more.html"
    colours = tuple(f"colour{i}" for i in range(ROWS))

    def first(self, place: Place) -> Typed:
        """For a layer: as many cavities as are wanted, as large as they are, and a bottle that fills them."""
        known, layer = place.first_colours[:1], place.layer
        shown = super().first(place) | {f"colour{i}": known[0] if known and i % 2 else "" for i in range(ROWS)}
        if layer is None or place.core is None or not place.core.holds_ml:
            return shown
        count, each_ml = place.made, math.ceil(10 * place.core.holds_ml) / 10
        rows = {f"ml{i}": math.ceil(count * each_ml * ml / sum(FIRST_ML)) for i, ml in enumerate(FIRST_ML)}
        return shown | {"cavities": min(240, count), "each_ml": each_ml} | rows

    def work(self, values: Typed, place: Place) -> Worked:
        each_unit = float(values["unit"])
        fillings = [
            (values[f"ml{i}"] * each_unit, str(values.get(f"colour{i}") or ""))
            for i in range(ROWS)
            if values.get(f"ml{i}")
        ]
        layers = [BottleLayer(colour, ml) for ml, colour in fillings]
        total_ml, wanted_ml = sum(ml for ml, _ in fillings), values["cavities"] * values["each_ml"]
        fill = min(int(values["cavities"]), max(1, math.floor(total_ml / values["each_ml"] + 1e-9)))
        shares = dispensed(layers, max(1, round(total_ml / values["each_ml"])))[:fill]
        labs = {colour: place.lab_of(colour) for _, colour in fillings}
        called = {colour: place.name_of(colour) or "plain" for colour in labs}
        masses = {called[c]: sum(ml for ml, of in fillings if of == c) * ORDINARY.density_kg_m3 / 1000 for c in labs}
        apart = max((evenness(shares, colour) for colour in labs), default=0.0)
        rings = [ellipse((14 + 28 * (i % 6), 14 + 28 * (i // 6)), 24, 24) for i in range(min(60, fill))]
        sheet = sheet_of(
            Drawing(()),
            "Cavities, in the order they are filled",
            line_mm=1.0,
            guides=rings,
            says=["from the left, row by row"],
        )
        plain = sum(1 for cavity in shares if max(cavity.values()) > 0.97)
        total_g = sum(masses.values())
        turn = self._turns(values, place, fill, total_g)
        steps = self._steps(values, fillings, called, plain, turn, fill)
        others = self.others_of(place, *(Other(colour, masses[called[colour]]) for colour in labs))
        worked = Worked(
            place,
            window("coarse_mould"),
            [sheet],
            1.0,
            total_g,
            hands_s(steps),
            0.0,
            fill,
            None,
            pieces=fill,
            steps=steps,
            others=others,
            moulds=(int(values["moulds"]), int(values["a_mould"])),
        )
        if total_ml < wanted_ml - 1e-6:
            short_ml = wanted_ml - total_ml
            worked.warnings.append(f"It fills {fill} of {values['cavities']:.0f}: {volume(short_ml)} are short.")
        if plain and _accent_is_last(fillings):
            worked.warnings.append(seen_coming("bottle_order"))
        worked.context = {
            "bands": self._bands(fillings, labs, total_ml),
            "cavities_drawn": self._cavities(shares, labs)[:60],
            "plain_count": plain,
            "apart": apart,
            "uneven": apart > UNEVEN,
            "few": len(fillings) < FEW_LAYERS,
            "until": plain_until(layers),
            "grams": masses,
            "fill": fill,
            "turn": turn,
            "extra_numbers": [
                (volume(total_ml), "in the bottle"),
                (f"{fill}", "cavities"),
                *([(str(turn.rounds), "moulds in turn")] if turn.rounds > 1 else []),
            ],
        }
        return worked

    @staticmethod
    def _turns(values: Typed, place: Place, fill: int, total_g: float) -> Turns:
        """Raises OutOfBounds where it is too warm to set."""
        at_once = min(fill, int(values["a_mould"]) * int(values["moulds"]))
        white, warm = place.white, working_temperature_c(place.white)
        deep_mm = DEEP_OF_CUBE * (values["each_ml"] * 1000) ** (1 / 3)
        room_c = place.kitchen.room_c
        sets = set_time("mould", deep_mm, values["where"], room_c=room_c, white=white)
        usable_s = usable_time(total_g, white=white, room_c=room_c)
        rounds = math.ceil(fill / at_once)
        between_s = sets.release_min * 60 if rounds > 1 else 0.0
        all_s = fill * SQUEEZE_S + (rounds - 1) * between_s
        often = math.ceil(all_s / usable_s - 1e-9) - 1
        takes_s = bath_rewarm_s(total_g, start_c=working_floor_c(white), target_c=warm, bath_c=BATH_C)
        return Turns(rounds, at_once, sets.release_min, max(0, often), takes_s / 60, usable_s / 60)

    @staticmethod
    def _steps(
        values: Typed, fillings: list[tuple[float, str]], called: dict[str, str], plain: int, turn: Turns, fill: int
    ) -> list[Step]:
        """Poured in one after the other, squeezed out mould by mould while the bottle is warm, set."""
        steps = []
        for i, (ml, colour) in enumerate(reversed(fillings)):
            words = f"{volume(ml)} of {called[colour].lower()}"
            first = Step(f"Pour {words} into the bottle.", POUR_S, of=colour)
            steps.append(replace(first, says=f"Then {words}.", until_min=turn.usable_min) if i else first)
        off = "leave it" if values["where"] == "room" else f"into the {values['where']}"
        squeeze = "in small circles, without setting the bottle down; tap the mould, and"
        which = ""
        if plain:
            first_ones = f"the first {plain}" if plain > 1 else "the first"
            which = f" Put {first_ones}, nearly plain, where it does not show."
        steps.append(
            Step(
                f"Cap on, turn it over. Squeeze {turn.at_once} {squeeze} {off}.{which}",
                SQUEEZE_S * turn.at_once,
                until_min=turn.usable_min,
                warm=False,
            )
        )
        rest = fill - turn.at_once
        if rest:
            often = f", {turn.rounds - 1} times over" if turn.rounds > 2 else ""
            steps.append(
                Step(
                    f"Ease the pieces out, wipe the mould, and squeeze the next{often}: {rest} in all.",
                    (SQUEEZE_S + EASE_S) * rest,
                    SET,
                    turn.sets_min,
                    None,
                    values["where"],
                )
            )
        return [*steps, Step("Ease the pieces out.", EASE_S * turn.at_once, SET, turn.sets_min, None, values["where"])]

    @staticmethod
    def _bands(fillings: list[tuple[float, str]], labs: Json, total_ml: float) -> list[BottleBand]:
        """The bottle as it is squeezed, its nozzle below."""
        bands, at = [], _HIGH
        for ml, colour in fillings:
            high = _HIGH * ml / total_ml
            at -= high
            bands.append(BottleBand(labs[colour], at, high))
        return bands

    @staticmethod
    def _cavities(shares: list[dict[str, float]], labs: Json) -> list[list[BottleBand]]:
        """Each cavity as discs, one within the other, as large as each colour's share."""
        cavities = []
        for cavity in shares:
            left, discs = 1.0, []
            for colour, share in cavity.items():
                discs.append(BottleBand(labs[colour], 0.0, 30.0 * math.sqrt(max(0.0, left))))
                left -= share
            cavities.append(discs)
        return cavities
