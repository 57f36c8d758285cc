"""Led on: timers, temper, waits, drips, the hole of a bag, uses."""

from __future__ import annotations

import uuid
from datetime import timedelta
from unittest import mock

from coating.flow.home_tests import drain_time_s
from coating.flow.windows import WINDOWS
from studio.bowls.models import Bowl, Timer
from tests.studio.kitchens import add, bowl_for, half_dip, live, step
from tests.studio.led import LedTests


class Timers(LedTests):
    def test_it_runs_on_the_servers_record(self) -> None:
        sent = {"says": "measure the spread", "seconds": "60", "back": "/pieces/", "key": str(uuid.uuid4())}
        for _ in range(2):
            self.assertRedirects(self.client.post(f"{self.address}timer/", sent), "/pieces/")
        timer = Timer.objects.get()
        later = timer.rings_at - timedelta(seconds=34.5)
        with mock.patch("studio.common.clock.now", return_value=later):
            self.assertContains(self.client.get("/cupboard/"), "35 s")
        with mock.patch("studio.common.clock.now", return_value=later + timedelta(minutes=30)):
            self.assertContains(self.client.get("/cupboard/"), ">now<")
        self.client.post(f"/bowls/timers/{timer.pk}/stop/", {"back": "//elsewhere.example"})
        self.assertNotContains(self.client.get("/cupboard/"), "measure the spread")

    def test_no_such_wait(self) -> None:
        for bad in ({"says": "", "seconds": "9"}, {"says": "x", "seconds": "-1"}, {"says": "x", "seconds": "nan"}):
            self.assertEqual(self.client.post(f"{self.address}timer/", bad).status_code, 404)


class Tempering(LedTests):
    def test_seed_is_weighed_out_and_setting_times_follow_the_kitchen(self) -> None:
        bowl = bowl_for(half_dip(self.kitchen, white="tempered"))
        address = f"/bowls/{bowl.pk}/"
        self.client.post(f"{address}did/", step(bowl, **add(self.kitchen, ivory=200), temperature_c="45"))
        Bowl.objects.filter(pk=bowl.pk).update(colour=None)  # nothing is to be stirred in: it is to be brought down
        query = live(self.client, f"{address}live/", {**step(bowl), "temperature_c": "28.5"}).json()
        self.assertIn("tir in up to", query["parts"]["answer"])
        self.assertRegex(query["parts"]["answer"], r"<em>8\d g</em>")
        self.client.post(f"{address}did/", step(bowl, **add(self.kitchen, ivory=80), temperature_c="28.5"))
        self.assertContains(self.client.get(address), "in the room about")
        self.kitchen.has_fridge, self.kitchen.has_freezer = False, False
        self.kitchen.save()
        page = self.client.get(address).content.decode()
        self.assertNotIn("in the fridge", page.split("In numbers")[1])


class Waits(LedTests):
    def test_by_shape_and_place_with_a_timer(self) -> None:
        address = f"{self.address}waits/"
        self.assertRedirects(self.client.get(address), self.address)
        self.client.post(f"{self.address}did/", step(self.bowl, **add(self.kitchen, bright=290), temperature_c="40"))
        page = self.client.get(address)
        self.assertContains(page, "In the freezer")
        self.assertAlmostEqual(page.context["form"].initial["thickness_mm"], 1.4, delta=0.6)
        line = live(self.client, f"{address}live/", {"shape": "line", "thickness_mm": "2 mm"}).json()
        self.assertIn("can be lifted and bent", line["parts"]["answer"])
        self.assertIn("csrfmiddlewaretoken", line["parts"]["places"])
        self.assertContains(self.client.post(address, {"shape": "mould", "thickness_mm": "8"}), "Turn it out")
        for bad in ({"shape": "cloud", "thickness_mm": "2"}, {"shape": "line", "thickness_mm": "1 m"}):
            self.assertEqual(live(self.client, f"{address}live/", bad).status_code, 422)
        wait = {"says": "lift a line, room", "seconds": str(max(page.context["result"].values()) * 60)}
        self.assertRedirects(self.client.post(f"{self.address}timer/", {**wait, "back": address}), address)
        self.assertContains(self.client.get(address), "lift a line, room")


class Drips(LedTests):
    def setUp(self) -> None:
        super().setUp()
        self.client.post(f"{self.address}did/", step(self.bowl, **add(self.kitchen, bright=290), temperature_c="40"))

    def ask(self, **changed: str) -> dict[str, float]:
        fields = {
            "wall": "chilled",
            "volume_ml": "0.5",
            "width_mm": "9 mm",
            "diameter_mm": "150 mm",
            "height_mm": "100 mm",
            "spacing_mm": "28 mm",
            **changed,
        }
        return live(self.client, f"{self.address}drip/live/", fields).json()

    def test_predicted_on_both_walls_and_drawn(self) -> None:
        self.assertContains(self.client.get(f"{self.address}drip/"), "down a chilled cake")
        plain, warm, more = self.ask(), self.ask(wall="room"), self.ask(volume_ml="0.8")
        self.assertLess(plain["result"]["length_mm"], warm["result"]["length_mm"])
        self.assertLess(plain["result"]["length_mm"], more["result"]["length_mm"])
        self.assertEqual(plain["result"]["drips"], 16)
        self.assertAlmostEqual(plain["result"]["mass_g"], 16 * 0.5 * 1.26 + 6.27, delta=0.1, msg="drips and rim")
        self.assertIn("reach the board", self.ask(height_mm="25 mm")["parts"]["answer"])
        self.assertEqual(self.ask(volume_ml="-1")["errors"].keys(), {"volume_ml"})

    def test_without_a_script_the_button_works_it_out(self) -> None:
        sent = {
            "wall": "room",
            "volume_ml": "0.8",
            "width_mm": "9 mm",
            "diameter_mm": "20 cm",
            "height_mm": "100 mm",
            "spacing_mm": "28 mm",
        }
        page = self.client.post(f"{self.address}drip/", sent)
        self.assertContains(page, "room-warm cake")
        self.assertEqual(page.context["side"].drips, 22)
        self.assertContains(self.client.post(f"{self.address}drip/", {**sent, "width_mm": "x"}), "errorlist")

    def test_one_at_the_back_says_how_it_flows(self) -> None:
        ran = self.ask()["result"]["length_mm"]
        before = self.desk().now.stands_at()
        sent = {"by": "drip", "length_mm": f"{ran:.1f} mm", "volume_ml": "0.5", "width_mm": "9 mm", "wall": "chilled"}
        self.client.post(f"{self.address}tests/", step(self.bowl, **sent))
        self.assertAlmostEqual(self.desk().now.stands_at() / before, 1, delta=0.05)
        self.client.post(f"{self.address}tests/", step(self.bowl, **{**sent, "length_mm": f"{ran * 1.4:.1f} mm"}))
        self.assertLess(self.desk().now.stands_at(), before * 0.75)
        self.assertContains(self.client.get(self.address), "Test drip: stands at")


class Holes(LedTests):
    def test_a_known_bowl_says_how_wide_the_hole_is(self) -> None:
        self.client.post(f"{self.address}did/", step(self.bowl, **add(self.kitchen, bright=290), temperature_c="40"))
        stands, flow = self.desk().now.stands_at(), self.desk().now.flow()
        took = drain_time_s(flow, hole_mm=4.6, from_g=150, to_g=50)
        bag = {"by": "bag", "seconds": f"{took:.1f}", "hole_mm": "4.6 mm", "from_g": "150", "to_g": "50"}
        before = live(self.client, f"{self.address}tests/live/", bag).json()["result"]
        sent = {"hole-seconds": f"{took:.1f}", "hole-number": f"{stands:.1f}", "hole-from_g": "150", "hole-to_g": "50"}
        self.assertRedirects(self.client.post(f"{self.address}hole/", sent), f"{self.address}tests/?by=bag")
        self.kitchen.refresh_from_db()
        self.assertAlmostEqual(self.kitchen.drain_hole_mm, 4.6, delta=0.03)
        page = self.client.get(f"{self.address}tests/?by=bag")
        self.assertContains(page, 'value="4.6 mm"')
        after = live(self.client, f"{self.address}tests/live/", bag).json()["result"]
        self.assertLess(after["high"] - after["low"], 0.6 * (before["high"] - before["low"]))
        for name, bad in (("hole-seconds", "1"), ("hole-number", "0"), ("hole-to_g", "150"), ("hole-from_g", "x")):
            refused = self.client.post(f"{self.address}hole/", {**sent, name: bad})
            self.assertContains(refused, "errorlist", status_code=422, msg_prefix=bad)


class Labels(LedTests):
    def test_what_is_known_of_a_label(self) -> None:
        for typed, number in (("130 old", 37.1), ("chips", 65), ("wafers", 58), ("47", 47), ("45,5", 45.5)):
            fields = {**step(self.bowl), **add(self.kitchen, bright=200), "touch": "warm", "number": typed}
            self.client.post(f"{self.address}did/", {**fields, "temperature_c": "40"})
            self.assertAlmostEqual(self.desk().now.label_number, number, delta=0.1, msg=typed)
        refused = live(self.client, f"{self.address}live/", {**step(self.bowl), "number": "old"})
        self.assertEqual(refused.status_code, 422)


class Uses(LedTests):
    def test_every_technique_and_the_other_bowls(self) -> None:
        self.client.post(f"{self.address}did/", step(self.bowl, **add(self.kitchen, bright=290), temperature_c="38"))
        other = bowl_for(half_dip(self.kitchen, colour="Apricot"))
        page = self.client.get(f"{self.address}uses/")
        self.assertEqual(len(page.context["uses"]), len(WINDOWS))
        self.assertNotContains(page, "Beside your other bowls")
        self.client.post(f"/bowls/{other.pk}/did/", step(other, **add(self.kitchen, bright=200), temperature_c="38"))
        self.assertContains(self.client.get(f"{self.address}uses/"), "near enough to marble")
        thin = {**add(self.kitchen, palm_flakes=12), "temperature_c": "38"}
        self.client.post(f"/bowls/{other.pk}/did/", step(other, **thin))
        self.assertContains(self.client.get(f"{self.address}uses/"), "too far apart to marble")

    def test_supposing_it_warmer_tempered_or_finished(self) -> None:
        self.kitchen.has_thermometer = True
        self.kitchen.save()
        bowl = bowl_for(half_dip(self.kitchen, white="untempered"))
        self.client.post(f"/bowls/{bowl.pk}/did/", step(bowl, **add(self.kitchen, ivory=290), temperature_c="38"))
        ask = f"/bowls/{bowl.pk}/uses/live/"
        plain, cool, rest, tempered = (
            live(self.client, ask, fields).json()["result"]
            for fields in ({}, {"temperature_c": "31"}, {"with_rest": "on"}, {"tempered": "on"})
        )
        self.bowl = bowl
        self.assertAlmostEqual(plain["number"], self.desk().now.stands_at(), delta=0.5)
        self.assertGreater(cool["number"], plain["number"])
        self.assertNotEqual(rest["number"], plain["number"])
        self.assertAlmostEqual(tempered["number"] / plain["number"], 1.8, delta=0.15, msg="handbook: about twice")
        self.assertEqual(live(self.client, ask, {"temperature_c": "200"}).status_code, 422)
        self.assertContains(self.client.post(f"/bowls/{bowl.pk}/uses/", {"tempered": "on"}), "Then it")
        self.assertEqual(live(self.client, f"{self.address}uses/live/", {}).status_code, 422, "nothing is in that one")

    def test_nothing_to_use(self) -> None:
        self.assertRedirects(self.client.get(f"{self.address}uses/"), self.address)

    def test_led_through_it_by_seed(self) -> None:
        bowl = bowl_for(half_dip(self.kitchen, white="tempered"))
        address = f"/bowls/{bowl.pk}/"
        self.assertRedirects(self.client.get(f"{address}temper/"), address)
        self.client.post(f"{address}did/", step(bowl, **add(self.kitchen, ivory=200), temperature_c="45"))
        data = ("Stir in up to", "Nearly there", "in temper", "too far")
        steps = (("", ""), ("60 g", "31"), ("10 g", "28.6"), ("", "25"))
        for words, (seed, reads) in zip(data, steps, strict=True):
            if reads:
                sent = step(bowl, seed_g=seed, temperature_c=reads)
                self.assertRedirects(self.client.post(f"{address}temper/", sent), f"{address}temper/")
            self.assertContains(self.client.get(f"{address}temper/"), words)
        page = self.client.get(f"{address}temper/")
        self.assertEqual(len(page.context["chart"].readings), 4)
        last = bowl.events.order_by("-seq").first()
        self.client.post(f"{address}strike/{last.seq}/", step(bowl))
        page = self.client.get(f"{address}temper/")
        self.assertEqual(len(page.context["chart"].readings), 3, "what was struck out is not on the chart")
        self.assertEqual(page.context["stage"].kind, "work")
        self.assertEqual(round(page.context["now"].mass_g), 270)
        self.assertEqual(self.client.post(f"{address}temper/", step(bowl)).status_code, 422)
        self.assertEqual(self.client.post(f"{address}temper/", step(bowl, temperature_c="hot!")).status_code, 422)

    def test_coating_needs_none(self) -> None:
        self.client.post(f"{self.address}did/", step(self.bowl, **add(self.kitchen, bright=200), temperature_c="40"))
        self.assertContains(self.client.get(f"{self.address}temper/"), "no tempering")
