"""What each move is worth under each cause, and which may be offered."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from coating.care.diagnosis.case import Case
from coating.care.diagnosis.doing import Done, doing, window_for
from coating.care.diagnosis.moves import Move
from coating.care.diagnosis.supposed import bowl_under
from coating.care.diagnosis.tables import Tables
from coating.care.diagnosis.waiting import left_min
from coating.simulate.bowl import BowlState

UNSAFE_ABOVE = 0.1
HARM, AN_HOUR = 3.0, 0.1
HELPS_FROM = 0.02  # causes less likely are not what a move is for
LEAST_GAIN = 0.02
SIMULATED = ("warm", "cool", "thin", "add_base", "correct")


@dataclass(frozen=True)
class Offer:
    """A move that may be made.

    Attributes
    ----------
    move : str
    for_causes : tuple of str
        What it would mend, the likeliest first.
    worse_for : tuple of str
        Unlikely causes it would make worse.
    utility : float
    done : Done or None
        What it does to the bowl under the likeliest of those; None for what is done to the piece.
    minutes : float
        How long it takes in all.
    wait_min : float or None
        How long to wait, where that can be said, minutes.
    """

    move: str
    for_causes: tuple[str, ...]
    worse_for: tuple[str, ...]
    utility: float
    done: Done | None
    minutes: float
    wait_min: float | None = None


class Worths:
    """What moves are worth in a case, worked out once."""

    def __init__(self, case: Case, tables: Tables) -> None:
        self.case, self.tables = case, tables
        self.moves: tuple[Move, ...] = tuple(m for m in tables.moves if m.is_for(case.symptom))
        self._bowls: dict[str, BowlState] = {}
        self._done: dict[tuple[str, str], Done | None] = {}
        self._of: dict[tuple[str, str], float] = {}
        self._by_name = {move.name: move for move in self.moves}

    def bowl(self, cause: str) -> BowlState:
        """The bowl under a cause."""
        if cause not in self._bowls:
            self._bowls[cause] = bowl_under(cause, self.case.log.now, window_for(self.case))
        return self._bowls[cause]

    def done(self, move: str, cause: str) -> Done | None:
        """What a move does to the bowl under a cause; None where it does nothing to a bowl, or there is none."""
        if self.case.log.now.empty:
            return None
        key = (move, cause)
        if key not in self._done:
            self._done[key] = doing(move, self.bowl(cause), self.case)
        return self._done[key]

    def of(self, move: str, cause: str) -> float:
        """What a move is worth under a cause, 0 to 1."""
        key = (move, cause)
        if key not in self._of:
            table = self._by_name[move].mends.get(cause, 0.0)
            done = self.done(move, cause) if table and move in SIMULATED else None
            self._of[key] = table * (done.holds if done else 1.0)
        return self._of[key]

    def utility(self, move: Move, shares: Mapping[str, float]) -> float:
        """What a move is worth by what is believed, less what it harms, takes and costs."""
        gain = sum(share * self.of(move.name, cause) for cause, share in shares.items())
        harm = sum(shares.get(cause, 0.0) for cause in move.worse_for)
        return gain - HARM * harm - AN_HOUR * move.minutes / 60 - move.cost

    def unsafe(self, move: Move, shares: Mapping[str, float]) -> tuple[str, ...]:
        """The causes that are too likely for a move that makes them worse."""
        return tuple(c for c in move.worse_for if shares.get(c, 0.0) > UNSAFE_ABOVE)

    def best(self, shares: Mapping[str, float]) -> str:
        """The move that is advised by what is believed; "" for none."""
        allowed = [m for m in self.moves if not self.unsafe(m, shares) and self._helps(m, shares)]
        return max(allowed, key=lambda m: self.utility(m, shares)).name if allowed else ""

    def own(self, cause: str) -> str:
        """The move that a cause wants by itself."""
        return self.best({cause: 1.0})

    def _helps(self, move: Move, shares: Mapping[str, float]) -> bool:
        gain = sum(share * self.of(move.name, c) for c, share in shares.items() if share >= HELPS_FROM)
        return gain >= LEAST_GAIN

    def offers(self, shares: Mapping[str, float]) -> tuple[list[Offer], list[tuple[str, tuple[str, ...]]]]:
        """What may be done, best first, and what is withheld with the causes it would make worse."""
        offered, withheld = list[Offer](), list[tuple[str, tuple[str, ...]]]()
        for move in self.moves:
            if not self._helps(move, shares):
                continue
            unsafe = self.unsafe(move, shares)
            if unsafe:
                withheld.append((move.name, unsafe))
                continue
            mends = [c for c in move.mends if shares.get(c, 0.0) >= HELPS_FROM and self.of(move.name, c) > 0]
            mends.sort(key=lambda c: -shares[c] * self.of(move.name, c))
            worse = tuple(c for c in move.worse_for if shares.get(c, 0.0) > 0)
            likeliest = max(mends, key=lambda c: shares[c])
            done = self.done(move.name, likeliest)
            wait_min = (
                done.wait_min if done and done.wait_min is not None else left_min(move.name, likeliest, self.case)
            )
            minutes = self._minutes(move, done) if wait_min is None else wait_min + 1
            utility = self.utility(move, shares)
            offered.append(Offer(move.name, tuple(mends), worse, utility, done, minutes, wait_min))
        offered.sort(key=lambda offer: -offer.utility)
        return offered, withheld

    def _minutes(self, move: Move, done: Done | None) -> float:
        """How long it takes: by what is simulated where that says more."""
        heating_min = (done.seconds or 0.0) / 60 if done else 0.0
        return heating_min + 1 if heating_min else move.minutes
