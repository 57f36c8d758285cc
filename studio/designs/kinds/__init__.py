"""Every kind of design by its key, and which one a layer takes."""

from __future__ import annotations

from types import MappingProxyType

from studio.designs.kinds.bottle import BottleKind
from studio.designs.kinds.drips import DripsKind
from studio.designs.kinds.face import FaceKind
from studio.designs.kinds.lace import LaceKind
from studio.designs.kinds.lettering import LetteringKind
from studio.designs.kinds.marbling import MarblingKind
from studio.designs.kinds.run_out import RunOutKind

_ALL = (LaceKind(), DripsKind(), LetteringKind(), RunOutKind(), FaceKind(), MarblingKind(), BottleKind())
KINDS = MappingProxyType({k.name: k for k in _ALL})
KIND_OF = MappingProxyType({technique: k.name for k in reversed(_ALL) for technique in k.techniques})
