"""Pictures of pieces: every core with every layer gives paths that can be drawn, inside the picture."""

import re
import unittest

from coating.figures.outlines import Oval
from coating.looks.piece import CORE, CORE_TINTS, LIFTED, piece_picture
from coating.piece.kinds import KINDS
from coating.stack.layers import Layer
from coating.techniques import TECHNIQUES

NUMBER = re.compile(r"-?\d+(?:\.\d+)?")


class Pictures(unittest.TestCase):
    def test_every_layer_on_every_core_is_drawn_within_the_picture(self) -> None:
        for kind in KINDS.values():
            self.assertIn(kind.name, CORE_TINTS)
            for _, size in kind.sizes:
                for name in TECHNIQUES:
                    marks = piece_picture(kind, kind.core(*size), (Layer(name, share=0.5, count=5),))
                    self.assertEqual(marks[0].layer if name != "stick" or kind.figure == "hollow" else CORE, CORE)
                    self.assertTrue(any(m.layer == 0 and m.path for m in marks), (kind.name, name))
                    for mark in marks:
                        first = [float(n) for n in NUMBER.findall(mark.path)[:2]]
                        self.assertTrue(all(-2 <= n <= 102 for n in first), (kind.name, name, mark.path[:40]))
                        self.assertNotIn("nan", mark.path)

    def test_what_is_on_a_stick_stands_above_it(self) -> None:
        ball = KINDS["ball"]
        stick, *rest = piece_picture(ball, ball.core(32, 32), (Layer("stick"), Layer("dip")))
        (begin, end), (scale, _, down) = [float(n) for n in NUMBER.findall(stick.path)[1:]], LIFTED
        self.assertEqual((stick.layer, stick.lifted, all(m.lifted for m in rest)), (0, False, True))
        self.assertTrue(90 * scale + down < end <= 98 and begin < 90 * scale + down, "from within it to below it")
        self.assertFalse(any(m.lifted for m in piece_picture(ball, ball.core(32, 32), (Layer("dip"),))))

    def test_a_dip_covers_as_much_as_is_said(self) -> None:
        """The line of a dip of a half lies in the middle; all of it is the outline itself."""
        ball = Oval(40, 40)
        self.assertEqual((ball.level(0.5), ball.level(1.0), ball.level(0.0)), (50, 10, 90))
        self.assertEqual(ball.below(1.0), ball.whole())
        self.assertIn("M10.0 50.0", ball.below(0.5))
