"""What a bowl on the band shows over the next hour: temperatures and words, so that a page only interpolates."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

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


@lru_cache(maxsize=4096)
def _word(conditions: Conditions) -> str:
    try:
        return flow_word(flow_now(conditions))
    except WillNotFlow:
        return "stiff"


def band_curve(state: BowlState, *, step_s: int = STEP_S, horizon_s: int = HORIZON_S) -> BandCurve:
    """The next hour of a bowl left alone. Words are taken on a half-degree grid."""
    cooling = state.cooling
    temperatures = [round(cooling.temperature_c(state.temperature_c, t), 1) for t in range(0, horizon_s + 1, step_s)]
    words: list[tuple[int, str]] = []
    now = state.word
    words.append((0, now))
    if now != "stiff" or not state.is_set:
        for i, temperature in enumerate(temperatures[1:], start=1):
            snapped = round(temperature / _GRID_C) * _GRID_C
            word = _word(state.conditions(temperature_c=snapped))
            if word != words[-1][1]:
                words.append((i * step_s, word))
    return BandCurve(step_s, tuple(temperatures), tuple(words))
