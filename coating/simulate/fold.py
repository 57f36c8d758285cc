"""Fold the events of a bowl into its state at any moment.

Events are only ever appended. They fold by (at_s, seq); a struck event stays in the list and counts for nothing.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace

from coating.colour.fitting import learned_strengths, stronger
from coating.colour.mixing import Part, merge
from coating.flow.additions.overheating import overheated_minutes
from coating.flow.trade_number import number_from_flow
from coating.heat.melting import CEILING_C, coupling, warmed_temperature_c
from coating.heat.melting_curve import MELTS_AT_C, Heap, brought_together
from coating.limits import BOUNDS
from coating.simulate.bowl import BowlContext, BowlState, Event

TESTED_SPREAD, WIDEST_SPREAD = 0.1, 0.5
SMOOTH_BELOW_K = 1.0  # when the last lump has gone it is that much below where it is worked [assumed]


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
        bears_k=state.warmth.ceiling_c - CEILING_C,
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
    given_g = state.given_g + (mass_g if what == "split" else 0.0)
    state = replace(state, used_g=state.used_g + mass_g, given_g=given_g)
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
        parts = stronger(event.parts, dict(state.strengths))
        joined = replace(state, parts=merge((*state.parts, *parts)))
        if not fresh:
            return _stirred_in(state, joined, parts, event)
        warm_c = state.context.room_c if event.to_c is None else event.to_c
        solid = 0.0 if kind == "received" else joined.curve.solid_fraction(warm_c)
        return replace(joined, temperature_c=warm_c, solid_fraction=solid)
    if kind in ("warmed", "cooled") and event.to_c is not None:
        solid = min(state.solid_fraction, state.curve.solid_fraction(event.to_c))
        return replace(state, temperature_c=event.to_c, solid_fraction=solid)
    if kind == "warmed" and event.seconds is not None and event.power_w is not None:
        energy = event.seconds * event.power_w * event.power_fraction * coupling(state.mass_g)
        temperature, solid = warmed_temperature_c(
            state.mass_g, state.temperature_c, energy, solid_fraction=state.solid_fraction, curve=state.curve
        )
        return replace(state, temperature_c=min(temperature, 120.0), solid_fraction=solid)
    if kind in ("used", "split") and event.mass_g is not None:
        return _take(state, event.mass_g, kind)
    if kind == "tested" and event.test == "lumps" and event.value is not None:
        return _looked(state, min(1.0, max(0.0, event.value)))
    if kind == "tested" and event.value is not None and event.value >= 1:
        return _tested(state, event)
    if kind == "read" and event.lab is not None:
        return _read(state, event.lab)
    return state


def _stirred_in(state: BowlState, joined: BowlState, parts: tuple[Part, ...], event: Event) -> BowlState:
    """What is added cold cools it, and unmelted base takes its heat of melting from the bowl. What is poured over from
    another bowl without a word of its warmth is as warm as this one."""
    warm_c = event.to_c
    if warm_c is None:
        warm_c = state.temperature_c if event.kind == "received" else state.context.room_c
    curve, heaps = joined.curve, [Heap(state.mass_g, state.temperature_c, state.solid_fraction)]
    for part in parts:
        solid = curve.solid_fraction(warm_c) if part.ingredient.is_base and event.kind == "added" else 0.0
        heaps.append(Heap(part.mass_g, warm_c, solid))
    temperature_c, solid = brought_together(heaps, curve)
    return replace(joined, temperature_c=temperature_c, solid_fraction=solid)


def _read(state: BowlState, lab: tuple[float, float, float]) -> BowlState:
    """Its colour was read: the colours in it are likely so much stronger or weaker than thought."""
    if state.empty:
        return replace(state, reading=lab)
    state_read = learned_strengths(state.parts, lab)
    known = dict(state.strengths)
    strengths = tuple((name, known.pop(name, 1.0) * factor) for name, factor in state_read.items())
    return replace(state, reading=lab, parts=stronger(state.parts, state_read), strengths=(*strengths, *known.items()))


def _looked(state: BowlState, lumps: float) -> BowlState:
    """So much of it is still lumps: stirred, it stands where that much can be solid; without any, nearly where it is
    worked, and what is worked below where lumps melt a degree above that."""
    if lumps > 0:
        warm_c = min(state.temperature_c, state.curve.temperature_c(lumps))
        return replace(state, solid_fraction=lumps, temperature_c=warm_c)
    smooth_c = max(MELTS_AT_C + 1, state.warmth.work_at_c - SMOOTH_BELOW_K)
    return replace(state, solid_fraction=0.0, temperature_c=max(state.temperature_c, smooth_c))


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
    events : sequence of Event
        In any order; those after `at_s` and those struck out do not count.
    context : BowlContext
        What is known besides.
    at_s : float
        The moment, s since it was begun.

    Returns
    -------
    BowlState
        It never refuses a list of events: what cannot be (more used than there was) is in `notes`.
    """
    struck = {e.target_seq for e in events if e.kind == "struck" and e.at_s <= at_s}
    state = BowlState(context, 0.0, (), context.room_c, 1.0, 0.0, context.number, strengths=context.strengths)
    live = [e for e in events if e.at_s <= at_s and e.kind != "struck" and e.seq not in struck]
    return carry_on(state, live, at_s=at_s)


def carry_on(state: BowlState, events: Iterable[Event] = (), *, at_s: float) -> BowlState:
    """A folded state with later events.

    Parameters
    ----------
    state : BowlState
    events : iterable of Event
        None of them strikes another.
    at_s : float
        Until when it is left alone afterwards, s since it was begun.

    Returns
    -------
    BowlState
    """
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
