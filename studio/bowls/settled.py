"""A bowl as its last event left it, kept between requests: only time has passed since, and time is quickly told."""

from __future__ import annotations

from collections.abc import Iterable
from threading import Lock
from typing import TYPE_CHECKING

from cachetools import LRUCache, cached
from cachetools.keys import hashkey
from django.db.models import prefetch_related_objects

from coating.simulate.bowl import BowlState
from coating.simulate.fold import fold
from studio.bowls.models import Bowl

if TYPE_CHECKING:
    from studio.bowls.adapters import Desk

_kept: LRUCache[tuple[object, ...], BowlState] = LRUCache(2048)


def _key(desk: Desk) -> tuple[object, ...]:
    """Everything the state follows from: an append raises the bowl's sequence, a change the cupboard's version."""
    bowl, kitchen = desk.bowl, desk.kitchen
    taught = tuple(sorted(bowl.taught.items()))
    return hashkey(bowl.pk, bowl.started_at, bowl.last_seq, taught, kitchen.cupboard_version, kitchen.room_c)


@cached(_kept, key=_key, lock=Lock())
def settled(desk: Desk) -> BowlState:
    """The state after the last event."""
    return fold(desk.events, desk.context, at_s=max((e.at_s for e in desk.events), default=0.0))


def fetch_events(desks: Iterable[Desk]) -> None:
    """Read the events of those bowls whose state is not known yet, in one query."""
    bowls = [desk.bowl for desk in desks if _key(desk) not in _kept]
    if bowls:
        prefetch_related_objects(bowls, Bowl.objects.events_in_order())
