"""Photos of makers: upright, in two sizes, nothing but pixels, for their maker only, gone when they are deleted."""

from __future__ import annotations

import io
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase
from PIL import Image

from studio.notebook.models import KeptPhoto
from tests.studio.kitchens import half_dip, maker


def picture(kind: str = "JPEG", size: tuple[int, int] = (80, 60), **more: Any) -> bytes:
    """A picture with its left third dark, so that it can be told which way up it is."""
    image = Image.new("RGB", size, (240, 230, 210))
    image.paste((20, 30, 60), (0, 0, size[0] // 3, size[1]))
    out = io.BytesIO()
    image.save(out, kind, **more)
    return out.getvalue()


def upload(raw: bytes, name: str = "photo.jpg") -> SimpleUploadedFile:
    return SimpleUploadedFile(name, raw, "image/jpeg")


class Photos(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.job = half_dip(self.kitchen).job
        self.address = f"/notebook/{self.job.pk}/photos/"

    def send(self, *raws: bytes, name: str = "photo.jpg") -> Any:
        return self.client.post(
            self.address, {"photos": [upload(raw, name) for raw in raws]}, headers={"accept": "application/json"}
        )

    def kept(self) -> KeptPhoto:
        photo = KeptPhoto.objects.filter(kitchen=self.kitchen).latest("pk")
        return photo

    def image(self, size: str = "large") -> Image.Image:
        raw = b"".join(self.client.get(f"/notebook/photo/{self.kept().uid}/{size}.jpg").streaming_content)
        return Image.open(io.BytesIO(raw))

    def test_upright_whichever_way_it_was_held(self) -> None:
        """EXIF orientation 1 to 8: after turning, the dark third is on the left."""
        turns = {
            1: None,
            2: Image.Transpose.FLIP_LEFT_RIGHT,
            3: Image.Transpose.ROTATE_180,
            4: Image.Transpose.FLIP_TOP_BOTTOM,
            5: Image.Transpose.TRANSPOSE,
            6: Image.Transpose.ROTATE_90,
            7: Image.Transpose.TRANSVERSE,
            8: Image.Transpose.ROTATE_270,
        }
        upright = Image.open(io.BytesIO(picture()))
        for number, turn in turns.items():
            held = upright if turn is None else upright.transpose(turn)
            exif = Image.Exif()
            exif[0x0112] = number
            out = io.BytesIO()
            held.save(out, "JPEG", exif=exif, quality=95)
            self.assertEqual(self.send(out.getvalue()).status_code, 200)
            for size in ("large", "small"):
                image = self.image(size)
                self.assertEqual(image.size, (80, 60), number)
                self.assertLess(sum(image.getpixel((6, 30))), 200, number)  # type: ignore[arg-type]
                self.assertGreater(sum(image.getpixel((70, 30))), 500, number)  # type: ignore[arg-type]

    def test_nothing_but_pixels_is_kept(self) -> None:
        exif = Image.Exif()
        exif[0x010F], exif[0x0132] = "A maker", "2026:11:30 10:00:00"
        exif.get_ifd(0x8825)[1] = "N"
        self.send(picture(exif=exif, comment=b"where I live"))
        for size in ("large", "small"):
            image = self.image(size)
            self.assertEqual(dict(image.getexif()), {})
            self.assertFalse({"exif", "comment", "icc_profile", "xmp"} & set(image.info))
        raw = self.kept().path("large").read_bytes()
        self.assertNotIn(b"maker", raw)
        self.assertNotIn(b"where I live", raw)

    def test_kinds_and_sizes(self) -> None:
        for kind in ("PNG", "WEBP", "HEIF"):
            self.assertEqual(self.send(picture(kind, (3000, 2000))).json(), {"kept": 1, "message": ""}, kind)
            self.assertEqual(self.image().size, (2000, 1333))
            self.assertEqual(max(self.image("small").size), 480)
        self.assertEqual(self.send(picture(size=(5200, 3900), quality=50)).status_code, 200)  # 20 megapixels

    def test_what_is_no_photo_is_said(self) -> None:
        bomb = Image.new("1", (30_000, 30_000))
        out = io.BytesIO()
        bomb.save(out, "PNG")
        for raw in (b"", b"GIF89a", b"<svg xmlns='http://www.w3.org/2000/svg'/>", picture()[:700], out.getvalue()):
            response = self.send(raw)
            self.assertEqual(response.status_code, 422)
            self.assertRegex(response.json()["message"], r"\w.*\.")
        both = self.send(picture(), b"no picture")
        self.assertEqual(both.json()["kept"], 1)
        self.assertEqual(KeptPhoto.objects.count(), 1)

    def test_for_its_maker_only_and_gone_for_good(self) -> None:
        self.send(picture())
        photo = self.kept()
        _, _, stranger = maker("stranger@example.org")
        for address in (f"/notebook/photo/{photo.uid}/", f"/notebook/photo/{photo.uid}/large.jpg"):
            self.assertEqual(self.client.get(address).status_code, 200)
            self.assertEqual(stranger.get(address).status_code, 404)
        files = [photo.path(size) for size in KeptPhoto.SIZES]
        self.assertTrue(all(file.is_file() and not file.stat().st_mode & 0o077 for file in files))
        self.client.post(f"/notebook/photo/{photo.uid}/", {"words": "The first", "of": ""})
        self.assertContains(self.client.get(f"/notebook/{self.job.pk}/"), "The first")
        with self.captureOnCommitCallbacks(execute=True):
            self.client.post(f"/notebook/photo/{photo.uid}/", {"what": "delete"})
        self.assertFalse(any(file.exists() for file in files))
        self.send(picture())
        files = [self.kept().path(size) for size in KeptPhoto.SIZES]
        with self.captureOnCommitCallbacks(execute=True):
            self.job.delete()
        self.assertFalse(any(file.exists() for file in files))
