"""How amounts read for whoever is looking: set once a request, read by form fields and template filters."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from coating.errors import CoatingError
from coating.quantities import Measures

_current: ContextVar[Callable[[], Measures]] = ContextVar("measures", default=Measures)


def current() -> Measures:
    """The measures in force; grams, degC and mm for nobody in particular."""
    return _current.get()()


def paper() -> str:
    """The paper of whoever is looking: Letter where sizes read in inches."""
    return "Letter" if current().length == "in" else "A4"


def refusal_text(refusal: CoatingError) -> str:
    """A refusal of the core with its quantities as they read for whoever is looking."""
    return refusal.read(current())


@contextmanager
def read_in(find: Callable[[], Measures]) -> Iterator[None]:
    """While this lasts, amounts read as `find()` says; it is asked only when somebody wants to know."""
    token = _current.set(find)
    try:
        yield
    finally:
        _current.reset(token)
