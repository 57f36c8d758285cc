"""What makers call things: plain letters only, and free in the eyes of the database."""

from __future__ import annotations

import unicodedata
from collections.abc import Callable
from typing import Any

from django.db.models import QuerySet

_JOINERS = "\u200c\u200d"  # some scripts and pictures are written with them
_UNSEEN = ("Cc", "Cf", "Cs", "Co", "Cn", "Zl", "Zp")


def plain(text: str, *, lines: bool = False) -> str:
    """A text without what is not seen: control and direction characters, halves of pairs, unassigned ones.

    Parameters
    ----------
    text : as it was typed or read. lines : whether it may have several.

    Returns
    -------
    One line with single blanks; or several, each without blanks at its end.
    """
    shown = (
        c if c in _JOINERS or c == "\n" or unicodedata.category(c) not in _UNSEEN else _instead(c)
        for c in text.replace("\r\n", "\n").replace("\r", "\n")
    )
    cleaned = "".join(shown)
    return "\n".join(line.rstrip() for line in cleaned.split("\n")).strip() if lines else " ".join(cleaned.split())


def _instead(unseen: str) -> str:
    return " " if unseen.isspace() else ""


def free_name(rows: QuerySet[Any], name: str, *, most: int, tried: Callable[[str, int], str] | None = None) -> str:
    """`name`, or the first of its variants that no row of `rows` is called, as the database compares names.

    Parameters
    ----------
    rows : those that must be told apart. name : the one that is wished for. most : letters it may have.
    tried : the variant by its number, from 2 on; "Moss 2" by default.
    """
    variant = tried or (lambda base, number: f"{base[: most - 6]} {number}")
    wished, number = name[:most], 1
    while rows.filter(name=wished).exists():
        number += 1
        wished = variant(name, number)
    return wished
