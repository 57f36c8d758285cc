"""What a bowl's own events say of each cause that sits in the bowl."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import replace
from types import MappingProxyType

from coating.care.diagnosis.case import Case
from coating.care.diagnosis.evidence import SILENT, Evidence
from coating.care.diagnosis.log import HEATING, Moment
from coating.colour.mixing import FAT, GEL, POWDER, WATER, Part, mix
from coating.flow.trade_number import number_from_flow
from coating.heat.bursts import STIRS_OUT
from coating.heat.setting import SETS_AT_C
from coating.simulate.bowl import BowlState, Event
from coating.simulate.fold import carry_on

LOST_C = 32.0  # above it white loses its temper; handbook, from memory
MELTS_C = {"cocoa_butter": 34.0}  # fats; of all others:
OTHERS_MELT_C = 36.0  # common practice, no source
STIR_S = 60.0  # where no time was said
DISPERSES_C = 35.0  # powder; common practice, no source
BURSTS_FLOOR = 0.3  # a warmth worked out from bursts proves little, unless it is far from melted by them
COOLS_WITHIN_S = 3600.0
GREY = 6.0  # chroma below which there is no hue to speak of
_WORST = 400.0


def dry(state: BowlState) -> BowlState:
    """The same without any water."""
    if not state.water_fraction:
        return state
    parts = tuple(
        Part(replace(p.ingredient, water_fraction=0.0), p.mass_g * (1 - p.ingredient.water_fraction))
        for p in state.parts
        if p.ingredient.kind != WATER
    )
    return replace(state, parts=parts)


def clean(state: BowlState) -> BowlState:
    """The same as it ought to be: melted through, at working warmth, neither wet nor overheated."""
    return replace(dry(state), temperature_c=state.warmth.work_at_c, solid_fraction=0.0, overheated_minutes=0.0)


def without_fats(state: BowlState) -> BowlState:
    """The same without the fats that were added."""
    return replace(state, parts=tuple(p for p in state.parts if p.ingredient.kind != FAT))


def number_of(state: BowlState) -> float:
    """As it stands, as a trade number; the highest there is where it will not flow."""
    flow = state.flow()
    return _WORST if flow is None else number_from_flow(flow)


def melts_at_c(fat: str) -> float:
    """From how warm a bowl a fat melts in, degC, by its name; no oil does."""
    return MELTS_C.get(fat, OTHERS_MELT_C)


def _of_colour(event: Event) -> bool:
    return event.kind == "added" and any(p.ingredient.is_colourant for p in event.parts)


def _overheated(case: Case) -> Evidence:
    log = case.log
    if log.silent or not log.was_heated or log.now.empty:
        return SILENT
    minutes, spell = log.now.overheated_minutes, log.hot_spell
    figures: dict[str, float | str] = {"overheated_min": minutes}
    if log.is_hot:  # it was read in the middle of it: what is still to come is as much as what was before
        minutes += carry_on(log.now, at_s=log.now.at_s + COOLS_WITHIN_S).overheated_minutes - minutes
        figures["hot_now_c"] = log.now.temperature_c
    if spell:
        figures |= {"hot_from_s": spell.from_s, "hot_min": spell.lasted_s / 60, "peak_c": spell.peak_c}
    far_from_melted = log.last_heated is not None and log.last_heated.after.solid_fraction > STIRS_OUT
    return Evidence(minutes, figures, 0.0 if log.was_read or far_from_melted else BURSTS_FLOOR)


def _lumps(case: Case) -> Evidence:
    log = case.log
    moment = log.last_heated
    if log.silent or moment is None or log.now.empty:
        return SILENT
    solid = moment.after.solid_fraction
    return Evidence(solid, {"solid_fraction": solid, "heated_at_s": moment.event.at_s})


def _colder(case: Case, more_k: float = 0.0) -> Evidence:
    log = case.log
    if log.silent or not log.was_heated or log.now.empty:
        return SILENT
    under_k = log.now.warmth.work_at_c - log.now.temperature_c
    return Evidence(under_k + more_k, {"temperature_c": log.now.temperature_c, "under_k": under_k})


def _cold(case: Case) -> Evidence:
    return _colder(case, 1.5 if case.log.now.white == "tempered" else 0.0)


def _too_warm(case: Case) -> Evidence:
    colder = _colder(case)
    if colder.says is None:
        return SILENT
    return Evidence(-colder.says, {"temperature_c": colder.figures["temperature_c"], "over_k": -colder.says})


def _water(case: Case) -> Evidence:
    now, at = case.log.now, 0.15
    added_g = sum(p.mass_g for p in now.parts if p.ingredient.kind == WATER)
    share = 100 * added_g / now.mass_g if now.mass_g else 0.0
    if share > at:
        return Evidence(share, {"water_g_per_100g": share})
    if case.wet is None or now.empty:
        return SILENT
    return Evidence(at, {"wet": "yes"}) if case.wet else Evidence(share, {"wet": "no"})


def _water_colour(case: Case) -> Evidence:
    now = case.log.now
    if case.log.silent or now.empty:
        return SILENT
    gel_g = sum(p.mass_g for p in now.parts if p.ingredient.kind == GEL)
    water_g = sum(p.mass_g * p.ingredient.water_fraction for p in now.parts if p.ingredient.kind == GEL)
    return Evidence(100 * water_g / now.mass_g, {"gel_g": gel_g})


def _thick_product(case: Case) -> Evidence:
    if case.log.now.empty or case.window is None:
        return SILENT
    bowl = clean(case.log.now)
    number, most = number_of(bowl), case.window.workable_for(bowl.white)[1]
    flow = bowl.flow()
    over = number / most
    if flow is not None and case.window.verdict(flow, bowl.white) in ("right", "thin"):
        over = min(over, 1.0)  # within its workable window it is not thick
    return Evidence(over, {"number": number, "most": most})


def _thin(case: Case, bowl: BowlState) -> Evidence:
    assert case.window is not None
    number, least = number_of(clean(bowl)), case.window.workable_for(bowl.white)[0]
    return Evidence(least / number, {"number": number, "least": least})


def _thin_product(case: Case) -> Evidence:
    if case.log.now.empty or case.window is None:
        return SILENT
    return _thin(case, without_fats(case.log.now))


def _too_much_fat(case: Case) -> Evidence:
    now = case.log.now
    if case.log.silent or now.empty:
        return SILENT
    added_g = sum(now.added_fats.values())
    if not added_g:
        return Evidence(-1.0, {"added_fat_g": 0.0})
    if case.window is None:
        return SILENT
    thin = _thin(case, now)
    return Evidence(thin.says, {**thin.figures, "added_fat_g": added_g})


def _fat_unmelted(case: Case) -> Evidence:
    log = case.log
    if log.silent or log.now.empty:
        return SILENT

    def solid_fats(event: Event) -> list[str]:
        return [
            p.ingredient.name for p in event.parts if p.ingredient.kind == FAT and p.ingredient.name != "liquid_oil"
        ]

    moment = log.last(lambda e: e.kind == "added" and bool(solid_fats(e)))
    if moment is None:
        return Evidence(-9.0, {"solid_fat": "none"})
    if not log.was_heated:
        return SILENT
    melts_c = max(melts_at_c(name) for name in solid_fats(moment.event))
    minutes = log.seconds_above(melts_c, moment) / 60
    return Evidence(2 - minutes, {"melted_min": minutes, "melts_c": melts_c, "went_in_s": moment.event.at_s})


def _labs(case: Case) -> tuple[tuple[float, ...], tuple[float, ...]] | None:
    """The bowl's colour and that of its base; None of an empty one, or one without a base."""
    bases = [p for p in case.log.now.parts if p.ingredient.is_base]
    return (case.log.now.mixture().lab(), mix(bases).lab()) if bases else None


def _coloured(case: Case) -> bool:
    return any(p.ingredient.is_colourant for p in case.log.now.parts)


def _way(case: Case) -> float | None:
    """How much of the way from plain to wanted it has gone, 1 when it is there."""
    labs = _labs(case)
    if labs is None or case.target_lab is None:
        return None
    lab, base = labs
    along = [t - b for t, b in zip(case.target_lab, base, strict=True)]
    length = sum(a * a for a in along)
    return sum((x - b) * a for x, b, a in zip(lab, base, along, strict=True)) / length if length > 1e-6 else None


def _colour(case: Case, far: Callable[[float], float], none: float) -> Evidence:
    if case.log.silent:
        return SILENT
    if not _coloured(case) and case.target_lab is None:
        return Evidence(none, {"colour": "none"})
    way = _way(case)
    return SILENT if way is None else Evidence(far(way), {"of_the_way": way})


def _wrong_hue(case: Case) -> Evidence:
    if case.log.silent:
        return SILENT
    if not _coloured(case) and case.target_lab is None:
        return Evidence(-9.0, {"colour": "none"})
    labs = _labs(case)
    if labs is None or case.target_lab is None:
        return SILENT
    lab, base, target = labs[0], labs[1], case.target_lab
    chroma, wanted = math.hypot(*lab[1:]), math.hypot(*target[1:])
    if min(chroma, wanted) >= GREY:
        turn = math.atan2(lab[2], lab[1]) - math.atan2(target[2], target[1])
        off = abs(2 * math.sqrt(chroma * wanted) * math.sin(turn / 2))
    else:
        along, gone = (
            [t - b for t, b in zip(target, base, strict=True)],
            [x - b for x, b in zip(lab, base, strict=True)],
        )
        length = math.sqrt(sum(a * a for a in along))
        part = sum(a * g for a, g in zip(along, gone, strict=True)) / length if length > 1e-6 else 0.0
        off = math.sqrt(max(0.0, sum(g * g for g in gone) - part * part))
    return Evidence(off, {"hue_difference": off})


def _undermixed(case: Case) -> Evidence:
    log = case.log
    if log.silent:
        return SILENT
    moment = log.last(_of_colour)
    if moment is None:
        return Evidence(-1.0, {"colour": "none"})
    stirs = [m.event for m in log.since(moment) if m.event.kind == "stirred"]
    minutes = sum(STIR_S if e.seconds is None else e.seconds for e in stirs) / 60
    return Evidence(max(0.0, 1 - minutes), {"stirred_min": minutes, "coloured_at_s": moment.event.at_s})


def _powder(case: Case) -> Evidence:
    log = case.log
    if log.silent:
        return SILENT
    added = [m for m in log.moments if any(p.ingredient.kind == POWDER for p in m.event.parts)]
    if not added:
        return Evidence(-1.0, {"powder": "none"})
    coolest_c = min(m.before.temperature_c for m in added)
    return Evidence(1.0 if coolest_c < DISPERSES_C else 0.6, {"at_c": coolest_c})


def _edge_set(case: Case) -> Evidence:
    log = case.log
    if log.silent or not log.was_heated or log.now.empty:
        return SILENT
    white = log.now.white
    sets_c = SETS_AT_C[white] + (1.5 if white == "tempered" else 3.0)
    moment = log.last(lambda e: e.kind in (*HEATING, "stirred"))
    ends = [m.before.temperature_c for m in log.since(moment) if not m.before.empty]
    coldest_c = min([*ends, log.now.temperature_c])
    return Evidence(sets_c - coldest_c, {"coldest_c": coldest_c})


def _lost_temper(case: Case) -> Evidence:
    log = case.log
    if case.white is None:
        return SILENT
    if log.now.white != "tempered":
        return Evidence(-9.0, {"white": log.now.white})
    if case.tempered_at_s is None:
        return SILENT
    since: list[Moment] = [m for m in log.moments if m.event.at_s >= case.tempered_at_s]
    warmest_c = max([m.after.temperature_c for m in since], default=log.now.temperature_c)
    at_s = max(since, key=lambda m: m.after.temperature_c).event.at_s if since else log.now.at_s
    return Evidence(warmest_c - LOST_C, {"warmest_c": warmest_c, "warmest_at_s": at_s})


def _never_tempered(case: Case) -> Evidence:
    white = case.white
    if white is None:
        return SILENT
    return Evidence({"untempered": 1.0, "tempered": 0.0}.get(white, -9.0), {"white": white})


def _fat_shares(case: Case) -> tuple[float, float] | None:
    """Of all fat, the share of the other family and that of liquid oil."""
    now = case.log.now
    if case.log.silent or now.empty or not now.fat_g:
        return None
    own = "palm" if now.white == "coating" else "cocoa"
    fatty = [p for p in now.parts if p.ingredient.family and (p.ingredient.is_base or p.ingredient.kind == FAT)]
    other_g = sum(p.mass_g * p.ingredient.fat_fraction for p in fatty if p.ingredient.family != own)
    return other_g / now.fat_g, now.added_fats.get("liquid_oil", 0.0) / now.fat_g


def _mixed_fats(case: Case) -> Evidence:
    shares = _fat_shares(case)
    return SILENT if shares is None else Evidence(shares[0], {"other_fat_share": shares[0]})


def _liquid_oil(case: Case) -> Evidence:
    shares = _fat_shares(case)
    return SILENT if shares is None else Evidence(shares[1], {"oil_share": shares[1]})


OF_BOWLS: Mapping[str, Callable[[Case], Evidence]] = MappingProxyType(
    {
        "overheated": _overheated,
        "lumps": _lumps,
        "cold": _cold,
        "water": _water,
        "water_colour": _water_colour,
        "thick_product": _thick_product,
        "thin_product": _thin_product,
        "too_warm": _too_warm,
        "too_much_fat": _too_much_fat,
        "fat_unmelted": _fat_unmelted,
        "overdose": lambda case: _colour(case, lambda way: way - 1, -1.0),
        "underdose": lambda case: _colour(case, lambda way: 1 - way, -1.0),
        "wrong_hue": _wrong_hue,
        "undermixed": _undermixed,
        "powder": _powder,
        "edge_set": _edge_set,
        "lost_temper": _lost_temper,
        "never_tempered": _never_tempered,
        "mixed_fats": _mixed_fats,
        "liquid_oil": _liquid_oil,
    }
)
