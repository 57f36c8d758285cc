"""Ways of melting, against the trade's own times and an integration of the bath."""

import unittest

from scipy.integrate import solve_ivp

from coating.errors import OutOfBounds, UnknownName
from coating.heat.bursts import burst_plan
from coating.heat.melting import CEILING_C, COUPLING, warmed_temperature_c
from coating.heat.melting_curve import LATENT_HEAT, MELTS_AT_C, SPECIFIC_HEAT_LIQUID, SPECIFIC_HEAT_SOLID
from coating.heat.schools import BATH_W_K, SCHOOLS, bath_time_s, melting_way


def way(school: str, mass_g: float = 300, **options: float):
    return melting_way(school, mass_g, **{"start_c": 21.0, "target_c": 42.0, **options})


class Schools(unittest.TestCase):
    def test_300_g_take_three_bursts_of_20_s(self) -> None:
        """Common practice, no source: 20 s x3 for about 300 g; the last lumps are stirred out."""
        result = way("bursts_20")
        self.assertAlmostEqual(result.all_s, 54, delta=1)
        self.assertEqual(result.first_s, 20)

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
        heat = solve_ivp(
            lambda _, h: [BATH_W_K * (55 - temperature(h[0])) / 0.3],
            (0, 3000),
            [0.0],
            events=there,
            max_step=1.0,
            rtol=1e-8,
        )
        ours = bath_time_s(300, start_c=21, target_c=42, bath_c=55)
        self.assertAlmostEqual(ours, heat.t_events[0][0], delta=1.5)
        self.assertTrue(300 <= ours <= 480, "5 to 8 min for 300 g: common practice, no source")

    def test_no_burst_takes_half_of_the_bowl_past_the_ceiling(self) -> None:
        for name, school in SCHOOLS.items():
            if school.heat == "hob":
                continue
            for mass_g in (60, 100, 300, 900):
                given = {"power_w": 1000, "power_fraction": school.power_fraction}
                plan = burst_plan(mass_g, start_c=21, target_c=42, fixed_s=school.fixed_burst_s, **given)
                before = [(21.0, 1.0), *zip(plan.predicted_c, plan.solid_fractions, strict=True)]
                for burst_s, (warm_c, solid) in zip(plan.bursts_s, before, strict=False):
                    energy = burst_s * 1000 * school.power_fraction * COUPLING
                    half_c, _ = warmed_temperature_c(mass_g / 2, warm_c, energy, solid_fraction=solid)
                    self.assertTrue(half_c <= CEILING_C + 1.5 or burst_s <= 3, (name, mass_g, half_c))
                result = way(name, mass_g, power_w=1000)
                self.assertLessEqual(result.last_s, result.first_s)
        self.assertTrue(way("bursts_30", 100).too_long)

    def test_a_school_keeps_its_own_burst_until_the_mass_needs_less(self) -> None:
        """Common practice, no source: 300 g take 30 s, then shorter; 20 s at a time are 20, 20 and about 15."""
        for school, first in (("bursts_30", (30.0, 19.0)), ("bursts_20", (20.0, 20.0, 14.0))):
            plan = burst_plan(
                300, start_c=21, target_c=42, power_w=800, power_fraction=1.0, fixed_s=SCHOOLS[school].fixed_burst_s
            )
            self.assertEqual(plan.bursts_s[: len(first)], first)
        self.assertLess(way("half_power", 300, power_w=1000).all_s, way("half_power", 300, power_w=600).all_s)

    def test_refusals(self) -> None:
        with self.assertRaises(UnknownName):
            way("sunshine")
        for mass_g in (-1, float("nan"), 1e9):
            with self.assertRaises(OutOfBounds):
                way("half_power", mass_g)
