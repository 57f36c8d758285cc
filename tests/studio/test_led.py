"""Led through melting, the spoon that fits, and tests at home."""

from __future__ import annotations

import uuid
from datetime import timedelta
from unittest import mock

from django.utils import timezone

from coating.flow.casson1959 import Flow
from coating.flow.home_tests import drain_time_s, spread
from coating.heat.melting import CEILING_C
from studio.bowls.models import Bowl, BowlEvent
from studio.cupboard.models import Ingredient
from tests.studio.kitchens import add, bowl_for, half_dip, live, step
from tests.studio.led import LedTests


class Melting(LedTests):
    def test_only_the_white_goes_in_and_it_is_cold(self) -> None:
        self.put_in()
        self.assertEqual(list(BowlEvent.objects.values_list("kind", flat=True)), ["added"])
        now = self.desk().now
        self.assertEqual((now.solid_fraction, now.is_set, round(now.mass_g)), (1.0, True, 290))

    def test_burst_by_burst_to_melted_and_never_too_hot(self) -> None:
        self.put_in()
        seen = []
        for _ in range(12):
            page = self.client.get(f"{self.address}melt/")
            planned = page.context["step"]
            if planned.kind == "done":
                break
            self.assertEqual(planned.kind, "burst")
            self.assertEqual(page.context["looked"], not seen, "after every burst it asks how it looks")
            self.said(seen="burst", seconds=planned.plan.bursts_s[0])
            seen.append(self.desk().now.temperature_c)
        self.assertEqual(planned.kind, "done")
        self.assertTrue(38 < max(seen) < CEILING_C, seen)
        self.said(seen="smooth")
        self.assertContains(self.client.get(f"{self.address}melt/"), "no more heat")
        self.assertEqual(self.client.get(self.address).context["proposal"].kind, "tint")

    def test_no_burst_once_it_is_smooth_and_leaving_changes_nothing(self) -> None:
        before = BowlEvent.objects.count()
        page = self.client.get(f"{self.address}melt/")
        self.assertContains(page, "into a dry bowl")
        self.assertEqual(BowlEvent.objects.count(), before, "looking at the page puts nothing in")
        self.put_in()
        self.said(seen="burst", seconds=30)
        self.said(seen="hard")
        self.assertContains(self.client.get(f"{self.address}melt/"), "Heated and stirred")
        self.said(seen="burst", seconds=20)
        self.said(seen="smooth")
        page = self.client.get(f"{self.address}melt/")
        self.assertEqual(page.context["step"].kind, "done")
        self.assertNotContains(page, 'value="burst"')

    def test_the_schools_own_burst_and_why_it_is_shorter(self) -> None:
        self.kitchen.melting_school, self.kitchen.power_w = "bursts_30", 800
        self.kitchen.save()
        self.put_in()
        self.assertContains(self.client.get(f"{self.address}melt/"), "<em>30 s</em>")
        self.said(seen="burst", seconds=30)
        self.said(seen="lumpy")
        self.assertContains(self.client.get(f"{self.address}melt/"), "less than your 30 s because little is left")

    def test_what_is_seen_changes_the_plan(self) -> None:
        self.put_in()
        self.said(seen="burst", seconds=30)
        before = self.desk().now.solid_fraction
        self.said(seen="smooth")
        self.assertLess(self.desk().now.solid_fraction, before)
        self.said(seen="lumpy")
        self.assertEqual(self.desk().now.solid_fraction, 0.4)
        self.said(seen="read", temperature_c="52 °C")
        self.assertContains(self.client.get(f"{self.address}melt/"), "Off the heat")
        for bad in ({"seen": "read"}, {"seen": "read", "temperature_c": "200"}, {"seen": "boiled"}):
            self.assertEqual(self.said(**bad).status_code, 422, bad)

    def test_sent_twice_heats_once(self) -> None:
        self.put_in()
        sent = step(self.bowl, seen="burst", seconds=30)
        for _ in range(3):
            self.client.post(f"{self.address}melt/", sent)
        self.assertEqual(BowlEvent.objects.filter(kind="warmed").count(), 1)
        stale = {**step(self.bowl, seen="burst", seconds=30), "seq": 0}
        self.assertContains(self.client.post(f"{self.address}melt/", stale), "another window", status_code=409)

    def test_too_little_and_the_hob(self) -> None:
        self.client.post(f"{self.address}put-in/", step(self.bowl, **add(self.kitchen, bright=5)))
        self.assertContains(self.client.get(f"{self.address}melt/"), "too little")
        self.kitchen.melting_school = "double_boiler"
        self.kitchen.save()
        self.assertContains(self.client.get(f"{self.address}melt/"), "Hold it over warm water")
        self.said(seen="burst")
        self.assertContains(self.client.get(f"{self.address}melt/"), "It is melted")

    def test_warmed_again_and_in_another_way(self) -> None:
        self.client.post(f"{self.address}did/", step(self.bowl, **add(self.kitchen, bright=290), temperature_c="42"))
        self.client.post(f"{self.address}did/", step(self.bowl, touch="cool", temperature_c="29"))
        self.kitchen.refresh_from_db()
        page = self.client.get(f"{self.address}melt/")
        self.assertContains(page, "It has only cooled: warm it")
        self.assertContains(page, "A bag of it that stiffens")
        bag = self.client.get(f"{self.address}melt/?by=in_the_bag")
        self.assertContains(bag, "then knead it well")
        sent = step(self.bowl, seen="burst", seconds=15, by="in_the_bag")
        self.assertRedirects(self.client.post(f"{self.address}melt/", sent), f"{self.address}melt/?by=in_the_bag")
        self.said(seen="smooth")
        self.client.post(f"{self.address}melt/?by=double_boiler", step(self.bowl, seen="burst", by="double_boiler"))
        self.assertAlmostEqual(self.desk().now.temperature_c, 38, delta=0.2)
        self.assertContains(self.client.get(f"{self.address}melt/"), "no more heat")
        self.assertEqual(self.said(seen="burst", by="campfire").status_code, 422)

    def test_nothing_in_it(self) -> None:
        self.assertContains(self.client.get(f"{self.address}melt/"), "into a dry bowl")
        empty = self.client.post(f"{self.address}put-in/", step(self.bowl))
        self.assertContains(empty, "how much white", status_code=422)
        odd = self.client.post(f"{self.address}put-in/", step(self.bowl, **add(self.kitchen, bright="lots")))
        self.assertContains(odd, 'value="lots"', status_code=422)


class Spoon(LedTests):
    def test_one_tap_says_how_it_flows(self) -> None:
        self.client.post(f"{self.address}did/", step(self.bowl, **add(self.kitchen, bright=290), temperature_c="38"))
        for word in ("mounds", "thin ribbon", "folds"):
            self.client.post(f"{self.address}spoon/", step(self.bowl, word=word))
            now = self.desk().now
            self.assertEqual(now.word, word)
            self.assertGreater(now.context.number_spread, 0.2, "a spoon leaves a wide range")
        self.assertContains(self.client.get(self.address), "It falls in folds")
        last = self.bowl.events.order_by("-seq").first()
        self.client.post(f"{self.address}strike/{last.seq}/", step(self.bowl))
        self.assertEqual(self.desk().now.word, "thin ribbon")

    def test_nothing_to_try(self) -> None:
        answer = self.client.post(f"{self.address}spoon/", step(self.bowl, word="folds"), follow=True)
        self.assertContains(answer, "nothing melted")
        for bad in ("gloopy", ""):
            sent = {"seq": 0, "key": str(uuid.uuid4()), "word": bad}
            self.assertEqual(self.client.post(f"{self.address}spoon/", sent).status_code, 404)


class HomeTests(LedTests):
    def setUp(self) -> None:
        super().setUp()
        self.client.post(f"{self.address}did/", step(self.bowl, **add(self.kitchen, bright=290), temperature_c="38"))
        self.tests = f"{self.address}tests/"

    def test_each_test_moves_the_bowl_and_narrows_its_range(self) -> None:
        wide = self.desk().now.context.number_spread
        for by, data in (
            ("spread", {"volume_ml": "15", "diameter_mm": "62 mm"}),
            ("bag", {"seconds": "150", "hole_mm": "4 mm", "from_g": "150 g", "to_g": "50 g"}),
            ("card", {"mass_g": "9 g", "width_mm": "60 mm", "dipped_mm": "80 mm"}),
        ):
            query = live(self.client, f"{self.tests}live/", {"by": by, **data}).json()
            self.assertIn("It stands at", query["parts"]["answer"])
            answer = self.client.post(self.tests, step(self.bowl, by=by, **data))
            self.assertRedirects(answer, self.address)
            now = self.desk().now
            noted = self.bowl.events.order_by("-seq").first().payload
            self.assertAlmostEqual(now.stands_at(), noted["value"], delta=0.4)
            self.assertEqual("together" in noted, by == "bag", "a bag after a spread is read with it")
            if by != "bag":
                self.assertAlmostEqual(noted["value"], query["result"]["number"], delta=0.4)
            self.assertLess(now.context.number_spread, wide + 0.3)
        self.assertContains(self.client.get(self.address), "Card test: stands at")

    def test_spread_and_bag_together_say_both_values(self) -> None:
        flow = Flow(9.0, 2.4)
        seconds = drain_time_s(flow, hole_mm=4)
        wide_mm = next(d for d in range(40, 120) if spread(volume_ml=15, diameter_mm=d).yield_stress_pa < 9.0)
        bag = {"seconds": f"{seconds:.0f}", "hole_mm": "4 mm", "from_g": "150 g", "to_g": "50 g"}
        first = {"by": "spread", "volume_ml": "15", "diameter_mm": f"{wide_mm} mm"}
        self.client.post(self.tests, step(self.bowl, **first))
        alone = self.desk().now.context.number_spread
        answer = self.client.post(self.tests, step(self.bowl, by="bag", **bag), follow=True)
        self.assertContains(answer, "together say both")
        result = self.desk().now.flow()
        self.assertAlmostEqual(result.yield_stress_pa / 9.0, 1, delta=0.1)
        self.assertAlmostEqual(result.viscosity_pa_s / 2.4, 1, delta=0.1)
        self.assertLess(self.desk().now.context.number_spread, alone)
        self.client.post(f"{self.address}did/", step(self.bowl, **add(self.kitchen, palm_flakes=3)))
        self.client.post(self.tests, step(self.bowl, **first))
        self.assertNotIn("together", self.bowl.events.order_by("-seq").first().payload)

    def test_sent_twice_it_counts_once(self) -> None:
        sent = step(self.bowl, by="drip", length_mm="30 mm", volume_ml="0.5", width_mm="9 mm", wall="room")
        for minutes in (0, 2, 4):
            later = timezone.now() + timedelta(minutes=minutes)
            with mock.patch("studio.common.clock.now", return_value=later):
                self.assertRedirects(self.client.post(self.tests, sent), self.address)
        self.assertEqual(BowlEvent.objects.filter(kind="tested").count(), 1)

    def test_it_can_be_kept_for_what_the_bowl_is_made_of(self) -> None:
        sent = step(self.bowl, by="spread", volume_ml="15", diameter_mm="62 mm", keep="on")
        self.assertContains(self.client.post(self.tests, sent, follow=True), "as measured by you")
        number = Ingredient.objects.with_parameters().get(kitchen=self.kitchen, code="bright").current()["number"]
        self.assertEqual(number.provenance, "measured")
        self.kitchen.refresh_from_db()
        self.assertAlmostEqual(number.value, self.desk().now.label_number, delta=0.1)
        self.assertTrue(number.low < number.value < number.high)

    def test_fats_side_by_side_and_a_bowl_that_has_cooled(self) -> None:
        Bowl.objects.update(technique="cake_drip")  # a dip wants no fat
        page = self.client.get(self.address)
        self.assertContains(page, "The same with another fat")
        self.assertContains(page, "liquid oil keeps a piece soft for good")
        self.assertContains(page, f"/wrong/?bowl={self.bowl.pk}")
        later = timezone.now() + timedelta(minutes=25)
        with mock.patch("studio.common.clock.now", return_value=later):
            self.assertContains(
                self.client.get(f"/wrong/stiffening/?bowl={self.bowl.pk}"), "it has only <em>cooled</em>"
            )

    def test_bad_answers_stay_on_the_page(self) -> None:
        bad = (
            {"by": "spread", "volume_ml": "15", "diameter_mm": ""},
            {"by": "spread", "volume_ml": "15", "diameter_mm": "x"},
            {"by": "bag", "seconds": "0", "hole_mm": "4", "from_g": "150", "to_g": "50"},
            {"by": "bag", "seconds": "90", "hole_mm": "4", "from_g": "50", "to_g": "150"},
            {"by": "card", "mass_g": "-3", "width_mm": "60", "dipped_mm": "80"},
        )
        for data in bad:
            page = self.client.post(self.tests, step(self.bowl, **data))
            self.assertContains(page, "errorlist", status_code=422)
        self.assertContains(self.client.get(f"{self.tests}?by=crystal+ball"), "tablespoon")

    def test_nothing_melted_to_test(self) -> None:
        empty = bowl_for(half_dip(self.kitchen, colour="Apricot"))
        self.assertRedirects(self.client.get(f"/bowls/{empty.pk}/tests/"), f"/bowls/{empty.pk}/")
