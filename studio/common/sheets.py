"""What goes into a spreadsheet."""

from __future__ import annotations

import unicodedata

from studio.common.names import plain

_FORMULA = ("=", "+", "-", "@", "'")


def harmless(text: str) -> str:
    """A text in one line; one that a spreadsheet would reckon with, however wide its sign, has an apostrophe first."""
    line = plain(text)
    return f"'{line}" if unicodedata.normalize("NFKC", line).lstrip().startswith(_FORMULA) else line
