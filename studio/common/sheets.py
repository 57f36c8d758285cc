"""What goes into a spreadsheet."""

from __future__ import annotations

_FORMULA = ("=", "+", "-", "@", "\t")


def harmless(text: str) -> str:
    """A text that a spreadsheet would reckon with has an apostrophe before it."""
    return f"'{text}" if text.startswith(_FORMULA) else text
