"""Who helps, and with what: kinds of work that a layer is, and helpers who may do some of them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from coating.techniques import technique as called
from coating.techniques.base import BUILD, DIP, MOULD, PAINT, PIPE, SCATTER

WORK = (
    (SCATTER, "sprinkles, small parts"),
    (DIP, "dip, pour"),
    (PIPE, "pipe"),
    (PAINT, "paint, dust"),
    (MOULD, "fill moulds"),
    (BUILD, "cut, bend, put together"),
)
CALM = ("calm", "nothing hot or hurried")
MOST = 3


@dataclass(frozen=True)
class Helper:
    """One more pair of hands, for some kinds of work; `calm`: none that is hot or that a window closes on."""

    key: str
    name: str
    may: frozenset[str]
    calm: bool = False

    def does(self, technique: str, *, hot: bool, hurried: bool) -> bool:
        """Whether the helper may be given this work."""
        return called(technique).work in self.may and not (self.calm and (hot or hurried))


def field_names() -> Iterable[tuple[int, str]]:
    """Of the form: a name, what is allowed, and whether nothing hot, for each."""
    return [(i, f"helper{i}_{what}") for i in range(1, MOST + 1) for what in ("name", *(k for k, _ in WORK), CALM[0])]


def helpers_of(data: Mapping[str, Any]) -> tuple[Helper, ...]:
    """Those who may do something, from a valid form."""
    helpers = []
    for i in range(1, MOST + 1):
        may = frozenset(k for k, _ in WORK if data.get(f"helper{i}_{k}"))
        if may:
            name = data.get(f"helper{i}_name") or f"Helper {i}"
            helpers.append(Helper(f"helper{i}", name, may, bool(data.get(f"helper{i}_{CALM[0]}"))))
    return tuple(helpers)
