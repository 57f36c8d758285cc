"""Drips that look grown: uneven by nature, none running into its neighbour, and closing on themselves round the tier.

Gaps are a least gap plus a gamma-distributed rest, lengths are lognormal; both with the coefficient of variation that
is asked for. The drawn numbers are kept, not only the seed. The section of a drip is half an ellipse.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from coating.errors import OutOfBounds
from coating.flow.additions.fat import density_kg_m3
from coating.flow.material import ORDINARY_FAT
from coating.limits import check
from coating.shape.drips import RIM_MM, ROUNDED, THICK_MM, TOP_MM
from coating.shape.pieces import CakeTier

FILLET_MM, CLEAR_MM = 3.5, 1.0  # the round where a drip leaves the rim, on either side, and what stays free between two
SHORTEST, LONGEST = 0.25, 0.8  # of the mean length, and of the height of the tier
SLENDER = 0.7  # the narrowest drip, of the widest
SHUFFLES = 60
EVEN = 1e-3  # a variation below that is none
_NECK, _FLARE, _FADES = 0.78, 1.15, 0.55
_SLICES = 160
Array = NDArray[np.float64]


@dataclass(frozen=True)
class GrownDrips:
    """Round a tier: centre-to-centre gaps, lengths and widths in mm, as drawn; `flooded` when the top is covered."""

    tier: CakeTier
    gaps_mm: tuple[float, ...]
    lengths_mm: tuple[float, ...]
    widths_mm: tuple[float, ...]
    flooded: bool = False
    fat_fraction: float = ORDINARY_FAT

    @property
    def _g_per_mm3(self) -> float:
        return density_kg_m3(self.fat_fraction) * 1e-6

    @cached_property
    def volumes_ml(self) -> tuple[float, ...]:
        """Of each drip with its foot: what to squeeze."""
        pairs = zip(self.lengths_mm, self.widths_mm, strict=True)
        return tuple(drip_volume_mm3(length, width) / 1000 for length, width in pairs)

    @property
    def each_g(self) -> tuple[float, ...]:
        """Of each drip with its foot."""
        return tuple(volume * 1000 * self._g_per_mm3 for volume in self.volumes_ml)

    @property
    def rim_g(self) -> float:
        """What the rim holds, g."""
        return self.tier.round_mm * RIM_MM * THICK_MM * ROUNDED * self._g_per_mm3

    @property
    def top_g(self) -> float:
        """What covers the top, whether it is covered or not, g."""
        return self.tier.top_mm2 * TOP_MM * self._g_per_mm3

    @property
    def drips_g(self) -> float:
        """All drips together, g."""
        return sum(self.each_g)

    @property
    def mass_g(self) -> float:
        """Drips and rim, and the top where it is covered."""
        return self.drips_g + self.rim_g + (self.top_g if self.flooded else 0.0)


def half_width_mm(depth_mm: Array, length_mm: float, width_mm: float) -> Array:
    """Half the width of a drip so far below the rim, mm: a neck that flares into the rim, and a round foot."""
    neck = width_mm / 2 * (_NECK + _FLARE * np.exp(-depth_mm / (_FADES * width_mm)))
    foot = min(width_mm, length_mm) / 2
    centre = length_mm - foot
    round_foot = np.sqrt(np.maximum(0.0, foot**2 - (depth_mm - centre) ** 2))
    return np.where(depth_mm <= centre, np.maximum(neck, round_foot), round_foot)


def drip_volume_mm3(length_mm: float, width_mm: float) -> float:
    """Half an ellipse of its width by its thickness, all along it."""
    depth = (np.arange(_SLICES) + 0.5) * length_mm / _SLICES
    area = float(np.sum(2 * half_width_mm(depth, length_mm, width_mm))) * length_mm / _SLICES
    return math.pi / 4 * area * THICK_MM


def least_gap_mm(width_mm: float) -> float:
    """From middle to middle, so that two of that width and their fillets stay apart."""
    return width_mm + 2 * FILLET_MM + CLEAR_MM


def grown_drips(
    tier: CakeTier,
    *,
    spacing_mm: float,
    length_mm: float,
    width_mm: float,
    variation: float,
    seed: int,
    flooded: bool = False,
    fat_fraction: float = ORDINARY_FAT,
) -> GrownDrips:
    """Drips round a tier, uneven by nature.

    Parameters
    ----------
    tier : mm. spacing_mm : from middle to middle, on the whole. length_mm : on the whole. width_mm : of the widest.
    variation : coefficient of variation asked of gaps and lengths; 0 is regular. seed : another one, other drips.

    Raises
    ------
    OutOfBounds : a spacing in which drips of that width would run together, drips longer than the tier allows, or a
    value outside its bounds.
    """
    check("drip_width_mm", width_mm, "width_mm"), check("drip_mm", length_mm, "length_mm")
    check("variation", variation), check("spacing_mm", spacing_mm, "spacing_mm")
    longest = LONGEST * tier.height_mm
    if length_mm > longest:
        raise OutOfBounds(
            "Drips of {length_mm} would reach the board. Make them at most {most_mm} long.",
            length_mm=length_mm,
            most_mm=longest,
            high=longest,
            field="length_mm",
        )
    around, least = tier.round_mm, least_gap_mm(width_mm)
    count = max(1, round(around / spacing_mm))
    mean = around / count
    if mean < least:
        raise OutOfBounds(
            "Drips that wide run together. Leave at least {least_mm} from middle to middle.",
            least_mm=least,
            low=least,
            field="spacing_mm",
        )
    draw = np.random.default_rng(seed)
    gaps = _gaps(draw, count, mean, least, variation)
    lengths = _apart(draw, _lengths(draw, count, length_mm, longest, variation))
    span = float(np.ptp(lengths))
    rank = (lengths - lengths.min()) / span if span > 0 else np.ones(count)
    widths = width_mm * (SLENDER + (1 - SLENDER) * rank)
    kept = [tuple(float(v) for v in row) for row in (gaps, lengths, widths)]
    return GrownDrips(tier, kept[0], kept[1], kept[2], flooded, fat_fraction)


def _gaps(draw: np.random.Generator, count: int, mean: float, least: float, variation: float) -> Array:
    """They add up to the whole way round: only what is free above the least gap is scaled."""
    free = mean - least
    if variation < EVEN or free <= 0:
        return np.full(count, mean)
    shape = (free / (variation * mean)) ** 2
    drawn = draw.gamma(shape, 1.0, count)
    if drawn.sum() <= 0:
        return np.full(count, mean)
    return np.asarray(least + drawn * (free * count / drawn.sum()))


def _lengths(draw: np.random.Generator, count: int, mean: float, longest: float, variation: float) -> Array:
    if variation < EVEN:
        return np.full(count, mean)
    sigma = math.sqrt(math.log1p(variation**2))
    return np.asarray(np.clip(draw.lognormal(math.log(mean) - sigma**2 / 2, sigma, count), SHORTEST * mean, longest))


def _apart(draw: np.random.Generator, lengths: Array) -> Array:
    """The order of many in which neighbours differ most, round the tier."""
    tried = [draw.permutation(lengths) for _ in range(SHUFFLES)]
    return max(tried, key=lambda row: float(np.abs(row - np.roll(row, 1)).sum()))
