"""Write the schemas of archives as they follow from the columns."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from studio.notebook.archive.schema import SCHEMAS, as_text, schemas


class Command(BaseCommand):
    """Writes every schema."""

    help = "Write the JSON schemas of archives."

    def handle(self, *args: Any, **options: Any) -> None:
        SCHEMAS.mkdir(exist_ok=True)
        for name, schema in schemas().items():
            (SCHEMAS / f"{name}.json").write_text(as_text(schema))
