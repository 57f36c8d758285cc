"""Apps stand in an order: none imports one above it. What goes upward is a slot or a hook that the higher one fills."""

from __future__ import annotations

from pathlib import Path

from django.conf import settings
from django.test import SimpleTestCase

from studio.common.slot import Slot
from tests.imports import imports, modules, mutual

ORDER = ("common", "work", "accounts", "colours", "cupboard", "pieces", "bowls", "designs", "day", "learned", "rescue",
         "notebook", "quick", "swatches", "demo", "settings", "urls", "wsgi")  # fmt: skip


class Direction(SimpleTestCase):
    def test_no_app_imports_upward(self) -> None:
        edges = imports(modules(Path(settings.ROOT), "studio"))
        place = {f"studio.{app}": i for i, app in enumerate(ORDER)}
        upward = [
            f"{name} imports {other}" for name, others in edges.items() if name != "studio" for other in others
            if place[_app(other)] > place[_app(name)]
        ]  # fmt: skip
        self.assertEqual(upward, [])
        self.assertEqual(mutual(edges), set())

    def test_apps_are_installed_in_that_order(self) -> None:
        ours = [app.removeprefix("studio.") for app in settings.INSTALLED_APPS if app.startswith("studio.")]
        self.assertEqual(sorted(ours, key=ORDER.index), ours)

    def test_a_slot_says_what_is_missing(self) -> None:
        slot: Slot[[int], int] = Slot("twice a number")
        with self.assertRaisesMessage(LookupError, "twice a number"):
            slot(2)
        slot.fill(lambda number: 2 * number)
        self.assertEqual(slot(2), 4)


def _app(name: str) -> str:
    return ".".join(name.split(".")[:2])
