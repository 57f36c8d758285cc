"""Spectra: 31 bands, 400 to 700 nm at 10 nm, and the shapes curves are described by."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Spectrum = NDArray[np.float64]

WAVELENGTHS_NM: Spectrum = np.arange(400.0, 701.0, 10.0)
BANDS = WAVELENGTHS_NM.size


def tail(amplitude: float, width_nm: float) -> Spectrum:
    """amplitude * exp(-(nm - 400)/width_nm): the yellow edge of milk solids and cocoa. Shape (31,)."""
    return amplitude * np.exp(-(WAVELENGTHS_NM - 400.0) / width_nm)


def band(amplitude: float, centre_nm: float, sigma_nm: float) -> Spectrum:
    """A Gaussian absorption band. Shape (31,)."""
    return amplitude * np.exp(-0.5 * ((WAVELENGTHS_NM - centre_nm) / sigma_nm) ** 2)


@dataclass(frozen=True)
class Curve:
    """K or S of a neat ingredient in 1/mm: constant + tails (amplitude, width) + bands (amplitude, centre, sigma) +
    31 samples where it was read, the whole times (nm/550)**power."""

    constant: float = 0.0
    tails: tuple[tuple[float, float], ...] = ()
    bands: tuple[tuple[float, float, float], ...] = ()
    power: float = 0.0
    samples: tuple[float, ...] = ()

    def spectrum(self) -> Spectrum:
        """The curve sampled on the 31 bands, in 1/mm."""
        total = np.full(BANDS, self.constant)
        for amplitude, width_nm in self.tails:
            total = total + tail(amplitude, width_nm)
        for amplitude, centre_nm, sigma_nm in self.bands:
            total = total + band(amplitude, centre_nm, sigma_nm)
        if self.samples:
            total = total + np.array(self.samples)
        return total * (WAVELENGTHS_NM / 550.0) ** self.power
