"""What all records together say: the mode of a mixture in which any record may simply be wrong, and honest ranges.

The mode is found by Gauss-Newton on responsibilities, with the noise first widened by what is not known beforehand and
then narrowed (searched cold, a mixture takes the first good reading for a mistake), and again from a start with
Student-t tails; the better posterior is kept. Ranges are the curvature at the mode and, for every record, what would be
if it alone were wrong. Records are sorted by id, so that their order does not matter.

Source: Tarantola 2005 for the linearised posterior; Box & Tiao 1968 for the mixture, from memory.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from coating.errors import OutOfBounds, WrongShape
from coating.learning.colours import Colours
from coating.learning.names import (
    DROP,
    HALF_LIFE_DAYS,
    NOISE,
    PRIORS,
    RANGE_SD,
    SURE_WRONG,
    WRONG_SHARE,
    kind_of,
)
from coating.learning.numbers import grouped
from coating.learning.observations import Observation

Array = NDArray[np.float64]
MOST_RECORDS = 5000
# Known by itself, and not only in a product: so much of the sd beforehand is left at most; less where others share it.
ALONE, ALONE_SHARED, SHARED = 0.7, 0.5, 2.0
ODD = {1: 9.0, 3: 14.16}  # sum of squares from which a record looks odd: 3 sd of a number, as rare for a colour
_WIDENED = (1.0, 0.3, 0.1, 0.03, 0.0)
_TAILS = 4.0
_MOST_STEPS, _STEP, _SMALL = 60, 0.7, 1e-11


@dataclass(frozen=True)
class Learned:
    """A factor with its 90 % range, how many records and bowls speak for it, the ids of those that looked odd, what
    each record alone would have it be, and whether it is known by itself; `along`: with which powers of others its
    records of numbers go with it, on the average."""

    name: str
    factor: float
    low: float
    high: float
    records: int
    bowls: int
    odd: tuple[str, ...]
    says: tuple[tuple[str, float], ...]
    alone: bool
    along: tuple[tuple[str, float], ...] = ()


@dataclass(frozen=True)
class Together:
    """The product of some factors as jointly known, with its 90 % range."""

    names: tuple[str, ...]
    factor: float
    low: float
    high: float
    records: int


@dataclass(frozen=True)
class Odd:
    """A record that does not fit: what was seen, what was expected, and the standardised distance."""

    id: str
    seen: tuple[float, ...]
    expected: tuple[float, ...]
    off: float


@dataclass(frozen=True)
class Fitted:
    """All that was learned of a kitchen; `spread`: variances and covariances of the logarithms, in the order of
    `names`."""

    factors: Mapping[str, float]
    learned: tuple[Learned, ...]
    together: tuple[Together, ...]
    odd: tuple[Odd, ...]
    counted: int
    names: tuple[str, ...] = ()
    spread: tuple[tuple[float, ...], ...] = ()

    def product(self, powers: Mapping[str, float]) -> Together:
        """A product of powers of factors as jointly known; `records` are those of the first."""
        known = {name: power for name, power in powers.items() if name in self.names}
        by = np.array([known.get(name, 0.0) for name in self.names])
        at = sum(power * math.log(self.factors[name]) for name, power in known.items())
        sd = math.sqrt(max(0.0, float(by @ np.array(self.spread) @ by)))
        first = next(iter(powers))
        records = next((one.records for one in self.learned if one.name == first), 0)
        return Together(tuple(powers), *_ranged(at, sd), records)


class _Problem:
    """Records as rows: one for a number, three for a colour; `at` gives residuals and slopes at parameters."""

    def __init__(self, records: Sequence[Observation], names: Sequence[str], noise: Mapping[str, float]) -> None:
        places = {name: i for i, name in enumerate(names)}
        self.groups = grouped([r for r in records if not r.of_colour], places, noise)
        self.of_colour = [r for r in records if r.of_colour]
        self.records = [record for group in self.groups for record in group.records] + self.of_colour
        self.colours = Colours(self.of_colour, places, noise["read"])
        self.rows = np.array([1 if not r.of_colour else 3 for r in self.records])
        self.parameters = len(names)

    def at(self, x: Array) -> tuple[Array, Array]:
        """Residuals (N, 3) and slopes (N, 3, M), standardised; a number has its one row first and zeros below."""
        count = len(self.records)
        r, slopes = np.zeros((count, 3)), np.zeros((count, 3, self.parameters))
        first = 0
        for group in self.groups:
            last = first + len(group.records)
            r[first:last, 0], slopes[first:last, 0] = group.at(x)
            first = last
        r[first:], slopes[first:] = self.colours.at(x)
        return r, slopes

    def told(self, row: int, r: Array) -> Odd:
        """An odd record, with what was expected of it."""
        record, off = self.records[row], float(np.linalg.norm(r[row]))
        if record.of_colour:
            place = row - (len(self.records) - len(self.of_colour))
            seen = self.colours.seen[place]
            expected = seen - r[row] * self.colours.sd[place]
            return Odd(record.id, tuple(map(float, seen)), tuple(map(float, expected)), off)
        for group in self.groups:
            if row < len(group.records):
                break
            row -= len(group.records)
        signed = float(r[self.records.index(record), 0])
        return Odd(record.id, (record.value,), (group.expected(row, signed),), off)


@dataclass(frozen=True)
class _Beliefs:
    """What is believed beforehand: sd of each parameter; of each record the share of wrong ones among such, what its
    information counts, and how dense a wrong one is against a right one at its middle."""

    sd: Array
    wrong: Array
    counts: Array
    dense: Array

    def right(self, squares: Array, spread: Array) -> Array:
        """How likely each record is right, of its sum of squares and the product of what widens its rows."""
        good = (1 - self.wrong) * np.exp(-0.5 * squares) / np.sqrt(spread)
        bad = self.wrong * self.dense
        return np.where(bad > 0, good / np.maximum(good + bad, 1e-300), 1.0)

    def posterior(self, x: Array, squares: Array) -> float:
        """Logarithm of the posterior, but for a constant."""
        with np.errstate(divide="ignore"):  # of a sure one: it is never wrong
            likely = np.logaddexp(np.log1p(-self.wrong) - 0.5 * squares, np.log(self.wrong * self.dense))
        return float(self.counts @ likely - 0.5 * np.sum((x / self.sd) ** 2))


def _step(x: Array, r: Array, slopes: Array, weights: Array, beliefs: _Beliefs) -> Array:
    """One Gauss-Newton step, at most so far at once. Weights (N, 3)."""
    rows = slopes.reshape(3 * len(slopes), len(x))
    weighted = rows * weights.reshape(-1, 1)
    curved = rows.T @ weighted + np.diag(beliefs.sd**-2)
    pull = weighted.T @ r.reshape(-1) - x / beliefs.sd**2
    step = np.linalg.solve(curved, pull)
    longest = float(np.abs(step).max(initial=0.0))
    return np.asarray(x + step * min(1.0, _STEP / max(longest, 1e-12)))


def _settled(problem: _Problem, x: Array, beliefs: _Beliefs) -> Array:
    """The mode of the mixture near x."""
    for _ in range(_MOST_STEPS):
        r, slopes = problem.at(x)
        right = beliefs.right(np.sum(r * r, axis=1), np.ones(len(r)))
        new = _step(x, r, slopes, (beliefs.counts * right)[:, None] * np.ones(3), beliefs)
        moved = float(np.abs(new - x).max(initial=0.0))
        x = new
        if moved < _SMALL:
            break
    return x


def _narrowed(problem: _Problem, beliefs: _Beliefs) -> Array:
    """From the prior, with the noise first as wide as what is not known, then narrower."""
    x = np.zeros(problem.parameters)
    for widened in _WIDENED:
        for _ in range(2):
            r, slopes = problem.at(x)
            wide = 1.0 + widened * (slopes**2 @ beliefs.sd**2)
            right = beliefs.right(np.sum(r * r / wide, axis=1), np.prod(wide, axis=1))
            x = _step(x, r, slopes, (beliefs.counts * right)[:, None] / wide, beliefs)
    return x


def _tailed(problem: _Problem, beliefs: _Beliefs) -> Array:
    """With Student-t tails, which reach however far it is off."""
    x = np.zeros(problem.parameters)
    for _ in range(12):
        r, slopes = problem.at(x)
        pulled = (_TAILS + problem.rows) / (_TAILS + np.sum(r * r, axis=1))
        x = _step(x, r, slopes, (beliefs.counts * pulled)[:, None] * np.ones(3), beliefs)
    return x


def _covariance(r: Array, slopes: Array, beliefs: _Beliefs) -> Array:
    """From the curvature at the mode, and from what would be if each record alone were wrong."""
    right = beliefs.right(np.sum(r * r, axis=1), np.ones(len(r)))
    weight = beliefs.counts * right
    rows = slopes.reshape(3 * len(slopes), len(beliefs.sd))
    curved = rows.T @ (rows * np.repeat(weight, 3)[:, None]) + np.diag(beliefs.sd**-2)
    spread = np.linalg.inv(curved)
    reach = slopes @ spread  # (N, 3, M)
    own = weight[:, None, None] * np.einsum("nci,ndi->ncd", reach, slopes)
    without = np.linalg.solve(np.eye(3) * (1 + 1e-9) - own, (weight[:, None] * r)[..., None])[..., 0]
    moved = np.einsum("nci,nc->ni", reach, without)
    return np.asarray(spread + moved.T @ (moved * (1 - right)[:, None]))


def _checked(records: Sequence[Observation]) -> list[Observation]:
    if len(records) > MOST_RECORDS:
        raise OutOfBounds(f"A fit takes at most {MOST_RECORDS} records.", field="records", high=MOST_RECORDS)
    if len({r.id for r in records}) < len(records):
        raise WrongShape("Two records have the same id.", field="records")
    for record in records:
        if not math.isfinite(record.day) or not math.isfinite(record.value):
            raise WrongShape("A record has something that is not a number.", field="records")
        if not record.of_colour and record.kind != "warmth" and record.value <= 0:
            raise OutOfBounds("A record needs a value above zero.", field="records", low=0)
    return sorted((r for r in records if not r.struck), key=lambda r: r.id)


def fit(
    records: Sequence[Observation],
    *,
    as_of_day: float | None = None,
    half_life_days: float | None = HALF_LIFE_DAYS,
    wrong_share: float = WRONG_SHARE,
    priors: Mapping[str, float] | None = None,
    noise: Mapping[str, float] | None = None,
    together: Sequence[Sequence[str]] | None = None,
) -> Fitted:
    """What a kitchen's records say of it, refitted from all of them.

    Parameters
    ----------
    records : sequence of Observation
        In any order; those struck out count for nothing.
    as_of_day : float, optional
        From where age is counted, days; the youngest record's day otherwise.
    half_life_days : float or None
        Age at which a record's information counts half; None: it never ages.
    wrong_share : float
        Share of records that are simply wrong, .001 to .4.
    priors, noise : mapping, optional
        In place of `names.PRIORS` and `names.NOISE`, one by one.
    together : sequence of sequences of names, optional
        Products to report; every strength with the drop otherwise.

    Returns
    -------
    Fitted

    Raises
    ------
    WrongShape
        Two records with one id, or no number. OutOfBounds, UnknownName: a value or a name that cannot be.
    """
    live = _checked(records)
    names = sorted({n for r in live for n in r.names()})
    sds, noises = {**PRIORS, **(priors or {})}, {**NOISE, **(noise or {})}
    if not 0.001 <= wrong_share <= 0.4:
        raise OutOfBounds("The share of wrong answers must be between 0.001 and 0.4.", field="wrong_share")
    problem = _Problem(live, names, noises)
    today = max((r.day for r in live), default=0.0) if as_of_day is None else as_of_day
    ages = np.array([max(0.0, today - r.day) for r in problem.records])
    rows = problem.rows
    beliefs = _Beliefs(
        np.array([sds[kind_of(n)] for n in names]),
        np.where([r.sure for r in problem.records], min(SURE_WRONG, wrong_share), wrong_share),
        np.ones(len(rows)) if half_life_days is None else 0.5 ** (ages / half_life_days),
        np.array([9.0 * math.exp(-0.5 * ODD[int(d)]) for d in rows]),
    )
    best = max(
        (_settled(problem, start(problem, beliefs), beliefs) for start in (_narrowed, _tailed)),
        key=lambda x: beliefs.posterior(x, np.sum(problem.at(x)[0] ** 2, axis=1)),
    )
    return _told(problem, best, beliefs, names, sds, together)


def _told(
    problem: _Problem,
    x: Array,
    beliefs: _Beliefs,
    names: list[str],
    sds: Mapping[str, float],
    together: Sequence[Sequence[str]] | None,
) -> Fitted:
    r, slopes = problem.at(x)
    squares = np.sum(r * r, axis=1)
    odd = {problem.records[i].id for i in range(len(squares)) if squares[i] > ODD[int(problem.rows[i])]}
    spread = _covariance(r, slopes, beliefs) if names else np.zeros((0, 0))
    by_itself = _by_itself(spread, beliefs)
    learned = []
    for place, name in enumerate(names):
        mine = [i for i, record in enumerate(problem.records) if name in record.names()]
        steep = np.sum(slopes[:, :, place] ** 2, axis=1)
        along = np.sum(slopes[:, :, place] * r, axis=1)
        sd = math.sqrt(spread[place, place])
        says = sorted((problem.records[i].id, math.exp(x[place] + along[i] / steep[i])) for i in mine if steep[i] >= 1)
        learned.append(
            Learned(
                name,
                *_ranged(float(x[place]), sd),
                len(mine),
                len({problem.records[i].bowl for i in mine}),
                tuple(sorted(odd & {problem.records[i].id for i in mine})),
                tuple(says),
                bool(by_itself[place]),
                _along(place, names, [i for i in mine if not problem.records[i].of_colour], slopes),
            )
        )
    wanted = together if together is not None else [(DROP, n) for n in names if n in _dropped(problem.of_colour)]
    products = [_product(tuple(w), names, x, spread, sds, problem.records) for w in wanted]
    factors = {name: math.exp(x[i]) for i, name in enumerate(names)}
    strange = [problem.told(i, r) for i, record in enumerate(problem.records) if record.id in odd]
    return Fitted(
        factors,
        tuple(learned),
        tuple(products),
        tuple(sorted(strange, key=lambda o: o.id)),
        len(problem.records),
        tuple(names),
        tuple(tuple(map(float, row)) for row in spread),
    )


def _along(place: int, names: list[str], mine: list[int], slopes: Array) -> tuple[tuple[str, float], ...]:
    """With which powers of other factors records of numbers go with one, on the average."""
    if not mine:
        return ()
    ratio = np.mean(slopes[mine, 0, :] / slopes[mine, 0, place][:, None], axis=0)
    return tuple((name, float(ratio[i])) for i, name in enumerate(names) if i != place and abs(ratio[i]) > 1e-9)


def _by_itself(spread: Array, beliefs: _Beliefs) -> NDArray[np.bool_]:
    """Whether each parameter is known, not only its product with others."""
    sd = np.sqrt(np.diag(spread))
    if not len(sd):
        return np.zeros(0, dtype=bool)
    others_known = 1 / np.sqrt(np.diag(np.linalg.inv(spread)))
    return np.asarray(sd <= np.where(sd > SHARED * others_known, ALONE_SHARED, ALONE) * beliefs.sd)


def _ranged(at: float, sd: float) -> tuple[float, float, float]:
    return math.exp(at), math.exp(at - RANGE_SD * sd), math.exp(at + RANGE_SD * sd)


def _dropped(records: Sequence[Observation]) -> set[str]:
    """The strengths of what is counted in drops."""
    return {f"strength.{r.bottle_of(i)}" for r in records for i, part in enumerate(r.parts) if r.in_drops(part)}


def _product(
    wanted: tuple[str, ...],
    names: list[str],
    x: Array,
    spread: Array,
    sds: Mapping[str, float],
    records: Sequence[Observation],
) -> Together:
    """Of some parameters; what no record speaks of is as wide as beforehand."""
    known = [names.index(n) for n in wanted if n in names]
    variance = float(spread[np.ix_(known, known)].sum()) if known else 0.0
    variance += sum(sds[kind_of(n)] ** 2 for n in wanted if n not in names)
    count = sum(any(n in record.names() for n in wanted) for record in records)
    return Together(wanted, *_ranged(float(x[known].sum()), math.sqrt(variance)), count)
