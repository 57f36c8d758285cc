import unittest
import warnings

import numpy as np

from coating.colour.cie import illuminant_a, lab_from_reflectance, lab_from_srgb, srgb_from_lab, xyz_from_reflectance
from coating.errors import UnknownName

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import colour


class White(unittest.TestCase):
    def test_perfect_white(self) -> None:
        """CIE: D65 white, and neutral whatever the light."""
        np.testing.assert_allclose(xyz_from_reflectance(np.ones(31)), [0.95047, 1, 1.08883], atol=1e-12)
        for light in ("D65", "A"):
            np.testing.assert_allclose(lab_from_reflectance(np.ones(31), illuminant=light), [100, 0, 0], atol=1e-6)

    def test_greys_are_neutral(self) -> None:
        for reflectance, lightness in ((0.05, 26.7348), (0.18, 49.4961), (0.5, 76.0693), (0.8, 91.6849)):
            lab = lab_from_reflectance(np.full(31, reflectance))
            self.assertAlmostEqual(lab[0], lightness, places=3)
            self.assertLess(abs(lab[1:]).max(), 1e-6)

    def test_illuminant_a_is_the_published_table(self) -> None:
        table = colour.SDS_ILLUMINANTS["A"]
        np.testing.assert_allclose(illuminant_a(), [table[float(w)] for w in range(400, 701, 10)], atol=0.01)

    def test_unknown_light(self) -> None:
        with self.assertRaises(UnknownName):
            lab_from_reflectance(np.ones(31), illuminant="candle")


class ColorChecker(unittest.TestCase):
    def test_24_measured_patches(self) -> None:
        """Spectra "BabelColor Average" shipped with colour-science; its own 1 nm integration is the reference."""
        observer = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"]
        light = colour.SDS_ILLUMINANTS["D65"]
        chart = colour.SDS_COLOURCHECKERS["BabelColor Average"]
        self.assertEqual(len(chart), 24)
        for name, spectrum in chart.items():
            ours = lab_from_reflectance([spectrum[float(w)] for w in range(400, 701, 10)])
            xyz = colour.sd_to_XYZ(spectrum, observer, light, method="Integration") / 100
            theirs = colour.XYZ_to_Lab(xyz, illuminant=colour.XYZ_to_xy([0.95047, 1, 1.08883]))
            np.testing.assert_allclose(ours, theirs, atol=0.35, err_msg=name)


class Screen(unittest.TestCase):
    def test_primaries(self) -> None:
        """sRGB to Lab under D65 (0.95047, 1, 1.08883)."""
        srgb = [[1, 0, 0], [0, 1, 0], [0, 0, 1], [1, 1, 1], [0.5019608] * 3]
        lab = [[53.24, 80.09, 67.2], [87.735, -86.18, 83.18], [32.3, 79.19, -107.86], [100, 0, 0], [53.585, 0, 0]]
        np.testing.assert_allclose(lab_from_srgb(srgb), lab, atol=0.03)

    def test_round_trip_and_gamut_mark(self) -> None:
        values = np.random.default_rng(7).random((200, 3))
        back, inside = srgb_from_lab(lab_from_srgb(values))
        np.testing.assert_allclose(back, values, atol=1e-9)
        self.assertTrue(inside.all())
        shown, inside = srgb_from_lab([60, -120, 20])
        self.assertFalse(inside)
        self.assertTrue(((shown >= 0) & (shown <= 1)).all())
