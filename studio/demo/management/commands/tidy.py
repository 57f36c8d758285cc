"""Forget what nobody needs any more: demo kitchens after a week, visits that ran out, forms sent days ago."""

from __future__ import annotations

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand

from studio.colours.models import Photo
from studio.common.models import Sent, Tally
from studio.demo.load_demo import clear_old_demos
from studio.notebook.models import Carrying


class Command(BaseCommand):
    """Deletes what nobody comes back for."""

    help = "Delete old demo kitchens, old visits and the marks of forms sent days ago."

    def handle(self, *args: Any, **options: Any) -> None:
        call_command("clearsessions")
        Photo.forget_old()
        Tally.forget_old()
        Carrying.forget_old()
        self.stdout.write(f"{clear_old_demos()} demo kitchens and {Sent.forget_old()} marks of sent forms are gone.")
