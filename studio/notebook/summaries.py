"""What bowls came to, each worked out once and kept until it has more events."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from coating.colour.fitting import stronger
from coating.colour.mixing import Part, merge, mix
from coating.errors import CoatingError
from coating.evening import Came, Taken, came_of
from studio.accounts.models import Kitchen
from studio.bowls.adapters import Desk
from studio.bowls.left import is_a_rest
from studio.bowls.models import Bowl, BowlEvent
from studio.bowls.settled import fetch_events
from studio.common.types import Json
from studio.cupboard.stock import Stock
from studio.notebook.models import BowlSummary


def summaries_of(kitchen: Kitchen, bowls: Iterable[Bowl], stock: Stock) -> dict[int, BowlSummary]:
    """Of some bowls with their colours what each came to, by its number; those that are not known yet are worked
    out."""
    by_id = {bowl.pk: bowl for bowl in bowls}
    rows = {row.bowl_id: row for row in BowlSummary.objects.filter(bowl__in=by_id)}
    known = {pk: row for pk, row in rows.items() if row.seq == by_id[pk].last_seq}
    new = [by_id[pk] for pk in by_id if pk not in known]
    return known | _kept([_worked_out(desk) for desk in _desks(kitchen, new, stock)])


def _desks(kitchen: Kitchen, bowls: Sequence[Bowl], stock: Stock) -> list[Desk]:
    desks = [Desk.of(bowl, kitchen, stock=stock) for bowl in bowls]
    fetch_events(desks)
    return desks


def _kept(rows: list[BowlSummary]) -> dict[int, BowlSummary]:
    """Keep them, over what was known before."""
    if rows:
        fields = [f.name for f in BowlSummary._meta.concrete_fields if f.name not in ("id", "bowl", "kitchen")]
        BowlSummary.objects.bulk_create(rows, update_conflicts=True, update_fields=fields)
    return {row.bowl_id: row for row in rows}


def _worked_out(desk: Desk) -> BowlSummary:
    """What a bowl came to, from its events."""
    parts, came, state = parts_of(desk), came_to(desk), desk.now
    own = stronger(tuple(part for _, part in parts), dict(state.strengths))
    looked = max((e.seq for e in desk.events if e.kind == "read"), default=0)
    put_in = max((e.seq for e in desk.events if e.parts), default=0)
    try:
        lab = state.reading if looked > put_in else mix(own).lab() if own else None
    except CoatingError:
        lab = None
    lightness, a, b = lab or (None, None, None)
    return BowlSummary(
        kitchen=desk.kitchen,
        bowl=desk.bowl,
        seq=desk.bowl.last_seq,
        lightness=lightness,
        a=a,
        b=b,
        melted_g=came.melted_g,
        on_pieces_g=came.on_pieces_g,
        given_g=came.given_g,
        lost_g=came.lost_g,
        left_g=came.left_g,
        parts={
            "v": 1,
            "look": _look(desk),
            "rest": next((row.payload["rest"] for row in desk.rows if _counts(row) and row.payload.get("rest")), ""),
            "of": [{"id": pk, "mass_g": round(part.mass_g, 3)} for pk, part in parts],
        },
    )


def _look(desk: Desk) -> Json | None:
    """The last look at its colour: a word, where it was by eye; None where nobody looked."""
    looks = [row.payload for row in desk.rows if row.kind == "read" and row.struck_by_id is None]
    if not looks:
        return None
    return {"word": looks[-1].get("word", ""), "much": bool(looks[-1].get("much"))}


def parts_of(desk: Desk) -> list[tuple[int, Part]]:
    """All that went into a bowl and was not struck out, each ingredient once, with its number."""
    ids = {desk.stock.cores[row.pk].name: row.pk for row in desk.stock.rows}
    parts = merge(tuple(part for event in desk.events for part in event.parts))
    return [(ids[part.ingredient.name], part) for part in parts if part.ingredient.name in ids]


def came_to(desk: Desk) -> Came:
    """Where it all went."""
    put_in_g = sum(part.mass_g for event in desk.events for part in event.parts)
    return came_of(put_in_g, [_taken(row) for row in desk.rows if _counts(row)])


def _counts(row: BowlEvent) -> bool:
    return row.struck_by_id is None and row.kind in ("used", "split")


def _taken(row: BowlEvent) -> Taken:
    said = row.payload
    return Taken(said["mass_g"], said.get("lost_g", 0.0), given=row.kind == "split")


def came(summary: BowlSummary) -> Came:
    """As the core has it."""
    return Came(summary.melted_g, summary.on_pieces_g, summary.given_g, summary.lost_g, summary.left_g)


def kept_parts_of(summary: BowlSummary, stock: Stock) -> list[Part]:
    """What went in, of what the cupboard still knows."""
    return [Part(stock.cores[p["id"]], p["mass_g"]) for p in summary.parts["of"] if p["id"] in stock.cores]


def rests_g(parts: Sequence[Part]) -> float:
    """How much of it was left of bowls before, g."""
    return sum(p.mass_g for p in parts if is_a_rest(p.ingredient.name))


def cost_of(parts: Sequence[Part], stock: Stock) -> float | None:
    """What it cost, by the packs that were said; None where a coating in it has no price."""
    prices = stock.prices
    if not parts or any(p.ingredient.is_base and p.ingredient.name not in prices for p in parts):
        return None
    return sum(prices.get(p.ingredient.name, 0.0) * p.mass_g for p in parts)
