"""Bowls become records: every reading and every look, with what had been counted into the bowl until then."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime

from coating.colour.mixing import Part
from coating.learning import Observation
from coating.learning.fit import MOST_RECORDS
from coating.learning.names import bottle
from coating.learning.observations import offset_of
from studio.accounts.models import Kitchen
from studio.bowls.history import read_says
from studio.bowls.models import Bowl, BowlEvent
from studio.common.types import Typed
from studio.cupboard.stock import Stock
from studio.learned.models import Said

DAY_S = 86400.0
LEAST_G = 1e-6


@dataclass(frozen=True)
class Noted:
    """A record with the bowl it is of, its event, when it was noted and what it says. Left out, it is struck."""

    record: Observation
    bowl: Bowl
    event: int
    at: datetime
    says: str


def noted_in(kitchen: Kitchen, stock: Stock, said: Sequence[Said]) -> list[Noted]:
    """All records of a kitchen that count, oldest first; the newest of them where there are more than a fit takes."""
    read = BowlEvent.objects.for_kitchen(kitchen).filter(kind="read", struck_by=None)
    bowls = (
        Bowl.objects.for_kitchen(kitchen)
        .filter(pk__in=read.values("bowl"))
        .prefetch_related(Bowl.objects.events_in_order())
        .order_by("pk")
    )
    all_of_it = [noted for bowl in bowls for noted in _of_bowl(bowl, stock, said)]
    return sorted(all_of_it, key=lambda noted: (noted.at, noted.record.id))[-MOST_RECORDS:]


def _of_bowl(bowl: Bowl, stock: Stock, said: Sequence[Said]) -> Iterable[Noted]:
    grams: dict[int, float] = {}
    for event in bowl.events.all():
        if event.struck_by_id is not None:
            continue
        data: Typed = event.payload
        if event.kind in ("added", "received"):
            _pour(grams, data, stock)
        elif event.kind in ("used", "split"):
            whole = sum(grams.values())
            left = max(0.0, 1 - data["mass_g"] / whole) if whole > LEAST_G else 0.0
            grams = {pk: g * left for pk, g in grams.items()}
        elif event.kind == "read" and sum(grams.values()) > LEAST_G:
            record = _record(event, grams, stock, said)
            if record is not None:
                yield Noted(record, bowl, event.pk, event.happened_at, read_says(data))


def _pour(grams: dict[int, float], data: Typed, stock: Stock) -> None:
    """What was counted, at what a drop weighs today."""
    core = stock.cores.get(data["ingredient"])
    if core is None:
        return
    poured_g = data["mass_g"] if "mass_g" in data else data["units"] * core.unit_g
    grams[data["ingredient"]] = grams.get(data["ingredient"], 0.0) + poured_g


def _record(event: BowlEvent, grams: dict[int, float], stock: Stock, said: Sequence[Said]) -> Observation | None:
    """A reading or a look; None without a colour in it, or where one was read anew since, or is to be forgotten."""
    parts, bottles = list[Part](), list[str]()
    for pk, mass_g in grams.items():
        core, row = stock.cores[pk], stock.by_id[pk]
        if core.is_colourant:
            name = f"strength.{core.name}"
            newer = row.read_last()
            forgotten = any(s.word == Said.FORGET and s.name == name and s.at > event.happened_at for s in said)
            if forgotten or (newer is not None and newer.since > event.happened_at):
                return None
            before = sum(s.word == Said.NEW_BOTTLE and s.name == name and s.at <= event.happened_at for s in said)
            bottles.append(bottle(core.name, 1 + before))
        else:
            bottles.append("")
        parts.append(Part(core, mass_g))
    if not any(bottles):
        return None
    data = event.payload
    lab = data["lab"]
    eyes = data.get("how") == "eyes"
    if eyes:
        off = offset_of(data["word"], much=bool(data.get("much")))
        lab = data.get("beside") or [v - o for v, o in zip(lab, off, strict=True)]
    last = next((s.word for s in reversed(said) if s.name == f"record.{event.pk}"), Said.IN)
    return Observation(
        struck=last == Said.OUT,
        id=f"{event.pk:012d}",
        kind="look" if eyes else "read",
        bowl=str(event.bowl_id),
        day=event.happened_at.timestamp() / DAY_S,
        parts=tuple(parts),
        bottles=tuple(bottles),
        lab=(float(lab[0]), float(lab[1]), float(lab[2])),
        word=data["word"] if eyes else "",
        much=bool(data.get("much")),
    )
