"""Predicted numbers: records of one number each, as residuals and slopes, from the core's own models.

Most go in proportion to their one factor and are worked out once (`Straight`); the others bend and are worked out anew
at every step, all of a kind at once.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from coating.errors import CoatingError
from coating.flow.casson1959 import Flow
from coating.flow.home_tests.roussel_coussot2005 import spread
from coating.flow.state import Conditions, flow_now
from coating.heat.cooling import BowlCooling
from coating.heat.setting import setting_time
from coating.learning.observations import Observation
from coating.limits import BOUNDS
from coating.shape.coats import DRAIN_S, ORDINARY, TAP_G
from coating.units import GRAVITY

Array = NDArray[np.float64]
STEP = 1e-4  # of ln, for slopes
WIDEST = 1.5  # of ln, to which a table of warmth against flow goes
_NODES = np.linspace(-WIDEST, WIDEST, 13)


class Numbers:
    """Records of one number: their parameters' places (N, k), what was seen and the sd it is counted in."""

    def __init__(self, records: Sequence[Observation], places: Mapping[str, int], noise: Mapping[str, float]) -> None:
        self.records = list(records)
        self.parameters = len(places)
        self.places = np.array([[places[n] for n in r.names()] for r in records], dtype=int).reshape(len(records), -1)
        self.seen = np.array([r.value for r in records])
        self.sd = np.array([math.hypot(noise[r.kind], r.off) for r in records])
        self.set_up([r.given for r in records], noise)

    def set_up(self, given: Sequence[Mapping[str, Any]], noise: Mapping[str, float]) -> None:
        """Whatever does not change with the parameters."""

    def off(self, x: Array) -> Array:
        """How far off each is, standardised, seen less predicted, at the logarithms (N, k) of its factors."""
        raise NotImplementedError

    def at(self, x: Array) -> tuple[Array, Array]:
        """Standardised residuals (N,), and the slopes of the predictions by all parameters (N, M)."""
        here = x[self.places]
        r, slopes = self.off(here), np.zeros((len(self.records), self.parameters))
        rows = np.arange(len(self.records))
        for i in range(self.places.shape[1]):
            there = here.copy()
            there[:, i] += STEP
            slopes[rows, self.places[:, i]] = (r - self.off(there)) / STEP
        return r, slopes

    def expected(self, row: int, off: float) -> float:
        """What was expected of a record that is so far off."""
        return float(self.seen[row] * math.exp(-off * self.sd[row]))


class Straight(Numbers):
    """What goes with a power of its one factor: drops, paces, spreads, sheets, lines, coats that were measured."""

    def set_up(self, given: Sequence[Mapping[str, Any]], noise: Mapping[str, float]) -> None:
        each = [_STRAIGHT[r.kind](r) for r in self.records]
        self.start, self.power = (np.array([e[i] for e in each]) for i in (0, 1))

    def off(self, x: Array) -> Array:
        return np.asarray((self.start - self.power * x[:, 0]) / self.sd)

    def at(self, x: Array) -> tuple[Array, Array]:
        slopes = np.zeros((len(self.records), self.parameters))
        slopes[np.arange(len(self.records)), self.places[:, 0]] = self.power / self.sd
        return self.off(x[self.places]), slopes


class Films(Numbers):
    """Grams that went on by dipping: by the hand's coat and the flow of the base."""

    def set_up(self, given: Sequence[Mapping[str, Any]], noise: Mapping[str, float]) -> None:
        self.film = _Film(given)
        self.start = np.log(self.seen / np.array([g["expected_g"] for g in given]))

    def off(self, x: Array) -> Array:
        return np.asarray((self.start - np.log(self.film.mm(x[:, 1])) - x[:, 0]) / self.sd)


class Coats(Numbers):
    """Minutes until a coat is set that was not measured: spread so thick, or, of a film, left by the hand."""

    def set_up(self, given: Sequence[Mapping[str, Any]], noise: Mapping[str, float]) -> None:
        self.by_mm = np.array([_minutes_by_mm(g) for g in given]).reshape(len(given), 2)
        self.mm = np.array([g["thickness_mm"] for g in given])
        self.film = _Film(given) if self.places.shape[1] == 3 else None

    def off(self, x: Array) -> Array:
        mm = (self.film.mm(x[:, 2]) if self.film else self.mm) * np.exp(x[:, 1])
        minutes = self.by_mm[:, 0] * mm + self.by_mm[:, 1] * mm * mm
        return np.asarray((np.log(self.seen) - np.log(minutes) - x[:, 0]) / self.sd)


class Stiffs(Numbers):
    """Minutes until a bowl got too stiff: it cools to where the window of its flow ends."""

    def set_up(self, given: Sequence[Mapping[str, Any]], noise: Mapping[str, float]) -> None:
        self.room, self.start = (np.array([g[n] for g in given]) for n in ("room_c", "start_c"))
        self.tau = np.array([BowlCooling(g["mass_g"], g["room_c"]).time_constant_s / 60 for g in given])
        self.ends = np.array([_ends_at_c(*(g[n] for n in _ENDS_BY)) for g in given]).reshape(len(given), len(_NODES))
        zero = np.zeros(len(given))
        by_start = np.log(self._minutes(zero, zero, self.start + 0.5) / self._minutes(zero, zero, self.start - 0.5))
        self.sd = np.hypot(self.sd, by_start * noise["warmth"])

    def _minutes(self, loss: Array, flow: Array, start_c: Array) -> Array:
        place = np.clip((flow + WIDEST) / (_NODES[1] - _NODES[0]), 0, len(_NODES) - 1 - 1e-9)
        left = place.astype(int)
        rows = np.arange(len(left))
        ends = self.ends[rows, left] + (place - left) * (self.ends[rows, left + 1] - self.ends[rows, left])
        ends = np.clip(ends, self.room + 0.3, start_c - 0.3)
        return np.asarray(self.tau * np.exp(-loss) * np.log((start_c - self.room) / (ends - self.room)))

    def off(self, x: Array) -> Array:
        return np.asarray((np.log(self.seen) - np.log(self._minutes(x[:, 0], x[:, 1], self.start))) / self.sd)


class Warmths(Numbers):
    """Two readings of a thermometer in a bowl that cools."""

    def set_up(self, given: Sequence[Mapping[str, Any]], noise: Mapping[str, float]) -> None:
        self.room, start, minutes = (np.array([g[n] for g in given]) for n in ("room_c", "start_c", "minutes"))
        self.above = start - self.room
        tau = np.array([BowlCooling(g["mass_g"], g["room_c"]).time_constant_s / 60 for g in given])
        self.spans = minutes / tau
        self.sd = self.sd * np.hypot(1.0, np.exp(-self.spans))

    def off(self, x: Array) -> Array:
        return np.asarray((self.seen - self.room - self.above * np.exp(-self.spans * np.exp(x[:, 0]))) / self.sd)

    def expected(self, row: int, off: float) -> float:
        return float(self.seen[row] - off * self.sd[row])


def grouped(records: Sequence[Observation], places: Mapping[str, int], noise: Mapping[str, float]) -> list[Numbers]:
    """Records of one number, all of a kind together."""
    groups: dict[tuple[type[Numbers], int], list[Observation]] = {}
    for record in records:
        groups.setdefault((_group_of(record), len(record.names())), []).append(record)
    return [kind(of, places, noise) for (kind, _), of in groups.items()]


def _group_of(record: Observation) -> type[Numbers]:
    if record.kind in ("used", "set") and len(record.names()) > 1:
        return Films if record.kind == "used" else Coats
    return {"stiff": Stiffs, "warmth": Warmths}.get(record.kind, Straight)


# -- what goes with a power of one factor: ln(seen/expected) and the power ---------------------------------------------
def _in_proportion(record: Observation) -> tuple[float, float]:
    expected = record.given["expected_s" if record.kind == "pace" else "expected_g"]
    return math.log(record.value / expected), 2.0 if record.given.get("line") else 1.0


def _spread(record: Observation) -> tuple[float, float]:
    """The diameter goes with a small power of the yield stress, the smaller the more of a heap it is."""
    g = record.given
    poured = {"volume_ml": g["volume_ml"], "wait_s": g["wait_s"]}
    narrowest = max(BOUNDS["spread_mm"].low, 10.5 * (4 * g["volume_ml"] / math.pi) ** (1 / 3))
    mm = min(max(record.value, narrowest), BOUNDS["spread_mm"].high / 1.02)
    seen = spread(diameter_mm=mm, **poured).yield_stress_pa
    wider = spread(diameter_mm=mm * 1.01, **poured).yield_stress_pa
    power = math.log(1.01) / (math.log(wider) - math.log(seen))
    return math.log(seen / _flow(g).yield_stress_pa) * power + math.log(record.value / mm), power


def _measured_coat(record: Observation) -> tuple[float, float]:
    first, second = _minutes_by_mm(record.given)
    mm = record.given["thickness_mm"]
    return math.log(record.value / (first * mm + second * mm * mm)), 1.0


_STRAIGHT = {
    "drops": _in_proportion,
    "pace": _in_proportion,
    "used": _in_proportion,
    "spread": _spread,
    "set": _measured_coat,
}


# -- models that are asked often ---------------------------------------------------------------------------------------
class _Film:
    """The film that a hand leaves, by the flow of its base (see `coating.shape.coats`)."""

    def __init__(self, given: Sequence[Mapping[str, Any]]) -> None:
        flows = [_flow(g) for g in given]
        pull = ORDINARY.density_kg_m3 * GRAVITY * (1 + TAP_G)
        below_m = np.array([max(g["below_mm"], 0.1) / 1000 for g in given])
        self.standing = np.array([f.yield_stress_pa for f in flows]) / pull
        self.draining = 4 * np.sqrt(np.array([f.viscosity_pa_s for f in flows]) * below_m / (pull * DRAIN_S))

    def mm(self, ln_flow: Array) -> Array:
        """Its thickness, mm, where the flow number is so many times the label's."""
        standing, draining = self.standing * np.exp(ln_flow), self.draining * np.exp(ln_flow / 2)
        return np.asarray(250 * (np.sqrt(standing) + np.sqrt(standing + draining)) ** 2)


def _flow(g: Mapping[str, Any]) -> Flow:
    return flow_now(Conditions(g["number"], kind=g["kind"], temperature_c=g["temperature_c"], k_per_s=g["k_per_s"]))


def _minutes_by_mm(g: Mapping[str, Any]) -> tuple[float, float]:
    return _minutes(g["pour_c"], g["surround_c"], g["place"], g["white"], g.get("sides") or 1.0, g["until"])


@lru_cache(maxsize=4096)
def _minutes(pour_c: float, surround_c: float, place: str, white: str, sides: float, until: str) -> tuple[float, float]:
    """Minutes to set by thickness: c1 d + c2 d2 of a d in mm (see `coating.heat.setting`)."""
    around = {"pour_c": pour_c, "surround_c": surround_c, "sides": sides}
    sets = [setting_time(mm, place=place, white=white, **around) for mm in (1.0, 2.0)]
    one, two = (s.touch_min if until == "touch" else s.release_min for s in sets)
    second = (two - 2 * one) / 2
    return one - second, second


_ENDS_BY = ("number", "kind", "k_per_s", "most_pa", "most_pa_s")


@lru_cache(maxsize=1024)
def _ends_at_c(number: float, kind: str, k_per_s: float, most_pa: float, most_pa_s: float) -> tuple[float, ...]:
    """How warm it is where a flow leaves its window, degC, at each of _NODES of ln of the factor on its number."""
    limits = (number, kind, k_per_s, most_pa, most_pa_s)
    return tuple(_leaves_at_c(*limits, math.exp(node)) for node in _NODES)


def _leaves_at_c(number: float, kind: str, k_per_s: float, most_pa: float, most_pa_s: float, factor: float) -> float:
    low, high = -10.0, 60.0
    for _ in range(30):
        middle = (low + high) / 2
        try:
            flow = flow_now(Conditions(number, kind=kind, temperature_c=middle, k_per_s=k_per_s))
            stiff = flow.yield_stress_pa * factor > most_pa or flow.viscosity_pa_s * factor > most_pa_s
        except CoatingError:
            stiff = True
        low, high = (middle, high) if stiff else (low, middle)
    return high
