"""Whatever is public says what it is; what the core exports does so in full."""

from __future__ import annotations

import ast
import importlib
import inspect
import pkgutil
import re
import unittest
from collections.abc import Callable, Iterator
from typing import Any

import coating
from tests.imports import modules
from tools.database import ROOT

OURS = ("coating", "studio", "tools")
ASIDE = ("settings", "migrations")  # these hold no functions of ours


def silent(tree: ast.Module, module: str) -> Iterator[str]:
    """Public functions, classes and methods without a docstring, but for those that redefine what a base explains."""
    for node in tree.body:
        if not isinstance(node, ast.FunctionDef | ast.ClassDef) or node.name.startswith("_"):
            continue
        if not ast.get_docstring(node):
            yield node.name
        for method in node.body if isinstance(node, ast.ClassDef) else ():
            if (
                isinstance(method, ast.FunctionDef)
                and not method.name.startswith("_")
                and not ast.get_docstring(method)
            ):
                bases = getattr(importlib.import_module(module), node.name).__mro__[1:]
                if not any(method.name in vars(base) for base in bases):
                    yield f"{node.name}.{method.name}"


def exported() -> Iterator[Callable[..., Any]]:
    for info in pkgutil.walk_packages(coating.__path__, "coating."):
        if info.ispkg:
            module = importlib.import_module(info.name)
            yield from filter(inspect.isfunction, (getattr(module, name) for name in getattr(module, "__all__", ())))


class Docstrings(unittest.TestCase):
    def test_everything_public_has_one(self) -> None:
        seen = 0
        for root in OURS:
            for name, path in modules(ROOT, root).items():
                if not {*ASIDE} & {*name.split(".")}:
                    seen += 1
                    self.assertEqual(list(silent(ast.parse(path.read_text()), name)), [], name)
        self.assertGreater(seen, 400)

    def test_what_is_exported_is_explained_in_full(self) -> None:
        seen = 0
        for function in {*exported()}:
            with self.subTest(function=function.__qualname__):
                seen += 1
                data = inspect.getdoc(function) or ""
                sections = re.split(r"\n(\w+)\n-+\n", data)
                titles = sections[1::2]
                names = [name.lstrip("*") for name in inspect.signature(function).parameters]
                self.assertIn("Returns", titles)
                if names:
                    self.assertIn("Parameters", titles)
                    listed = sections[2 * titles.index("Parameters") + 2]
                    heads = re.findall(r"^(\w[\w, ]*?)(?: :.*)?$", listed, re.MULTILINE)
                    self.assertEqual([n for head in heads for n in head.split(", ")], names)
        self.assertGreater(seen, 40)
