"""A kind of design, begun as its page shows it and worked out as its page does."""

from __future__ import annotations

from django.test import TestCase

from tests.studio.kitchens import live, maker
from tests.studio.test_designs import untouched


class Designing(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()

    def begin(self, kind: str, query: str = "") -> dict[str, str]:
        return untouched(self.client.get(f"/studio/new/{kind}/{query}").context["form"])

    def parts(self, kind: str, **change: str) -> dict[str, str]:
        answer = live(self.client, f"/studio/live/{kind}/", {**self.begin(kind), **change})
        self.assertEqual(answer.status_code, 200, (kind, change, answer.content[:300]))
        told: dict[str, str] = answer.json()["parts"]
        self.assertNotRegex(told["picture"], r"\bnan\b|\binf\b")
        return told
