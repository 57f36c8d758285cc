"""A shade in words, to name it by until somebody finds a better name."""

from __future__ import annotations

import math
from collections.abc import Sequence

# From this hue angle on, in degrees of CIELAB. Common practice, no source.
_HUES = (
    (0, "pink"),
    (25, "red"),
    (45, "orange"),
    (75, "yellow"),
    (100, "lime"),
    (125, "green"),
    (170, "teal"),
    (225, "blue"),
    (285, "violet"),
    (325, "magenta"),
    (345, "pink"),
)
_GREYS = ((92, "white"), (75, "pale grey"), (45, "grey"), (22, "dark grey"), (0, "black"))
_BROWN_BELOW = 60.0


def shade_words(lab: Sequence[float]) -> str:
    """Such as "soft blue" or "deep green".

    >>> shade_words((68, -8, -17)), shade_words((38, 55, 24)), shade_words((95, 0, 2)), shade_words((40, 15, 25))
    ('greyish blue', 'deep red', 'white', 'deep brown')
    """
    lightness, a, b = (float(v) for v in lab)
    chroma = math.hypot(a, b)
    if chroma < 5:
        return next(word for least, word in _GREYS if lightness >= least or least == 0)
    hue = math.degrees(math.atan2(b, a)) % 360
    word = [w for least, w in _HUES if hue >= least][-1]
    if lightness < 45 and 15 <= hue < 25:
        word = "red"
    if lightness < _BROWN_BELOW and word in ("orange", "yellow"):
        word = "brown" if word == "orange" else "olive"
    if lightness >= 80:
        return f"pale {word}" if chroma < 35 else f"bright {word}"
    if lightness < 45:
        return f"deep {word}" if chroma >= 20 else f"dark greyish {word}" if chroma < 12 else f"dark {word}"
    return f"greyish {word}" if chroma < 20 else f"soft {word}" if chroma < 45 else f"strong {word}"
