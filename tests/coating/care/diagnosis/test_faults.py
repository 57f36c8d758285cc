"""How often it is right, on faults whose causes are hidden: limits that likelihoods 50 % off would still keep."""

from __future__ import annotations

from random import Random
from unittest import TestCase

from coating.care.diagnosis import TABLES
from tests.coating.care.diagnosis.faults import Outcome, faults, tried


def outcomes(count: int, seed: int, silent: float) -> list[Outcome]:
    rng = Random(seed + 1)
    return [tried(one, rng) for one in faults(count, seed=seed, silent=silent)]


class ThreeHundredFaults(TestCase):
    def test_the_cause_the_move_and_the_harm(self) -> None:
        them = outcomes(300, 20, 0.39)
        count = len(them)
        self.assertGreaterEqual(sum(o.first for o in them) / count, 0.58)
        self.assertGreaterEqual(sum(o.among_three for o in them) / count, 0.90)
        self.assertGreaterEqual(sum(o.helps for o in them) / count, 0.78)
        self.assertLessEqual(sum(o.harms for o in them), 6)
        self.assertLessEqual(sum(o.looks for o in them) / count, 1.5)

    def test_a_log_that_was_kept_is_the_best_witness(self) -> None:
        kept, silent = outcomes(150, 21, 0.0), outcomes(150, 21, 1.0)
        self.assertGreater(sum(o.first for o in kept), sum(o.first for o in silent) + 20)
        self.assertLess(sum(o.looks for o in kept), sum(o.looks for o in silent))
        self.assertLessEqual(sum(o.harms for o in kept), 1)

    def test_every_cause_is_among_them(self) -> None:
        self.assertEqual({one.cause for one in faults(300, seed=20)}, set(TABLES.by_cause))
