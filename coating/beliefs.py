"""How far apart kitchens are before anything is known of one.

Each is the natural logarithm of a factor on the default in force, normal beforehand with mean 0 and the sd given here.
The sds are assumptions that held on simulated kitchens; common practice, no source.
"""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

DROP, STRENGTH, FLOW, HOLE, LOSS, SET, COAT, PACE = (
    "drop",
    "strength",
    "flow",
    "hole",
    "loss",
    "set",
    "coat",
    "pace",
)
PRIORS: Mapping[str, float] = MappingProxyType(
    {DROP: 0.2, STRENGTH: 0.45, FLOW: 0.2, HOLE: 0.1, LOSS: 0.25, SET: 0.2, COAT: 0.2, PACE: 0.35}
)
OVEN_SD = 0.2  # of ln of the power that a microwave gives, and a bowl takes up; common practice, no source
RANGE_SD = 1.645  # ranges hold nine in ten
