"""Which entries there are; each module registers its own on import, so importing stays quick."""

from __future__ import annotations

import importlib
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from coating.errors import UnknownName
from coating.facade.fields import Record

_MODULES = {
    "colour": ("colour", "recipes"),
    "flow": ("flow",),
    "heat": ("heat",),
    "bowl": ("bowl",),
    "shape": ("shape", "poured"),
    "job": ("job",),
    "plan": ("quantities", "schedule"),
    "learn": ("learning",),
    "care": ("care",),
}


@dataclass(frozen=True)
class Entry:
    """A name, a line of purpose, the input and the function."""

    name: str
    purpose: str
    inputs: Record
    run: Callable[[dict[str, Any]], dict[str, Any]]


def _room(name: str) -> list[Entry]:
    """The entries of a room, in the order of its modules."""
    return [e for m in _MODULES.get(name, ()) for e in importlib.import_module(f"coating.facade.{m}").ENTRIES]


def entries() -> list[Entry]:
    """Every entry, in the order of the rooms.

    Returns
    -------
    list of Entry
    """
    return [e for room in _MODULES for e in _room(room)]


def find(name: str) -> Entry:
    """The entry called `name`. Raises UnknownName."""
    for entry in _room(name.partition(".")[0]):
        if entry.name == name:
            return entry
    raise UnknownName(f"There is no entry called {name[:60]!r}; see --list.", field="name")


def schema(name: str) -> dict[str, Any]:
    """JSON Schema of an entry's input.

    Parameters
    ----------
    name : str
        Name of the entry.

    Returns
    -------
    dict

    Raises
    ------
    UnknownName
        There is no such entry.
    """
    entry = find(name)
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": entry.name,
        "description": entry.purpose,
        **entry.inputs.schema(),
    }


def answer(name: str, payload: Any) -> dict[str, Any]:
    """Read the input strictly and run the entry.

    Parameters
    ----------
    name : str
        Name of the entry.
    payload : object
        What JSON gave.

    Returns
    -------
    dict
        What JSON can carry.

    Raises
    ------
    CoatingError
        No such entry, a field that is wrong, or a refusal of the entry itself.
    """
    entry = find(name)
    return entry.run(entry.inputs.read(payload))
