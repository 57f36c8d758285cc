"""What learning is for: how far off the next first look is, by a reader and by eye, with one answer in ten wrong.

Forty kitchens of each, a fixed seed; bottles .3 and drops .2 of ln off, two colours of six in a bowl.
"""

from __future__ import annotations

import math
import random
import unittest

import numpy as np

from coating.colour.ciede2000 import colour_difference
from coating.colour.mixing import Part, mix
from coating.learning import Observation, fit
from coating.learning.factors import Factor, Factors
from coating.learning.observations import STEPS, WORDS
from coating.stock.ingredients import demo_ingredient
from tests.coating.learning.drawn import WRONG

SIX = ("blue", "yellow", "pink", "teal", "red", "green")
KITCHENS, BOWLS, SEVEN = 40, 15, 7
READ_SD, EYE_SD = 1.2, 0.3  # in Lab, and in steps of (3, 4, 4)
A_BIT, MUCH = 0.5, 1.75  # steps from which an eye says so
Bowl = tuple[tuple[str, int], ...]


def truth(draw: random.Random) -> Factors:
    return Factors(
        {
            "drop": Factor(math.exp(draw.gauss(0, 0.2))),
            **{f"strength.{c}": Factor(math.exp(draw.gauss(0, 0.3))) for c in SIX},
        }
    )


def parts(bowl: Bowl, factors: Factors) -> tuple[Part, ...]:
    white = Part(demo_ingredient("bright"), 200.0)
    own = [(factors.ingredient(demo_ingredient(name)), drops) for name, drops in bowl]
    return white, *(Part(i, drops * i.unit_g) for i, drops in own)


def looked(draw: random.Random, bowl: Bowl, true: Factors, number: int, *, reader: bool) -> Observation:
    """What is noted of a bowl: read, or judged beside the swatch that its recipe gave by the labels."""
    of, lab = {"bowl": f"{number}", "day": float(number), "parts": parts(bowl, Factors())}, mix(parts(bowl, true)).lab()
    wrong = draw.random() < WRONG
    if reader:
        read = [v + draw.gauss(0, READ_SD) for v in lab]
        if wrong:
            read = [draw.uniform(40, 90), draw.uniform(-40, 40), draw.uniform(-40, 40)]
        return Observation(f"{number:03}", "read", lab=(read[0], read[1], read[2]), **of)  # type: ignore[arg-type]
    beside = mix(parts(bowl, Factors())).lab()
    off = [(a - b) / step + draw.gauss(0, EYE_SD) for a, b, step in zip(lab, beside, STEPS, strict=True)]
    axis = max(range(3), key=lambda i: abs(off[i]))
    word = next((w for w, (i, way) in WORDS.items() if i == axis and way * off[axis] > A_BIT), "right")
    much = word != "right" and abs(off[axis]) > MUCH
    if wrong:
        word, much = draw.choice(list(WORDS)), draw.random() < 0.5
    return Observation(f"{number:03}", "look", lab=beside, word=word, much=much, **of)  # type: ignore[arg-type]


def misses(*, reader: bool) -> dict[int, float]:
    """Mean dE00 of the first look of the bowl after so many, by what these taught."""
    draw, off = random.Random(20261130 + reader), dict[int, list[float]]()
    for _ in range(KITCHENS):
        true = truth(draw)
        bowls = [tuple((c, draw.randint(3, 9)) for c in draw.sample(SIX, 2)) for _ in range(BOWLS + 1)]
        records = [looked(draw, bowl, true, n, reader=reader) for n, bowl in enumerate(bowls)]
        for known in (0, SEVEN, BOWLS):
            fitted = fit(records[:known], half_life_days=None)
            factors = Factors({name: Factor(min(5.0, max(0.2, f))) for name, f in fitted.factors.items()})
            expected, seen = (mix(parts(bowls[known], by)).lab() for by in (factors, true))
            off.setdefault(known, []).append(float(colour_difference(expected, seen)))
    return {known: float(np.mean(of)) for known, of in off.items()}


class FirstLooks(unittest.TestCase):
    def test_by_a_reader(self) -> None:
        off = misses(reader=True)
        self.assertGreater(off[0], 2.5, "without learning bottles and drops are that far off")
        self.assertLessEqual(off[SEVEN], 0.5 * off[0])
        self.assertLessEqual(off[BOWLS], 0.9)

    def test_by_eye(self) -> None:
        off = misses(reader=False)
        self.assertGreater(off[0], 2.5)
        self.assertLess(off[SEVEN], off[0])
        self.assertLessEqual(off[BOWLS], 2.3)
