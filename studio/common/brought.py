"""JSON from outside: plain values without anything that numbers or letters cannot be."""

from __future__ import annotations

import json
import math
from typing import Any

from coating.apart import Limits, apart
from coating.errors import Unreadable

LIMITS = Limits(processor_s=3, wall_s=10.0, memory_mb=256)
TOO_MUCH = "Reading that file takes far too long: it is not one of ours."
DIGITS = 18  # of a whole number; longer ones are none of ours


def strict_json(raw: bytes | str) -> Any:
    """What a JSON text says. Raises Unreadable: broken, too deep, no finite number, a number of many digits, half a
    letter."""
    try:
        text = raw.decode("utf-8-sig") if isinstance(raw, bytes) else raw
        data = json.loads(text, parse_constant=_no_number, parse_float=_finite, parse_int=_whole)
        json.dumps(data, ensure_ascii=False).encode()  # halves of pairs do not survive this
    except (ValueError, RecursionError) as problem:
        raise Unreadable("It cannot be read as JSON.", field="file") from problem
    return data


def json_apart(raw: bytes) -> Any:
    """The same in a process of its own, for files. Raises CoatingError."""
    return apart(strict_json, raw, limits=LIMITS, too_much=TOO_MUCH, field="file")


def _no_number(word: str) -> float:
    raise ValueError(word)


def _finite(text: str) -> float:
    number = float(text)
    return number if math.isfinite(number) else _no_number(text[:20])


def _whole(text: str) -> int:
    return int(text) if len(text) <= DIGITS else int(_no_number(text[:20]))
