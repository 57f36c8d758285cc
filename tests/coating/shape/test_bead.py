import math
import unittest

import numpy as np

from coating.errors import OutOfBounds
from coating.flow.windows import window
from coating.shape.bead import settled_bead

PULL = 1259 * 9.81


class Beads(unittest.TestCase):
    def test_the_yield_ridge(self) -> None:
        """Derived closed form: a line of 2 mm at 12 Pa settles to 1.419 times its width."""
        bead = settled_bead(2, 12)
        self.assertAlmostEqual(bead.width_mm / 2, 1.419, delta=0.001)
        x = np.linspace(0, bead.width_mm / 2000, 20001)
        section_m2 = 2 * np.trapezoid(np.sqrt(2 * 12 * x / PULL), x)
        self.assertAlmostEqual(section_m2 * 1e6 / math.pi, 1, delta=0.001, msg="the section of the round bead stays")
        self.assertAlmostEqual(bead.height_mm, np.sqrt(2 * 12 * x[-1] / PULL) * 1000, places=3)

    def test_the_windows_keep_what_they_promise(self) -> None:
        """Lace of 2 mm stays under 1.5 times its width, lettering of 1 mm under 1.3, with the thinnest allowed too."""
        for name, bead_mm, most in (("lace", 2.0, 1.5), ("lettering", 1.0, 1.3)):
            thinnest = window(name).yield_stress_pa[0]
            self.assertLessEqual(settled_bead(bead_mm, thinnest).width_mm / bead_mm, most)

    def test_moves_and_ends(self) -> None:
        widths = [settled_bead(2, tau).width_mm for tau in np.geomspace(1, 400, 40)]
        self.assertLessEqual(np.diff(widths).max(), 0)
        self.assertEqual(settled_bead(1, 300), settled_bead(1, 400), "it stands as it was pressed")
        for bad in ((0, 12), (2, 0), (2, math.nan), (math.inf, 12)):
            with self.assertRaises(OutOfBounds):
                settled_bead(*bad)
