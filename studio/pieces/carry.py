"""The file of a job, or a template, as it is read: every value is checked before anything is made of it."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field, replace
from datetime import date
from typing import Any, TypeVar

from coating.care.allergens import ALLERGENS
from coating.errors import CoatingError, OutOfBounds, Unreadable
from coating.job import Piece as CorePiece
from coating.job import Wanted
from coating.limits import BOUNDS, check
from coating.piece.kinds import KINDS
from coating.plan.flavours import TASTES
from coating.stack.layers import on_one_g
from coating.techniques import TECHNIQUES, technique
from studio.accounts.models import Kitchen
from studio.colours.models import Colour
from studio.common.brought import json_apart
from studio.common.measures import refusal_text
from studio.common.names import plain
from studio.common.types import Json
from studio.cupboard.models import EXTRA_KINDS, Extra
from studio.cupboard.tones import WHITES, Tone
from studio.pieces.boxes import chosen
from studio.pieces.carried_bags import CarriedBag, bag_here, read_bag
from studio.pieces.carried_out import KIND
from studio.pieces.forms import BoxForm
from studio.pieces.models import Family
from studio.pieces.reckoned import as_core_layer
from studio.pieces.stacks import SIZE_VERSION, VERSION, LayerPlan, PiecePlan, size_now

PART = "part"
MOST_BYTES, MOST_PIECES, MOST_LAYERS, MOST_THINGS = 1_000_000, 400, 16, 300
_Row = TypeVar("_Row")


@dataclass(frozen=True)
class JobFile:
    """What a file says, checked. Rows are not saved and belong to no kitchen yet."""

    job: Json
    colours: list[Colour]
    bags: list[CarriedBag]
    extras: list[Extra]
    families: list[Json]
    pieces: list[Json] = field(default_factory=list)
    mixed: list[Json] = field(default_factory=list)


def read_job(raw: bytes) -> JobFile:
    """Raises Unreadable, with the place in the maker's words."""
    if len(raw) > MOST_BYTES:
        raise Unreadable("That file is too long for a job: 1 MB at most.", field="file")
    try:
        data = json_apart(raw)
    except Unreadable as problem:
        raise Unreadable("That is no file of a job: it cannot be read as JSON.", field="file") from problem
    return job_from(data)


def job_from(data: Any) -> JobFile:
    """The same of what was read already. Raises Unreadable."""
    if not isinstance(data, dict) or data.get("kind") != KIND or data.get("v") != 1:
        raise Unreadable("That is not a job of ours, or from a newer version.", field="file")
    job = _at("The job", _job, data.get("job"))
    colours = [_at(f"Colour {i}", _colour, c) for i, c in _numbered(data, "colours", MOST_THINGS)]
    bags = [_at(f"Bag {i}", read_bag, b) for i, b in _numbered(data, "bags", MOST_THINGS)]
    extras = [_at(f"Thing {i}", _extra, e) for i, e in _numbered(data, "extras", MOST_THINGS)]
    families = [_at(f"Family {i}", _family, f) for i, f in _numbered(data, "families", MOST_PIECES)]
    read = JobFile(job, colours, bags, extras, families)
    for i, piece in _numbered(data, "pieces", MOST_PIECES):
        read.pieces.append(_at(f"Piece {i}", lambda p: _piece(p, read), piece))
    _counted(read.pieces)
    for i, mix in _numbered(data, "mixed", MOST_PIECES):
        read.mixed.append(_at(f"Mixed box {i}", lambda m: _mixed_in(m, len(read.pieces)), mix))
    return read


def _counted(pieces: list[Json]) -> None:
    """Every part is there, nothing goes on itself, and of what goes on nothing there is one at least."""
    parts = {la["part"] for piece in pieces for la in piece["layers"] if la["part"] is not None}
    core_pieces = tuple(
        CorePiece(
            str(i),
            p["core"],
            _plan(p).core,
            p["count"],
            tuple(
                replace(core, part=str(la["part"]))
                for core, la in zip(_plan(p).core_layers(), p["layers"], strict=True)
                if la["part"] is not None
            ),
            p["spares"],
            p["name"],
        )
        for i, p in enumerate(pieces)
    )
    _at("Its parts", lambda wanted: wanted.told(), Wanted(core_pieces))
    for i, piece in enumerate(pieces):
        if not piece["count"] and i not in parts:
            raise Unreadable(f"Piece {i + 1}: a whole number from 1 on is wanted.", field="file")


def _numbered(data: Json, name: str, most: int) -> Iterable[tuple[int, Any]]:
    rows = data.get(name, [])
    if not isinstance(rows, list) or len(rows) > most:
        raise Unreadable(f"There are too many {name} in it, or they are no list: {most} at most.", field="file")
    return enumerate(rows, 1)


def _at(where: str, read: Callable[[Any], _Row], value: Any) -> _Row:
    """Read a part of the file; what is wrong in it is said with its place."""
    try:
        return read(value)
    except CoatingError as refusal:
        raise Unreadable(f"{where}: {refusal_text(refusal)}", field="file") from refusal
    except (KeyError, TypeError, ValueError, AttributeError, IndexError, OverflowError) as problem:
        raise Unreadable(f"{where} cannot be read.", field="file") from problem


def _text(value: Any, most: int, *, empty: bool = False) -> str:
    if not isinstance(value, str) or len(value) > most or (not plain(value) and not empty):
        raise Unreadable(f"a text of up to {most} letters is wanted.")
    return plain(value)


def _whole(value: Any, low: int, high: int) -> int:
    if isinstance(value, bool) or not isinstance(value, int) or not low <= value <= high:
        raise OutOfBounds(f"a whole number between {low} and {high} is wanted.")
    return value


def _one_of(value: Any, choices: Iterable[str]) -> str:
    if value not in list(choices):
        raise Unreadable(f"{str(value)[:40]!r} is not known here.")
    return str(value)


def _day(value: Any) -> date | None:
    return date.fromisoformat(value) if value else None


def _job(data: Json) -> Json:
    return {
        "name": _text(data["name"], 80),
        "note": _text(data.get("note", ""), 400, empty=True),
        "due_on": _day(data.get("due_on")),
        "made_on": _day(data.get("made_on")),
        "little_ones": data.get("little_ones") is True,
    }


def _colour(data: Json) -> Colour:
    lightness, a, b = (float(v) for v in data["lab"])
    check("lab_lightness", lightness)
    check("lab_chroma", a)
    check("lab_chroma", b)
    note = _text(data.get("note", ""), 200, empty=True)
    return Colour(name=_text(data["name"], 60), lightness=lightness, a=a, b=b, note=note, came_from="brought")


def _extra(data: Json) -> Extra:
    each = data.get("each_g")
    days = data.get("keeps_days")
    parts = [{"name": _text(p["name"], 60), "g": check("total_g", float(p["g"]))} for p in data.get("parts", [])[:20]]
    return Extra(
        kind=_one_of(data["kind"], dict(EXTRA_KINDS)),
        name=_text(data["name"], 80),
        each_g=None if each is None else check("mass_g", float(each)),
        allergens=_contents(data.get("allergens")),
        edible=_one_of(data.get("edible", "unsaid"), dict(Extra.EDIBLE)),
        keeps_days=None if days is None else _whole(days, 0, 3650),
        cold=data.get("cold") is True,
        small=data.get("small") is True,
        comes_out=data.get("comes_out") is True,
        parts=parts,
        taste=_one_of(data.get("taste", ""), TASTES),
    )


def _family(data: Json) -> Json:
    return {
        "name": _text(data["name"], 80),
        "kind": _one_of(data["kind"], dict(Family.KINDS)),
        "count": _whole(data["count"], 1, int(BOUNDS["count"].high)),
    }


def _place(value: Any, rows: list[_Row]) -> _Row | None:
    return None if value is None else rows[_whole(value, 0, len(rows) - 1)]


def _layer(data: Json, read: JobFile) -> Json:
    parameters = data["parameters"]
    if not isinstance(parameters, dict) or len(parameters) > 20:
        raise Unreadable("its layers cannot be read.")
    for value in parameters.values():
        if not isinstance(value, str | int | float | bool) or (isinstance(value, str) and len(value) > 80):
            raise Unreadable("its layers cannot be read.")
    return {
        "technique": _one_of(data["technique"], TECHNIQUES),
        "white": _one_of(data.get("white"), dict(WHITES)),
        "colour": _place(data.get("colour"), read.colours),
        "base": _place(data.get("base"), read.bags),
        "extra": _place(data.get("extra"), read.extras),
        "part": _part(data),
        "parameters": parameters,
        "apart": _whole(data.get("apart", 0), 0, 20),
        "design": _design(data.get("design"), read),
    }


def _part(data: Json) -> int | None:
    """The place of the piece that a layer puts on; nothing else has one."""
    part = data.get("part")
    if (part is not None) != (data["technique"] == PART):
        raise Unreadable("a part that is put on has to be one of its pieces, and nothing else is.")
    return None if part is None else _whole(part, 0, MOST_PIECES - 1)


def _design(data: Any, read: JobFile) -> Json | None:
    """A design as it was asked, not yet checked; it is when it is drawn."""
    if data is None:
        return None
    values = data["asked"]
    if len(values) > 40 or any(isinstance(v, str) and len(v) > 200 for v in values.values()):
        raise Unreadable("its design cannot be read.")
    of: Json = {str(n): _place(place, read.colours) for n, place in data.get("colours", {}).items()}
    of |= {str(n): _place(place, read.bags) for n, place in data.get("bags", {}).items()}
    return {"kind": str(data["kind"])[:10], "name": str(data["name"])[:80], "asked": dict(values), "of": of}


def _piece(data: Json, read: JobFile) -> Json:
    layers = data["layers"]
    if not isinstance(layers, list) or not 1 <= len(layers) <= MOST_LAYERS:
        raise Unreadable(f"1 to {MOST_LAYERS} layers are wanted.")
    family = data.get("family")
    kept = {
        "name": _text(data["name"], 80),
        "count": _whole(data["count"], 0, int(BOUNDS["count"].high)),
        "spares": _spares(data.get("spares")),
        "core": _one_of(data["core"], KINDS),
        "size": size_now(data["core"], data["size"]),
        "share": _whole(data.get("share", 1), 1, int(BOUNDS["count"].high)),
        "family": None if family is None else _whole(family, 0, len(read.families) - 1),
        "contains": _contents(data.get("contains")),
        "box": _box(data.get("box")),
        "layers": [_layer(la, read) for la in layers],
    }
    _can_be_made(kept)
    return kept


def _spares(data: Any) -> int | None:
    return None if data is None else _whole(data, 0, int(BOUNDS["count"].high))


def _contents(data: Any) -> list[str] | None:
    return None if data is None else [_one_of(a, ALLERGENS) for a in data]


def _box(data: Any) -> Json | None:
    """The box that was chosen for it, read by the form that chooses one."""
    if data is None:
        return None
    # A bare number would be read in the units of this kitchen; the file is in mm.
    form = BoxForm({"piece": 0, **{k: f"{float(v)!r} mm" if k.endswith("_mm") else v for k, v in data.items()}})
    if not form.is_valid():
        raise Unreadable("its box cannot be read.")
    return chosen(form)


def _mixed_in(data: Json, pieces: int) -> Json:
    """Several kinds in one box: so many of each, by the places of the pieces."""
    of = {str(_whole(int(place), 0, pieces - 1)): _whole(many, 1, 99) for place, many in data["of"].items()}
    box = _box({**{n: v for n, v in data.items() if n != "of"}, "layers": 1}) or {}
    return {"of": of, **{n: v for n, v in box.items() if n != "layers"}}


def _can_be_made(kept: Json) -> None:
    """Every layer is weighed once: what cannot be weighed is not brought in. Raises whatever the sizes raise."""
    if kept["size"]["v"] != SIZE_VERSION or any(la["parameters"].get("v") != VERSION for la in kept["layers"]):
        raise Unreadable("it is of another version.")
    plan = _plan(kept)
    for layer in plan.core_layers():
        on_one_g(plan.core, layer)


def _plan(kept: Json) -> PiecePlan:
    layers = tuple(
        LayerPlan(la["technique"], la["white"], la["colour"], la["extra"], la["parameters"]) for la in kept["layers"]
    )
    size = tuple(float(mm) for mm in kept["size"]["mm"])
    return PiecePlan(kept["name"], kept["count"], KINDS[kept["core"]], size, layers, kept.get("spares"))


def plan_from(kept: Json, kitchen: Kitchen, *, count: int | None = None) -> PiecePlan:
    """A template as a piece to begin with, so many of it: colours, bags and extras by their names, where this kitchen
    still has them.

    Raises Unreadable.
    """
    colours = {c.name: c for c in Colour.objects.for_kitchen(kitchen)}
    extras = {(e.kind, e.name): e for e in Extra.objects.for_kitchen(kitchen)}
    bags = [bag_here(kitchen, read_bag(bag_data)) for bag_data in kept.get("bags", [])]
    every, parts = kept.get("parts", []), dict[int, PiecePlan]()

    def part_at(place: int | None) -> PiecePlan | None:
        if place is not None and place not in parts:
            parts[place] = replace(read(every[place]), count=0)
        return None if place is None else parts[place]

    def design_of(data: Json | None) -> Json | None:
        if data is None:
            return None
        tones = {
            n: Tone(colours.get(kept["colours"][at]["name"]) if at is not None else None)
            for n, at in data.get("colours", {}).items()
        }
        tones |= {n: Tone(base=bags[at]) for n, at in data.get("bags", {}).items()}
        return {"kind": data["kind"], "name": data["name"], "asked": data["asked"], "tones": tones}

    def read(data: Json) -> PiecePlan:
        layers = []
        for la in data["layers"]:
            technique(la["technique"])
            colour = kept["colours"][la["colour"]]["name"] if la["colour"] is not None else None
            extra = kept["extras"][la["extra"]] if la["extra"] is not None else None
            bag = bags[la["base"]] if la.get("base") is not None else None
            layers.append(
                LayerPlan(
                    la["technique"],
                    la["white"],
                    colours.get(colour or ""),
                    extras.get((extra["kind"], extra["name"])) if extra else None,
                    la["parameters"],
                    bag,
                    part_at(la.get("part")),
                    design=design_of(la.get("design")),
                )
            )
        many = data["count"] if count is None else count
        plan = PiecePlan(
            data["name"],
            many,
            KINDS[data["core"]],
            tuple(data["size"]["mm"]),
            tuple(layers),
            contains=data.get("contains"),
        )
        for layer in plan.layers:
            on_one_g(plan.core, as_core_layer(layer))
        return plan

    return _at("This template", read, kept["piece"])
