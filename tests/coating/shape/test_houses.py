"""Boxes and houses: nets and grams by hand, glue, rows of sweets, and orders in which nothing blocks a hand."""

from __future__ import annotations

import math
from itertools import permutations
from unittest import TestCase

from coating.errors import CoatingError, OutOfBounds
from coating.flow.material import ORDINARY
from coating.plan.assembly import AssemblyPart, house_parts, order
from coating.shape.houses.glue import glue, sweets_along
from coating.shape.houses.net import net, template

RHO = ORDINARY.g_per_mm3


class Nets(TestCase):
    def test_a_house_by_hand(self) -> None:
        """120 x 90, walls 70, sheets 5, roof 45 degrees standing out 8: gable 90 x 70 + 45 x 45, slope 53 sqrt 2."""
        house = net("house", long_mm=120, wide_mm=90, wall_mm=70, thick_mm=5)
        area = {p.name: p.area_mm2 for p in house.panels}
        self.assertAlmostEqual(area["Gable"], 90 * 70 + 45 * 45)
        self.assertAlmostEqual(area["Roof half"], 136 * 53 * math.sqrt(2))
        self.assertAlmostEqual(area["Side wall"], 110 * 70)
        self.assertAlmostEqual(area["Base"], 136 * 106)
        total = 136 * 106 + 2 * (110 * 70 + 90 * 70 + 45 * 45 + 136 * 53 * math.sqrt(2))
        self.assertAlmostEqual(house.panels_g, total * 5 * RHO)
        self.assertAlmostEqual(house.glued_mm, 2 * (90 + 110) + 4 * 70 + 4 * 45 * math.sqrt(2) + 136)
        self.assertEqual(house.parts, 7)

    def test_a_box_and_its_template(self) -> None:
        box = net("box", long_mm=100, wide_mm=60, wall_mm=40, thick_mm=4, overhang_mm=0)
        self.assertAlmostEqual(box.area_mm2, 2 * 100 * 60 + 2 * 92 * 40 + 2 * 60 * 40)
        self.assertAlmostEqual(box.inside_ml, 92 * 52 * 40 / 1000)
        spots = template(box)
        for (a, ax, ay), (b, bx, by) in permutations(spots, 2):
            (aw, ah), (bw, bh) = a.size_mm, b.size_mm
            apart = ax + aw <= bx or bx + bw <= ax or ay + ah <= by or by + bh <= ay
            self.assertTrue(apart, (a.name, b.name))

    def test_bad_input(self) -> None:
        for wrong in ({"thick_mm": 10.0, "wide_mm": 35.0}, {"wall_mm": 0}, {"pitch_deg": 89}, {"long_mm": math.nan}):
            with self.assertRaises(CoatingError):
                net("house", **{"long_mm": 120, "wide_mm": 90, "wall_mm": 70, "thick_mm": 5, **wrong})  # type: ignore[arg-type]


class Gluing(TestCase):
    def test_a_bead(self) -> None:
        """1 m of a bead of 5 mm, .7 as high: pi/4 25 .7 1000 mm3."""
        result = glue(1000, 5)
        self.assertAlmostEqual(result.mass_g, math.pi / 4 * 25 * 0.7 * 1000 * RHO)
        self.assertEqual(result.runs, math.ceil(1000 / result.run_mm))
        self.assertLess(result.skins_min, result.prop_min)
        self.assertGreater(glue(9000, 3).runs, glue(9000, 6).runs)
        with self.assertRaises(OutOfBounds):
            glue(1000, 5, room_c=30)

    def test_sweets(self) -> None:
        """136 mm, 12 mm each: eleven, 0.4 mm apart; two colours in turn, alike from both ends."""
        row = sweets_along(136, 12, ["red", "white"])
        self.assertEqual((row.count, row.of("red"), row.of("white")), (11, 6, 5))
        self.assertAlmostEqual(row.gap_mm, 0.4)
        self.assertEqual(row.colours, row.colours[::-1])
        self.assertEqual(sweets_along(136, 12, ["red"], gap_mm=5).count, 8)
        for wrong in ((10, 12, ["red"]), (100, 12, [])):
            with self.assertRaises(CoatingError):
                sweets_along(*wrong)


class Orders(TestCase):
    def test_houses_stand(self) -> None:
        for kind in ("box", "house"):
            parts = order(house_parts(kind, ["Sweets", "Light"]))
            names = [p.name for p in parts]
            for part in parts:
                self.assertTrue(all(names.index(under) < names.index(part.name) for under in part.on))
            closing = next(i for i, p in enumerate(parts) if p.closes)
            self.assertTrue(all(i < closing for i, p in enumerate(parts) if p.inside))

    def test_as_brute_force_finds_it(self) -> None:
        parts = [
            AssemblyPart("A"),
            AssemblyPart("B", ("A",)),
            AssemblyPart("C", ("A",), inside=True),
            AssemblyPart("D", ("B",), closes=True),
        ]
        good = [
            p
            for p in permutations(parts)
            if all(
                all(u in [q.name for q in p[:i]] for u in part.on)
                and not (part.closes and any(q.inside for q in p[i:]))
                for i, part in enumerate(p)
            )
        ]
        self.assertIn(tuple(order(parts)), good)

    def test_what_blocks_is_said(self) -> None:
        with self.assertRaisesRegex(OutOfBounds, "block each other"):
            order([AssemblyPart("Lid", closes=True), AssemblyPart("Gift", ("Lid",), inside=True)])
        with self.assertRaisesRegex(OutOfBounds, "not there"):
            order([AssemblyPart("Roof", ("Wall",))])
