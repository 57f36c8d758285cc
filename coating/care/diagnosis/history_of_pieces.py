"""What is known of a piece says of each cause that sits in the piece, the bag, the mould or the room."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from contextlib import suppress
from types import MappingProxyType

from coating.care.diagnosis.case import Case
from coating.care.diagnosis.evidence import SILENT, Evidence
from coating.care.diagnosis.history_of_bowls import clean, number_of
from coating.errors import CoatingError
from coating.flow.drip import drip_length
from coating.heat.alduchov_eskridge1996 import dew_point_c
from coating.heat.setting import PLACES_C, SETS_AT_C

CHILLS = {"freezer": 0.9, "fridge": 0.55, "room": 0.0}
COATING_BEARS = 0.35  # so much less does the cold hurt a coating
NEVER_WET_K = -9.0
STICK_SETS_MIN, CORE_C, WALL_MM = 10.0, 12.0, 1.4  # common practice, no source
LAID_ON = 0.35  # of the time until it is dry to the touch, from which toppings do not sink
SETS_IN_THE_ROOM_K, SETS_IN_THE_COLD_K = -1.5, 1.0


def _warm_room(case: Case) -> Evidence:
    room_c, sets_c = case.context.room_c, SETS_AT_C[case.white or "coating"]
    cold = case.piece.place in PLACES_C
    over_k = room_c - sets_c - (SETS_IN_THE_COLD_K if cold else SETS_IN_THE_ROOM_K)
    return Evidence(over_k, {"room_c": room_c, "sets_c": sets_c})


def _chilled_hard(case: Case) -> Evidence:
    place = case.piece.place
    if place is None:
        return SILENT
    return Evidence(CHILLS[place] - (COATING_BEARS if case.white in ("coating", None) else 0.0), {"place": place})


def _damp(case: Case) -> Evidence:
    place = case.piece.place
    if place is None:
        return SILENT
    dew_c = dew_point_c(case.context.room_c, case.humidity)
    figures: dict[str, float | str] = {"dew_point_c": dew_c, "place": place}
    return Evidence(dew_c - PLACES_C[place] if place in PLACES_C else NEVER_WET_K, figures)


def _less(limit: float, value: float | None, name: str) -> Evidence:
    return SILENT if value is None else Evidence(limit - value, {name: value})


def _moist_core(case: Case) -> Evidence:
    core = case.piece.core
    return SILENT if core is None else Evidence(float(core != "dry"), {"core": core})


def _not_done(what: str) -> Callable[[Case], Evidence]:
    def says(case: Case) -> Evidence:
        done = case.piece.done
        return SILENT if done is None else Evidence(float(what not in done), {what: "yes" if what in done else "no"})

    return says


def _since(case: Case, ends: Callable[[Case], float | None], far: Callable[[float], float], name: str) -> Evidence:
    """How long it has been, as a share of when something comes to pass."""
    since, end = case.piece.since_min, None
    with suppress(CoatingError):
        end = ends(case)
    if since is None or not end:
        return SILENT
    return Evidence(far(since / end), {"since_min": since, name: end})


def _release(case: Case) -> float | None:
    sets = case.sets()
    return sets.release_min if sets else None


def _touch(case: Case) -> float | None:
    sets = case.sets()
    return sets.touch_min if sets else None


def _until(case: Case) -> float | None:
    bends = case.bends()
    return bends.until_min if bends else None


def _from(case: Case) -> float | None:
    bends = case.bends()
    return bends.from_min if bends else None


def _hole(far: Callable[[float], float]) -> Callable[[Case], Evidence]:
    def says(case: Case) -> Evidence:
        hole, line = case.piece.hole_mm, case.piece.line_mm
        if not hole or not line:
            return SILENT
        return Evidence(far(hole / line), {"hole_mm": hole, "line_mm": line})

    return says


def _cold_bag(case: Case) -> Evidence:
    lain = case.piece.bag_min
    return SILENT if lain is None else Evidence(lain, {"bag_min": lain})


def _drip(far: Callable[[float], float]) -> Callable[[Case], Evidence]:
    def says(case: Case) -> Evidence:
        piece = case.piece
        if not piece.squeeze_ml or not piece.wanted_mm or case.log.now.empty:
            return SILENT
        ought = clean(case.log.now)  # a squeeze is judged at working warmth; what is too warm is another cause
        wall = "room" if piece.wall == "room" else "chilled"
        with suppress(CoatingError):
            runs = drip_length(
                number_of(ought),
                volume_ml=piece.squeeze_ml,
                temperature_c=ought.temperature_c,
                wall=wall,
                fat_fraction=ought.fat_fraction,
            )
            return Evidence(
                far(runs.length_mm / piece.wanted_mm), {"runs_mm": runs.length_mm, "wanted_mm": piece.wanted_mm}
            )
        return SILENT

    return says


def _wall(which: str) -> Callable[[Case], Evidence]:
    def says(case: Case) -> Evidence:
        wall = case.piece.wall
        return SILENT if wall is None else Evidence(float(wall == which), {"wall": wall})

    return says


def _print_away(case: Case) -> Evidence:
    side = case.piece.printed_side
    return SILENT if side is None else Evidence(float(side == "away"), {"printed_side": side})


def _thick_paint(case: Case) -> Evidence:
    coats = case.piece.coats
    return SILENT if coats is None else Evidence(float(coats < 2), {"coats": float(coats)})


OF_PIECES: Mapping[str, Callable[[Case], Evidence]] = MappingProxyType(
    {
        "warm_room": _warm_room,
        "chilled_hard": _chilled_hard,
        "damp": _damp,
        "stick_not_set": lambda case: _less(STICK_SETS_MIN, case.piece.stick_min, "stick_min"),
        "cold_core": lambda case: _less(CORE_C, case.piece.core_c, "core_c"),
        "moist_core": _moist_core,
        "not_shaken": _not_done("shaken"),
        "not_scraped": _not_done("scraped"),
        "not_tapped": _not_done("tapped"),
        "thin_wall": lambda case: _less(WALL_MM, case.piece.thickness_mm, "thickness_mm"),
        "early_out": lambda case: _since(case, _release, lambda share: 1 - share, "release_min"),
        "lifted_late": lambda case: _since(case, _until, lambda share: share, "until_min"),
        "lifted_early": lambda case: _since(case, _from, lambda share: 1 - share, "from_min"),
        "hole_small": _hole(lambda wide: 1.25 - wide),
        "hole_big": _hole(lambda wide: wide - 0.75),
        "cold_bag": _cold_bag,
        "drip_big": _drip(lambda far: far - 1),
        "drip_small": _drip(lambda far: 1 - far),
        "wall_warm": _wall("room"),
        "wall_cold": _wall("frozen"),
        "print_away": _print_away,
        "toppings_late": lambda case: _since(case, _touch, lambda share: share, "touch_min"),
        "toppings_early": lambda case: _since(case, _touch, lambda share: LAID_ON - share, "touch_min"),
        "thick_paint": _thick_paint,
        "bead_set": lambda case: _since(case, _touch, lambda share: share, "touch_min"),
    }
)
