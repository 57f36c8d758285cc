"""So many a second for each maker and worker; beyond it a live page keeps its last answer."""

from __future__ import annotations

import time

from django.core.cache import cache


def allowed(who: str, *, limit: int, window_s: int = 1) -> bool:
    """Count one request of `who`; False when more than `limit` came within the window."""
    key = f"throttle:{who}:{int(time.time() // window_s)}"
    cache.add(key, 0, timeout=window_s * 2)
    try:
        return int(cache.incr(key)) <= limit
    except ValueError:
        return True
