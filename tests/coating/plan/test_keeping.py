import unittest

from coating.colour.mixing import Part
from coating.plan.keeping import Keeping, keeping
from coating.simulate.bowl import BowlContext, Event
from coating.simulate.fold import fold
from coating.stock.ingredients import demo_ingredient


def kept(white: str, room_c: float, warm_c: float = 30, **grams: float) -> Keeping:
    parts = tuple(Part(demo_ingredient(name), g) for name, g in grams.items())
    events = [Event(1, "added", 0, parts), Event(2, "warmed", 0, to_c=45), Event(3, "cooled", 0, to_c=warm_c)]
    return keeping(fold(events, BowlContext(white=white, room_c=room_c), at_s=0))


class Keeps(unittest.TestCase):
    def test_handbook_shares(self) -> None:
        """Cocoa butter 76, 70 and 46 % solid at 20, 25 and 30 degC: handbook anchors, from memory."""
        for room_c, solid in ((20, 0.76), (25, 0.70), (30, 0.46)):
            self.assertAlmostEqual(kept("tempered", room_c, ivory=300).solid_fraction, solid, delta=0.025)
        self.assertEqual([kept("tempered", c, ivory=300).hard for c in (20, 28.5, 30)], ["snap", "soft", "melting"])

    def test_the_same_fat_in_the_other_family(self) -> None:
        for white, base, own, other in (
            ("tempered", "ivory", "cocoa_butter", "palm_flakes"),
            ("coating", "bright", "palm_flakes", "cocoa_butter"),
        ):
            alone, same, strange = (
                kept(white, 21, **{base: 300, fat: g}) for fat, g in ((own, 0), (own, 9), (other, 9))
            )
            self.assertAlmostEqual(same.solid_fraction, alone.solid_fraction, places=6)
            self.assertLess(strange.solid_fraction, same.solid_fraction)
            self.assertEqual((same.blooms, len(strange.blooms)), ((), 1))

    def test_bloom_and_rooms(self) -> None:
        self.assertIn("streaky", kept("untempered", 21, ivory=300).blooms[0])
        self.assertEqual(kept("untempered", 18, ivory=300).hard, "soft")
        self.assertIn("not in temper", kept("tempered", 21, 40, ivory=300).blooms[0])
        self.assertEqual(len(kept("tempered", 27, 40, ivory=300).blooms), 2)
        rooms = [
            (w, c, kept(w, c, **{b: 300}).too_warm)
            for w, b in (("coating", "bright"), ("tempered", "ivory"))
            for c in (21, 24.5, 30)
        ]
        self.assertEqual([too for *_, too in rooms], [False, False, True, False, True, True])
