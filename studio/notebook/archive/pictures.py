"""Photos of an archive: what is a plain JPEG stays as it is, to the byte; all else is read and written anew. It is read
in a process of its own, which knows no site."""

from __future__ import annotations

import io
from collections.abc import Sequence

from PIL import Image

from coating.errors import CoatingError, Unreadable
from studio.colours.pictures import Picture, pictures_of

NONE = "That archive is damaged: one of its photos cannot be read. Nothing of it was brought in."
OF_MAKERS = {"exif", "icc_profile", "comment", "xmp"}


def checked_pictures(raws: Sequence[bytes], longest: Sequence[int]) -> list[tuple[Picture, Picture]]:
    """Each in two sizes, so many px at their longest sides. Raises Unreadable."""
    pictures = []
    for raw in raws:
        try:
            large, small = pictures_of(raw, longest)
        except CoatingError as problem:
            raise Unreadable(NONE, field="file") from problem
        pictures.append((_as_it_is(raw, longest[0]) or large, small))
    return pictures


def _as_it_is(raw: bytes, longest: int) -> Picture | None:
    """A JPEG with nothing in it but its pixels, no larger than ours and nothing behind its end; None of all else."""
    if not raw.startswith(b"\xff\xd8") or not raw.endswith(b"\xff\xd9"):
        return None
    with Image.open(io.BytesIO(raw), formats=["JPEG"]) as image:
        bare = image.mode == "RGB" and not image.getexif() and not OF_MAKERS & {*image.info}
        if bare and max(image.size) <= longest and len(getattr(image, "applist", [])) <= 1:
            return Picture(raw, image.width, image.height, "")
    return None
