"""Parts that are made in one place and put on another: counts, glue, room, order, moments; random trees of them."""

from __future__ import annotations

import math
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from coating.errors import OutOfBounds, UnknownName
from coating.job import Joint, Kitchen, Mould, Piece, Reckoning, Wanted, reckon
from coating.job.reckoning import JobStep
from coating.piece.cores import Hollow, Round, Sheet
from coating.piece.kinds import KINDS
from coating.stack.joints import doubts
from coating.stack.layers import Layer, on_one_g
from tests.coating.job.test_reckon import SHELF, TONES

FIN = Hollow(20, 20, 6)


def reckoned(*pieces: Piece, joints: tuple[Joint, ...] = ()) -> Reckoning:
    return reckon(Wanted(pieces, joints, TONES), Kitchen(moulds=(Mould("mould", (), 12, 1),)), SHELF)


def all_before(reckoning: Reckoning, step: JobStep) -> set[str]:
    """Every step that has to be done before one."""
    by_id, seen, left = {s.id: s for s in reckoning.steps}, set[str](), [*step.after, *step.needs]
    while left:
        name = left.pop()
        if name not in seen:
            seen.add(name)
            left += [*by_id[name].after, *by_id[name].needs]
    return seen


class Rocket(unittest.TestCase):
    """A ball on a stick, two moulded fins glued on, a run-out window laid on while the coat is half-set."""

    def setUp(self) -> None:
        fin = Piece("fin", "mould", FIN, 0, (Layer("solid", "dusk", id="cast"),), 3, "Fins")
        window = Piece("pane", "shape", Sheet(16, 16), 0, (Layer("flood", id="flooded"),), 2, "Panes")
        layers = (
            Layer("stick", id="stick"),
            Layer("dip", "rose", id="dip"),
            Layer("part", part="pane", placed="half_set", id="laid"),
            Layer("part", "dusk", part="fin", count=2, placed="glued", id="glued"),
        )
        self.reckoning = reckoned(fin, window, Piece("ball", "ball", Round(32, 32), 12, layers, 1, "Rockets"))
        self.steps = {s.id: s for s in self.reckoning.steps}

    def test_as_many_as_go_on_and_on_the_spares_too(self) -> None:
        made = {line.layer: (line.count, line.spares) for line in self.reckoning.lines}
        self.assertEqual((made["cast"], made["flooded"], made["dip"]), ((2 * 13, 3), (13, 2), (12, 1)))

    def test_glue_is_counted_once(self) -> None:
        """By hand: 13 rockets, two dabs of .6 g; the pane holds by itself."""
        glue = next(line for line in self.reckoning.lines if line.layer == "glued")
        laid = next(line for line in self.reckoning.lines if line.layer == "laid")
        self.assertAlmostEqual(glue.made_g, 13 * 2 * 0.6)
        self.assertEqual((glue.bowl, glue.bags, laid.bowl, laid.made_g), ("dusk:coating", 1, "", 0.0))

    def test_out_of_the_mould_and_set_before_it_is_joined(self) -> None:
        glued = next(s for s in self.reckoning.steps if s.layer == "glued" and s.kind == "make")
        before = all_before(self.reckoning, glued)
        self.assertTrue(any(self.steps[n].kind == "release" for n in before))
        wait = next(self.steps[n] for n in glued.after if self.steps[n].kind == "wait")
        self.assertGreater(wait.from_min, 0, "the coat is set")
        self.assertIn("Glue 2 fins on each of 13 rockets: a dab, set on, held; prop what leans.", glued.says)
        held = next(s for s in self.reckoning.steps if glued.id in s.after and s.kind == "wait")
        self.assertGreater(held.from_min, 0, "what is glued is left until it can be boxed")

    def test_laid_on_while_the_coat_is_half_set(self) -> None:
        laid = next(s for s in self.reckoning.steps if s.layer == "laid" and s.kind == "make")
        wait = next(self.steps[n] for n in laid.after if self.steps[n].kind == "wait")
        self.assertEqual(self.steps[wait.after[0]].layer, "dip")
        self.assertIsNotNone(laid.until_min)
        self.assertIn("lay, do not push", laid.says)


class Parts(unittest.TestCase):
    def test_a_joint_is_a_layer_that_names_a_piece(self) -> None:
        fin = Piece("fin", "mould", FIN, 0, (Layer("solid", "dusk", id="cast"),), 3, "Fins")
        dip = Layer("dip", "rose", id="dip")
        reckoning = reckoned(
            fin, Piece("ball", "ball", Round(32, 32), 12, (dip,), 1), joints=(Joint("fin", "ball", 2),)
        )
        part = Layer("part", "dusk", part="fin", count=2, placed="glued", id="glue:fin:ball")
        self.assertEqual(reckoning, reckoned(fin, Piece("ball", "ball", Round(32, 32), 12, (dip, part), 1)))

    def test_what_is_put_inside_takes_its_room(self) -> None:
        """A disc of 2 g in a filled shell: 2 g less of filling, as heavy as that; set in before the lid."""
        disc = Piece("disc", "shape", Sheet(10, 10), 0, (Layer("flood", goes_on_g=2.0, id="flooded"),), 0, "Discs")
        shell = (Layer("shell", id="shell"), Layer("filling", volume_ml=5.0, id="fill"), Layer("cap", id="cap"))
        box = Piece("box", "mould", Hollow(29, 24, 15), 10, shell, 0, "Boxes")
        reckoning = reckoned(disc, box, joints=(Joint("disc", "box", 1, "inside"),))
        filling = next(line for line in reckoning.lines if line.layer == "fill")
        self.assertAlmostEqual(filling.on_one_g, 5.0 * 1.1 - 2.0)
        order = [s.layer for s in reckoning.steps if s.kind in ("make", "release") and s.piece == "box"]
        self.assertLess(order.index("joint:disc:box"), order.index("cap"))
        released = next(i for i, s in enumerate(reckoning.steps) if s.kind == "release" and s.piece == "box")
        self.assertGreater(released, max(i for i, s in enumerate(reckoning.steps) if s.layer == "joint:disc:box"))

    def test_what_cannot_be(self) -> None:
        one, other = (Piece(n, "ball", Round(32, 32), 4, (Layer("dip", id=n),), 0, n) for n in ("a", "b"))
        with self.assertRaisesRegex(OutOfBounds, "Nothing can go on itself: a on b"):
            reckoned(one, other, joints=(Joint("a", "b"), Joint("b", "a")))
        with self.assertRaises(OutOfBounds):
            reckoned(one, joints=(Joint("a", "a"),))
        with self.assertRaises(UnknownName):
            reckoned(one, joints=(Joint("wing", "a"),))
        with self.assertRaises(UnknownName):
            reckoned(Piece("a", "ball", Round(32, 32), 4, (Layer("part", part="wing", id="w"),)))


class Doubts(unittest.TestCase):
    """Sizes and weights by hand."""

    def said(
        self, on: str, size: tuple[float, ...], part: tuple[float, float], weighs_g: float = 5.0, **fields: object
    ) -> str:
        layer = Layer("part", part="p", **{"placed": "half_set", **fields})  # type: ignore[arg-type]
        return " ".join(
            doubts(
                KINDS[on], KINDS[on].core(*size), layer, Sheet(*part), weighs_g, "panels" if layer.count > 1 else "pane"
            )
        )

    def test_too_many_all_round(self) -> None:
        """A dessert of 60 mm is 188 mm round: seven of 25 mm, not eight."""
        self.assertEqual(self.said("dessert", (60, 50), (25, 50), count=7, where="round"), "")
        self.assertIn(
            "8 panels do not fit all round: 7 do.", self.said("dessert", (60, 50), (25, 50), count=8, where="round")
        )

    def test_too_large(self) -> None:
        self.assertEqual(self.said("round_biscuit", (60, 8), (50, 50)), "")
        self.assertIn("The pane is 100 mm by 100 mm", self.said("round_biscuit", (60, 8), (100, 100)))
        self.assertIn("does not go into 50 mm", self.said("cup", (50, 38, 25), (60, 20), placed="inside"))
        self.assertIn("not hollow", self.said("ball", (32, 32), (10, 10), placed="inside"))
        self.assertIn("pairs want an even number", self.said("ball", (32, 32), (10, 10), count=3, where="pairs"))

    def test_too_heavy(self) -> None:
        """A g of glue holds 60 g: a plaque of 90 g wants 1.5 g."""
        self.assertIn("take 1.5 g", self.said("cake_tier", (150, 100), (60, 60), 90.0, placed="glued", each_g=0.6))
        self.assertEqual(self.said("cake_tier", (150, 100), (60, 60), 90.0, placed="glued"), "")
        self.assertIn(
            "too heavy for what it can be glued by", self.said("cake_tier", (150, 100), (8, 8), 90.0, placed="glued")
        )


PLACED = st.sampled_from(["wet", "half_set", "set", "glued"])
# For every piece after the first: the earlier one that it goes on, so many on each, and how.
trees = st.lists(st.tuples(st.integers(0, 5), st.integers(1, 4), PLACED, st.integers(0, 3)), min_size=1, max_size=6)


class Trees(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(st.integers(1, 9), trees)
    def test_any_tree_of_parts(self, count: int, data: list[tuple[int, int, str, int]]) -> None:
        dip = [Layer("dip", ("dusk", "rose", "")[i % 3], id=f"d{i}") for i in range(len(data) + 1)]
        pieces = [Piece("p0", "ball", Round(32, 32), count, (dip[0],), 1)]
        joints = []
        for i, (on, each, placed, spares) in enumerate(data, 1):
            pieces.append(Piece(f"p{i}", "ball", Round(14, 14), 0, (dip[i],), spares))
            joints.append(Joint(f"p{i}", f"p{min(on, i - 1)}", each, placed))
        reckoning = reckoned(*pieces, joints=tuple(joints))
        made = {line.piece: line.pieces for line in reckoning.lines if line.technique == "dip"}
        wanted = {"p0": count + 1}
        for joint, (_, _, _, spares) in zip(joints, data, strict=True):
            wanted[joint.part] = joint.each * wanted[joint.on] + spares
        self.assertEqual(made, wanted)
        weighs = {p.id: on_one_g(p.core, dip[0]) for p in pieces}
        for joint in reversed(joints):  # what goes on later pieces is later in the list
            weighs[joint.on] += joint.each * weighs[joint.part]
        glue_g = sum(max(0.6, weighs[j.part] / 60) * j.each * wanted[j.on] for j in joints if j.placed == "glued")
        self.assertAlmostEqual(sum(la.made_g for la in reckoning.lines if la.technique == "part"), glue_g)
        for bowl in reckoning.bowls:
            self.assertAlmostEqual(bowl.melt_g, bowl.goes_on_g + bowl.spare_g + bowl.lost_g + bowl.left_g)
        for joint in joints:
            first = next(s for s in reckoning.steps if s.layer == joint.id and s.kind == "make")
            last = [s for s in reckoning.steps if s.piece == joint.part][-1]
            self.assertIn(last.id, all_before(reckoning, first), "a part is ready before it is put on")
        self.assertTrue(all(math.isfinite(s.hands_s) for s in reckoning.steps))
