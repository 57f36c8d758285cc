"""What to watch with a piece: what stops, what is said, and to whom."""

import unittest

from coating.care.cautions import cautions
from coating.piece.extras import NON_TOXIC, UNSAID, Extra
from coating.piece.kinds import KINDS
from coating.plan.flavours import flavours

BISCUIT, BERRY = KINDS["round_biscuit"], KINDS["berry"]
GLITTER = Extra("dust", "Craft glitter", edible=NON_TOXIC)
CREAM = Extra("filling", "Whipped cream", keeps_days=1, cold=True, taste="cream")
PICK, PEARLS = Extra("stick", "Wooden pick", comes_out=True), Extra("topping", "Sugar pearls", small=True)


class Watching(unittest.TestCase):
    def said(self, *args: object, **kwargs: object) -> list[tuple[bool, str]]:
        return [(c.stops, c.text) for c in cautions(*args, **kwargs)]  # type: ignore[arg-type]

    def test_non_toxic_is_not_edible_and_comes_first(self) -> None:
        result = self.said(BERRY, [CREAM, GLITTER])
        self.assertTrue(result[0][0] and "Craft glitter only says non-toxic" in result[0][1])
        unsaid = self.said(BISCUIT, [Extra("leaf", "Leaf", edible=UNSAID)])
        self.assertTrue(not unsaid[0][0] and "has to say edible" in unsaid[0][1])
        self.assertEqual(self.said(BISCUIT, []), [])

    def test_what_does_not_keep_until_the_day(self) -> None:
        self.assertFalse(any(stops for stops, _ in self.said(BISCUIT, [CREAM], days=1)))
        late = self.said(BISCUIT, [CREAM], days=2)
        self.assertTrue(late[0][0] and "keeps 1 day, and it is 2 days" in late[0][1])
        self.assertTrue(self.said(BERRY, [], days=2)[0][0])
        self.assertFalse(any(stops for stops, _ in self.said(BERRY, [], days=None)))

    def test_small_children(self) -> None:
        grown_up = self.said(BISCUIT, [PICK, PEARLS])
        self.assertEqual([text for stops, text in grown_up if stops], [])
        self.assertTrue(any("Count wooden picks out" in text for _, text in grown_up))
        theirs = [text for stops, text in self.said(BISCUIT, [PICK, PEARLS], little_ones=True) if stops]
        self.assertEqual(len(theirs), 2)
        self.assertTrue(any("lengthwise" in text for _, text in self.said(BERRY, [], little_ones=True)))

    def test_shards_and_glasses(self) -> None:
        self.assertIn("sharp pieces", self.said(KINDS["mould"], [], deep_mm=55)[0][1])
        self.assertEqual(self.said(KINDS["mould"], [], deep_mm=15), [])
        self.assertIn("freezer", self.said(KINDS["glass_rim"], [])[0][1])


class Tasting(unittest.TestCase):
    def test_a_topping_says_what_is_inside(self) -> None:
        nut = Extra("filling", "Nut cream", taste="nut")
        self.assertIn("Nothing outside says nut cream", flavours("coating", [nut])[0])
        self.assertEqual(flavours("coating", [nut, Extra("topping", "Chopped hazelnuts", taste="nut")]), [])
        self.assertTrue(any("mild filling under coating" in s for s in flavours("coating", [CREAM])))
        self.assertEqual(flavours("tempered", []), [])
