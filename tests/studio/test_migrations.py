"""Migrations that have landed are never edited, and use nothing that may change after them."""

from __future__ import annotations

import hashlib
import re
from pathlib import Path

from django.conf import settings
from django.test import SimpleTestCase

STUDIO = Path(settings.ROOT) / "studio"
LANDED = Path(__file__).with_name("landed_migrations.txt")


def digests() -> dict[str, str]:
    """Every migration of ours with a digest of its text."""
    paths = sorted(p for p in STUDIO.glob("*/migrations/*.py") if p.name != "__init__.py")
    return {f"{p.parent.parent.name}/{p.stem}": hashlib.sha256(p.read_bytes()).hexdigest()[:16] for p in paths}


class Landed(SimpleTestCase):
    def test_none_was_edited_or_taken_away(self) -> None:
        """A new one adds its line: `python -m tests.studio.test_migrations`."""
        landed = dict(line.split() for line in LANDED.read_text().splitlines())
        self.assertGreater(len(landed), 40)
        self.assertEqual(digests(), landed, "a migration was edited, or a new one has no line yet")

    def test_none_uses_live_code(self) -> None:
        for path in STUDIO.glob("*/migrations/*.py"):
            self.assertIsNone(
                re.search(r"^\s*(from|import) (studio|coating|tools)\b", path.read_text(), re.MULTILINE), path
            )


if __name__ == "__main__":
    LANDED.write_text("".join(f"{name} {digest}\n" for name, digest in digests().items()))
