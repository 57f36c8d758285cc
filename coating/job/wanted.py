"""What is wanted: pieces with their layers, parts that go on other pieces, and the colours they are of."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from types import MappingProxyType

from coating.colour.mixing import Part
from coating.colour.recipe import Lab
from coating.colour.ways import ANY_WAY, ColourWay
from coating.errors import OutOfBounds, UnknownName
from coating.piece.cores import Core
from coating.piece.kinds import KINDS
from coating.stack.joints import glue_g
from coating.stack.layers import Layer, on_one_g
from coating.stack.order import spares_for
from coating.techniques import technique
from coating.techniques.part import INSIDE_IT

INSIDE_RANK = technique("insert").rank


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
    g (None: an ordinary bead). The same as a layer of technique "part" on the other."""

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
    """All of a job. What goes on what is said by layers that name a piece, or by joints beside them."""

    pieces: tuple[Piece, ...]
    joints: tuple[Joint, ...] = ()
    colours: Mapping[str, Tone] = field(default_factory=lambda: MappingProxyType({}))

    def told(self) -> Wanted:
        """The same with every joint as a layer of the piece it is on, of what holds it.

        Raises
        ------
        UnknownName : a joint or a layer names no piece. OutOfBounds : parts go on each other in a circle.
        """
        by_id = {piece.id: piece for piece in self.pieces}
        named = [n for joint in self.joints for n in (joint.part, joint.on)]
        for name in (*named, *(la.part for piece in self.pieces for la in piece.layers if la.part)):
            if name not in by_id:
                raise UnknownName(f"There is no piece {name[:60]!r}.", field="joints", choices=list(by_id))
        whole = replace(self, pieces=tuple(self._with_parts(piece, by_id) for piece in self.pieces), joints=())
        if not any(la.part for piece in whole.pieces for la in piece.layers):
            return whole
        weights = whole.weigh()
        pieces = (
            replace(p, layers=tuple(_named(la, by_id[la.part], weights[la.part]) if la.part else la for la in p.layers))
            for p in whole.pieces
        )
        return replace(whole, pieces=tuple(pieces))

    def _with_parts(self, piece: Piece, by_id: Mapping[str, Piece]) -> Piece:
        layers = list(piece.layers)
        for joint in self.joints:
            if joint.on == piece.id:
                colour, base, white = _glued_with(by_id[joint.part], piece)
                each_g = None if joint.glue_g is None else joint.glue_g / joint.each
                layer = Layer(
                    "part",
                    colour,
                    base=base,
                    white=white,
                    count=joint.each,
                    placed=joint.placed,
                    each_g=each_g,
                    id=joint.id,
                    part=joint.part,
                )
                closes = (i for i, la in enumerate(layers) if la.kind.rank > INSIDE_RANK)
                place = next(closes, len(layers)) if joint.placed == INSIDE_IT else len(layers)
                layers.insert(place, layer)
        return replace(piece, layers=tuple(layers))

    def weigh(self) -> dict[str, float]:
        """What one of each piece weighs without what it is made on, parts that go on it too, g. Of what is told."""
        weights = dict[str, float]()
        for piece in _parts_first(self.pieces):
            own = sum(on_one_g(piece.core, la) for la in piece.layers if not la.part)
            weights[piece.id] = own + sum(la.count * weights.get(la.part, 0.0) for la in piece.layers if la.part)
        return weights

    def counts(self) -> dict[str, tuple[int, int]]:
        """How many of each piece, and spares: its own, and those that go on others, on their spares too. Of what is
        told, so that there is no circle."""
        counts, carried = dict[str, tuple[int, int]](), dict[str, int]()
        for piece in reversed(_parts_first(self.pieces)):
            count = piece.count + carried.get(piece.id, 0)
            counts[piece.id] = count, piece.spare(count)
            for layer in piece.layers:
                if layer.part:
                    carried[layer.part] = carried.get(layer.part, 0) + layer.count * sum(counts[piece.id])
        return {piece.id: counts[piece.id] for piece in self.pieces}

    def parts_first(self) -> list[Piece]:
        """Pieces in such an order that what goes on another is made before it."""
        return _parts_first(self.pieces)


def _named(layer: Layer, part: Piece, weighs_g: float) -> Layer:
    """A layer with what its part is called; with what one weighs that goes inside, or the glue it wants."""
    layer = replace(layer, note=layer.note or part.called)
    if layer.placed == INSIDE_IT:
        return replace(layer, each_g=weighs_g)
    return layer if layer.each_g is not None or not layer.takes_coating else replace(layer, each_g=glue_g(weighs_g))


def _parts_first(pieces: Sequence[Piece]) -> list[Piece]:
    """Raises OutOfBounds for what would have to go on itself."""
    ordered, left = list[Piece](), list(pieces)
    waiting = {p.id for p in pieces}
    while left:
        ready = next((p for p in left if not any(la.part in waiting for la in p.layers)), None)
        if ready is None:
            circle = " on ".join(p.called for p in left)
            raise OutOfBounds(f"Nothing can go on itself: {circle}.", field="joints")
        left.remove(ready)
        waiting.discard(ready.id)
        ordered.append(ready)
    return ordered


def _glued_with(part: Piece, on: Piece) -> tuple[str, str, str]:
    """The colour, bag and white of the glue: as the part is, where that is coated, else as its piece is."""
    for piece in (part, on):
        coat = next((la for la in piece.layers if la.takes_coating), None)
        if coat is not None:
            return coat.colour, coat.base, coat.white
    return "", "", "coating"
