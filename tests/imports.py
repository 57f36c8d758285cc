"""Which file imports which, read from the source; what is imported for types alone does not count."""

from __future__ import annotations

import ast
from collections import defaultdict
from collections.abc import Iterator
from pathlib import Path


def modules(root: Path, package: str) -> dict[str, Path]:
    """The modules of a package by their dotted names, without migrations."""
    paths = [p for p in (root / package).rglob("*.py") if "migrations" not in p.parts]
    dotted = {".".join(p.relative_to(root).with_suffix("").parts): p for p in paths}
    return {name.removesuffix(".__init__"): path for name, path in dotted.items()}


def imports(known: dict[str, Path]) -> dict[str, set[str]]:
    """What each module imports of the others, within functions too."""
    result: dict[str, set[str]] = defaultdict(set)
    for name, path in known.items():
        for node in _running(ast.parse(path.read_text())):
            if isinstance(node, ast.ImportFrom) and node.module:
                for alias in node.names:
                    full = f"{node.module}.{alias.name}"
                    to = full if full in known else node.module
                    if to in known and to != name:
                        result[name].add(to)
    return result


def _running(tree: ast.AST) -> Iterator[ast.AST]:
    for node in ast.iter_child_nodes(tree):
        if isinstance(node, ast.If) and getattr(node.test, "id", "") == "TYPE_CHECKING":
            continue
        yield node
        yield from _running(node)


def mutual(edges: dict[str, set[str]]) -> set[tuple[str, str]]:
    """Pairs of modules that import each other."""
    return {(a, b) for a in edges for b in edges[a] if a < b and a in edges.get(b, ())}


def folders(edges: dict[str, set[str]]) -> dict[str, set[str]]:
    """Which folder imports from which other."""
    between: dict[str, set[str]] = defaultdict(set)
    for name, others in edges.items():
        mine = ".".join(name.split(".")[:2])
        between[mine] |= {".".join(o.split(".")[:2]) for o in others} - {mine}
    return between
