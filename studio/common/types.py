"""What the dictionaries are that go through the site."""

from __future__ import annotations

from typing import Any, TypeAlias

Fields: TypeAlias = dict[str, Any]
"""What a form sent, by the names of its fields."""

Typed: TypeAlias = dict[str, Any]
"""What a form made of it: values in the units of the core."""

Context: TypeAlias = dict[str, Any]
"""What a template is given."""

Json: TypeAlias = dict[str, Any]
"""An object of JSON: versioned, kept in a row or carried in a file."""
