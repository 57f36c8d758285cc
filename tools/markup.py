"""Long lines of templates, broken where nothing that is shown changes: `python -m tools.markup [--check]`.

A blank between attributes or words may as well be a new line; so may the seam at an element that begins a block of its
own. Inside `{% %}`, quotes, `pre` and `textarea` nothing is touched. What cannot be broken stays long.
"""

from __future__ import annotations

import re
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from tools.database import ROOT

WIDE, LONGEST = 120, 140
FOLDER = ROOT / "studio"
BLOCKS = frozenset(
    [
        "html",
        "head",
        "body",
        "main",
        "header",
        "footer",
        "nav",
        "section",
        "article",
        "aside",
        "div",
        "p",
        "ul",
        "ol",
        "li",
        "dl",
        "dt",
        "dd",
        "h1",
        "h2",
        "h3",
        "h4",
        "form",
        "fieldset",
        "legend",
        "table",
        "thead",
        "tbody",
        "tfoot",
        "tr",
        "th",
        "td",
        "caption",
        "details",
        "summary",
        "figure",
        "figcaption",
        "blockquote",
        "hr",
        "option",
        "optgroup",
        "datalist",
        "g",
        "defs",
        "symbol",
        "path",
        "rect",
        "circle",
        "ellipse",
        "line",
        "polyline",
        "polygon",
        "use",
        "linearGradient",
        "stop",
        "clipPath",
        "link",
        "meta",
        "script",
        "dialog",
        "template",
    ]
)
_PIECE = re.compile(r"\{%.*?%\}|\{\{.*?\}\}|\{#.*?#\}|<!--.*?-->|</?[a-zA-Z][\w-]*|/?>|\"|'|\s+|[^\s<>{}\"']+|.")
_FIELD = ".as_field_group }}"  # a block of its own
_KEPT = re.compile(r"<(pre|textarea)\b")


@dataclass(frozen=True)
class _Seam:
    """A place where a line may be broken: `at` ends the first part, `on` begins the second; the lower the better."""

    at: int
    on: int
    cost: int


def seams(line: str) -> Iterator[_Seam]:
    """Where a line may be broken without changing what is shown."""
    quote, tag, last, words = "", "", "", False
    for match in _PIECE.finditer(line):
        piece, begin, end = match[0], match.start(), match.end()
        if tag:
            if piece == quote:
                quote = ""
            elif not quote and piece in "\"'":
                quote = piece
            elif not quote and piece.endswith(">"):
                last, tag = tag, ""
                words = False
                if _block(last) or last == "<svg":
                    yield _Seam(end, end, 1)
                continue
            elif not quote and piece.isspace():
                yield _Seam(begin, end, 2)
            continue
        if (piece.startswith(("<", "</")) and piece.strip("</").isidentifier()) or re.fullmatch(r"</?[\w-]+", piece):
            if (_block(piece) or piece == "</svg") and begin:
                yield _Seam(begin, begin, 1)
            tag = piece
        elif piece.startswith("{{") and piece.endswith(_FIELD):
            yield from (_Seam(begin, begin, 1), _Seam(end, end, 1))
        elif piece.isspace():
            yield _Seam(begin, end, 3 if words else 1)
        words = not piece.startswith(("{%", "<")) and not piece.isspace()


def _block(tag: str) -> bool:
    return tag.strip("</>") in BLOCKS


def broken(line: str) -> list[str]:
    """A line as several, none wider than `WIDE` where that can be had."""
    indent = line[: len(line) - len(line.lstrip())]
    parts, left = [], line
    while len(left) > WIDE:
        fits = [s for s in seams(left) if len(indent) < s.at <= WIDE and left[: s.at].strip() and left[s.on :].strip()]
        later = [s for s in seams(left) if s.at > WIDE and left[s.on :].strip()]
        if not fits and not later:
            break
        best = min(fits, key=lambda s: (s.cost > 2, -s.at)) if fits else later[0]
        if fits and best.at < WIDE // 3:
            best = max(fits, key=lambda s: s.at)
        parts.append(left[: best.at].rstrip())
        left = indent + "  " * (not parts[1:]) + left[best.on :].lstrip()
        indent = left[: len(left) - len(left.lstrip())]
    return [*parts, left]


def formatted(text: str) -> str:
    """A template with its long lines broken."""
    lines, kept = [], False
    for line in text.split("\n"):
        kept = kept or bool(_KEPT.search(line))
        lines += [line] if kept or len(line) <= WIDE else broken(line)
        if kept and re.search(r"</(pre|textarea)>", line):
            kept = False
    return "\n".join(lines)


def templates() -> list[Path]:
    """Every template of the house."""
    return sorted(p for suffix in ("html", "svg", "txt") for p in FOLDER.rglob(f"templates/**/*.{suffix}"))


def main() -> int:
    """Format the templates, or check that they are; the exit code."""
    check, wrong = "--check" in sys.argv[1:], 0
    for path in templates():
        text = path.read_text()
        better = formatted(text)
        if better != text:
            wrong += 1
            print(f"{path.relative_to(ROOT)} {'could be broken' if check else 'is broken'} into shorter lines")
            if not check:
                path.write_text(better)
    return 1 if check and wrong else 0


if __name__ == "__main__":
    sys.exit(main())
