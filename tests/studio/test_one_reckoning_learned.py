"""The same with a kitchen that has learned: its factors enter in one place, so all pages still say the same."""

from __future__ import annotations

from coating.learning.factors import Factor, Factors
from coating.techniques import TECHNIQUES
from coating.techniques.base import FILM, SPREAD
from studio.cupboard import stock
from studio.learned.fitted import in_use
from tests.studio import test_one_reckoning

COATS = {f"coat.{name}": 1.2 for name, kind in TECHNIQUES.items() if kind.measured in (FILM, SPREAD)}
OWN = {"strength.blue": 1.3, "flow.bright": 1.25, "hole": 1.1, "set": 1.2, "loss": 1.2, "pace": 1.3, **COATS}


class Learned(test_one_reckoning.OneReckoning):
    def setUp(self) -> None:
        known = Factors({name: Factor(times, 0.95 * times, 1.05 * times) for name, times in OWN.items()}, tight=0.9)
        stock.taught.fill(lambda kitchen, cupboard: known)
        self.addCleanup(stock.taught.fill, in_use)
        super().setUp()

    test_starts = None  # type: ignore[assignment]  # the pieces in it are made of the same layers
