"""Every kind of design by its key, and which ones a layer takes."""

from __future__ import annotations

from types import MappingProxyType

from studio.designs.kinds.base import DesignKind
from studio.designs.kinds.bottle import BottleKind
from studio.designs.kinds.drips import DripsKind
from studio.designs.kinds.face import FaceKind
from studio.designs.kinds.film.bow import BowKind
from studio.designs.kinds.film.casts import CastKind
from studio.designs.kinds.film.curls import CurlKind
from studio.designs.kinds.film.leaves import LeafKind
from studio.designs.kinds.film.petals import PetalKind
from studio.designs.kinds.film.sleeve import SleeveKind
from studio.designs.kinds.lace import LaceKind
from studio.designs.kinds.lettering import LetteringKind
from studio.designs.kinds.made.dipped import DipKind
from studio.designs.kinds.made.house import HouseKind
from studio.designs.kinds.made.moulded import MouldKind
from studio.designs.kinds.made.painted import PaintKind
from studio.designs.kinds.marbling import MarblingKind
from studio.designs.kinds.run_out import RunOutKind
from studio.designs.kinds.swirl import SwirlKind
from studio.designs.kinds.transfer import TransferKind
from studio.designs.place import Place
from studio.pieces.models import Layer

__all__ = ["GROUPS", "KINDS", "KINDS_OF", "kinds_for", "way_of_design"]

_ALL = (
    DipKind(),
    MouldKind(),
    PaintKind(),
    HouseKind(),
    MarblingKind(),
    SwirlKind(),
    BottleKind(),
    LaceKind(),
    DripsKind(),
    LetteringKind(),
    RunOutKind(),
    FaceKind(),
    TransferKind(),
    SleeveKind(),
    CurlKind(),
    BowKind(),
    PetalKind(),
    LeafKind(),
    CastKind(),
)
KINDS = MappingProxyType({k.name: k for k in _ALL})
GROUPS = tuple(dict.fromkeys(k.group for k in _ALL))
_OF: dict[str, list[DesignKind]] = {}
for _kind in _ALL:
    for _technique in _kind.techniques:
        _OF.setdefault(_technique, []).append(_kind)
KINDS_OF = MappingProxyType({technique: tuple(kinds) for technique, kinds in _OF.items()})


def way_of_design(layer: Layer) -> str:
    """How a layer on its piece can be made as any of them: "drawn", "planned" where there is more to plan than to draw,
    "" for none."""
    groups = {kind.group for kind in KINDS_OF.get(layer.technique, ()) if kind.takes(layer)}
    return "planned" if "Made" in groups else "drawn" if groups else ""


def kinds_for(layer: Layer) -> list[DesignKind]:
    """The kinds of design that a layer on its piece can be made as, what suits it before all else first."""
    place = Place.of(layer.kitchen, layer)
    taking = [kind for kind in KINDS_OF.get(layer.technique, ()) if kind.takes(layer)]
    return sorted(taking, key=lambda kind: not kind.suits(place))
