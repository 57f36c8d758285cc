"""Every technique, as its one file says it: reckoned, drawn, planned, explained."""

import unittest
from pathlib import Path

from coating.figures.outlines import outline_of
from coating.flow.windows import WINDOWS
from coating.heat.times import SHAPES
from coating.job import Kitchen, Piece, Shelf, Wanted, reckon
from coating.limits import BOUNDS
from coating.piece.kinds import KINDS
from coating.stack.layers import Layer
from coating.stock.ingredients import demo_ingredient
from coating.techniques import TECHNIQUES
from coating.techniques.base import INSIDE, LINE

SHELF = Shelf((demo_ingredient("bright"),), (), {"palm": demo_ingredient("palm_flakes")})


def made_on(name: str) -> str:
    """A kind of core that a technique goes on."""
    technique = TECHNIQUES[name]
    if technique.only_on:
        return next(k.name for k in KINDS.values() if k.figure == technique.only_on)
    return "mould" if technique.on == INSIDE else "round_biscuit"


class EveryTechnique(unittest.TestCase):
    def test_reckoned_and_planned(self) -> None:
        for name, technique in TECHNIQUES.items():
            kind = KINDS[made_on(name)]
            layer = Layer(name, id="a", length_mm=200.0 if technique.measured == LINE else None)
            reckoning = reckon(Wanted((Piece("p", kind.name, kind.core(*kind.usual), 12, (layer,)),)), Kitchen(), SHELF)
            (line,) = reckoning.lines
            self.assertEqual(bool(line.bowl), bool(technique.window), name)
            self.assertEqual(line.on_one_g > 0, technique.measured not in ("none",) and technique.each_g > 0, name)
            mine = [s for s in reckoning.steps if s.layer == "a" and s.kind in ("make", "stick")]
            self.assertTrue(mine and all(s.hands_s > 0 and s.says.endswith(".") for s in mine), name)
            if technique.coating:
                self.assertTrue(
                    reckoning.steps[-1].kind == "wash" and any(s.kind in ("wait", "release") for s in reckoning.steps)
                )

    def test_drawn(self) -> None:
        for name, technique in TECHNIQUES.items():
            kind = KINDS[made_on(name)]
            paths = technique.draw(outline_of(kind, kind.core(*kind.usual)), Layer(name), ())
            self.assertTrue(paths and all(path.startswith("M") for path, _, _ in paths), name)

    def test_explained(self) -> None:
        windows = {w.technique for w in WINDOWS}
        for name, technique in TECHNIQUES.items():
            self.assertTrue(technique.title and technique.looks and "{them}" in technique.does, name)
            self.assertTrue(technique.window in windows or not technique.window, name)
            self.assertIn(technique.sets_as, SHAPES)
            self.assertEqual(bool(technique.faults), technique.coating or name in ("topping", "stick"), name)
            bought = technique.extra not in ("", "mould", "sheet") or name == "own"
            self.assertEqual(technique.coating, not bought, name)
            for field in technique.fields:
                self.assertTrue(
                    field.label[:1].isupper() and (field.bound in BOUNDS or field.typed in ("pills", "text"))
                )

    def test_a_technique_is_its_file(self) -> None:
        """Nothing else in the core lists them."""
        root = Path(__import__("coating").__file__).parent
        for path in (root / "techniques").glob("*.py"):
            if path.stem not in ("__init__", "base", "measures", "ways"):
                self.assertEqual(TECHNIQUES[path.stem].name, path.stem)
        data = [p for p in root.rglob("*.py") if p.parent.name != "techniques" and '"stamped_disc"' in p.read_text()]
        self.assertEqual(data, [])
