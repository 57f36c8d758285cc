"""`python -m coating NAME [FILE.json]`: one JSON object in, one out. --list and NAME --schema describe it."""

from __future__ import annotations

import json
import sys
from typing import Any

from coating.errors import CoatingError, NotANumber, WrongShape
from coating.facade import answer, entries, schema

USAGE = "usage: python -m coating NAME [FILE.json] | NAME --schema | --list"


def _no_constant(word: str) -> Any:
    raise NotANumber(f"{word} is not a number.", field="input")


def _read(path: str | None) -> Any:
    try:
        if path is None:
            text = sys.stdin.buffer.read().decode()
        else:
            with open(path, "rb") as file:
                text = file.read().decode()
        return json.loads(text, parse_constant=_no_constant)
    except OSError as problem:
        raise WrongShape(f"The file cannot be read: {problem.strerror}.", field="file") from problem
    except (ValueError, RecursionError) as problem:
        raise WrongShape("The input is not a JSON object.", field="input") from problem


def main(arguments: list[str]) -> int:
    """Exit status: 0 answered, 2 refused (with the reason as JSON on standard output)."""
    try:
        match arguments:
            case ["--list"]:
                for entry in entries():
                    print(f"{entry.name:20} {entry.purpose}")
                return 0
            case [name, "--schema"] | ["--schema", name]:
                result = schema(name)
            case [name] | [name, _] if not name.startswith("-"):
                result = answer(name, _read(arguments[1] if len(arguments) > 1 else None))
            case _:
                raise WrongShape(USAGE, field="arguments")
        print(json.dumps(result, allow_nan=False))
        return 0
    except CoatingError as refusal:
        print(json.dumps({"error": refusal.as_dict()}))
        return 2


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
