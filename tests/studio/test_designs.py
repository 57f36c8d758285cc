"""Designs: made by hand or for a layer, kept with their drawn numbers, feeding grams, following the piece; on paper."""

from __future__ import annotations

import html
import io
import json
import re
from typing import Any

import numpy as np
import pypdfium2
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import SimpleTestCase, TestCase
from PIL import Image, ImageDraw

from coating.figures.sheet import sheet_from, sheet_json, sheet_of
from coating.piece.kinds import KINDS as CORES
from coating.shape.strokes import Drawing
from coating.techniques import TECHNIQUES
from studio.designs.kinds import KINDS, KINDS_OF
from studio.designs.models import Design, Shape
from studio.designs.paper import Told, template_pdf
from studio.designs.place import Place
from studio.pieces.adapters import colour_needs
from studio.pieces.models import Job, Layer, Piece
from studio.pieces.stacks import LayerPlan, PiecePlan, keep_piece, plan_of
from tests.studio.kitchens import cake_drip, drawn_g, half_dip, live, maker

SVG = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 30" width="40mm" height="30mm">%s</svg>'
SQUARE = b'<rect x="5" y="5" width="20" height="20"/>'


def untouched(form: Any) -> dict[str, str]:
    values = {name: form[name].value() for name in form.fields}
    return {name: "" if value is None else str(value) for name, value in values.items()}


def laced(kitchen: Any) -> Piece:
    """A tier with a layer of lace."""
    job = Job.objects.create(kitchen=kitchen, name="Comet night")
    collar = LayerPlan("lace", "coating", None, parameters={"v": 2, "length_mm": 900.0})
    return keep_piece(job, PiecePlan("Upper tier", 1, CORES["cake_tier"], (180.0, 100.0), (collar,), 0))


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
        told = self.client.get(f"/pieces/jobs/{piece.job_id}/job.json").content
        _, other, theirs = maker("other@example.org")
        for change in ({}, {"pattern": "none"}, {"line_mm": "thick"}, {"diameter_mm": 1e99}):
            job = json.loads(told)
            job["pieces"][0]["layers"][0]["design"]["asked"] |= change
            theirs.post("/pieces/bring/", {"file": SimpleUploadedFile("job.json", json.dumps(job).encode())})
            self.assertEqual(Design.objects.filter(kitchen=other).count(), 1, change)
        kept = Design.objects.get(kitchen=other)
        self.assertEqual(kept.drawn["sheets"], Design.objects.get(kitchen=self.kitchen).drawn["sheets"])
        self.assertEqual(Job.objects.filter(kitchen=other).count(), 4)

    def test_drizzle_over_a_half_dipped_biscuit_and_a_drip(self) -> None:
        biscuit = half_dip(self.kitchen)
        layer = Layer.objects.create(kitchen=self.kitchen, piece=biscuit, order=2, technique="drizzle",
                                     parameters={"v": 2, "length_mm": 300.0})  # fmt: skip
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
            ("lace", {"line_mm": "9 mm", "name": "Mine"}, "line_mm"), ("lace", {"diameter_mm": "big"}, "diameter_mm"),
            ("drips", {"spacing_mm": "9 mm"}, "spacing_mm"), ("drips", {"length_mm": "95 mm"}, "length_mm"),
            ("lettering", {"text": "\U0001f31f"}, "text"), ("lettering", {"text": ""}, "text"),
            ("lettering", {"text": "x" * 201}, "text"), ("lettering", {"text": "W" * 190}, "text"),
            ("run_out", {"width_mm": "8 mm", "line_mm": "9 mm"}, "line_mm"), ("run_out", {"shape": "own:999"}, "shape"),
            ("face", {"spacing_mm": "2 mm"}, "spacing_mm"), ("face", {"count": "0"}, "count"),
        )  # fmt: skip
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
        for strokes in ("[[0,0,1]]", "[[0,0,9,9]]", "x", "[" * 3000, json.dumps([[0, 0, 1, 1]] * 30),
                        "[[0.1,0.1,0.1,0.1]]"):  # fmt: skip
            sent = self.client.post("/studio/new/marbling/", {**base, "strokes": strokes, "do": "keep"})
            self.assertEqual((sent.status_code, "strokes" in sent.context["form"].errors), (422, True), strokes[:20])

    def test_blobs_where_they_are_tapped_and_by_their_grams(self) -> None:
        base = {**self.begin("marbling"), "poured": "placed"}
        empty = live(self.client, "/studio/live/marbling/", base).json()
        self.assertIn("Tap on the slab", empty["parts"]["answer"])
        self.assertEqual(empty["result"]["own_g"], 0)
        self.assertNotIn("melt at least", empty["parts"]["numbers"])
        told = live(self.client, "/studio/live/marbling/", {**base, "placed": "[[0.3,0.5],[0.7,0.5]]"}).json()
        self.assertIn("Pour 2 blobs", told["parts"]["time"])
        grams = live(
            self.client, "/studio/live/marbling/", {**self.begin("marbling"), "second_g": "90 g", "rhythm": "none"}
        ).json()
        self.assertAlmostEqual(grams["result"]["own_g"], 90, places=3)
        self.assertIn("20 %", grams["parts"]["numbers"])
        for change, field in (({"second_g": "900 g"}, "second_g"), ({"placed": "[[0.3]]"}, "placed"),
                              ({"placed": json.dumps([[0.1, 0.1]] * 61)}, "placed")):  # fmt: skip
            sent = self.client.post("/studio/new/marbling/", {**base, **change, "do": "keep"})
            self.assertEqual((sent.status_code, field in sent.context["form"].errors), (422, True), change)

    def test_a_bottle_in_layers(self) -> None:
        """Two equal layers: a quarter of the cavities come out plain (see the core's check value)."""
        base = {**self.begin("bottle"), "cavities": "12", "each_ml": "10", **{f"ml{i}": "" for i in range(8)}}
        even = live(self.client, "/studio/live/bottle/", {**base, "ml0": "60", "ml1": "60"}).json()["parts"]
        self.assertIn("<em>3</em> come out nearly plain", even["answer"])
        self.assertEqual(even["picture"].count("<li>"), 12)
        short = live(self.client, "/studio/live/bottle/", {**base, "ml0": "30", "ml1": "30"}).json()["parts"]
        self.assertIn("60 ml are short", short["numbers"])
        nothing = self.client.post("/studio/new/bottle/", {**base, "do": "keep"})
        self.assertEqual((nothing.status_code, list(nothing.context["form"].errors)), (422, ["ml0"]))

    def test_texts_of_all_kinds(self) -> None:
        base = self.begin("lettering")
        for text, says in (
            ("Zoë", ""), ("Noe\u0308l", ""), ("\u05e9\u05dc\u05d5\u05dd Hi", "cannot be drawn"),
            ("Up \U0001f319", "cannot be drawn"), ("a\nb", ""), ("x" * 200, ""), ("\u202eabc", ""),
        ):  # fmt: skip
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
        with self.assertNumQueries(8):
            self.client.get("/studio/")
        for _ in range(3):
            self.client.post("/studio/new/lace/", {**self.begin("lace"), "do": "keep"})
        with self.assertNumQueries(8):
            self.client.get("/studio/")


class Bringing(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()

    def send(self, content: bytes, name: str = "shape.svg") -> Any:
        return self.client.post("/studio/shapes/bring/", {"name": "", "file": SimpleUploadedFile(name, content)})

    def test_a_drawing_becomes_a_shape_and_nothing_of_it_is_sent_back(self) -> None:
        sent = self.send(SVG % (SQUARE + b"<script>alert('olive-trap')</script><text>olive-trap</text>"), "moon.svg")
        page = self.client.get(sent.url)
        self.assertContains(page, "left out: script, text")
        self.assertNotContains(page, "olive-trap")
        shape = Shape.objects.get()
        self.assertEqual(shape.name, "moon")
        to = self.client.post(sent.url, {"name": "Moon", "width_mm": "50 mm"}).url
        form = untouched(self.client.get(to).context["form"])
        self.assertEqual(form["shape"], f"own:{shape.pk}")
        self.client.post("/studio/new/run_out/", {**form, "width_mm": "50 mm", "do": "keep"})
        self.assertAlmostEqual(Design.objects.get().sheets[0].lines[0][0][0], 3.5, delta=1)
        svg = self.client.get(f"/studio/{Design.objects.get().pk}/template.svg")
        self.assertNotContains(svg, "script")
        self.client.post(f"/studio/shapes/{shape.pk}/forget/")
        self.assertContains(self.client.get(f"/studio/{Design.objects.get().pk}/"), "not there any more")

    def test_bad_drawings(self) -> None:
        bomb = b'<!DOCTYPE svg [<!ENTITY a "x">]>' + SVG % SQUARE
        many = SVG % (b'<path d="' + b"M0 0h1v1z" * 20000 + b'"/>')
        for content, words in ((bomb, "document type"), (many, "separate lines"), (b"<svg", "cannot be read"),
                               (b"<svg>" + b" " * 3_000_000 + b"</svg>", "MB"), (SVG % b"", "Nothing"),
                               (b"hello", "picture"), (b"", "empty")):  # fmt: skip
            response = self.send(content)
            self.assertEqual(response.status_code, 422, words)
            self.assertIn(
                words, str(response.context["form"].errors).lower().replace("mb", "MB").replace("nothing", "Nothing")
            )
        self.assertFalse(Shape.objects.exists())

    def test_a_picture_is_traced_and_its_threshold_moved(self) -> None:
        image = Image.new("L", (300, 200), 250)
        draw = ImageDraw.Draw(image)
        draw.ellipse((50, 50, 150, 150), fill=20)
        draw.rectangle((200, 60, 280, 140), fill=150)
        out = io.BytesIO()
        image.save(out, "PNG")
        sent = self.send(out.getvalue(), "moon.png")
        shape = Shape.objects.get()
        base = {"name": "Moon", "width_mm": "60 mm", "threshold": "0.3", "light": "", "smooth_px": "1"}
        dark = live(self.client, f"/studio/shapes/{shape.pk}/live/", base).json()["result"]
        both = live(self.client, f"/studio/shapes/{shape.pk}/live/", {**base, "threshold": "0.8"}).json()["result"]
        self.assertEqual((dark["parts"], both["parts"]), (1, 2))
        nothing = live(self.client, f"/studio/shapes/{shape.pk}/live/", {**base, "threshold": "0"})
        self.assertEqual(nothing.status_code, 422)
        self.client.post(sent.url, base)
        shape.refresh_from_db()
        self.assertEqual(shape.traced["threshold"], 0.3)
        self.assertAlmostEqual(dark["area_mm2"], np.pi * 900, delta=40)


class Paper(SimpleTestCase):
    """Rasterised at 10 dots a mm and measured."""

    def raster(self, pdf: bytes, page: int = 0) -> np.ndarray:
        document = pypdfium2.PdfDocument(pdf)
        self.addCleanup(document.close)
        return np.asarray(document[page].render(scale=25.4 / 72 * 10).to_pil().convert("L"))

    def test_the_ruler_is_100_mm_and_a_known_drawing_comes_out_its_size(self) -> None:
        square = Drawing((np.array([(0.0, 0), (120, 0), (120, 80), (0, 80), (0, 0)]),))
        for paper in ("A4", "Letter"):
            dots = self.raster(
                template_pdf([sheet_of(square, "Square", line_mm=1.0)], Told("T", "J", "F"), paper=paper)
            )
            foot = dots[-220:, :1300]
            ruler = np.flatnonzero((foot < 90).sum(axis=1) > 900)
            row = np.flatnonzero(foot[ruler[0]] < 90)
            self.assertAlmostEqual((row.max() - row.min()) / 10, 100, delta=0.3)
            body = dots[250:-300]
            columns, rows = np.flatnonzero((body < 90).any(axis=0)), np.flatnonzero((body < 90).any(axis=1))
            self.assertAlmostEqual((columns.max() - columns.min()) / 10, 120.3, delta=0.3)
            self.assertAlmostEqual((rows.max() - rows.min()) / 10, 80.3, delta=0.3)

    def test_a_long_strip_takes_pages_that_overlap(self) -> None:
        line = Drawing((np.array([(0.0, 0), (590, 0), (590, 36)]),))
        pdf = template_pdf([sheet_of(line, "Strip", line_mm=1.5)], Told("T", "", ""), paper="A4")
        document = pypdfium2.PdfDocument(pdf)
        self.addCleanup(document.close)
        self.assertEqual(len(document), 3)
        self.assertEqual([round(v) for v in document[0].get_size()], [842, 595])

    def test_letters_that_the_face_has_not_do_not_break_a_page(self) -> None:
        sheet = sheet_of(Drawing((np.array([(0.0, 0), (9, 9)]),)), "\u65e5\u672c", line_mm=1)
        self.assertTrue(template_pdf([sheet], Told("Zoë \U0001f31f" * 40, "x" * 300, "")).startswith(b"%PDF"))

    def test_mirrored_for_film(self) -> None:
        sheet = sheet_of(Drawing((np.array([(0.0, 0), (30, 0)]), np.array([(0.0, 9), (9, 9)]))), "", line_mm=1)
        over = sheet.turned_over()
        self.assertEqual(len(over.lines[0]), 2)
        self.assertAlmostEqual(over.lines[1][0][0], sheet.width_mm - sheet.lines[0][0][0])
        self.assertEqual(sheet_from(json.loads(json.dumps(sheet_json(sheet)))).lines, sheet.lines)


class OnPaper(TestCase):
    def test_a_template_says_what_it_is_for(self) -> None:
        _, kitchen, client = maker()
        piece = laced(kitchen)
        form = untouched(client.get(f"/studio/new/lace/?layer={piece.layers.get().pk}").context["form"])
        to = client.post("/studio/new/lace/", {**form, "do": "print", "paper": "Letter"}).url
        self.assertIn("paper=Letter", to)
        pdf = client.get(to)
        self.assertEqual((pdf.status_code, pdf["Content-Type"]), (200, "application/pdf"))
        document = pypdfium2.PdfDocument(pdf.content)
        self.addCleanup(document.close)
        page = document[0].get_textpage()
        text = page.get_text_range()
        page.close()
        for words in ("Comet night", "Upper tier, 1", "1.5 mm line", "plain", "to pipe", "Measure me"):
            self.assertIn(words, text)
        self.assertEqual(client.get(to.replace("Letter", "A3")).status_code, 302)
        self.assertEqual(client.get("/studio/practice.pdf")["Content-Type"], "application/pdf")
        place = Place.of(kitchen, piece.layers.get())
        self.assertEqual((place.verdict("lace"), place.called), ("", "plain"))
