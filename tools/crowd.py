"""Kitchens with a long history, for tests and ./bench. `python -m tools.crowd KITCHENS BOWLS EVENTS` fills the database
the environment names and prints one JSON line a maker: the log-in, a bowl and a job of theirs."""

from __future__ import annotations

import json
import sys
import uuid
from datetime import timedelta
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from studio.accounts.models import Kitchen
    from studio.bowls.models import Bowl
    from studio.pieces.models import Job

PIECES_A_JOB, PIECES = 4, 200
SMALL_KITCHEN = (4, 40)  # bowls and events of a kitchen that is one of many


def many_bowls(kitchen: Kitchen, *, bowls: int, events: int) -> list[Bowl]:
    """Jobs with a bowl for each of their colours, `events` in all of them together; every other bowl is done."""
    from studio.bowls.models import Bowl, BowlUse
    from studio.colours.models import Colour
    from studio.common import clock
    from studio.pieces.models import Job, Layer, Piece

    now, made = clock.now(), []
    colours = list(Colour.objects.for_kitchen(kitchen))
    for i in range(bowls):
        if i % PIECES_A_JOB == 0:
            day = (now + timedelta(days=i // PIECES_A_JOB - bowls // PIECES_A_JOB // 2)).date()
            job = Job.objects.create(kitchen=kitchen, name=f"Evening {i // PIECES_A_JOB + 1}", due_on=day)
        colour, size = colours[i % len(colours)], {"v": 2, "mm": [45.0 + i % 30, 8.0]}
        piece = Piece.objects.create(kitchen=kitchen, job=job, name="Biscuits", count=6 + i % 30, spares=1, size=size)
        layer = Layer.objects.create(kitchen=kitchen, piece=piece, colour=colour, parameters={"v": 2, "share": 0.5})
        begun = now - timedelta(minutes=20)
        bowl = Bowl.objects.create(
            kitchen=kitchen,
            name=colour.name,
            white="coating",
            colour=colour,
            job=job,
            started_at=begun,
            finished_at=now if i % 2 else None,
        )
        BowlUse.objects.create(kitchen=kitchen, bowl=bowl, layer=layer, grams=90.0)
        made.append(bowl)
    for i, bowl in enumerate(made):
        _fill(bowl, events // bowls + (i < events % bowls))
    return made


def many_pieces(kitchen: Kitchen, count: int) -> Job:
    """One job with so many pieces of every kind there is to begin with, each of another size, in every colour."""
    from dataclasses import replace

    from coating.stack.starts import STARTS
    from studio.colours.models import Colour
    from studio.pieces.models import Job
    from studio.pieces.stacks import first_extras, keep_piece, plans_of

    job = Job.objects.create(kitchen=kitchen, name="Everything")
    colours, extras = list(Colour.objects.for_kitchen(kitchen)), first_extras(kitchen)
    parts = [(start, i) for start in STARTS.values() if not start.joined for i in range(len(start.parts))]
    for i in range(count):
        start, part = parts[i % len(parts)]
        shades = {"main": colours[i % len(colours)], "second": colours[i // 7 % len(colours)]}
        plan = plans_of(start, shades, extras)[part]
        size = tuple(mm * (1 + 0.002 * i) for mm in plan.size_mm)
        keep_piece(job, replace(plan, size_mm=size, name=f"{plan.name} {i + 1}", count=6 + i % 30))
    return job


def _fill(bowl: Bowl, count: int) -> None:
    """Melted, then tinted drop by drop."""
    from studio.bowls.adapters import pins_of
    from studio.bowls.models import BowlEvent
    from studio.cupboard.stock import Stock

    rows = {r.code: r for r in Stock.of(bowl.kitchen).rows}
    blue = {"ingredient": rows["blue"].pk, "pins": pins_of(rows["blue"]), "typed": "1 drop", "units": 1}
    white = {"ingredient": rows["bright"].pk, "pins": pins_of(rows["bright"]), "typed": "310 g", "mass_g": 310.0}
    lines = [
        ("added", white),
        ("warmed", {"to_c": 43.0, "typed": "read"}),
        *(("added", blue) if i % 2 else ("stirred", {}) for i in range(count)),
    ][:count]
    BowlEvent.objects.bulk_create(
        BowlEvent(
            kitchen=bowl.kitchen,
            bowl=bowl,
            seq=seq,
            key=uuid.uuid4(),
            kind=kind,
            payload=payload,
            happened_at=bowl.started_at + timedelta(seconds=20 * seq),
        )
        for seq, (kind, payload) in enumerate(lines, start=1)
    )
    bowl.last_seq = len(lines)
    bowl.save(update_fields=["last_seq"])


def main() -> None:
    """Fill a database with many kitchens."""
    import django

    django.setup()
    from django.test import Client

    from studio.accounts.actions import make_kitchen
    from studio.accounts.models import User

    kitchens, bowls, events = map(int, sys.argv[1:4])
    for i in range(kitchens):
        user = User.objects.create_user(f"maker{i}@crowd.invalid")
        kitchen = make_kitchen(user, name=f"Kitchen {i}")
        size = (bowls, events) if i == 0 else SMALL_KITCHEN
        made = many_bowls(kitchen, bowls=size[0], events=size[1])
        client = Client()
        client.force_login(user, backend="django.contrib.auth.backends.ModelBackend")
        login = client.cookies["sessionid"].value
        login_row = {"login": login, "bowl": made[0].pk, "job": made[0].job_id}
        if i == 0:
            login_row["pieces"] = many_pieces(kitchen, PIECES).pk
        print(json.dumps(login_row), flush=True)


if __name__ == "__main__":
    main()
