"""The colour pages: saying a colour, its recipe, the swatch book in and out, shades, paint, readings of ingredients."""

from __future__ import annotations

import io
import json
import uuid
from datetime import timedelta
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase
from PIL import Image

from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl
from studio.colours.models import Colour, Photo
from studio.common import clock
from studio.cupboard.models import Ingredient
from tests.studio.kitchens import add, bowl_for, half_dip, live, maker, step


class ColourCase(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.dusk = Colour.objects.get(kitchen=self.kitchen, name="Dusk blue")

    def told(self, **more: object) -> dict[str, object]:
        base = {"lab": "68,-8,-17", "white": "coating", "melt_g": "200 g", "colourants": "3", "way": "usual"}
        return {**base, **more}

    def row(self, code: str) -> Ingredient:
        return Ingredient.objects.with_parameters().get(kitchen=self.kitchen, code=code)


class Recipes(ColourCase):
    def test_page_and_live_answer_say_the_same(self) -> None:
        page = self.client.get(f"/colours/{self.dusk.pk}/")
        self.assertContains(page, "to dusk blue")
        answer = live(self.client, "/colours/live/", self.told(called="Dusk blue")).json()
        self.assertLess(answer["result"]["de00"], 2)  # the fewest bottles that match to the eye
        self.assertEqual(page.context["result"], answer["result"])
        self.assertEqual(set(answer["parts"]), {"answer", "swatches", "columns", "seen", "strip", "reach"})

    def test_queries_do_not_grow_with_the_book(self) -> None:
        self.client.get("/colours/")
        with self.assertNumQueries(5):
            self.client.get("/colours/")
        self.client.get(f"/colours/{self.dusk.pk}/")
        with self.assertNumQueries(9):
            self.client.get(f"/colours/{self.dusk.pk}/")

    def test_must_and_must_not(self) -> None:
        purple, blue = self.row("purple").pk, self.row("blue").pk
        answer = live(
            self.client, "/colours/live/", self.told(**{f"use-{purple}": "must", f"use-{blue}": "not"})
        ).json()
        self.assertIn("purple", answer["result"]["parts"])
        self.assertNotIn("blue", answer["result"]["parts"])
        every = {f"use-{r.pk}": "not" for r in Ingredient.objects.filter(kitchen=self.kitchen, kind="base")}
        refused = live(self.client, "/colours/live/", self.told(**every))
        self.assertEqual(refused.status_code, 422)
        self.assertIn("Every base is left out", refused.json()["message"])

    def test_out_of_reach_says_why_and_what_would_do(self) -> None:
        page = self.client.get("/colours/try/?lab=32,48,24")
        self.assertContains(page, "out of reach")
        self.assertContains(page, "Only the amount stands in the way")
        self.assertContains(page, "Red coating")
        self.assertContains(page, "not in your cupboard")

    def test_bad_input_at_the_field_or_on_the_way(self) -> None:
        for bad in ({"melt_g": "much"}, {"melt_g": "1"}, {"lab": "1,2"}, {"lab": "nan,0,0"}, {"colourants": "9"}):
            answer = live(self.client, "/colours/live/", self.told(**bad))
            self.assertEqual(answer.status_code, 422, bad)
            self.assertEqual(set(answer.json()["errors"]), set(bad))
        self.assertRedirects(self.client.get("/colours/try/?lab=x"), "/colours/new/")
        self.assertEqual(self.client.get("/colours/try/?lab=50,120,0").status_code, 200)

    def test_kept_once_and_made_into_a_bowl(self) -> None:
        key = str(uuid.uuid4())
        sent = {
            **self.told(lab="66,-9,30"),
            "name": "Hill moss",
            "note": "for rims",
            "came_from": "photo",
            "key": key,
            "bowl": "1",
            "melt_g": "150 g",
            "way": "fewest",
        }
        first, again = (self.client.post("/colours/keep/", sent) for _ in range(2))
        self.assertEqual(first.url, again.url)
        bowl = Bowl.objects.get(kitchen=self.kitchen)
        self.assertEqual(
            (bowl.colour.name, bowl.colour.came_from, bowl.colour.note), ("Hill moss", "photo", "for rims")
        )
        desk = Desk.of(bowl, self.kitchen)
        self.assertEqual((desk.wish.colours.way, desk.melt_g), ("fewest", 150))
        taken = self.client.post(
            "/colours/keep/", {**sent, "key": str(uuid.uuid4()), "name": "dusk  blue"}, follow=True
        )
        self.assertContains(taken, "Your book already has a colour with that name.", status_code=422)

    def test_two_windows(self) -> None:
        sent = {**self.told(), "colour": self.dusk.pk, "name": "Dusk", "version": 1}
        self.client.post("/colours/keep/", sent)
        late = self.client.post("/colours/keep/", {**sent, "name": "Dawn"}, follow=True)
        self.assertContains(late, "Somebody changed this in another window", status_code=409)
        self.dusk.refresh_from_db()
        self.assertEqual(self.dusk.name, "Dusk")


class Said(ColourCase):
    def test_chart_bowl_numbers_and_files(self) -> None:
        self.assertContains(self.client.get("/colours/new/?way=chart&light=34"), "out of reach")
        self.assertContains(self.client.get("/colours/new/?way=bowl"), "nothing in a bowl yet")
        self.assertIn("lab=70.22", self.client.post("/colours/new/", {"hex": "#8fb0c8"}).url)
        self.assertIn(
            "lab=68.00%2C-8.00", self.client.post("/colours/new/", {"lightness": "68", "a": "-8", "b": "-17"}).url
        )
        for bad in ({}, {"hex": "blue"}, {"lightness": "68"}, {"lightness": "400", "a": "0", "b": "0"}):
            self.assertEqual(self.client.post("/colours/new/", bad).status_code, 422)
        two = SimpleUploadedFile("r.csv", b"name,L,a,b\nDusk,68,-8,-17\nMoss,60,-20,30\n")
        self.assertContains(self.client.post("/colours/new/", {"file": two}), "2 readings")
        wrong = SimpleUploadedFile("r.csv", b"name,L,a,b\nDusk,68,-8\n")
        self.assertContains(self.client.post("/colours/new/", {"file": wrong}), "Line 2 has 3 columns", status_code=422)

    def photo(self) -> Photo:
        image = Image.new("RGB", (400, 200), (130, 170, 196))
        image.paste((237, 237, 237), (0, 0, 150, 200))
        file = io.BytesIO()
        image.save(file, "JPEG", quality=95)
        sent = SimpleUploadedFile("a.jpg", file.getvalue(), "image/jpeg")
        self.client.post("/colours/photo/", {"picture": sent})
        return Photo.objects.latest("pk")

    def test_photo_spot_and_card(self) -> None:
        photo = self.photo()
        data = {
            "x": "0.8",
            "y": "0.5",
            "card_x": "0.2",
            "card_y": "0.5",
            "half": "0.015",
            "card_kind": "white",
            "mark": "card",
        }
        answer = live(self.client, f"/colours/photo/{photo.pk}/live/", data).json()
        lightness, a, b = answer["result"]["lab"]
        self.assertLess(abs(lightness - 67.6) + abs(a + 8.1) + abs(b + 16.5), 3, answer["result"])
        self.assertIn("taken out by the card", answer["parts"]["answer"])
        dark = live(self.client, f"/colours/photo/{photo.pk}/live/", {**data, "card_x": "2"})
        self.assertEqual(dark.status_code, 422)
        tapped = self.client.get(f"/colours/photo/{photo.pk}/", {**data, "mark": "spot", "at.x": 300, "at.y": 100})
        self.assertIn("x=0.7500", tapped.url)
        shown = self.client.get(f"/colours/photo/{photo.pk}/picture/")
        self.assertEqual(shown["Content-Type"], "image/jpeg")

    def test_photos_are_gone_after_an_hour(self) -> None:
        photo = self.photo()
        with mock.patch.object(clock, "now", return_value=clock.now() + timedelta(minutes=61)):
            self.assertEqual(Photo.forget_old(), 1)
        self.assertEqual(self.client.get(f"/colours/photo/{photo.pk}/").status_code, 404)
        for _ in range(14):
            self.photo()
        self.assertLessEqual(Photo.objects.count(), Photo.MOST_A_KITCHEN)
        self.client.post(f"/colours/photo/{Photo.objects.latest('pk').pk}/forget/")
        self.assertLess(Photo.objects.count(), Photo.MOST_A_KITCHEN)

    def test_a_picture_is_kept_when_asked(self) -> None:
        photo = self.photo()
        data = {**self.told(), "name": "Lamp blue", "photo": photo.pk, "came_from": "photo"}
        self.assertContains(
            self.client.get(f"/colours/try/?lab=68,-8,-17&photo={photo.pk}"), "Keep the picture with it"
        )
        self.client.post("/colours/keep/", {**data, "keep_photo": "on"})
        kept = Colour.objects.get(name="Lamp blue")
        with mock.patch.object(clock, "now", return_value=clock.now() + timedelta(days=1)):
            Photo.forget_old()
        self.assertContains(self.client.get(f"/colours/{kept.pk}/"), f"/colours/photo/{photo.pk}/picture/")
        _, _, stranger = maker("stranger@example.org")
        stranger.post("/colours/keep/", {**data, "keep_photo": "on", "name": "Mine"})
        self.assertEqual(Photo.objects.get(pk=photo.pk).colour, kept)

    def test_no_picture(self) -> None:
        self.assertContains(self.client.post("/colours/photo/"), "Choose a picture first", status_code=422)
        text = SimpleUploadedFile("a.jpg", b"hello", "image/jpeg")
        refused = self.client.post("/colours/photo/", {"picture": text})
        self.assertContains(refused, "no picture we can read", status_code=422)


class Book(ColourCase):
    def test_out_and_in_again(self) -> None:
        Colour.objects.create(kitchen=self.kitchen, name="=1+1", lightness=50, a=1, b=2, note="n")
        files = {s: self.client.get(f"/colours/swatches.{s}").content for s in ("csv", "json", "gpl")}
        self.assertIn(b"'=1+1", files["csv"])
        self.assertEqual(self.client.get("/colours/swatches.exe").status_code, 404)
        _, other, guest = maker("guest@example.org")
        Colour.objects.filter(kitchen=other).delete()
        for suffix, raw in files.items():
            sent = SimpleUploadedFile(f"book.{suffix}", raw)
            page = guest.post("/colours/bring-in/", {"file": sent}, follow=True)
            self.assertContains(page, "12 colours brought in" if suffix == "csv" else "brought in")
        names = set(Colour.objects.filter(kitchen=other).values_list("name", flat=True))
        self.assertIn("=1+1", names)
        mine = {c.name: c.lab for c in Colour.objects.filter(kitchen=self.kitchen)}
        for colour in Colour.objects.filter(kitchen=other, name__in=mine):
            for theirs, ours in zip(colour.lab, mine[colour.name], strict=True):
                self.assertAlmostEqual(theirs, ours, places=2)

    def test_bad_files(self) -> None:
        before = Colour.objects.count()
        far = {"kind": "olive-ribbon-swatches", "colours": [{"name": "x", "lab": [1e9, 0, 0]}]}
        others = (b"", b"{", b'{"kind": "x"}', b"GIMP Palette\n1 2 300 x\n", b"a,b\n1,2\n", b"\x00\xff")
        for raw in (*others, json.dumps(far).encode()):
            page = self.client.post("/colours/bring-in/", {"file": SimpleUploadedFile("f", raw or b" ")})
            self.assertEqual(page.status_code, 422, raw)
        self.assertEqual(Colour.objects.count(), before)

    def test_removed_unless_wanted(self) -> None:
        half_dip(self.kitchen)
        self.assertContains(self.client.post(f"/colours/{self.dusk.pk}/remove/", follow=True), "so it stays")
        plum = Colour.objects.get(kitchen=self.kitchen, name="Plum")
        self.client.post(f"/colours/{plum.pk}/remove/")
        self.assertFalse(Colour.objects.filter(pk=plum.pk).exists())
        self.assertContains(self.client.get("/colours/sheet/"), "not made yet")


class Sets(ColourCase):
    def test_shades(self) -> None:
        address = f"/colours/{self.dusk.pk}/shades/"
        data = {"white": "coating", "colourant": "blue", "shades": "5", "each_g": "200 g", "deepest": "40"}
        self.assertEqual(live(self.client, f"{address}live/", data).json()["result"]["amounts"], [1, 3, 7, 17, 40])
        few = live(self.client, f"{address}live/", {**data, "deepest": "4"}).json()
        self.assertIn("deep stock", few["parts"]["answer"])
        self.assertTrue(few["result"]["even"])
        much = live(self.client, f"{address}live/", {**data, "deepest": "400"})
        self.assertIn("100 drops at most", much.json()["message"])
        self.assertEqual(live(self.client, f"{address}live/", {**data, "shades": "2"}).status_code, 422)
        self.assertEqual(self.client.get(address).status_code, 200)

    def test_ladder(self) -> None:
        names = ("First light", "Sea glass", "Dusk blue")
        data = {f"g-{Colour.objects.get(kitchen=self.kitchen, name=n).pk}": "60" for n in names}
        page = self.client.get("/colours/ladder/", {**data, "white": "coating", "left_g": "100"})
        self.assertContains(page, "3 shades from")
        self.assertContains(page, "Your leftover white is enough for")
        self.assertEqual(self.client.get("/colours/ladder/", {"g-1": ""}).status_code, 422)

    def test_coats_and_gel(self) -> None:
        bright, dark = self.row("bright").pk, self.row("dark").pk
        data = {"paint": f"b{bright}", "ground": f"b{dark}", "coat_mm": "0.15", "white_share": "0"}
        self.assertEqual(live(self.client, "/colours/coats/live/", data).json()["result"]["coats"], 9)
        book = live(self.client, "/colours/coats/live/", {**data, "ground": f"c{self.dusk.pk}"}).json()
        self.assertIn("count one coat more", book["parts"]["wedge"])
        self.assertEqual(live(self.client, "/colours/coats/live/", {**data, "paint": "b0"}).status_code, 422)
        gel = live(self.client, "/colours/water/live/", {"mass_g": "200 g", "dabs": "500", "water": "60"}).json()
        self.assertIn("seizes", gel["parts"]["answer"])
        for address in ("/colours/coats/", "/colours/water/", "/colours/ladder/"):
            self.assertEqual(self.client.get(address).status_code, 200)


class DropByDrop(ColourCase):
    def setUp(self) -> None:
        super().setUp()
        self.bowl = bowl_for(half_dip(self.kitchen))
        sent = step(self.bowl, temperature_c="39", **add(self.kitchen, bright=290))
        self.client.post(f"/bowls/{self.bowl.pk}/did/", sent)
        self.address = f"/bowls/{self.bowl.pk}/colour/"

    def did(self, **fields: object) -> int:
        return self.client.post(self.address, step(self.bowl, **fields)).status_code

    def test_step_surprise_reading_and_recipe_kept(self) -> None:
        self.assertContains(self.client.get(self.address), "until no streak is left")
        self.assertEqual(self.did(what="did"), 302)
        self.assertEqual(self.did(what="eyes", word="green", much="on"), 302)
        self.assertContains(self.client.get(f"/bowls/{self.bowl.pk}/"), "It looks clearly too green")
        page = self.client.get(self.address)
        self.assertIn("of its usual strength", page.context["progress"])
        self.assertEqual(self.did(what="read", hex="#8fb0c8"), 302)
        self.assertEqual(self.did(what="read", hex="bluish"), 422)
        self.assertEqual(self.did(what="eyes"), 422)
        self.assertEqual(self.did(what="dance"), 422)
        for _ in range(40):
            if self.client.get(self.address).context["plan"].kind != "drops":
                break
            self.did(what="did")
        self.assertEqual(self.client.get(self.address).context["plan"].kind, "there")
        self.assertContains(self.client.get(f"{self.address}?read=70,-5,-15"), "in your photo")
        self.client.post(f"/bowls/{self.bowl.pk}/keep/")
        self.dusk.refresh_from_db()
        self.assertEqual(self.dusk.made["parts"][0]["code"], "bright")
        self.assertContains(self.client.get("/colours/"), "290 g bright white coating")

    def test_sent_twice_is_noted_once_and_a_stale_page_is_told(self) -> None:
        sent = step(self.bowl, what="did")
        self.client.post(self.address, sent)
        self.client.post(self.address, sent)
        self.bowl.refresh_from_db()
        self.assertEqual(self.bowl.last_seq, sent["seq"] + 2)
        stale = self.client.post(self.address, {**sent, "key": str(uuid.uuid4())})
        self.assertContains(stale, "Somebody changed this bowl", status_code=422)

    def test_astray_is_brought_back(self) -> None:
        self.client.post(f"/bowls/{self.bowl.pk}/did/", step(self.bowl, **add(self.kitchen, black=9)))
        page = self.client.get(self.address)
        self.assertEqual(page.context["plan"].kind, "correct")
        self.assertContains(page, "The bowl goes from")
        self.assertEqual(self.did(what="did"), 302)


class Measured(ColourCase):
    def test_a_base_from_a_reading_and_bowls_that_follow(self) -> None:
        bowl = bowl_for(half_dip(self.kitchen))
        self.client.post(f"/bowls/{bowl.pk}/did/", step(bowl, **add(self.kitchen, bright=290)))
        row = self.row("bright")
        before = Desk.of(Bowl.objects.with_colour().get(pk=bowl.pk), self.kitchen).now.mixture().lab()
        page = self.client.post(f"/cupboard/{row.pk}/measure/", {"what": "colour", "hex": "#f0e6d2"}, follow=True)
        self.assertContains(page, "Worked out anew: Dusk blue")
        self.kitchen.refresh_from_db()
        after = Desk.of(Bowl.objects.with_colour().get(pk=bowl.pk), self.kitchen).now.mixture().lab()
        self.assertGreater(after[2], before[2] + 3)
        self.assertContains(self.client.get(f"/bowls/{bowl.pk}/"), "Bright white coating measured anew")
        self.assertContains(self.client.get(f"/cupboard/{row.pk}/measure/"), "read as melted")

    def test_a_colour_from_a_tint_and_a_drop_from_twenty(self) -> None:
        row = self.row("blue")
        address = f"/cupboard/{row.pk}/measure/"
        data = {"what": "colour", "into": "bright", "base_g": "100 g", "units": "4", "hex": "#9ad4ee"}
        self.assertContains(self.client.post(address, data, follow=True), "is known by your tint")
        self.assertEqual(self.row("blue").read_last().told["how"], "tint")
        self.assertContains(self.client.get(address), "as you read it")
        lighter = self.client.post(address, {**data, "hex": "#ffffff"})
        self.assertContains(lighter, "No colour stirred into that base gives this", status_code=422)
        self.client.post(address, {"what": "weigh", "twenty_g": "0.92"})
        self.assertAlmostEqual(self.row("blue").current()["drop_g"].value, 0.046)
        for bad in (
            {"what": "weigh", "twenty_g": "-1"},
            {"what": "colour"},
            {**data, "units": "0"},
            {**data, "hex": "#12"},
        ):
            self.assertEqual(self.client.post(address, bad).status_code, 422, bad)
