"""Pieces to begin with, whole: picked by their picture, sensible in every figure. Common practice, no source.

Colours are named by what they are for: "main", "second", or "" for plain.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from coating.errors import UnknownName
from coating.piece.cores import Core
from coating.piece.kinds import Kind, kind_of_core
from coating.piece.layers import Layer, usual_length_mm
from coating.techniques.base import LINE


@dataclass(frozen=True)
class Part:
    """A piece of it: the kind of its core, which of its sizes, its layers, and how many are in one."""

    title: str
    kind_name: str
    size: str
    layers: tuple[Layer, ...]
    each: int = 1

    @property
    def kind(self) -> Kind:
        return kind_of_core(self.kind_name)

    @property
    def core(self) -> Core:
        return self.kind.core(*dict(self.kind.sizes)[self.size])


@dataclass(frozen=True)
class Start:
    """One thing to begin with: its name, its title, how many are usual, and its parts; several are a motif."""

    name: str
    title: str
    count: int
    parts: tuple[Part, ...]


def _layer(core: Core, name: str, colour: str = "", **told: object) -> Layer:
    layer = Layer(name, colour, **told)  # type: ignore[arg-type]
    if layer.kind.measured == LINE and layer.length_mm is None:
        return Layer(name, colour, **{**told, "length_mm": usual_length_mm(name, core)})  # type: ignore[arg-type]
    return layer


def _part(title: str, kind: str, size: str, *layers: tuple[str, str, dict[str, object]], each: int = 1) -> Part:
    core = kind_of_core(kind).core(*dict(kind_of_core(kind).sizes)[size])
    return Part(title, kind, size, tuple(_layer(core, n, c, **told) for n, c, told in layers), each)


_HALF: dict[str, object] = {"share": 0.5}
_DEEP: dict[str, object] = {"share": 0.9}
_WET: dict[str, object] = {"placed": "wet"}
_THIN: dict[str, object] = {"thickness_mm": 3.0}
_ALL: dict[str, object] = {}
_PANEL = (("lines", "", _ALL), ("glue", "", _ALL))
_STARTS = (
    Start("half_dipped", "Half-dipped biscuits", 24, (
        _part("Half-dipped biscuits", "round_biscuit", "usual", ("dip", "main", _HALF), ("drizzle", "", _ALL)),)),
    Start("bordered", "A border along the dip line", 24, (
        _part("Biscuits with a border", "round_biscuit", "usual", ("dip", "main", _HALF),
              ("dots", "", {"count": 11, "each_g": 0.03})),)),
    Start("dotted", "Dots all over", 24, (
        _part("Dotted biscuits", "round_biscuit", "usual", ("dip", "main", _ALL),
              ("dots", "", {"count": 30, "each_g": 0.03})),)),
    Start("in_a_v", "Dipped twice, in a V", 24, (
        _part("Biscuits in a V", "round_biscuit", "usual", ("angled_dip", "main", _HALF),
              ("angled_dip", "second", _HALF)),)),
    Start("berries", "Dipped berries", 24, (
        _part("Dipped berries", "berry", "usual", ("dip", "main", _DEEP), ("drizzle", "", _ALL)),)),
    Start("filled", "Filled shapes on sticks", 12, (
        _part("Filled shapes on sticks", "mould", "half ball", ("shell", "main", _ALL), ("filling", "", _ALL),
              ("cap", "main", _ALL), ("stick", "", _ALL)),)),
    Start("pralines", "Filled pralines", 24, (
        _part("Filled pralines", "mould", "praline", ("shell", "", _ALL), ("filling", "", _ALL), ("cap", "", _ALL),
              ("drizzle", "main", _ALL)),)),
    Start("slab", "Marbled slab", 1, (
        _part("Marbled slab", "slab", "tray", ("pour", "", _THIN), ("marbling", "main", _THIN),
              ("topping", "", {"placed": "wet", "count": 60, "each_g": 0.3})),)),
    Start("bark", "Bark with something on it", 1, (
        _part("Bark", "slab", "tray", ("spread", "", _ALL),
              ("topping", "", {"placed": "wet", "count": 60, "each_g": 0.5})),)),
    Start("cups", "Layered cups", 12, (
        _part("Layered cups", "cup", "usual", ("solid", "", {"share": 0.333}), ("filling", "", {"volume_ml": 8.5}),
              ("cap", "main", {"thickness_mm": 3.0})),)),
    Start("house", "House of panels", 1, (
        _part("Walls", "panel", "wall", *_PANEL, each=2), _part("Gables", "panel", "gable", *_PANEL, each=2),
        _part("Roof halves", "panel", "roof", *_PANEL, each=2))),
    Start("pops", "Balls on sticks", 24, (
        _part("Balls on sticks", "ball", "large", ("stick", "", _ALL), ("dip", "main", _ALL),
              ("topping", "", {"placed": "wet", "count": 20, "each_g": 0.05})),)),
    Start("rods", "Dipped rods", 24, (
        _part("Dipped rods", "pretzel_rod", "usual", ("dip", "main", _DEEP), ("drizzle", "", _ALL)),)),
    Start("sprays", "One rod and three twists", 8, (
        _part("Rods", "pretzel_rod", "thin", ("dip", "main", _DEEP)),
        _part("Twists", "pretzel_twist", "small", ("dip", "second", _HALF), each=3))),
    Start("drip_cake", "Cake with drips", 1, (
        _part("Cake with drips", "cake_tier", "small", ("cake_drip", "main", _ALL)),)),
    Start("glasses", "Rims of glasses", 8, (
        _part("Rims of glasses", "glass_rim", "usual", ("rim", "main", {"share": 0.1}),
              ("topping", "", {"placed": "wet", "count": 40, "each_g": 0.05})),)),
    Start("shapes", "Shapes to lift off", 12, (
        _part("Shapes to lift off", "shape", "usual", ("flood", "main", _ALL), ("dots", "", {"count": 8})),)),
)  # fmt: skip
STARTS: Mapping[str, Start] = MappingProxyType({s.name: s for s in _STARTS})


def start_called(name: str) -> Start:
    """The start of that name. Raises UnknownName."""
    if name not in STARTS:
        raise UnknownName(f"There is nothing to begin with called {name[:60]!r}.", field="begin", choices=list(STARTS))
    return STARTS[name]
