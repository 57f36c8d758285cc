"""Coating, tempered or untempered white chocolate: what speaks for each in this job.

Common practice, no source; the weights are ours and only put the three in order. It is advice: the maker chooses.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from coating.heat.setting import SETS_AT_C

WHITES = ("coating", "tempered", "untempered")
WARM_C, HOT_C = 24.0, 27.0
DEEP_L, WHITE_L, PALE_CHROMA, BLUE_B, CREAM_B = 48.0, 90.0, 9.0, -4.0, 12.0
SOON_DAYS = 1
RUNNY = 30.0  # a trade number below which a technique has to run


@dataclass(frozen=True)
class Reason:
    """Something that speaks for (`weight` above 0) or against a white."""

    white: str
    weight: float
    text: str


@dataclass(frozen=True)
class Advice:
    """The whites, best first, and what speaks for and against each."""

    order: tuple[str, ...]
    reasons: tuple[Reason, ...]

    @property
    def best(self) -> str:
        """The white that suits best."""
        return self.order[0]

    def speaks(self, white: str, *, against: bool = False) -> list[str]:
        """What speaks for a white, or against it, the weightiest first."""
        mine = [r for r in self.reasons if r.white == white and (r.weight < 0) == against]
        return [r.text for r in sorted(mine, key=lambda r: -abs(r.weight))]


def which_white(
    *,
    target_lab: tuple[float, float, float] | None,
    room_c: float,
    days_left: int | None = None,
    has_thermometer: bool = True,
    number_wanted: float | None = None,
) -> Advice:
    """Weigh the three for a piece.

    Parameters
    ----------
    target_lab : the colour wanted, None for plain. room_c : of the kitchen. days_left : until it is needed, if known.
    has_thermometer : tempering by the lip alone is harder. number_wanted : the flow its technique aims for.
    """
    reasons = (
        *_by_colour(target_lab),
        *_by_room(room_c),
        *_by_work(days_left, has_thermometer),
        *_by_flow(number_wanted),
    )
    score = {w: sum(r.weight for r in reasons if r.white == w) for w in WHITES}
    return Advice(tuple(sorted(WHITES, key=lambda w: -score[w])), reasons)


def _by_colour(lab: tuple[float, float, float] | None) -> Iterator[Reason]:
    if lab is None:
        yield Reason("tempered", 1.0, "uncoloured, its taste is all there")
        return
    lightness, a, b = lab
    if lightness < DEEP_L:
        yield Reason("coating", 2.5, "colours this deep are sold ready-coloured; tinting them spoils the flow")
    elif b < BLUE_B:
        yield Reason("coating", 2.0, "bright white keeps blues blue")
        for white in ("tempered", "untempered"):
            yield Reason(white, -1.0, "its ivory turns blues green")
    elif lightness > WHITE_L and math.hypot(a, b) < PALE_CHROMA:
        yield Reason("coating", 1.5, "nothing else is as white")
    elif b > CREAM_B:
        yield Reason("tempered", 0.5, "its ivory suits a warm shade")


def _by_room(room_c: float) -> Iterator[Reason]:
    if room_c >= HOT_C:
        yield Reason("coating", 3.0, "in a room this hot the others hardly set")
    elif room_c >= WARM_C:
        yield Reason("coating", 1.5, "a warm room does it no harm")
        yield Reason("tempered", -0.5, "a warm room brings bloom")
    for white in ("tempered", "untempered"):
        if room_c > SETS_AT_C[white] - 2:
            yield Reason(white, -3.0, "it would not set in this room")


def _by_flow(number: float | None) -> Iterator[Reason]:
    if number is not None and number < RUNNY:
        yield Reason("untempered", 0.75, "gently melted it flows, and needs little fat to run")
        yield Reason("tempered", -0.5, "in temper it stands about twice as thick, and this has to run")
        yield Reason("coating", -0.5, "it is thick and takes more fat to run")


def _by_work(days_left: int | None, has_thermometer: bool) -> Iterator[Reason]:
    yield Reason("coating", 0.5, "it sets quickly and by itself, and children can help")
    yield Reason("tempered", 1.0, "it tastes better, snaps and shines")
    yield Reason("tempered", -0.75, "it has to be tempered and kept in temper")
    yield Reason("untempered", 0.5, "it tastes better, and bends longest")
    yield Reason("untempered", -1.0, "it stays softer, sets slowly and may bloom")
    if not has_thermometer:
        yield Reason("tempered", -1.0, "tempering by the lip alone is hard")
    if days_left is not None and days_left <= SOON_DAYS:
        yield Reason("coating", 1.0, "there is no time for a second try")
