"""What every technique answers: its form, what it needs from a bowl, and the words the pages use for it."""

from __future__ import annotations

from abc import ABC, abstractmethod
from typing import TYPE_CHECKING, Any

from coating.flow.casson1959 import Flow
from coating.plan.quantities import Need
from studio.pieces.models import Layer, Piece

if TYPE_CHECKING:
    from studio.pieces.forms import PieceForm

ROLES = ("answer", "picture", "fields", "line", "small", "figure")


class Technique(ABC):
    """A kind of layer. `this`, `thick`, `thin` and `cool` end sentences about a bowl; `done` is its last button;
    `bowl` what a bowl for it is called after its colour."""

    word: str
    core: str
    title: str
    bowl: str = ""
    this: str
    done: str
    thick: str
    thin: str
    cool: str
    form: type[PieceForm]

    @property
    def flow(self) -> str:
        """The window its bowl has to be in, a key of `coating.flow.windows`; "" when it needs no bowl."""
        return self.word

    @property
    def templates(self) -> dict[str, str]:
        """Where its parts of a page are, by role."""
        return {
            role: f"pieces/{self.word}/{role}.html"
            for role in ("answer", "picture", "fields", "line", "small", "figure")
        }

    @abstractmethod
    def size(self, data: dict[str, Any]) -> dict[str, Any]:
        """Of the core, from what the form cleaned."""

    @abstractmethod
    def parameters(self, data: dict[str, Any]) -> dict[str, Any]:
        """Of the layer, from what the form cleaned."""

    @abstractmethod
    def initial(self, piece: Piece, layer: Layer) -> dict[str, Any]:
        """What the form shows of an existing one."""

    @abstractmethod
    def need(self, layer: Layer, flow: Flow | None = None) -> Need:
        """What it asks of its bowl at a flow; without one, at the flow the technique aims for."""

    @abstractmethod
    def thickness_mm(self, layer: Layer, flow: Flow | None = None) -> float:
        """How thick what sets is, mm."""

    @abstractmethod
    def shown(self, layer: Layer, flow: Flow | None = None) -> dict[str, Any]:
        """What its templates need besides piece and layer, at a flow or at the one it aims for."""

    def result(self, layer: Layer) -> dict[str, float]:
        """Its typed answer, for the live endpoint."""
        return {}
