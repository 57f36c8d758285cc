"""A job worked out once: examples with their arithmetic, and what holds for any job."""

import math
import unittest
from dataclasses import replace

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from coating.errors import OutOfBounds, UnknownName
from coating.flow.material import ORDINARY
from coating.job import Joint, Kitchen, Mould, Piece, Reckoning, Shelf, Tone, Wanted, reckon
from coating.job.bowls import BOWL_LOSS_G, LEAST_TEMPER_G, as_bought
from coating.piece.cores import Block, Disc, Hollow, Round, Sheet
from coating.quantities import Measures
from coating.shape.bag import BAG_LOSS_G
from coating.shape.coats import coat_thickness_mm
from coating.stack.layers import Drawn, Layer, Share
from coating.stock.ingredients import DEMO_INGREDIENTS as D

calm = settings(max_examples=60, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck))
RHO = ORDINARY.g_per_mm3  # g/mm3
COLOURS = tuple(D[n] for n in ("yellow", "orange", "red", "purple", "blue", "teal", "green", "black"))
SHELF = Shelf(
    (D["bright"], D["ivory"]), COLOURS, {"palm": D["palm_flakes"], "cocoa": D["cocoa_butter"]}, bags=(D["dark"],)
)
TONES = {"dusk": Tone((66.0, -9.0, -17.0)), "rose": Tone((80.0, 14.0, 4.0))}
PRALINE, BISCUIT = Hollow(29, 24, 15), Disc(60, 8)


def job(*pieces: Piece, kitchen: Kitchen | None = None, joints: tuple[Joint, ...] = ()) -> Reckoning:
    return reckon(Wanted(pieces, joints, TONES), kitchen or Kitchen(), SHELF)


def piece(kind: str, core: object, *layers: Layer, count: int = 12, spares: int | None = 0, name: str = "p") -> Piece:
    called = tuple(replace(la, id=la.id or f"{name}{i}") for i, la in enumerate(layers))
    return Piece(name, kind, core, count, called, spares)  # type: ignore[arg-type]


class ByHand(unittest.TestCase):
    def test_a_bottle_for_twenty_shells(self) -> None:
        """20 cavities of 8.28 ml from one bottle, two colours by halves: 20 x 8.28 x 1.259 = 208.5 g in all, once."""
        data = Drawn(PRALINE.holds_ml, moulds=(1, 20))
        solid = Layer("solid", "dusk", shares=(Share("", "", 0.5),), drawn=data)
        reckoning = job(piece("mould", PRALINE, solid, count=20))
        own, plain = reckoning.lines
        full_g = 20 * math.pi * 15 / 12 * (29**2 + 29 * 24 + 24**2) * RHO
        self.assertAlmostEqual(own.goes_on_g + plain.goes_on_g, full_g)
        self.assertAlmostEqual(own.goes_on_g, full_g / 2)
        self.assertLess(reckoning.melt_g, full_g + 2 * (BOWL_LOSS_G + 10))

    def test_a_filled_praline_with_a_printed_lid(self) -> None:
        """Wall 1.7 mm, 5 ml of filling at 1.1, a lid of 2 mm; a mould of 21 is poured full before it is drained."""
        layers = (
            Layer("shell", thickness_mm=1.7),
            Layer("filling", volume_ml=5.0),
            Layer("cap", thickness_mm=2.0, sheets=0.02),
        )
        reckoning = job(
            piece("mould", PRALINE, *layers, count=24), kitchen=Kitchen(moulds=(Mould("mould", (), 21, 1),))
        )
        shell, filling, lid = reckoning.lines
        full_g, wall_g = PRALINE.holds_ml * 1000 * RHO, PRALINE.inside_mm2 * 1.7 * RHO
        self.assertAlmostEqual(shell.on_one_g, wall_g)
        self.assertAlmostEqual((shell.poured_g, shell.returned_g), (full_g, full_g - wall_g))
        self.assertAlmostEqual(filling.on_one_g, 5.5)
        self.assertAlmostEqual(lid.on_one_g, math.pi / 4 * 29**2 * 2 * RHO)
        (bowl,) = reckoning.bowls
        self.assertAlmostEqual(bowl.depth_g, 21 * (full_g - wall_g))
        self.assertGreaterEqual(bowl.melt_g, 21 * full_g)
        order = [s.kind for s in reckoning.steps if s.piece]
        self.assertLess(order.index("release"), len(order))
        self.assertEqual({s.layer for s in reckoning.steps if s.kind == "release"}, {"p2"}, "after its lid, not before")

    def test_a_hollow_dome_of_160(self) -> None:
        """A dome 160 across and 75 deep: one is poured full, and what does not stay runs back into the bowl."""
        dome = Hollow(160, 60, 75)
        reckoning = job(piece("mould", dome, Layer("shell", thickness_mm=4.0), count=1))
        (line,), (bowl,) = reckoning.lines, reckoning.bowls
        inside = math.pi * 110 * math.hypot(50, 75) + math.pi * 30**2
        self.assertAlmostEqual(line.on_one_g, inside * 4 * RHO)
        self.assertAlmostEqual(line.poured_g, math.pi * 75 / 3 * (80**2 + 80 * 30 + 30**2) * RHO)
        self.assertGreaterEqual(bowl.melt_g, line.poured_g)
        self.assertTrue(any("rim" in s.says for s in reckoning.steps), "a second coat on the rim of so large a shell")

    def test_tempered_white_petals(self) -> None:
        """60 petals of 50 x 35 x 1.2 mm: 159 g; straight from plain white, in temper, in a bowl that holds it."""
        reckoning = job(piece("shape", Sheet(50, 35), Layer("petals", white="tempered", thickness_mm=1.2), count=60))
        (bowl,) = reckoning.bowls
        self.assertAlmostEqual(bowl.goes_on_g, 60 * 50 * 35 * 1.2 * RHO)
        self.assertEqual((bowl.portions, bowl.tempered), ((), True))
        kinds = [s.kind for s in reckoning.steps if s.bowl and not s.piece]
        self.assertEqual(kinds[:3], ["melt", "temper", "test"])
        few = job(piece("shape", Sheet(50, 35), Layer("petals", white="tempered"), count=3)).bowls[0]
        self.assertGreaterEqual(few.melt_g, LEAST_TEMPER_G)

    def test_three_big_cookies_want_about_250(self) -> None:
        """Half of 120 x 10 mm each: two half discs and half of the rim; 10 mm of pool 120 wide is 142 g."""
        (line,), (bowl,) = (
            (reckoning := job(piece("round_biscuit", Disc(120, 10), Layer("dip", share=0.5), count=3))).lines,
            reckoning.bowls,
        )
        area = math.pi / 4 * 120**2 + math.pi * 60 * 10
        self.assertAlmostEqual(line.on_one_g, area * line.thickness_mm * RHO, delta=0.3)
        flow = as_bought(D["bright"], "coating")
        assert flow is not None
        self.assertLess(coat_thickness_mm(flow, below_line_mm=1), line.thickness_mm)
        self.assertAlmostEqual(bowl.depth_g, math.pi / 4 * 120**2 * 10 * RHO)
        self.assertAlmostEqual(bowl.melt_g, 250, delta=20)

    def test_a_marbled_slab(self) -> None:
        """330 x 230 mm: a ground of 3 mm and as much of a second colour on it, each in its bowl, nothing twice."""
        layers = (
            Layer("pour", thickness_mm=3.0),
            Layer("marbling", "dusk", thickness_mm=3.0),
            Layer("topping", count=60, each_g=0.3, placed="wet"),
        )
        reckoning = job(piece("slab", Sheet(330, 230), *layers, count=1))
        ground, second = reckoning.bowls
        for bowl in (ground, second):
            self.assertAlmostEqual(bowl.goes_on_g, 330 * 230 * 3 * RHO)
        skewer = next(s for s in reckoning.steps if "skewer" in s.says)
        self.assertIsNotNone(skewer.until_min, "while it is wet")
        topping = next(s for s in reckoning.steps if s.layer == "p2")
        self.assertIsNotNone(topping.until_min)

    def test_a_house_of_spread_panels(self) -> None:
        """Four walls of 120 x 90 x 6 spread on film, then six dabs of .6 g on each: one bowl, one bag."""
        wall = piece("panel", Block(120, 90, 6), Layer("spread", thickness_mm=6.0), Layer("glue", count=6), count=4)
        (bowl,) = (reckoning := job(wall)).bowls
        self.assertAlmostEqual(bowl.goes_on_g, 4 * (120 * 90 * 6 * RHO + 6 * 0.6))
        self.assertAlmostEqual(bowl.lost_g, BOWL_LOSS_G + BAG_LOSS_G)
        glue = next(s for s in reckoning.steps if s.layer == "p1" and s.kind == "make")
        wait = next(s for s in reckoning.steps if s.id in glue.after and s.kind == "wait")
        self.assertGreater(wait.from_min, 20, "the panels are set first")


class OneBowl(unittest.TestCase):
    def test_what_is_too_thick_is_a_portion(self) -> None:
        """Wafers are dipped as bought; lace from the same bowl is a portion, thinned."""
        cake = piece("round_biscuit", BISCUIT, Layer("dip", share=0.5, id="d"), Layer("lace", length_mm=500.0, id="la"))
        (bowl,) = job(cake).bowls
        (portion,) = bowl.portions
        lace = next(la for la in bowl.lines if la.layer == "la")
        self.assertEqual((portion.layers, portion.whole), (("la",), False))
        self.assertTrue(lace.made_g < portion.mass_g < bowl.melt_g and 0.01 < portion.thinner_g / portion.mass_g < 0.08)
        (all_of_it,) = job(piece("slab", Sheet(100, 100), Layer("lace", length_mm=500.0))).bowls[0].portions
        self.assertTrue(all_of_it.whole)

    def test_tempered_white_is_dipped_straight(self) -> None:
        """Common practice, no source: the grades sold for dipping by hand, label 42 to 52."""
        for number in (42, 47, 52):
            shelf = replace(SHELF, bases=(replace(D["ivory"], number=number),))
            wanted = Wanted((piece("round_biscuit", BISCUIT, Layer("dip", white="tempered")),))
            self.assertEqual(reckon(wanted, Kitchen(), shelf).bowls[0].portions, (), number)

    def test_as_bought_and_kept(self) -> None:
        dark = job(piece("ball", Round(32, 32), Layer("dip", base="dark"))).bowls[0]
        self.assertEqual((dark.white, dark.tempered, dark.recipe), ("tempered", True, ()))
        self.assertEqual([p.ingredient.name for p in dark.parts], ["dark"])
        reckoning = job(piece("round_biscuit", BISCUIT, Layer("dip", "dusk"))).bowls[0]
        self.assertTrue(reckoning.de00 is not None and reckoning.de00 <= 2)
        kept = {"dusk": Tone(TONES["dusk"].lab, reckoning.recipe)}
        twice = reckon(
            Wanted((piece("round_biscuit", BISCUIT, Layer("dip", "dusk"), count=40),), (), kept), Kitchen(), SHELF
        )
        names = [{p.ingredient.name for p in b.recipe} for b in (reckoning, twice.bowls[0])]
        self.assertEqual(*names, "a kept recipe is scaled, not searched anew")
        self.assertTrue(all(p.units == round(p.units) for p in twice.bowls[0].recipe if p.ingredient.counted_in_drops))

    def test_spoons_round_up_once(self) -> None:
        (bowl,) = job(piece("round_biscuit", BISCUIT, Layer("dip")), kitchen=Kitchen(Measures(has_scale=False))).bowls
        self.assertGreaterEqual(bowl.melt_g, bowl.needed_g)
        self.assertGreater(bowl.melt_g - bowl.needed_g, -1e-9)
        self.assertEqual(sum(g for _, g in bowl.why), bowl.melt_g)


class Steps(unittest.TestCase):
    def test_sticks_are_set_before_the_dip_and_the_day_ends_set(self) -> None:
        pops = piece("ball", Round(40, 40), Layer("stick", id="s"), Layer("dip", id="d"))
        for cold, least in (("room", 10.0), ("fridge", 3.0)):
            steps = {s.id: s for s in job(pops, kitchen=Kitchen(cold=cold)).steps}
            dip = steps["d.0"]
            wait = next(steps[name] for name in dip.after if steps[name].kind == "wait")
            self.assertEqual((wait.from_min, steps[wait.after[0]].kind), (least, "stick"))
            self.assertEqual(steps["d.sets"].after, ("d.0",))

    def test_a_bowl_that_gets_stiff_is_warmed_again(self) -> None:
        many = job(piece("round_biscuit", BISCUIT, Layer("dip", share=0.5), count=200))
        again = [s for s in many.steps if s.kind == "rewarm"]
        self.assertTrue(again and all(s.heat_s > 0 for s in again))

    def test_joints(self) -> None:
        ball = piece("ball", Round(40, 40), Layer("dip", id="d"), count=10, name="ball", spares=1)
        fin = piece("mould", PRALINE, Layer("solid", id="f"), count=0, name="fin", spares=None)
        reckoning = job(ball, fin, joints=(Joint("fin", "ball", 2),))
        made = next(la for la in reckoning.lines if la.piece == "fin")
        self.assertEqual((made.count, made.spares), (22, 2))
        glue = next(la for la in reckoning.lines if la.layer == "glue:fin:ball")
        self.assertAlmostEqual(glue.goes_on_g, 10 * 2 * 0.6)
        steps = {s.id: s for s in reckoning.steps}
        join = steps["glue:fin:ball.0"]
        self.assertTrue(any(steps[n].kind == "release" for n in join.needs), "out of their mould first")
        with self.assertRaises(OutOfBounds):
            job(ball, fin, joints=(Joint("fin", "ball"), Joint("ball", "fin")))
        with self.assertRaises(UnknownName):
            job(ball, joints=(Joint("wing", "ball"),))


NAMES = ("dip", "drizzle", "dots", "shell", "paint", "topping", "glue", "lace", "pour", "petals", "solid")
stacks = st.lists(st.tuples(st.sampled_from(NAMES), st.sampled_from(["", "dusk", "rose"])), max_size=4)
jobs = st.lists(st.tuples(stacks, st.integers(1, 90), st.integers(0, 9)), min_size=1, max_size=4)


def pieces_of(drawn: list, times: int = 1, more: tuple[Layer, ...] = ()) -> list[Piece]:
    return [
        piece(
            "mould",
            PRALINE,
            *(Layer(n, c, length_mm=60.0) for n, c in stack),
            *(more if i == 0 else ()),
            count=count * times,
            spares=spares * times,
            name=f"p{i}",
        )
        for i, (stack, count, spares) in enumerate(drawn)
    ]


class Hands(unittest.TestCase):
    def test_a_maker_who_is_twice_as_quick_takes_half_as_long(self) -> None:
        layer = Layer("dip", id="d")
        job = Wanted((Piece("p", "round_biscuit", Disc(60, 8), 24, (layer,), 0),))
        slow, quick = (reckon(job, Kitchen(paces=paces), SHELF) for paces in ((), (("dip", 7.5),)))
        took = [sum(s.hands_s for s in result.steps if s.layer == "d") for result in (slow, quick)]
        self.assertEqual(took, [24 * 15.0, 24 * 7.5])


class AnyJob(unittest.TestCase):
    @calm
    @given(jobs, st.sampled_from([2, 5]))
    def test_nothing_is_lost_and_nothing_is_made_of_nothing(self, drawn: list, times: int) -> None:
        one, many = job(*pieces_of(drawn)), job(*pieces_of(drawn, times))
        for bowl in one.bowls:
            self.assertAlmostEqual(bowl.melt_g, bowl.goes_on_g + bowl.spare_g + bowl.lost_g + bowl.left_g, places=9)
            self.assertAlmostEqual(bowl.goes_on_g, sum(la.on_one_g * la.count for la in bowl.lines), places=9)
            self.assertGreaterEqual(bowl.left_g, bowl.depth_g - 1e-9)
            self.assertGreaterEqual(bowl.melt_g, bowl.poured_most_g - 1e-9)
        for a, b in zip(one.lines, many.lines, strict=True):
            self.assertAlmostEqual(b.goes_on_g, times * a.goes_on_g, places=9)
            self.assertAlmostEqual(a.on_one_g, a.poured_g - a.returned_g, places=9)

    @calm
    @given(jobs)
    def test_the_order_of_pieces_changes_nothing_and_more_is_never_less(self, drawn: list) -> None:
        pieces = pieces_of(drawn)
        one, back = job(*pieces), job(*pieces[::-1])
        self.assertEqual(
            {b.key: round(b.melt_g, 6) for b in one.bowls}, {b.key: round(b.melt_g, 6) for b in back.bowls}
        )
        more = job(*pieces_of(drawn, 1, (Layer("drizzle", length_mm=200.0),)))
        had = {b.key: b.melt_g for b in more.bowls}
        self.assertTrue(all(had[b.key] >= b.melt_g - 1e-9 for b in one.bowls))

    @calm
    @given(jobs)
    def test_steps_are_in_an_order_and_every_bowl_is_ready_before_it_is_used(self, drawn: list) -> None:
        reckoning = job(*pieces_of(drawn))
        seen: set[str] = set()
        above: dict[str, set[str]] = {}
        for step in reckoning.steps:
            earlier = {*step.after, *step.needs}
            self.assertTrue(earlier <= seen, step)
            above[step.id] = earlier.union(*(above[name] for name in earlier))
            seen.add(step.id)
        before = {
            key: {s.id for s in reckoning.steps if s.bowl == key and s.kind in ("melt", "tint", "temper")}
            for key in reckoning.bowl_of
        }
        for step in reckoning.steps:
            if step.kind == "make" and step.bowl:
                self.assertTrue(before[step.bowl] <= above[step.id], step)
        coated = {(la.piece, la.layer) for la in reckoning.lines if la.bowl}
        made = {(s.piece, s.layer) for s in reckoning.steps if s.kind == "make"}
        self.assertTrue(coated <= made, coated - made)
