"""What a design is for: a layer of a piece with its bowl, or nothing yet; and what it is poured from."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

from coating.flow.casson1959 import Flow
from coating.flow.windows import window
from coating.piece.cores import Core
from studio.accounts.models import Kitchen
from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl
from studio.pieces.models import Colour, Layer
from studio.pieces.techniques import core_of

PLAIN_LAB = (91.0, 0.5, 12.0)  # plain white coating, about
PALE = 62.0  # lightness above which it is shown on a dark ground


@dataclass(frozen=True)
class Place:
    """A kitchen, the layer it is for, the colour and the white it is made of."""

    kitchen: Kitchen
    layer: Layer | None
    colour: Colour | None
    white: str

    @classmethod
    def of(cls, kitchen: Kitchen, layer: Layer | None, colour: Colour | None = None, white: str = "coating") -> Place:
        """A layer says what it is made of."""
        if layer is not None:
            return cls(kitchen, layer, layer.colour, layer.white)
        return cls(kitchen, None, colour, white)

    @property
    def core(self) -> Core | None:
        return core_of(self.layer.piece) if self.layer else None

    @cached_property
    def _begun(self) -> Desk | None:
        """The bowl of the layer that is not done; of its own colour, where it has several."""
        bowls = [use.bowl for use in self.layer.poured if use.bowl.finished_at is None] if self.layer else []
        if self.layer and self.layer.others:
            bowls = [bowl for bowl in bowls if bowl.colour_id == self.layer.colour_id]
        open_ = next(iter(bowls), None)
        if open_ is None:
            return None
        return Desk.of(Bowl.objects.with_events().with_layers().get_for(self.kitchen, pk=open_.pk), self.kitchen)

    @property
    def desk(self) -> Desk | None:
        """The bowl of the layer, where something melted is in it."""
        return self._begun if self._begun and self._begun.can_be_used else None

    @property
    def set_bowl(self) -> Bowl | None:
        """The bowl of the layer, where it does not flow now."""
        return self._begun.bowl if self._begun and not self._begun.can_be_used else None

    @property
    def lab(self) -> tuple[float, float, float]:
        """As it comes from the bowl, or as the colour is meant."""
        if self.desk is not None:
            found = self.desk.now.mixture().lab()
            return float(found[0]), float(found[1]), float(found[2])
        return self.colour.lab if self.colour else PLAIN_LAB

    @property
    def colours(self) -> Any:
        """The swatch book of the kitchen."""
        return Colour.objects.for_kitchen(self.kitchen)

    def lab_of(self, pk: Any) -> tuple[float, float, float]:
        """Of another colour of this kitchen; plain for none."""
        found = Colour.objects.for_kitchen(self.kitchen).filter(pk=pk).first() if pk else None
        return found.lab if found else PLAIN_LAB

    def name_of(self, pk: Any) -> str:
        """Of another colour of this kitchen; nothing for none."""
        found = self.colours.filter(pk=pk).first() if pk else None
        return found.name if found else ""

    @property
    def pale(self) -> bool:
        return self.lab[0] > PALE

    @property
    def called(self) -> str:
        return self.desk.bowl.name if self.desk else self.colour.name if self.colour else "plain"

    def flow(self, technique: str) -> Flow:
        """As the bowl stands, or as the technique wants it."""
        now = self.desk.now.flow() if self.desk else None
        return now or window(technique).aim

    def verdict(self, technique: str) -> str:
        """Of the bowl for the technique: "right", "thick", "thin", "uneven"; "" without a bowl."""
        return window(technique).verdict(self.flow(technique)) if self.desk else ""
