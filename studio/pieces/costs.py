"""What each piece of a job costs, and what besides coating is wanted for it."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from coating.job import Reckoning
from coating.plan.costs import CUT_LOSS, SHEET_MM2, PieceCost, Poured, Put, Tool, piece_cost
from studio.cupboard.models import Extra
from studio.pieces.adapters import ColourNeed
from studio.pieces.inside import BATCHES, batches_of
from studio.pieces.models import Job, Layer, Piece
from studio.pieces.parts import given, parts_first
from studio.pieces.reckoned import as_core_layer, core_of, counts_of

COUNTED = ("stick", "sheet", "mould")
PACKED = {"stick": "bundle", "sheet": "sheet", "filling": "pot", "icing": "pot", "dust": "pot"}  # else in a box


@dataclass(frozen=True)
class Also:
    """Something besides coating: how much of it (g, or pieces where `counted`; 0: a little), packs, what they
    cost, what it is a part of, and how it is packed."""

    title: str
    amount: float
    counted: bool
    packs: int
    cost: float | None
    of: str = ""
    pack: str = ""

    @property
    def whole(self) -> int:
        """How many, of what is counted."""
        return math.ceil(self.amount - 1e-9)


def also_wanted(job: Job, reckoning: Reckoning) -> list[Also]:
    """Toppings, sticks and sheets by the pack, a little of what dusts, and what fillings are made of."""
    wanted: dict[int, tuple[Extra, float]] = {}
    on_one, counts = _on_one_g(reckoning), counts_of(job)
    for piece in job.pieces.all():
        for la in piece.stack:
            if la.extra is None or la.extra.kind in ("mould", *BATCHES):
                continue
            amount = _on_one(la, on_one) * sum(counts[piece.pk])
            wanted[la.extra.pk] = (la.extra, wanted.get(la.extra.pk, (la.extra, 0.0))[1] + amount)
    lines = [_also(row, amount) for row, amount in wanted.values() if amount > 0]
    dusts = {e.pk: e for piece in job.pieces.all() for la in piece.stack for e in la.also if e.pk not in wanted}
    lines += [
        Also(row.name, 0.0, False, 1 if row.pack else 0, row.price if row.pack else None) for row in dusts.values()
    ]
    for row, batch in batches_of(job, reckoning):
        if not batch.parts:
            lines.append(_also(row, batch.make_g))
        lines += [Also(name, g, False, 0, None, row.name) for name, g in batch.parts]
    return lines


def _also(row: Extra, amount: float) -> Also:
    packs = int(-(-amount // row.pack)) if row.pack else 0
    cost = packs * row.price if packs and row.price else None
    return Also(row.name, amount, row.kind in COUNTED, packs, cost, pack=PACKED.get(row.kind, ""))


def _on_one_g(reckoning: Reckoning) -> dict[str, float]:
    """What every layer puts on one piece, g."""
    grams: dict[str, float] = {}
    for line in reckoning.lines:
        grams[line.layer] = grams.get(line.layer, 0.0) + line.on_one_g
    return grams


def _on_one(layer: Layer, on_one: Mapping[str, float]) -> float:
    """How much of its extra a layer puts on one piece: g, or the part of one."""
    if layer.extra is None:
        return 0.0
    if layer.extra.kind == "sheet":
        planned = as_core_layer(layer).sheets
        return core_of(layer.piece).top_mm2 * CUT_LOSS / SHEET_MM2 if planned is None else planned
    if layer.extra.kind in COUNTED:
        return 1.0
    return on_one.get(str(layer.pk), 0.0)


def costs_of(
    job: Job, reckoning: Reckoning, needs: Sequence[ColourNeed], per_g: Mapping[str, float | None]
) -> list[tuple[Piece, PieceCost]]:
    """Every piece that is given away with what it costs, with all that goes on it; `per_g` : what a g from each bowl
    costs, by the key of its need."""
    by_layer: dict[int, list[tuple[ColourNeed, float]]] = {}
    for need in needs:
        for part, layer_g in need.grams():
            by_layer.setdefault(part.pk, []).append((need, layer_g))
    on_one, counts, of = _on_one_g(reckoning), counts_of(job), dict[int, PieceCost]()
    for piece in parts_first(job):
        poured, put, tools = [], list[Put](), list[Tool]()
        for la in piece.stack:
            for need, layer_g in by_layer.get(la.pk, []):
                poured.append(Poured(need.name, layer_g, need.goes_on_g, need.reckoned.lost_g, per_g.get(need.key)))
            if la.extra and la.extra.kind == "mould":
                row = la.extra
                tools.append(Tool(row.name, row.price, row.uses or 50, row.cavities or 1))
            elif la.extra:
                amount = _on_one(la, on_one)
                each = la.extra.price / la.extra.pack if la.extra.price and la.extra.pack else None
                if amount:
                    put.append(Put(la.extra.name, amount, each))
        count, spares = counts[piece.pk]
        if count:
            cost = piece_cost(count, poured, put, tools)
            for la in piece.stack:  # on its spares too, which those pay that are given away
                if la.part_id in of:
                    cost = cost.with_part(of[la.part_id], as_core_layer(la).count * (count + spares) / count)
            of[piece.pk] = cost
    return [(piece, of[piece.pk]) for piece in given(job)]
