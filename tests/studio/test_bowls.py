import re
import uuid
from datetime import timedelta
from unittest import mock

from django.db import IntegrityError, transaction
from django.test import TestCase
from django.utils import timezone

from coating.colour.mixing import Part, mix
from coating.simulate.fold import fold
from coating.stock.ingredients import demo_ingredient
from studio.accounts.models import Kitchen
from studio.bowls.actions import BowlChanged, append
from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl, BowlEvent
from studio.cupboard.actions import change_ingredient
from studio.cupboard.models import Ingredient
from tests.studio.kitchens import add, bowl_for, half_dip, live, maker, step


class BowlTests(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.kitchen.has_thermometer = True
        self.kitchen.save()
        self.bowl = bowl_for(half_dip(self.kitchen))
        self.address = f"/bowls/{self.bowl.pk}/"

    def did(self, **fields: object) -> object:
        return self.client.post(f"{self.address}did/", step(self.bowl, **fields))

    def melt(self) -> None:
        self.did(**add(self.kitchen, bright=290, blue=15, red=4), temperature_c="39")

    def desk(self) -> Desk:
        return Desk.of(Bowl.objects.with_colour().get(pk=self.bowl.pk), self.kitchen)


class Doing(BowlTests):
    def test_the_first_page_proposes_a_whole_recipe(self) -> None:
        page = self.client.get(self.address)
        self.assertContains(page, "Melt")
        self.assertEqual(page.context["proposal"].kind, "fill")
        self.assertLessEqual(page.context["colour"]["de00"], 2)

    def test_events_fold_to_what_was_said(self) -> None:
        self.melt()
        events = list(BowlEvent.objects.filter(bowl=self.bowl).order_by("seq"))
        self.assertEqual([e.kind for e in events], ["added", "warmed", "added", "added", "stirred"])
        self.assertEqual([e.seq for e in events], [1, 2, 3, 4, 5])
        self.assertTrue(events[0].payload["pins"])
        parts = [
            Part(demo_ingredient("bright"), 290.0),
            Part(demo_ingredient("blue"), 0.6),
            Part(demo_ingredient("red"), 0.16),
        ]
        for ours, core in zip(self.desk().now.mixture().lab(), mix(parts).lab(), strict=True):
            self.assertAlmostEqual(ours, core, places=6)
        self.assertAlmostEqual(self.desk().now.temperature_c, 39, delta=0.2)

    def test_a_repeated_send_is_stored_once(self) -> None:
        for fields in (add(self.kitchen, bright=200, blue=4), {}):  # a fill, then a reading alone
            sent = step(self.bowl, **fields, temperature_c="39" if fields else "35", number="58" if fields else "50")
            counts = []
            for _ in range(3):
                self.assertEqual(self.client.post(f"{self.address}did/", sent).status_code, 302)
                counts.append(BowlEvent.objects.filter(bowl=self.bowl).count())
            self.assertEqual(len(set(counts)), 1)

    def test_a_page_gone_back_to_and_changed_is_no_repeat(self) -> None:
        sent = step(self.bowl, **add(self.kitchen, bright=200))
        self.client.post(f"{self.address}did/", sent)
        changed = self.client.post(f"{self.address}did/", {**sent, **add(self.kitchen, bright=220)})
        self.assertEqual(changed.status_code, 409)
        self.assertContains(changed, 'value="220"', status_code=409)

    def test_a_page_left_open_does_not_warm_the_bowl(self) -> None:
        self.melt()
        form = self.client.get(self.address).context["form"]
        reckoned = form.get_initial_for_field(form.fields["reckoned_c"], "reckoned_c")
        sent = step(self.bowl, temperature_c=reckoned, reckoned_c=reckoned, **add(self.kitchen, blue=1))
        with mock.patch("studio.common.clock.now", return_value=timezone.now() + timedelta(minutes=12)):
            self.client.post(f"{self.address}did/", sent)
        kinds = list(BowlEvent.objects.filter(bowl=self.bowl, seq__gt=5).values_list("kind", flat=True))
        self.assertEqual(kinds, ["added", "stirred"])

    def test_two_windows_never_overwrite(self) -> None:
        old = step(self.bowl, **add(self.kitchen, bright=120))
        self.melt()
        response = self.client.post(f"{self.address}did/", old)
        self.assertEqual(response.status_code, 409)
        self.assertContains(response, "another window", status_code=409)
        self.assertContains(response, 'value="120"', status_code=409)
        self.assertEqual(BowlEvent.objects.filter(bowl=self.bowl).count(), 5)
        with self.assertRaises(BowlChanged):
            append(self.bowl, [("stirred", {})], expected_seq=1, key=uuid.uuid4())

    def test_the_database_refuses_a_second_event_in_one_place(self) -> None:
        self.melt()
        first = BowlEvent.objects.filter(bowl=self.bowl).first()
        with self.assertRaises(IntegrityError), transaction.atomic():
            BowlEvent.objects.create(
                kitchen=self.kitchen,
                bowl=self.bowl,
                seq=first.seq,
                key=uuid.uuid4(),
                kind="stirred",
                happened_at=timezone.now(),
            )

    def test_a_mistake_is_struck_out_and_stays(self) -> None:
        self.melt()
        before = self.desk().now.mixture().lab()
        self.did(**add(self.kitchen, green=9))
        self.assertNotEqual(self.desk().now.mixture().lab(), before)
        self.client.post(f"{self.address}strike/6/", step(self.bowl))
        self.assertEqual(self.desk().now.mixture().lab(), before)
        self.assertContains(self.client.get(self.address), "<s>9 drops Green oil colour added</s>", html=True)
        self.assertEqual(self.client.post(f"{self.address}strike/6/", step(self.bowl)).status_code, 404)

    def test_it_cools_and_comes_back_tomorrow(self) -> None:
        self.melt()
        tomorrow = timezone.now() + timedelta(days=1)
        with mock.patch("studio.common.clock.now", return_value=tomorrow):
            page = self.client.get(self.address)
        self.assertContains(page, "set · remelt to use")
        self.assertEqual(page.context["proposal"].kind, "warm")
        self.assertAlmostEqual(page.context["now"].mass_g, 290.76)

    def test_all_dipped_takes_it_off_the_band(self) -> None:
        self.melt()
        self.client.post(f"{self.address}done/", step(self.bowl, used_g="118"))
        self.bowl.refresh_from_db()
        self.assertIsNotNone(self.bowl.finished_at)
        page = self.client.get("/bowls/")
        self.assertEqual(page.context["band"], [])
        self.assertAlmostEqual(self.desk().now.mass_g, 172.76, places=2)
        self.assertEqual(self.did(**add(self.kitchen, bright=50)).status_code, 409)
        self.assertAlmostEqual(self.desk().now.mass_g, 172.76, places=2)

    def test_without_a_scale_wafers_are_counted(self) -> None:
        weighed_g = self.desk().melt_g
        self.kitchen.has_scale = False
        self.kitchen.save()
        answer, melt_g = self.ask_page(), self.desk().melt_g
        self.assertLess(answer.index("wafers"), answer.index(f"({melt_g:.0f} g)"))
        self.assertTrue(0 <= melt_g - weighed_g <= 13, "to the next five wafers")

    def ask_page(self) -> str:
        page = self.client.get(self.address).content.decode()
        return page.split('data-role="answer"')[1].split("</div>")[0]

    def test_without_a_thermometer_the_lip_tells(self) -> None:
        self.kitchen.has_thermometer = False
        self.kitchen.save()
        self.did(**add(self.kitchen, bright=290), touch="warm")
        self.assertAlmostEqual(self.desk().now.temperature_c, 39, delta=0.2)
        self.assertContains(self.client.get(self.address), "warm on the lip")


class Live(BowlTests):
    def ask(self, request: int = 1, /, **fields: object):
        return live(self.client, f"{self.address}live/", step(self.bowl, **fields), request)

    def test_everything_moves_at_once_and_nothing_is_written(self) -> None:
        self.melt()
        base = self.ask(temperature_c="39").json()
        for change in (
            {**add(self.kitchen, blue=5)},
            {"temperature_c": "32"},
            {"number": "40"},
            {**add(self.kitchen, palm_flakes=9)},
        ):
            moved = self.ask(**{"temperature_c": "39", **change}).json()
            self.assertNotEqual(moved["result"], base["result"], change)
            self.assertNotEqual(
                moved["parts"]["answer"] + moved["parts"]["ribbon"], base["parts"]["answer"] + base["parts"]["ribbon"]
            )
        self.assertEqual(set(base["parts"]), {"answer", "put_in", "do", "swatches", "ribbon", "vessel", "figures"})
        self.assertEqual(BowlEvent.objects.filter(bowl=self.bowl).count(), 5)

    def test_bad_input_has_a_code_and_a_field(self) -> None:
        blue = next(iter(add(self.kitchen, blue=1)))
        for name, bad in (
            (blue, "-1"),
            (blue, "2.5"),
            (blue, "many"),
            (blue, "9" * 30),
            ("temperature_c", "400"),
            ("temperature_c", "NaN"),
            ("number", "0"),
            ("number", "-inf"),
            ("seq", "x"),
            ("key", "no"),
        ):
            answer = self.ask(5, **{name: bad})
            self.assertEqual(answer.status_code, 422, (name, bad))
            self.assertTrue(answer.json()["errors"][name][0]["code"])
        posted = self.did(**{blue: "-1"}, temperature_c="38")
        self.assertEqual(posted.status_code, 422)
        self.assertContains(posted, 'value="-1"', status_code=422)

    def test_throttled(self) -> None:
        with self.settings(LIVE_PER_SECOND=3):
            codes = [self.ask().status_code for _ in range(12)]
        self.assertIn(429, codes)

    def test_extreme_amounts_are_answered(self) -> None:
        self.melt()
        for amounts in ({"bright": 20000}, {"black": 5000}, {"palm_flakes": 20000}, {"blue": 0}):
            self.assertEqual(self.ask(**add(self.kitchen, **amounts)).status_code, 200)


class Measuring(BowlTests):
    def post(self, row, **values: object):
        sent = {"name": row.name, "stocked": "on", "version": row.version, **values}
        return self.client.post(f"/cupboard/{row.pk}/", sent)

    def row(self, code: str):
        return Ingredient.objects.with_parameters().get(kitchen=self.kitchen, code=code)

    def test_a_measured_value_says_which_bowls_change(self) -> None:
        self.melt()
        before = self.desk().now.mixture().lab()
        blue = self.row("blue")
        self.assertContains(self.client.get(f"/cupboard/{blue.pk}/"), "Dusk blue")
        sent = {"drop_g": "0.06", "drop_g_from": "measured", "strength": "1", "strength_from": "default"}
        page = self.post(blue, **sent)
        self.assertEqual(page.status_code, 302)
        self.assertContains(self.client.get("/cupboard/"), "Worked out anew: Dusk blue.")
        after = self.desk().now
        self.assertNotEqual(after.mixture().lab(), before)
        self.assertEqual(BowlEvent.objects.filter(bowl=self.bowl).last().kind, "remeasured")
        self.assertEqual(self.row("blue").history()["drop_g"][0].value, 0.04)

    def test_a_measured_value_narrows_the_range(self) -> None:
        self.melt()
        page = self.client.get(self.address)
        wide = page.context["colour_now"]["high"] - page.context["colour_now"]["low"], page.context["number_range"]
        self.post(self.row("blue"), drop_g="0.04", drop_g_from="measured", strength="1", strength_from="default")
        self.post(self.row("red"), drop_g="0.04", drop_g_from="measured", strength="1", strength_from="default")
        bright = {"number": "58", "number_from": "measured", "fat_fraction": "0.32", "fat_fraction_from": "default"}
        self.post(self.row("bright"), **bright, bag_g="340", bag_g_from="default")
        page = self.client.get(self.address)
        self.assertLess(page.context["colour_now"]["high"] - page.context["colour_now"]["low"], wide[0])
        low, high = page.context["number_range"]
        self.assertLess(high - low, (wide[1][1] - wide[1][0]) / 2)

    def test_prices_say_which_fat_is_cheapest(self) -> None:
        Bowl.objects.update(technique="cake_drip")  # a dip wants no fat
        self.melt()
        flakes, shortening = self.row("palm_flakes"), self.row("shortening")
        self.assertContains(self.client.get(f"/cupboard/{flakes.pk}/"), "Price of a pack")
        before = self.desk().now.parts, self.desk().bowl.last_seq
        for row, price in ((flakes, "9,90"), (shortening, "3.30")):
            kept = {n: f"{p.value:g}" for n, p in row.current().items()}
            sent = {**kept, **{f"{n}_from": "default" for n in kept}, "bag_g": "450 g", "pack_price": price}
            self.assertEqual(self.post(row, **sent).status_code, 302)
        self.assertEqual(self.row("palm_flakes").current()["pack_price"].value, 9.9)
        self.assertEqual((self.desk().now.parts, self.desk().bowl.last_seq), before, "a price changes no bowl")
        beside = self.client.get(self.address).context["beside"]
        costs = {says.partition(",")[0].strip("*"): re.search(r"costs (\d+\.\d+)", says) for says in beside}
        flakes_cost, shortening_cost = costs["Palm flakes"], costs["Shortening"]
        assert flakes_cost and shortening_cost
        self.assertAlmostEqual(float(flakes_cost[1]) / float(shortening_cost[1]), 3, delta=0.15)
        self.assertEqual([says.partition(",")[0] for says in beside if "cheapest" in says], ["*Shortening*"])
        self.assertIsNone(costs["Coconut oil"])
        self.assertEqual(self.post(flakes, bag_g="450", pack_price="free").status_code, 422)

    def test_a_finished_bowl_keeps_the_value_it_was_made_with(self) -> None:
        self.melt()
        self.client.post(f"{self.address}done/", step(self.bowl, used_g="10"))
        before = self.desk().now.mixture().lab()
        self.post(self.row("blue"), drop_g="0.06", drop_g_from="measured", strength="1", strength_from="default")
        self.assertEqual(self.desk().now.mixture().lab(), before)

    def test_bad_values_and_two_windows(self) -> None:
        ivory = self.row("ivory")
        good = {
            "number": "40",
            "number_from": "label",
            "fat_fraction": "0.33",
            "fat_fraction_from": "default",
            "bag_g": "200",
            "bag_g_from": "label",
        }
        for name, bad in (
            ("number", "0"),
            ("fat_fraction", "90"),
            ("bag_g", "nan"),
            ("number", ""),
            ("number_from", "guess"),
        ):
            response = self.post(ivory, **{**good, name: bad})
            self.assertEqual(response.status_code, 422, (name, bad))
            self.assertIn(name, response.context["form"].errors)
        unsaid = self.post(ivory, **{**good, "number_from": "default"})
        self.assertIn("number_from", unsaid.context["form"].errors)
        self.assertEqual(self.post(ivory, **good).status_code, 302)
        self.assertEqual(self.post(ivory, **{**good, "number": "35"}).status_code, 409)
        self.assertEqual(self.row("ivory").current()["number"].value, 40)


class Pages(BowlTests):
    def test_what_is_kept_between_requests_is_what_the_events_say(self) -> None:
        def check() -> None:
            kitchen = Kitchen.objects.get(pk=self.kitchen.pk)
            desk = Desk.of(Bowl.objects.with_colour().get(pk=self.bowl.pk), kitchen)
            anew = fold(desk.events, desk.context, at_s=desk.at_s)
            self.assertAlmostEqual(desk.now.temperature_c, anew.temperature_c, places=9)
            self.assertEqual((desk.now.parts, desk.now.number), (anew.parts, anew.number))
            self.assertEqual(desk.now.context, anew.context)

        self.melt()
        check()
        self.did(**add(self.kitchen, blue=3))
        check()
        self.client.post(f"{self.address}strike/3/", step(self.bowl))
        check()
        row = Ingredient.objects.with_parameters().get(kitchen=self.kitchen, code="bright")
        values = {"number": (60.0, 58.0, 62.0, "measured")}
        change_ingredient(row, expected=row.version, name=row.name, stocked=True, values=values)
        check()
        Kitchen.objects.filter(pk=self.kitchen.pk).update(room_c=27.5)
        check()

    def test_begin_from_a_job_once(self) -> None:
        piece = half_dip(self.kitchen, colour="Plum")
        sent = {"need": f"{piece.layers.get().colour_id}:coating"}
        first = self.client.post(f"/bowls/begin/{piece.job_id}/", sent)
        second = self.client.post(f"/bowls/begin/{piece.job_id}/", sent)
        self.assertEqual(first.url, second.url)
        self.assertEqual(self.client.post(f"/bowls/begin/{piece.job_id}/", {"need": "1e5"}).status_code, 404)

    def test_an_empty_cupboard_is_said(self) -> None:
        Ingredient.objects.filter(kitchen=self.kitchen, kind="base").update(stocked=False)
        Kitchen.objects.update(cupboard_version=99)
        self.assertContains(self.client.get(self.address), "There is no white coating in the cupboard")

    def test_a_colour_out_of_reach_says_what_to_buy(self) -> None:
        bowl = bowl_for(half_dip(self.kitchen, colour="Midnight"))
        self.assertContains(self.client.get(f"/bowls/{bowl.pk}/"), "buy a coloured coating")

    def test_a_drop_too_much_for_a_small_batch_is_said(self) -> None:
        page = self.client.get("/colours/try/?lab=86,12,4&melt_g=20&white=coating&way=best&colourants=3")
        self.assertContains(page, "is too much for 20 g: melt")
        self.assertNotContains(page, "Nothing in this cupboard gets there")
