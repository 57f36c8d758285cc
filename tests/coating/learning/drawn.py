"""Kitchens drawn from what is believed of kitchens, with their records: one answer in ten is simply wrong."""

from __future__ import annotations

import math
import random

from scipy.optimize import brentq

from coating.colour.mixing import Part, mix
from coating.flow.home_tests.roussel_coussot2005 import spread
from coating.flow.state import Conditions, flow_now
from coating.heat.setting import setting_time
from coating.learning import PRIORS, Observation
from coating.learning.factors import Factor, Factors
from coating.stock.ingredients import demo_ingredient

COLOURS = ("blue", "yellow", "pink")
WRONG = 0.1
POURED = {"pour_c": 38.0, "surround_c": 20.0, "place": "room", "white": "coating", "sides": 1.0}
SETS_MIN = setting_time(3.0, **POURED).touch_min  # type: ignore[arg-type]
YIELDS_PA = flow_now(Conditions(58.0, kind="coating", temperature_c=40.0, k_per_s=5.0)).yield_stress_pa
SPREAD_MM = brentq(lambda mm: spread(volume_ml=15.0, diameter_mm=mm, wait_s=60.0).yield_stress_pa - YIELDS_PA, 30, 200)


def truth(draw: random.Random) -> dict[str, float]:
    """Logarithms of the factors of a kitchen."""
    names = {"drop": "drop", "pace": "pace", "set": "set", "hole": "hole", "coat.flood": "coat", "flow.bright": "flow"}
    return {
        **{name: draw.gauss(0, PRIORS[kind]) for name, kind in names.items()},
        **{f"strength.{c}": draw.gauss(0, 0.3) for c in COLOURS},
    }


def evening(draw: random.Random, true: dict[str, float], number: int) -> list[Observation]:
    """What is noted of one bowl."""
    off = Factors({n: Factor(math.exp(v)) for n, v in true.items() if n == "drop" or n.startswith("strength")})
    one, other = draw.sample(COLOURS, 2)
    counted = [("bright", 0), (one, draw.randint(3, 9)), (other, draw.randint(3, 9))]

    def parts(factors: Factors) -> tuple[Part, ...]:
        of = [(factors.ingredient(demo_ingredient(name)), drops) for name, drops in counted]
        return tuple(Part(i, drops * i.unit_g if drops else 200.0) for i, drops in of)

    lab = [v + draw.gauss(0, 1.2) for v in mix(parts(off)).lab()]
    if draw.random() < WRONG:
        lab = [draw.uniform(40, 90), draw.uniform(-40, 40), draw.uniform(-40, 40)]
    records = [
        Observation(f"{number:03}r", "read", f"{number}", number, parts(Factors()), lab=(lab[0], lab[1], lab[2]))
    ]
    base = {"base": "bright", "number": 58.0, "kind": "coating", "k_per_s": 5.0, "temperature_c": 40.0}
    minutes = {"technique": "flood", "thickness_mm": 3.0, "measured": True, "until": "touch", **POURED}
    for kind, sd, exact, given in (
        ("pace", 0.1, 600 * math.exp(true["pace"]), {"expected_s": 600.0}),
        ("used", 0.05, 100 * math.exp(true["coat.flood"]), {"technique": "flood", "expected_g": 100.0}),
        ("used", 0.05, 20 * math.exp(2 * true["hole"]), {"technique": "lines", "line": True, "expected_g": 20.0}),
        ("set", 0.1, SETS_MIN * math.exp(true["set"]), minutes),
        ("spread", 0.04, SPREAD_MM * math.exp(-true["flow.bright"] / 5), {**base, "volume_ml": 15.0, "wait_s": 60.0}),
    ):
        value = exact * math.exp(draw.gauss(0, sd))
        if draw.random() < WRONG:
            value = exact * draw.choice((0.1, 0.4, 2.5, 6.0))
        name = f"{number:03}{kind}{given.get('technique', '')}"
        records.append(Observation(name, kind, f"{number}", number, value=value, given=given))
    return records
