"""What a design is for: a layer of a piece with its bowl, or nothing yet; and what it is poured from."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

from coating.flow.casson1959 import Flow
from coating.flow.windows import window
from coating.job.bowls import flow_for, group_of
from coating.learning.factors import Factors
from coating.piece.cores import Core
from studio.accounts.models import Kitchen
from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl
from studio.cupboard.stock import Stock
from studio.cupboard.tones import PLAIN, Tone, tones_in
from studio.pieces.known import known_to
from studio.pieces.models import Job, Layer
from studio.pieces.reckoned import core_of, counts_of, keys_of

PLAIN_LAB = (91.0, 0.5, 12.0)  # plain white coating, about
PALE = 62.0  # lightness above which it is shown on a dark ground


@dataclass(frozen=True)
class Place:
    """A kitchen, the layer it is for, what it is of (a colour or a bag as bought) and the white."""

    kitchen: Kitchen
    layer: Layer | None
    tone: Tone
    white: str

    @classmethod
    def of(cls, kitchen: Kitchen, layer: Layer | None, tone: Tone = PLAIN, white: str = "coating") -> Place:
        """A layer says what it is made of."""
        if layer is not None:
            return cls(kitchen, layer, layer.tone, layer.white)
        return cls(kitchen, None, tone, tone.white(white))

    @cached_property
    def job(self) -> Job:
        """The whole job it is for."""
        assert self.layer is not None
        return Job.objects.whole(self.kitchen, self.layer.piece.job_id)

    @cached_property
    def known(self) -> Factors:
        """What its job goes by, or its kitchen has learned."""
        return known_to(self.job if self.layer else None, self.kitchen)

    @property
    def wanted(self) -> int:
        """How many of its piece are wanted, those that go on others too; one where nothing wants any yet."""
        return max(1, counts_of(self.job)[self.layer.piece_id][0]) if self.layer else 0

    @property
    def made(self) -> int:
        """How many of its piece are made, spares too."""
        return max(1, sum(counts_of(self.job)[self.layer.piece_id])) if self.layer else 0

    @property
    def core(self) -> Core | None:
        """The form of the piece it goes on, or None."""
        return core_of(self.layer.piece) if self.layer else None

    @cached_property
    def _begun(self) -> Desk | None:
        """The bowl of the layer that is not done; of its own colour, where it has several."""
        bowls = [use.bowl for use in self.layer.poured if use.bowl.finished_at is None] if self.layer else []
        if self.layer and self.layer.others:
            bowls = [bowl for bowl in bowls if bowl.is_of(self.layer.tone)]
        open_ = next(reversed(bowls), None)  # what was taken out for it, where it was
        if open_ is None:
            return None
        return Desk.of(Bowl.objects.with_colour().with_layers().get_for(self.kitchen, pk=open_.pk), self.kitchen)

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
            lab = self.desk.now.mixture().lab()
            return float(lab[0]), float(lab[1]), float(lab[2])
        return self.tone.lab or PLAIN_LAB

    @cached_property
    def tones(self) -> dict[str, Tone]:
        """What coating can be of in the kitchen, by its key."""
        return tones_in(self.kitchen)

    @property
    def first_colours(self) -> list[str]:
        """Keys of the colours of the swatch book, the oldest first."""
        return [key for key, tone in self.tones.items() if tone.colour]

    def tone_of(self, key: Any) -> Tone:
        """Another colour or bag of this kitchen by its key; plain for none."""
        return self.tones.get(str(key or ""), PLAIN)

    def lab_of(self, key: Any) -> tuple[float, float, float]:
        """How that looks."""
        return self.tone_of(key).lab or PLAIN_LAB

    def name_of(self, key: Any) -> str:
        """What that is called; nothing for plain."""
        return self.tone_of(key).name if key else ""

    @property
    def pale(self) -> bool:
        """Whether it is so pale that it is shown on dark ground."""
        return self.lab[0] > PALE

    @property
    def called(self) -> str:
        """What the bowl or colour is called."""
        return self.desk.bowl.name if self.desk else self.tone.name if self.tone.key else "plain"

    def flow(self, technique: str) -> Flow:
        """As the bowl stands, else as what it is made of is worked: as bought, or thinned as far as that takes."""
        now = self.desk.now.flow() if self.desk else None
        if now is not None:
            return now
        colour, base = keys_of(self.tone)
        shelf = Stock.of(self.kitchen).shelf(self.kitchen)
        group = group_of(colour, base, self.white, 0, shelf.learned(self.known))
        return flow_for(group.flow, technique, self.white)

    def verdict(self, technique: str) -> str:
        """Of the bowl for the technique: "right", "thick", "thin", "uneven"; "" without a bowl."""
        return window(technique).verdict(self.flow(technique), self.white) if self.desk else ""
