"""What is wanted: pieces with their layers, parts that go on other pieces, and the colours they are of."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from types import MappingProxyType

from coating.colour.mixing import Part
from coating.colour.recipe import Lab
from coating.colour.ways import ANY_WAY, ColourWay
from coating.errors import OutOfBounds, UnknownName
from coating.piece.cores import Core
from coating.piece.kinds import KINDS
from coating.piece.layers import Layer
from coating.piece.stack import spares_for


@dataclass(frozen=True)
class Tone:
    """A colour: CIELAB under D65, or how it was made once, from which it is scaled; `way` how it is to be found."""

    lab: Lab | None = None
    parts: tuple[Part, ...] = ()
    way: ColourWay = ANY_WAY


@dataclass(frozen=True)
class Piece:
    """So many of one kind: the key of its core, its size, its stack from below. Without `spares`, as many as usually
    break. `name` is what its steps call it."""

    id: str
    kind: str
    core: Core
    count: int
    layers: tuple[Layer, ...]
    spares: int | None = None
    name: str = ""

    @property
    def called(self) -> str:
        """Its name, or that of what it is made on, as it stands in a sentence."""
        return (self.name or (KINDS[self.kind].title if self.kind in KINDS else "piece")).lower()

    def spare(self, count: int) -> int:
        """Spares said, or as many as usually break of so many."""
        if self.spares is not None:
            return self.spares
        breaks = KINDS[self.kind].breaks if self.kind in KINDS else 0.0
        return spares_for(count, breaks, self.layers) if count else 0


@dataclass(frozen=True)
class Joint:
    """`each` of one piece go on every one of another: "wet", "half_set", "set", "glued" or "inside", with so much glue,
    g (None: an ordinary bead)."""

    part: str
    on: str
    each: int = 1
    placed: str = "glued"
    glue_g: float | None = None

    @property
    def id(self) -> str:
        """How its line and its steps are called."""
        return f"{'glue' if self.placed == 'glued' else 'joint'}:{self.part}:{self.on}"


@dataclass(frozen=True)
class Wanted:
    """All of a job."""

    pieces: tuple[Piece, ...]
    joints: tuple[Joint, ...] = ()
    colours: Mapping[str, Tone] = field(default_factory=lambda: MappingProxyType({}))

    def counts(self) -> dict[str, tuple[int, int]]:
        """How many of each piece, and spares: its own, and those that go on others, on their spares too.

        Raises
        ------
        UnknownName : a joint names no piece. OutOfBounds : parts go on each other in a circle.
        """
        by_id = {piece.id: piece for piece in self.pieces}
        for joint in self.joints:
            for name in (joint.part, joint.on):
                if name not in by_id:
                    raise UnknownName(f"There is no piece {name[:60]!r}.", field="joints", choices=list(by_id))
        found: dict[str, tuple[int, int]] = {}

        def count(name: str, asking: tuple[str, ...]) -> tuple[int, int]:
            if name in asking:
                called = " on ".join(by_id[n].called for n in (*asking[asking.index(name) :], name))
                raise OutOfBounds(f"Nothing can go on itself: {called}.", field="joints")
            if name not in found:
                piece, own = by_id[name], by_id[name].count
                for joint in self.joints:
                    if joint.part == name:
                        own += joint.each * sum(count(joint.on, (*asking, name)))
                found[name] = own, piece.spare(own)
            return found[name]

        for name in by_id:
            count(name, ())
        return found
