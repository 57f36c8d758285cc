"""The colour of a spot in a photo, with a white or grey card in the same light to correct by."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from coating.colour.cie import lab_from_linear_srgb, linear_srgb
from coating.errors import OutOfBounds

Pixels = NDArray[np.uint8]
Array = NDArray[np.float64]

# Reflectance of what is laid beside it. White paper and a photographer's grey card; common practice, no source.
CARDS = {"white": 0.85, "grey": 0.18}
_BURNT, _BURNT_SHARE = 250, 0.2
_DARKEST = 0.02
_TRIM = 0.2
_UNEVEN = 6.0


@dataclass(frozen=True)
class PhotoPatch:
    """A square of a picture: its middle and half its side, as shares (0 to 1) of the width and height."""

    x: float
    y: float
    half: float = 0.015


@dataclass(frozen=True)
class Seen:
    """CIELAB of a patch under D65, and whether it is one colour or several."""

    lab: tuple[float, float, float]
    uneven: bool


def colour_in_photo(
    pixels: Pixels, spot: PhotoPatch, *, card: PhotoPatch | None = None, card_kind: str = "white"
) -> Seen:
    """Colour of a spot.

    Parameters
    ----------
    pixels : sRGB (H, W, 3), 8 bit. spot : where to look. card : where the card is; without one the picture is
    taken at its word. card_kind : "white" (paper) or "grey" (18 %).

    Raises
    ------
    OutOfBounds : a patch outside the picture, a card that is burnt out or in the dark, a spot lighter than the card
    could ever make it.

    The card's own light is divided out channel by channel in linear sRGB (von Kries). The middle three fifths of a
    patch by lightness count, so that glints and specks do not.
    """
    seen = _middle(_cut(pixels, spot, "spot"))
    if card is not None:
        patch = _cut(pixels, card, "card")
        if float((patch >= _BURNT).any(axis=-1).mean()) > _BURNT_SHARE:
            raise OutOfBounds(
                "The card is burnt out to plain white there. Take the picture a little darker, or mark "
                "a greyer part of the card.",
                field="card",
            )
        light = _middle(patch)
        if float(light.min()) < _DARKEST:
            raise OutOfBounds(
                "That is too dark to be the card. Mark the card where the light falls on it.", field="card"
            )
        seen = seen * (CARDS[card_kind] / light)
        if float(seen.max()) > 1.25:
            raise OutOfBounds(
                "That spot is lighter than the card allows for. Mark the card again, where it is in the "
                "same light as the spot.",
                field="card",
            )
    lab = lab_from_linear_srgb(np.clip(seen, 0.0, 1.0))
    spread = lab_from_linear_srgb(linear_srgb(_cut(pixels, spot, "spot").reshape(-1, 3) / 255.0))
    return Seen((float(lab[0]), float(lab[1]), float(lab[2])), bool(spread.std(axis=0).max() > _UNEVEN))


def _cut(pixels: Pixels, patch: PhotoPatch, field: str) -> Pixels:
    height, width = pixels.shape[:2]
    if not (0 <= patch.x <= 1 and 0 <= patch.y <= 1):
        raise OutOfBounds("That spot is outside the picture.", field=field)
    half = max(1, round(patch.half * max(width, height)))
    x, y = round(patch.x * (width - 1)), round(patch.y * (height - 1))
    return pixels[max(0, y - half) : y + half + 1, max(0, x - half) : x + half + 1]


def _middle(patch: Pixels) -> Array:
    """Linear sRGB (3,) of a patch without its lightest and darkest fifths."""
    linear = linear_srgb(patch.reshape(-1, 3) / 255.0)
    order = np.argsort(linear.sum(axis=1))
    cut = int(len(order) * _TRIM)
    return np.asarray(linear[order[cut : len(order) - cut or None]].mean(axis=0))
