"""A job as one file, out and into another kitchen; and a piece kept as a template, which is the same for one piece.

{"kind", "v": 1, "job": {"name", "note", "due_on", "made_on", "little_ones"}, "colours": [{"name", "lab",
"note"}], "bags": [...], "extras": [...], "families": [{"name", "kind", "count"}], "pieces": [{"name", "count",
"spares", "core", "size", "contains", "family", "share", "box", "layers": [{"technique", "white", "colour", "base",
"extra", "part", "parameters", "apart", "design"}]}]}; a design is {"kind", "name", "asked", "colours": {field:
colour}, "bags": {field: bag}}. Colours, bags, extras and parts are named by their place in their
lists.
"""

from __future__ import annotations

import json
from collections.abc import Iterable
from typing import Any

from coating.techniques.measures import DENSITY
from studio.colours.models import Colour
from studio.common.types import Json
from studio.cupboard.models import Extra, Ingredient
from studio.pieces.carried_bags import bag_json
from studio.pieces.models import Job, Piece
from studio.pieces.parts import carried
from studio.pieces.stacks import SIZE_VERSION, PiecePlan, plan_of

KIND = "olive-ribbon-job"
EXTRA_FIELDS = (
    "kind",
    "name",
    "each_g",
    "allergens",
    "edible",
    "keeps_days",
    "cold",
    "small",
    "comes_out",
    "parts",
    "taste",
)


class _Lists:
    """Colours, bags and extras, each once, by their place."""

    def __init__(self) -> None:
        self.colours: dict[int, Colour] = {}
        self.bags: dict[int, Ingredient] = {}
        self.extras: dict[int, Extra] = {}
        self.parts: dict[int, Piece] = {}

    def place(self, row: Any, among: dict[int, Any]) -> int | None:
        if row is None:
            return None
        among.setdefault(row.pk, row)
        return list(among).index(row.pk)

    def layer(self, la: Any) -> Json:
        return {
            "technique": la.technique,
            "white": la.white,
            "colour": self.place(la.colour, self.colours),
            "base": self.place(la.base, self.bags),
            "extra": self.place(la.extra, self.extras),
            "part": self.place(la.part, self.parts),
            "parameters": _parameters(la.parameters),
            "apart": getattr(la, "apart", 0),
            **self.design(la),
        }

    def design(self, la: Any) -> Json:
        """What was asked of its design, its further colours and bags by their places; it is drawn anew where it
        arrives."""
        design = getattr(la, "design", None)
        if not design:
            return {}
        tones = design.tones
        colours = {name: self.place(tone.colour, self.colours) for name, tone in tones.items() if not tone.base}
        bags = {name: self.place(tone.base, self.bags) for name, tone in tones.items() if tone.base}
        return {
            "design": {
                "kind": design.kind,
                "name": design.name,
                "colours": colours,
                "bags": bags,
                "asked": {n: v for n, v in design.asked.items() if n not in tones},
            }
        }

    def told(self) -> Json:
        return {
            "colours": [{"name": c.name, "lab": list(c.lab), "note": c.note} for c in self.colours.values()],
            "bags": [bag_json(row) for row in self.bags.values()],
            "extras": [{name: getattr(e, name) for name in EXTRA_FIELDS} for e in self.extras.values()],
        }


def _parameters(parameters: Json) -> Json:
    """What was said of a layer; what its design drew goes as grams, for where it cannot be drawn anew."""
    values = {k: v for k, v in parameters.items() if k not in ("also", "others", "drawn")}
    drawn_ml = parameters.get("drawn", {}).get("ml")
    return values if drawn_ml is None else {**values, "goes_on_g": round(drawn_ml * DENSITY / 1000, 3)}


def job_text(job: Job) -> str:
    """A job with prefetched pieces, layers, colours and extras as its file."""
    return json.dumps(job_json(job), indent=1, ensure_ascii=False)


def job_json(job: Job) -> Json:
    """What its file says, before it is written."""
    lists, families, boxes = _Lists(), list(job.families.all()), job.boxes.get("by", {})
    lists.parts = {p.pk: p for p in job.pieces.all()}
    places = {f.pk: i for i, f in enumerate(families)}
    pieces = [
        {
            "name": p.name,
            "count": p.count,
            "spares": p.spares,
            "core": p.core,
            "size": p.size,
            "share": p.share,
            "contains": p.contains,
            "family": places.get(p.family_id or 0),
            "box": boxes.get(str(p.pk)),
            "layers": [lists.layer(la) for la in p.stack],
        }
        for p in job.pieces.all()
    ]
    days = {n: d.isoformat() if d else None for n, d in (("due_on", job.due_on), ("made_on", job.made_on))}
    return {
        "kind": KIND,
        "v": 1,
        "job": {"name": job.name, "note": job.note, "little_ones": job.little_ones, **days},
        **lists.told(),
        "pieces": pieces,
        "mixed": _mixed_out(job, list(lists.parts)),
        "families": [{"name": f.name, "kind": f.kind, "count": f.count} for f in families],
    }


def _mixed_out(job: Job, places: list[int]) -> list[Json]:
    """Mixed boxes, with their pieces by their places."""
    return [
        {**choice, "of": {str(places.index(int(pk))): many for pk, many in choice["of"].items()}}
        for choice in job.boxes.get("mixed", [])
        if all(int(pk) in places for pk in choice["of"])
    ]


def piece_json(plan: PiecePlan) -> Json:
    """A piece as a template keeps it."""
    lists = _Lists()
    parts = carried(plan.layers)
    lists.parts = dict(parts)

    def told(of: PiecePlan, rows: Iterable[Any]) -> Json:
        size = {"v": SIZE_VERSION, "mm": list(of.size_mm)}
        return {
            "name": of.name,
            "count": of.count,
            "core": of.kind.name,
            "contains": of.contains,
            "size": size,
            "layers": [lists.layer(la) for la in rows],
        }

    pieces = [told(plan_of(part), part.stack) for part in parts.values()]
    return {"v": 1, "piece": told(plan, plan.layers), "parts": pieces, **lists.told()}
