"""Deletes demo kitchens whose week is over."""

from typing import Any

from django.core.management.base import BaseCommand

from studio.demo.load_demo import clear_old_demos


class Command(BaseCommand):
    help = "Delete demo kitchens whose week is over."

    def handle(self, *args: Any, **options: Any) -> None:
        clear_old_demos()
