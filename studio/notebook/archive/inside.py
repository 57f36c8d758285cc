"""Numbers of rows inside the JSON of rows: found where they stand, and turned into those of another kitchen."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from typing import Any, Protocol

from studio.common.types import Json
from studio.cupboard.tones import BAG
from studio.notebook.archive.tables import BY_NAME

CODE = "codes"  # ingredients by their code
_STEP_OF_A_BOWL = re.compile(r"(bowl|melt):(.*)", re.DOTALL)
_HELD = re.compile(r"(moulds|stand):(\d+)")
_STEP_OF_A_LAYER = re.compile(r"(\d+)(\D.*)?", re.DOTALL)
_BOWL = re.compile(r"(?:bag\.(?P<code>[^:]+)|(?P<colour>\d*))(?P<rest>:.*)", re.DOTALL)
_RECORDS = {"set": "timers", "drops": "parameters", "pace": "days", "took": "days"}
_BY_CODE = ("strength", "flow")


class TurnsNumbers(Protocol):
    """What stands for a row of a table: another number, or None where `soft` and there is none."""

    def __call__(self, table: str, number: Any, *, soft: bool = False) -> Any:
        """Raises Unreadable where there is none."""


def turned(name: str, row: Json, turn: TurnsNumbers) -> Json:
    """A row of a table with every number in it turned."""
    table, new = BY_NAME[name], dict(row)
    for field, of in table.refs.items():
        if row[field] is not None:
            new[field] = turn(of, row[field])
    inside = _INSIDE.get(name)
    return inside(new, turn) if inside else new


def tone_turned(key: Any, turn: TurnsNumbers) -> Any:
    """A colour or a bag as forms keep it: "12", "bag7", or "" for plain, which it becomes where it is no more."""
    text = str(key or "")
    if text.startswith(BAG) and text.removeprefix(BAG).isdecimal():
        number = turn("ingredients", int(text.removeprefix(BAG)), soft=True)
        return f"{BAG}{number}" if number else ""
    if text.isdecimal():
        return str(turn("colours", int(text), soft=True) or "")
    return key


def bowl_turned(key: str, turn: TurnsNumbers) -> str:
    """A bowl as a day calls it: by colour or bag, white, and place apart."""
    match = _BOWL.fullmatch(key)
    if match is None:
        return key
    if match["code"]:
        return f"bag.{turn(CODE, match['code'], soft=True)}{match['rest']}"
    colour = turn("colours", int(match["colour"]), soft=True) if match["colour"] else ""
    return f"{colour or ''}{match['rest']}"


def step_turned(name: str, turn: TurnsNumbers) -> str:
    """A step of a day, or what it holds: of a bowl, or of a layer."""
    if match := _STEP_OF_A_BOWL.fullmatch(name):
        return f"{match[1]}:{bowl_turned(match[2], turn)}"
    if match := _HELD.fullmatch(name):
        return f"{match[1]}:{turn('layers', int(match[2]), soft=True) or 0}"
    if match := _STEP_OF_A_LAYER.fullmatch(name):
        return f"{turn('layers', int(match[1]), soft=True) or 0}{match[2] or ''}"
    return name


def name_turned(name: str, turn: TurnsNumbers) -> str:
    """What is learned, by its name, or a record of it."""
    kind, _, of = name.partition(".")
    if kind in _BY_CODE:
        return f"{kind}.{turn(CODE, of, soft=True)}"
    if kind != "record":
        return name
    what, _, number = of.rpartition("-")
    table = _RECORDS.get(what, "events")
    return (
        f"record.{what}{'-' if what else ''}{turn(table, int(number), soft=True) or 0}" if number.isdecimal() else name
    )


def _named(values: Mapping[str, Any], turn: TurnsNumbers) -> Json:
    return {name_turned(name, turn): value for name, value in values.items()}


def _colour(row: Json, turn: TurnsNumbers) -> Json:
    made = row["made"]
    if made.get("parts"):
        parts = [{**p, "code": turn(CODE, p["code"], soft=True)} for p in made["parts"]]
        row["made"] = {**made, "parts": parts}
    return row


def _ingredient(row: Json, turn: TurnsNumbers) -> Json:
    return {**row, "code": turn(CODE, row["code"], soft=True)}


def _job(row: Json, turn: TurnsNumbers) -> Json:
    taught = {k: _named(v, turn) if k in ("of", "left") and v else v for k, v in row["taught"].items()}
    boxes = dict(row["boxes"])
    if "by" in boxes:
        by = {turn("pieces", int(pk), soft=True): box for pk, box in boxes["by"].items()}
        boxes["by"] = {str(pk): box for pk, box in by.items() if pk}
    if "mixed" in boxes:
        boxes["mixed"] = [{**mix, "of": _of_pieces(mix["of"], turn)} for mix in boxes["mixed"]]
    return {**row, "taught": taught, "boxes": boxes}


def _of_pieces(of: Mapping[str, Any], turn: TurnsNumbers) -> Json:
    pairs = {turn("pieces", int(pk), soft=True): many for pk, many in of.items()}
    return {str(pk): many for pk, many in pairs.items() if pk}


def _layer(row: Json, turn: TurnsNumbers) -> Json:
    values = dict(row["parameters"])
    if "also" in values:
        values["also"] = [pk for old in values["also"] if (pk := turn("extras", old, soft=True))]
    if "others" in values:
        values["others"] = [
            {
                **o,
                "colour": turn("colours", o["colour"], soft=True) if o.get("colour") else None,
                "base": turn("ingredients", o["base"], soft=True) if o.get("base") else None,
            }
            for o in values["others"]
        ]
    return {**row, "parameters": values}


def _design(row: Json, turn: TurnsNumbers) -> Json:
    from studio.designs.kinds import KINDS

    kind, values, drawn = KINDS.get(row["kind"]), dict(row["asked"]), dict(row["drawn"])
    for name in dict.fromkeys((*(kind.colours if kind else ()), "second", "ground")):
        if name in values:
            values[name] = tone_turned(values[name], turn)
    word, _, number = str(values.get("shape", "")).partition(":")
    if word == "own" and number.isdecimal():
        values["shape"] = f"own:{turn('shapes', int(number), soft=True) or 0}"
    for of in ("others", "steps"):
        if of in drawn:
            drawn[of] = [{**o, "of": tone_turned(o["of"], turn)} if o.get("of") else o for o in drawn[of]]
    if "also" in drawn:
        drawn["also"] = [pk for old in drawn["also"] if (pk := turn("extras", old, soft=True))]
    return {**row, "asked": values, "drawn": drawn}


def _bowl(row: Json, turn: TurnsNumbers) -> Json:
    way = dict(row["colours"])
    for name in ("locked", "forbidden"):
        if name in way:
            way[name] = [turn(CODE, code, soft=True) for code in way[name]]
    return {**row, "colours": way, "taught": _named(row["taught"], turn)}


def _event(row: Json, turn: TurnsNumbers) -> Json:
    said = dict(row["payload"])
    if "ingredient" in said:
        said["ingredient"] = turn("ingredients", said["ingredient"])
    if "pins" in said:
        tables = {name: "readings" if name == "optics" else "parameters" for name in said["pins"]}
        pins = {name: turn(tables[name], pk, soft=True) for name, pk in said["pins"].items()}
        said["pins"] = {name: pk for name, pk in pins.items() if pk}
    if said.get("rest"):
        said["rest"] = turn(CODE, said["rest"], soft=True)
    return {**row, "payload": said}


def _day(row: Json, turn: TurnsNumbers) -> Json:
    def step(name: str) -> str:
        return step_turned(name, turn)

    day, best = dict(row["told"]), dict(row["best"])
    if day:
        day["steps"] = [
            {**s, "name": step(s["name"]), "bowl": bowl_turned(s["bowl"], turn) if s["bowl"] else s["bowl"],
             "uses": {step(n): v for n, v in s["uses"].items()}}
            for s in day["steps"]
        ]  # fmt: skip
        day["lags"] = [{**la, "before": step(la["before"]), "after": step(la["after"])} for la in day["lags"]]
        day["bowls"] = {bowl_turned(n, turn): b for n, b in day["bowls"].items()}
        day["resources"] = {step(n): v for n, v in day["resources"].items()}
        day["holds"] = [
            {**h, "resource": step(h["resource"]), "steps": [step(n) for n in h["steps"]]} for h in day.get("holds", [])
        ]
    for name in ("starts_s", "by", "again"):
        if name in best:
            best[name] = {step(n): v for n, v in best[name].items()}
    if "melts" in best:
        best["melts"] = [{**m, "bowl": bowl_turned(m["bowl"], turn)} for m in best["melts"]]
    if "conflict" in best:
        best["conflict"] = [step(n) for n in best["conflict"]]
    return {**row, "told": day, "best": best}


def _step(row: Json, turn: TurnsNumbers) -> Json:
    return {**row, "step": step_turned(row["step"], turn) if row["step"] else ""}


def _word(row: Json, turn: TurnsNumbers) -> Json:
    return {**row, "name": name_turned(row["name"], turn)}


_INSIDE: dict[str, Callable[[Json, TurnsNumbers], Json]] = {
    "colours": _colour,
    "ingredients": _ingredient,
    "jobs": _job,
    "layers": _layer,
    "designs": _design,
    "bowls": _bowl,
    "events": _event,
    "days": _day,
    "taps": _step,
    "words": _word,
    "rescues": _step,
    "notes": _step,
}
