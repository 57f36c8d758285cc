"""What a bowl on the band shows over the next hour: temperatures and words, so that a page only interpolates."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from coating.errors import WillNotFlow
from coating.flow.ribbon import flow_word
from coating.flow.state import Conditions, flow_now
from coating.simulate.bowl import BowlState

STEP_S, HORIZON_S = 15, 3600
_GRID_C = 0.5


@dataclass(frozen=True)
class BandCurve:
    """Temperatures in degC every `step_s`; words as (from second, word)."""

    step_s: int
    temperatures_c: tuple[float, ...]
    words: tuple[tuple[int, str], ...]


@lru_cache(maxsize=8192)
def _word(conditions: Conditions, temperature_c: float) -> str:
    try:
        return flow_word(flow_now(replace(conditions, temperature_c=temperature_c)))
    except WillNotFlow:
        return "stiff"


def band_curve(state: BowlState, *, step_s: int = STEP_S, horizon_s: int = HORIZON_S) -> BandCurve:
    """The next hour of a bowl left alone. Words are taken on a half-degree grid."""
    cooling = state.cooling
    times_s = np.arange(0, horizon_s + 1, step_s)
    decay = np.exp(-times_s / cooling.time_constant_s)
    temperatures = (cooling.room_c + (state.temperature_c - cooling.room_c) * decay).round(1).tolist()
    words = [(0, state.word)]
    if not state.is_set:
        conditions = replace(state.conditions(temperature_c=0.0), overheated_minutes=round(state.overheated_minutes))
        last = None
        for i, temperature in enumerate(temperatures[1:], start=1):
            snapped = round(temperature / _GRID_C) * _GRID_C
            if snapped != last:
                word = _word(conditions, snapped)
                if word != words[-1][1]:
                    words.append((i * step_s, word))
            last = snapped
    return BandCurve(step_s, tuple(temperatures), tuple(words))
