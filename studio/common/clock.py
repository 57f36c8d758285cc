"""The one place that looks at the clock, so that tests can hold it.

./start says what time it was when it began, by the clock of the machine and by the one that counts from its boot
and is never set (`OLIVE_CLOCK`). From then on the house counts by the second one: when somebody sets the clock of the
machine, no timer, no bowl and no bench jumps. The next ./start takes the clock as it is then; so does everything while
the machine has just been booted, when its clock is often set from the network.
"""

from __future__ import annotations

import os
import time
from datetime import UTC, datetime

BOOTED_LATELY_S = 600.0


def anchor() -> str:
    """Both clocks now, for `OLIVE_CLOCK`."""
    return f"{time.clock_gettime(time.CLOCK_BOOTTIME):.3f}:{time.time():.3f}"


def now() -> datetime:
    """This moment, UTC, aware."""
    return datetime.fromtimestamp(_seconds(os.environ.get("OLIVE_CLOCK", "")), UTC)


def _seconds(begun: str) -> float:
    """Seconds since 1970, counted from the anchor where there is one."""
    booted_s = time.clock_gettime(time.CLOCK_BOOTTIME)
    if not begun or booted_s < BOOTED_LATELY_S:
        return time.time()
    then_s, was_s = map(float, begun.split(":"))
    return was_s + booted_s - then_s
