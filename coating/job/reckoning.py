"""What a job comes to: lines, bowls, steps and stock. Nothing else computes these."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from types import MappingProxyType

from coating.colour.mixing import Ingredient, Part
from coating.flow.casson1959 import Flow


@dataclass(frozen=True)
class Line:
    """One layer of one piece in one colour: g on one, poured into and returned from one, lost in bags; how many and
    spares; how thick it comes out, mm; the bowl it is from ("" for what is no coating), what that keeps for the last of
    them, g, and how wide it is, mm; sheets of film for one; bags that are filled; whether its grams were typed."""

    piece: str
    layer: str
    technique: str
    colour: str
    base: str
    white: str
    window: str
    on_one_g: float
    poured_g: float
    returned_g: float
    lost_g: float
    count: int
    spares: int
    thickness_mm: float
    bowl: str = ""
    depth_g: float = 0.0
    sheets: float | None = None
    bags: int = 0
    vessel_mm: float = 0.0
    typed: bool = False

    @property
    def pieces(self) -> int:
        """All that are made."""
        return self.count + self.spares

    @property
    def goes_on_g(self) -> float:
        """On all that are wanted."""
        return self.on_one_g * self.count

    @property
    def spare_g(self) -> float:
        """On the spares."""
        return self.on_one_g * self.spares

    @property
    def made_g(self) -> float:
        """On all that are made."""
        return self.on_one_g * self.pieces


@dataclass(frozen=True)
class Portion:
    """So much taken out of a bowl and thinned for some of its layers: their ids, the window they want, g, and g of fat
    in all; `whole`: all of the bowl is thinned."""

    layers: tuple[str, ...]
    window: str
    mass_g: float
    thinner_g: float
    whole: bool = False


@dataclass(frozen=True)
class Bowl:
    """What is melted at once: its white, its colour or the bag it is of as bought, and which layers are made from it.

    melt_g = goes_on_g + spare_g + lost_g + left_g. `needed_g` : what must be in it, before it is rounded up to what can
    be measured. `depth_g` : must be in it at the last. `poured_most_g` : it holds as much at once. `recipe` : parts to
    put in, nothing for plain or as bought; `parts` : all that goes in, its base too. `number` : how it stands as it is
    worked, before it is thinned; None where that is not known.
    """

    key: str
    white: str
    colour: str
    base: str
    lines: tuple[Line, ...]
    goes_on_g: float
    spare_g: float
    lost_g: float
    left_g: float
    depth_g: float
    poured_most_g: float
    vessel_mm: float
    tempered: bool
    made_of: Ingredient | None = None
    recipe: tuple[Part, ...] = ()
    parts: tuple[Part, ...] = ()
    de00: float | None = None
    lab: tuple[float, float, float] | None = None
    flow: Flow | None = None
    number: float | None = None
    portions: tuple[Portion, ...] = ()
    thinner: Ingredient | None = None
    cautions: tuple[str, ...] = ()

    @cached_property
    def melt_g(self) -> float:
        """What to melt, g."""
        return self.goes_on_g + self.spare_g + self.lost_g + self.left_g

    @property
    def needed_g(self) -> float:
        """Of that, what has to be there."""
        return self.goes_on_g + self.spare_g + self.lost_g + self.depth_g

    @property
    def made_g(self) -> float:
        """What ends up on pieces, spares too."""
        return self.goes_on_g + self.spare_g

    @property
    def layers(self) -> tuple[str, ...]:
        """Which are made from it, each once."""
        return tuple(dict.fromkeys(line.layer for line in self.lines))

    @property
    def windows(self) -> tuple[str, ...]:
        """The windows its layers want, each once."""
        return tuple(dict.fromkeys(line.window for line in self.lines))

    @property
    def window(self) -> str:
        """The window most of it is made at: what is no portion, else what the whole bowl is thinned for."""
        apart = {name for p in self.portions if not p.whole for name in p.layers}
        mine = [la for la in self.lines if la.layer not in apart] or list(self.lines)
        whole = next((p.window for p in self.portions if p.whole), "")
        made: dict[str, float] = {}
        for line in mine:
            made[line.window] = made.get(line.window, 0.0) + line.made_g
        return whole or max(made, key=lambda name: made[name])

    def portion_of(self, layer: str) -> Portion | None:
        """What is taken out for a layer; None where it is made from the bowl as it is."""
        return next((p for p in self.portions if layer in p.layers and not p.whole), None)

    @property
    def thinner_g(self) -> float:
        """Fat for all its portions."""
        return sum(p.thinner_g for p in self.portions)

    @property
    def why(self) -> tuple[tuple[str, float], ...]:
        """The reason of each gram: on the pieces, on the spares, lost in bowl and bags, left for depth, rounded up."""
        reasons = (
            ("on the pieces", self.goes_on_g),
            ("on the spares", self.spare_g),
            ("in bowl and bags", self.lost_g),
            ("left for depth", self.depth_g),
            ("rounded up", self.left_g - self.depth_g),
        )
        return tuple((word, grams) for word, grams in reasons if grams > 1e-9)


@dataclass(frozen=True)
class JobStep:
    """Something hands, heat or waiting do. `kind` : melt, tint, temper, thin, test, bag, stick, make, wait, rewarm,
    release, join, finish or wash. `after` : what it is done on; it begins at least `from_min` and at most `until_min`
    after the last of these has ended. `needs` : what has to be done before it, whenever that was: its bowl, the round
    before. A wait lasts its `from_min`. `count` : for how many pieces. `looks` : what to look for.
    `did_one` : what a maker says who has done one of them. `from_age` : years below which it is not for a child; 0:
    for everyone."""

    id: str
    kind: str
    piece: str = ""
    layer: str = ""
    bowl: str = ""
    hands_s: float = 0.0
    heat_s: float = 0.0
    place: str = "room"
    after: tuple[str, ...] = ()
    needs: tuple[str, ...] = ()
    from_min: float = 0.0
    until_min: float | None = None
    says: str = ""
    count: int = 0
    until_set: bool = False
    looks: str = ""
    did_one: str = ""
    from_age: int = 0


@dataclass(frozen=True)
class HeldPlaces:
    """Moulds, or places on a stand, that are taken from the first of some steps to the end of the last."""

    resource: str
    name: str
    places: int
    steps: tuple[str, ...]
    there: int


@dataclass(frozen=True)
class Reckoning:
    """All that a job comes to; `stock` : what goes in, by ingredient, g; `counts` : of each piece how many, those that
    go on others too, and spares."""

    lines: tuple[Line, ...]
    bowls: tuple[Bowl, ...]
    steps: tuple[JobStep, ...] = ()
    holds: tuple[HeldPlaces, ...] = ()
    stock: tuple[Part, ...] = ()
    money: float | None = None
    cautions: tuple[str, ...] = ()
    moved: tuple[tuple[str, str], ...] = ()
    counts: Mapping[str, tuple[int, int]] = field(default_factory=lambda: MappingProxyType({}))

    @property
    def minutes_hands(self) -> float:
        """How long hands are at it in all."""
        return sum(step.hands_s for step in self.steps) / 60

    @property
    def melt_g(self) -> float:
        """All that is melted."""
        return sum(bowl.melt_g for bowl in self.bowls)

    @cached_property
    def bowl_of(self) -> Mapping[str, Bowl]:
        """Bowls by key."""
        return {bowl.key: bowl for bowl in self.bowls}

    def of_layer(self, layer: str) -> tuple[Line, ...]:
        """The lines of a layer, one a colour."""
        return tuple(line for line in self.lines if line.layer == layer)
