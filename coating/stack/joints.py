"""Parts on pieces: how large one is seen, what it weighs, the glue it wants, and what would go wrong with it."""

from __future__ import annotations

import math
from collections.abc import Callable

from coating.piece.cores import Core, Hollow, Sheet, Tier
from coating.piece.kinds import CoreKind
from coating.stack.layers import Layer
from coating.techniques.part import FRONT, GLUED, INSIDE_IT, PAIRS, ROUND, STANDING, TOP

DAB_G, HOLDS_G = 0.6, 60.0  # a dab, and what a g of glue holds once it is set, g; common practice, no source
BEAD_MM, GLUE_DENSITY = 2.0, 1.25e-3  # how thick a dab stays under a part; g per mm3
OVERHANGS = 1.5  # how much wider than what it stands on a part may be; common practice, no source
INTO = 0.3  # share of a part that is behind what it is set on, beside it
CLOSE = 0.9  # share of a face that can be covered with parts side by side


def glue_g(part_g: float) -> float:
    """Glue for a part so heavy, g: a dab, more for what is heavier.

    >>> glue_g(3.0), glue_g(90.0)
    (0.6, 1.5)
    """
    return max(DAB_G, part_g / HOLDS_G)


def seen_mm(core: Core) -> tuple[float, float]:
    """How wide and how high a core is as it is seen, mm: a sheet lies; what comes out of a mould shows its face."""
    if isinstance(core, Hollow):
        return core.top_diameter_mm, core.top_diameter_mm
    if isinstance(core, Sheet):
        return core.length_mm, core.across_mm
    return core.across_mm, core.length_mm


def stands(kind: CoreKind) -> bool:
    """Whether it stands, so that it looks otherwise from above than from the front."""
    return kind.figure in ("tier", "round", "hollow", "rod")


def ring(count: int, size_mm: tuple[float, float], radius_mm: float) -> tuple[float, bool]:
    """How far from the middle of something flat the middles of parts lie that go all round it, mm, and whether they lie
    on it: where they fit, inside its edge; else about it, as close as they can be."""
    wide, high = size_mm
    if high < 0.9 * radius_mm:
        return radius_mm - 0.55 * high, True
    return max(radius_mm + high * (0.5 - INTO), wide / 2 / math.sin(math.pi / max(3, count))), False


def _one(called: str, count: int) -> str:
    """One of them, where a sentence begins."""
    return f"The {called}" if count == 1 else f"Each of the {called}"


def _mm(mm: float) -> str:
    return f"{mm:.0f} mm"


def _g(g: float) -> str:
    return f"{g:.1f} g" if g < 10 else f"{g:.0f} g"


def doubts(
    kind: CoreKind,
    core: Core,
    layer: Layer,
    part: Core,
    part_g: float,
    called: str,
    *,
    length: Callable[[float], str] = _mm,
    mass: Callable[[float], str] = _g,
) -> list[str]:
    """What would go wrong with a part on a piece, in words: too large, too many, too heavy. Common practice, no source.

    Parameters
    ----------
    kind, core : what it goes on. layer : how many, where and how. part : the core of the part; part_g : what it
    weighs, g; called : what it is called. length, mass : how mm and g are said.
    """
    sentences = list[str]()
    wide, high = seen_mm(part)
    on_wide, on_high = seen_mm(core)
    if layer.placed == INSIDE_IT:
        mouth = core.across_mm if core.holds_ml else 0.0
        if not mouth:
            return [f"It is not hollow: nothing goes inside {kind.title.lower()}."]
        if max(wide, high) > mouth:
            sentences.append(
                f"{_one(called, layer.count)} is {length(max(wide, high))} long: it does not go into {length(mouth)}."
            )
        return sentences
    where, upright = layer.where or FRONT, isinstance(core, Tier) or kind.figure == "round"
    if where == PAIRS and layer.count % 2:
        sentences.append(f"{layer.count} {called}: pairs want an even number.")
    if where == ROUND and upright:
        most = int(math.pi * on_wide / wide)
        if layer.count > most:
            sentences.append(f"{layer.count} {called} do not fit all round: {most} do.")
    elif where in (TOP, STANDING) and upright and wide > OVERHANGS * on_wide:
        sentences.append(
            f"{_one(called, layer.count)} is {length(wide)} wide, too large for a top of {length(on_wide)}."
        )
    elif where in (FRONT, TOP, STANDING) and not core.holds_ml:
        if layer.count == 1 and (wide > OVERHANGS * on_wide or high > OVERHANGS * max(on_high, on_wide)):
            sentences.append(
                f"{_one(called, layer.count)} is {length(wide)} by {length(high)}: larger than what it lies on."
            )
        room = CLOSE * on_wide * (on_wide if upright and where == TOP else on_high)
        if layer.count > 1 and where != STANDING and layer.count * wide * high > room:
            sentences.append(
                f"{layer.count} {called} do not fit beside each other: {max(0, int(room / (wide * high)))} do."
            )
    if layer.placed == GLUED or layer.takes_coating:
        wants = glue_g(part_g)
        if layer.each_g is not None and layer.each_g < wants - 1e-9 and part_g > DAB_G * HOLDS_G:
            weighs = f"{_one(called, layer.count)} weighs {mass(part_g)}"
            sentences.append(f"{weighs}, too heavy for a dab of {mass(layer.each_g)}: take {mass(wants)}.")
        if wants > DAB_G and wants > wide * high * BEAD_MM * GLUE_DENSITY:
            sentences.append(
                f"{_one(called, layer.count)} weighs {mass(part_g)}, too heavy for what it can be glued by."
            )
    return sentences
