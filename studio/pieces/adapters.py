"""Pieces and layers become needs and quantities."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from coating.care.allergens import Contents, contents
from coating.flow.casson1959 import Flow
from coating.piece.cores import KINDS
from coating.plan.quantities import Quantity, quantity
from studio.bowls.models import Bowl
from studio.cupboard.models import Ingredient
from studio.pieces.models import Colour, Job, Layer, Piece
from studio.pieces.techniques import technique_for, technique_of
from studio.pieces.techniques.base import Technique


@dataclass(frozen=True)
class ColourNeed:
    """One colour of one white at one flow in a job: its layers, how much, and the bowl it comes from."""

    colour: Colour | None
    white: str
    technique: str
    layers: tuple[Layer, ...]
    bowl: Bowl | None

    @cached_property
    def quantity(self) -> Quantity:
        """What to melt and what goes on; worked out only where it is asked for."""
        return needs_of(self.layers)

    @property
    def kind(self) -> Technique:
        return technique_for(self.technique)

    @property
    def name(self) -> str:
        """What its bowl is called: the colour, and the technique where that is another flow."""
        colour = self.colour.name if self.colour else "Plain"
        return f"{colour} {self.kind.bowl}".strip()

    @property
    def white_name(self) -> str:
        return self.layers[0].get_white_display()


def goes_on_g(layer: Layer) -> float:
    """What a layer puts on all its pieces and spares, g."""
    return technique_of(layer).need(layer).goes_on_g


def needs_of(layers: Iterable[Layer], flow: Flow | None = None) -> Quantity:
    """Together, from one bowl."""
    return quantity([technique_of(layer).need(layer, flow) for layer in layers])


def colours_of(job: Job) -> list[Colour | None]:
    """The colours of a job, each once (None: plain), from prefetched layers."""
    return list({la.colour_id: la.colour for piece in job.pieces.all() for la in piece.layers.all()}.values())


def colour_needs(job: Job) -> list[ColourNeed]:
    """What a job needs by colour, white and technique, from prefetched pieces and layers."""
    groups: dict[tuple[int | None, str, str], list[Layer]] = {}
    for piece in job.pieces.all():
        for layer in piece.layers.all():
            layer.piece = piece
            flow = technique_of(layer).flow
            if flow:
                groups.setdefault((layer.colour_id, layer.white, flow), []).append(layer)
    return [
        ColourNeed(layers[0].colour, white, technique, tuple(layers), _open_bowl(layers))
        for (_, white, technique), layers in groups.items()
    ]


def labels_of(job: Job, rows: Iterable[Ingredient]) -> dict[int, Contents]:
    """What each piece contains, by its id, and may contain from the others of the job, from prefetched pieces."""
    bases = [r for r in rows if r.kind == "base" and r.stocked]
    things = {piece.pk: _things(piece, bases) for piece in job.pieces.all()}
    return {pk: contents(mine, [t for other, its in things.items() if other != pk for t in its])
            for pk, mine in things.items()}  # fmt: skip


def _things(piece: Piece, bases: list[Ingredient]) -> list[tuple[str, list[str]]]:
    """The core and the whites of its layers with the allergens on record; toppings and fillings are the maker's."""
    core = KINDS.get(piece.core)
    found = [(core.title, list(core.allergens))] if core else []
    for white in {layer.white for layer in piece.layers.all() if technique_of(layer).flow}:
        family = "palm" if white == "coating" else "cocoa"
        base = next((b for b in bases if b.family == family), None)
        if base:
            found.append((base.name, list(base.allergens)))
    return found


def _open_bowl(layers: list[Layer]) -> Bowl | None:
    bowls = [use.bowl for layer in layers for use in layer.uses.all()]
    return next((b for b in bowls if b.finished_at is None), bowls[-1] if bowls else None)
