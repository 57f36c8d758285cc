"""Designs: made by hand or for a layer, kept with their drawn numbers, feeding grams, following the piece."""

from __future__ import annotations

import html
import io
import json
import re

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase
from PIL import Image

from coating.techniques import TECHNIQUES
from studio.designs.kinds import KINDS, KINDS_OF
from studio.designs.models import Design, Shape
from studio.pieces.adapters import colour_needs
from studio.pieces.models import Job, Layer, Piece
from studio.pieces.stacks import PiecePlan, keep_piece, plan_of
from tests.studio.designing import laced
from tests.studio.every_form import untouched
from tests.studio.kitchens import cake_drip, drawn_g, half_dip, live, maker


class Designing(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()

    def begin(self, kind: str, query: str = "") -> dict[str, str]:
        return untouched(self.client.get(f"/studio/new/{kind}/{query}").context["form"])

    def test_every_kind_begins_with_an_answer_is_kept_and_is_there_again(self) -> None:
        for name in KINDS:
            page = self.client.get(f"/studio/new/{name}/")
            self.assertFalse(page.context["refusal"], name)
            sent = self.client.post(f"/studio/new/{name}/", {**untouched(page.context["form"]), "do": "keep"})
            self.assertEqual(sent.status_code, 302, name)
            kept = Design.objects.get(kind=name)
            again = self.client.get(sent.url)
            self.assertContains(again, "Print the template")
            self.assertGreater(kept.drawn["goes_on_g"], 0.3, name)
            self.assertTrue(kept.sheets and kept.sheets[0].width_mm > 10, name)
            changed = self.client.post(sent.url, {**untouched(again.context["form"]), "name": "Another", "do": "keep"})
            self.assertEqual(changed.status_code, 302, name)
            stale = self.client.post(sent.url, {**untouched(again.context["form"]), "name": "Third", "do": "keep"})
            self.assertEqual(stale.status_code, 409, name)
            self.assertContains(stale, "Third", status_code=409)
        self.assertContains(self.client.get("/studio/"), "Another", count=len(KINDS))

    def test_all_patterns_shapes_and_letters_answer_live(self) -> None:
        for kind in KINDS.values():
            base = self.begin(kind.name)
            for tile in kind.tiles():
                answer = live(self.client, f"/studio/live/{kind.name}/", {**base, kind.pick: tile.name})
                self.assertEqual(answer.status_code, 200, (kind.name, tile.name, answer.content[:200]))
                self.assertIn("<svg", answer.json()["parts"]["picture"])
        for more in (
            {"arranged": "half"},
            {"arranged": "turns"},
            {"arranged": "double"},
            {"flooded": "yes", "turn": "70"},
        ):
            answer = live(self.client, "/studio/live/drips/", {**self.begin("drips"), **more})
            self.assertEqual(answer.status_code, 200, more)

    def test_what_holds_is_told_behind(self) -> None:
        base = self.begin("lace")
        said = live(self.client, "/studio/check/lace/", base).json()["parts"]
        self.assertIn("stays in one piece", said["held"])
        thin = live(self.client, "/studio/check/lace/", {**base, "pattern": "swags"}).json()["parts"]
        self.assertIn("ringed", thin["held"])
        self.assertIn("<circle", thin["ring"])
        loose = {**base, "pattern": "swags", "rails": "bottom", "fullness": "1"}
        self.assertIn("falls into", live(self.client, "/studio/check/lace/", loose).json()["parts"]["held"])
        self.assertEqual(live(self.client, "/studio/check/face/", base).status_code, 404)

    def test_a_layer_takes_its_grams_from_its_design(self) -> None:
        piece = laced(self.kitchen)
        layer = piece.layers.get()
        to = self.client.get(f"/studio/layer/{layer.pk}/").url
        data = untouched(self.client.get(to).context["form"])
        self.assertEqual(data["diameter_mm"], "180 mm")
        self.assertNotIn("colour", data)
        self.client.post("/studio/new/lace/", {**data, "do": "keep"})
        design, layer = Design.objects.get(), Layer.objects.get()
        self.assertAlmostEqual(drawn_g(layer), design.drawn["goes_on_g"], places=2)
        need = colour_needs(Job.objects.whole(self.kitchen, piece.job_id), self.kitchen)[0]
        self.assertAlmostEqual(need.goes_on_g, design.drawn["goes_on_g"], places=2)
        self.assertEqual(need.technique, "lace")
        self.assertContains(self.client.get(f"/pieces/jobs/{piece.job_id}/"), "As designed: Lace of upper tier")

    def test_what_was_said_otherwise_stays_when_the_piece_changes(self) -> None:
        """Its length round the tier follows, the height that was typed does not."""
        piece = laced(self.kitchen)
        data = self.begin("lace", f"?layer={piece.layers.get().pk}")
        self.client.post("/studio/new/lace/", {**data, "height_mm": "30 mm", "do": "keep"})
        plan = plan_of(Piece.objects.get())
        keep_piece(piece.job, PiecePlan(**{**plan.__dict__, "size_mm": (250.0, 60.0)}), piece=piece, expected=1)
        kept = Design.objects.get()
        self.assertEqual((kept.asked["diameter_mm"], kept.asked["height_mm"], kept.stale), (250.0, 30.0, ""))

    def test_a_changed_tier_changes_its_lace_or_says_why_not(self) -> None:
        piece = laced(self.kitchen)
        data = self.begin("lace", f"?layer={piece.layers.get().pk}")
        self.client.post("/studio/new/lace/", {**data, "line_mm": "3 mm", "do": "keep"})
        before = Design.objects.get()
        plan = plan_of(Piece.objects.get())
        keep_piece(piece.job, PiecePlan(**{**plan.__dict__, "size_mm": (250.0, 100.0)}), piece=piece, expected=1)
        wider = Design.objects.get()
        self.assertGreater(wider.drawn["length_mm"], 1.2 * before.drawn["length_mm"])
        self.assertAlmostEqual(drawn_g(Layer.objects.get()), wider.drawn["goes_on_g"], places=2)
        keep_piece(piece.job, PiecePlan(**{**plan.__dict__, "size_mm": (250.0, 21.0)}), piece=piece, expected=2)
        kept = Design.objects.get()
        self.assertIn("mm", kept.stale)
        self.assertEqual(kept.drawn["length_mm"], wider.drawn["length_mm"])
        self.assertContains(self.client.get(f"/studio/{kept.pk}/"), "could not follow")
        self.assertContains(self.client.get(f"/pieces/jobs/{piece.job_id}/"), kept.stale[:20])

    def test_a_design_travels_with_its_job(self) -> None:
        piece = laced(self.kitchen)
        data = self.begin("lace", f"?layer={piece.layers.get().pk}")
        self.client.post("/studio/new/lace/", {**data, "pattern": "net", "do": "keep"})
        answer = self.client.get(f"/pieces/jobs/{piece.job_id}/job.json").content
        _, other, theirs = maker("other@example.org")
        for change in ({}, {"pattern": "none"}, {"line_mm": "thick"}, {"diameter_mm": 1e99}):
            job = json.loads(answer)
            job["pieces"][0]["layers"][0]["design"]["asked"] |= change
            theirs.post("/pieces/bring/", {"file": SimpleUploadedFile("job.json", json.dumps(job).encode())})
            self.assertEqual(Design.objects.filter(kitchen=other).count(), 1, change)
        kept = Design.objects.get(kitchen=other)
        self.assertEqual(kept.drawn["sheets"], Design.objects.get(kitchen=self.kitchen).drawn["sheets"])
        self.assertEqual(Job.objects.filter(kitchen=other).count(), 4)

    def test_drizzle_over_a_half_dipped_biscuit_and_a_drip(self) -> None:
        biscuit = half_dip(self.kitchen)
        layer = Layer.objects.create(
            kitchen=self.kitchen, piece=biscuit, order=2, technique="drizzle", parameters={"v": 2, "length_mm": 300.0}
        )
        data = self.begin("face", f"?layer={layer.pk}")
        self.assertEqual((data["dipped"], data["count"], data["pattern"]), ("0.5", "26", "zigzag"))
        self.client.post("/studio/new/face/", {**data, "do": "keep"})
        layer.refresh_from_db()
        self.assertTrue(0.05 < drawn_g(layer) < 2)  # on one piece
        drip = cake_drip(self.kitchen).layers.get()
        data = self.begin("drips", f"?layer={drip.pk}")
        self.assertEqual((data["diameter_mm"], data["length_mm"]), ("150 mm", "40 mm"))
        self.client.post("/studio/new/drips/", {**data, "do": "keep"})
        drip.refresh_from_db()
        self.assertTrue(8 < drawn_g(drip) < 40)
        self.assertTrue(all(t in TECHNIQUES for t in KINDS_OF))

    def test_bad_input_is_told_at_its_field_and_nothing_is_lost(self) -> None:
        cases = (
            ("lace", {"line_mm": "9 mm", "name": "Mine"}, "line_mm"),
            ("lace", {"diameter_mm": "big"}, "diameter_mm"),
            ("drips", {"spacing_mm": "9 mm"}, "spacing_mm"),
            ("drips", {"length_mm": "95 mm"}, "length_mm"),
            ("lettering", {"text": "\U0001f31f"}, "text"),
            ("lettering", {"text": ""}, "text"),
            ("lettering", {"text": "x" * 201}, "text"),
            ("lettering", {"text": "W" * 190}, "text"),
            ("run_out", {"width_mm": "8 mm", "line_mm": "9 mm"}, "line_mm"),
            ("run_out", {"shape": "own:999"}, "shape"),
            ("face", {"spacing_mm": "2 mm"}, "spacing_mm"),
            ("face", {"count": "0"}, "count"),
        )
        for kind, change, field in cases:
            sent = {**self.begin(kind), **change, "do": "keep"}
            response = self.client.post(f"/studio/new/{kind}/", sent)
            self.assertEqual(response.status_code, 422, (kind, change))
            self.assertIn(field, response.context["form"].errors, (kind, change))
            self.assertEqual(response.context["form"]["name"].value(), sent["name"])
        self.assertFalse(Design.objects.exists())

    def test_a_marbled_slab(self) -> None:
        """Grams by hand: 300 x 200 x 6 mm of 1.259 g/ml are 453 g, two fifths of it the second colour."""
        base = self.begin("marbling")
        answer = live(self.client, "/studio/live/marbling/", {**base, "portions": "20"}).json()
        self.assertAlmostEqual(answer["result"]["goes_on_g"], 453.3, delta=0.5)
        self.assertAlmostEqual(answer["result"]["own_g"], 0.4 * 453.3, delta=0.5)
        self.assertIn("about 23 g each", answer["parts"]["time"])
        self.assertEqual(answer["parts"]["time"].count("A skewer through"), 3)
        picture = re.search(r'href="([^"]+)"', answer["parts"]["picture"])
        assert picture
        address = html.unescape(picture[1])
        png = self.client.get(address)
        image = np.asarray(Image.open(io.BytesIO(png.content)))
        self.assertEqual(image.shape, (426, 640, 3))
        self.assertGreater(image.std(axis=(0, 1)).max(), 10)
        self.assertEqual(self.client.get(address).content, png.content)
        worse = live(
            self.client, "/studio/live/marbling/", {**base, "passes": "24", "rhythm": "crossed", "reach_mm": "4"}
        )
        self.assertIn("Overworked", worse.json()["parts"]["answer"])
        for change, status in (("width_mm=300", "width_mm=x"), ("g=91", "g=nan"), ("share=0.4", "share=7")):
            self.assertEqual(self.client.get(address.replace(change, status)).status_code, 422, status)
        self.assertEqual(self.client.get(address.replace("kind=marbling", "kind=lace")).status_code, 422)
        for strokes in (
            "[[0,0,1]]",
            "[[0,0,9,9]]",
            "x",
            "[" * 3000,
            json.dumps([[0, 0, 1, 1]] * 30),
            "[[0.1,0.1,0.1,0.1]]",
        ):
            sent = self.client.post("/studio/new/marbling/", {**base, "strokes": strokes, "do": "keep"})
            self.assertEqual((sent.status_code, "strokes" in sent.context["form"].errors), (422, True), strokes[:20])

    def test_blobs_where_they_are_tapped_and_by_their_grams(self) -> None:
        base = {**self.begin("marbling"), "poured": "placed"}
        empty = live(self.client, "/studio/live/marbling/", base).json()
        self.assertIn("Tap on the slab", empty["parts"]["answer"])
        self.assertEqual(empty["result"]["own_g"], 0)
        self.assertNotIn("melt at least", empty["parts"]["numbers"])
        answer = live(self.client, "/studio/live/marbling/", {**base, "placed": "[[0.3,0.5],[0.7,0.5]]"}).json()
        self.assertIn("Pour 2 blobs", answer["parts"]["time"])
        grams = live(
            self.client, "/studio/live/marbling/", {**self.begin("marbling"), "second_g": "90 g", "rhythm": "none"}
        ).json()
        self.assertAlmostEqual(grams["result"]["own_g"], 90, places=3)
        self.assertIn("20 %", grams["parts"]["numbers"])
        for change, field in (
            ({"second_g": "900 g"}, "second_g"),
            ({"placed": "[[0.3]]"}, "placed"),
            ({"placed": json.dumps([[0.1, 0.1]] * 61)}, "placed"),
        ):
            sent = self.client.post("/studio/new/marbling/", {**base, **change, "do": "keep"})
            self.assertEqual((sent.status_code, field in sent.context["form"].errors), (422, True), change)

    def test_a_bottle_in_layers(self) -> None:
        """Two equal layers: a quarter of the cavities come out plain (see the core's check value)."""
        base = {**self.begin("bottle"), "cavities": "12", "each_ml": "10", **{f"ml{i}": "" for i in range(8)}}
        even = live(self.client, "/studio/live/bottle/", {**base, "ml0": "60", "ml1": "60"}).json()["parts"]
        self.assertIn("<em>3</em> nearly plain pieces", even["answer"])
        self.assertEqual(even["picture"].count("<li>"), 12)
        short = live(self.client, "/studio/live/bottle/", {**base, "ml0": "30", "ml1": "30"}).json()["parts"]
        self.assertIn("60 ml are short", short["numbers"])
        nothing = self.client.post("/studio/new/bottle/", {**base, "do": "keep"})
        self.assertEqual((nothing.status_code, list(nothing.context["form"].errors)), (422, ["ml0"]))

    def test_texts_of_all_kinds(self) -> None:
        base = self.begin("lettering")
        for text, says in (
            ("Zoë", ""),
            ("Noe\u0308l", ""),
            ("\u05e9\u05dc\u05d5\u05dd Hi", "cannot be drawn"),
            ("Up \U0001f319", "cannot be drawn"),
            ("a\nb", ""),
            ("x" * 200, ""),
            ("\u202eabc", ""),
        ):
            wide = {"width_mm": "1000 mm"} if len(text) > 20 else {}
            answer = live(self.client, "/studio/live/lettering/", {**base, "text": text, **wide})
            self.assertEqual(answer.status_code, 200, text)
            self.assertIn(says, answer.json()["parts"]["numbers"], text)

    def test_other_makers_layers_and_shapes_are_not_there(self) -> None:
        _, other, _ = maker("stranger@example.org")
        layer = laced(other).layers.get()
        self.assertEqual(self.client.get(f"/studio/new/lace/?layer={layer.pk}").status_code, 404)
        self.assertEqual(
            live(self.client, "/studio/live/lace/", {**self.begin("lace"), "layer": layer.pk}).status_code, 404
        )
        shape = Shape.objects.create(kitchen=other, name="Theirs", areas={"v": 1, "parts": [], "lines": []})
        sent = live(self.client, "/studio/live/run_out/", {**self.begin("run_out"), "shape": f"own:{shape.pk}"})
        self.assertEqual(sent.status_code, 422)

    def test_queries_do_not_grow_with_designs(self) -> None:
        self.client.post("/studio/new/lace/", {**self.begin("lace"), "do": "keep"})
        with self.assertNumQueries(7):
            self.client.get("/studio/")
        for _ in range(3):
            self.client.post("/studio/new/lace/", {**self.begin("lace"), "do": "keep"})
        with self.assertNumQueries(7):
            self.client.get("/studio/")
