import math
import re
from importlib import import_module

from django.apps import apps
from django.db import connection
from django.test import TestCase
from django.test.utils import CaptureQueriesContext
from django.urls import reverse

from coating.job.bowls import BOWL_LOSS_G, as_bought
from coating.piece.cores import Disc
from coating.stack.layers import Layer as CoreLayer
from coating.stack.layers import on_one_g
from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl
from studio.colours.models import Colour
from studio.cupboard.stock import Stock
from studio.pieces.models import Job, Piece
from studio.pieces.stacks import dipped, keep_piece, size_now
from tests.studio.kitchens import add, cake_drip, half_dip, live, maker, step

DATA = {
    "name": "Comets",
    "count": "24",
    "spares": "2",
    "core": "round_biscuit",
    "layers": "1",
    "version": "0",
    "d0": "60 mm",
    "d1": "8 mm",
    "0-technique": "dip",
    "0-white": "coating",
    "0-colour": "",
    "0-share": "0.5",
    "do": "save",
}

CAKE = {
    "name": "Cake",
    "count": "1",
    "spares": "0",
    "core": "cake_tier",
    "layers": "1",
    "version": "0",
    "do": "save",
    "d0": "15 cm",
    "d1": "100 mm",
    "0-technique": "cake_drip",
    "0-white": "coating",
    "0-colour": "",
    "0-wall": "chilled",
    "0-length_mm": "40 mm",
    "0-width_mm": "9 mm",
    "0-spacing_mm": "28 mm",
    "0-flooded": "",
}


class Pieces(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.live_at = f"/pieces/jobs/{Job.objects.create(kitchen=self.kitchen, name='Meanwhile').pk}/build/live/"

    def test_a_job_with_a_piece(self) -> None:
        self.client.post(reverse("pieces:job-new"), {"name": "Comet night", "due_on": "2031-05-04", "note": ""})
        job = Job.objects.get(name="Comet night")
        self.assertRedirects(self.client.post(f"/pieces/jobs/{job.pk}/build/", DATA), f"/pieces/jobs/{job.pk}/")
        self.assertEqual(Piece.objects.get().layers.get().parameters, {"v": 2, "share": 0.5})
        page = self.client.get(f"/pieces/jobs/{job.pk}/")
        self.assertContains(page, "Goes on")
        self.assertContains(page, "Melt at least")

    def test_live_numbers_are_those_of_the_core(self) -> None:
        """26 of 6.5 g, 12 g stay in the bowl, a pool 10 mm deep in a bowl 70 mm across; up to tens."""
        base = Stock.of(self.kitchen).shelf(self.kitchen).plain("coating")
        one_g = on_one_g(Disc(60, 8), CoreLayer("dip", share=0.5), flow=as_bought(base, "coating"))
        shown = live(self.client, self.live_at, DATA).json()
        least_g = one_g * 26 + BOWL_LOSS_G + math.pi / 4 * 70**2 * 10 * 1.25e-3
        self.assertEqual(shown["result"]["melt_g"], math.ceil(least_g / 10) * 10)
        self.assertIn(f"{one_g:.1f} g</span> each", shown["parts"]["line-0"])

    def test_bad_input_stays_on_the_page(self) -> None:
        job = half_dip(self.kitchen).job
        wrong = {
            "count": ("0", "2.5", "99999"),
            "spares": ("-1",),
            "d1": ("inf",),
            "d0": ("nan", "3 miles", "13 ft"),
            "0-share": ("0.45",),
            "0-white": ("milk",),
            "0-colour": ("999999",),
            "name": ("x" * 81, ""),
        }
        for name, bad in ((n, b) for n, values in wrong.items() for b in values):
            response = self.client.post(f"/pieces/jobs/{job.pk}/build/", {**DATA, "name": "Kept", name: bad})
            self.assertEqual(response.status_code, 422, (name, bad))
            self.assertIn(name, response.context["form"].errors)
            if name != "name":
                self.assertContains(response, 'value="Kept"', status_code=422)
        self.assertEqual(Piece.objects.count(), 1)

    def test_a_cake_with_drips(self) -> None:
        job = half_dip(self.kitchen).job
        page = self.client.get(f"/pieces/jobs/{job.pk}/build/?begin=drip_cake")
        self.assertContains(page, "Length of the drips")
        shown = live(self.client, self.live_at, CAKE).json()["result"]
        more = live(self.client, self.live_at, {**CAKE, "0-length_mm": "60 mm", "0-flooded": "yes"}).json()["result"]
        self.assertGreater(more["melt_g"], shown["melt_g"] + 50, "the top takes most")
        for name, bad, words in (
            ("0-length_mm", "10 cm", "reach the board"),
            ("d1", "9 m", "The size must be"),
            ("0-width_mm", "1 mm", "width of a drip"),
            ("0-wall", "oven", "valid choice"),
            ("core", "round_biscuit", "Choose a tier of a cake"),
        ):
            sent = self.client.post(f"/pieces/jobs/{job.pk}/build/", {**CAKE, name: bad})
            self.assertContains(sent, words, status_code=422, msg_prefix=name)
        wide = live(self.client, self.live_at, {**CAKE, "d1": "30 cm", "0-length_mm": "25 cm", "0-width_mm": "4 cm"})
        self.assertIn("No single squeeze", wide.json()["message"])
        self.client.post(f"/pieces/jobs/{job.pk}/build/", CAKE)
        piece = Piece.objects.get(core="cake_tier")
        page = self.client.get(f"/pieces/jobs/{job.pk}/")
        self.assertContains(page, "16 drips, about 40 mm long")
        self.client.post(f"/pieces/{piece.pk}/build/", {**CAKE, "version": "1", "0-length_mm": "30 mm"})
        layer = piece.layers.get()
        self.assertEqual((layer.technique, layer.parameters["length_mm"]), ("cake_drip", 30))
        self.assertNotIn("flooded", layer.parameters)

    def test_older_pieces_become_stacks(self) -> None:
        """What was kept before pieces were built: sizes by name, a share under another name."""
        piece = half_dip(self.kitchen)
        cake = cake_drip(self.kitchen, job=piece.job)
        before = self.client.get(f"/pieces/jobs/{piece.job_id}/").content
        drips = {"length_mm": 40.0, "width_mm": 9.0, "spacing_mm": 28.0, "wall": "chilled", "flooded": False}
        Piece.objects.filter(pk=piece.pk).update(size={"v": 1, "diameter_mm": 60.0, "thickness_mm": 8.0})
        Piece.objects.filter(pk=cake.pk).update(size={"v": 1, "diameter_mm": 150.0, "height_mm": 100.0})
        piece.layers.update(parameters={"v": 1, "depth_share": 0.5})
        cake.layers.update(parameters={"v": 1, **drips})
        import_module("studio.pieces.migrations.0004_one_kind_of_piece").to_stacks(apps, None)
        after = self.client.get(f"/pieces/jobs/{piece.job_id}/").content
        self.assertEqual(*(re.findall(rb"<b>[^<]+</b>|stack-line[^/]+", page) for page in (before, after)))
        self.assertEqual(cake.layers.get().parameters, {"v": 2, **drips})

    def test_a_twist_is_as_wide_as_it_is(self) -> None:
        """It was kept as long as its string."""
        piece = half_dip(self.kitchen)
        Piece.objects.filter(pk=piece.pk).update(core="pretzel_twist", size={"v": 2, "mm": [230, 8]})
        import_module("studio.pieces.migrations.0006_twists_are_so_wide").to_wide(apps, None)
        piece.refresh_from_db()
        self.assertEqual(piece.size, {"v": 3, "mm": [53.9, 8]})
        self.assertEqual(size_now("pretzel_twist", {"v": 2, "mm": [230, 8]}), piece.size)  # and so in an older file

    def test_a_drip_is_a_portion_of_the_same_bowl(self) -> None:
        """The same colour of the same white, and thinner: so much is taken out."""
        piece = half_dip(self.kitchen)
        cake_drip(self.kitchen, job=piece.job)
        page = self.client.get(f"/pieces/jobs/{piece.job_id}/")
        (need,) = page.context["needs"]
        ((portion, what),) = need.portions
        self.assertEqual((need.name, need.technique, portion.window, what), ("Dusk blue", "dip", "cake_drip", "drips"))
        self.assertGreater(portion.thinner_g, 0)
        self.assertContains(page, "and stir in")
        begun = self.client.post(f"/bowls/begin/{piece.job_id}/", {"need": need.key})["Location"]
        bowl = Bowl.objects.get()
        self.client.post(f"{begun}did/", step(bowl, **add(self.kitchen, bright=260, blue=15), temperature_c="38"))
        taken = [self.client.post(f"{begun}portion/", step(bowl, layer=portion.layers[0])) for _ in range(2)]
        self.assertEqual({t.status_code for t in taken}, {302})
        small = Bowl.objects.exclude(pk=bowl.pk).get()
        self.assertEqual((small.name, small.technique), ("Dusk blue, for the drips", "cake_drip"))
        whole, part = (
            Desk.of(Bowl.objects.with_colour().with_layers().get(pk=b.pk), self.kitchen) for b in (bowl, small)
        )
        self.assertAlmostEqual(part.now.mass_g, portion.mass_g, delta=0.1)
        self.assertAlmostEqual(whole.now.mass_g + part.now.mass_g, 260.6, delta=0.1)
        self.assertAlmostEqual(part.now.temperature_c, whole.now.temperature_c, delta=0.2)
        self.assertAlmostEqual(whole.made_g + part.made_g, need.goes_on_g, delta=0.01)
        self.assertIn("palm_flakes", [p.ingredient.name for p in part.proposal.additions])
        self.assertContains(self.client.get(begun), "taken out for the drips")
        self.assertEqual(self.client.post(f"{begun}portion/", step(bowl, layer="9999")).status_code, 404)

    def test_a_drip_is_seen_to_run(self) -> None:
        piece = cake_drip(self.kitchen)
        colour = piece.layers.get().colour_id
        sent = {"need": f"{colour}:coating"}
        at = f"/bowls/begin/{piece.job_id}/"
        self.assertEqual(self.client.post(at, {"need": f"{colour}:coating:lace"}).status_code, 404)
        for _ in range(2):
            self.client.post(at, sent)
        bowl = Bowl.objects.get()
        self.assertEqual((bowl.name, bowl.technique), ("Dusk blue", "cake_drip"))
        melted = {**add(self.kitchen, bright=100, palm_flakes=9), "temperature_c": "38", "touch": "warm"}
        self.client.post(f"/bowls/{bowl.pk}/did/", step(bowl, **melted))
        page = self.client.get(f"/bowls/{bowl.pk}/")
        self.assertContains(page, "this drip")
        self.assertContains(page, "One squeeze")
        self.assertContains(page, "All dripped")
        drip = self.client.get(f"/bowls/{bowl.pk}/drip/")
        self.assertAlmostEqual(drip.context["drip"].length_mm, 40, delta=1.5)
        self.assertContains(drip, "For 40 mm squeeze")

    def test_two_windows_on_one_piece(self) -> None:
        piece = half_dip(self.kitchen)
        address = reverse("pieces:build", args=[piece.pk])
        self.assertEqual(self.client.post(address, {**DATA, "version": "1", "name": "First"}).status_code, 302)
        late = self.client.post(address, {**DATA, "version": "1", "name": "Second"})
        self.assertEqual(late.status_code, 409)
        self.assertContains(late, 'value="Second"', status_code=409)
        piece.refresh_from_db()
        self.assertEqual(piece.name, "First")
        again = {**DATA, "name": "Second", "version": late.context["form"].data["version"]}
        self.assertEqual(self.client.post(address, again).status_code, 302)

    def test_dates_in_words(self) -> None:
        response = self.client.post(reverse("pieces:job-new"), {"name": "x", "due_on": "next week"})
        self.assertContains(response, "Write the date as", status_code=422)

    def test_queries_do_not_grow_with_pieces(self) -> None:
        job = half_dip(self.kitchen).job
        self.client.get(f"/pieces/jobs/{job.pk}/")  # the cupboard is kept from here on
        counts = []
        for _ in range(2):
            with CaptureQueriesContext(connection) as seen:
                self.client.get(f"/pieces/jobs/{job.pk}/")
            counts.append(len(seen))
            for colour in Colour.objects.for_kitchen(self.kitchen)[2:6]:
                keep_piece(
                    job,
                    dipped(
                        colour.name, 3, diameter_mm=50.0, thickness_mm=6.0, share=0.5, white="coating", colour=colour
                    ),
                )
        self.assertEqual(counts[0], counts[1])
