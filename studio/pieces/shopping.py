"""What a job wants from the cupboard, what is short, what to buy and what it costs; as a page, as text and as CSV."""

from __future__ import annotations

import csv
import io
from dataclasses import replace
from typing import Any

from django.http import Http404, HttpResponse
from django.shortcuts import render

from coating.colour.mixing import Part
from coating.job.ranges import money_range
from coating.plan.choices import price_per_g
from coating.plan.proposal import Cupboard, Wish, bases_for, first_fill
from coating.plan.shopping import Item, Pack, instead_of, shopping, total_cost
from studio.common.pages import page_of
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.sheets import harmless
from studio.common.templatetags.kitchen import mass
from studio.common.types import Context
from studio.cupboard.adapters import bag_g
from studio.cupboard.asks import left_g, with_rests
from studio.cupboard.stock import Stock
from studio.pieces.adapters import ColourNeed, colour_needs
from studio.pieces.costs import also_wanted, costs_of
from studio.pieces.empty import empty_room
from studio.pieces.known import known_to
from studio.pieces.models import Job
from studio.pieces.reckoned import reckoned
from studio.pieces.says import shopping_says
from studio.pieces.shelves import by_shelf
from studio.pieces.shopping_lines import ShoppingLine

ENOUGH_G = 1e6  # of what is there without a word of how much: nothing of it is short
KINDS = {"txt": "text/plain", "csv": "text/csv"}


def _fat(need: ColourNeed) -> tuple[Part, ...]:
    """All the fat that a bowl and what is taken out of it want."""
    bowl = need.reckoned
    return (Part(bowl.thinner, bowl.thinner_g),) if bowl.thinner and bowl.thinner_g > 0 else ()


def _begun(need: ColourNeed, cupboard: Cupboard) -> tuple[Part, ...]:
    """What a bowl for a need is made of: as it was reckoned, or with what is left of one before where that does."""
    bowl, lab = need.reckoned, need.colour.lab if need.colour else None
    if not cupboard.rests or bowl.base or not bowl.parts:
        return bowl.parts
    return first_fill(Wish(lab, None, need.white, need.melt_g, kept=bowl.recipe), cupboard).parts


def _list(request: KitchenRequest, job: Job) -> Context:
    stock, parts = Stock.of(request.kitchen), list[Part]()
    questions: dict[str, tuple[ColourNeed, Cupboard]] = {}
    beyond, per_g, begun = [], dict[str, float | None](), set[str]()
    reckoning, known = reckoned(job, request.kitchen), known_to(job, request.kitchen)
    needs = colour_needs(job, request.kitchen, reckoning)
    for need in needs:
        cupboard = with_rests(
            stock.cupboard(need.white, request.kitchen, factors=known), need.white, request.kitchen, stock
        )
        cupboard = replace(cupboard, rests=tuple(r for r in cupboard.rests if r.ingredient.name not in begun))
        if not need.reckoned.parts:
            beyond += [f"{need.name}: {caution}" for caution in need.reckoned.cautions]
            continue
        filling = _begun(need, cupboard)
        begun |= {p.ingredient.name for p in filling} & {r.ingredient.name for r in cupboard.rests}
        stirred = (*filling, *_fat(need))
        per_g[need.key] = price_per_g(stirred, stock.prices)
        if need.bowl is not None:
            continue  # it is made already
        for part in stirred:
            parts.append(part)
            questions.setdefault(part.ingredient.name, (need, cupboard))
    rows = {r.code: r for r in stock.rows}
    said = left_g(request.kitchen, stock)
    there = {
        name: "said" if name in said else "ticked" if rows[name].ticked else "none"
        for name in {p.ingredient.name for p in parts}
    }
    have = {name: said.get(name, ENOUGH_G if there[name] == "ticked" else 0.0) for name in there}
    packs = {name: Pack(bag_g(rows[name]), _price(rows[name])) for name in have if _sold(rows[name])}
    items = shopping(parts, have, packs)
    lines = [_line(item, there[item.ingredient.name], questions) for item in items]
    short = [line for line in lines if line.item.short_g > 0]
    costs, also = costs_of(job, reckoning, needs, per_g), also_wanted(job, reckoning)
    return {
        "job": job,
        "lines": lines,
        "short": short,
        "cost": total_cost(i.item for i in short),
        "beyond": beyond,
        "cost_in_all": sum(cost.total * piece.count for piece, cost in costs),
        "cost_likely": money_range(
            [(c.coating * piece.count, (c.total - c.coating) * piece.count) for piece, c in costs],
            reckoning.lines,
            known,
        ),
        "says": shopping_says(
            [line.item.ingredient.title for line in short], sum(line.there == "ticked" for line in lines), len(lines)
        ),
        "also": also,
        "shelves": by_shelf(lines, also),
        "room": "shopping",
        "costs": costs,
    }


def _sold(row: Any) -> bool:
    return row.kind == "base" or "bag_g" in row.current()


def _price(row: Any) -> float | None:
    price = row.current().get("pack_price")
    return price.value if price else None


def _line(item: Item, there: str, questions: dict[str, tuple[ColourNeed, Cupboard]]) -> ShoppingLine:
    """What is short comes with what does the same: solved anew for the colour, and then for the flow."""
    need, cupboard = questions[item.ingredient.name]
    if item.short_g <= 0:
        return ShoppingLine(item, there)
    if item.ingredient.kind == "fat":
        return ShoppingLine(item, there, fat=_other_fat(item, cupboard))
    if need.colour is None:
        return ShoppingLine(item, there)
    bases = bases_for(Wish(need.colour.lab, None, need.white, need.melt_g), cupboard)
    instead = instead_of(item.ingredient.name, need.colour.lab, bases, cupboard.colourants, need.melt_g)
    if not instead or not instead.reachable:
        return ShoppingLine(item, there, need.colour.name)
    return ShoppingLine(item, there, need.colour.name, instead, _fat(need))


def _other_fat(item: Item, cupboard: Cupboard) -> tuple[Part, ...]:
    """As much of another fat of the same family that is there: a g of fat thins as much as any other."""
    other = next(
        (f for f in cupboard.fats if f.name != item.ingredient.name and f.family == item.ingredient.family), None
    )
    return (Part(other, item.wanted_g),) if other else ()


@kitchen_required
def shopping_page(request: KitchenRequest, pk: int) -> HttpResponse:
    """The list, what is short first."""
    job = Job.objects.whole(request.kitchen, pk)
    if empty := empty_room(request, job, "shopping"):
        return empty
    context = _list(request, job)
    context["costs"] = page_of(request, context["costs"], word="pieces")
    return render(request, "pieces/shopping.html", context)


@kitchen_required
def shopping_file(request: KitchenRequest, pk: int, suffix: str) -> HttpResponse:
    """The same to take along."""
    if suffix not in KINDS:
        raise Http404("no such format")
    job = Job.objects.whole(request.kitchen, pk)
    context = _list(request, job)
    lines, also = context["lines"], context["also"]
    out = io.StringIO()
    if suffix == "csv":
        writer = csv.writer(out)
        writer.writerow(["what", "wanted g", "there g", "short g", "packs", "cost"])
        for line in lines:
            i = line.item
            there = f"{i.have_g:.1f}" if line.there == "said" else "?" if line.there == "ticked" else "0.0"
            cost = "" if i.cost is None else f"{i.cost:.2f}"
            writer.writerow(
                [harmless(i.ingredient.title), f"{i.wanted_g:.1f}", there, f"{i.short_g:.1f}", i.packs, cost]
            )
        for thing in also:
            wanted = f"{thing.amount:.0f} pieces" if thing.counted else f"{thing.amount:.1f}" if thing.amount else ""
            writer.writerow([harmless(thing.title), wanted, "", "", thing.packs or "", ""])
    else:
        out.write(f"{job.name}\n\n")
        for line in lines:
            box = "[ ]" if line.item.short_g > 0 else "[?]" if line.there == "ticked" else "[x]"
            doubt = " (is there so much?)" if line.there == "ticked" else ""
            out.write(f"{box} {line.item.ingredient.title}: {line.wanted_says}{doubt}\n")
        for thing in also:
            amount = f"{thing.amount:.0f}" if thing.counted else mass(thing.amount) if thing.amount else "a little"
            out.write(f"[ ] {thing.title}: {amount}{f' for {thing.of.lower()}' if thing.of else ''}\n")
    response = HttpResponse(out.getvalue(), content_type=f"{KINDS[suffix]}; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="shopping.{suffix}"'
    return response
