"""What a lower app asks of a higher one without importing it: a slot, filled when the site begins."""

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
