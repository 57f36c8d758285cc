"""What went wrong in known cases. Causes and moves: common practice, no source; doses: those of the pages that give
them elsewhere."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from coating.care.diagnosis import Case, Diagnosis, Piece, diagnose
from coating.colour.correction import correct
from coating.colour.mixing import Part
from coating.flow.windows import window
from coating.heat.times import bend_window, set_time
from coating.plan.proposal import Cupboard, Wish, propose
from coating.simulate.bowl import BowlContext, Event
from coating.simulate.fold import fold
from coating.stock.ingredients import DEMO_INGREDIENTS as HAS

DRIZZLY = (86.44, -21.93, -13.58)


def put(at_s: float, name: str, grams: float) -> Event:
    return Event(0, "added", at_s, parts=(Part(HAS[name], grams),))


def to(at_s: float, warm_c: float, kind: str = "warmed") -> Event:
    return Event(0, kind, at_s, to_c=warm_c)


def stir(at_s: float, seconds: float = 60) -> Event:
    return Event(0, "stirred", at_s, seconds=seconds)


def case(symptom: str, events: list[Event], at_s: float, **more: Any) -> Case:
    """A bowl of a white in a room of 21 degC."""
    known = {k: more.pop(k) for k in ("white", "number", "room_c") if k in more}
    numbered = [Event(i, e.kind, e.at_s, e.parts, e.to_c, e.seconds, e.power_w) for i, e in enumerate(events, start=1)]
    return Case(symptom, BowlContext(**{"white": "untempered", **known}), numbered, at_s, **more)


IVORY, BRIGHT = put(0, "ivory", 200), put(0, "bright", 200)
MELTED = [to(240, 42), stir(250)]


def first(diagnosis: Diagnosis) -> str:
    return diagnosis.suspects[0].cause


def moves(diagnosis: Diagnosis) -> list[str]:
    return [offer.move for offer in diagnosis.offers]


class FourClumpyBowls(TestCase):
    """The same lumps mean four things."""

    def test_too_hot_for_too_long_gets_no_heat(self) -> None:
        diagnosis = diagnose(case("clumpy", [IVORY, to(240, 58), stir(250)], 840))
        self.assertEqual((first(diagnosis), moves(diagnosis)[0]), ("overheated", "thin"))
        self.assertNotIn("warm", moves(diagnosis))
        spell = diagnosis.first.evidence.figures
        self.assertGreater(spell["hot_min"], 5)

    def test_water_in_a_gel_is_not_thinned_away(self) -> None:
        diagnosis = diagnose(case("clumpy", [IVORY, to(240, 42), put(300, "blue_gel", 1.5), stir(330)], 400))
        self.assertEqual((first(diagnosis), moves(diagnosis)[0]), ("water_colour", "keep"))
        self.assertTrue(diagnosis.hopeless)
        self.assertEqual(diagnosis.good_for, ("filling",))

    def test_half_of_the_bursts_leaves_lumps(self) -> None:
        burst = Event(2, "warmed", 60, seconds=45, power_w=600)
        diagnosis = diagnose(case("clumpy", [IVORY, burst, stir(70, 20)], 90))
        self.assertEqual((first(diagnosis), moves(diagnosis)[0]), ("lumps", "warm"))

    def test_half_an_hour_in_a_cool_room_is_only_cold(self) -> None:
        diagnosis = diagnose(case("clumpy", [BRIGHT, to(240, 40), stir(250)], 1740, white="coating", room_c=20))
        self.assertEqual((first(diagnosis), moves(diagnosis)[0]), ("cold", "warm"))


class NothingWasWrittenDown(TestCase):
    def test_nothing_is_certain_and_one_look_is_asked(self) -> None:
        diagnosis = diagnose(case("clumpy", [IVORY], 600))
        self.assertLess(diagnosis.first.probability, 0.7)
        self.assertIn(diagnosis.look.name if diagnosis.look else "", ("squash", "spoonful_warmed", "lip"))

    def test_a_warmed_spoonful_tells_cold_from_overheated(self) -> None:
        loosens = diagnose(case("clumpy", [IVORY], 600, answers={"spoonful_warmed": "loosens"}))
        self.assertIn(first(loosens), ("cold", "lumps"))
        worse = diagnose(case("clumpy", [IVORY], 600, answers={"spoonful_warmed": "worse"}))
        self.assertEqual(first(worse), "overheated")
        self.assertFalse({"warm", "warm_bag"} & set(moves(worse)))


class TheDoseIsThatOfItsOwnPage(TestCase):
    def test_cold_and_thick_is_warmed_and_nothing_goes_in(self) -> None:
        diagnosis = diagnose(case("thick", [IVORY, *MELTED], 1740, number=40, room_c=20, window=window("dip")))
        self.assertEqual((first(diagnosis), moves(diagnosis)[0]), ("cold", "warm"))
        done = diagnosis.offers[0].done
        self.assertEqual(done.parts if done else None, ())
        flow = done.after.flow() if done else None
        self.assertEqual(window("dip").verdict(flow, "untempered") if flow else "", "right")

    def test_a_thick_bag_takes_half_of_the_dose_of_the_bowls_page(self) -> None:
        events = [IVORY, *MELTED, to(400, 38, "cooled"), stir(410)]
        question = case("thick", events, 420, number=110, window=window("dip"), thinner=HAS["cocoa_butter"])
        diagnosis = diagnose(question)
        self.assertEqual((first(diagnosis), moves(diagnosis)[0]), ("thick_product", "thin"))
        state = fold(question.events, question.context, at_s=420)
        wish = Wish(None, window("dip"), "untempered", 200)
        page = propose(state, wish, Cupboard((HAS["ivory"],), thinner=HAS["cocoa_butter"]))
        done = diagnosis.offers[0].done
        assert page.thinning is not None and done is not None
        self.assertEqual(done.parts, page.additions)
        self.assertAlmostEqual(done.parts[0].mass_g, page.thinning.thinner_g / 2, delta=0.6)  # no more than stays firm
        self.assertAlmostEqual(done.whole_g, page.thinning.thinner_g)

    def test_twice_the_drops_are_corrected_as_the_colours_page_does(self) -> None:
        drops = put(300, "blue", 10 * HAS["blue"].unit_g)
        question = case(
            "too_dark", [BRIGHT, *MELTED, drops, stir(330, 90)], 460, white="coating", target_lab=DRIZZLY,
            bases=(HAS["bright"],), colourants=(HAS["blue"],),
        )  # fmt: skip
        diagnosis = diagnose(question)
        self.assertEqual((first(diagnosis), moves(diagnosis)[0]), ("overdose", "correct"))
        done = diagnosis.offers[0].done
        assert done is not None
        own = correct(question.log.now.parts, DRIZZLY, question.bases, question.colourants)
        self.assertEqual([(p.ingredient.name, p.mass_g) for p in done.parts], [("bright", own.added_g)])
        self.assertAlmostEqual(own.added_g, 90, delta=1)

    def test_more_colour_is_withheld_before_it_is_stirred(self) -> None:
        drops = put(330, "blue", 6 * HAS["blue"].unit_g)
        diagnosis = diagnose(
            case("too_pale", [BRIGHT, *MELTED, drops], 350, white="coating", target_lab=DRIZZLY,
                 bases=(HAS["bright"],), colourants=(HAS["blue"],))
        )  # fmt: skip
        self.assertEqual((first(diagnosis), moves(diagnosis)[0]), ("undermixed", "stir"))
        self.assertEqual(dict(diagnosis.withheld), {"correct": ("undermixed",)})


class Pieces(TestCase):
    def lace(self, symptom: str, since_min: float) -> Diagnosis:
        piece = Piece(thickness_mm=1.5, place="room", since_min=since_min)
        return diagnose(
            case(symptom, [BRIGHT, *MELTED], 600, white="coating", window=window("lace"), shape="line", piece=piece)
        )

    def mould(self, since_min: float) -> Diagnosis:
        piece = Piece(thickness_mm=8, place="freezer", since_min=since_min)
        return diagnose(case("stuck", [BRIGHT, *MELTED], 600, white="coating", shape="mould", piece=piece))

    def test_lace_breaks_late_and_tears_early(self) -> None:
        late, early = self.lace("lace_breaks", 30), self.lace("lace_tears", 3)
        self.assertEqual((first(late), moves(late)[0]), ("lifted_late", "panels"))
        self.assertEqual((first(early), moves(early)[0]), ("lifted_early", "wait"))
        bends = bend_window("line", 1.5, "room", white="coating")
        self.assertAlmostEqual(early.offers[0].wait_min or 0, bends.from_min - 3, places=6)

    def test_a_mould_at_half_its_time_waits_what_is_left_and_at_twice_it_is_not_that(self) -> None:
        release = set_time("mould", 8, "freezer", white="coating").release_min
        half, twice = self.mould(release / 2), self.mould(2 * release)
        self.assertEqual((first(half), moves(half)[0]), ("early_out", "wait"))
        self.assertAlmostEqual(half.offers[0].wait_min or 0, release / 2, places=6)
        self.assertEqual(first(twice), "mould_dirty")

    def test_grey_by_its_temper_and_wet_by_the_freezer(self) -> None:
        grey = case("grey", [IVORY, *MELTED], 900, window=window("dip"), piece=Piece(1.3, "room", 600))
        self.assertEqual((first(diagnose(grey)), moves(diagnose(grey))[0]), ("never_tempered", "temper"))
        wet = case("wet", [BRIGHT, *MELTED], 900, white="coating", humidity=0.7, piece=Piece(1.3, "freezer", 15))
        diagnosis = diagnose(wet)
        self.assertEqual(first(diagnosis), "damp")
        self.assertNotIn("cold_place", moves(diagnosis))

    def test_temper_that_was_lost(self) -> None:
        events = [
            IVORY,
            to(300, 45),
            put(500, "ivory", 70),
            to(800, 28.5, "cooled"),
            stir(810),
            to(1200, 35),
            stir(1210),
        ]
        diagnosis = diagnose(case("grey", events, 1300, white="tempered", tempered_at_s=800, piece=Piece(place="room")))
        self.assertEqual((first(diagnosis), moves(diagnosis)[0]), ("lost_temper", "temper"))

    def test_a_stick_that_has_not_set_waits_the_rest_of_ten_minutes(self) -> None:
        piece = Piece(stick_min=4, core="dry")
        diagnosis = diagnose(case("slides", [BRIGHT, *MELTED], 400, white="coating", number=42, piece=piece))
        self.assertEqual(
            (first(diagnosis), moves(diagnosis)[0], diagnosis.offers[0].wait_min), ("stick_not_set", "wait", 6.0)
        )

    def test_a_warm_drip_is_cooled_not_squeezed_less(self) -> None:
        piece = Piece(wall="chilled", squeeze_ml=0.5, wanted_mm=38)
        diagnosis = diagnose(
            case("drip_far", [BRIGHT, to(300, 46), stir(320)], 340, white="coating", number=25,
                 window=window("cake_drip"), piece=piece)
        )  # fmt: skip
        self.assertEqual((first(diagnosis), moves(diagnosis)[0]), ("too_warm", "cool"))

    def test_flakes_that_went_into_a_cooling_bowl_block_the_tip(self) -> None:
        base = put(0, "bright", 150)
        events = [base, *MELTED, to(500, 37, "cooled"), put(510, "palm_flakes", 3), stir(530, 20)]
        diagnosis = diagnose(case("line_stops", events, 545, white="coating", window=window("lettering"), shape="line"))
        self.assertIn("fat_unmelted", [s.cause for s in diagnosis.suspects[:3]])
        self.assertIn(moves(diagnosis)[0], ("warm", "warm_bag"))


class BeyondHelp(TestCase):
    def test_what_smells_burnt_is_thrown_away(self) -> None:
        diagnosis = diagnose(case("burnt_smell", [IVORY, to(240, 66)], 500, answers={"smell": "burnt"}))
        self.assertEqual((first(diagnosis), diagnosis.hopeless, diagnosis.good_for), ("overheated", True, ()))
        self.assertEqual(moves(diagnosis), ["swap"])
        clumpy = diagnose(case("clumpy", [IVORY, to(240, 66)], 500, answers={"smell": "burnt"}))
        self.assertEqual((moves(clumpy), clumpy.good_for, clumpy.look), (["swap"], (), None))
