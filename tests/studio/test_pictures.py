"""Pictures as makers send them: every kind read or refused with a sensible answer, and nothing of them kept."""

import io
import struct
import zlib

import numpy as np
from django.test import SimpleTestCase
from PIL import Image, ImageCms

from coating.errors import Unreadable
from studio.colours.pictures import LONGEST, MOST_BYTES, Picture, pixels_of, read_picture

SHADE = (130, 170, 196)


def sent(image: Image.Image, kind: str, **options: object) -> Picture:
    """A picture that was saved as `kind` and read back."""
    file = io.BytesIO()
    image.save(file, kind, **options)
    return read_picture(file, file.tell())


class Pictures(SimpleTestCase):
    def shows(self, picture: Picture, shade: tuple[int, int, int] = SHADE, off: int = 4) -> None:
        pixels = pixels_of(picture.jpeg)
        self.assertEqual(pixels.shape, (picture.height, picture.width, 3))
        middle = pixels[picture.height // 2, picture.width // 2].astype(int)
        self.assertLessEqual(np.abs(middle - shade).max(), off, middle)

    def refused(self, raw: bytes, size: int | None = None) -> str:
        with self.assertRaises(Unreadable) as caught:
            read_picture(io.BytesIO(raw), len(raw) if size is None else size)
        return caught.exception.message

    def test_twenty_megapixels_of_every_kind(self) -> None:
        big = Image.new("RGB", (5200, 3900), SHADE)
        for kind in ("JPEG", "PNG", "WEBP", "HEIF"):
            picture = sent(big if kind != "HEIF" else big.resize((2600, 1950)), kind)
            self.assertEqual(max(picture.width, picture.height), LONGEST)
            self.shows(picture)

    def test_turned_upright_and_stripped(self) -> None:
        wide = Image.new("RGB", (400, 200), SHADE)
        wide.paste((255, 0, 0), (0, 0, 100, 200))
        exif = wide.getexif()
        exif[0x0112], exif[0x010F] = 6, "Somebody's camera"
        exif.get_ifd(0x8825)[1] = "N"
        picture = sent(wide, "JPEG", exif=exif, quality=95)
        self.assertEqual((picture.width, picture.height), (200, 400))
        self.assertGreater(int(pixels_of(picture.jpeg)[20, 100, 0]), 200)  # the red end is on top
        with Image.open(io.BytesIO(picture.jpeg)) as kept:
            self.assertEqual(dict(kept.getexif()), {})
            self.assertNotIn("icc_profile", kept.info)
        self.assertNotIn(b"camera", picture.jpeg)

    def test_print_colours_sixteen_bits_glass_and_moving(self) -> None:
        printed = sent(Image.new("RGB", (300, 200), SHADE).convert("CMYK"), "JPEG")
        self.assertIn("meant for print", printed.remarks)
        self.shows(printed, off=12)
        deep = Image.fromarray(np.full((200, 300), 170 * 257, dtype=np.uint16))
        self.shows(sent(deep, "PNG"), (170, 170, 170))
        glass = sent(Image.new("RGBA", (300, 200), (*SHADE, 0)), "PNG")
        self.assertIn("see-through", glass.remarks)
        self.shows(glass, (128, 128, 128))
        self.assertEqual(sent(Image.new("RGBA", (300, 200), (*SHADE, 255)), "PNG").remarks, "")
        frames = [Image.new("RGB", (300, 200), c) for c in (SHADE, (255, 0, 0))]
        moving = sent(frames[0], "WEBP", save_all=True, append_images=frames[1:], lossless=True)
        self.assertIn("It moves", moving.remarks)
        self.shows(moving)
        self.shows(sent(Image.new("L", (300, 200), 90), "PNG"), (90, 90, 90))

    def test_a_profile_that_does_not_fit_is_left_aside(self) -> None:
        lab = ImageCms.ImageCmsProfile(ImageCms.createProfile("LAB"))
        picture = sent(Image.new("RGB", (300, 200), SHADE), "PNG", icc_profile=lab.tobytes())
        self.shows(picture)  # a profile that does not fit is left aside
        srgb = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB"))
        self.shows(sent(Image.new("RGB", (300, 200), SHADE), "JPEG", icc_profile=srgb.tobytes()))

    def test_what_is_no_photo(self) -> None:
        self.assertIn("no picture we can read", self.refused(b"name,L,a,b\nDusk,68,-8,-17\n"))
        self.assertIn("no picture we can read", self.refused(b""))
        self.assertIn("over 50 MB", self.refused(b"", MOST_BYTES + 1))
        jpeg = io.BytesIO()
        Image.effect_noise((600, 600), 60).save(jpeg, "JPEG")
        self.assertIn("broken off", self.refused(jpeg.getvalue()[:2000]))
        svg = b'<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'
        self.assertIn("no picture we can read", self.refused(svg))

    def test_a_bomb_is_not_unpacked(self) -> None:
        """A small file that claims 30000 by 30000 points."""

        def chunk(kind: bytes, data: bytes) -> bytes:
            return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

        head = struct.pack(">IIBBBBB", 30000, 30000, 8, 2, 0, 0, 0)
        bomb = (
            b"\x89PNG\r\n\x1a\n"
            + chunk(b"IHDR", head)
            + chunk(b"IDAT", zlib.compress(b"\0" * 100))
            + chunk(b"IEND", b"")
        )
        self.assertIn("far more points", self.refused(bomb))
