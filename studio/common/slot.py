"""What a lower app asks of higher ones without importing them: filled when the site begins."""

from __future__ import annotations

from collections.abc import Callable
from typing import Generic, ParamSpec, TypeVar

_Asked = ParamSpec("_Asked")
_Answer = TypeVar("_Answer")


class Slot(Generic[_Asked, _Answer]):
    """A question with the answer of whichever app knows it.

    Parameters
    ----------
    what : what is asked, for whoever reads an error. The function that answers is given to `fill` in the `ready` of the
    app that knows; asking before that raises LookupError.
    """

    def __init__(self, what: str) -> None:
        self.what = what
        self._answer: Callable[_Asked, _Answer] | None = None

    def fill(self, answer: Callable[_Asked, _Answer]) -> None:
        """From now on this answers."""
        self._answer = answer

    def __call__(self, *args: _Asked.args, **kwargs: _Asked.kwargs) -> _Answer:
        if self._answer is None:
            raise LookupError(f"nobody answers yet: {self.what}")
        return self._answer(*args, **kwargs)


class Hook(Generic[_Asked]):
    """An act that higher apps have a part in. They do theirs at once, in its transaction: all of it is kept, or none.

    Parameters
    ----------
    what : what has been done, for whoever reads it. Parts are added in the `ready` of the apps, and done in that order.
    """

    def __init__(self, what: str) -> None:
        self.what = what
        self._parts: list[Callable[_Asked, None]] = []

    def add(self, part: Callable[_Asked, None]) -> None:
        """From now on this is done too."""
        self._parts.append(part)

    def __call__(self, *args: _Asked.args, **kwargs: _Asked.kwargs) -> None:
        for part in self._parts:
            part(*args, **kwargs)
