"""What every kind of film work is asked and says: how thick, where it sets, until when it bends, how many at a time."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Any

from django import forms

from coating.errors import OutOfBounds
from coating.figures.sheet import PaperSheet
from coating.figures.solid import View
from coating.heat.setting import Pliable, Setting
from coating.heat.times import bend_window, set_time, usable_time
from coating.shape.film.bending import Bend, Rounds, per_melt, rounds
from coating.steps import HALF_SET, SET, Step, hands_s
from studio.common.forms import CountField, LengthField
from studio.common.types import Context, Typed
from studio.designs.kinds.base import DesignForm, DesignKind, Worked
from studio.designs.one import of_view
from studio.designs.place import Place

WHERE = [("room", "in the room"), ("fridge", "in the fridge"), ("freezer", "in the freezer")]
COOL = {"room": "at room temperature", "fridge": "in the fridge", "freezer": "in the freezer"}
OFF_FILM = "Peel the film off, touching where it will not show."


class FilmForm(DesignForm):
    """What is asked about everything made on film."""

    thickness_mm = LengthField("film_mm", label="Thickness", initial=1.8, low=0.5, high=8)
    count = CountField("count", label="How many", initial=12, high=200)
    where = forms.ChoiceField(label="Place to set", choices=WHERE, initial="room", widget=forms.RadioSelect)
    main: tuple[str, ...] = ("thickness_mm", "count")
    more: tuple[str, ...] = ("where",)
    pills: tuple[str, ...] = ("where",)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for name in ("line_mm", "hole_mm", "speed_mm_s"):
            self.fields.pop(name, None)

    def offers(self, name: str, colours: list[tuple[str, str]], none: str) -> None:
        """A field that picks one of the colours of the kitchen."""
        chosen = self.fields[name]
        assert isinstance(chosen, forms.ChoiceField)
        chosen.choices = [("", none), *colours]


@dataclass
class Film:
    """What a kind comes to: its grams in all, its templates and its picture; how many are spread, and hands for one
    of them; how each is bent, if it is; its steps before, while it is half-set, and after it is off its film."""

    mass_g: float
    sheets: list[PaperSheet]
    view: View
    bent: int
    spread_s: float
    each_s: float
    bend: Bend | None = None
    spreads: str = ""
    bends: str = ""
    dries_min: float = 0.0
    before: list[Step] = field(default_factory=list)
    half: list[Step] = field(default_factory=list)
    after: list[Step] = field(default_factory=list)
    pieces: int = 1
    context: Context = field(default_factory=dict)
    warnings: list[str] = field(default_factory=list)
    numbers: list[tuple[str, str]] = field(default_factory=list)


class FilmKind(DesignKind):
    """Abstract: `made` says what a kind comes to."""

    group = "On film"
    lifts_off = True
    flow = "sheet"
    picture_template = "designs/pictures/solid.html"

    def made(self, values: Typed, place: Place) -> Film:
        """Raises CoatingError."""
        raise NotImplementedError

    def first(self, place: Place) -> Typed:
        shown = super().first(place)
        thick = place.layer.parameters.get("thickness_mm") if place.layer else None
        count = min(200, place.wanted) if place.layer else None
        return shown | ({"thickness_mm": thick} if thick else {}) | ({"count": count} if count else {})

    def work(self, values: Typed, place: Place) -> Worked:
        film, thick, where = self.made(values, place), float(values["thickness_mm"]), values["where"]
        window, sets = bendable(place, thick, where), sets_in(place, thick, where)
        took = None
        if film.bend is not None and film.bend.while_soft:
            took = rounds(film.bent, window, spread_s=film.spread_s, each_s=film.each_s)
            if took is None:
                film.warnings.append(
                    "It is stiff before one is bent: spread it a little thicker, or let it set where it is warmer."
                )
        steps = [*film.before, *self._bent(film, window, sets, took, where), *film.after]
        worked = Worked(
            place,
            self.window_of(self.flow),
            film.sheets,
            1.0,
            film.mass_g,
            hands_s(steps),
            0.0,
            0,
            None,
            pieces=film.pieces,
            steps=steps,
            warnings=film.warnings,
            one=of_view(film.view) if film.view else {},
        )
        melt = self._a_melt(place, worked.melt_g, film)
        numbers = list(film.numbers)
        if film.bend is not None:
            numbers += [(f"{film.bend.strain * 100:.1f} %", "stretched by the bend")]
            numbers += [(str(melt), "from one melt")] if melt < film.bent else []
        worked.context = {
            "view": film.view,
            "window": window,
            "sets": sets,
            "rounds": took,
            "cool": COOL[where],
            "bend": film.bend,
            "extra_numbers": numbers,
            "count": int(values.get("count") or 1),
            **film.context,
        }
        return worked

    @staticmethod
    def _bent(film: Film, window: Pliable, sets: Setting, took: Rounds | None, where: str) -> list[Step]:
        """Spread, bent in its window, and set."""
        dry = SET if film.dries_min else ""
        spread = Step(film.spreads, film.spread_s * film.bent, dry, film.dries_min, warm=True)
        if not film.bends:
            rest = max([0.0, sets.release_min - sum(step.from_min for step in film.half)])
            return [spread, *film.half, Step(OFF_FILM, 5.0 * film.bent, SET, rest, None, where)]
        again = f" {took.at_a_time} at a time, {took.rounds} times over." if took and took.rounds > 1 else ""
        rest = max(0.0, sets.release_min - window.from_min)
        return [
            replace(spread, says=spread.says + again),
            Step(film.bends, film.each_s * film.bent, HALF_SET, window.from_min, window.until_min, where),
            Step(OFF_FILM, 5.0 * film.bent, SET, rest, None, where),
        ]

    @staticmethod
    def _a_melt(place: Place, melt_g: float, film: Film) -> int:
        """How many are spread and bent before the bowl is too cool."""
        usable_s = usable_time(melt_g, white=place.white, room_c=place.kitchen.room_c)
        return per_melt(usable_s, spread_s=film.spread_s, each_s=film.each_s)


def bendable(place: Place, thickness_mm: float, where: str) -> Pliable:
    """When a sheet of it bends, carried by its film. Raises OutOfBounds where it is too warm to set."""
    return bend_window("film", thickness_mm, where, room_c=place.kitchen.room_c, white=place.white)


def sets_in(place: Place, thickness_mm: float, where: str) -> Setting:
    """When it is set on its film. Raises OutOfBounds where it is too warm to set."""
    try:
        return set_time("film", thickness_mm, where, room_c=place.kitchen.room_c, white=place.white)
    except OutOfBounds as refusal:
        if refusal.fields.get("field") == "surround_c":
            refusal.fields["field"] = "where"
        raise
