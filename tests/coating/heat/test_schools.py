"""Ways of melting, against the trade's own times and an integration of the bath."""

import unittest

from scipy.integrate import solve_ivp

from coating.errors import OutOfBounds, UnknownName
from coating.heat.melting import CEILING_C, COUPLING, LATENT_HEAT, MELTS_AT_C, SPECIFIC_HEAT_LIQUID, SPECIFIC_HEAT_SOLID
from coating.heat.schools import BATH_W_K, SCHOOLS, bath_time_s, melting_way


def way(school: str, mass_g: float = 300, **options: float):
    return melting_way(school, mass_g, **{"start_c": 21.0, "target_c": 42.0, **options})


class Schools(unittest.TestCase):
    def test_300_g_take_three_bursts_of_20_s(self) -> None:
        # Common practice, no source: 20 s x3 for about 300 g.
        found = way("bursts_20")
        self.assertAlmostEqual(found.all_s, 60, delta=3)
        self.assertEqual(found.first_s, 20)

    def test_a_bath_against_an_integration(self) -> None:
        # Enthalpy H in J/kg through the melting plateau, Newton heating towards the bath.
        solid, melted = SPECIFIC_HEAT_SOLID * (MELTS_AT_C - 21), LATENT_HEAT

        def temperature(h: float) -> float:
            if h < solid:
                return 21 + h / SPECIFIC_HEAT_SOLID
            return MELTS_AT_C + max(0.0, h - solid - melted) / SPECIFIC_HEAT_LIQUID

        def there(_: float, h: list[float]) -> float:
            return temperature(h[0]) - 42

        there.terminal = True  # type: ignore[attr-defined]
        heat = solve_ivp(lambda _, h: [BATH_W_K * (55 - temperature(h[0])) / 0.3], (0, 3000), [0.0], events=there,
                         max_step=1.0, rtol=1e-8)  # fmt: skip
        ours = bath_time_s(300, start_c=21, target_c=42, bath_c=55)
        self.assertAlmostEqual(ours, heat.t_events[0][0], delta=1.5)
        self.assertTrue(300 <= ours <= 480, "5 to 8 min for 300 g: common practice, no source")

    def test_no_burst_takes_liquid_past_the_ceiling(self) -> None:
        for name, school in SCHOOLS.items():
            if school.heat == "hob":
                continue
            for mass_g in (60, 100, 300, 900):
                found = way(name, mass_g, power_w=1000)
                energy = found.last_s * 1000 * school.power_fraction * COUPLING
                rise = energy / (mass_g / 1000 * SPECIFIC_HEAT_LIQUID)
                self.assertTrue(rise <= CEILING_C - 38 or found.last_s <= 3, (name, mass_g))
                self.assertLessEqual(found.last_s, found.first_s)
        self.assertTrue(way("bursts_30", 100).too_long)
        self.assertLess(way("half_power", 300, power_w=1000).all_s, way("half_power", 300, power_w=600).all_s)

    def test_refusals(self) -> None:
        with self.assertRaises(UnknownName):
            way("sunshine")
        for mass_g in (-1, float("nan"), 1e9):
            with self.assertRaises(OutOfBounds):
                way("half_power", mass_g)
