"""Fold the events of a bowl into its state at any moment.

Events are only ever appended. They fold by (at_s, seq); a struck event stays in the list and counts for nothing.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from coating.colour.mixing import FAT, Mixture, Part, colour_load, merge, mix
from coating.errors import WillNotFlow
from coating.flow.additions.overheating import overheated_minutes
from coating.flow.casson1959 import Flow
from coating.flow.ribbon import flow_word
from coating.flow.state import Conditions, flow_now
from coating.flow.trade_number import number_from_flow
from coating.flow.windows import Window
from coating.heat.cooling import BowlCooling
from coating.heat.melting import COUPLING, MELTS_AT_C, TEMPER_LOST_C, warmed_temperature_c, working_floor_c
from coating.heat.setting import SETS_AT_C
from coating.limits import BOUNDS

KINDS = (
    "added", "warmed", "cooled", "stirred", "tested", "read", "split", "used", "received", "struck",
)  # fmt: skip
DEFAULT_NUMBER, DEFAULT_FAT = 45.0, 0.32
LABEL_SPREAD = 0.2
TESTED_SPREAD, WIDEST_SPREAD = 0.1, 0.5
_SOLID_MARGIN_K = 1.0


@dataclass(frozen=True)
class BowlContext:
    """What is known about a bowl besides its events.

    Attributes
    ----------
    room_c : degC. number, fat_fraction : of its base; None reads them off the bases in it.
    white : "coating", "tempered" or "untempered"; None reads it off the bases (never tempered).
    window : the technique it is for, if any. number_spread : relative range of the label number.
    """

    room_c: float = 21.0
    number: float | None = None
    fat_fraction: float | None = None
    white: str | None = None
    window: Window | None = None
    k_per_s: float | None = None
    number_spread: float = LABEL_SPREAD


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

    @cached_property
    def mass_g(self) -> float:
        return sum(p.mass_g for p in self.parts)

    @cached_property
    def base_g(self) -> float:
        return sum(p.mass_g for p in self.parts if p.ingredient.is_base)

    @property
    def empty(self) -> bool:
        return self.mass_g <= 0

    @property
    def load(self) -> float | None:
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
    def water_fraction(self) -> float:
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
            tempered=self.white == "tempered" and warmth <= TEMPER_LOST_C,
            water_fraction=self.water_fraction,
            new_fat_fraction=self.fat_fraction,
            overheated_minutes=self.overheated_minutes,
            k_per_s=self.k_per_s,
        )

    def flow(self, *, temperature_c: float | None = None, number_factor: float = 1.0) -> Flow | None:
        """Its Casson pair; None when it will not flow."""
        try:
            return flow_now(self.conditions(temperature_c=temperature_c, number_factor=number_factor))
        except WillNotFlow:
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
        return BowlCooling(self.mass_g, self.context.room_c)

    def leaves_window_c(self) -> float:
        """Temperature in degC at which it gets too thick for its technique, or too cold to work; its own when it
        is too thick already."""
        floor = working_floor_c(self.white)
        window = self.context.window
        if window is None:
            return floor

        def thick(temperature_c: float) -> bool:
            flow = self.flow(temperature_c=temperature_c)
            return flow is None or window.verdict(flow) in ("thick", "uneven")

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


def _wait(state: BowlState, at_s: float) -> BowlState:
    """Let time pass: it cools towards the room and, if hot, suffers."""
    duration = at_s - state.at_s
    if duration <= 0 or state.empty:
        return replace(state, at_s=max(at_s, state.at_s))
    cooling = state.cooling
    harm = overheated_minutes(
        state.temperature_c,
        surround_c=state.context.room_c,
        time_constant_s=cooling.time_constant_s,
        duration_s=duration,
    )
    if state.solid_fraction > 0.5:
        harm = 0.0
    waited = replace(
        state,
        at_s=at_s,
        temperature_c=cooling.temperature_c(state.temperature_c, duration),
        overheated_minutes=state.overheated_minutes + harm,
    )
    return replace(waited, solid_fraction=1.0, warmest_c=waited.temperature_c) if waited.has_cooled else waited


def _take(state: BowlState, mass_g: float, what: str) -> BowlState:
    if state.empty:
        return replace(state, notes=(*state.notes, f"{what} from an empty bowl"))
    share = mass_g / state.mass_g
    if share >= 1 - 1e-9:
        note = (f"{what} more than was in the bowl",) if share > 1 + 1e-6 else ()
        return replace(state, parts=(), notes=(*state.notes, *note))
    return replace(state, parts=tuple(Part(p.ingredient, p.mass_g * (1 - share)) for p in state.parts))


def _apply(state: BowlState, event: Event) -> BowlState:
    kind = event.kind
    if kind in ("added", "received"):
        fresh = state.empty
        joined = replace(state, parts=merge((*state.parts, *event.parts)))
        if fresh and event.to_c is not None:
            melted = event.to_c >= MELTS_AT_C
            return replace(joined, temperature_c=event.to_c, solid_fraction=0.0 if melted else 1.0)
        if fresh:
            return replace(joined, temperature_c=state.context.room_c, solid_fraction=1.0)
        return joined
    if kind in ("warmed", "cooled") and event.to_c is not None:
        solid = state.solid_fraction
        if event.to_c >= MELTS_AT_C:
            solid = 0.0
        return replace(state, temperature_c=event.to_c, solid_fraction=solid)
    if kind == "warmed" and event.seconds is not None and event.power_w is not None:
        energy = event.seconds * event.power_w * event.power_fraction * COUPLING
        temperature, solid = warmed_temperature_c(
            state.mass_g, state.temperature_c, energy, solid_fraction=state.solid_fraction
        )
        return replace(state, temperature_c=min(temperature, 120.0), solid_fraction=solid)
    if kind in ("used", "split") and event.mass_g is not None:
        return _take(state, event.mass_g, kind)
    if kind == "tested" and event.test == "lumps" and event.value is not None:
        return _looked(state, min(1.0, max(0.0, event.value)))
    if kind == "tested" and event.value is not None and event.value >= 1:
        return _tested(state, event)
    if kind == "read" and event.lab is not None:
        return replace(state, reading=event.lab)
    return state


def _looked(state: BowlState, lumps: float) -> BowlState:
    """So much of it is still lumps: stirred, it stands where it melts; without any, above that."""
    if lumps > 0:
        return replace(state, solid_fraction=lumps, temperature_c=min(state.temperature_c, MELTS_AT_C))
    return replace(state, solid_fraction=0.0, temperature_c=max(state.temperature_c, MELTS_AT_C + 1))


def _tested(state: BowlState, event: Event) -> BowlState:
    """A label number was read ("number"), or how it stands was measured ("stands"): the flow goes with the label number
    in proportion, so what was measured says which label number it has. Two tests together also say the ratio of yield
    stress to viscosity, which warmth and fat have moved from that of the label."""
    value = event.value or 1.0
    spread = TESTED_SPREAD if event.off is None else min(event.off, WIDEST_SPREAD)
    known = replace(state.context, number_spread=spread)
    if event.test == "number":
        return replace(state, number=value, context=known)
    flow = state.flow()
    if event.test != "stands" or flow is None or state.empty:
        return state
    if event.ratio_per_s is not None:
        bound = BOUNDS["k_per_s"]
        label_ratio = state.k_per_s * event.ratio_per_s * flow.viscosity_pa_s / flow.yield_stress_pa
        known = replace(known, k_per_s=min(bound.high, max(bound.low, label_ratio)))
        flow = replace(state, context=known).flow() or flow
    number = min(400.0, max(1.0, state.label_number * value / number_from_flow(flow)))
    return replace(state, number=number, context=known)


def fold(events: Sequence[Event], context: BowlContext, *, at_s: float) -> BowlState:
    """The state of a bowl at a moment.

    Parameters
    ----------
    events : in any order; those after `at_s` and those struck out do not count.
    context : what is known besides. at_s : the moment, s.

    Returns
    -------
    BowlState. It never refuses a list of events: what cannot be (more used than there was) is in `notes`.
    """
    struck = {e.target_seq for e in events if e.kind == "struck" and e.at_s <= at_s}
    state = BowlState(context, 0.0, (), context.room_c, 1.0, 0.0, context.number)
    live = [e for e in events if e.at_s <= at_s and e.kind != "struck" and e.seq not in struck]
    return carry_on(state, live, at_s=at_s)


def carry_on(state: BowlState, events: Iterable[Event] = (), *, at_s: float) -> BowlState:
    """A folded state with later events (none of them strikes), left alone until `at_s` (s)."""
    for event in sorted(events, key=lambda e: (e.at_s, e.seq)):
        state = _apply(_wait(state, event.at_s), event)
        state = replace(state, warmest_c=max(state.warmest_c, state.temperature_c))
    return _wait(state, at_s)


def course(events: Iterable[Event], context: BowlContext, moments_s: Iterable[float]) -> list[BowlState]:
    """The state of a bowl at each of some moments (s), in their order; `events` hold no strikes."""
    ahead = sorted(events, key=lambda e: (e.at_s, e.seq))
    state, states, done = fold([], context, at_s=0.0), [], 0
    for at_s in sorted(moments_s):
        while done < len(ahead) and ahead[done].at_s <= at_s:
            state, done = carry_on(state, [ahead[done]], at_s=ahead[done].at_s), done + 1
        states.append(carry_on(state, at_s=at_s))
    return states
