"""Every kind of design by its key, and which one a layer takes."""

from __future__ import annotations

from types import MappingProxyType

from studio.designs.kinds.drips import DripsKind
from studio.designs.kinds.face import FaceKind
from studio.designs.kinds.lace import LaceKind
from studio.designs.kinds.lettering import LetteringKind
from studio.designs.kinds.marbling import MarblingKind
from studio.designs.kinds.run_out import RunOutKind

KINDS = MappingProxyType(
    {k.name: k for k in (LaceKind(), DripsKind(), LetteringKind(), RunOutKind(), FaceKind(), MarblingKind())}
)
KIND_OF = MappingProxyType({technique: k.name for k in reversed(list(KINDS.values())) for technique in k.techniques})
