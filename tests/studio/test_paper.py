"""Shapes that are brought in, and designs on paper at their true size."""

from __future__ import annotations

import io
import json
from typing import Any

import numpy as np
import pypdfium2
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import SimpleTestCase, TestCase
from PIL import Image, ImageDraw

from coating.figures.sheet import sheet_from, sheet_json, sheet_of
from coating.shape.strokes import Drawing
from studio.designs.models import Design, Shape
from studio.designs.paper import PageHead, template_pdf
from studio.designs.place import Place
from tests.studio.designing import laced
from tests.studio.every_form import untouched
from tests.studio.kitchens import live, maker

SVG = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 30" width="40mm" height="30mm">%s</svg>'
SQUARE = b'<rect x="5" y="5" width="20" height="20"/>'


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
        to = self.client.post(sent.url, {"version": "1", "name": "Moon", "width_mm": "50 mm"}).url
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
        for content, words in (
            (bomb, "document type"),
            (many, "separate lines"),
            (b"<svg", "cannot be read"),
            (b"<svg>" + b" " * 3_000_000 + b"</svg>", "MB"),
            (SVG % b"", "Nothing"),
            (b"hello", "picture"),
            (b"", "empty"),
        ):
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
        base = {"version": "1", "name": "Moon", "width_mm": "60 mm", "threshold": "0.3", "light": "", "smooth_px": "1"}
        dark = live(self.client, f"/studio/shapes/{shape.pk}/live/", base).json()["result"]
        both = live(self.client, f"/studio/shapes/{shape.pk}/live/", {**base, "threshold": "0.8"}).json()["result"]
        self.assertEqual((dark["parts"], both["parts"]), (1, 2))
        nothing = live(self.client, f"/studio/shapes/{shape.pk}/live/", {**base, "threshold": "0"})
        self.assertEqual(nothing.status_code, 422)
        self.client.post(sent.url, base)
        shape.refresh_from_db()
        self.assertEqual(shape.traced["threshold"], 0.3)
        self.assertContains(self.client.post(sent.url, {**base, "name": "Late"}), "another window", status_code=409)
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
                template_pdf([sheet_of(square, "Square", line_mm=1.0)], PageHead("T", "J", "F"), paper=paper)
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
        pdf = template_pdf([sheet_of(line, "Strip", line_mm=1.5)], PageHead("T", "", ""), paper="A4")
        document = pypdfium2.PdfDocument(pdf)
        self.addCleanup(document.close)
        self.assertEqual(len(document), 3)
        self.assertEqual([round(v) for v in document[0].get_size()], [842, 595])

    def test_letters_that_the_face_has_not_do_not_break_a_page(self) -> None:
        sheet = sheet_of(Drawing((np.array([(0.0, 0), (9, 9)]),)), "\u65e5\u672c", line_mm=1)
        self.assertTrue(template_pdf([sheet], PageHead("Zoë \U0001f31f" * 40, "x" * 300, "")).startswith(b"%PDF"))

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
