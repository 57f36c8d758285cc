"""What is left becomes the next, tinted or ready-coloured, one bowl for two flows, what a piece costs, boxes."""

import unittest
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from coating.colour.mixing import Part
from coating.colour.one_recipe import recipe_for
from coating.colour.recipe import find_recipe
from coating.errors import OutOfBounds
from coating.piece.kinds import KINDS
from coating.plan.boxes import USUAL_BOXES, best_box, lie_in_all, lying, packed, seats
from coating.plan.choices import is_coloured, is_deep, price_per_g, two_ways, washing_up_min
from coating.plan.costs import Poured, Put, Tool, piece_cost
from coating.plan.leftovers import WantedBowl, in_turn
from coating.stock.ingredients import DEMO_INGREDIENTS as D
from tests.coating.piece.test_piece import calm

COLOURANTS = tuple(D[n] for n in ("yellow", "orange", "red", "purple", "blue", "teal", "green", "black"))
PALE, MID, DEEP = (88.0, 6.0, 9.0), (72.0, -6.0, -14.0), (40.0, 3.0, -18.0)


class Leftovers(unittest.TestCase):
    def turns(self, *wanted: WantedBowl) -> tuple:
        return in_turn(wanted, COLOURANTS)

    def bowl(self, name: str, lab: tuple[float, float, float] | None, melt_g: float, used_g: float) -> WantedBowl:
        plain = (Part(D["bright"], melt_g),)
        return WantedBowl(
            name, lab, recipe_for(lab, (D["bright"],), COLOURANTS, melt_g).parts if lab else plain, used_g
        )

    def test_light_to_dark_and_less_to_melt(self) -> None:
        blue, pale = self.bowl("blue", MID, 240.0, 142.0), self.bowl("pale", PALE, 160.0, 72.0)
        deep, plain = self.bowl("deep", DEEP, 200.0, 102.0), self.bowl("plain", None, 110.0, 60.0)
        turns = self.turns(deep, blue, plain, pale)
        self.assertEqual([t.wanted.name for t in turns], ["plain", "pale", "blue", "deep"])
        self.assertEqual([t.after for t in turns], ["", "plain", "pale", "blue"])
        for turn in turns[1:]:
            assert turn.wanted.lab is not None and turn.de00 is not None
            fresh = find_recipe(turn.wanted.lab, (D["bright"],), COLOURANTS, turn.wanted.melt_g)
            self.assertLessEqual(turn.de00, max(2.0, fresh.de00 + 0.5), turn.wanted.name)
        self.assertLess(sum(t.fresh_g for t in turns), sum(w.melt_g for w in (blue, pale, deep, plain)) - 100)

    @calm
    @given(st.lists(st.tuples(st.floats(5, 300), st.floats(0, 150), st.floats(0, 30)), min_size=1, max_size=4))
    def test_in_is_on_and_lost_and_left(self, drawn: list) -> None:
        """Plain bowls: whatever is brought over, every g is somewhere."""
        turns = self.turns(
            *(self.bowl(f"b{i}", None, on + depth + lost, on + lost) for i, (on, depth, lost) in enumerate(drawn))
        )
        brought: dict[str, float] = {}
        for t in turns:
            brought[t.after] = brought.get(t.after, 0.0) + t.brought_g
        over = sum(t.left_g for t in turns) - sum(g for name, g in brought.items() if name)
        fresh = sum(t.fresh_g for t in turns)
        self.assertAlmostEqual(fresh, sum(t.wanted.used_g for t in turns) + over, 6)
        self.assertTrue(all(t.left_g >= -1e-9 for t in turns))

    def test_what_lies_over_another_comes_after_it(self) -> None:
        deep = replace(self.bowl("deep", DEEP, 200.0, 102.0), never_after=frozenset({"plain"}))
        turns = self.turns(self.bowl("plain", None, 110.0, 60.0), deep, self.bowl("pale", PALE, 160.0, 72.0))
        self.assertEqual([t.wanted.name for t in turns], ["pale", "deep", "plain"])
        self.assertEqual(turns[2].after, "")

    def test_never_back_to_plain_and_never_from_nothing(self) -> None:
        turns = self.turns(self.bowl("deep", DEEP, 120.0, 62.0))
        self.assertEqual([t.after for t in turns], [""])
        self.assertEqual(self.turns(), ())


class Ways(unittest.TestCase):
    def test_deep_colours_may_want_a_ready_base(self) -> None:
        self.assertTrue(is_deep(DEEP) and not is_deep(PALE))
        self.assertTrue(is_coloured(D["dark"]) and not is_coloured(D["bright"]))
        brown = two_ways((30.0, 12.0, 14.0), (D["bright"], D["dark"]), COLOURANTS, 200.0)
        assert brown.ready and brown.tinted
        self.assertLess(brown.ready.de00, brown.tinted.de00)
        self.assertEqual(brown.better, "ready")
        self.assertEqual(two_ways(PALE, (D["bright"],), COLOURANTS, 200.0).better, "tinted")

    def test_money_by_hand(self) -> None:
        """340 g for 6.80 is .02 a g; 90 g of it with a drop that has no price is .02 a g still, nearly."""
        parts = (Part(D["bright"], 99.0), Part(D["blue"], 1.0))
        self.assertAlmostEqual(price_per_g(parts, {"bright": 0.02}) or 0, 0.0198)
        self.assertIsNone(price_per_g(parts, {"blue": 1.0}))
        self.assertIsNone(price_per_g((), {}))
        self.assertEqual(washing_up_min(3, 2), 11.0)

    def test_a_piece_pays_for_spares_and_what_is_lost(self) -> None:
        """12 pieces and a spare of 5 g at .02, a bowl of 130 g on and 12 g lost of which half is theirs; a stick of
        .05; a mould of 12 used 60 times for 12: .0167."""
        poured = Poured("blue", 65.0, 130.0, 12.0, 0.02)
        cost = piece_cost(12, [poured], [Put("stick", 1, 0.05)], [Tool("mould", 12.0, 60, 12)])
        self.assertAlmostEqual(cost.coating, 0.02 * (65 + 6) / 12)
        self.assertAlmostEqual(cost.total, 0.02 * 71 / 12 + 0.05 + 12 / 720)
        unknown = piece_cost(1, [Poured("red", 5, 5, 0, None)], [Put("leaf", 1, None)], [Tool("mould", None, 1, 1)])
        self.assertEqual((unknown.total, unknown.unknown), (0.0, ("red", "leaf", "mould")))
        with self.assertRaises(OutOfBounds):
            piece_cost(0, [])


class Packing(unittest.TestCase):
    def test_how_pieces_lie(self) -> None:
        biscuit, ball, slab = KINDS["round_biscuit"], KINDS["ball"], KINDS["slab"]
        self.assertEqual(lying(biscuit, biscuit.core(60, 8), ["dip"]), (63, 63, 11))
        self.assertEqual(lying(ball, ball.core(32, 32), ["stick"]), (32, 122, 32))
        self.assertEqual(lie_in_all(slab, slab.core(330, 230), 2), 2 * round(330 * 230 / 3600))
        for kind in KINDS.values():
            for _, size in kind.sizes:
                self.assertTrue(all(0 < mm < 400 for mm in lying(kind, kind.core(*size), [])), kind.name)

    def test_the_best_box_holds_them_and_seats_do_not_overlap(self) -> None:
        for count, size in ((24, (63, 63, 11)), (8, (78, 78, 9)), (1, (200, 200, 110)), (12, (60, 150, 30))):
            name = best_box(count, *size)
            box = USUAL_BOXES[name]
            fit = packed(box, count, across_mm=size[0], along_mm=size[1], high_mm=size[2])
            self.assertGreaterEqual(fit.boxes * fit.in_box, count)
            places = seats(box, fit, size[0], size[1])
            self.assertEqual(len(places), fit.in_layer)
            for i, (x, y, w, d) in enumerate(places):
                self.assertTrue(x >= 0 and y >= 0 and x + w <= box.length_mm + 1e-6 and y + d <= box.width_mm + 1e-6)
                for u, v, p, q in places[:i]:
                    self.assertTrue(x >= u + p or u >= x + w or y >= v + q or v >= y + d)
        self.assertEqual(best_box(1, 390, 390, 300), "")
