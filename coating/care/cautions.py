"""What to watch with a piece before somebody eats it. Common practice, no source: packs and local rules come first."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from coating.piece.extras import NON_TOXIC, UNSAID, Extra
from coating.piece.kinds import CoreKind

FRUIT_KEEPS_DAYS = 1
_ON_FOOD = ("dust", "leaf", "topping")


@dataclass(frozen=True)
class Caution:
    """What it is, in one sentence, and whether it stops: somebody could be hurt or fooled."""

    text: str
    stops: bool = False


def keeps_days(kind: CoreKind) -> int | None:
    """How long a core keeps once it is dipped; None for what keeps."""
    return FRUIT_KEEPS_DAYS if kind.name in ("berry", "fruit") else None


def cautions(
    kind: CoreKind, extras: Sequence[Extra], *, little_ones: bool = False, days: int | None = None, deep_mm: float = 0.0
) -> list[Caution]:
    """What to watch, what stops first.

    Parameters
    ----------
    kind : of the core. extras : everything on and in it. little_ones : small children eat it. days : until it is eaten,
    from when it is made. deep_mm : of what is hollow.
    """
    lines = dict.fromkeys((*_edible(extras), *_keeping(kind, extras, days), *_handling(kind, extras, deep_mm)))
    if little_ones:
        lines |= dict.fromkeys(_little_ones(kind, extras))
    return sorted(lines, key=lambda c: not c.stops)


def _edible(extras: Sequence[Extra]) -> Iterator[Caution]:
    for extra in extras:
        if extra.edible == NON_TOXIC:
            yield Caution(
                f"{extra.name} only says non-toxic: that is not edible. Leave it off what is eaten, or take "
                "one that is sold as food.",
                stops=True,
            )
        elif extra.edible == UNSAID and extra.kind in _ON_FOOD:
            yield Caution(f"Look at the pack of {extra.name}: it has to say edible and list what is in it.")


def _keeping(kind: CoreKind, extras: Sequence[Extra], days: int | None) -> Iterator[Caution]:
    fruit = keeps_days(kind)
    if fruit is not None:
        yield Caution("Fresh fruit: wash it, dry it twice, dip it the day it is eaten or the day before, keep it cold.")
    for name, keeps in [(e.name, e.keeps_days) for e in extras] + [("The fruit", fruit)]:
        if keeps is not None and days is not None and days > keeps:
            yield Caution(
                f"{name} keeps {_days(keeps)}, and it is {_days(days)} from making to eating: make it later.",
                stops=True,
            )
    for extra in extras:
        if extra.cold:
            kept = f", {_days(extra.keeps_days)} at most" if extra.keeps_days is not None else ""
            yield Caution(f"{extra.name} stays in the fridge{kept}; out of it only to be served.")


def _handling(kind: CoreKind, extras: Sequence[Extra], deep_mm: float) -> Iterator[Caution]:
    for extra in extras:
        if extra.comes_out:
            yield Caution(f"Count {extra.name.lower()}s out, and count them in again before anything is served.")
        elif extra.kind == "stick":
            yield Caution("A stick stays in: say so where it is not seen.")
        if extra.kind == "dust":
            yield Caution("Never breathe dust or spray: a soft brush, no blowing, the window open.")
    if kind.name == "glass_rim":
        yield Caution("A glass from the freezer cracks under warm coating: let it come to room temperature.")
    if deep_mm > 45:
        yield Caution("A shell broken with a hammer makes sharp pieces: thin walls, eyes covered.")


def _little_ones(kind: CoreKind, extras: Sequence[Extra]) -> Iterator[Caution]:
    if any(e.kind == "stick" for e in extras):
        yield Caution("Small children: no sticks or picks. Serve it off the stick.", stops=True)
    for extra in extras:
        if extra.small:
            yield Caution(f"Small children: {extra.name.lower()} can choke. Leave it off theirs.", stops=True)
    if kind.name in ("sweet", "marshmallow"):
        yield Caution(f"Small children: cut it; a whole {kind.title.lower()} can choke.")
    if kind.name == "berry":
        yield Caution("Small children: cut round fruit lengthwise.")


def _days(count: int | None) -> str:
    return "1 day" if count == 1 else f"{count} days"
