"""Every technique by its key: each is a file of this folder that says all there is to say of it."""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Mapping
from types import MappingProxyType

from coating.errors import UnknownName
from coating.techniques.base import Technique

_NOT = ("base", "measures", "ways")


def _found() -> dict[str, Technique]:
    names = sorted(m.name for m in pkgutil.iter_modules(__path__) if m.name not in _NOT)
    modules = [importlib.import_module(f"{__name__}.{name}") for name in names]
    by_rank = sorted((m.TECHNIQUE for m in modules), key=lambda t: (t.rank, t.name))
    return {t.name: t for t in by_rank}


TECHNIQUES: Mapping[str, Technique] = MappingProxyType(_found())


def technique(name: str) -> Technique:
    """The technique of that name.

    Parameters
    ----------
    name : str

    Returns
    -------
    Technique

    Raises
    ------
    UnknownName
        There is none.
    """
    if name not in TECHNIQUES:
        raise UnknownName(f"There is no layer called {name[:60]!r}.", field="technique", choices=list(TECHNIQUES))
    return TECHNIQUES[name]


__all__ = ["TECHNIQUES", "Technique", "technique"]
