"""A kind of design: its form, what is worked out from it, and the templates that say and show it."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from django import forms

from coating.figures.sheet import PaperSheet
from coating.flow.windows import Window, window
from coating.job import Bowl as ReckonedBowl
from coating.job.lines import hand_on
from coating.shape.bag import Bag, bag_for, line_from
from coating.shape.marbling.surface import Surface
from coating.steps import Step, steps_json
from coating.techniques.measures import DENSITY
from studio.common.forms import KeepsMeasures, LengthField, WordsField
from studio.common.templatetags.kitchen import about_minutes
from studio.common.types import Context, Json, Typed
from studio.cupboard.tones import WHITES
from studio.designs.place import Place
from studio.designs.reckoned import bowls_of, melted_now_g
from studio.designs.tiles import Tile
from studio.pieces.models import LEAST_SHARE, Layer
from studio.pieces.reckoned import keys_of

SEEN_G = 0.5  # a smaller difference is not worth a word
NOT_ASKED = ("name", "colour", "white", "layer", "version")


class DesignForm(KeepsMeasures, forms.Form):
    """What every design is asked. A subclass adds its own fields; `main` are shown first, the rest under "more"."""

    name = WordsField(label="Name", max_length=80)
    colour = forms.ChoiceField(label="Colour", required=False)
    white = forms.ChoiceField(label="Kind of chocolate", choices=WHITES, initial="coating", required=False)
    line_mm = LengthField("bead_mm", label="Line width (once it has settled)", low=0.5, high=12, initial=1.5)
    hole_mm = LengthField("hole_mm", label="Hole in the bag (if already snipped)", required=False)
    speed_mm_s = LengthField("hand_speed_mm_s", label="Distance your hand moves in a second", initial=20.0)
    layer = forms.IntegerField(required=False, widget=forms.HiddenInput, min_value=1, max_value=2**62)
    version = forms.IntegerField(widget=forms.HiddenInput, min_value=0, max_value=2**31 - 1, initial=0)

    main: tuple[str, ...] = ()
    more: tuple[str, ...] = ("hole_mm", "speed_mm_s")
    pills: tuple[str, ...] = ()

    def __init__(self, *args: Any, place: Place, colours: list[tuple[str, str]], **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.place = place
        field = self.fields["colour"]
        assert isinstance(field, forms.ChoiceField)
        field.choices = [("", "plain"), *colours]
        if place.layer is not None:
            del self.fields["colour"], self.fields["white"]

    def asked(self) -> Typed:
        """The (valid) form as it is kept."""
        return {"v": 1, **{name: value for name, value in self.cleaned_data.items() if name not in NOT_ASKED}}

    def shown(self, names: tuple[str, ...]) -> list[tuple[Any, bool]]:
        """Fields, and whether they are pills."""
        return [(self[name], name in self.pills) for name in names if name in self.fields and not self[name].is_hidden]

    def silent_fields(self) -> list[Any]:
        """What is not asked, because what it is for says it already, but is kept."""
        return [self[name] for name in (*self.main, *self.more) if name in self.fields and self[name].is_hidden]

    def main_fields(self) -> list[tuple[Any, bool]]:
        """The fields in sight, and whether they are pills."""
        return self.shown((*self.main, "colour", "white"))

    def more_fields(self) -> list[tuple[Any, bool]]:
        """The fields behind “more”, and whether they are pills."""
        return self.shown(self.more)

    def more_wrong(self) -> bool:
        """Whether one of those behind “more” is wrong."""
        return any(name in self.errors for name in self.more) if self.is_bound else False


@dataclass(frozen=True)
class Other:
    """A further colour or bag of a design, by its key, "" for plain: g that go on, g its bowl holds at the last."""

    colour: str
    mass_g: float
    depth_g: float = 0.0


@dataclass
class Worked:
    """What a form comes to: templates, how it is poured, words. `goes_on_g` is what the design puts on all `pieces`, of
    all colours, `others` among it; from it only how much of it there is is kept, and the grams are reckoned with the
    job. `told` : what it says of its layer in the layer's own words, where that is not a volume. `moulds`, `holes` :
    what it is done in; `deep` : dipped upright to the last; `poured_ml` : into one of what is drained.
    `one` : how one of it looks, where that is more than its layer shows."""

    place: Place
    window: Window
    sheets: list[PaperSheet]
    line_mm: float
    goes_on_g: float
    seconds: float
    length_mm: float
    strokes: int
    bag: Bag | None
    warnings: list[str] = field(default_factory=list)
    context: Context = field(default_factory=dict)
    pieces: int = 1
    steps: Sequence[Step] = ()
    films: int = 0
    also: Sequence[int] = ()
    others: Sequence[Other] = ()
    told: Mapping[str, Any] | None = None
    moulds: tuple[int, int] = (0, 0)
    holes: int = 0
    deep: bool = False
    poured_ml: float = 0.0
    one: Mapping[str, Any] = field(default_factory=dict)

    @property
    def own_g(self) -> float:
        """What goes on in the colour it is of."""
        return self.goes_on_g - sum(other.mass_g for other in self.others)

    @property
    def has_own(self) -> bool:
        """Whether anything of it is in the colour it is of."""
        return self.own_g > LEAST_SHARE * self.goes_on_g

    @cached_property
    def bowls(self) -> tuple[ReckonedBowl, ...]:
        """What is melted for it: with its job, where it is for a layer; else by itself."""
        return bowls_of(self)

    @property
    def melt_g(self) -> float:
        """What to melt of the colour it is of."""
        own = keys_of(self.place.tone)
        return sum(bowl.melt_g for bowl in self.bowls if (bowl.colour, bowl.base) == own)

    @property
    def unsaved_g(self) -> float | None:
        """What its job melts of that colour as long as the design is not saved, where that is another amount."""
        name = str(self.place.layer.pk) if self.place.layer else ""
        now_g = melted_now_g(self, name) if name else self.melt_g
        return now_g if abs(now_g - self.melt_g) > SEEN_G else None

    @property
    def on_all(self) -> tuple[int, float]:
        """For how many pieces its job wants it, and what goes on all of these, g; of no job as many as it is for."""
        wanted = self.place.made if self.place.layer else self.pieces
        return wanted, self.on_g / self.pieces * wanted

    @cached_property
    def technique(self) -> str:
        """What its layer is done as."""
        return self.place.layer.technique if self.place.layer else self.context.get("technique") or "own"

    @property
    def own_on_g(self) -> float:
        """Of that what is of its own colour, g."""
        return self.by_hand(self.own_g)

    @property
    def second_on_g(self) -> float:
        """And what is of further colours, g."""
        return self.on_g - self.own_on_g

    @property
    def on_g(self) -> float:
        """What goes on all pieces, as this kitchen's hands leave it, g."""
        return self.by_hand(self.goes_on_g)

    def by_hand(self, mass_g: float) -> float:
        """So much of its own technique, as this kitchen's hands leave it, g."""
        return mass_g * hand_on(self.technique, self.place.known)[0]

    @property
    def takes_s(self) -> float:
        """How long this kitchen's hands take, s."""
        return self.seconds * self.place.known.pace

    @property
    def key(self) -> str:
        """The bowl of the colour it is of, by its key."""
        own = keys_of(self.place.tone)
        return next((bowl.key for bowl in self.bowls if (bowl.colour, bowl.base) == own), "")

    @property
    def shared(self) -> bool:
        """Whether more of its job is made from the bowl of the colour it is of."""
        own = keys_of(self.place.tone)
        return any(len(bowl.layers) > 1 for bowl in self.bowls if (bowl.colour, bowl.base) == own)

    @property
    def melts(self) -> list[tuple[str, float]]:
        """What to melt of each further colour, by its name, g."""
        names = {keys_of(self.place.tone_of(o.colour)): self.place.name_of(o.colour) or "plain" for o in self.others}
        return [
            (names[bowl.colour, bowl.base], bowl.melt_g) for bowl in self.bowls if (bowl.colour, bowl.base) in names
        ]

    def geometry(self) -> Json:
        """What it drew of one piece, as its layer keeps it."""
        geometry = {
            "seconds": round(self.seconds, 1),
            "window": self.window.technique,
            "holes": self.holes,
            "moulds": list(self.moulds) if self.moulds[1] else None,
            "deep": self.deep,
            "poured_ml": round(self.poured_ml, 3),
            "pieces": self.pieces,
        }
        geometry |= {} if self.told is not None else {"ml": round(self.goes_on_g / self.pieces / DENSITY * 1000, 4)}
        return {name: value for name, value in geometry.items() if value}

    @property
    def wet_min(self) -> float | None:
        """How long all that is done at once has, because it is done while wet."""
        return min((s.until_min for s in self.steps if s.until_min is not None and not s.waits), default=None)

    @property
    def bag_says(self) -> str:
        """How long a bag stays warm enough, and how often it is warmed in between; nothing where that is not known."""
        if self.bag is None or not self.bag.stays_min:
            return ""
        times = {0: "", 1: ": warm it once in between"}.get(
            self.rewarmed, f": warm it {self.rewarmed} times in between"
        )
        return f"A bag stays warm enough for {about_minutes(self.bag.stays_min)}{times}."

    @property
    def rewarmed(self) -> int:
        """How often a bag is warmed in between."""
        if self.bag is None or not self.bag.stays_min:
            return 0
        return max(0, math.ceil(self.seconds / self.bag.bagfuls / 60 / self.bag.stays_min - 1e-9) - 1)

    @property
    def verdict(self) -> str:
        """How the bowl suits it, in a word."""
        return self.place.verdict(self.window.technique)

    def drawn(self) -> Json:
        """The numbers to keep."""
        from coating.figures.sheet import sheet_json

        return {
            "v": 1,
            "sheets": [sheet_json(sheet) for sheet in self.sheets],
            "goes_on_g": self.goes_on_g,
            "seconds": self.seconds,
            "length_mm": self.length_mm,
            "line_mm": self.line_mm,
            "pieces": self.pieces,
            "window": self.window.technique,
            "hole_mm": self.bag.hole_mm if self.bag else None,
            "steps": steps_json(self.steps),
            "films": self.films,
            "also": list(self.also),
            "others": [{"of": o.colour, "g": o.mass_g, "depth_g": o.depth_g} for o in self.others],
            "of_layer": {**(self.told or {}), "drawn": self.geometry()},
        }


class DesignKind:
    """Abstract. `name` is the key and the name of its templates; `group` where it stands among the kinds; `techniques`
    the layers it can be for."""

    name = ""
    title = ""
    says = ""
    group = "From a bag"
    techniques: tuple[str, ...] = ()
    form: type[DesignForm] = DesignForm
    checks = False
    pictured: tuple[str, ...] = ()  # what a picture in dots is asked for with
    after_word = ""
    told_at: Mapping[str, str] = {}  # which of its fields speaks for a field of the core
    steps_more = ""  # a template that stands under its steps
    steps_template = "designs/parts/steps.html"
    pick = ""  # the field that is picked by picture
    pick_word = "Pattern"
    lifts_off = False  # it is made on film and put on something
    colours: tuple[str, ...] = ()  # which of its fields are colours, beside the one it is of

    @property
    def asks(self) -> list[str]:
        """Names of what is kept of its form."""
        return [name for name in self.form.base_fields if name not in NOT_ASKED]

    def tiles(self) -> Sequence[Tile]:
        """What its `pick` can be, by picture; what else it can be is a list beside them."""
        return ()

    @property
    def says_template(self) -> str:
        """The template of the sentences."""
        return f"designs/says/{self.name}.html"

    @property
    def picture_template(self) -> str:
        """The template of the picture."""
        return f"designs/pictures/{self.name}.html"

    def first(self, place: Place) -> Typed:
        """What the form begins with, from what it is for."""
        shown = {name: f.initial for name, f in self.form.base_fields.items()}
        layer = place.layer
        called = f"{self.title} of {layer.piece.name.lower()}"[:80] if layer else self.title
        width = layer.parameters.get("width_mm") if layer else None
        shown |= {"name": called, "layer": layer.pk if layer else None, **({"line_mm": width} if width else {})}
        return shown | (self.fits(place) if layer else {})

    def fits(self, place: Place) -> dict[str, float]:
        """Sizes that what it is for gives it, by the names of its fields, mm; a design that took one of them follows
        it."""
        return {}

    def suits(self, place: Place) -> bool:
        """Whether a layer is made so before all else."""
        return False

    def takes(self, layer: Layer) -> bool:
        """Whether a layer of one of its techniques can be made so on its piece."""
        return True

    def surface(self, values: Typed, resolution: int, finer: int = 1) -> Surface:
        """For a picture in dots. Raises CoatingError."""
        raise NotImplementedError

    def work(self, values: Typed, place: Place) -> Worked:
        """Raises CoatingError."""
        raise NotImplementedError

    def check(self, values: Typed, place: Place) -> Context:
        """What takes longer, for the part that comes behind. Raises CoatingError."""
        return {}

    # -- shared by kinds ---------------------------------------------------------------------------------------
    @staticmethod
    def line_of(values: Typed, place: Place, technique: str) -> float:
        """How wide a line settles: as asked, or from the hole that is there and the flow."""
        hole = values.get("hole_mm")
        return line_from(hole, place.flow(technique)) if hole else float(values["line_mm"])

    @staticmethod
    def bag_of(place: Place, technique: str, line_mm: float, mass_g: float, speed_mm_s: float) -> Bag:
        """The bag that pipes this line."""
        warm_c = place.desk.now.temperature_c if place.desk else None
        return bag_for(
            line_mm,
            place.flow(technique),
            mass_g=mass_g,
            speed_mm_s=speed_mm_s,
            white=place.white,
            room_c=place.kitchen.room_c,
            warm_c=warm_c,
        )

    @staticmethod
    def others_of(place: Place, *others: Other) -> list[Other]:
        """Those of another colour than it is of."""
        return [other for other in others if other.colour != place.tone.key and other.mass_g > 0]

    @staticmethod
    def window_of(technique: str) -> Window:
        """What a technique asks of the flow."""
        return window(technique)
