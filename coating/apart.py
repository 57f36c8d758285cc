"""What comes from outside is read apart: in a process of its own, which is ended when it takes too much.

A drawing, a picture or a file may be made so that reading it takes hours or all memory. Whoever reads one calls
`apart`: the reader runs in a child with limits on processor time, memory and the time on the wall; what it returns or
refuses comes back, and when the child is ended there is a refusal that says so.
"""

from __future__ import annotations

import contextlib
import multiprocessing
import os
import resource
import signal
import threading
from collections.abc import Callable
from dataclasses import dataclass
from multiprocessing.connection import Connection
from typing import Any, TypeVar

from coating.errors import CoatingError, TakesTooMuch

_Read = TypeVar("_Read")
MOST_AT_ONCE = 1  # children of one process: others wait for their turn
_READY = ["numpy", "shapely", "svgelements", "PIL.Image"]  # imported once, by the process that children come from
_turns = threading.BoundedSemaphore(MOST_AT_ONCE)


@dataclass(frozen=True, kw_only=True)
class Limits:
    """What one reading may take.

    Parameters
    ----------
    processor_s : seconds of one core, whole ones.
    wall_s : seconds until it is ended, however idle it was.
    memory_mb : memory in MiB beyond what the process begins with.
    """

    processor_s: int = 5
    wall_s: float = 15.0
    memory_mb: int = 512


def apart(reader: Callable[..., _Read], *given: Any, limits: Limits, too_much: str, field: str) -> _Read:
    """What `reader(*given)` returns, worked out in a process of its own.

    Parameters
    ----------
    reader : a function of a module (it is sent by its name). given : what it takes; values that can be pickled.
    limits : what it may take. too_much : what is said to the maker when it takes more. field : the field that is meant.

    Returns
    -------
    What the reader returns.

    Raises
    ------
    CoatingError : whatever the reader refuses.
    TakesTooMuch : the child was ended at a limit, or its turn did not come within `wall_s`.
    RuntimeError : the reader has a mistake in it.

    Notes
    -----
    A process with one thread forks; one with several, where a fork could take over a lock that is held, has a server
    of its own that forks (`multiprocessing`, start method "forkserver").
    """
    alone = threading.active_count() == 1
    context: Any = multiprocessing.get_context("fork" if alone else "forkserver")
    if not alone:
        context.set_forkserver_preload(_READY)
    if not _turns.acquire(timeout=limits.wall_s):
        raise TakesTooMuch("Somebody else's file is being read. Send yours again in a moment.", field=field)
    try:
        ours, theirs = context.Pipe(duplex=False)
        child = context.Process(target=_read, args=(theirs, limits, reader, given), daemon=True)
        child.start()
        theirs.close()
        answer = _answer_of(ours, child, limits.wall_s)
    finally:
        _turns.release()
    match answer:
        case ("read", result):
            return result  # type: ignore[no-any-return]
        case ("refused", CoatingError() as refusal):
            raise refusal
        case ("broke", str(problem)):
            raise RuntimeError(f"reading apart: {problem}")
    raise TakesTooMuch(too_much, field=field)


def _answer_of(line: Connection, child: Any, wall_s: float) -> Any:
    """What the child sends within its time; None when it was ended. It is gone afterwards."""
    try:
        return line.recv() if line.poll(wall_s) else None
    except (EOFError, OSError):
        return None
    finally:
        line.close()
        child.join(0.2)
        if child.is_alive():
            child.kill()
            child.join()
        child.close()


def _read(line: Connection, limits: Limits, reader: Callable[..., Any], given: tuple[Any, ...]) -> None:
    """The child: limits first, then the reader, then one message."""
    _limit(limits)
    try:
        answer = ("read", reader(*given))
    except CoatingError as refusal:
        answer = ("refused", refusal)
    except MemoryError:
        os._exit(1)
    except Exception as problem:
        answer = ("broke", f"{type(problem).__name__}: {problem}"[:500])
    with contextlib.suppress(BrokenPipeError, MemoryError):
        line.send(answer)


def _limit(limits: Limits) -> None:
    """Bound this process; it also ends by itself when nobody is left to end it."""
    for number in (signal.SIGINT, signal.SIGTERM, signal.SIGALRM, signal.SIGXCPU):
        signal.signal(number, signal.SIG_DFL)
    signal.setitimer(signal.ITIMER_REAL, limits.wall_s + 1)
    os.nice(5)
    with open("/proc/self/statm") as file:
        has = int(file.read().split()[0]) * resource.getpagesize()
    resource.setrlimit(resource.RLIMIT_CPU, (limits.processor_s, limits.processor_s + 1))
    resource.setrlimit(resource.RLIMIT_AS, (has + limits.memory_mb * 2**20,) * 2)
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
