"""Rules of the house that a test can read."""

import ast
import doctest
import importlib
import pkgutil
import unittest
from graphlib import TopologicalSorter
from pathlib import Path

import coating
from tests.imports import folders, imports, modules, mutual

ROOT = Path(coating.__file__).parent


class House(unittest.TestCase):
    def test_the_core_knows_no_site_and_no_clock(self) -> None:
        forbidden = {"django", "studio", "random", "datetime", "time", "socket", "requests"}
        for path in ROOT.rglob("*.py"):
            for node in ast.walk(ast.parse(path.read_text())):
                names = [a.name for a in node.names] if isinstance(node, ast.Import) else []
                names += [node.module or ""] if isinstance(node, ast.ImportFrom) else []
                self.assertFalse({n.split(".")[0] for n in names} & forbidden, path)

    def test_imports_go_one_way(self) -> None:
        """Folders stand in an order, and no two files import each other."""
        edges = imports(modules(ROOT.parent, "coating"))
        self.assertGreater(len(edges), 150)
        self.assertEqual(mutual(edges), set())
        order = list(TopologicalSorter(folders(edges)).static_order())  # raises where there is a circle
        for lower, higher in (("units", "colour"), ("piece", "techniques"), ("techniques", "stack"), ("stack", "job"),
                              ("colour", "stock"), ("figures", "looks"), ("job", "facade")):  # fmt: skip
            self.assertLess(order.index(f"coating.{lower}"), order.index(f"coating.{higher}"))

    def test_refusals_name_what_a_kitchen_measures(self) -> None:
        """A length written into the sentence would stay in mm where sizes read in inches."""
        for path in ROOT.rglob("*.py"):
            for node in ast.walk(ast.parse(path.read_text())):
                if isinstance(node, ast.Raise) and isinstance(node.exc, ast.Call) and node.exc.args:
                    self.assertNotRegex(ast.unparse(node.exc.args[0]), r"\} ?(mm|°C|ml)\b", f"{path}:{node.lineno}")

    def test_examples_in_docstrings_run(self) -> None:
        ran = 0
        for info in pkgutil.walk_packages(coating.__path__, "coating."):
            if info.name.endswith("__main__"):
                continue
            module = importlib.import_module(info.name)
            result = doctest.testmod(module, extraglobs={"np": importlib.import_module("numpy")})
            self.assertEqual(result.failed, 0, info.name)
            ran += result.attempted
        self.assertGreater(ran, 15)
