"""Marbling against Lu et al. 2012, areas, and a plain way of doing the same; the layered bottle."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np
from scipy.integrate import solve_ivp

from coating.errors import CoatingError, OutOfBounds
from coating.shape.bottle import BottleLayer, dispensed, evenness, plain_until
from coating.shape.marbling import Circle, Comb, Drop, Lift, Operation, Stroke, Tine, Wave, marbled, verdict
from coating.shape.marbling.dips import MOST_DIPS, lasts, swirl
from coating.shape.marbling.surface import Surface

SLAB = {"width_mm": 240.0, "height_mm": 160.0}
BLOBS = [Drop(120, 80, 40), Drop(60, 60, 18), Drop(180, 110, 22)]


def back(operation: Operation, *points: tuple[float, float]) -> np.ndarray:
    """Where points come from."""
    x, y = (np.array([[p[k] for p in points]], dtype=np.float32) for k in (0, 1))
    operation.back(x, y)
    return np.column_stack([x[0], y[0]])


class Operations(TestCase):
    def test_a_drop_pushes_outwards(self) -> None:
        """Check value 16 [Lu 2012]: what lay at 10 comes to lie at 11.6619 for a drop of radius 6."""
        self.assertAlmostEqual(float(np.hypot(*back(Drop(0, 0, 6), (11.6619, 0.0))[0])), 10, delta=1e-4)
        claimed = Drop(0, 0, 6).back(*(np.array([[v]], dtype=np.float32) for v in (3.0, 4.0)))
        self.assertTrue(claimed.all())

    def test_a_tine_drags_less_the_further_away(self) -> None:
        """Check value 17 [Lu 2012]: 25, 12.5, 6.25 at 0, 6 and 12 from the line."""
        was = back(Tine(0, 0, 0, 25, 6), (50.0, 0.0), (50.0, 6.0), (50.0, -12.0))
        self.assertTrue(np.allclose(50 - was[:, 0], (25, 12.5, 6.25), atol=1e-4))
        self.assertTrue(np.allclose(was[:, 1], (0, 6, -12), atol=1e-5))

    def test_a_comb_is_its_tines(self) -> None:
        """The closed form against so many passes that more make no difference."""
        comb, points = Comb(30, 20, 12, 5), [(10.0, 30.0), (-25.0, 7.0), (0.0, 0.0)]
        cos, sin = math.cos(math.radians(30)), math.sin(math.radians(30))
        x, y = (np.array([p[k] for p in points]) for k in (0, 1))
        beside = y * cos - x * sin
        pull = sum(12 * 2 ** (-np.abs(beside - 20 * k) / 5) for k in range(-40, 41))
        wanted = np.column_stack([x - pull * cos, y - pull * sin])
        self.assertTrue(np.allclose(back(comb, *points), wanted, atol=1e-4))

    def test_a_circle_turns_and_a_wave_shifts(self) -> None:
        """On the circle itself the way is the whole shift: a quarter round of radius 20 is 31.416 mm."""
        was = back(Circle(0, 0, 20, 10 * math.pi, 5), (0.0, 20.0))
        self.assertTrue(np.allclose(was, (20, 0), atol=1e-4))
        self.assertTrue(np.allclose(back(Wave(0, 4, 40), (5.0, 10.0)), (1, 10), atol=1e-4))


class Strokes(TestCase):
    STROKE = Stroke(100, 100, 0, 100, 55, 9)

    def test_points_flow_as_the_stream_says(self) -> None:
        """Against scipy's integration of the same stream, written down here from its formula."""
        a = 9 / 0.31514  # (1 - x) exp(-x) is a half there

        def speed(_: float, at: np.ndarray) -> list[float]:
            s, d = at
            down, up = math.tanh(s / a), math.tanh((s - 100) / a)
            fades = math.exp(-abs(d) / a)
            return [-(1 - abs(d) / a) * fades * (down - up) / 2, -d * fades * (down**2 - up**2) / (2 * a)]

        points = [(150.0, 100.0), (150.0, 109.0), (210.0, 105.0), (95.0, 110.0), (105.0, 80.0), (170.0, 60.0)]
        turned = Stroke(100, 100, 90, 100, 55, 9)
        for (x, y), was, across in zip(
            points, back(self.STROKE, *points), back(turned, *[(100 - (y - 100), x) for x, y in points]), strict=True
        ):
            result = solve_ivp(speed, (0, 55), [x - 100, y - 100], rtol=1e-9, atol=1e-9).y[:, -1]
            self.assertTrue(np.allclose(was - 100, result, atol=0.06), (was, result))
            self.assertTrue(np.allclose((across[1] - 100, 100 - across[0]), result, atol=0.06), (across, result))

    def test_it_ends_where_it_ends_and_keeps_areas(self) -> None:
        far = [(0.0, 100.0), (290.0, 101.0), (150.0, 290.0)]
        self.assertTrue(np.allclose(back(self.STROKE, *far), far, atol=0.3))
        through = back(Tine(100, 100, 0, 55, 9), *far)
        self.assertGreater(abs(through[0, 0]), 50)
        two = [Stroke(60, 50, 25, 110, 60, 9), Stroke(200, 60, 150, 40, 22, 4)]
        before, after = (marbled([*BLOBS, *more], **SLAB, resolution=480).share(1) for more in ([], two))
        self.assertAlmostEqual(after / before, 1, delta=0.005)

    def test_the_longest_with_the_least_reach(self) -> None:
        was = back(Stroke(0, 0, 0, 1000, 550, 1), (700.0, 0.0), (700.0, 40.0))
        self.assertTrue(np.isfinite(was).all())
        self.assertAlmostEqual(was[0, 0], 150, delta=1)
        self.assertEqual(was[1].tolist(), [700, 40])
        with self.assertRaises(OutOfBounds):
            Stroke(0, 0, 0, math.nan, 5, 9)


class Surfaces(TestCase):
    def test_areas_are_kept(self) -> None:
        """Blobs that stay within the slab keep their area through everything, within .3 %."""
        done = [*BLOBS, Comb(0, 30, 10, 6), Tine(120, 80, 90, 12, 8), Circle(120, 80, 30, 20, 6), Wave(90, 3, 50)]
        surface = marbled(done, **SLAB, resolution=1024)
        wanted = sum(math.pi * b.radius_mm**2 for b in BLOBS) / (240 * 160)
        self.assertAlmostEqual(surface.share(1) / wanted, 1, delta=0.003)

    def test_the_same_as_the_plain_way(self) -> None:
        """Dot by dot in double precision, tine by tine."""
        done = [*BLOBS, Tine(40, 80, 80, 30, 9), Comb(0, 32, 18, 6), Drop(90, 90, 12, 0), Circle(100, 70, 30, 25, 7)]
        surface = marbled(done, **SLAB, resolution=120)
        down, across = surface.colours.shape
        x, y = np.meshgrid((np.arange(across) + 0.5) * 240 / across, (np.arange(down) + 0.5) * 160 / down)
        plain, open_ = np.zeros((down, across), dtype=int), np.ones((down, across), dtype=bool)
        for operation in reversed(done):
            if isinstance(operation, Drop):
                dx, dy = x - operation.x_mm, y - operation.y_mm
                far = np.hypot(dx, dy)
                inside = (far < operation.radius_mm) & open_
                plain[inside], open_ = operation.colour, open_ & ~inside
                scale = np.sqrt(np.maximum(0, 1 - operation.radius_mm**2 / np.maximum(far, 1e-9) ** 2))
                x, y = operation.x_mm + dx * scale, operation.y_mm + dy * scale
            elif isinstance(operation, Circle):
                dx, dy = x - operation.x_mm, y - operation.y_mm
                far = np.hypot(dx, dy)
                a = -operation.shift_mm * 2 ** (-np.abs(far - operation.radius_mm) / operation.half_distance_mm) / far
                x, y = (
                    operation.x_mm + dx * np.cos(a) - dy * np.sin(a),
                    operation.y_mm + dx * np.sin(a) + dy * np.cos(a),
                )
            else:
                spots = (
                    [(0.0, 32.0 * k) for k in range(-9, 15)]
                    if isinstance(operation, Comb)
                    else [(operation.x_mm, operation.y_mm)]
                )
                cos, sin = math.cos(math.radians(operation.angle_deg)), math.sin(math.radians(operation.angle_deg))
                pull = sum(2 ** (-np.abs((y - b) * cos - (x - a) * sin) / operation.half_distance_mm) for a, b in spots)
                x, y = x - operation.shift_mm * pull * cos, y - operation.shift_mm * pull * sin
        self.assertLess(np.mean(plain != surface.colours), 0.001)

    def test_the_same_drawing_gives_the_same_picture(self) -> None:
        done = [*BLOBS, Comb(45, 25, 30, 7)]
        self.assertTrue(np.array_equal(marbled(done, **SLAB).colours, marbled(done, **SLAB).colours))
        self.assertEqual(marbled([], **SLAB).share(1), 0)
        self.assertEqual(marbled([Comb(45, 25, 30, 7)], **SLAB).share(0), 1)

    def test_bold_fine_stop(self) -> None:
        """Stripes wider than a millimetre are bold, narrower ones past it; more passes never make it bolder."""
        for wide, word in ((3.0, "bold"), (0.6, "stop")):
            x = (np.arange(1000) + 0.5) * 0.1
            rows = np.tile(((x // wide) % 2 == 1).astype(np.uint8), (50, 1))
            judgement = verdict(Surface(100, 5, 0.1, rows))
            self.assertEqual(judgement.word, word)
        last = 1.1
        for passes in (0, 2, 4, 8, 14):
            strokes = [Comb(90 * (k % 2), 16, 40 * (-1) ** (k // 2), 5) for k in range(passes)]
            judgement = verdict(marbled([*BLOBS, *strokes], **SLAB, resolution=1024))
            self.assertLess(judgement.bold_share, last + 0.02)
            last = judgement.bold_share
        self.assertNotEqual(judgement.word, "bold")

    def test_bad_input(self) -> None:
        for make in (
            lambda: Drop(0, 0, 0),
            lambda: Tine(0, 0, 0, math.nan, 5),
            lambda: Comb(0, 0, 5, 5),
            lambda: Wave(0, 5, 0),
            lambda: marbled([], width_mm=0, height_mm=5),
            lambda: marbled(BLOBS * 200, **SLAB),
            lambda: marbled([], **SLAB, resolution=10**6),
        ):
            with self.assertRaises(OutOfBounds):
                make()


class Dips(TestCase):
    def test_a_lift_undoes_a_drop(self) -> None:
        """What a drop pushed out a lift of its size takes back; what it took away is its disc."""
        x = np.array([[13.0, 7.0, 30.0]], dtype=np.float32)
        y = np.array([[4.0, 22.0, 9.0]], dtype=np.float32)
        was = x.copy(), y.copy()
        Lift(5, 5, 6).back(x, y)
        Drop(5, 5, 6).back(x, y)
        np.testing.assert_allclose((x, y), was, atol=1e-4)
        before = marbled([Drop(50, 50, 30)], width_mm=100, height_mm=100, resolution=400)
        after = marbled([Drop(50, 50, 30), Lift(50, 50, 10)], width_mm=100, height_mm=100, resolution=400)
        self.assertAlmostEqual((before.share(1) - after.share(1)) * 1e4, math.pi * 100, delta=8)

    def test_how_many_pieces_a_swirl_does(self) -> None:
        """More from a wide bowl, from small pieces and from pieces dipped less; never more than its skin covers."""
        taken = math.pi * 30**2
        result = {bowl: lasts(swirl(bowl, taken, share=0.35)) for bowl in (100.0, 140.0, 200.0)}
        self.assertTrue(1 <= result[100.0] < result[140.0] < result[200.0] <= MOST_DIPS)
        self.assertGreater(lasts(swirl(140, taken / 2, share=0.35)), result[140.0])
        for bowl, dips in result.items():
            self.assertLessEqual(dips, math.ceil(math.pi / 4 * bowl**2 / taken))
        with self.assertRaises(OutOfBounds):
            swirl(60, math.pi * 60**2, share=0.3)
        with self.assertRaises(OutOfBounds):
            swirl(math.nan, 100, share=0.3)


class Bottle(TestCase):
    def test_two_equal_layers_in_twelve(self) -> None:
        """Check value 20: the model's identities."""
        layers = [BottleLayer("plain", 60), BottleLayer("blue", 60)]
        cavities = dispensed(layers, 12)
        self.assertTrue(np.allclose([c["blue"] for c in cavities[:6]], (0, 0, 0, 0.25, 0.55, 0.7), atol=0.005))
        self.assertAlmostEqual(sum(c["blue"] for c in cavities) / 12, 0.5)
        self.assertAlmostEqual(plain_until(layers), 0.25)
        half = dispensed(layers, 2)[0]
        self.assertAlmostEqual(half["plain"] / 2, 0.375)

    def test_other_fillings(self) -> None:
        """Cross-checked figures of the same model."""
        cavities = dispensed([BottleLayer("p", 30), BottleLayer("b", 30)] * 2, 12)
        self.assertTrue(np.allclose([c["b"] for c in cavities[:4]], (0, 0.12, 0.63, 0.56), atol=0.006))
        cavities = dispensed([BottleLayer("p", 40), BottleLayer("b", 80)], 10)
        self.assertTrue(np.allclose([c["b"] for c in cavities[:6]], (0, 0.056, 0.537, 0.769, 0.861, 0.889), atol=0.001))
        thin = dispensed([BottleLayer("b", 5), *[BottleLayer(c, 13.57) for c in "pbpbpbp"]], 12)
        self.assertLess(evenness(thin, "b"), evenness(dispensed([BottleLayer("p", 50), BottleLayer("b", 50)], 12), "b"))

    def test_all_that_goes_in_comes_out(self) -> None:
        draw = np.random.default_rng(2)
        for _ in range(40):
            layers = [
                BottleLayer("ab"[i % 2], float(v)) for i, v in enumerate(draw.uniform(1, 90, draw.integers(1, 9)))
            ]
            count = int(draw.integers(1, 40))
            cavities = dispensed(layers, count)
            total = sum(layer.volume_ml for layer in layers)
            for colour in "ab":
                went_in = sum(layer.volume_ml for layer in layers if layer.colour == colour) / total
                self.assertAlmostEqual(sum(c.get(colour, 0) for c in cavities) / count, went_in)
            self.assertTrue(all(-1e-9 <= v <= 1 + 1e-9 for c in cavities for v in c.values()))
            self.assertTrue(all(abs(sum(c.values()) - 1) < 1e-9 for c in cavities))

    def test_bad_input(self) -> None:
        for layers, cavities in (
            ([], 3),
            ([BottleLayer("a", 0)], 3),
            ([BottleLayer("a", 9)], 0),
            ([BottleLayer("a", 9)] * 40, 3),
            ([BottleLayer("a", math.nan)], 3),
        ):
            with self.assertRaises(CoatingError):
                dispensed(layers, cavities)
