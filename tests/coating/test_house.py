"""Rules of the house that a test can read."""

import ast
import doctest
import importlib
import pkgutil
import unittest
from pathlib import Path

import coating

ROOT = Path(coating.__file__).parent


class House(unittest.TestCase):
    def test_the_core_knows_no_site_and_no_clock(self) -> None:
        forbidden = {"django", "studio", "random", "datetime", "time", "socket", "requests"}
        for path in ROOT.rglob("*.py"):
            for node in ast.walk(ast.parse(path.read_text())):
                names = [a.name for a in node.names] if isinstance(node, ast.Import) else []
                names += [node.module or ""] if isinstance(node, ast.ImportFrom) else []
                self.assertFalse({n.split(".")[0] for n in names} & forbidden, path)

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
