"""Verbs of bowls: begin one, append to it, strike a line out, finish it. No line is ever changed or deleted."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime
from typing import TYPE_CHECKING

from django.db import transaction

from coating.learning.names import FLOW, LOSS, STRENGTH
from studio.bowls.models import Bowl, BowlEvent, BowlUse
from studio.common import clock
from studio.common.models import lone
from studio.common.types import Json
from studio.cupboard.actions import cupboard_changed
from studio.cupboard.adapters import ATTRIBUTES
from studio.pieces.known import keeps_to_it, known_to

if TYPE_CHECKING:
    from studio.accounts.models import Kitchen
    from studio.colours.models import Colour
    from studio.cupboard.models import Ingredient, Parameter
    from studio.pieces.models import Job, Layer

Line = tuple[str, Json]


class BowlChanged(Exception):
    """The bowl has events that the page did not know of."""


@transaction.atomic
def begin_bowl(
    kitchen: Kitchen,
    *,
    name: str,
    white: str,
    colour: Colour | None,
    job: Job | None = None,
    technique: str = "dip",
    layers: Iterable[tuple[Layer, float]] = (),
    at: datetime | None = None,
    colours: Json | None = None,
    base: Ingredient | None = None,
    taught: Mapping[str, float] | None = None,
) -> Bowl:
    """A new, empty bowl for some layers (with the grams that go on each), which goes by what its job goes by, which is
    begun with it, or the kitchen has learned so far; or by what the bowl has that it is taken from."""
    if job is not None:
        keeps_to_it(job, kitchen)
    if taught is None:
        known = known_to(job, kitchen).only(STRENGTH, FLOW, LOSS)
        taught = {name: factor.value for name, factor in known.of.items()}
    bowl = Bowl.objects.create(
        kitchen=kitchen,
        name=name,
        white=white,
        colour=colour,
        job=job,
        technique=technique,
        started_at=at or clock.now(),
        colours=colours or {},
        base=base,
        taught={name: round(times, 4) for name, times in taught.items()},
    )
    BowlUse.objects.bulk_create(BowlUse(kitchen=kitchen, bowl=bowl, layer=layer, grams=g) for layer, g in layers)
    return bowl


@transaction.atomic
def append(
    bowl: Bowl, lines: Sequence[Line], *, expected_seq: int, key: uuid.UUID, sent: str = "", at: datetime | None = None
) -> list[BowlEvent]:
    """Append lines (kind, payload) to a bowl.

    `expected_seq` is the last one the page knew; `key` names this send, so that a repeat is stored once; `sent` says
    what was sent, since what it means changes with the bowl.
    Raises BowlChanged when somebody else appended meanwhile, when the same name comes with something else (a page
    gone back to and changed), or when the bowl is done.
    """
    locked = Bowl.objects.select_for_update().get(pk=bowl.pk)
    keys = [uuid.uuid5(key, str(i)) for i in range(len(lines))]
    already = list(BowlEvent.objects.filter(bowl=locked, key__in=keys).order_by("seq"))
    if already:
        if already[0].payload.get("sent", "") != sent:
            raise BowlChanged
        return already
    if locked.last_seq != expected_seq or locked.finished_at:
        raise BowlChanged
    at = at or clock.now()
    events = [
        BowlEvent(
            kitchen_id=locked.kitchen_id,
            bowl=locked,
            seq=expected_seq + i,
            key=keys[i - 1],
            kind=kind,
            payload={**payload, "sent": sent} if sent and i == 1 else payload,
            happened_at=at,
        )
        for i, (kind, payload) in enumerate(lines, start=1)
    ]
    BowlEvent.objects.bulk_create(events)
    locked.last_seq = bowl.last_seq = expected_seq + len(events)
    locked.save(update_fields=["last_seq"])
    if any(map(says_something, events)):
        cupboard_changed(locked.kitchen)
    return events


def says_something(event: BowlEvent) -> bool:
    """Whether something can be learned from an event: what is known of the kitchen is worked out anew."""
    said = event.payload
    return event.kind == "read" or bool(said.get("made") or said.get("how") == "spread" or said.get("read"))


def was_sent(bowl: Bowl, *, key: uuid.UUID, sent: str) -> bool:
    """Whether this very send is stored already."""
    first = lone(BowlEvent.objects.filter(bowl=bowl, key=uuid.uuid5(key, "0")))
    return first is not None and first.payload.get("sent", "") == sent


@transaction.atomic
def strike_out(bowl: Bowl, seq: int, *, expected_seq: int, key: uuid.UUID) -> None:
    """Strike a line out: it stays visible and counts for nothing. Raises BowlChanged."""
    append(bowl, [("struck", {"target_seq": seq})], expected_seq=expected_seq, key=key, sent=f"strike {seq}")
    striking = BowlEvent.objects.get(bowl=bowl, key=uuid.uuid5(key, "0"))
    BowlEvent.objects.filter(bowl=bowl, seq=seq, struck_by=None).exclude(pk=striking.pk).update(struck_by=striking)
    if any(map(says_something, BowlEvent.objects.filter(bowl=bowl, seq=seq))):
        cupboard_changed(bowl.kitchen)


@transaction.atomic
def finish(
    bowl: Bowl,
    *,
    used_g: float,
    expected_seq: int,
    key: uuid.UUID,
    at: datetime | None = None,
    more: Json | None = None,
) -> None:
    """Everything is dipped: note what was used, with what else was said of it, and take the bowl off the band. Raises
    BowlChanged."""
    lines: list[Line] = [("used", {"mass_g": round(used_g, 2), **(more or {})})] if used_g > 0 or more else []
    append(bowl, lines, expected_seq=expected_seq, key=key, sent="done", at=at)
    Bowl.objects.filter(pk=bowl.pk, finished_at=None).update(finished_at=at or clock.now())


@transaction.atomic
def poured_into(job: Job) -> list[tuple[int, int]]:
    """What went into the bowls of a job and was not struck out: the numbers of bowl and ingredient."""
    rows = BowlEvent.objects.for_kitchen(job.kitchen_id).filter(bowl__job=job, kind__in=("added", "received"))
    added = rows.filter(struck_by=None).values_list("bowl_id", "payload")
    return [(bowl, payload["ingredient"]) for bowl, payload in added]


def holding(row: Ingredient) -> list[Bowl]:
    """The bowls in use that it is in, the oldest first."""
    return list(Bowl.objects.for_kitchen(row.kitchen_id).in_use().holding(row.pk).order_by("pk"))


def was_used(row: Ingredient) -> bool:
    """Whether a bowl was ever of it as it was bought, or made with it."""
    mine = Bowl.objects.for_kitchen(row.kitchen_id)
    return mine.filter(base=row).exists() or mine.holding(row.pk).exists()


def follow_new_values(
    row: Ingredient, fresh: Sequence[Parameter], read: bool = False, *, but: Bowl | None = None
) -> list[Bowl]:
    """Bowls in use follow newly measured values, or a new reading of its colour; each gets a line that says so.
    Returns those that changed."""
    if not read and not any(p.name in ATTRIBUTES for p in fresh):
        return []
    changed, bowls = [], [bowl for bowl in holding(row) if bowl != but]
    pins = {p.name: p.pk for p in row.parameters.order_by("pk").all()}
    last = row.readings.order_by("pk").last()
    if last:
        pins["optics"] = last.pk
    for bowl in bowls:
        locked = Bowl.objects.select_for_update().get(pk=bowl.pk)
        payload = {"ingredient": row.pk, "pins": pins}
        append(bowl, [("remeasured", payload)], expected_seq=locked.last_seq, key=uuid.uuid4())
        changed.append(bowl)
    return changed
