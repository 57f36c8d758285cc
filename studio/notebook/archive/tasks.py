"""Archives are written and brought in by workers, outside of any request; how far they are is said meanwhile."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

from django.db import DatabaseError, connection, transaction
from django_tasks import task

from coating.errors import CoatingError
from studio.common.measures import refusal_text
from studio.common.words import many
from studio.notebook.archive.bring import bring_archive
from studio.notebook.archive.read import open_archive
from studio.notebook.archive.write import count_of, write_archive
from studio.notebook.models import Carrying
from studio.work.lost import when_given_up

TELLS_S = 0.7
BROKE_OFF = "It broke off several times. Make room on the disk, then try it again."


@task()
def carry_out(pk: int) -> str:
    """Write an archive."""
    row = _begun(pk)
    if row is None:
        return "no longer wanted"
    row.total = count_of(row.kitchen)
    with telling(row) as tell:
        write_archive(row.kitchen, row.path, tell)
    size = row.path.stat().st_size
    _over(pk, Carrying.DONE, f"{many(row.total, 'row')} and photos", size=size)
    return Carrying.DONE


@task()
def carry_in(pk: int) -> str:
    """Bring an archive in."""
    row = _begun(pk)
    if row is None:
        return "no longer wanted"
    try:
        archive = open_archive(row.path)
        try:
            row.total = archive.rows + sum(name.startswith("photos/") for name in archive.sizes)
            with telling(row) as tell:
                brought = bring_archive(row.kitchen, archive, tell)
        finally:
            archive.zip.close()
    except CoatingError as refusal:
        row.path.unlink(missing_ok=True)
        _over(pk, Carrying.FAILED, refusal_text(refusal)[:400])
        return Carrying.FAILED
    row.path.unlink(missing_ok=True)
    _over(pk, Carrying.DONE, brought_says(brought))
    return Carrying.DONE


def brought_says(brought: int) -> str:
    """What came of it.

    >>> brought_says(0), brought_says(1)
    ('All of it was here already: nothing has changed.', '1 thing was brought in.')
    """
    if not brought:
        return "All of it was here already: nothing has changed."
    return f"{many(brought, 'thing')} {'was' if brought == 1 else 'were'} brought in."


def _begun(pk: int) -> Carrying | None:
    waiting = Carrying.objects.filter(pk=pk, state__in=[Carrying.ASKED, Carrying.AT_IT])
    waiting.update(state=Carrying.AT_IT, done=0)
    return waiting.select_related("kitchen__owner").first()


def _over(pk: int, state: str, says: str, **values: int) -> None:
    Carrying.objects.filter(pk=pk).update(state=state, says=says, **values)


@when_given_up(carry_out)
@when_given_up(carry_in)
def _given_up(pk: int) -> None:
    """Its worker died each time."""
    for row in Carrying.objects.filter(pk=pk, way=Carrying.IN):
        row.path.unlink(missing_ok=True)
    _over(pk, Carrying.FAILED, BROKE_OFF)


def archive_gone(instance: Carrying, **_: Any) -> None:
    """Its row was deleted: once that is certain, its file goes."""
    transaction.on_commit(lambda: instance.path.unlink(missing_ok=True))


@contextmanager
def telling(row: Carrying) -> Iterator[Callable[[int], None]]:
    """While the block runs, how far it is gets written by a thread with a connection of its own: the work itself may
    be one long transaction."""
    done, over = [0], threading.Event()

    def write() -> None:
        Carrying.objects.filter(pk=row.pk).update(done=done[0], total=row.total)

    def write_now_and_then() -> None:
        while not over.wait(TELLS_S):
            try:
                write()
            except DatabaseError:
                pass
            finally:
                connection.close()

    if connection.in_atomic_block:  # whoever is asked sees nothing of it anyhow
        yield lambda _: None
        return
    thread = threading.Thread(target=write_now_and_then, daemon=True)
    thread.start()
    try:
        yield lambda so_far: done.__setitem__(0, so_far)
    finally:
        over.set()
        thread.join()
