"""A kind of design, begun as its page shows it and worked out as its page does."""

from __future__ import annotations

from typing import Any

from django.test import TestCase

from coating.piece.kinds import KINDS as CORES
from studio.pieces.models import Job, Piece
from studio.pieces.stacks import LayerPlan, PiecePlan, keep_piece
from tests.studio.every_form import untouched
from tests.studio.kitchens import live, maker


class Designing(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()

    def begin(self, kind: str, query: str = "") -> dict[str, str]:
        return untouched(self.client.get(f"/studio/new/{kind}/{query}").context["form"])

    def parts(self, kind: str, **change: str) -> dict[str, str]:
        answer = live(self.client, f"/studio/live/{kind}/", {**self.begin(kind), **change})
        self.assertEqual(answer.status_code, 200, (kind, change, answer.content[:300]))
        data: dict[str, str] = answer.json()["parts"]
        self.assertNotRegex(data["picture"], r"\bnan\b|\binf\b")
        return data


def laced(kitchen: Any) -> Piece:
    """A tier with a layer of lace."""
    job = Job.objects.create(kitchen=kitchen, name="Comet night")
    collar = LayerPlan("lace", "coating", None, parameters={"v": 2, "length_mm": 900.0})
    return keep_piece(job, PiecePlan("Upper tier", 1, CORES["cake_tier"], (180.0, 100.0), (collar,), 0))
