"""Does long work outside of requests until told to stop: `manage.py worker`. As many as wanted, on as many machines."""

from __future__ import annotations

import os
from typing import Any

from django.core.management.base import BaseCommand

from studio.work.worker import Worker

POLITE = 10


class Command(BaseCommand):
    """Does the tasks that wait."""

    help = "Do the tasks that wait, until told to stop."

    def handle(self, *args: Any, **options: Any) -> None:
        os.nice(POLITE)  # pages come first
        worker = Worker()
        worker.configure_signals()
        worker.run_for_ever()
