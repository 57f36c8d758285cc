"""Tempering by seed: the stage a bowl is at, and the range it is worked in.

Working ranges are handbook values from memory: white 28 to 29, milk 29 to 30, dark 31 to 32 degC. Above 33 degC no
crystal of the right kind is left; a few degrees below its range it thickens and sets in the bowl.
"""

from __future__ import annotations

from dataclasses import dataclass

from coating.errors import UnknownName
from coating.heat.melting import CEILING_C, TEMPER_LOST_C
from coating.heat.seed import Seed, seed

RANGES_C = {"white": (28.0, 29.0), "milk": (29.0, 30.0), "dark": (31.0, 32.0)}
MELT_C, FORGETS_C = 45.0, 40.0
SLACK_K, TOO_COLD_K = 0.7, 2.0
SEED_LOSS = 0.15  # what bowl and air take meanwhile [assumed]


@dataclass(frozen=True)
class TemperStage:
    """Where a bowl stands. `kind`: "melt" (not warm enough to have forgotten its old crystals), "hot" (past the
    ceiling), "seed" (stir in `seed`), "stir" (nearly there), "work", "warm" (a few seconds of heat) or "set"."""

    kind: str
    low_c: float
    high_c: float
    seed: Seed | None = None


def seed_for(mass_g: float, *, temperature_c: float, target_c: float, room_c: float) -> Seed:
    """Seed of room warmth that cools a hot bowl of `mass_g` to a target, all in degC; what is lost meanwhile is off."""
    seed_c = min(room_c, target_c - 1)
    return seed(mass_g, melt_c=temperature_c, target_c=target_c, seed_c=seed_c, loss_fraction=SEED_LOSS)


def temper_stage(
    temperature_c: float,
    mass_g: float,
    *,
    chocolate: str = "white",
    warmest_c: float = MELT_C,
    room_c: float = 21.0,
    is_set: bool = False,
) -> TemperStage:
    """The stage of a bowl of real chocolate.

    Parameters
    ----------
    temperature_c : of the bowl. mass_g : in it. chocolate : "white", "milk" or "dark". warmest_c : it has
    been since it last set; from 40 degC on it has forgotten its old crystals. room_c : of the room, and of the seed.

    Raises
    ------
    UnknownName : another chocolate.
    """
    if chocolate not in RANGES_C:
        raise UnknownName("Choose white, milk or dark.", field="chocolate", choices=list(RANGES_C))
    low, high = RANGES_C[chocolate]
    if is_set:
        return TemperStage("set", low, high)
    if temperature_c > CEILING_C:
        return TemperStage("hot", low, high)
    if max(warmest_c, temperature_c) < FORGETS_C:
        return TemperStage("melt", low, high)
    if temperature_c > TEMPER_LOST_C:
        seeding = seed_for(mass_g, temperature_c=temperature_c, target_c=(low + high) / 2, room_c=room_c)
        return TemperStage("seed", low, high, seeding)
    if temperature_c > high + SLACK_K:
        return TemperStage("stir", low, high)
    return TemperStage("work" if temperature_c >= low - TOO_COLD_K else "warm", low, high)
