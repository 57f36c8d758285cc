"""Photos of an archive: what is a plain JPEG stays as it is, to the byte; all else is read and written anew."""

from __future__ import annotations

import io
from collections.abc import Sequence

from PIL import Image

from coating.errors import CoatingError
from studio.colours.pictures import Picture, pictures_of
from studio.notebook.archive.read import refuse
from studio.notebook.photos import LARGE, SMALL


def checked_pictures(raws: Sequence[bytes]) -> list[tuple[Picture, Picture]]:
    """Each in both sizes. Raises Unreadable."""
    pictures = []
    for raw in raws:
        try:
            large, small = pictures_of(raw, (LARGE, SMALL))
        except CoatingError as problem:
            raise refuse("one of its photos cannot be read") from problem
        pictures.append((_as_it_is(raw) or large, small))
    return pictures


def _as_it_is(raw: bytes) -> Picture | None:
    """A JPEG with nothing in it but its pixels, no larger than ours and nothing behind its end; None of all else."""
    if not raw.startswith(b"\xff\xd8") or not raw.endswith(b"\xff\xd9"):
        return None
    with Image.open(io.BytesIO(raw), formats=["JPEG"]) as image:
        bare = (
            image.mode == "RGB"
            and not image.getexif()
            and not {"exif", "icc_profile", "comment", "xmp"} & {*image.info}
        )
        if bare and max(image.size) <= LARGE and len(getattr(image, "applist", [])) <= 1:
            return Picture(raw, image.width, image.height, "")
    return None
