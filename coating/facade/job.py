"""job.reckon."""

from __future__ import annotations

from typing import Any

from coating.errors import OutOfBounds, UnknownName, WrongShape
from coating.facade.fields import LAB, Choice, Flag, ListOf, Named, Number, Record, Text, Vector
from coating.facade.learned import FACTORS
from coating.facade.parts import INGREDIENT, PART, part_from, part_out
from coating.facade.registry import Entry
from coating.flow.thinning import THINNERS
from coating.heat.melting import white_as_bought
from coating.heat.schools import SCHOOLS
from coating.job import Joint, Kitchen, Mould, Piece, Reckoning, Shelf, Tone, Wanted, reckon
from coating.job.kitchen import VESSELS_MM
from coating.job.ranges import goes_on_range, hands_range, wait_range
from coating.learning.factors import NOTHING, Factors
from coating.piece.kinds import KINDS, kind_of_core
from coating.quantities import Measures
from coating.stack.layers import Layer
from coating.stock.ingredients import DEMO_INGREDIENTS, demo_ingredient
from coating.techniques import TECHNIQUES

WHITES, PLACES = ("coating", "tempered", "untempered"), ("room", "fridge", "freezer")


def _fields() -> dict[str, Any]:
    """What layers can be told, by all techniques together."""
    fields: dict[str, Any] = {
        "share": Number("share", None),
        "area_mm2": Number("area_mm2", None),
        "goes_on_g": Number("mass_g", None),
    }
    for technique in TECHNIQUES.values():
        for field in technique.fields:
            if field.name == "flooded":
                fields["flooded"] = Flag(None)
            elif field.typed == "text":
                fields[field.name] = Text(None, 80)
            elif field.typed == "pills" and field.name != "share":
                fields[field.name] = Choice(tuple(c for c, _ in field.choices), None)
            elif field.typed != "pills":
                fields[field.name] = Number(field.bound, None, whole=field.typed == "count")
    return fields


LAYER = Record(
    {
        "id": Text(),
        "technique": Choice(tuple(TECHNIQUES)),
        "colour": Text(""),
        "base": Choice(tuple(DEMO_INGREDIENTS), None),
        "white": Choice(WHITES, None),
        **_fields(),
    }
)
PIECE = Record(
    {
        "id": Text(),
        "core": Choice(tuple(KINDS)),
        "size_mm": ListOf(Number("core_mm"), None, most=3),
        "count": Number("count_or_none", whole=True),
        "spares": Number("spares", None, whole=True),
        "layers": ListOf(LAYER, [], most=40),
    }
)
JOINT = Record(
    {
        "part": Text(),
        "on": Text(),
        "each": Number("count", 1.0, whole=True),
        "placed": Choice(("wet", "half_set", "set", "glued", "inside"), "glued"),
        "glue_g": Number("mass_g", None),
    }
)
MOULD = Record(
    {
        "core": Choice(tuple(KINDS)),
        "size_mm": ListOf(Number("core_mm"), most=3),
        "cavities": Number("cavities", whole=True),
        "count": Number("cavities", 1.0, whole=True),
    }
)
KITCHEN = Record(
    {
        "measure": Choice(("scale", "spoons"), "scale"),
        "school": Choice(tuple(SCHOOLS), "half_power"),
        "oven_w": Number("oven_w", 800.0),
        "room_c": Number("room_c", 21.0),
        "humidity": Number("humidity", 0.6),
        "cold": Choice(PLACES, "room"),
        "vessels_mm": ListOf(Number("core_mm"), None, most=20),
        "moulds": ListOf(MOULD, [], most=60),
        "stand_places": Number("places", 0.0, whole=True),
        "places": Record(
            {"fridge": Number("places", None, whole=True), "freezer": Number("places", None, whole=True)}, {}
        ),
        "hands": Number("helpers", 1.0, whole=True),
        "factors": FACTORS,
    },
    {},
)
SHELF = Record(
    {
        "bases": ListOf(INGREDIENT, ["bright", "ivory"], most=20),
        "colourants": ListOf(INGREDIENT, [], most=40),
        "thinner": Choice(THINNERS, None),
    },
    {},
)
COLOUR = Record({"lab": Vector(LAB, None), "parts": ListOf(PART, None, most=20), "grams": Number("mass_g", None)})


def _shelf(given: dict[str, Any]) -> Shelf:
    bases, colourants = given.get("bases", ["bright", "ivory"]), given.get("colourants", [])
    for i, name in enumerate(bases):
        if not demo_ingredient(name).is_base:
            raise WrongShape(f"{demo_ingredient(name).title} is not a base.", field=f"shelf.bases[{i}]")
    for i, name in enumerate(colourants):
        if not demo_ingredient(name).is_colourant:
            raise WrongShape(f"{demo_ingredient(name).title} is not a colour.", field=f"shelf.colourants[{i}]")
    palm = demo_ingredient((given.get("thinner") or "palm flakes").replace(" ", "_"))
    thinners = {"palm": palm, "cocoa": palm if palm.family == "cocoa" else demo_ingredient("cocoa_butter")}
    bags = tuple(i for i in DEMO_INGREDIENTS.values() if i.is_base)
    named, colours = (tuple(map(demo_ingredient, dict.fromkeys(names))) for names in (bases, colourants))
    return Shelf(named, colours, thinners, bags=bags)


def _kitchen(given: dict[str, Any]) -> Kitchen:
    if not given:
        return Kitchen()
    moulds = tuple(Mould(m["core"], tuple(m["size_mm"]), int(m["cavities"]), int(m["count"])) for m in given["moulds"])
    places = {name: int(many) for name, many in given["places"].items() if many is not None}
    return Kitchen(
        Measures(has_scale=given["measure"] == "scale"),
        given["school"],
        given["oven_w"],
        given["room_c"],
        given["humidity"],
        given["cold"],
        tuple(given["vessels_mm"] or VESSELS_MM),
        moulds,
        int(given["stand_places"]),
        places,
        int(given["hands"]),
        factors=given["factors"],
    )


def _layer(given: dict[str, Any], path: str) -> Layer:
    base = demo_ingredient(given["base"]) if given["base"] else None
    if base is not None and not base.is_base:
        raise WrongShape(f"{base.title} is not a base.", field=f"{path}.base")
    white = given["white"] or (white_as_bought(base.family, "coating") if base else "coating")
    values = {
        name: value
        for name, value in given.items()
        if value is not None and name not in ("id", "technique", "colour", "base", "white")
    }
    values |= {name: int(values[name]) for name in ("count", "coats") if name in values}
    return Layer(
        given["technique"], given["colour"], white=white, base=base.name if base else "", id=given["id"], **values
    )


def _wanted(given: dict[str, Any]) -> Wanted:
    pieces, ids = [], list[str]()
    for i, piece in enumerate(given["pieces"]):
        kind = kind_of_core(piece["core"])
        core = kind.core(*(piece["size_mm"] or kind.usual))
        layers = tuple(_layer(la, f"pieces[{i}].layers[{j}]") for j, la in enumerate(piece["layers"]))
        spares = None if piece["spares"] is None else int(piece["spares"])
        pieces.append(Piece(piece["id"], kind.name, core, int(piece["count"]), layers, spares))
        ids += [piece["id"], *(la.id for la in layers)]
    if len(set(ids)) < len(ids):
        twice = next(name for name in ids if ids.count(name) > 1)
        raise WrongShape(f"Two pieces or layers are called {twice[:60]!r}.", field="pieces")
    joints = tuple(Joint(j["part"], j["on"], int(j["each"]), j["placed"], j["glue_g"]) for j in given["joints"])
    factors = given["kitchen"].get("factors", NOTHING)
    colours = {name: _tone(parts, f"colours.{name}", factors) for name, parts in given["colours"].items()}
    unknown = {la.colour for p in pieces for la in p.layers if la.colour} - set(colours)
    if unknown:
        raise UnknownName(f"There is no colour called {min(unknown)[:60]!r}.", field="colours", choices=list(colours))
    return Wanted(tuple(pieces), joints, colours)


def _tone(given: dict[str, Any], path: str, factors: Factors) -> Tone:
    parts = tuple(part_from(p, f"{path}.parts[{i}]", factors) for i, p in enumerate(given["parts"] or []))
    if given["lab"] is None and not any(p.ingredient.is_base for p in parts):
        raise OutOfBounds("Give its Lab, or the parts it is made of with a base among them.", field=path)
    return Tone(given["lab"], parts)


def _ends(name: str, ends: tuple[float, float]) -> dict[str, float]:
    return {f"low_{name}": ends[0], f"high_{name}": ends[1]}


def _out(reckoning: Reckoning, factors: Factors) -> dict[str, Any]:
    return {
        "lines": [
            {
                "piece": la.piece,
                "layer": la.layer,
                "colour": la.colour,
                "base": la.base or None,
                "on_one_g": la.on_one_g,
                "poured_g": la.poured_g,
                "returned_g": la.returned_g,
                "lost_g": la.lost_g,
                "count": la.count,
                "spares": la.spares,
                "thickness_mm": la.thickness_mm,
                **_ends("goes_on_g", goes_on_range([la], factors)),
            }
            for la in reckoning.lines
            if la.bowl
        ],
        "bowls": [
            {
                "key": b.key,
                "white": b.white,
                "colour": b.colour,
                "base": b.base or None,
                "layers": list(b.layers),
                "goes_on_g": b.goes_on_g,
                **_ends("goes_on_g", goes_on_range(b.lines, factors)),
                "spare_g": b.spare_g,
                "lost_g": b.lost_g,
                "left_g": b.left_g,
                "melt_g": b.melt_g,
                "poured_most_g": b.poured_most_g,
                "recipe": [part_out(p) for p in b.recipe],
                "de00": b.de00,
                "tempered": b.tempered,
                "vessel_mm": b.vessel_mm,
                "number": b.number,
                "portions": [
                    {"layers": list(p.layers), "mass_g": p.mass_g, "thinner_g": p.thinner_g, "whole": p.whole}
                    for p in b.portions
                ],
            }
            for b in reckoning.bowls
        ],
        "steps": [
            {
                "id": s.id,
                "kind": s.kind,
                "piece": s.piece or None,
                "layer": s.layer or None,
                "bowl": s.bowl or None,
                "hands_s": s.hands_s,
                **_ends("hands_s", hands_range(s, factors)),
                "heat_s": s.heat_s,
                "place": s.place,
                "after": list(s.after),
                "from_min": s.from_min,
                **(_ends("from_min", wait_range(s, factors)) if s.kind == "wait" else {}),
                "until_min": s.until_min,
                "says": s.says,
            }
            for s in reckoning.steps
        ],
        "stock": [part_out(p) for p in reckoning.stock],
        "minutes_hands": reckoning.minutes_hands,
        "cautions": list(dict.fromkeys([*reckoning.cautions, *(c for b in reckoning.bowls for c in b.cautions)])),
    }


def _reckon(given: dict[str, Any]) -> dict[str, Any]:
    kitchen = _kitchen(given["kitchen"])
    return _out(reckon(_wanted(given), kitchen, _shelf(given["shelf"])), kitchen.factors)


ENTRIES = (
    Entry(
        "job.reckon",
        "what a job comes to: lines, bowls with their recipes, steps, stock",
        Record(
            {
                "pieces": ListOf(PIECE, most=400),
                "joints": ListOf(JOINT, [], most=200),
                "colours": Named(COLOUR, most=80, default={}),
                "kitchen": KITCHEN,
                "shelf": SHELF,
            }
        ),
        _reckon,
    ),
)
