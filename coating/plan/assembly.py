"""In which order parts are put up so that none blocks a hand: what stands first, what must be inside before it
closes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from coating.errors import OutOfBounds


@dataclass(frozen=True)
class AssemblyPart:
    """A part: its name, what it leans on, whether it goes inside, and whether it closes the inside (a hand gets in no
    more)."""

    name: str
    on: tuple[str, ...] = ()
    inside: bool = False
    closes: bool = False


def order(parts: Sequence[AssemblyPart]) -> list[AssemblyPart]:
    """What leans on something after it, all that goes inside before the first part that closes; else as listed.

    Raises
    ------
    OutOfBounds : a part leans on one that is not there, on itself in a circle, or inside leans on what closes.
    """
    names = {p.name for p in parts}
    for part in parts:
        for under in part.on:
            if under not in names:
                raise OutOfBounds(f"{part.name} leans on {under.lower()}, which is not there.", field="parts")
    left, done = list(parts), list[AssemblyPart]()
    while left:
        standing = {p.name for p in done}
        waiting_inside = any(p.inside for p in left)
        ready = [p for p in left if set(p.on) <= standing and not (p.closes and waiting_inside)]
        if not ready:
            blocked = ", ".join(p.name.lower() for p in left)
            raise OutOfBounds(f"These block each other: {blocked}. Put one of them in before it closes.", field="parts")
        done.append(ready[0])
        left.remove(ready[0])
    return done


def house_parts(kind: str, inside: Sequence[str] = ()) -> list[AssemblyPart]:
    """The parts of a box or a house in the order of their leaning."""
    fillings = [AssemblyPart(name, ("Base",), inside=True) for name in inside]
    if kind == "box":
        return [
            AssemblyPart("Base"),
            AssemblyPart("Back long side", ("Base",)),
            AssemblyPart("Left short side", ("Back long side",)),
            AssemblyPart("Right short side", ("Back long side",)),
            *fillings,
            AssemblyPart("Front long side", ("Left short side", "Right short side")),
            AssemblyPart("Lid", ("Front long side",), closes=True),
        ]
    return [
        AssemblyPart("Base"),
        AssemblyPart("Back gable", ("Base",)),
        AssemblyPart("Left side wall", ("Back gable",)),
        AssemblyPart("Right side wall", ("Back gable",)),
        *fillings,
        AssemblyPart("Front gable", ("Left side wall", "Right side wall")),
        AssemblyPart("First roof half", ("Front gable",), closes=True),
        AssemblyPart("Second roof half", ("First roof half",)),
    ]
