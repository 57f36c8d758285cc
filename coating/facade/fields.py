"""Input fields: each reads a JSON value strictly and describes itself as JSON Schema."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Protocol

from coating.errors import MissingField, UnknownField, UnknownName, WrongShape
from coating.limits import BOUNDS

REQUIRED = object()


class Field(Protocol):
    """Reads a value found at `path`; `default` is REQUIRED when it must be there."""

    @property
    def default(self) -> Any:
        """What stands for a field that is left out; REQUIRED where it must be given."""

    def read(self, value: Any, path: str) -> Any:
        """The value, checked; raises a refusal that names the path."""

    def schema(self) -> dict[str, Any]:
        """The field in the words of JSON Schema."""


@dataclass(frozen=True)
class Number:
    """A number within a bound of coating.limits. `null`: null is said for none, which is not what is left out."""

    bound: str
    default: Any = REQUIRED
    whole: bool = False
    null: bool = False

    def read(self, value: Any, path: str) -> float:
        """A float within its bound."""
        number = BOUNDS[self.bound].check(value, path)
        if self.whole and number != int(number):
            raise WrongShape("It must be a whole number.", field=path)
        return number

    def schema(self) -> dict[str, Any]:
        """Kind, limits and unit of the number."""
        b = BOUNDS[self.bound]
        kind: Any = "integer" if self.whole else "number"
        kind = [kind, "null"] if self.null else kind
        return {"type": kind, "minimum": b.low, "maximum": b.high, "unit": b.unit, "description": b.what}


@dataclass(frozen=True)
class Choice:
    """One of some words."""

    choices: tuple[str, ...]
    default: Any = REQUIRED

    def read(self, value: Any, path: str) -> str:
        """One of the choices."""
        if not isinstance(value, str):
            raise WrongShape("It must be a word.", field=path, choices=list(self.choices))
        if value not in self.choices:
            raise UnknownName(f"It must be one of: {', '.join(self.choices)}.", field=path, choices=list(self.choices))
        return value

    def schema(self) -> dict[str, Any]:
        """The choices."""
        return {"type": "string", "enum": list(self.choices)}


@dataclass(frozen=True)
class Text:
    """Free words, so many characters at most; where `numbers` are names too, they are taken as written."""

    default: Any = REQUIRED
    most: int = 60
    numbers: bool = False

    def read(self, value: Any, path: str) -> str:
        """A text that is not too long."""
        if self.numbers and isinstance(value, int) and not isinstance(value, bool):
            value = str(value)
        if not isinstance(value, str) or len(value) > self.most:
            raise WrongShape("It must be a short text.", field=path)
        return value

    def schema(self) -> dict[str, Any]:
        """How long the text may be."""
        return {"type": ["string", "integer"] if self.numbers else "string", "maxLength": self.most}


@dataclass(frozen=True)
class Flag:
    """true or false."""

    default: Any = REQUIRED

    def read(self, value: Any, path: str) -> bool:
        """True or false, nothing that only looks like it."""
        if not isinstance(value, bool):
            raise WrongShape("It must be true or false.", field=path)
        return value

    def schema(self) -> dict[str, Any]:
        """A boolean."""
        return {"type": "boolean"}


@dataclass(frozen=True)
class Vector:
    """A list of numbers of fixed length, all within one bound, or each within its own."""

    bounds: tuple[str, ...]
    default: Any = REQUIRED

    def read(self, value: Any, path: str) -> tuple[float, ...]:
        """As many floats as there are bounds, each within its own."""
        if not isinstance(value, list) or len(value) != len(self.bounds):
            raise WrongShape(f"It must be a list of {len(self.bounds)} numbers.", field=path)
        return tuple(
            BOUNDS[b].check(v, f"{path}[{i}]") for i, (b, v) in enumerate(zip(self.bounds, value, strict=True))
        )

    def schema(self) -> dict[str, Any]:
        """The numbers, one by one."""
        items = [Number(b).schema() for b in self.bounds]
        return {"type": "array", "prefixItems": items, "minItems": len(items), "maxItems": len(items)}


LAB = ("lab_lightness", "lab_chroma", "lab_chroma")


@dataclass(frozen=True)
class Record:
    """An object with named fields; anything else in it is refused."""

    fields: Mapping[str, Field]
    default: Any = REQUIRED

    def read(self, value: Any, path: str = "") -> dict[str, Any]:
        """Every field of the object, the left out ones by their defaults."""
        if not isinstance(value, dict):
            raise WrongShape("It must be an object.", field=path or "input")
        prefix = f"{path}." if path else ""
        for name in value:
            if name not in self.fields:
                raise UnknownField(
                    f"There is no field called {name[:60]!r}.", field=prefix + name[:60], known=list(self.fields)
                )
        result = {}
        for name, field in self.fields.items():
            given = value.get(name)
            if given is not None:
                result[name] = field.read(given, prefix + name)
            elif name in value and getattr(field, "null", False):
                result[name] = None
            elif field.default is REQUIRED:
                raise MissingField(f"{name} is missing.", field=prefix + name)
            else:
                result[name] = field.default
        return result

    def schema(self) -> dict[str, Any]:
        """The fields and which of them must be given."""
        return {
            "type": "object",
            "properties": {n: f.schema() for n, f in self.fields.items()},
            "required": [n for n, f in self.fields.items() if f.default is REQUIRED],
            "additionalProperties": False,
        }


@dataclass(frozen=True)
class ListOf:
    """A list of one kind of thing, at most `most` long."""

    item: Field
    default: Any = REQUIRED
    most: int = 2000

    def read(self, value: Any, path: str) -> list[Any]:
        """Each item of a list that is not too long."""
        if not isinstance(value, list) or len(value) > self.most:
            raise WrongShape(f"It must be a list of at most {self.most}.", field=path)
        return [self.item.read(v, f"{path}[{i}]") for i, v in enumerate(value)]

    def schema(self) -> dict[str, Any]:
        """The items and how many there may be."""
        return {"type": "array", "items": self.item.schema(), "maxItems": self.most}


@dataclass(frozen=True)
class Named:
    """Values by names that are free."""

    item: Any
    most: int = 40
    default: Any = REQUIRED

    def read(self, value: Any, path: str) -> dict[str, Any]:
        """Each item of an object whose keys are free."""
        if not isinstance(value, dict) or len(value) > self.most:
            raise WrongShape(f"It must be an object of {self.most} names at most.", field=path)
        return {name: self.item.read(v, f"{path}.{name[:60]}") for name, v in value.items()}

    def schema(self) -> dict[str, Any]:
        """The items and how many there may be."""
        return {"type": "object", "additionalProperties": self.item.schema(), "maxProperties": self.most}
