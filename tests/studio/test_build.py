"""A piece built as a stack: layers added, moved and taken away without losing a word, saved, changed, and its bowls."""

from __future__ import annotations

from typing import Any

from django.test import SimpleTestCase, TestCase

from coating.piece.kinds import KINDS
from studio.bowls.models import Bowl
from studio.colours.models import Colour
from studio.cupboard.models import Ingredient
from studio.pieces.build_form import MOST_LAYERS, PICKABLE, changed
from studio.pieces.models import Job, Piece
from tests.studio.kitchens import add, bowl_for, cake_drip, half_dip, live, maker, step


def stack(*names: str, core: str = "round_biscuit", **more: str) -> dict[str, str]:
    """What the page holds after these layers were picked."""
    data, _ = changed({"name": "Comets", "count": "12", "version": "0", "layers": "0"}, f"core:{core}")
    for name in names:
        data, _ = changed(data, f"add:{name}")
    return {**data, **more}


def after(data: dict[str, str], *deeds: str) -> dict[str, str]:
    """The same after some deeds."""
    for deed in deeds:
        data, _ = changed(data, deed)
    return data


class Changing(SimpleTestCase):
    def names(self, data: dict[str, str]) -> list[str]:
        return [data[f"{i}-technique"] for i in range(int(data["layers"]))]

    def test_layers_keep_what_was_typed_wherever_they_go(self) -> None:
        data = stack("dip", "drizzle", "topping", **{"1-length_mm": "30 cm!", "2-count": "7"})
        moved = after(data, "move:2:0")
        self.assertEqual(self.names(moved), ["topping", "dip", "drizzle"])
        self.assertEqual((moved["0-count"], moved["2-length_mm"]), ("7", "30 cm!"))
        back = after(moved, "up:0", "up:1")
        self.assertEqual(back, data)
        self.assertEqual(self.names(after(data, "remove:1")), ["dip", "topping"])
        self.assertEqual(self.names(after(stack("drizzle", "dip"), "order")), ["dip", "drizzle"])

    def test_nonsense_changes_nothing(self) -> None:
        data = stack("dip")
        for deed in (
            "",
            "up",
            "up:9",
            "down:0",
            "move:0:99",
            "remove:-1",
            "remove:x",
            "add:gilding",
            "core:brick",
            "zz:1",
        ):
            self.assertEqual(self.names(after(data, deed)), ["dip"], deed)
        full = stack(*["dots"] * 20)
        self.assertEqual(int(full["layers"]), MOST_LAYERS)
        self.assertEqual(after({"layers": "9" * 30, "0-technique": "x"}, "order")["layers"], "0")


class Built(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.job = Job.objects.create(kitchen=self.kitchen, name="Comet night")
        self.address = f"/pieces/jobs/{self.job.pk}/build/"
        self.live_at = f"{self.address}live/"
        self.blue = Colour.objects.get(kitchen=self.kitchen, name="Dusk blue")

    def send(self, data: dict[str, str], do: str = "save", address: str = "") -> Any:
        return self.client.post(address or self.address, {**data, "do": do})

    def test_every_core_and_every_layer_can_be_picked(self) -> None:
        for name in KINDS:
            self.assertContains(self.send(stack("dip", core=name), "order"), KINDS[name].title)
        for name in PICKABLE:
            if name != "cake_drip":
                page = self.send(stack(name, core="mould"), "order")
                self.assertEqual(page.status_code, 200)
                self.assertTrue(page.context["form"].is_valid(), (name, page.context["form"].errors))

    def test_saved_with_spares_and_a_bowl_for_each_colour_and_flow(self) -> None:
        data = stack("dip", "drizzle", **{"0-colour": str(self.blue.pk), "name": "Comets"})
        self.assertRedirects(self.send(data), f"/pieces/jobs/{self.job.pk}/")
        piece = Piece.objects.get()
        self.assertEqual((piece.size, piece.spares), ({"v": 3, "mm": [60.0, 8.0]}, None))
        page = self.client.get(f"/pieces/jobs/{self.job.pk}/")
        needs = {n.technique: n for n in page.context["needs"]}
        self.assertEqual(set(needs), {"dip", "drizzle"})
        self.assertAlmostEqual(needs["dip"].goes_on_g, 13 * 6.5, delta=1)
        begun = {"need": f"{self.blue.pk}:coating"}
        self.client.post(f"/bowls/begin/{self.job.pk}/", begun)
        self.client.post(f"/bowls/begin/{self.job.pk}/", {"need": ":coating"})
        for bowl in Bowl.objects.all():
            self.assertEqual(self.client.get(f"/bowls/{bowl.pk}/").status_code, 200)
        self.assertEqual({b.name for b in Bowl.objects.all()}, {"Dusk blue", "Plain"})
        self.assertNotContains(self.client.get(f"{self.address}?core=ball"), "goes-on")  # a new one

    def test_changed_again_and_two_windows(self) -> None:
        self.send(stack("dip", "drizzle"))
        piece = Piece.objects.get()
        address = f"/pieces/{piece.pk}/build/"
        form = self.client.get(address).context["form"]
        data = {name: str(form[name].value() if form[name].value() is not None else "") for name in form.fields}
        kept = piece.layers.get(order=1).pk
        self.send({**after(data, "remove:1"), "count": "20"}, address=address)
        piece.refresh_from_db()
        self.assertEqual((piece.count, [la.pk for la in piece.layers.all()]), (20, [kept]))
        late = self.send({**data, "count": "30"}, address=address)
        self.assertContains(late, "Somebody changed this", status_code=409)

    def test_another_like_it(self) -> None:
        self.send(stack("dip", "dust", name="Comets"))
        piece = Piece.objects.get()
        copy = self.send(stack("dip", "dust", name="Comets"), "copy", f"/pieces/{piece.pk}/build/")
        self.assertContains(copy, f'action="{self.address}"')
        form = copy.context["form"]
        self.send({**form.data, "count": "40"})
        self.assertEqual({(p.name, p.count) for p in Piece.objects.all()}, {("Comets", 12), ("Comets again", 40)})

    def test_mistakes_are_told_and_can_be_mended_or_overruled(self) -> None:
        data = stack("cap", "shell", "filling", core="mould")
        answer = self.send(data)
        self.assertContains(answer, "Fill it before the lid goes on", status_code=422)
        self.assertContains(answer, "Put them in order", status_code=422)
        mended = self.send(data, "order")
        self.assertEqual(mended.context["wrong"], [])
        self.assertEqual(self.send(data, "anyway").status_code, 302)

    def test_bad_input_says_where_and_loses_nothing(self) -> None:
        for more, says in (
            ({"count": "0"}, "The number of pieces must be between"),
            ({"d0": "5000 mm"}, "The size must be between"),
            ({"0-share": "9"}, "Select a valid choice"),
            ({"0-colour": "999999"}, "not in this kitchen"),
            ({"name": ""}, "This field is required"),
        ):
            page = self.send(stack("dip", **more))
            self.assertContains(page, says, status_code=422, msg_prefix=str(more))
            self.assertContains(page, "Comets" if "name" not in more else "12", status_code=422)
        self.assertContains(self.send(stack()), "Put at least one layer on it", status_code=422)
        over = self.send(stack("solid", core="mould", **{"0-volume_ml": "500"}))
        self.assertContains(over, "It holds", status_code=422)
        self.assertEqual(Piece.objects.count(), 0)

    def test_live(self) -> None:
        answer = live(self.client, self.live_at, stack("dip")).json()
        self.assertGreater(answer["result"]["melt_g"], 100)
        wrong = live(self.client, self.live_at, stack("drizzle", "dip")).json()
        self.assertEqual(wrong["result"]["wrong"], [0])
        self.assertEqual(live(self.client, self.live_at, stack("dip", count="x")).status_code, 422)
        bare = live(self.client, self.live_at, stack("lines", **{"0-length_mm": ""}))
        self.assertIn("the length of all the lines", bare.json()["message"])

    def test_many_pieces_take_few_queries(self) -> None:
        for i in range(6):
            self.send(stack("dip", "drizzle", "dust", name=f"Comet {i}"))
        self.client.get(f"/pieces/jobs/{self.job.pk}/")
        with self.assertNumQueries(13):
            self.client.get(f"/pieces/jobs/{self.job.pk}/")


class Shopping(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.job = half_dip(self.kitchen, count=40).job
        self.address = f"/pieces/jobs/{self.job.pk}/shopping"

    def say(self, code: str, **fields: str) -> None:
        row = Ingredient.objects.with_parameters().get(kitchen=self.kitchen, code=code)
        form = self.client.get(f"/cupboard/{row.pk}/").context["form"]
        sent = {n: form[n].value() for n in form.fields if form[n].value() is not None}
        self.client.post(f"/cupboard/{row.pk}/", {**sent, **fields})

    def test_what_is_there_goes_down_as_bowls_are_made(self) -> None:
        page = self.client.get(f"{self.address}/")
        self.assertEqual({line.there for line in page.context["lines"]}, {"none"}, "a new kitchen has nothing")
        Ingredient.objects.filter(kitchen=self.kitchen, stocked=True).update(ticked=True)
        self.kitchen.__class__.objects.update(cupboard_version=50)
        self.assertContains(self.client.get(f"{self.address}/"), "Nothing to buy for certain: look whether")
        self.assertContains(self.client.get(f"{self.address}/"), "look whether there is enough")
        self.say("bright", stock_g="100 g", pack_price="6", bag_g="340 g")
        page = self.client.get(f"{self.address}/")
        self.assertContains(page, "Buy bright white coating")
        (line,) = page.context["short"]
        wanted = line.item.wanted_g
        self.assertEqual((line.item.have_g, line.item.packs, page.context["cost"]), (100, 1, 6))
        bowl = bowl_for(half_dip(self.kitchen, colour="Plum"))
        self.client.post(f"/bowls/{bowl.pk}/did/", step(bowl, **add(self.kitchen, bright=60)))
        (line,) = self.client.get(f"{self.address}/").context["short"]
        self.assertEqual((line.item.have_g, line.item.wanted_g), (40, wanted))
        text = self.client.get(f"{self.address}.txt").content.decode()
        self.assertIn("[ ] Bright white coating", text)
        self.assertIn("Bright white coating", self.client.get(f"{self.address}.csv").content.decode())
        self.assertEqual(self.client.get(f"{self.address}.exe").status_code, 404)

    def test_what_ran_out_has_a_substitute(self) -> None:
        Ingredient.objects.filter(kitchen=self.kitchen, stocked=True).update(ticked=True)
        names = {line.item.ingredient.name for line in self.client.get(f"{self.address}/").context["lines"]}
        colour = sorted(names - {"bright"})[0]
        self.say(colour, stock_g="0 g")
        short = {line.item.ingredient.name: line for line in self.client.get(f"{self.address}/").context["short"]}
        self.assertNotIn(colour, {p.ingredient.name for p in short[colour].instead.parts})
        cake_drip(self.kitchen, job=self.job)  # a dip wants no fat
        self.say("palm_flakes", stock_g="0 g")
        self.say(colour, stock_g="50 g")
        page = self.client.get(f"{self.address}/")
        short = {line.item.ingredient.name: line for line in page.context["short"]}
        (other,) = short["palm_flakes"].fat
        self.assertEqual((other.ingredient.family, other.mass_g), ("palm", short["palm_flakes"].item.wanted_g))
        self.assertContains(page, "thins as much")
        bowl_for(half_dip(self.kitchen))
        Ingredient.objects.filter(kitchen=self.kitchen, kind="base").update(stocked=False)
        self.kitchen.__class__.objects.update(cupboard_version=99)
        self.assertContains(self.client.get(f"{self.address}/"), "There is no coating on the shelf")

    def test_each_piece_says_what_it_contains(self) -> None:
        text = f"/pieces/jobs/{self.job.pk}/labels.txt"
        self.assertContains(self.client.get(text), "Contains milk, soya and wheat.")
        data = stack("dip", core="ball", name="Planets")
        self.client.post(f"/pieces/jobs/{self.job.pk}/build/", {**data, "do": "save"})
        page = self.client.get(text)
        self.assertContains(page, "Contains milk, soya, wheat and egg.")
        self.assertContains(page, "May contain egg.")
