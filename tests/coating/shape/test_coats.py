import math
import unittest

from coating.errors import OutOfBounds
from coating.flow.casson1959 import Flow
from coating.flow.material import Material
from coating.flow.trade_number import flow_from_number
from coating.piece.cores import Disc
from coating.shape.coats import coat_thickness_mm
from coating.shape.pieces import RoundBiscuit
from coating.stack.layers import Layer, on_one_g


class Coats(unittest.TestCase):
    def test_drained_film(self) -> None:
        """Derived closed form: tau0 12, eta 2, 50 mm below the line, 30 s, no taps: 1.866 mm."""
        self.assertAlmostEqual(coat_thickness_mm(Flow(12, 2), below_line_mm=50, drain_s=30, tap_g=0), 1.866, places=2)

    def test_newtonian_limit(self) -> None:
        """Jeffreys 1930: h = sqrt(eta z/(rho g t))."""
        density = 1 / (0.32 / 900 + 0.68 / 1550)  # of fat and solids, kg/m3
        expected = math.sqrt(2 * 0.05 / (density * 9.81 * 30)) * 1000
        got = coat_thickness_mm(Flow(0, 2), below_line_mm=50, drain_s=30, tap_g=0, material=Material(0.32))
        self.assertAlmostEqual(got, expected, places=9)

    def test_the_dip_window_leaves_its_coat(self) -> None:
        """The window of a tapped dip, N 30 to 50, is the coat of 1.1 to 1.6 mm at its foot."""
        for number, coat in ((30, 1.1), (50, 1.6)):
            self.assertAlmostEqual(coat_thickness_mm(flow_from_number(number), below_line_mm=30), coat, delta=0.02)

    def test_biscuit(self) -> None:
        """60 x 10 mm, all over at 1.5 mm: 14.2 g."""
        biscuit = RoundBiscuit(60, 10)
        self.assertAlmostEqual(biscuit.dipped_area_mm2(60) * 1.5 * 1.259e-3, 14.2, delta=0.05)
        self.assertAlmostEqual(biscuit.dipped_area_mm2(30) * 2, biscuit.dipped_area_mm2(60))
        self.assertEqual(biscuit.dipped_area_mm2(0), 0)

    def test_deeper_and_thicker_take_more(self) -> None:
        biscuit, thin, thick = Disc(60, 8), flow_from_number(30), flow_from_number(50)
        masses = [on_one_g(biscuit, Layer("dip", share=share), flow=thin) for share in (0.1, 0.33, 0.5, 1.0)]
        self.assertEqual(masses, sorted(masses))
        self.assertGreater(on_one_g(biscuit, Layer("dip", share=0.5), flow=thick), masses[2])
        with self.assertRaises(OutOfBounds):
            RoundBiscuit(-1, 8)
