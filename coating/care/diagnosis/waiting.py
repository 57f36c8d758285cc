"""How long a piece still has to wait, where its own times say so."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import replace

from coating.care.diagnosis.case import Case
from coating.care.diagnosis.history_of_pieces import LAID_ON, STICK_SETS_MIN
from coating.errors import CoatingError

COLDER = {"coating": "freezer", "tempered": "fridge", "untempered": "fridge"}  # freezer and fridge: common practice


def left_min(move: str, cause: str, case: Case) -> float | None:
    """Minutes that are left of a wait; None where nobody can say.

    Parameters
    ----------
    move : str
        "wait" or "cold_place"; others have none.
    cause : str
    case : Case

    Returns
    -------
    float or None
    """
    piece = case.piece
    if move not in ("wait", "cold_place"):
        return None
    if cause == "stick_not_set":
        return None if piece.stick_min is None else max(0.0, STICK_SETS_MIN - piece.stick_min)
    if piece.since_min is None:
        return None
    with suppress(CoatingError):
        if cause == "lifted_early" and (bends := case.bends()):
            return max(0.0, bends.from_min - piece.since_min)
        sets = case.sets()
        if sets is None:
            return None
        if cause == "toppings_early":
            return max(0.0, LAID_ON * sets.touch_min - piece.since_min)
        if cause == "early_out":
            left = max(0.0, sets.release_min - piece.since_min)
            return left if move == "wait" else _in_the_cold(left / sets.release_min, case)
    return None


def _in_the_cold(share_left: float, case: Case) -> float | None:
    """Minutes that the same share takes where it is colder; None where it already is there."""
    place = COLDER[case.white or "coating"]
    if case.piece.place in (place, "freezer"):
        return None
    there = replace(case, piece=replace(case.piece, place=place, sets=None)).sets()
    return share_left * there.release_min if there else None
