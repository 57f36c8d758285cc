import math
import unittest

from scipy.integrate import solve_ivp

from coating.errors import OutOfBounds
from coating.heat.cooling import BowlCooling
from coating.heat.melting import first_burst_s, melting_energy_j, melting_time_s, warmed_temperature_c
from coating.heat.setting import setting_time


class Cooling(unittest.TestCase):
    def test_time_constants(self) -> None:
        """Derived figures: 21, 26 and 32 min for 100, 250 and 500 g; 250 g from 40 to 32 degC in about 14 min."""
        for mass, minutes in ((100, 21), (250, 26), (500, 32)):
            self.assertAlmostEqual(BowlCooling(mass, 21).time_constant_s / 60, minutes, delta=0.7)
        self.assertAlmostEqual(BowlCooling(250, 21).time_to_s(31, 29) / 60, 5.7, delta=0.15)
        self.assertAlmostEqual(BowlCooling(250, 21).time_to_s(40, 32) / 60, 14, delta=0.3)

    def test_is_newtons_law(self) -> None:
        bowl = BowlCooling(250, 21)
        solved = solve_ivp(lambda _, t: -(t - 21) / bowl.time_constant_s, (0, 900), [42.0], rtol=1e-9)
        self.assertAlmostEqual(bowl.temperature_c(42, 900), solved.y[0, -1], places=5)
        self.assertAlmostEqual(bowl.temperature_c(42, bowl.time_to_s(42, 30)), 30)

    def test_ends(self) -> None:
        self.assertEqual(BowlCooling(250, 21).time_to_s(25, 30), 0)
        self.assertEqual(BowlCooling(250, 21).time_to_s(40, 21), math.inf)


class Melting(unittest.TestCase):
    def test_energy(self) -> None:
        """Handbook, from memory: about 85 kJ/kg from 20 to 45 degC; 300 g at 800 W and half power about two minutes."""
        self.assertAlmostEqual(melting_energy_j(1000, 20, 45) / 1000, 85, delta=1.5)
        self.assertAlmostEqual(melting_time_s(300, start_c=20, target_c=45, power_w=800), 129, delta=5)

    def test_energy_and_temperature_are_inverse(self) -> None:
        for start, target in ((20, 30), (20, 45), (35, 50)):
            energy = melting_energy_j(250, start, target)
            solid = 1.0 if start < 32 else 0.0
            energy -= 0 if start < 32 else 0.25 * 45e3
            self.assertAlmostEqual(warmed_temperature_c(250, start, energy, solid_fraction=solid)[0], target)

    def test_half_way_through_melting(self) -> None:
        temperature, solid = warmed_temperature_c(100, 20, 0.1 * (12 * 1600 + 22.5e3))
        self.assertEqual((temperature, round(solid, 6)), (32.0, 0.5))

    def test_bursts_are_short_for_little(self) -> None:
        self.assertEqual(first_burst_s(5, power_w=1000), 3.0)
        self.assertEqual(first_burst_s(2000, power_w=800), 30.0)


class Setting(unittest.TestCase):
    def test_practice(self) -> None:
        """Common practice, no source: thin strip about 10 min; 8 mm mould 10 min in the freezer, 20 in the fridge."""
        self.assertAlmostEqual(setting_time(2, pour_c=40, surround_c=21, sides=2).touch_min, 9.3, delta=0.1)
        freezer = setting_time(8, pour_c=40, surround_c=-18, place="freezer", sides=1.6)
        fridge = setting_time(8, pour_c=40, surround_c=5, place="fridge", sides=1.6)
        self.assertAlmostEqual(freezer.release_min, 10, delta=3.5)
        self.assertAlmostEqual(fridge.release_min, 20, delta=7)

    def test_untempered_is_slowest_and_a_warm_room_is_refused(self) -> None:
        times = [setting_time(1, pour_c=35, surround_c=20, white=w).release_min for w in ("coating", "untempered")]
        self.assertLess(times[0], times[1])
        with self.assertRaises(OutOfBounds):
            setting_time(1, pour_c=40, surround_c=27)
