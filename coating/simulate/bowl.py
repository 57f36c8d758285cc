"""A bowl: what is known about it, what can be done to it, and its state at a moment."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

from coating.beliefs import LOSS, PRIORS, RANGE_SD
from coating.colour.mixing import FAT, Mixture, Part, colour_load, main_base, mix
from coating.errors import OutOfBounds, WillNotFlow
from coating.flow.casson1959 import Flow
from coating.flow.ribbon import flow_word
from coating.flow.state import Conditions, flow_now
from coating.flow.trade_number import number_from_flow
from coating.flow.windows import Window
from coating.heat.cooling import BowlCooling
from coating.heat.melting import Warmth, warmth_of
from coating.heat.melting_curve import MeltingCurve, curve_of
from coating.heat.setting import SETS_AT_C

KINDS = (
    "added",
    "warmed",
    "cooled",
    "stirred",
    "tested",
    "read",
    "split",
    "used",
    "received",
    "struck",
)
DEFAULT_NUMBER, DEFAULT_FAT = 45.0, 0.32
LABEL_SPREAD = 0.2

_SOLID_MARGIN_K = 1.0
WARMTH_K = 1.2  # 90 % of thermometers and of what is reckoned in their place lie within; an assumption


@dataclass(frozen=True)
class BowlContext:
    """What is known about a bowl besides its events.

    Attributes
    ----------
    room_c : degC. number, fat_fraction : of its base; None reads them off the bases in it.
    white : "coating", "tempered" or "untempered"; None reads it off the bases (never tempered).
    window : the technique it is for, if any. number_spread : relative range of the label number.
    loss, loss_sd : how many times the heat that is assumed it loses, and the sd of its logarithm.
    strengths : what its colours were known to be, as factors by name, when it was begun.
    """

    room_c: float = 21.0
    number: float | None = None
    fat_fraction: float | None = None
    white: str | None = None
    window: Window | None = None
    k_per_s: float | None = None
    number_spread: float = LABEL_SPREAD
    loss: float = 1.0
    loss_sd: float = PRIORS[LOSS]
    strengths: tuple[tuple[str, float], ...] = ()


@dataclass(frozen=True)
class Event:
    """One thing that was done to a bowl. `parts` for added and received; the rest as the kind needs it."""

    seq: int
    kind: str
    at_s: float
    parts: tuple[Part, ...] = ()
    to_c: float | None = None
    seconds: float | None = None
    power_w: float | None = None
    power_fraction: float = 0.5
    mass_g: float | None = None
    test: str = ""
    value: float | None = None
    off: float | None = None
    ratio_per_s: float | None = None
    lab: tuple[float, float, float] | None = None
    target_seq: int | None = None


@dataclass(frozen=True)
class BowlState:
    """A bowl at one moment: parts, temperature in degC, what heat did to it, and what follows."""

    context: BowlContext
    at_s: float
    parts: tuple[Part, ...]
    temperature_c: float
    solid_fraction: float
    overheated_minutes: float
    number: float | None
    reading: tuple[float, float, float] | None = None
    notes: tuple[str, ...] = ()
    warmest_c: float = -273.0  # since it last set
    strengths: tuple[tuple[str, float], ...] = ()  # factors learned from readings, by name of colourant
    used_g: float = 0.0  # said to have been used or taken out
    given_g: float = 0.0  # of that, into another bowl

    @cached_property
    def mass_g(self) -> float:
        """Everything in the bowl, g."""
        return sum(p.mass_g for p in self.parts)

    @cached_property
    def base_g(self) -> float:
        """The coating in the bowl, g."""
        return sum(p.mass_g for p in self.parts if p.ingredient.is_base)

    @property
    def empty(self) -> bool:
        """Whether nothing is in it."""
        return self.mass_g <= 0

    @property
    def load(self) -> float | None:
        """How much colour it carries, as a share of what it bears; None without colour."""
        return colour_load(self.parts)

    def mixture(self) -> Mixture:
        """Raises EmptyBowl."""
        return mix(self.parts)

    @cached_property
    def white(self) -> str:
        """coating, tempered or untempered."""
        if self.context.white:
            return self.context.white
        palm = sum(p.mass_g for p in self.parts if p.ingredient.is_base and p.ingredient.family == "palm")
        return "coating" if palm * 2 > self.base_g else "untempered"

    @cached_property
    def chocolate(self) -> str:
        """What most of it is worked as: white, milk or dark."""
        base = main_base(self.parts)
        return base.chocolate if base else "white"

    @property
    def warmth(self) -> Warmth:
        """The temperatures at which it is melted, worked and spoilt."""
        return warmth_of(self.white, self.chocolate)

    @property
    def curve(self) -> MeltingCurve:
        """How its fat melts."""
        return curve_of(self.white)

    @cached_property
    def water_fraction(self) -> float:
        """Water by mass."""
        water = sum(p.mass_g * p.ingredient.water_fraction for p in self.parts)
        return water / self.mass_g if self.mass_g else 0.0

    @cached_property
    def base_fat_fraction(self) -> float:
        """Fat fraction of the bases alone."""
        if self.context.fat_fraction is not None:
            return self.context.fat_fraction
        bases = [p for p in self.parts if p.ingredient.is_base]
        if not bases:
            return DEFAULT_FAT
        return sum(p.mass_g * p.ingredient.fat_fraction for p in bases) / self.base_g

    @cached_property
    def fat_fraction(self) -> float:
        """Fat fraction of everything dry in the bowl."""
        dry = sum(p.mass_g * (1 - p.ingredient.water_fraction) for p in self.parts)
        if dry <= 0:
            return self.base_fat_fraction
        added = sum(p.mass_g * p.ingredient.fat_fraction for p in self.parts if not p.ingredient.is_base)
        return (self.base_g * self.base_fat_fraction + added) / dry

    @property
    def fat_g(self) -> float:
        """All fat in it, g."""
        return sum(p.mass_g * (1 - p.ingredient.water_fraction) for p in self.parts) * self.fat_fraction

    @property
    def added_fats(self) -> dict[str, float]:
        """Fats that were added, g by name."""
        fats: dict[str, float] = {}
        for part in self.parts:
            if part.ingredient.kind == FAT:
                fats[part.ingredient.name] = fats.get(part.ingredient.name, 0.0) + part.mass_g
        return fats

    @property
    def fat_base(self) -> str:
        """Whose fat it is: "coating" or "chocolate"."""
        return "coating" if self.white == "coating" else "chocolate"

    @cached_property
    def label_number(self) -> float:
        """Number of its bases at 40 degC untempered: tested, given, or the geometric mean of the labels."""
        if self.number is not None:
            return self.number
        known = [p for p in self.parts if p.ingredient.is_base and p.ingredient.number]
        total = sum(p.mass_g for p in known)
        if not total:
            return DEFAULT_NUMBER
        return math.exp(sum(p.mass_g * math.log(p.ingredient.number or 1) for p in known) / total)

    @cached_property
    def k_per_s(self) -> float:
        """Yield stress over viscosity, 1/s: the mean of its coatings by mass."""
        if self.context.k_per_s is not None:
            return self.context.k_per_s
        bases = [p for p in self.parts if p.ingredient.is_base]
        total = sum(p.mass_g for p in bases)
        return sum(p.mass_g * p.ingredient.k_per_s for p in bases) / total if total else 6.0

    @property
    def has_cooled(self) -> bool:
        """Cooled below where it sets."""
        return self.temperature_c < SETS_AT_C[self.white] - _SOLID_MARGIN_K

    @property
    def is_set(self) -> bool:
        """Solid: not melted, or cooled below where it sets."""
        return self.solid_fraction > 0.5 or self.has_cooled

    def conditions(self, *, temperature_c: float | None = None, number_factor: float = 1.0) -> Conditions:
        """What decides its flow, at another temperature (degC) or with another label number if asked."""
        warmth = self.temperature_c if temperature_c is None else temperature_c
        return Conditions(
            number=min(400.0, max(1.0, self.label_number * number_factor)),
            fat_fraction=self.base_fat_fraction,
            kind="coating" if self.white == "coating" else "chocolate",
            temperature_c=warmth,
            tempered=self.white == "tempered",
            water_fraction=self.water_fraction,
            new_fat_fraction=self.fat_fraction,
            overheated_minutes=self.overheated_minutes,
            k_per_s=self.k_per_s,
        )

    def flow(self, *, temperature_c: float | None = None, number_factor: float = 1.0) -> Flow | None:
        """Its Casson pair; None when it will not flow, or is no coating any more: nearly all of it fat, or colour."""
        try:
            return flow_now(self.conditions(temperature_c=temperature_c, number_factor=number_factor))
        except (WillNotFlow, OutOfBounds):
            return None

    def flow_range(self) -> tuple[Flow | None, Flow | None]:
        """The flow at the low and the high end of what the label number may be."""
        spread = self.context.number_spread
        return self.flow(number_factor=1 - spread), self.flow(number_factor=1 + spread)

    def stands_at(self) -> float | None:
        """Trade number as it stands; None when it will not flow."""
        flow = self.flow()
        return None if flow is None else number_from_flow(flow)

    @property
    def word(self) -> str:
        """The word of the ribbon now."""
        flow = self.flow()
        return "stiff" if flow is None or self.is_set else flow_word(flow)

    @property
    def cooling(self) -> BowlCooling:
        """How it cools in this room."""
        return BowlCooling(self.mass_g, self.context.room_c, self.context.loss)

    def leaves_window_c(self, *, number_factor: float = 1.0) -> float:
        """Temperature in degC at which it gets too thick for its technique, or too cold to work; its own when it
        is too thick already. With another label number if asked."""
        floor = self.warmth.floor_c
        window = self.context.window
        if window is None:
            return floor

        def thick(temperature_c: float) -> bool:
            flow = self.flow(temperature_c=temperature_c, number_factor=number_factor)
            return flow is None or window.verdict(flow, self.white) in ("thick", "uneven")

        high = self.temperature_c
        if thick(high):
            return high
        if not thick(floor):
            return floor
        low = floor
        for _ in range(24):
            middle = (low + high) / 2
            low, high = (middle, high) if thick(middle) else (low, middle)
        return high

    def usable_until_s(self) -> float | None:
        """Moment in s at which it gets too stiff if left alone; None when it already is, or is empty."""
        if self.empty or self.is_set:
            return None
        limit = self.leaves_window_c()
        if self.temperature_c <= limit:
            return None
        left = self.cooling.time_to_s(self.temperature_c, limit)
        return None if math.isinf(left) else self.at_s + left

    def usable_range_s(self) -> tuple[float, float] | None:
        """The 90 % range of `usable_until_s`: by the label, the heat it loses and how warm it is taken to be, joined in
        quadrature on the logarithm of the time that is left."""
        until = self.usable_until_s()
        if until is None:
            return None
        left_s, spread = until - self.at_s, self.context.number_spread
        lower, higher = [RANGE_SD * self.context.loss_sd], [RANGE_SD * self.context.loss_sd]
        for warmer_k, number in ((-WARMTH_K, 1.0), (WARMTH_K, 1.0), (0.0, 1 + spread), (0.0, 1 - spread)):
            start_c = self.temperature_c + warmer_k
            other_s = self.cooling.time_to_s(start_c, min(start_c, self.leaves_window_c(number_factor=number)))
            off = math.log(max(other_s, 1.0) / max(left_s, 1.0))
            (lower if off < 0 else higher).append(off)
        return self.at_s + left_s * math.exp(-math.hypot(*lower)), self.at_s + left_s * math.exp(math.hypot(*higher))
