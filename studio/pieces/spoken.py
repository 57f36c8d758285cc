"""How bowls and what is made from them are spoken of, by the window of flow they are for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from coating.flow.windows import WINDOWS
from coating.techniques import TECHNIQUES

# How sentences about such a bowl end: its last button, when it is thick, when it is thin, cool enough to.
_ENDS = {
    "dip": ("All dipped", "the coat will be heavy", "the coat will be slight", "to dip"),
    "drip": ("All dripped", "the drips stay stubby", "they may reach the board", "to drip"),
}
_OTHER = ("All done", "it will be heavy", "it will run", "to use")
_LIKE = {"dip_fruit": "dip", "balls": "dip", "solid_mould": "coarse_mould", "small_face": "flood", "outline": "flood"}


@dataclass(frozen=True)
class Spoken:
    """`this`, `thick`, `thin` and `cool` end sentences about a bowl; `done` is its last button."""

    word: str
    done: str
    thick: str
    thin: str
    cool: str

    @property
    def this(self) -> str:
        """What it is for."""
        return f"this {self.word}"


def _words() -> dict[str, Spoken]:
    by_name: dict[str, str] = {}
    for technique in TECHNIQUES.values():
        if technique.window:
            by_name.setdefault(technique.window, technique.word)
    words = {w.technique: by_name.get(_LIKE.get(w.technique, w.technique), w.title.lower()) for w in WINDOWS}
    return {name: Spoken(word, *_ENDS.get(word, _OTHER)) for name, word in words.items()}


SPOKEN: Mapping[str, Spoken] = _words()
