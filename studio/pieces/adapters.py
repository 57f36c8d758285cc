"""Pieces and layers become needs and quantities."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from coating.care.allergens import Contents, Thing, contents_of_each
from coating.job import Bowl as ReckonedBowl
from coating.job import Portion, Reckoning
from coating.piece.kinds import KINDS
from coating.techniques import technique
from studio.accounts.models import Kitchen
from studio.colours.models import Colour
from studio.common.words import listed, lower
from studio.cupboard.models import EATEN, Ingredient
from studio.cupboard.tones import WHITES, Tone
from studio.pieces.asks import poured_into
from studio.pieces.models import Job, Layer, Piece, Pour
from studio.pieces.parts import given, with_parts
from studio.pieces.reckoned import keys_of, reckoned, window_of


@dataclass(frozen=True)
class ColourNeed:
    """What is melted at once in a job, as it was reckoned: one colour, or one bag as bought, of one white; the layers
    made from it as far as they are of that, and its bowl where one was begun."""

    tone: Tone
    reckoned: ReckonedBowl
    pours: tuple[Pour, ...]
    bowl: Any  # the one that was begun for it, or None

    @property
    def key(self) -> str:
        """Which one it is among those of its job."""
        return self.reckoned.key

    @property
    def white(self) -> str:
        """Which white it is melted from."""
        return self.reckoned.white

    @property
    def technique(self) -> str:
        """The window most of it is made at."""
        return self.reckoned.window

    @property
    def colour(self) -> Colour | None:
        """The colour that is made for it, if one is."""
        return self.tone.colour

    @property
    def apart(self) -> int:
        """A number above 0 where it was split off."""
        return 0 if self.is_second else self.layers[0].apart

    @property
    def is_second(self) -> bool:
        """Whether only designs bring this colour to layers of another: such a bowl is neither joined nor split."""
        return all(pour.second for pour in self.pours)

    @property
    def layers(self) -> list[Layer]:
        """The layers that something of it goes into."""
        return [pour.layer for pour in self.pours]

    @property
    def melt_g(self) -> float:
        """What to melt."""
        return self.reckoned.melt_g

    @property
    def goes_on_g(self) -> float:
        """What ends up on the pieces, spares too."""
        return self.reckoned.made_g

    @property
    def name(self) -> str:
        """What its bowl is called: the colour or the bag, with a number where it was split off."""
        return f"{self.tone.name} {self.apart + 1}" if self.apart else self.tone.name

    @property
    def white_name(self) -> str:
        """What makers call that white."""
        return dict(WHITES)[self.white]

    @property
    def portions(self) -> list[tuple[Portion, str]]:
        """What is taken out and thinned, each with what it is for."""
        words = {str(la.pk): technique(la.technique).title.lower() for la in self.layers}
        return [
            (p, listed(list(dict.fromkeys(words[name] for name in p.layers if name in words))))
            for p in self.reckoned.portions
        ]

    def grams(self) -> list[tuple[Layer, float]]:
        """Its layers, each once, with what each takes for all its pieces."""
        made_g: dict[str, float] = {}
        for line in self.reckoned.lines:
            made_g[line.layer] = made_g.get(line.layer, 0.0) + line.made_g
        return [(la, made_g.get(str(la.pk), 0.0)) for la in self.layers]


def tones_of(job: Job) -> list[Tone]:
    """What the layers of a job are of, each once, from prefetched layers."""
    return list({la.tone.key: la.tone for piece in job.pieces.all() for la in piece.stack}.values())


def colour_needs(job: Job, kitchen: Kitchen, reckoning: Reckoning | None = None) -> list[ColourNeed]:
    """What is melted for a job, bowl by bowl, from prefetched pieces and layers, and its reckoning where there is one
    already. A layer in several colours is in as many. Raises CoatingError."""
    pours: dict[tuple[str, str, str], Pour] = {}
    for piece in job.pieces.all():
        for pour in (pour for layer in piece.stack for pour in layer.in_colours):
            pours[str(pour.layer.pk), *keys_of(pour.tone)] = pour
    needs = []
    for bowl in (reckoning or reckoned(job, kitchen)).bowls:
        mine = tuple(pours[key] for key in dict.fromkeys((la.layer, la.colour, la.base) for la in bowl.lines))
        needs.append(ColourNeed(mine[0].tone, bowl, mine, _open_bowl(mine)))
    return needs


def cautions_told(reckoning: Reckoning, names: Mapping[str, str]) -> list[str]:
    """What has to be said of a job, of its bowls by their names."""
    sentences = [f"{names.get(b.key, 'Plain')}: {lower(caution)}" for b in reckoning.bowls for caution in b.cautions]
    return [*reckoning.cautions, *dict.fromkeys(sentences)]


def labels_of(job: Job, rows: Iterable[Ingredient]) -> dict[int, Contents]:
    """What each piece contains with all that goes on it, by its id, and may contain from the others of the job, from
    prefetched pieces."""
    known = list(rows)
    bases = sorted((r for r in known if r.kind == "base" and r.stocked), key=lambda r: r.sort != "white")
    poured = _poured(job, {r.pk: r for r in known})
    things = {piece.pk: _things(piece, bases, poured) for piece in job.pieces.all()}
    return contents_of_each(
        {piece.pk: [thing for part in with_parts(piece) for thing in things[part.pk]] for piece in given(job)}
    )


def _poured(job: Job, rows: dict[int, Ingredient]) -> dict[int, list[Ingredient]]:
    """What really went into the bowls of a job, by bowl: it is in every piece they coat, remelted or not."""
    by_layer: dict[int, list[Ingredient]] = {}
    for bowl_id, ingredient_id in poured_into(job):
        row = rows.get(ingredient_id)
        if row and row not in by_layer.setdefault(bowl_id, []):
            by_layer[bowl_id].append(row)
    return by_layer


def _things(piece: Piece, bases: list[Ingredient], poured: dict[int, list[Ingredient]]) -> list[Thing]:
    """The core, what its layers are of, and what is in their bowls, or the base that would go in, with allergens."""
    core = KINDS.get(piece.core)
    said = piece.contains if piece.contains is not None else core.allergens if core else None
    things: list[Thing] = [(core.title, said)] if core else []
    for layer in piece.stack:
        things += [(e.name, e.allergens if e.kind in EATEN else []) for e in (layer.extra, *layer.also) if e]
        if not window_of(layer):
            continue
        inside = [row for use in layer.poured for row in poured.get(use.bowl_id, ())]
        if not any(row.kind == "base" for row in inside):
            family = "palm" if layer.white == "coating" else "cocoa"
            likely = [layer.base] if layer.base else [b for b in bases if b.family == family][:1]
            inside = [*inside, *likely]
        things += [(row.name, list(row.allergens)) for row in inside]
    return things


def _open_bowl(pours: Iterable[Pour]) -> Any:
    bowls = [use.bowl for p in pours for use in p.layer.poured if p.only or use.bowl.is_of(p.tone)]
    return next((b for b in bowls if b.finished_at is None), bowls[-1] if bowls else None)
