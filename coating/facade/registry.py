"""Which entries there are; each module registers its own on import, so importing stays quick."""

from __future__ import annotations

import importlib
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from coating.errors import UnknownName
from coating.facade.fields import Record

_MODULES = {name: f"coating.facade.{name}" for name in ("colour", "flow", "heat", "bowl")}


@dataclass(frozen=True)
class Entry:
    """A name, a line of purpose, the input and the function."""

    name: str
    purpose: str
    inputs: Record
    run: Callable[[dict[str, Any]], dict[str, Any]]


def _module_entries(module: str) -> list[Entry]:
    return list(importlib.import_module(module).ENTRIES)


def entries() -> list[Entry]:
    """Every entry, in the order of the rooms."""
    return [e for module in _MODULES.values() for e in _module_entries(module)]


def find(name: str) -> Entry:
    """The entry called `name`. Raises UnknownName."""
    module = _MODULES.get(name.partition(".")[0])
    for entry in _module_entries(module) if module else []:
        if entry.name == name:
            return entry
    raise UnknownName(f"There is no entry called {name[:60]!r}; see --list.", field="name")


def schema(name: str) -> dict[str, Any]:
    """JSON Schema of an entry's input."""
    entry = find(name)
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": entry.name,
        "description": entry.purpose,
        **entry.inputs.schema(),
    }


def answer(name: str, payload: Any) -> dict[str, Any]:
    """Read the input strictly and run the entry. Raises CoatingError."""
    entry = find(name)
    return entry.run(entry.inputs.read(payload))
