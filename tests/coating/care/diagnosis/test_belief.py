"""Belief, looks and moves: what must hold of any case."""

from __future__ import annotations

from dataclasses import replace
from random import Random
from unittest import TestCase

from coating.care.diagnosis import SYMPTOMS, TABLES, Case, diagnose
from coating.care.diagnosis.belief import believed
from coating.care.diagnosis.cause import FLOOR, UNKNOWN, Cause
from coating.care.diagnosis.looks import CANNOT_TELL
from coating.care.diagnosis.symptoms import WHERE
from coating.care.diagnosis.worth import UNSAFE_ABOVE
from coating.errors import UnknownName
from coating.simulate.bowl import BowlContext, Event
from tests.coating.care.diagnosis.faults import answered, faults
from tests.coating.care.diagnosis.test_check_values import IVORY, MELTED, case, to


class TheTables(TestCase):
    def test_shares_are_shares(self) -> None:
        self.assertEqual((len(TABLES.causes), len(TABLES.looks)), (48, 12))
        for cause in TABLES.causes:
            self.assertAlmostEqual(sum(cause.symptoms.values()), 1, delta=0.011, msg=cause.name)
            self.assertLessEqual(set(cause.symptoms), set(SYMPTOMS))
            for look, shares in cause.looks.items():
                self.assertAlmostEqual(sum(shares), 1, delta=0.011, msg=f"{cause.name} {look}")
                self.assertEqual(len(shares), len(TABLES.by_look[look].answers))
        names = set(TABLES.by_cause)
        for move in TABLES.moves:
            self.assertLessEqual({*move.mends, *move.worse_for}, names, move.name)

    def test_every_symptom_has_a_cause_and_stands_in_one_place(self) -> None:
        self.assertTrue(all(TABLES.showing(symptom) for symptom in SYMPTOMS))
        self.assertEqual(len(SYMPTOMS), len(set(SYMPTOMS)))
        self.assertEqual(sum(map(len, WHERE.values())), 38)

    def test_every_cause_has_a_move_that_mends_all_of_it_or_the_half_of_what_is_kept(self) -> None:
        for cause in TABLES.causes:
            best = max(m.mends.get(cause.name, 0) for m in TABLES.moves if any(map(m.is_for, cause.symptoms)))
            self.assertGreaterEqual(best, 0.5, cause.name)


class History(TestCase):
    def test_a_cause_is_half_likely_where_it_becomes_so_and_never_ruled_out(self) -> None:
        cold = TABLES.by_cause["cold"]
        self.assertAlmostEqual(cold.by_history(3.0), 0.5)
        self.assertEqual(cold.by_history(-500.0), FLOOR)
        self.assertEqual(cold.by_history(None), UNKNOWN)
        self.assertEqual(Cause("x", 1, {}).by_history(None), 1.0)
        self.assertEqual(TABLES.by_cause["overheated"].by_history(0.0), 0.05)

    def test_bursts_alone_never_clear_a_bowl_of_too_much_heat(self) -> None:
        bursts = [IVORY, Event(2, "warmed", 60, seconds=110, power_w=600)]
        by_bursts = believed(case("clumpy", bursts, 90), TABLES).evidence["overheated"]
        by_reading = believed(case("clumpy", [IVORY, to(60, 40)], 90), TABLES).evidence["overheated"]
        self.assertEqual((by_bursts.floor, by_reading.floor), (0.3, 0.0))

    def test_what_was_never_written_down_is_not_ruled_out(self) -> None:
        evidence = believed(case("thick", [IVORY], 600), TABLES).evidence
        self.assertTrue(all(evidence[c].says is None for c in ("overheated", "lumps", "cold", "water_colour")))

    def test_an_empty_bowl_is_no_refusal(self) -> None:
        diagnosis = diagnose(Case("thick", BowlContext(), [], 0.0))
        self.assertTrue(diagnosis.suspects)
        self.assertTrue(all(offer.done is None for offer in diagnosis.offers))

    def test_shown_shares_are_among_all(self) -> None:
        for symptom in SYMPTOMS:
            diagnosis = diagnose(case(symptom, [IVORY, *MELTED], 400))
            whole = sum(s.probability for s in diagnosis.suspects)
            self.assertLessEqual(whole, 1 + 1e-9)
            self.assertLessEqual(len(diagnosis.suspects), 6)
            self.assertTrue(diagnosis.offers, symptom)


class Looks(TestCase):
    def test_the_order_of_answers_does_not_matter_and_cannot_tell_counts_for_nothing(self) -> None:
        said = {"squash": "hard", "lip": "warm"}
        one, other = (
            diagnose(case("clumpy", [IVORY], 600, answers=dict(a))) for a in (said.items(), [*said.items()][::-1])
        )
        self.assertEqual([s.probability for s in one.suspects], [s.probability for s in other.suspects])
        nothing = diagnose(case("clumpy", [IVORY], 600))
        unsure = diagnose(case("clumpy", [IVORY], 600, answers={"squash": CANNOT_TELL}))
        self.assertEqual([s.probability for s in nothing.suspects], [s.probability for s in unsure.suspects])
        self.assertNotEqual(unsure.look, nothing.look)

    def test_three_at_most_and_none_where_all_want_the_same(self) -> None:
        three = dict.fromkeys(("squash", "lip", "smell"), CANNOT_TELL)
        self.assertIsNone(diagnose(case("clumpy", [IVORY], 600, answers=three)).look)
        water = diagnose(
            case("clumpy", [IVORY, *MELTED], 400, answers={"water_seen": "yes", "squash": "smooth"}, wet=True)
        )
        self.assertEqual(water.first.cause, "water")

    def test_contradicting_answers_still_answer(self) -> None:
        said = {"spoonful_warmed": "loosens", "squash": "hard", "smell": "caramel"}
        diagnosis = diagnose(case("clumpy", [IVORY], 600, answers=said))
        self.assertAlmostEqual(sum(believed(case("clumpy", [IVORY], 600, answers=said), TABLES).shares.values()), 1)
        self.assertTrue(diagnosis.offers)

    def test_what_is_unknown_is_refused_by_name(self) -> None:
        for wrong in ({"symptom": "sad"}, {"answers": {"mood": "bad"}}, {"answers": {"lip": "spicy"}}):
            with self.assertRaises(UnknownName):
                diagnose(replace(case("thick", [IVORY], 60), **wrong))


class Harm(TestCase):
    def test_no_move_is_offered_that_makes_a_likely_cause_worse(self) -> None:
        rng = Random(3)
        for one in faults(150, seed=8):
            question, diagnosis = one.case, diagnose(one.case)
            while True:
                shares = believed(question, TABLES).shares
                for offer in diagnosis.offers:
                    move = next(m for m in TABLES.moves if m.name == offer.move)
                    self.assertFalse([c for c in move.worse_for if shares.get(c, 0) > UNSAFE_ABOVE], offer.move)
                    self.assertFalse(
                        [p for p in (offer.done.parts if offer.done else ()) if p.ingredient.water_fraction]
                    )
                if diagnosis.look is None:
                    break
                question = replace(
                    question,
                    answers={**question.answers, diagnosis.look.name: answered(diagnosis.look, one.cause, rng)},
                )
                diagnosis = diagnose(question)
