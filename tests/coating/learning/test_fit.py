"""What a kitchen's records say: closed forms first, then what must not matter, then kitchens whose truth is known."""

from __future__ import annotations

import math
import random
import unittest
from dataclasses import replace

from coating.colour.mixing import Part, mix
from coating.errors import CoatingError
from coating.learning import PRIORS, Observation, fit
from coating.learning.factors import Factor, Factors
from coating.learning.next_test import what_to_test
from coating.stock.ingredients import demo_ingredient
from tests.coating.learning.drawn import COLOURS, evening, truth

RANGE = 2 * 1.645
THIRD = 0.3  # of ln


def pace(name: str, value: float, **more: float | bool) -> Observation:
    return Observation(name, "pace", name, float(more.pop("day", 0)), value=value, given={"expected_s": 100.0}, **more)  # type: ignore[arg-type]


def six_drops(name: str, times: float = 1.0, struck: bool = False) -> Observation:
    """A reading of six drops of blue in 200 g, of a bottle so many times as strong."""
    white, blue = demo_ingredient("bright"), demo_ingredient("blue")
    strong = Factors({"strength.blue": Factor(times)}).ingredient(blue)
    lab = mix([Part(white, 200.0), Part(strong, 6 * blue.unit_g)]).lab()
    parts = (Part(white, 200.0), Part(blue, 6 * blue.unit_g))
    return Observation(name, "read", name, 0, parts, lab=lab, struck=struck)


class ClosedForms(unittest.TestCase):
    def test_a_normal_prior_and_normal_noise(self) -> None:
        """Precisions add: four answers of 130 s with .1 of ln against a prior of .35 (Gelman et al., Bayesian Data
        Analysis, the normal mean with known variance)."""
        fitted = fit([pace(f"p{i}", 130.0) for i in range(4)])
        learned = fitted.learned[0]
        self.assertAlmostEqual(math.log(learned.factor), math.log(1.3) * 400 / (400 + 0.35**-2), delta=2e-4)
        sd = math.log(learned.high / learned.low) / RANGE
        self.assertTrue(1.0 <= sd / (400 + 0.35**-2) ** -0.5 <= 1.2, sd)
        self.assertEqual((learned.records, learned.bowls, fitted.odd, learned.alone), (4, 4, (), True))

    def test_a_slipped_decimal_point_does_not_pull(self) -> None:
        four = [pace(f"p{i}", 130.0) for i in range(4)]
        fitted = fit([*four, pace("x", 1300.0)])
        self.assertAlmostEqual(fitted.factors["pace"], fit(four).factors["pace"], delta=0.025)
        self.assertEqual([(o.id, o.seen) for o in fitted.odd], [("x", (1300.0,))])
        self.assertAlmostEqual(fitted.odd[0].expected[0], 129.3, delta=0.5)
        self.assertEqual(fitted.learned[0].odd, ("x",))
        self.assertAlmostEqual(dict(fitted.learned[0].says)["x"], 13.0, delta=0.01)

    def test_drop_and_bottle_share_as_their_variances(self) -> None:
        """One reading knows the product alone; each takes its share of it, .04 and .09 of .13."""
        strong = six_drops("a", math.exp(THIRD))
        fitted = fit(
            [strong],
            priors={"strength": 0.3},
            noise={"read": 0.1},
            together=[("drop", "strength.blue"), ("drop", "strength.red")],
        )
        both, never_used = fitted.together
        self.assertAlmostEqual(math.log(both.factor), THIRD, delta=0.01)
        self.assertAlmostEqual(math.log(fitted.factors["drop"]), THIRD * 0.04 / 0.13, delta=0.01)
        self.assertAlmostEqual(math.log(fitted.factors["strength.blue"]), THIRD * 0.09 / 0.13, delta=0.01)
        self.assertAlmostEqual(never_used.factor, fitted.factors["drop"], delta=1e-9)
        self.assertEqual([one.alone for one in fitted.learned], [False, False])
        weighed = Observation("w", "drops", "w", 0, value=0.8, given={"expected_g": 0.8})
        settled = {one.name: one.alone for one in fit([strong, weighed], noise={"read": 0.1}).learned}
        self.assertEqual(settled, {"drop": True, "strength.blue": True})

    def test_before_anything_is_noted(self) -> None:
        fitted = fit([], together=[("drop", "strength.blue")], priors={"strength": 0.3})
        self.assertEqual((fitted.factors, fitted.learned, fitted.counted), ({}, (), 0))
        self.assertAlmostEqual(fitted.together[0].low, math.exp(-1.645 * math.hypot(0.2, 0.3)), delta=1e-4)


class WhatMustNotMatter(unittest.TestCase):
    def setUp(self) -> None:
        draw = random.Random(3)
        true = truth(draw)
        self.records = [r for n in range(6) for r in evening(draw, true, n)]

    def test_order_and_what_was_struck_out(self) -> None:
        straight = fit(self.records)
        self.assertEqual(fit(self.records[::-1]), straight)
        struck = [replace(r, id=f"z{r.id}", value=9 * r.value, struck=True) for r in self.records]
        self.assertEqual(fit([*struck, *self.records]), straight)

    def test_one_twice_as_sure_is_two(self) -> None:
        """But for what if it alone were wrong: one that is right with near certainty."""
        two = fit([pace("a", 130.0), pace("b", 130.0)], wrong_share=0.001)
        one = fit([pace("a", 130.0)], wrong_share=0.001, noise={"pace": 0.1 / math.sqrt(2)})
        self.assertAlmostEqual(two.factors["pace"], one.factors["pace"], delta=1e-3)

    def test_what_is_old_counts_less_and_the_future_counts_whole(self) -> None:
        old = [pace("a", 130.0), pace("b", 100.0, day=180.0)]
        factor = fit(old, wrong_share=0.001).factors["pace"]
        self.assertLess(factor, fit(old, half_life_days=None).factors["pace"])
        weights = 100 * 0.5, 100.0
        self.assertAlmostEqual(math.log(factor), math.log(1.3) * weights[0] / (sum(weights) + 0.35**-2), delta=2e-3)
        self.assertEqual(fit(old, as_of_day=0.0), fit(old, half_life_days=None, as_of_day=0.0))

    def test_what_cannot_be_is_refused(self) -> None:
        for records, more in (
            ([pace("a", 1.0), pace("a", 2.0)], {}),
            ([pace("a", math.nan)], {}),
            ([pace("a", 0.0)], {}),
            ([pace("a", 1.0)], {"wrong_share": 0.9}),
            ([], {"together": [("luck",)]}),
        ):
            with self.assertRaises(CoatingError):
                fit(records, **more)  # type: ignore[arg-type]
        with self.assertRaises(CoatingError):
            Factors({"strength": Factor(1.2)})
        wild = Observation("s", "spread", "b", 0, value=4000.0, given=self.spread())
        self.assertEqual([o.id for o in fit([wild]).odd], ["s"], "far outside of what the model knows, it is odd")

    def spread(self) -> dict[str, object]:
        return next(r.given for r in self.records if r.kind == "spread")


class KnownKitchens(unittest.TestCase):
    """Fifty kitchens of eight evenings, a fixed seed, one answer in ten wrong."""

    @classmethod
    def setUpClass(cls) -> None:
        draw = random.Random(11)
        cls.kitchens = []
        for _ in range(50):
            true = truth(draw)
            records = [r for n in range(8) for r in evening(draw, true, n)]
            cls.kitchens.append((true, records, fit(records, half_life_days=None)))

    def test_ranges_hold_the_truth_and_errors_shrink(self) -> None:
        held, errors = [], dict[str, list[float]]()
        for true, _, fitted in self.kitchens:
            for one in fitted.learned:
                held.append(one.low <= math.exp(true[one.name]) <= one.high)
                errors.setdefault(one.name.partition(".")[0], []).append(math.log(one.factor) - true[one.name])
            for product in fitted.together:
                held.append(product.low <= math.exp(sum(true[n] for n in product.names)) <= product.high)
        self.assertTrue(0.80 <= sum(held) / len(held) <= 0.97, sum(held) / len(held))
        for kind in ("pace", "coat", "hole", "set", "flow"):
            self.assertLess(_rms(errors[kind]), 0.5 * PRIORS[kind], kind)

    def test_the_product_of_drop_and_bottle_is_learned(self) -> None:
        off = [
            math.log(product.factor) - sum(true[n] for n in product.names)
            for true, _, fitted in self.kitchens
            for product in fitted.together
        ]
        self.assertEqual(len(off), 50 * len(COLOURS))
        self.assertLess(_rms(off), 0.12)

    def test_wrong_answers_are_named_and_right_ones_are_not(self) -> None:
        odd = sum(len(fitted.odd) for _, _, fitted in self.kitchens)
        self.assertTrue(0.06 < odd / sum(len(records) for _, records, _ in self.kitchens) < 0.12)

    def test_the_naive_ways_fail_where_this_one_does_not(self) -> None:
        """The mean, the last one, and a fit that takes every answer for right, held to the same."""
        ways: dict[str, list[float]] = {"ours": [], "mean": [], "last": [], "all right": []}
        for true, records, fitted in self.kitchens:
            says = [math.log(r.value / r.given["expected_s"]) for r in records if r.kind == "pace"]
            ours = math.log(fitted.factors["pace"])
            shrunk = sum(says) * 100 / (100 * len(says) + PRIORS["pace"] ** -2)
            for way, value in (
                ("ours", ours),
                ("mean", sum(says) / len(says)),
                ("last", says[-1]),
                ("all right", shrunk),
            ):
                ways[way].append(value - true["pace"])
        good = {way for way, off in ways.items() if _rms(off) < 0.1}
        self.assertEqual(good, {"ours"}, {way: round(_rms(off), 3) for way, off in ways.items()})


def _rms(values: list[float]) -> float:
    return math.sqrt(sum(v * v for v in values) / len(values))


class WhatNext(unittest.TestCase):
    def test_drops_first_where_many_colours_share_them_then_the_colour_that_is_known_least(self) -> None:
        known = [replace(six_drops(f"b{i}"), bowl=f"b{i}") for i in range(4)]
        counted = {f"strength.{c}": True for c in ("blue", "pink", "teal", "red")}
        best = what_to_test(fit(known), list(counted), counted)
        assert best
        self.assertNotEqual(best.of, "strength.blue", "that one is known")
        self.assertGreater(best.narrower, 0.05)
        self.assertIsNone(what_to_test(fit([]), [], {}))
