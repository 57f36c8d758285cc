"""Amounts as makers type them, against pint and the published factors."""

import unittest

import pint

from coating.errors import Unreadable
from coating.quantities import (
    GRAMS_PER_ML,
    Measures,
    length_text,
    mass_text,
    measurable_g,
    temperature_text,
    typed_mass,
    typed_quarters,
)
from coating.typed import read_length, read_mass, read_temperature

BAG_G = 340.0


class Reading(unittest.TestCase):
    def test_masses_are_those_of_the_unit_library(self) -> None:
        registry = pint.UnitRegistry()
        for text, value, unit in (("6 oz", 6, "ounce"), ("1/2 lb", 0.5, "pound"), ("0,25 kg", 0.25, "kilogram")):
            self.assertAlmostEqual(read_mass(text), registry.Quantity(value, unit).to("gram").magnitude, places=9)
        # International yard and pound agreement of 1959: an ounce is 28.349523125 g, an inch 25.4 mm.
        self.assertAlmostEqual(read_mass("1 oz"), 28.349523125, places=9)
        self.assertAlmostEqual(read_length('1"'), 25.4, places=9)

    def test_spoons_and_cups_are_the_measuring_set(self) -> None:
        # 21 CFR 101.9(b)(5)(viii): 5, 15 and 240 ml; what they weigh is common practice, no source.
        for text, ml in (("1 tsp", 5), ("2 tablespoons", 30), ("1/4 cup", 60), ("60 ml", 60)):
            for of, grams_per_ml in GRAMS_PER_ML.items():
                self.assertAlmostEqual(read_mass(text, of=of), ml * grams_per_ml, places=9)

    def test_bags_and_shares_of_them(self) -> None:
        said = {
            "1 bag": 340,
            "half": 170,
            "half a bag": 170,
            "a quarter of the bag": 85,
            "¾ bag": 255,
            "two bags": 680,
            "Three Quarters": 255,
            "1 1/2 bags": 510,
            "a third of a bag": 340 / 3,
        }
        for text, mass_g in said.items():
            self.assertAlmostEqual(read_mass(text, bag_g=BAG_G), mass_g, places=9, msg=text)
        self.assertAlmostEqual(read_mass("1 lb 4 oz"), read_mass("20 oz"), places=9)
        self.assertAlmostEqual(read_mass("1 cup and 2 tbsp"), read_mass("270 ml"), places=9)

    def test_lengths(self) -> None:
        for text, mm in (("3/4 in", 19.05), ("2 3/8 inches", 60.325), ("6cm", 60), ("60", 60), ("2½ in", 63.5)):
            self.assertAlmostEqual(read_length(text), mm, places=9, msg=text)
        self.assertAlmostEqual(read_length("2", bare="in"), 50.8, places=9)

    def test_temperatures_are_no_differences(self) -> None:
        for text, c in (("104 F", 40), ("32°F", 0), ("38.5", 38.5), ("40 degrees C", 40), ("-40 f", -40)):
            self.assertAlmostEqual(read_temperature(text), c, places=9, msg=text)
        self.assertAlmostEqual(read_temperature("104", bare="F"), 40, places=9)

    def test_what_is_no_amount_says_how_to_write_one(self) -> None:
        for text in (
            "",
            "lots",
            "1/0",
            "3 apples",
            "1e400",
            "nan",
            "inf",
            "6 oz 3",
            "--4",
            "9" * 70,
            "1 2 3",
            "oz",
            "1,000 g",
            "½½",
            "1 in",
            "<b>3</b>",
            "3 g; drop",
        ):
            with self.assertRaises(Unreadable, msg=text) as refusal:
                read_mass(text, bag_g=BAG_G)
            self.assertTrue(refusal.exception.message.startswith("Write"), text)
        with self.assertRaisesRegex(Unreadable, "not come in bags"):
            read_mass("1 bag")
        for read, text in ((read_length, "3 oz"), (read_temperature, "3 in"), (read_temperature, "40 C 3 C")):
            with self.assertRaises(Unreadable):
                read(text)


class Writing(unittest.TestCase):
    def test_what_is_written_reads_back(self) -> None:
        for value in (0.4, 2.1, 9, 61, 255, 1240):
            self.assertAlmostEqual(read_mass(mass_text(value)), value, delta=0.05)
            self.assertAlmostEqual(read_mass(mass_text(value, "oz")), value, delta=0.15 if value < 28 else 1.42)
            self.assertAlmostEqual(read_length(length_text(value)), value, delta=0.05)
            self.assertAlmostEqual(read_length(length_text(value, "in")), value, delta=0.85)
            self.assertAlmostEqual(read_temperature(temperature_text(value, "F")), value, delta=0.3)

    def test_without_a_scale_it_is_what_can_be_measured(self) -> None:
        spoons = Measures(has_scale=False)
        for mass_g, text in ((290, "110 wafers"), (155, "60 wafers"), (20, "8 wafers"), (2, "1 wafer")):
            self.assertEqual(typed_mass(mass_g, spoons, bag_g=BAG_G), text)
            read_g = read_mass(text, bag_g=BAG_G, piece_g=2.6)
            self.assertLessEqual(abs(read_g - mass_g), max(2.6, 0.05 * mass_g))
        self.assertEqual(typed_mass(60, spoons, bag_g=200, family="cocoa"), "12 squares")
        self.assertEqual(typed_mass(60, spoons, bag_g=200, piece_g=3.0), "20 wafers", "ten were weighed")
        self.assertEqual([typed_mass(g, spoons, of="fat") for g in (0.2, 3, 9)], ["1/4 tsp", "3/4 tsp", "2 tsp"])
        for wanted_g in (0, 1, 31, 85, 290):
            up_g = measurable_g(wanted_g, spoons)
            self.assertTrue(0 <= up_g - wanted_g <= 13.0001, "never a third of needless grams")
        self.assertEqual(measurable_g(290, Measures()), 290)
        self.assertEqual([typed_quarters(v) for v in (0, 0.25, 1, 1.5)], ["0", "1/4", "1", "1 1/2"])
