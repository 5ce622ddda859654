"""Photographs: read, checked, turned upright, stripped of what the camera wrote into them, and made small."""

import io
import re
import threading
import warnings
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.core.photographs.marks import Picture
from pocketspark.core.photographs.plane import BayPlane

if TYPE_CHECKING:
    from PIL.Image import Image

LARGEST_BYTES = 20_000_000
LARGEST_PIXELS, LARGEST_SIDE_PX = 60_000_000, 20_000
# Of which so many are ever unpacked: a JPEG is read smaller than it is, others are not.
DECODED_PIXELS = 25_000_000
KEPT_PX, THUMBNAIL_PX = 2000, 320
TAKEN = ("JPEG", "PNG", "WEBP")


class UnreadablePhotograph(PocketSparkError, ValueError):
    """The bytes are no picture that is taken; the message is a sentence."""


def read_picture(data: bytes) -> Picture:
    """Small, without the camera's notes; a JPEG that is so already stays byte for byte. Raises UnreadablePhotograph."""
    from PIL import Image

    if len(data) > LARGEST_BYTES:
        raise UnreadablePhotograph(
            say("the picture is over {most} MB; make it smaller first", most=LARGEST_BYTES // 1000000)
        )
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(data), formats=TAKEN) as opened:
                # By what its header says: nothing is decoded yet.
                if opened.width * opened.height > LARGEST_PIXELS or max(opened.size) > LARGEST_SIDE_PX:
                    raise UnreadablePhotograph(say("the picture has too many pixels; make it smaller first"))
                if max(opened.size) <= KEPT_PX and is_plain_jpeg(data):
                    return _as_it_is(data, opened)
                opened.draft("RGB", (KEPT_PX, KEPT_PX))  # a JPEG is decoded no larger than needed
                if opened.width * opened.height > DECODED_PIXELS:
                    raise UnreadablePhotograph(say("the picture has too many pixels; make it smaller first"))
                with _ONE_AT_A_TIME:
                    return _stored(_upright(_made_small(opened)).convert("RGB"))
    except UnreadablePhotograph:
        raise
    except Exception:  # a foreign file can make its decoder fail in any way
        raise UnreadablePhotograph(say("this is no JPEG, PNG or WebP picture, or it is damaged")) from None


def at_most(jpeg: bytes, wide_px: int) -> bytes:
    """A kept picture, no wider or higher than so."""
    from PIL import Image

    with Image.open(io.BytesIO(jpeg)) as opened:
        image = opened.convert("RGB")
    image.thumbnail((wide_px, wide_px))
    return _jpeg(image, 80)


STRAIGHT_PX = 1200


def greys(jpeg: bytes) -> NDArray[np.uint8]:
    """A kept picture in shades of grey, rows by columns."""
    from PIL import Image

    with Image.open(io.BytesIO(jpeg)) as opened:
        return np.asarray(opened.convert("L"), dtype=np.uint8)


def straightened(jpeg: bytes, plane: BayPlane) -> bytes:
    """The bay of a kept picture as it is seen straight from above, its longer side as many pixels as are kept."""
    from PIL import Image

    px_per_mm = STRAIGHT_PX / max(plane.size_mm)
    size = (round(plane.size_mm[0] * px_per_mm), round(plane.size_mm[1] * px_per_mm))
    with Image.open(io.BytesIO(jpeg)) as opened:
        figures = plane.straightening(opened.width, opened.height, px_per_mm)
        straight = opened.convert("RGB").transform(
            (max(size[0], 1), max(size[1], 1)), Image.Transform.PERSPECTIVE, figures, Image.Resampling.BICUBIC
        )
    made = io.BytesIO()
    straight.save(made, "JPEG", quality=88)
    return made.getvalue()


# A few kilobytes can unpack to a hundred megabytes: never several of them at once.
_ONE_AT_A_TIME = threading.Lock()


def _made_small(opened: "Image") -> "Image":
    """Before anything is done to it that needs as much room once more. Colours by number are no colours to be mixed."""
    image = opened.convert("RGB") if opened.mode in ("P", "1") else opened
    image.thumbnail((KEPT_PX, KEPT_PX))
    return image


def _upright(opened: "Image") -> "Image":
    """Turned as the camera's notes say, where they can be read."""
    from PIL import ImageOps

    try:
        return ImageOps.exif_transpose(opened)
    except Exception:  # notes that are damaged do not spoil the picture
        return opened


def is_plain_jpeg(data: bytes) -> bool:
    """Whether it holds a picture and nothing else: no comment, no notes of the camera, nothing after its end.

    By the markers of ITU-T T.81: tables, frame, scan and the JFIF header only.
    """
    if not data.startswith(b"\xff\xd8"):
        return False
    place = 2
    while place + 4 <= len(data) and data[place] == 0xFF:
        marker, length = data[place + 1], int.from_bytes(data[place + 2 : place + 4])
        if marker not in _PLAIN_MARKERS or (marker == _JFIF and length != 16):
            return False
        place += 2 + length
        if marker == _SCAN:
            return _ends_after_scans(data, place)
    return False


_JFIF, _SCAN = 0xE0, 0xDA
_PLAIN_MARKERS = frozenset({_JFIF, _SCAN, 0xDB, 0xC0, 0xC2, 0xC4, 0xDD})


def _ends_after_scans(data: bytes, place: int) -> bool:
    """Only coded data, restarts, tables and further scans up to the end marker, which is the last."""
    for found in re.finditer(rb"\xff([^\x00\xd0-\xd7\xff])", data[place:]):
        if found[1] == b"\xd9":
            return place + found.end() == len(data)
        if found[1][0] not in _PLAIN_MARKERS:
            return False
    return False


def _as_it_is(data: bytes, opened: "Image") -> Picture:
    image = opened.convert("RGB")
    width, height = image.size
    image.thumbnail((THUMBNAIL_PX, THUMBNAIL_PX))
    return Picture(width, height, data, _jpeg(image, 80))


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
    image.info = {}  # a comment and a colour profile travel in here
    image.save(out, "JPEG", quality=quality, exif=b"")
    return out.getvalue()
