"""Verbs of stacks: keeping a piece with its layers, from a form, a start, a template or a file."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from django.db import models, transaction

from coating.errors import OutOfBounds
from coating.piece.cores import TWIST_ROPE, Core
from coating.piece.families import in_motifs, in_variants
from coating.piece.kinds import KINDS, CoreKind
from coating.stack.layers import Layer as CoreLayer
from coating.stack.order import spares_for
from coating.stack.starts import Start, StartPart
from coating.techniques import technique as technique_called
from coating.techniques.base import VOLUME
from studio.accounts.models import Kitchen
from studio.colours.models import Colour
from studio.common.types import Json, Typed
from studio.cupboard.models import Extra, Ingredient
from studio.cupboard.tones import Tone
from studio.pieces.asks import layer_brought, piece_kept
from studio.pieces.models import Family, Job, Layer, Piece
from studio.pieces.reckoned import as_core_layer

VERSION = 2
_OF_A_DESIGN = ("drawn", "others", "also", "sheets")
SIZE_VERSION = 3
OUT_OF_THE_WAY = 1000  # places of layers while they are put in a new order
_KEPT = (
    "share",
    "thickness_mm",
    "width_mm",
    "length_mm",
    "spacing_mm",
    "wall",
    "volume_ml",
    "each_g",
    "placed",
    "sheets",
    "where",
)


@dataclass(frozen=True)
class LayerPlan:
    """A layer to be kept: as the row has it."""

    technique: str
    white: str = "coating"
    colour: Colour | None = None
    extra: Extra | None = None
    parameters: Json = field(default_factory=dict)
    base: Ingredient | None = None
    part: Piece | PiecePlan | None = None
    others: tuple[Any, ...] = ()  # further colours that its design puts on
    design: Mapping[str, Any] | None = None  # how it is designed once it is kept: {"kind", "name", "asked", "tones"}
    looks: Mapping[str, Any] = field(default_factory=dict)  # how one of what is designed looks, as that keeps it

    @property
    def tone(self) -> Tone:
        """What it is of."""
        return Tone(self.colour, self.base)

    @property
    def part_id(self) -> int | None:
        """The number of the piece that is put on; 0 of one that is not kept yet."""
        return self.part.pk if isinstance(self.part, Piece) else 0 if self.part else None


@dataclass(frozen=True)
class PiecePlan:
    """A piece to be kept. Without `spares`, as many as usually break."""

    name: str
    count: int
    kind: CoreKind
    size_mm: tuple[float, ...]
    layers: tuple[LayerPlan, ...]
    spares: int | None = None
    share: int = 1
    contains: list[str] | None = None

    @property
    def core(self) -> Core:
        """The form of the piece."""
        return self.kind.core(*self.size_mm)

    def core_layers(self) -> list[CoreLayer]:
        """The stack as the core knows it."""
        return [as_core_layer(layer) for layer in self.layers]

    def spare(self) -> int:
        """Spares said, or as many as usually break."""
        if self.spares is not None:
            return self.spares
        return spares_for(self.count, self.kind.breaks, self.core_layers())


def parameters_of(layer: CoreLayer, core: Core) -> Typed:
    """A layer of the core as a row keeps it."""
    values: Json = {"v": VERSION}
    for name in _KEPT:
        value = getattr(layer, name)
        if value not in (None, ""):
            values[name] = value
    values |= {"count": layer.count} if layer.count != 1 else {}
    values |= {"flooded": True} if layer.flooded else {}
    values |= {"coats": layer.coats} if layer.coats != 1 else {}
    if layer.kind.measured == VOLUME and layer.share < 1 and layer.volume_ml is None:
        values["volume_ml"] = round(core.holds_ml * values.pop("share"), 1)
    return values


def size_now(core: str, size: Json) -> Json:
    """A size as it is kept now: that of a twist was once how long its string is."""
    if size["v"] == VERSION and core == "pretzel_twist":
        long_mm, string_mm = size["mm"]
        return {"v": SIZE_VERSION, "mm": [round(float(long_mm) / TWIST_ROPE, 1), string_mm]}
    return {**size, "v": SIZE_VERSION} if size["v"] == VERSION else size


@transaction.atomic
def keep_piece(
    job: Job, plan: PiecePlan, *, piece: Piece | None = None, expected: int = 0, family: Family | None = None
) -> Piece:
    """Keep a piece, its layers, and parts of it that are not kept yet; a layer that stays keeps its row and its bowl.
    Raises ChangedMeanwhile."""
    designed = list[tuple[Layer, Mapping[str, Any]]]()
    kept = _keep(job, plan, piece, expected, family, {}, designed)
    for layer, design in designed:  # once all is counted
        layer_brought(layer, design)
    return kept


def _keep(
    job: Job,
    plan: PiecePlan,
    piece: Piece | None,
    expected: int,
    family: Family | None,
    parts: dict[int, Piece],
    designed: list[tuple[Layer, Mapping[str, Any]]],
) -> Piece:
    """`parts` : those that were kept on the way, by their plan."""
    for layer in plan.layers:
        if isinstance(layer.part, PiecePlan) and id(layer.part) not in parts:
            parts[id(layer.part)] = _keep(job, layer.part, None, 0, None, parts, designed)
    kept = {
        "name": plan.name,
        "count": plan.count,
        "spares": plan.spares,
        "core": plan.kind.name,
        "size": {"v": SIZE_VERSION, "mm": list(plan.size_mm)},
        "contains": plan.contains,
    }
    if piece is None:
        piece = Piece.objects.create(kitchen_id=job.kitchen_id, job=job, family=family, share=plan.share, **kept)
    else:
        for name, value in kept.items():
            setattr(piece, name, value)
        piece.save_over(expected)
    rows = list(piece.layers.order_by("order"))
    piece.layers.update(order=models.F("order") + OUT_OF_THE_WAY)
    for place, layer in enumerate(plan.layers, 1):
        row = _row_of(layer, rows) or Layer(kitchen_id=job.kitchen_id, piece=piece, technique=layer.technique)
        row.order, row.white, row.colour, row.base = place, layer.white, layer.colour, layer.base
        row.extra, row.parameters, row.part = layer.extra, layer.parameters, _row_of_part(layer, parts)
        row.save()
        if layer.design:
            designed.append((row, layer.design))
    Layer.objects.filter(pk__in=[row.pk for row in rows]).delete()
    piece_kept(piece)
    return piece


def _row_of_part(layer: LayerPlan, parts: Mapping[int, Piece]) -> Piece | None:
    """The piece that a layer puts on, kept by now."""
    return parts[id(layer.part)] if isinstance(layer.part, PiecePlan) else layer.part


def with_drawings(plan: PiecePlan, piece: Piece) -> PiecePlan:
    """The same with what designs drew of the layers that are rows of a piece: until it is drawn anew that stands."""
    rows, layers = list(piece.layers.select_related("colour", "base").order_by("order")), list[LayerPlan]()
    for layer in plan.layers:
        row = _row_of(layer, rows)
        if row and "drawn" in row.parameters:
            values = {k: v for k, v in row.parameters.items() if k in _OF_A_DESIGN}
            looks = row.design.one if row.design else {}
            layers.append(
                replace(layer, parameters={**layer.parameters, **values}, others=tuple(row.others), looks=looks)
            )
        else:
            layers.append(layer)
    return replace(plan, layers=tuple(layers))


def _row_of(layer: LayerPlan, rows: list[Layer]) -> Layer | None:
    """The row that was this layer wherever it stood, taken off the list: the same technique in the same colour and
    white, of the same part, else the same technique. So a layer that is moved keeps its bowl, and a new one does not
    get another's."""
    alike = [r for r in rows if (r.technique, r.part_id) == (layer.technique, layer.part_id)]
    same = [r for r in alike if (r.tone.key, r.white) == (layer.tone.key, layer.white)]
    row = next(iter([*same, *alike]), None)
    if row is not None:
        rows.remove(row)
    return row


@transaction.atomic
def keep_together(job: Job, name: str, kind: str, count: int, plans: Sequence[PiecePlan]) -> Family:
    """Keep several pieces as variants, or as the parts of a motif."""
    family = Family.objects.create(kitchen_id=job.kitchen_id, job=job, name=name, kind=kind, count=count)
    for plan in plans:
        keep_piece(job, plan, family=family)
    return family


def _in_tone(layer: LayerPlan, tone: Tone) -> LayerPlan:
    return replace(layer, colour=tone.colour, base=tone.base, white=tone.white(layer.white))


def in_colours(plan: PiecePlan, also: Sequence[Tone]) -> list[PiecePlan]:
    """The same piece with its first coat in its own colour and in others, the count shared out among them. Raises
    OutOfBounds."""
    return in_tones(plan, [plan.layers[_first_coat(plan)].tone, *also])


def _first_coat(plan: PiecePlan) -> int:
    """The place of the first layer that has a colour. Raises OutOfBounds."""
    first = next((i for i, la in enumerate(plan.layers) if CoreLayer(la.technique).takes_coating), None)
    if first is None:
        raise OutOfBounds("Nothing on it has a colour: there is nothing to vary.")
    return first


def in_tones(plan: PiecePlan, wanted: Sequence[Tone]) -> list[PiecePlan]:
    """The same piece with its first coat in each of these, the count shared out among them; of one alone it keeps its
    name. Raises OutOfBounds."""
    first, tones = _first_coat(plan), {tone.key: tone for tone in wanted}.values()
    counts = in_variants(plan.count, [1] * len(tones))
    plans = []
    for tone, count in zip(tones, counts, strict=True):
        layers = tuple(_in_tone(la, tone) if i == first else la for i, la in enumerate(plan.layers))
        name = f"{plan.name}, {tone.name.lower()}"[:80] if len(tones) > 1 else plan.name
        plans.append(replace(plan, name=name, count=count, layers=layers, spares=None, share=count))
    return plans


def dipped(
    name: str,
    count: int,
    *,
    diameter_mm: float,
    thickness_mm: float,
    share: float,
    white: str,
    colour: Colour | None = None,
    spares: int | None = None,
    base: Ingredient | None = None,
) -> PiecePlan:
    """Round biscuits, dipped so far."""
    layer = LayerPlan("dip", white, colour, parameters={"v": VERSION, "share": share}, base=base)
    return PiecePlan(name, count, KINDS["round_biscuit"], (diameter_mm, thickness_mm), (layer,), spares)


def dripped(
    name: str, count: int, *, diameter_mm: float, height_mm: float, white: str, colour: Colour | None, **drips: Any
) -> PiecePlan:
    """Tiers of a cake with drips: `drips` as the parameters of the layer, mm."""
    layer = LayerPlan("cake_drip", white, colour, parameters={"v": VERSION, **drips})
    return PiecePlan(name, count, KINDS["cake_tier"], (diameter_mm, height_mm), (layer,), 0)


def keep_start(job: Job, start: Start) -> list[Piece]:
    """A start of several pieces goes into a job: those that are put on others with what they go on, what is not joined
    as a motif. Returns what goes on nothing."""
    plans = plans_of(start, palette(job), first_extras(job.kitchen))
    if start.joined:
        return [keep_piece(job, plan) for plan in plans]
    return list(keep_together(job, start.title, "motif", start.count, plans).pieces.all())


# -- what to begin with ----------------------------------------------------------------------------------------
def palette(job: Job) -> dict[str, Colour | None]:
    """Colours for what a start calls main and second: what the job has first, then what the kitchen has."""
    first = models.Min("layers__pk")
    used = Colour.objects.filter(layers__piece__job=job).annotate(first=first).order_by("first")[:2]
    known = list(dict.fromkeys([*used, *Colour.objects.for_kitchen(job.kitchen)[:8]]))
    return {"": None, "main": known[0] if known else None, "second": known[1] if len(known) > 1 else None}


def first_extras(kitchen: Kitchen) -> dict[str, Extra]:
    """The first of each kind: what a new layer is of until something else is picked."""
    extras: dict[str, Extra] = {}
    for extra in Extra.objects.for_kitchen(kitchen):
        extras.setdefault(extra.kind, extra)
    return extras


def plans_of(start: Start, colours: Mapping[str, Colour | None], extras: Mapping[str, Extra]) -> list[PiecePlan]:
    """What of a start goes on nothing, as pieces to keep, each with its parts; of what is not joined all."""
    counts = in_motifs(start.count, [part.each for part in start.parts])
    by_key, plans = dict[str, PiecePlan](), []
    for part, count in zip(start.parts, counts, strict=True):
        layers = tuple(
            LayerPlan(
                la.technique,
                "coating",
                colours.get(la.colour),
                extra_for(la.technique, extras),
                parameters_of(la, part.core),
                part=by_key[la.part] if la.part else None,
                design=_design_of(part, place),
            )
            for place, la in enumerate(part.layers)
        )
        plan = PiecePlan(
            part.title, 0 if part.key else count, part.kind, _size(part.kind, part.size), layers, share=part.each
        )
        by_key[part.key] = plan
        plans += [] if part.key else [plan]
    return plans


def _design_of(part: StartPart, place: int) -> Json | None:
    design = part.designs.get(place)
    return {"kind": design.kind, "name": part.title, "asked": dict(design.asked), "tones": {}} if design else None


def extra_for(technique: str, extras: Mapping[str, Extra]) -> Extra | None:
    """What a layer is of to begin with. Nobody is taken to own a mould or a sheet."""
    kind = technique_called(technique).extra
    return None if kind in ("mould", "sheet") else extras.get(kind)


def _size(kind: CoreKind, title: str) -> tuple[float, ...]:
    return tuple(float(mm) for mm in dict(kind.sizes)[title])


def plan_of(piece: Piece) -> PiecePlan:
    """A piece as a plan."""
    layers = tuple(
        LayerPlan(la.technique, la.white, la.colour, la.extra, la.parameters, la.base, la.part) for la in piece.stack
    )
    size = tuple(piece.size["mm"])
    return PiecePlan(
        piece.name, piece.count, KINDS[piece.core], size, layers, piece.spares, piece.share, piece.contains
    )
