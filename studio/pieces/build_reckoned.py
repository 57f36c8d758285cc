"""What the builder's form says: a piece to keep, what it takes with all that goes on it, and what would go wrong."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from coating.job import Reckoning
from coating.stack.order import Mistake, mistakes
from studio.common.templatetags.kitchen import goes_on, how_much
from studio.common.types import Context, Json
from studio.cupboard.tones import PLAIN, WHITES
from studio.pieces.adapters import cautions_told
from studio.pieces.build_form import BuildForm
from studio.pieces.models import Piece
from studio.pieces.parts import carried, doubts_of, pictured
from studio.pieces.pictures import Pictured
from studio.pieces.reckoned import keys_of, reckoned_plans
from studio.pieces.says import PICK, build_says, joint_says
from studio.pieces.stacks import LayerPlan, PiecePlan, in_colours, with_drawings


def plan_of_form(form: BuildForm) -> PiecePlan:
    """The (valid) form as a piece to keep."""
    data = form.cleaned_data
    layers = []
    for i, name in enumerate(form.names):
        tone = data.get(f"{i}-colour") or PLAIN
        white = tone.white(data.get(f"{i}-white") or "coating")
        layers.append(LayerPlan(name, white, tone.colour, form.extra(i), form.parameters(i), tone.base, form.part(i)))
    plan = PiecePlan(
        data["name"],
        data["count"],
        form.kind,
        tuple(form.size_mm()),
        tuple(layers),
        data.get("spares"),
        contains=form.contents(),
    )
    piece = Piece.objects.for_kitchen(form.kitchen).filter(pk=data["piece"]).first() if data.get("piece") else None
    return with_drawings(plan, piece) if piece else plan


def _says(
    plan: PiecePlan, wrong: Sequence[Mistake], reckoning: Reckoning, *, count: int, variants: int, spares: int
) -> str:
    """The headline: what is wrong, or what it comes to."""
    if not plan.layers:
        return PICK
    if wrong:
        return wrong[0].why
    white, on_g = plan.layers[0].white, sum(bowl.made_g for bowl in reckoning.bowls)
    melt = how_much(reckoning.melt_g, white)
    return build_says(count, variants, spares, len(reckoning.bowls), goes_on(on_g, white), melt)


def reckon_form(form: BuildForm) -> Context:
    """What the (valid) form takes and what would go wrong: as the job would say it with this piece and its parts alone.
    Raises CoatingError."""
    plan = plan_of_form(form)
    core, stack, data = plan.core, plan.core_layers(), form.cleaned_data
    also = form.also_colours()
    made = in_colours(plan, also) if also else [plan]
    parts = {pk: part for pk, part in carried(plan.layers).items() if pk != data.get("piece")}
    reckoning = reckoned_plans(
        [replace(p, count=p.count + form.carried) for p in made],
        form.kitchen,
        form.job,
        parts.values(),
        pk=data.get("piece"),
    )
    whole = pictured(plan.layers, stack, form.kind, core)
    wrong: list[Mistake] = [*mistakes(core, stack), *doubts_of(plan.layers, stack, form.kind, core)]
    rows = [la for part in parts.values() for whole_row in part.stack for la in whole_row.in_colours]
    every: list[Any] = [*rows, *(la for p in made for la in p.layers)]
    tones = {keys_of(la.tone): la.tone for la in every}
    needs = [(tones.get((bowl.colour, bowl.base), PLAIN), bowl) for bowl in reckoning.bowls]
    own = [spares for name, (_, spares) in reckoning.counts.items() if name not in map(str, parts)]
    return {
        "says": _says(plan, wrong, reckoning, count=plan.count + form.carried, variants=len(made), spares=sum(own)),
        "core": core,
        "core_kind": form.kind,
        "drawn": _drawn(plan, whole, reckoning),
        "wrong": wrong,
        "spares": sum(own),
        "needs": needs,
        "picture": whole,
        "variants": len(made),
        "cautions": cautions_told(reckoning, {bowl.key: tone.name for tone, bowl in needs}),
        "mendable": any(m.reorder for m in wrong),
        "count": data["count"] + form.carried,
        "name": data["name"],
        "melt_g": reckoning.melt_g,
        "on_g": sum(bowl.made_g for _, bowl in needs),
        "parts": [(part, reckoning.counts[str(part.pk)]) for part in parts.values()],
        "result": {"melt_g": reckoning.melt_g, "spares": sum(own), "wrong": [m.place for m in wrong]},
    }


def _drawn(plan: PiecePlan, whole: Pictured, reckoning: Reckoning) -> list[Json]:
    """Every layer with what it puts on one piece, and its picture."""
    whites, one_g = dict(WHITES), dict[str, float]()
    for line in reckoning.lines:
        one_g[line.layer] = one_g.get(line.layer, 0.0) + line.on_one_g
    lines = []
    for i, (layer, kept) in enumerate(zip(whole.layers, plan.layers, strict=True)):
        parts = {0: whole.parts[i]} if i in whole.parts else {}
        own = Pictured(whole.kind, whole.core, (layer,), (whole.labs[i],), parts)
        title = kept.part.name if kept.part else layer.kind.title
        lines.append(
            {
                "place": i,
                "layer": layer,
                "plan": kept,
                "white": whites[kept.white],
                "picture": own,
                "joint": joint_says(layer) if kept.part else "",
                "title": title,
                "one_g": one_g.get(f"0.{i}", 0.0),
            }
        )
    return lines
