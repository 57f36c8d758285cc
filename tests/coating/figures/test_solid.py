"""Thin sheets in space: seen as geometry says, far facets first, and never without a number."""

from __future__ import annotations

import re
from unittest import TestCase

import numpy as np

from coating.figures.film import bow_view, cast_view, curls_view, flower_view, leaves_view, sleeve_view
from coating.figures.solid import GridPatch, View, circle, disc, view
from coating.figures.transfer import Around, around_view, loops_view, tiles_view
from coating.shape.film.bow import bow
from coating.shape.film.casts import TEXTURES, cast
from coating.shape.film.curls import curl
from coating.shape.film.leaves import leaves
from coating.shape.film.petals import flower
from coating.shape.film.sleeve import sleeve

PALE, BLUE = (91.0, 0.5, 12.0), (45.0, -8.0, -28.0)


def plate(y: float) -> GridPatch:
    x, z = np.meshgrid([0.0, 10.0], [0.0, 10.0])
    return GridPatch(np.stack([x, np.full_like(x, y), z], axis=-1), PALE)


class Solids(TestCase):
    def sound(self, seen: View) -> None:
        self.assertTrue(seen.facets)
        for facet in seen.facets:
            self.assertRegex(facet.path, r"^(M\d+ \d+( \d+ \d+){3}Z)+$")
            self.assertRegex(facet.fill, r"^#[0-9a-f]{6}$")
            for x, y in re.findall(r"(\d+) (\d+)", facet.path):
                self.assertTrue(int(x) <= 10 * seen.width_mm + 1 and int(y) <= 10 * seen.height_mm + 1)

    def test_from_above_a_disc_is_as_wide_as_it_is(self) -> None:
        seen = view([GridPatch(disc(60.0), PALE)], tilt_deg=90, around_mm=0)
        self.assertAlmostEqual(seen.width_mm, 60.0, delta=0.4)
        self.assertAlmostEqual(seen.height_mm, 60.0, delta=0.4)
        self.assertAlmostEqual(float(np.hypot(*circle(60.0)[0])), 30.0)

    def test_the_far_one_is_drawn_first(self) -> None:
        near, far = view([plate(0.0)]).facets[0], view([plate(30.0)]).facets[0]
        self.assertEqual(near.fill, far.fill)
        (both,) = view([plate(0.0), plate(30.0)], tilt_deg=30).facets
        heights = [int(y) for y in re.findall(r"M\d+ (\d+)", both.path)]
        self.assertLess(heights[0], heights[1])  # what is farther lies higher, and comes first

    def test_everything_is_drawn(self) -> None:
        made = flower(32, disc_mm=30, thickness_mm=1.6)
        self.sound(sleeve_view(sleeve(60, 70, thickness_mm=2, overlap_mm=10, base=True), PALE))
        self.sound(sleeve_view(sleeve(60, 40, thickness_mm=2, overlap_mm=10), BLUE))
        self.sound(curls_view(curl(250, 30, thickness_mm=1.5, glass_mm=60), BLUE))
        self.sound(bow_view(bow(160, 20, thickness_mm=1.5), PALE))
        self.sound(flower_view(made, [PALE, BLUE, BLUE], PALE))
        self.sound(leaves_view(leaves(3, 70, 30, thickness_mm=1.5, roll_mm=80), BLUE, PALE))
        for name in TEXTURES:
            self.sound(cast_view(cast(name, 60, 40, thickness_mm=2), PALE))
        for flat in (False, True):
            self.sound(around_view(Around(70, 5, 40, 40, flat, 2), PALE))
        self.sound(around_view(Around(70, 5, 40, 40, False, 2, True), PALE))
        self.sound(around_view(Around(90, 8, 20, 40, False, 2, other_mm=60.0), PALE))
        self.sound(around_view(Around(90, 10, 25, 40, True, 2, other_mm=60.0, on_sides=(3, 2)), PALE))
        self.sound(tiles_view(5, 40, 60, 2, PALE))
        self.sound(tiles_view(2, 40, 40, 1, BLUE, round_=True))
        self.sound(loops_view(6, 20, 90, 3, PALE))
