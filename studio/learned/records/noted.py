"""A record with where it comes from, and what its maker said of it."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime

from coating.learning import Observation
from coating.learning.names import bottle
from studio.cupboard.stock import Stock
from studio.learned.models import Said

DAY_S = 86400.0


@dataclass(frozen=True)
class Noted:
    """A record, what it says, of what (with the page of that), and when it was noted. Left out, it is struck.

    `key` is how its maker's word on it is kept; `mend` keeps another value for what was typed, where it was.
    """

    record: Observation
    key: str
    says: str
    of: str
    page: str
    at: datetime
    mend: Callable[[float], None] | None = None


@dataclass(frozen=True)
class Words:
    """All that a maker said to what was learned, the newest last."""

    said: Sequence[Said]

    def last(self, name: str, *words: str) -> Said | None:
        """The last of some words on a name."""
        return next((s for s in reversed(self.said) if s.name == name and s.word in words), None)

    def is_forgotten(self, name: str, at: datetime) -> bool:
        """Whether what was noted then of a name counts for nothing any more."""
        word = self.last(name, Said.FORGET)
        return word is not None and word.at > at

    def bottle_of(self, code: str, at: datetime | None = None) -> str:
        """Which bottle of a colour was open, then or now."""
        return bottle(code, self.number_of(code, at))

    def number_of(self, code: str, at: datetime | None = None) -> int:
        """The how manieth bottle that is; one of the same batch is none of its own."""
        begun: list[Said] = []
        for word in (s for s in self.said if s.name == f"strength.{code}"):
            if word.word == Said.NEW_BOTTLE:
                begun.append(word)
            elif word.word == Said.SAME_BATCH and begun:
                begun.pop()
        return 1 + sum(at is None or word.at <= at for word in begun)

    def heard(self, noted: Noted) -> Noted:
        """The record as its maker said of it: left out, or looked at once more."""
        word = self.last(f"record.{noted.key}", Said.OUT, Said.IN, Said.RIGHT)
        if word is None or word.word == Said.IN:
            return noted
        return replace(noted, record=replace(noted.record, struck=word.word == Said.OUT, sure=word.word == Said.RIGHT))


@dataclass(frozen=True)
class Known:
    """What records are read with: the cupboard, what was said, which drops were weighed and when a number was tested,
    by code."""

    stock: Stock
    words: Words
    has_thermometer: bool
    room_c: float
    weighed: frozenset[str]
    tested: Mapping[str, datetime]

    def counts(self, name: str, at: datetime) -> bool:
        """Whether what was noted then may speak for a name."""
        code = name.partition(".")[2]
        newer = self.tested.get(code) if name.startswith("flow.") else None
        return not self.words.is_forgotten(name, at) and not (newer and newer > at)


def day_of(at: datetime) -> float:
    """A moment as days, as the fit takes it."""
    return at.timestamp() / DAY_S
