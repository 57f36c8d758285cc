"""A kitchen with five years behind it, for ./bench: `python -m tools.five_years` fills the database the environment
names and prints the log-in and a job; `python -m tools.five_years KITCHEN FILE` writes its archive and prints how long
that took, in s, and by how much more memory, in MB."""

from __future__ import annotations

import json
import random
import resource
import sys
import time
import uuid
from collections.abc import Iterator
from datetime import datetime, timedelta
from pathlib import Path
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from studio.accounts.models import Kitchen

JOBS, BOWLS_A_JOB, EVENTS_A_BOWL, PHOTOS = 400, 5, 30, 3000
WORDS = ("drip", "lace", "moon", "comet", "spring", "cake", "biscuit", "blue", "warm window", "wet whisk", "lilac")


def fill(kitchen: Kitchen) -> int:
    """Five years of evenings, each with its pieces, bowls, events, photos, words and what went wrong. Returns the
    number of the last job."""
    from studio.colours.models import Colour
    from studio.common import clock
    from studio.notebook.models import Note, Outcome
    from studio.pieces.models import Job, Layer, Piece
    from studio.rescue.models import Rescue

    random.seed(5)
    now, colours = clock.now(), list(Colour.objects.for_kitchen(kitchen))
    days = [now - timedelta(days=2 + 4.5 * i) for i in range(JOBS)][::-1]
    jobs = Job.objects.bulk_create(
        Job(kitchen=kitchen, name=f"{random.choice(WORDS).title()} evening {i}", due_on=at.date())
        for i, at in enumerate(days)
    )
    parts = [(job, at, place) for job, at in zip(jobs, days, strict=True) for place in range(BOWLS_A_JOB)]
    pieces = Piece.objects.bulk_create(
        Piece(
            kitchen=kitchen,
            job=job,
            name=f"{random.choice(WORDS).title()} {p}",
            count=6 + p * 5,
            spares=1,
            size={"v": 3, "mm": [45.0 + 5 * p, 8.0]},
        )
        for job, _, p in parts
    )
    layers = Layer.objects.bulk_create(
        Layer(kitchen=kitchen, piece=piece, colour=colours[i % len(colours)], parameters={"v": 2, "share": 0.5})
        for i, piece in enumerate(pieces)
    )
    _bowls(
        kitchen,
        [(job, at + timedelta(minutes=20 * p), layer) for (job, at, p), layer in zip(parts, layers, strict=True)],
    )
    Outcome.objects.bulk_create(
        Outcome(
            kitchen=kitchen, job=piece.job, piece=piece, key=uuid.uuid4(), at=at, good=piece.count - i % 3,
            coat=("thin", "right", "thick")[i % 3], liked=("yes", "so_so", "no")[i % 3],
        )
        for i, (piece, (_, at, _p)) in enumerate(zip(pieces, parts, strict=True))
    )  # fmt: skip
    Note.objects.bulk_create(
        Note(kitchen=kitchen, job=job, key=uuid.uuid4(), at=at, text=" ".join(random.choices(WORDS, k=9)))
        for job, at in zip(jobs, days, strict=True)
    )
    Rescue.objects.bulk_create(
        Rescue(kitchen=kitchen, job=job, key=uuid.uuid4(), symptom="thick", cause="cold", move="warm", happened_at=at)
        for job, at in zip(jobs[::4], days[::4], strict=True)
    )
    _photos(kitchen, list(zip(jobs, days, strict=True)))
    return jobs[-2].pk


def _bowls(kitchen: Kitchen, of: list[tuple[Any, datetime, Any]]) -> None:
    """A bowl a layer, melted, tinted drop by drop, used, with something left."""
    from studio.bowls.models import Bowl, BowlEvent, BowlUse

    bowls = Bowl.objects.bulk_create(
        Bowl(
            kitchen=kitchen, name=layer.colour.name, white="coating", colour=layer.colour, job=job, started_at=at,
            finished_at=at + timedelta(hours=1), last_seq=EVENTS_A_BOWL,
        )
        for job, at, layer in of
    )  # fmt: skip
    BowlUse.objects.bulk_create(
        BowlUse(kitchen=kitchen, bowl=bowl, layer=layer, grams=90.0)
        for bowl, (_, _, layer) in zip(bowls, of, strict=True)
    )
    BowlEvent.objects.bulk_create(_events(kitchen, bowls), batch_size=2000)


def _events(kitchen: Kitchen, bowls: list[Any]) -> Iterator[Any]:
    from studio.bowls.adapters import pins_of
    from studio.bowls.models import BowlEvent
    from studio.cupboard.stock import Stock

    rows = {r.code: r for r in Stock.of(kitchen).rows}
    white = {"ingredient": rows["bright"].pk, "pins": pins_of(rows["bright"]), "typed": "250 g", "mass_g": 250.0}
    drops = [
        {"ingredient": rows[c].pk, "pins": pins_of(rows[c]), "typed": "1 drop", "units": 1}
        for c in ("blue", "red", "orange")
    ]
    for n, bowl in enumerate(bowls):
        lines = [
            ("added", white),
            ("warmed", {"to_c": 43.0, "typed": "read"}),
            *(("added", drops[(i + n) % 3]) if i % 2 else ("stirred", {}) for i in range(EVENTS_A_BOWL - 3)),
            ("used", {"mass_g": 180.0, "left_g": 70.0}),
        ]
        for seq, (kind, payload) in enumerate(lines, 1):
            at = bowl.started_at + timedelta(seconds=40 * seq)
            yield BowlEvent(
                kitchen=kitchen, bowl=bowl, seq=seq, key=uuid.uuid4(), kind=kind, payload=payload, happened_at=at
            )


def _photos(kitchen: Kitchen, of: list[tuple[Any, datetime]]) -> None:
    """Rows, and a file for each: one picture of ours under many names."""
    from studio.demo.evenings import PHOTOS as DRAWN
    from studio.notebook.models import KeptPhoto, folder_of

    folder = folder_of(kitchen.pk)
    folder.mkdir(parents=True, exist_ok=True)
    raw = (DRAWN / "discs.jpg").read_bytes()
    photos = [
        KeptPhoto(kitchen=kitchen, job=job, width=1000, height=750, taken_at=at, words=random.choice(WORDS))
        for job, at in (of[i % len(of)] for i in range(PHOTOS))
    ]
    for photo in photos:
        photo.path("large").write_bytes(raw)
    KeptPhoto.objects.bulk_create(photos)


def write(pk: int, file: str) -> None:
    """Its archive, as a worker writes it."""
    from studio.accounts.models import Kitchen
    from studio.notebook.archive.write import write_archive

    kitchen = Kitchen.objects.select_related("owner").get(pk=pk)
    before, begun = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss, time.perf_counter()
    write_archive(kitchen, Path(file))
    took_s = time.perf_counter() - begun
    more = (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) / 1024
    print(json.dumps({"s": took_s, "mb": more, "size_mb": Path(file).stat().st_size / 2**20}))


def main() -> None:
    """Fill, or write."""
    import django

    django.setup()
    if len(sys.argv) > 2:
        write(int(sys.argv[1]), sys.argv[2])
        return
    from django.test import Client

    from studio.accounts.actions import make_kitchen
    from studio.accounts.models import User

    user = User.objects.create_user("five-years@crowd.invalid")
    kitchen = make_kitchen(user, name="Five years")
    job, client = fill(kitchen), Client()
    client.force_login(user, backend="django.contrib.auth.backends.ModelBackend")
    print(json.dumps({"kitchen": kitchen.pk, "job": job, "login": client.cookies["sessionid"].value}))


if __name__ == "__main__":
    main()
