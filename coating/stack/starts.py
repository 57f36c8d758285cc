"""Pieces to begin with, whole: picked by their picture, sensible in every figure. Common practice, no source.

Colours are named by what they are for: "main", "second", or "" for plain. A layer of technique "part" names another
part of the start by its key: that one is made first, and counted by what it goes on.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from types import MappingProxyType

from coating.errors import UnknownName
from coating.piece.cores import Core
from coating.piece.kinds import CoreKind, kind_of_core
from coating.stack.layers import Layer, usual_length_mm
from coating.techniques.base import LINE


@dataclass(frozen=True)
class Designed:
    """How a layer of a start is designed: a kind of design, and what is asked of it beyond what it begins with."""

    kind: str
    asked: Mapping[str, object]


@dataclass(frozen=True)
class StartPart:
    """A piece of it: the kind of its core, which of its sizes, its layers, and how many are in one. `key` is how layers
    of others name it: then it goes on these, and on nothing else. `designs` : by the place of a layer."""

    title: str
    kind_name: str
    size: str
    layers: tuple[Layer, ...]
    each: int = 1
    key: str = ""
    designs: Mapping[int, Designed] = field(default_factory=lambda: MappingProxyType({}))

    @property
    def kind(self) -> CoreKind:
        """The kind of thing it is."""
        return kind_of_core(self.kind_name)

    @property
    def core(self) -> Core:
        """The form it has."""
        return self.kind.core(*dict(self.kind.sizes)[self.size])


@dataclass(frozen=True)
class Start:
    """One thing to begin with: its name, its title, how many are usual, and its parts. Several that are not put on each
    other are a motif; what goes on another comes before it."""

    name: str
    title: str
    count: int
    parts: tuple[StartPart, ...]

    @property
    def joined(self) -> bool:
        """Whether parts of it go on others."""
        return any(part.key for part in self.parts)


def _layer(core: Core, name: str, colour: str = "", **values: object) -> Layer:
    layer = Layer(name, colour, **values)  # type: ignore[arg-type]
    if layer.kind.measured == LINE and layer.length_mm is None:
        return Layer(name, colour, **{**values, "length_mm": usual_length_mm(name, core)})  # type: ignore[arg-type]
    return layer


def _part(title: str, kind: str, size: str, *layers: tuple[str, str, dict[str, object]], each: int = 1,
          key: str = "", **design: object) -> StartPart:  # fmt: skip
    """`design` : its name and what is asked, for the first layer."""
    core = kind_of_core(kind).core(*dict(kind_of_core(kind).sizes)[size])
    name = str(design.pop("design", ""))
    designs = MappingProxyType({0: Designed(name, MappingProxyType(design))} if name else {})
    return StartPart(
        title, kind, size, tuple(_layer(core, n, c, **counted) for n, c, counted in layers), each, key, designs
    )


def _put(key: str, count: int = 1, *, where: str = "front", placed: str = "glued", colour: str = "") -> tuple[
        str, str, dict[str, object]]:  # fmt: skip
    """So many of a part on each."""
    return "part", colour, {"part": key, "count": count, "where": where, "placed": placed}


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
    Start("rockets", "Little rockets on sticks", 12, (
        _part("Fins", "mould", "small part", ("solid", "second", _ALL), key="fin", design="mould", preset="fin"),
        _part("Portholes", "shape", "tiny", ("flood", "", _ALL), key="pane", design="run_out", shape="dot",
              width_mm=12.0, line_mm=1.2),
        _part("Rockets", "ball", "usual", ("stick", "", _ALL), ("dip", "main", _ALL), _put("pane", placed="half_set"),
              _put("fin", 2, where="pairs", colour="second")))),
    Start("moon_cups", "Cups with a moon", 12, (
        _part("Moons", "shape", "small", ("flood", "second", _ALL), key="moon", design="run_out", shape="crescent",
              width_mm=26.0),
        _part("Cups", "cup", "usual", ("solid", "", {"share": 0.333}), ("filling", "", {"volume_ml": 8.5}),
              ("cap", "main", {"thickness_mm": 3.0}),
              _put("moon", where="top", placed="half_set")))),
    Start("pretzel_stars", "Stars of five twists", 6, (
        _part("Twists", "pretzel_twist", "small", ("dip", "main", _HALF), key="twist"),
        _part("Stars", "shape", "small", ("dots", "", {"count": 1, "each_g": 8.0}),
              _put("twist", 5, where="round", placed="wet")))),
    Start("leafy_berries", "Berries with two leaves", 12, (
        _part("Leaves", "shape", "tiny", ("flood", "second", _ALL), key="leaf", design="run_out", shape="leaf",
              width_mm=18.0, line_mm=1.2),
        _part("Berries", "berry", "usual", ("dip", "main", _DEEP),
              _put("leaf", 2, where="standing", colour="second")))),
    Start("lace_cake", "Cake with drips, lace and a plaque", 1, (
        _part("Lace panels", "shape", "usual", ("lace", "", _ALL), key="lace", design="lace", shape="panel",
              diameter_mm=50.0, height_mm=45.0),
        _part("Words", "shape", "plaque", ("lettering", "", _ALL), key="words", design="lettering", text="Well done",
              width_mm=56.0),
        _part("Plaque", "shape", "plaque", ("flood", "second", _ALL), _put("words", placed="half_set"), key="plaque",
              design="run_out", shape="plaque", width_mm=70.0),
        _part("Cake with drips", "cake_tier", "small", ("cake_drip", "main", _ALL), _put("lace", 3, where="standing"),
              _put("plaque", colour="main")))),
    Start("ringed_desserts", "Desserts ringed by panels", 6, (
        _part("Panels", "shape", "standing panel", ("spread", "main", _ALL), key="panel"),
        _part("Desserts", "dessert", "mousse", _put("panel", 7, where="round", placed="set")))),
    Start("flower_cake", "Cake with a flower of petals", 1, (
        _part("Flower", "shape", "usual", ("petals", "main", _ALL), key="flower", design="petals", wide_mm=20.0,
              disc_mm=20.0, sizes=2, stamens=8),
        _part("Disc", "shape", "usual", ("flood", "", _ALL), _put("flower", where="top"), key="disc", design="run_out",
              shape="dot", width_mm=48.0),
        _part("Cake", "cake_tier", "small", ("cake_drip", "second", _ALL), _put("disc", where="top")))),
    Start("house_and_dome", "House of panels with a dome", 1, (
        _part("Windows", "shape", "tiny", ("flood", "second", _ALL), key="window"),
        _part("Sweets", "sweet", "small", ("dip", "main", _ALL), key="sweet"),
        _part("Fence", "shape", "low panel", ("lines", "main", _ALL), key="fence"),
        _part("Dome", "mould", "half ball", ("shell", "", _ALL), key="dome"),
        _part("House", "panel", "wall", ("glue", "", _ALL), _put("window", 4), _put("sweet", 4, where="pairs"),
              _put("dome", where="standing"), key="house", design="house"),
        _part("Ground", "slab", "usual", ("pour", "second", _THIN), _put("fence", 8, where="round"),
              _put("house", where="standing")))),
    Start("bow_cake", "Cake with a bow on top", 1, (
        _part("Bow", "shape", "large", ("film", "main", _ALL), key="bow", design="bow", strip_mm=120.0, wide_mm=14.0,
              rings=2),
        _part("Cake", "cake_tier", "small", ("cake_drip", "", _ALL), _put("bow", where="standing", colour="main")))),
)  # fmt: skip
STARTS: Mapping[str, Start] = MappingProxyType({s.name: s for s in _STARTS})


def start_called(name: str) -> Start:
    """The start of that name. Raises UnknownName."""
    if name not in STARTS:
        raise UnknownName(f"There is nothing to begin with called {name[:60]!r}.", field="begin", choices=list(STARTS))
    return STARTS[name]
