"""Plans days that are asked for, one after the other, outside of any request: `manage.py solver`."""

from __future__ import annotations

import os
import time
from typing import Any

from django.core.management.base import BaseCommand
from django.db import DatabaseError, connection

from studio.day.actions import solve_next

LOOKS_S = 0.5
POLITE = 10


class Command(BaseCommand):
    help = "Plan days that are asked for, until told to stop."

    def handle(self, *args: Any, **options: Any) -> None:
        os.nice(POLITE)  # pages come first
        while True:
            try:
                busy = solve_next()
            except DatabaseError:  # it comes back: what was begun is taken up again
                connection.close()
                busy = False
            if not busy:
                time.sleep(LOOKS_S)
