"""Measures of the house that would otherwise creep: long lines, formatting that is switched off, untyped objects."""

from __future__ import annotations

import ast
import re
import unittest
from collections import Counter
from pathlib import Path

from tools.database import ROOT
from tools.markup import LONGEST, broken, formatted, templates

ROWS_AND_VALUES = {"Bowl", "Extra", "Ingredient", "Kitchen", "Layer", "Piece", "Tone", "Command"}
WEB, OWN = ROOT / "studio" / "static" / "studio" / "css", ("coating", "studio", "tools", "tests")


def sources(*folders: str) -> list[Path]:
    return [p for folder in folders for p in (ROOT / folder).rglob("*.py") if "migrations" not in p.parts]


def counted(pattern: str, paths: list[Path]) -> int:
    return sum(len(re.findall(pattern, path.read_text())) for path in paths)


def long_lines(paths: list[Path]) -> int:
    return sum(len(line) > LONGEST for path in paths for line in path.read_text().splitlines())


def variables(text: str) -> set[str]:
    """The names of arguments and of what is set within functions."""
    functions = [n for n in ast.walk(ast.parse(text)) if isinstance(n, (ast.FunctionDef, ast.Lambda))]
    nodes = [n for function in functions for n in ast.walk(function)]
    arguments = {n.arg for n in nodes if isinstance(n, ast.arg)}
    return arguments | {n.id for n in nodes if isinstance(n, ast.Name) and isinstance(n.ctx, ast.Store)}


class Measures(unittest.TestCase):
    def test_lines_of_markup_and_styles(self) -> None:
        self.assertGreater(len(templates()), 100)
        self.assertLessEqual(long_lines(templates()), 40)
        self.assertLessEqual(long_lines(list(WEB.glob("*.css"))), 10)
        for path in templates():
            text = path.read_text()
            self.assertEqual(formatted(text), text, f"{path}: python -m tools.markup breaks its lines")

    def test_conditions_are_nested_twice_at_most(self) -> None:
        """What would go deeper is a sentence, put together in Python, or a part of the page with a file of its own."""
        for path in templates():
            deep = 0
            for word in re.findall(r"{%\s*(if|endif)\b", path.read_text()):
                deep += 1 if word == "if" else -1
                self.assertLessEqual(deep, 2, path)

    def test_code(self) -> None:
        self.assertLessEqual(counted("# fmt: " + "skip", sources(*OWN)), 80)
        self.assertLessEqual(counted(re.escape("dict[str, " + "Any]"), sources("studio")), 120)
        self.assertLessEqual(counted(re.escape("density_kg_m3(" + "0.32)"), sources(*OWN)), 2)
        for path in sources(*OWN):
            self.assertLessEqual(len(path.read_text().splitlines()), 400, path)

    def test_a_class_has_its_name_to_itself(self) -> None:
        """But for a row and the core's value of the same thing."""
        paths = sources("coating", "studio", "tools")
        names = [n for path in paths for n in re.findall(r"^class ([A-Z]\w*)\b", path.read_text(), re.MULTILINE)]
        twice = {name for name, times in Counter(names).items() if times > 1}
        self.assertEqual(twice, ROWS_AND_VALUES)

    def test_no_variable_is_a_verb(self) -> None:
        """A variable is called what it holds, a recipe or a plan, not what was done to get it."""
        self.assertEqual(variables("class A:\n  told: int\ndef f(found):\n  asked = g(told)"), {"found", "asked"})
        for path in sources(*OWN):
            self.assertFalse(variables(path.read_text()) & {"found", "told", "asked"}, path)

    def test_packages_say_what_they_export(self) -> None:
        for path in sources("coating", "studio"):
            text = path.read_text()
            if path.name == "__init__.py" and re.search(r"^from (coating|studio)\b", text, re.MULTILINE):
                self.assertIn("__all__", text, path)

    def test_versions_agree(self) -> None:
        said = re.search(r'version = "([\d.]+)"', (ROOT / "pyproject.toml").read_text())
        assert said
        self.assertIn(f"\n## {said[1]}\n", (ROOT / "CHANGELOG.md").read_text()[:60])

    def test_every_decision_has_a_status(self) -> None:
        for path in (ROOT / "docs" / "decisions").glob("*.md"):
            self.assertIn("**Status:** ", path.read_text()[:300], path)


class Broken(unittest.TestCase):
    def test_nothing_that_is_shown_changes(self) -> None:
        """Words keep their blanks and gain none; quotes, tags of templates and inline seams stay whole."""
        line = (
            '<p class="where"><a href="{% url \'bowls:bowl\' bowl.pk %}" title="a b c">{{ bowl.name }}</a>, {% if x %}'
            "one{% else %}two{% endif %}. A sentence that goes on<b>bold</b> until it is wider than any line may "
            "be wide.</p><ul><li>x</li></ul>"
        )
        parts = broken(line)
        self.assertGreater(len(parts), 2)
        self.assertTrue(all(len(part) <= LONGEST for part in parts))
        blank = re.compile(r"\s+")
        data = blank.sub(" ", " ".join(p.strip() for p in parts))
        for seam in ("</p> <ul>", "<ul> <li>", "</li> </ul>"):
            data = data.replace(seam, seam.replace(" ", ""))
        self.assertEqual(data, line)
        self.assertIn("on<b>bold</b>", data)

    def test_what_is_kept_as_it_is(self) -> None:
        kept = "<pre>" + "word " * 60 + "</pre>"
        self.assertEqual(formatted(kept), kept)
        self.assertEqual(broken("x" * 300), ["x" * 300])
        self.assertEqual(formatted(""), "")
