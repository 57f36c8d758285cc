"""The schemas of an archive, as JSON Schema: worked out from the columns, shipped beside this file, and held to it by a
test. `python manage.py archive_schemas` writes them."""

from __future__ import annotations

import json
from collections.abc import Callable
from functools import cache
from pathlib import Path
from typing import Any

import fastjsonschema
from django.db import models

from studio.common.types import Json
from studio.notebook.archive.tables import BY_NAME, KIND, PROFILE, TABLES, VERSION, Carried

SCHEMAS = Path(__file__).parent / "schemas"
DRAFT = "http://json-schema.org/draft-07/schema#"
MOST_NUMBER, MOST_TEXT, MOST_PICTURE = 1e12, 4000, 8_000_000
DATE = r"^(19|20|21)\d\d-[01]\d-[0-3]\d$"
MOMENT = r"^(19|20|21)\d\d-[01]\d-[0-3]\dT[0-2]\d:[0-5]\d:[0-5]\d(\.\d{1,6})?\+00:00$"
BASE64 = "^[A-Za-z0-9+/]*={0,2}$"


def _of(field: models.Field[Any, Any]) -> Json:
    """What a column may hold."""
    if field.is_relation:
        said: Json = {"type": "integer", "minimum": 1}
    elif field.choices:
        said = {"enum": [*dict.fromkeys(value for value, _ in field.flatchoices), *([""] if field.blank else [])]}
    else:
        said = _plain(field)
    if field.null and "enum" in said:
        return {"enum": [*said["enum"], None]}
    return {**said, "type": [said["type"], "null"]} if field.null and isinstance(said.get("type"), str) else said


def _plain(field: models.Field[Any, Any]) -> Json:
    match field.get_internal_type():
        case "BooleanField":
            return {"type": "boolean"}
        case "FloatField":
            return {"type": "number", "minimum": -MOST_NUMBER, "maximum": MOST_NUMBER}
        case "PositiveIntegerField":
            return {"type": "integer", "minimum": 0, "maximum": 2**31 - 1}
        case "PositiveSmallIntegerField":
            return {"type": "integer", "minimum": 0, "maximum": 2**15 - 1}
        case "DateField":
            return {"type": "string", "pattern": DATE}
        case "DateTimeField":
            return {"type": "string", "pattern": MOMENT}
        case "UUIDField":
            return {"type": "string", "pattern": "^[0-9a-f-]{36}$"}
        case "BinaryField":
            return {"type": "string", "pattern": BASE64, "maxLength": MOST_PICTURE}
        case "JSONField":
            return {"type": ["object", "array", "null"] if field.null else ["object", "array"]}
    return {"type": "string", "maxLength": field.max_length or MOST_TEXT}


def schema_of(table: Carried) -> Json:
    """Of one file of rows of a table."""
    values = {"id": {"type": "integer", "minimum": 1, "maximum": 2**53}}
    values["came"] = {
        "description": "The kitchen this row was first in, and its number there; left out where that is this one.",
        "type": "array",
        "items": [{"type": "string", "pattern": "^[0-9a-f]{32}$"}, {"type": "integer", "minimum": 1}],
        "minItems": 2,
        "maxItems": 2,
    }
    values |= {field.name: _of(field) for field in table.fields}
    row = {
        "type": "object",
        "properties": values,
        "required": ["id", *(field.name for field in table.fields)],
        "additionalProperties": False,
    }
    return {"$schema": DRAFT, "title": table.name, "type": "array", "items": row, "maxItems": table.rows_a_file}


def schema_of_kitchen() -> Json:
    """Of `kitchen.json`."""
    from studio.accounts.models import Kitchen

    profile = {name: _of(Kitchen._meta.get_field(name)) for name in PROFILE}  # type: ignore[arg-type]
    files = {"type": "array", "items": {"type": "string", "maxLength": 80}, "maxItems": 20_000}
    of_table = {
        "type": "object",
        "properties": {"rows": {"type": "integer", "minimum": 0}, "files": files},
        "required": ["rows", "files"],
        "additionalProperties": False,
    }
    return {
        "$schema": DRAFT,
        "title": "kitchen",
        "type": "object",
        "properties": {
            "kind": {"const": KIND},
            "v": {"const": VERSION},
            "made_at": {"type": "string", "pattern": MOMENT},
            "origin": {"type": "string", "pattern": "^[0-9a-f]{32}$"},
            "kitchen": {"type": "object", "properties": profile, "required": [*PROFILE], "additionalProperties": False},
            "tables": {
                "type": "object",
                "properties": {table.name: of_table for table in TABLES},
                "required": [table.name for table in TABLES],
                "additionalProperties": False,
            },
        },
        "required": ["kind", "v", "made_at", "origin", "kitchen", "tables"],
        "additionalProperties": False,
    }


def schemas() -> dict[str, Json]:
    """Every schema by the name of its file."""
    return {"kitchen": schema_of_kitchen(), **{table.name: schema_of(table) for table in TABLES}}


def as_text(schema: Json) -> str:
    """As it is shipped."""
    return json.dumps(schema, indent=1, ensure_ascii=False) + "\n"


@cache
def checker(name: str) -> Callable[[Any], Any]:
    """What checks a file by its shipped schema; raises `fastjsonschema.JsonSchemaValueException`."""
    if name != "kitchen" and name not in BY_NAME:
        raise KeyError(name)
    check: Callable[[Any], Any] = fastjsonschema.compile(json.loads((SCHEMAS / f"{name}.json").read_text()))
    return check
