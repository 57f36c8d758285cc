"""Pictures that a maker sends: read with a library, turned upright, made small, and nothing else of them kept."""

from __future__ import annotations

import io
import warnings
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageCms, ImageOps, UnidentifiedImageError
from pillow_heif import register_heif_opener

from coating.apart import Limits, apart
from coating.errors import Unreadable

MOST_BYTES = 50 * 1024 * 1024
MOST_PIXELS, MOST_WHOLE_PIXELS = 60_000_000, 50_000_000  # a JPEG is read small, all else as it is
LIMITS = Limits(processor_s=8, wall_s=20.0, memory_mb=768)
LONGEST = 1400  # px of the side that is kept
QUALITY = 92
READ = ("JPEG", "PNG", "WEBP", "HEIF", "GIF", "TIFF", "BMP")
_GREY = (128, 128, 128)
_SRGB = ImageCms.createProfile("sRGB")

register_heif_opener(thumbnails=False)
Image.MAX_IMAGE_PIXELS = MOST_PIXELS

NOT_A_PICTURE = "That file is no picture we can read. A photo as JPEG, PNG, WebP or HEIC will do."
TOO_MANY = "That picture has far more points than a photo: send it smaller, at most 50 megapixels."
TOO_HARD = "Reading that picture takes far too long. Send it smaller, or as JPEG."
BROKEN = "That picture is broken off in the middle. Send it again."


@dataclass(frozen=True)
class Picture:
    """JPEG bytes of a small, upright sRGB picture, and what a maker should know about it."""

    jpeg: bytes
    width: int
    height: int
    remarks: str


def read_picture(file: Any, size: int) -> Picture:
    """A picture from an upload, read in a process of its own. Raises CoatingError with what to do instead."""
    if size > MOST_BYTES:
        raise Unreadable("That picture is over 50 MB. Send it smaller.", field="picture")
    file.seek(0)
    return apart(picture_of, file.read(MOST_BYTES), limits=LIMITS, too_much=TOO_HARD, field="picture")


def picture_of(raw: bytes) -> Picture:
    """The picture in a file. Raises Unreadable with what to do instead."""
    (picture,) = pictures_of(raw, (LONGEST,))
    return picture


def pictures_of(raw: bytes, longest: Sequence[int]) -> list[Picture]:
    """The picture in a file in several sizes, each so many px at its longest side, the largest first. Raises
    Unreadable with what to do instead."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            image = Image.open(io.BytesIO(raw), formats=READ)
            if image.width * image.height > (MOST_PIXELS if image.format == "JPEG" else MOST_WHOLE_PIXELS):
                raise Unreadable(TOO_MANY, field="picture")
            return _small(image, longest)
    except (Image.DecompressionBombError, Image.DecompressionBombWarning) as bomb:
        raise Unreadable(TOO_MANY, field="picture") from bomb
    except UnidentifiedImageError as unknown:
        raise Unreadable(NOT_A_PICTURE, field="picture") from unknown
    except (OSError, SyntaxError, ValueError, EOFError) as broken:
        raise Unreadable(BROKEN, field="picture") from broken


def _small(image: Image.Image, longest: Sequence[int]) -> list[Picture]:
    remarks = []
    if getattr(image, "n_frames", 1) > 1:
        remarks.append("It moves: its first picture is shown.")
        image.seek(0)
    if image.format == "JPEG":
        image.draft("RGB", (longest[0], longest[0]))
    profile = image.info.get("icc_profile")
    image = _grey(image) if image.mode in ("I", "F") or image.mode.startswith("I;16") else image
    image.thumbnail((longest[0], longest[0]), Image.Resampling.BOX)  # first: what follows then is of a small one
    turned = ImageOps.exif_transpose(image)
    if turned.mode == "CMYK":
        remarks.append("It is meant for print: its colours are only roughly those of a screen.")
    flat, see_through = _eight_bit(turned)
    if see_through:
        remarks.append("Parts of it are see-through and shown grey.")
    flat = _in_srgb(flat, profile)
    return [_written(flat, side, " ".join(remarks)) for side in longest]


def _written(flat: Image.Image, longest: int, remarks: str) -> Picture:
    """As JPEG, so large at most, of its pixels alone."""
    bare = Image.frombytes("RGB", flat.size, flat.tobytes())
    bare.thumbnail((longest, longest), Image.Resampling.LANCZOS)
    out = io.BytesIO()
    bare.save(out, "JPEG", quality=QUALITY, subsampling=0)
    return Picture(out.getvalue(), bare.width, bare.height, remarks)


def _grey(image: Image.Image) -> Image.Image:
    """A picture of long numbers in eight bits."""
    values = np.asarray(image)
    top = 65535.0 if values.max(initial=0) > 255 else 255.0
    grey = Image.fromarray(np.clip(np.multiply(values, 255 / top, dtype=np.float32), 0, 255).astype(np.uint8))
    grey.info, grey.format = dict(image.info), image.format
    return grey


def _eight_bit(image: Image.Image) -> tuple[Image.Image, bool]:
    """In eight bits without anything see-through, still in its own colours; and whether something was."""
    if image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info:
        clear = image.convert("RGBA")
        ground = Image.new("RGBA", clear.size, (*_GREY, 255))
        lowest: Any = clear.getchannel("A").getextrema()[0]
        return Image.alpha_composite(ground, clear).convert("RGB"), lowest < 255
    return (image if image.mode in ("RGB", "CMYK", "L") else image.convert("RGB")), False


def _in_srgb(image: Image.Image, profile: bytes | None) -> Image.Image:
    """Through its own colour profile, where it has one that can be read."""
    if profile:
        try:
            own = ImageCms.ImageCmsProfile(io.BytesIO(profile))
            turned = ImageCms.profileToProfile(image, own, _SRGB, outputMode="RGB")
            if turned is not None:
                return turned
        except (ImageCms.PyCMSError, OSError):
            pass
    return image.convert("RGB")


def pixels_of(jpeg: bytes) -> NDArray[np.uint8]:
    """sRGB (H, W, 3) of a picture that was kept."""
    with Image.open(io.BytesIO(jpeg), formats=["JPEG"]) as image:
        return np.asarray(image.convert("RGB"))
