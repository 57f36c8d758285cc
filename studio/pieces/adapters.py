"""Pieces and layers become needs and quantities."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from coating.care.allergens import Contents, Thing, contents_of_each
from coating.flow.casson1959 import Flow
from coating.flow.windows import window
from coating.piece.kinds import KINDS
from coating.plan.quantities import Quantity, quantity
from studio.bowls.models import Bowl, BowlEvent
from studio.cupboard.models import EATEN, Ingredient
from studio.pieces.models import Colour, Job, Layer, Piece, Tone
from studio.pieces.techniques import technique_for, technique_of
from studio.pieces.techniques.base import Technique


@dataclass(frozen=True)
class ColourNeed:
    """One colour, or one bag as bought, of one white at one flow in a job: its layers, how much, and its bowl."""

    tone: Tone
    white: str
    technique: str
    layers: tuple[Layer, ...]
    bowl: Bowl | None
    apart: int = 0

    @property
    def key(self) -> str:
        """Which one it is among those of its job."""
        return f"{self.tone.key or 0}:{self.white}:{self.technique}:{self.apart}"

    @property
    def colour(self) -> Colour | None:
        """The colour that is made for it, if one is."""
        return self.tone.colour

    @property
    def is_joined(self) -> bool:
        """Whether layers are made from it that want another flow."""
        return any(la.joined for la in self.layers)

    @property
    def is_second(self) -> bool:
        """Whether a design brings this colour to a layer of another: such a bowl is neither joined nor split."""
        return any(la.in_part and la.in_part.second for la in self.layers)

    @cached_property
    def quantity(self) -> Quantity:
        """What to melt and what goes on; worked out only where it is asked for."""
        return needs_of(self.layers, window(self.technique).aim if self.is_joined else None)

    @property
    def kind(self) -> Technique:
        return technique_for(self.technique)

    @property
    def name(self) -> str:
        """What its bowl is called: the colour or the bag, and the technique where that is another flow."""
        words = f"{self.tone.name} {self.kind.bowl}".strip()
        return f"{words} {self.apart + 1}" if self.apart else words

    @property
    def white_name(self) -> str:
        return self.layers[0].get_white_display()


def goes_on_g(layer: Layer) -> float:
    """What a layer, or the part of it in one colour, puts on all its pieces and spares, g."""
    return technique_of(layer).need(layer).goes_on_g


def needs_of(layers: Iterable[Layer], flow: Flow | None = None) -> Quantity:
    """Together, from one bowl."""
    return quantity([technique_of(layer).need(layer, flow) for layer in layers])


def tones_of(job: Job) -> list[Tone]:
    """What the layers of a job are of, each once, from prefetched layers."""
    return list({la.tone.key: la.tone for piece in job.pieces.all() for la in piece.stack}.values())


def colour_needs(job: Job) -> list[ColourNeed]:
    """What a job needs by colour, white and flow, joined and split as chosen, from prefetched pieces and layers. A
    layer in several colours is in as many."""
    groups: dict[tuple[str, str, str, int], list[Layer]] = {}
    for piece in job.pieces.all():
        for layer in (part for whole in piece.stack for part in whole.in_colours):
            flow = technique_of(layer).flow
            if flow:
                key = (layer.tone.key, layer.white, layer.joined or flow, layer.apart)
                groups.setdefault(key, []).append(layer)
    return [
        ColourNeed(layers[0].tone, white, technique, tuple(layers), _open_bowl(layers), apart)
        for (_, white, technique, apart), layers in groups.items()
    ]


def labels_of(job: Job, rows: Iterable[Ingredient]) -> dict[int, Contents]:
    """What each piece contains, by its id, and may contain from the others of the job, from prefetched pieces."""
    known = list(rows)
    bases = sorted((r for r in known if r.kind == "base" and r.stocked), key=lambda r: r.sort != "white")
    poured = _poured(job, {r.pk: r for r in known})
    return contents_of_each({piece.pk: _things(piece, bases, poured) for piece in job.pieces.all()})


def _poured(job: Job, rows: dict[int, Ingredient]) -> dict[int, list[Ingredient]]:
    """What really went into the bowls of a job, by bowl: it is in every piece they coat, remelted or not."""
    found: dict[int, list[Ingredient]] = {}
    added = BowlEvent.objects.for_kitchen(job.kitchen_id).filter(bowl__job=job, kind="added", struck_by=None)
    for bowl_id, payload in added.values_list("bowl_id", "payload"):
        row = rows.get(payload["ingredient"])
        if row and row not in found.setdefault(bowl_id, []):
            found[bowl_id].append(row)
    return found


def _things(
    piece: Piece, bases: list[Ingredient], poured: dict[int, list[Ingredient]]
) -> list[Thing]:  # fmt: skip
    """The core, what its layers are of, and what is in their bowls, or the base that would go in, with allergens."""
    core = KINDS.get(piece.core)
    said = piece.contains if piece.contains is not None else core.allergens if core else None
    found: list[Thing] = [(core.title, said)] if core else []
    for layer in piece.stack:
        found += [(e.name, e.allergens if e.kind in EATEN else []) for e in (layer.extra, *layer.also) if e]
        if not technique_of(layer).flow:
            continue
        inside = [row for use in layer.poured for row in poured.get(use.bowl_id, ())]
        if not any(row.kind == "base" for row in inside):
            family = "palm" if layer.white == "coating" else "cocoa"
            likely = [layer.base] if layer.base else [b for b in bases if b.family == family][:1]
            inside = [*inside, *likely]
        found += [(row.name, list(row.allergens)) for row in inside]
    return found


def _open_bowl(layers: list[Layer]) -> Bowl | None:
    bowls = [use.bowl for la in layers for use in la.poured if not la.in_part or use.bowl.is_of(la.tone)]
    return next((b for b in bowls if b.finished_at is None), bowls[-1] if bowls else None)
