"""Pieces and layers become dips, coats and quantities."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from coating.flow.casson1959 import Flow
from coating.flow.windows import window
from coating.plan.quantities import DipNeed, Quantity, quantity
from coating.shape.coats import Coat, dip_coat
from coating.shape.pieces import RoundBiscuit
from studio.bowls.models import Bowl
from studio.pieces.models import Colour, Job, Layer


@dataclass(frozen=True)
class ColourNeed:
    """One colour of one white in a job: its layers, how much, and the bowl it comes from."""

    colour: Colour | None
    white: str
    layers: tuple[Layer, ...]
    bowl: Bowl | None

    @cached_property
    def quantity(self) -> Quantity:
        """What to melt and what goes on; worked out only where it is asked for."""
        return needs_of(self.layers)

    @property
    def name(self) -> str:
        return self.colour.name if self.colour else "Plain"

    @property
    def white_name(self) -> str:
        return self.layers[0].get_white_display()


def biscuit(layer: Layer) -> RoundBiscuit:
    """The core of the piece a layer is on."""
    return RoundBiscuit(layer.piece.size["diameter_mm"], layer.piece.size["thickness_mm"])


def coat_of(layer: Layer, flow: Flow | None = None) -> Coat:
    """Coat on one piece at a flow; without one, at the flow a dip aims for."""
    return dip_coat(biscuit(layer), layer.parameters["depth_share"], flow or window(layer.technique).aim)


def dip_need(layer: Layer, flow: Flow | None = None) -> DipNeed:
    """What a dip layer asks of its bowl."""
    piece = layer.piece
    return DipNeed(
        coat_of(layer, flow).mass_g, piece.count, piece.spares, biscuit(layer), layer.parameters["depth_share"]
    )  # fmt: skip


def needs_of(layers: Iterable[Layer], flow: Flow | None = None) -> Quantity:
    """Together, from one bowl."""
    return quantity([dip_need(layer, flow) for layer in layers])


def colours_of(job: Job) -> list[Colour | None]:
    """The colours of a job, each once (None: plain), from prefetched layers."""
    return list({la.colour_id: la.colour for piece in job.pieces.all() for la in piece.layers.all()}.values())


def colour_needs(job: Job) -> list[ColourNeed]:
    """What a job needs by colour and white, from prefetched pieces and layers."""
    groups: dict[tuple[int | None, str], list[Layer]] = {}
    for piece in job.pieces.all():
        for layer in piece.layers.all():
            layer.piece = piece
            groups.setdefault((layer.colour_id, layer.white), []).append(layer)
    return [
        ColourNeed(layers[0].colour, white, tuple(layers), _open_bowl(layers)) for (_, white), layers in groups.items()
    ]


def _open_bowl(layers: list[Layer]) -> Bowl | None:
    bowls = [use.bowl for layer in layers for use in layer.uses.all()]
    return next((b for b in bowls if b.finished_at is None), bowls[-1] if bowls else None)
