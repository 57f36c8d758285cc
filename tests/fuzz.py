"""What makers, robots and broken clients might send. OLIVE_FUZZ=20000 sends that many in all; a few hundred otherwise.

OLIVE_FUZZ=20000 ./test tests.studio.test_fuzz tests.coating.facade.test_fuzz
"""

from __future__ import annotations

import os
import re
from typing import Any

from hypothesis import HealthCheck, settings
from hypothesis import strategies as st

FEW = 400
TIMES = int(os.environ.get("OLIVE_FUZZ", FEW)) // 2  # half to the forms, half to the core
calm = settings(
    max_examples=TIMES,
    deadline=None,
    derandomize=TIMES <= FEW,
    database=None,
    suppress_health_check=list(HealthCheck),
)

amounts = st.sampled_from(
    [
        *(
            "",
            " ",
            "0",
            "-0",
            "-1",
            "1",
            "7",
            "24",
            "250",
            "1e3",
            "1e308",
            "1e999",
            "-1e999",
            "nan",
            "inf",
            "0x1F",
            "1_0",
        ),
        *("3/4 in", "1/0 in", "½", "1 1/2 cup", "2 tsp", "1 bag", "half", "-half", "6 oz", "310 g", "310 ml", "40 °F"),
        *("40 K", "warm", "1,5", "1.000,5", "٣", "１２", "1/", "/3", "9" * 400, "1 g 2 g", "g", "2 lb 3", "1e-400 g"),
        *("yes", "no", "on", "coating", "half_power", "#a1b2c3", "#zzzzzz", "0.5", "1.0", "UTC", "Mars/Olympus"),
        *(
            "2026-02-30",
            "2026-12-01",
            "0001-01-01",
            "<script>alert(1)</script>",
            "' OR 1=1 --",
            "{{ x }}",
            "%s%n",
            "\0",
        ),
        *("00000000-0000-0000-0000-000000000000", "../../etc/passwd", "//elsewhere.example", "javascript:alert(1)"),
        *(
            "a@b.example",
            "𝕏" * 40,
            "\u202eevil",
            "a\r\nSet-Cookie: x=1",
            "x" * 5000,
            "2147483648",
            "18446744073709551616",
        ),
    ]
)
typed = amounts | st.text(max_size=30) | st.integers().map(str) | st.floats().map(str)
json_values = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=8) | amounts,
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=8), inner, max_size=4),
    max_leaves=8,
)


NAMES = ("hands", "a", "drop", "strength.blue")


def like(schema: dict[str, Any]) -> st.SearchStrategy[Any]:
    """Values a schema lets in, and its very edges."""
    if "enum" in schema:
        return st.sampled_from(schema["enum"])
    if "anyOf" in schema:
        return st.one_of(*map(like, schema["anyOf"]))
    if isinstance(schema["type"], list):
        return st.one_of(*(st.none() if kind == "null" else like({**schema, "type": kind}) for kind in schema["type"]))
    match schema["type"]:
        case "number" | "integer":
            low, high = schema.get("minimum", -5), schema.get("maximum", 5)
            if schema["type"] == "integer":
                return st.integers(int(low), int(high))
            return st.sampled_from([low, high]) | st.floats(low, high)
        case "array":
            if "prefixItems" in schema:
                return st.tuples(*[like(s) for s in schema["prefixItems"]]).map(list)
            return st.lists(like(schema["items"]), max_size=5)
        case "object" if "additionalProperties" in schema and not schema.get("properties"):
            fits = re.compile(schema.get("propertyNames", {}).get("pattern", ""))
            return st.dictionaries(
                st.sampled_from([name for name in NAMES if fits.match(name)]),
                like(schema["additionalProperties"]),
                max_size=3,
            )
        case "object":
            fields = {name: like(inner) for name, inner in schema["properties"].items()}
            needed = {n: s for n, s in fields.items() if n in schema["required"]}
            others = {n: s for n, s in fields.items() if n not in schema["required"]}
            return st.fixed_dictionaries(needed, optional=others)
        case "boolean":
            return st.booleans()
    return st.text(max_size=20)


hostile_json = st.sampled_from(
    [
        "1e999",
        "-1e999",
        "NaN",
        "Infinity",
        "9" * 400,
        "-" + "9" * 400,
        "0." + "1" * 400,
        "1e-999",
        "1e308",
        "-0.0",
        '"\\ud800"',
        '"\\udfff\\ud800"',
        '"\\u0000"',
        '"\\u202eevil"',
        '"\uff1d1+1"',
        '"' + "x" * 5000 + '"',
        "null",
        "true",
        "[]",
        "{}",
        "[[]]",
        '{"v": 1}',
        "[" * 500 + "]" * 500,
        '"1"',
        "1",
        "-1",
        "2147483648",
        "18446744073709551616",
        '"nan"',
        '"inf"',
        '["a", null, 1e3]',
        '{"": ""}',
    ]
)
