"""A home test read as the trade number of the bowl as it stands, with the range hands leave in it.

A single test fixes one of two values; the other follows from the ratio of yield stress to viscosity that the bowl is
reckoned to have.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from coating.errors import TestsDisagree
from coating.flow.casson1959 import Flow
from coating.flow.home_tests.back_drip import number_from_drip
from coating.flow.home_tests.bag_drain import calibrated_hole_mm, number_from_drain
from coating.flow.home_tests.dipped_card import number_from_card
from coating.flow.home_tests.roussel_coussot2005 import Spread
from coating.flow.ribbon import flow_word
from coating.flow.trade_number import flow_from_number, number_from_flow
from coating.limits import BOUNDS

# Relative, with a kitchen scale; estimates. The hole dominates a bag: as cut, or calibrated.
BAG_OFF, BAG_CALIBRATED_OFF, CARD_OFF, DRIP_OFF = 0.2, 0.1, 0.25, 0.35
NARROWEST_MM, WIDEST_MM = 1.05, 19.5


@dataclass(frozen=True)
class TestReading:
    """Trade number as it stands, its range, and the word of the ribbon."""

    number: float
    low: float
    high: float
    word: str

    @property
    def off(self) -> float:
        """Half the range, relative."""
        return (self.high - self.low) / 2 / self.number


def _ratio(flow: Flow) -> float:
    bound = BOUNDS["k_per_s"]
    return min(bound.high, max(bound.low, flow.yield_stress_pa / flow.viscosity_pa_s))


def _reading(number: float, low: float, high: float, flow: Flow) -> TestReading:
    bound = BOUNDS["number"]
    number, low, high = (min(bound.high, max(bound.low, n)) for n in (number, low, high))
    return TestReading(number, low, high, flow_word(flow_from_number(number, k_per_s=_ratio(flow))))


def read_spread(spread: Spread, flow: Flow) -> TestReading:
    """A spread of a bowl whose flow is reckoned to be `flow`."""
    per_pa = number_from_flow(flow) / flow.yield_stress_pa
    return _reading(spread.yield_stress_pa * per_pa, spread.low_pa * per_pa, spread.high_pa * per_pa, flow)


def read_drain(
    seconds: float, flow: Flow, *, hole_mm: float, from_g: float, to_g: float, calibrated: bool = False
) -> TestReading:
    """A bag that drained, of a bowl whose flow is reckoned to be `flow`; through a hole as cut, or a calibrated one."""
    off = BAG_CALIBRATED_OFF if calibrated else BAG_OFF
    number = number_from_drain(seconds, hole_mm=hole_mm, from_g=from_g, to_g=to_g, k_per_s=_ratio(flow))
    return _reading(number, number * (1 - off), number * (1 + off), flow)


def hole_from_drain(seconds: float, flow: Flow, number: float, *, from_g: float, to_g: float) -> float:
    """How wide a hole is, mm, from a drain of a bowl of known number whose flow is reckoned to be like `flow`.

    Raises
    ------
    TestsDisagree : no hole between 1 and 20 mm takes so long.
    """
    hole_mm = calibrated_hole_mm(seconds, number, from_g=from_g, to_g=to_g, k_per_s=_ratio(flow))
    if not NARROWEST_MM < hole_mm < WIDEST_MM:
        raise TestsDisagree(
            "No hole between {narrowest_mm} and {widest_mm} takes that long. Check the time again.",
            narrowest_mm=NARROWEST_MM,
            widest_mm=WIDEST_MM,
            field="seconds",
        )
    return hole_mm


def read_card(mass_g: float, flow: Flow, *, width_mm: float, dipped_mm: float, wait_s: float) -> TestReading:
    """A dipped card, of a bowl whose flow is reckoned to be `flow`."""
    number = number_from_card(mass_g, width_mm=width_mm, dipped_mm=dipped_mm, wait_s=wait_s, k_per_s=_ratio(flow))
    return _reading(number, number * (1 - CARD_OFF), number * (1 + CARD_OFF), flow)


def read_drip(length_mm: float, flow: Flow, **drip: Any) -> TestReading:
    """A drip that ran so far, of a bowl whose flow is reckoned to be `flow`; `drip` as for `number_from_drip`."""
    number = number_from_drip(length_mm, **drip)
    return _reading(number, number * (1 - DRIP_OFF), number * (1 + DRIP_OFF), flow)
