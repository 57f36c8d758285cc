import unittest
from dataclasses import replace

from coating.colour.mixing import Part, merge
from coating.errors import EmptyBowl, OutOfBounds
from coating.flow.firmness import firmness
from coating.flow.grades import from_older_scale, grades_for
from coating.flow.windows import WINDOWS, window
from coating.heat.melting import CEILING_C
from coating.job import Kitchen, Piece, Shelf
from coating.job.quick_card import quick_card
from coating.piece.cores import Core, Disc, Sheet
from coating.plan.proposal import Cupboard, Wish, cupboard_of, propose
from coating.plan.uses import thicker_by, uses
from coating.plan.which_white import which_white
from coating.quantities import Measures, mass_text, pieces_of_base, spoons_of_fat
from coating.simulate.bowl import BowlContext, BowlState, Event
from coating.simulate.fold import fold
from coating.stack.layers import Layer
from coating.stock.ingredients import DEMO_INGREDIENTS, demo_ingredient

ALL = tuple(DEMO_INGREDIENTS.values())
BUTTER, IVORY, BRIGHT = (demo_ingredient(n) for n in ("cocoa_butter", "ivory", "bright"))
DUSK = (66.0, -9.0, -17.0)
WISH = Wish(DUSK, window("dip"), "untempered", 200.0)
SHELF = Shelf(
    tuple(i for i in ALL if i.is_base),
    tuple(i for i in ALL if i.is_colourant),
    {"palm": demo_ingredient("palm_flakes"), "cocoa": BUTTER},
)
CONTEXT = BowlContext(room_c=21, white="untempered", window=window("dip"))


class Words(unittest.TestCase):
    def test_kitchen_words(self) -> None:
        """Common practice, no source: a teaspoon of melted fat 4.5 g, a cup of pieces 170 g."""
        self.assertEqual(spoons_of_fat(9), "2 teaspoons")
        self.assertEqual(spoons_of_fat(0.3), "a pinch")
        self.assertEqual(spoons_of_fat(3.4), "¾ teaspoon")
        self.assertEqual(pieces_of_base(340, bag_g=340), "1 bag of 340 g")
        self.assertEqual(pieces_of_base(170, bag_g=340), "about 65 wafers")
        self.assertEqual(pieces_of_base(470, bag_g=340), "1 bag of 340 g and about 50 wafers")
        self.assertEqual(
            [pieces_of_base(g, family="cocoa") for g in (0, 4, 22)], ["none", "1 square", "about 4 squares"]
        )
        self.assertEqual([mass_text(v) for v in (240.4, 9.97, 2.06, 0)], ["240 g", "10 g", "2.1 g", "0 g"])


class NextStep(unittest.TestCase):
    def step(self, *events: Event, at_s: float = 300, wish: Wish = WISH):
        return propose(fold(events, CONTEXT, at_s=at_s), wish, cupboard_of(ALL, thinner=BUTTER))

    def melted(self, mass_g: float = 200.0, to_c: float = 36.0) -> list[Event]:
        return [Event(1, "added", 0, (Part(IVORY, mass_g),)), Event(2, "warmed", 290, to_c=to_c)]

    def test_from_nothing_to_ready(self) -> None:
        fill = self.step()
        self.assertEqual(fill.kind, "fill")
        self.assertAlmostEqual(sum(p.mass_g for p in fill.additions if p.ingredient.is_base), 200)
        self.assertLess(fill.de00, 2)
        done = [Event(1, "added", 0, fill.additions), Event(2, "warmed", 290, to_c=36)]
        self.assertEqual(self.step(*done).kind, "ready")

    def test_colour_is_added_to_a_plain_bowl(self) -> None:
        tint = self.step(*self.melted())
        self.assertEqual(tint.kind, "tint")
        self.assertTrue(all(p.ingredient.is_colourant or p.ingredient is BUTTER for p in tint.additions))

    def test_a_cold_bowl_is_warmed_and_a_hot_one_left(self) -> None:
        plain = replace(WISH, target_lab=None)
        self.assertEqual(self.step(*self.melted(to_c=27), wish=plain).kind, "warm")
        self.assertEqual(self.step(*self.melted(to_c=44), wish=plain).kind, "cool")

    def test_wet_and_overheated_come_before_thinning(self) -> None:
        wet = self.step(*self.melted(), Event(3, "added", 295, (Part(demo_ingredient("water"), 3.0),)))
        self.assertEqual((wet.kind, wet.trouble), ("trouble", "wet"))
        burnt = self.step(Event(1, "added", 0, (Part(IVORY, 200.0),)), Event(2, "warmed", 1, to_c=75), at_s=400)
        self.assertEqual((burnt.kind, burnt.trouble), ("trouble", "overheated"))

    def test_a_colour_gone_astray_and_a_bowl_far_too_hot(self) -> None:
        astray = self.step(*self.melted(), Event(3, "added", 295, (Part(demo_ingredient("black"), 2.0),)))
        self.assertEqual((astray.kind, astray.trouble, astray.additions), ("trouble", "astray", ()))
        hot = self.step(*self.melted(to_c=54))
        self.assertEqual((hot.kind, hot.additions), ("cool", ()))

    def test_tempered_is_melted_first_and_then_brought_down(self) -> None:
        context = replace(CONTEXT, white="tempered")
        wish = replace(WISH, white="tempered", target_lab=None)
        cupboard = cupboard_of(ALL, thinner=BUTTER)
        fill = propose(fold([], context, at_s=0), wish, cupboard)
        self.assertEqual(fill.take_to_c, 45)
        fluid = Part(replace(IVORY, number=22.0), 200.0)
        events = [Event(1, "added", 0, (fluid,)), Event(2, "warmed", 60, to_c=45)]
        hot = fold(events, context, at_s=60)
        self.assertLess(hot.stands_at(), hot.label_number)
        self.assertEqual(propose(hot, wish, cupboard).take_to_c, 28.5)
        ready = fold([*events, Event(3, "cooled", 400, to_c=28.5)], context, at_s=400)
        self.assertFalse(ready.is_set)
        self.assertGreater(ready.stands_at(), hot.stands_at() * 1.5)

    def test_half_the_fat_first(self) -> None:
        thick = replace(IVORY, number=70.0)
        events = [Event(1, "added", 0, (Part(thick, 200.0),)), Event(2, "warmed", 290, to_c=36)]
        step = self.step(*events, wish=replace(WISH, target_lab=None))
        self.assertEqual(step.kind, "thin")
        self.assertAlmostEqual(step.additions[0].mass_g, step.thinning.thinner_g / 2, delta=0.26)

    def test_an_empty_cupboard_is_said(self) -> None:
        with self.assertRaises(EmptyBowl):
            propose(fold([], CONTEXT, at_s=0), WISH, cupboard_of([]))


class Card(unittest.TestCase):
    def card(
        self,
        core: Core | None = None,
        kind: str = "round_biscuit",
        count: int = 12,
        spares: int = 1,
        layer: Layer | None = None,
        **changes: object,
    ):
        around = Kitchen(room_c=changes.pop("room_c", 21.0))  # type: ignore[arg-type]
        options = {"target_lab": DUSK, "white": "coating", "kitchen": around, "shelf": SHELF}
        made = Piece("p", kind, core or Disc(60, 8), count, (layer or Layer("dip", share=0.5),), spares)
        return quick_card(made, **{**options, **changes})

    def test_whole_card(self) -> None:
        card = self.card()
        self.assertLess(card.recipe.de00, 2)
        self.assertAlmostEqual(card.bowl.melt_g, card.bowl.made_g + card.bowl.lost_g + card.bowl.left_g)
        self.assertTrue(card.colour_low - 1e-9 <= card.recipe.de00 <= card.colour_high + 1e-9)
        self.assertGreater(card.working_s, 300)
        room, fridge, freezer = (card.settings[p].release_min for p in ("room", "fridge", "freezer"))
        self.assertTrue(room > fridge > freezer)
        wafers = Kitchen(Measures(has_scale=False))
        self.assertGreaterEqual(self.card(kitchen=wafers).bowl.melt_g, card.bowl.needed_g)

    def test_a_hot_room_sends_it_to_the_fridge(self) -> None:
        self.assertEqual(set(self.card(room_c=30.0).settings), {"fridge", "freezer"})

    def test_out_of_bounds(self) -> None:
        with self.assertRaises(OutOfBounds):
            self.card(layer=Layer("dip", share=2.0))
        with self.assertRaises(EmptyBowl):
            self.card(shelf=Shelf())

    def test_as_bought_and_poured(self) -> None:
        """Dark chocolate by its own temperatures; a slab weighs its area times its thickness."""
        dark = self.card(target_lab=None, base=demo_ingredient("dark"), white="tempered")
        self.assertEqual((dark.working_c, dark.bag), (31.5, None))
        self.assertEqual([p.ingredient.name for p in dark.recipe.parts], ["dark"])
        bark = self.card(Sheet(330, 230), "slab", 1, 0, Layer("spread"), target_lab=None)
        self.assertAlmostEqual(bark.line.on_one_g, 330 * 230 * 3 * 1.259e-3, delta=1)
        self.assertEqual(bark.recipe.parts[0].ingredient.name, "bright")

    def test_so_many_drops_say_which_bag_to_buy(self) -> None:
        whites = Shelf((BRIGHT,), tuple(i for i in ALL if i.kind == "liquid"), SHELF.thinners)
        red = self.card(count=36, spares=3, target_lab=(45.0, 55.0, 30.0), shelf=whites, ready=ALL)
        base, recipe = red.bag
        self.assertTrue(base.name == "red_coating" and recipe.de00 <= max(3.0, red.recipe.de00))
        self.assertGreater(red.drops, 60)
        self.assertIsNone(self.card(ready=ALL).bag)


class Uses(unittest.TestCase):
    """What a bowl is right for is tried out: doing what is said makes it right."""

    def test_each_way_leads_where_it_says(self) -> None:
        seen = set()
        for number in (20, 40, 58, 66, 90):
            for white, base in (("coating", BRIGHT), ("untempered", IVORY)):
                context = BowlContext(white=white, number=number)
                events = [Event(1, "added", 0, (Part(base, 300.0),)), Event(2, "warmed", 0, to_c=38)]
                state = fold(events, context, at_s=0)
                for use in uses(state):
                    seen.add(use.way)
                    at_c = use.to_c if use.to_c is not None else state.temperature_c
                    if use.way in ("right", "warm", "cool"):
                        flow = state.flow(temperature_c=at_c)
                        assert flow is not None
                        self.assertEqual(use.window.verdict(flow, white), "right", (number, white, use))
                        self.assertLess(at_c, CEILING_C)
                    elif use.way == "thin":
                        self.assertGreater(use.fat_g or 0, 0)
        self.assertEqual(seen, {"right", "warm", "cool", "thin", "no"})

    def test_which_grade_to_buy(self) -> None:
        """Common practice, no source: thin for what runs, thick for dipping; an older scale reads 3.5 times as high."""
        bought = {w.technique: [g.name for g in grades_for(w, "coating")] for w in WINDOWS}
        self.assertEqual(bought["cake_drip"], ["thin"])
        self.assertEqual((bought["dip"], bought["balls"]), (["thin", "middle", "thick"], ["middle", "thick"]))
        self.assertEqual(bought["glue"], ["middle", "thick"], "propped until it sets")
        tempered = [g.name for g in grades_for(window("dip"), "tempered")]
        self.assertIn("thick", tempered, "the grade sold for dipping by hand is dipped straight")
        self.assertAlmostEqual(from_older_scale(130), 37, delta=0.3)

    def test_two_bowls(self) -> None:
        def bowl(number: float, *, to_c: float = 38) -> BowlState:
            events = [Event(1, "added", 0, (Part(BRIGHT, 300.0),)), Event(2, "warmed", 0, to_c=to_c)]
            return fold(events, BowlContext(white="coating", number=number), at_s=0)

        self.assertAlmostEqual(thicker_by(bowl(60), bowl(40)) or 0, 1.5)
        self.assertIsNone(thicker_by(bowl(60), bowl(40, to_c=15)))


class NeverTooSoft(unittest.TestCase):
    def test_fat_by_halves_ends_where_it_would_stay_soft(self) -> None:
        """Coconut oil in a coating far too thick to dip, in a warm room: firmness counts what went in."""
        oil, parts = demo_ingredient("coconut_oil"), (Part(BRIGHT, 300.0),)
        context = BowlContext(white="coating", room_c=28.5, number=160)
        wish = Wish(None, window("dip"), "coating", 300.0)
        given = 0.0
        for _ in range(20):
            events = [Event(1, "added", 0, parts), Event(2, "warmed", 0, to_c=38)]
            state = fold(events, context, at_s=0)
            proposal = propose(state, wish, Cupboard((BRIGHT,), (), oil))
            more = [p for p in proposal.additions if p.ingredient is oil]
            if not more:
                break
            self.assertGreater(more[0].mass_g, 0)
            parts = merge((*parts, *more))
            given += more[0].mass_g
        self.assertEqual(proposal.kind, "off", "it stays thick: no more of that fat, and not ready either")
        assert proposal.thinning is not None
        self.assertEqual(proposal.thinning.verdict, "refused")
        self.assertGreater(given, 10)
        result = firmness("coating", {"coconut_oil": given}, state.fat_g, 28.5)
        self.assertNotEqual(result.verdict, "refused")
        self.assertAlmostEqual(result.solid_fraction, 0.5, delta=0.01, msg="as much as keeps it firm, and no more")


class WhichWhite(unittest.TestCase):
    """Common practice, no source: what speaks for coating and for real chocolate."""

    def test_the_reasons_of_the_trade(self) -> None:
        blue, deep, cream = (66.0, -9.0, -17.0), (27.0, 3.0, -18.0), (85.0, 6.0, 24.0)
        for lab, room, days, expected in (
            (blue, 21, None, "coating"),
            (deep, 21, None, "coating"),
            (None, 21, 9, "tempered"),
            (cream, 20, 9, "tempered"),
            (cream, 29, 9, "coating"),
            (None, 21, 0, "coating"),
        ):
            advice = which_white(target_lab=lab, room_c=room, days_left=days)
            self.assertEqual(advice.best, expected, (lab, room, days))
            self.assertTrue(advice.speaks(expected))
        self.assertIn(
            "its ivory turns blues green", which_white(target_lab=blue, room_c=21).speaks("tempered", against=True)
        )
        self.assertIn(
            "it would not set in this room",
            which_white(target_lab=None, room_c=24.5).speaks("untempered", against=True),
        )
        self.assertEqual(which_white(target_lab=None, room_c=21, has_thermometer=False).order[-1], "untempered")
        runs = which_white(target_lab=None, room_c=21, has_thermometer=False, number_wanted=26)
        self.assertEqual(runs.order[-1], "tempered", "in temper it is too thick to run")
