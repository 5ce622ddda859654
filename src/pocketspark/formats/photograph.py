"""Photographs: read, checked, turned upright, stripped of what the camera wrote into them, and made small."""

import io
import warnings
from typing import TYPE_CHECKING

from pocketspark.core.error import PocketSparkError
from pocketspark.core.photo import Picture

if TYPE_CHECKING:
    from PIL.Image import Image

LARGEST_BYTES = 20_000_000
LARGEST_PIXELS = 60_000_000
KEPT_PX, THUMBNAIL_PX = 2000, 320
TAKEN = ("JPEG", "PNG", "WEBP")


class UnreadablePhotograph(PocketSparkError, ValueError):
    """The bytes are no picture that is taken; the message is a sentence."""


def read_picture(data: bytes) -> Picture:
    """Raises UnreadablePhotograph."""
    from PIL import Image, ImageOps, UnidentifiedImageError

    if len(data) > LARGEST_BYTES:
        raise UnreadablePhotograph(f"the picture is over {LARGEST_BYTES // 1_000_000} MB; make it smaller first")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(data), formats=TAKEN) as opened:
                if opened.width * opened.height > LARGEST_PIXELS:
                    raise UnreadablePhotograph("the picture has too many pixels; make it smaller first")
                upright = ImageOps.exif_transpose(opened)
                return _stored(upright.convert("RGB"))
    except (UnidentifiedImageError, OSError, SyntaxError, Image.DecompressionBombWarning):
        raise UnreadablePhotograph("this is no JPEG, PNG or WebP picture") from None


def turned(picture: bytes) -> Picture:
    """The same picture a quarter turn clockwise."""
    from PIL import Image

    with Image.open(io.BytesIO(picture)) as opened:
        return _stored(opened.convert("RGB").transpose(Image.Transpose.ROTATE_270))


def _stored(image: "Image") -> Picture:
    image.thumbnail((KEPT_PX, KEPT_PX))
    width, height = image.size
    jpeg = _jpeg(image, 88)
    image.thumbnail((THUMBNAIL_PX, THUMBNAIL_PX))
    return Picture(width, height, jpeg, _jpeg(image, 80))


def _jpeg(image: "Image", quality: int) -> bytes:
    # Written from pixels alone: nothing of the camera's own notes (place, date, serial number) goes along.
    out = io.BytesIO()
    image.save(out, "JPEG", quality=quality, exif=b"")
    return out.getvalue()
