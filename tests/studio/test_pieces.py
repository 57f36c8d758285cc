from django.db import connection
from django.test import TestCase
from django.test.utils import CaptureQueriesContext
from django.urls import reverse

from coating.flow.windows import window
from coating.shape import RoundBiscuit, dip_coat
from studio.bowls.models import Bowl
from studio.pieces.actions import save_piece
from studio.pieces.models import Colour, Job, Piece
from studio.pieces.techniques import TECHNIQUES
from tests.studio.kitchens import add, cake_drip, half_dip, live, maker, step

DATA = {
    "name": "Comets", "count": "24", "spares": "2", "diameter_mm": "60", "thickness_mm": "8", "depth": "0.5",
    "white": "coating", "colour": "", "new_colour": "", "new_shade": "#8fb0c8", "version": "0",
}  # fmt: skip

CAKE = {
    "what": "cake_drip", "name": "Cake", "count": "1", "spares": "0", "diameter_mm": "15 cm", "height_mm": "100 mm",
    "wall": "chilled", "length_mm": "40 mm", "width_mm": "9 mm", "spacing_mm": "28 mm", "top": "rim",
    "white": "coating", "colour": "", "new_colour": "", "new_shade": "#8fb0c8", "version": "0",
}  # fmt: skip


class Pieces(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()

    def test_a_job_with_a_piece_and_a_colour_of_ones_own(self) -> None:
        self.client.post(reverse("pieces:job-new"), {"name": "Comet night", "due_on": "2031-05-04", "note": ""})
        job = Job.objects.get()
        sent = {**DATA, "new_colour": "Tail white 🌠", "new_shade": "#f2efe4"}
        self.assertRedirects(
            self.client.post(reverse("pieces:piece-new", args=[job.pk]), sent), f"/pieces/jobs/{job.pk}/"
        )
        layer = Piece.objects.get().layers.get()
        self.assertEqual((layer.colour.name, layer.parameters), ("Tail white 🌠", {"v": 1, "depth_share": 0.5}))
        page = self.client.get(f"/pieces/jobs/{job.pk}/")
        self.assertContains(page, "Goes on")
        self.assertContains(page, "Melt at least")

    def test_live_numbers_are_those_of_the_core(self) -> None:
        result = live(self.client, reverse("pieces:live"), DATA).json()["result"]
        coat = dip_coat(RoundBiscuit(60, 8), 0.5, window("dip").aim).mass_g
        self.assertAlmostEqual(result["coat_g"], coat)
        self.assertAlmostEqual(result["goes_on_g"], 26 * coat)
        self.assertGreater(result["melt_g"], result["goes_on_g"])

    def test_bad_input_stays_on_the_page(self) -> None:
        job = half_dip(self.kitchen).job
        wrong = {
            "count": ("0", "2.5", "99999"), "spares": ("-1",), "thickness_mm": ("inf",),
            "diameter_mm": ("nan", "3 miles", "13 in"),
            "depth": ("0.9",), "white": ("milk",), "colour": ("999999",), "name": ("x" * 81, ""), "new_shade": ("red",),
        }  # fmt: skip
        for name, bad in ((n, b) for n, values in wrong.items() for b in values):
            response = self.client.post(reverse("pieces:piece-new", args=[job.pk]), {**DATA, "name": "Kept", name: bad})
            self.assertEqual(response.status_code, 422, (name, bad))
            self.assertIn(name, response.context["form"].errors)
            if name != "name":
                self.assertContains(response, 'value="Kept"', status_code=422)
        self.assertEqual(Piece.objects.count(), 1)

    def test_a_cake_with_drips(self) -> None:
        job = half_dip(self.kitchen).job
        page = self.client.get(f"/pieces/jobs/{job.pk}/pieces/new/?what=cake_drip")
        self.assertContains(page, "They should run")
        shown = live(self.client, "/pieces/live/", CAKE).json()
        self.assertEqual(shown["result"]["drips"], 16)
        self.assertAlmostEqual(shown["result"]["length_mm"], 40, delta=0.5)
        more = live(self.client, "/pieces/live/", {**CAKE, "length_mm": "60 mm", "top": "flooded"}).json()["result"]
        self.assertGreater(more["volume_ml"], shown["result"]["volume_ml"])
        self.assertGreater(more["goes_on_g"], shown["result"]["goes_on_g"] + 50, "the top takes most")
        for name, bad, words in (
            ("length_mm", "10 cm", "stand on the board"), ("height_mm", "9 m", "height of the tier"),
            ("width_mm", "1 mm", "width of a drip"), ("wall", "oven", "valid choice"), ("top", "", "required"),
        ):  # fmt: skip
            sent = self.client.post(f"/pieces/jobs/{job.pk}/pieces/new/", {**CAKE, name: bad})
            self.assertContains(sent, words, status_code=422, msg_prefix=name)
        wide = live(
            self.client, "/pieces/live/", {**CAKE, "height_mm": "40 cm", "length_mm": "25 cm", "width_mm": "4 cm"}
        )
        self.assertIn("No single squeeze", wide.json()["errors"]["length_mm"][0]["message"])
        self.client.post(f"/pieces/jobs/{job.pk}/pieces/new/", CAKE)
        piece = Piece.objects.get(core="cake_tier")
        page = self.client.get(f"/pieces/{piece.pk}/edit/")
        again = {**page.context["form"].initial, "length_mm": "30 mm", "what": "dip", "new_colour": "", "new_shade": ""}
        self.client.post(f"/pieces/{piece.pk}/edit/", {k: v if v is not None else "" for k, v in again.items()})
        layer = piece.layers.get()
        self.assertEqual(
            (layer.technique, layer.parameters["length_mm"], layer.parameters["flooded"]), ("cake_drip", 30, False)
        )

    def test_a_drip_has_a_bowl_of_its_own(self) -> None:
        """The same colour of the same white, and yet another flow."""
        piece = half_dip(self.kitchen)
        cake = cake_drip(self.kitchen, job=piece.job)
        page = self.client.get(f"/pieces/jobs/{piece.job_id}/")
        self.assertEqual([n.name for n in page.context["needs"]], ["Dusk blue", "Dusk blue drip"])
        colour = cake.layers.get().colour_id
        sent = {"need": f"{colour}:coating:cake_drip:0"}
        self.assertEqual(
            self.client.post(f"/bowls/begin/{piece.job_id}/", {"need": f"{colour}:coating:lace:0"}).status_code, 404
        )
        for _ in range(2):
            self.client.post(f"/bowls/begin/{piece.job_id}/", sent)
        bowl = Bowl.objects.get()
        self.assertEqual((bowl.name, bowl.technique), ("Dusk blue drip", "cake_drip"))
        melted = {**add(self.kitchen, bright=100, palm_flakes=9), "temperature_c": "38", "touch": "warm"}
        self.client.post(f"/bowls/{bowl.pk}/did/", step(bowl, **melted))
        page = self.client.get(f"/bowls/{bowl.pk}/")
        self.assertContains(page, "this drip")
        self.assertContains(page, "One squeeze")
        self.assertContains(page, "All dripped")
        drip = self.client.get(f"/bowls/{bowl.pk}/drip/")
        self.assertAlmostEqual(drip.context["drip"].length_mm, 40, delta=1.5)
        self.assertContains(drip, "For 40 mm squeeze")

    def test_which_white_is_advised_and_can_be_overruled(self) -> None:
        colours = {c.name: c.pk for c in Colour.objects.for_kitchen(self.kitchen)}
        for name, white, words in (
            ("Dusk blue", "coating", "Well chosen"), ("Dusk blue", "tempered", "We would take coating"),
            ("Lemon ice", "coating", "We would take white chocolate"),
        ):  # fmt: skip
            self.kitchen.has_thermometer = True
            self.kitchen.save()
            sent = {**DATA, "colour": colours[name], "white": white}
            self.assertIn(words, live(self.client, "/pieces/live/", sent).json()["parts"]["which"], (name, white))

    def test_two_windows_on_one_piece(self) -> None:
        piece = half_dip(self.kitchen)
        address = reverse("pieces:piece-edit", args=[piece.pk])
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
                data = {"name": colour.name, "count": 3, "spares": 0, "diameter_mm": 50.0, "thickness_mm": 6.0,
                        "depth": "0.5", "white": "coating", "colour": colour}  # fmt: skip
                save_piece(job, data, kind=TECHNIQUES["dip"])
        self.assertEqual(counts[0], counts[1])
