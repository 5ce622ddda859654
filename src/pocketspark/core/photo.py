"""Measuring in a photograph: one known length marked in the picture gives the scale for all others.

Places are shares of the picture's width and height, so that they hold at any size it is shown in.
"""

import math
from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

from pocketspark.core.error import PocketSparkError
from pocketspark.core.models.model import LongMillimetres, Model, Title

Across = Annotated[float, Field(ge=0, le=1)]
# A mark of a length is set to within a few pixels at either end (assumed).
MARK_PX = 3.0


class PicturePoint(Model):
    """A spot in the picture."""

    x: Across
    y: Across


class Line(Model):
    """From one spot to another."""

    start: PicturePoint
    end: PicturePoint


class Scale(Model):
    """A line whose length is known: a ruler in the picture, a battery, a coin."""

    line: Line
    mm: LongMillimetres


class MarkedLength(Model):
    """A line to be read off."""

    name: Title
    line: Line


class Remark(Model):
    """A note on a spot."""

    at: PicturePoint
    text: Title


class PhotoMarks(Model):
    """Everything drawn on one photograph."""

    scale: Scale | None = None
    lengths: Annotated[tuple[MarkedLength, ...], Field(max_length=40)] = ()
    remarks: Annotated[tuple[Remark, ...], Field(max_length=40)] = ()


class ReadLength(Model):
    """A length read off, and how sure it can be: marks are set to a few pixels."""

    name: str
    mm: float
    give_or_take_mm: float


@dataclass(frozen=True)
class Picture:
    """A picture as it is kept: JPEG without any metadata, with its thumbnail."""

    width: int
    height: int
    jpeg: bytes
    thumbnail: bytes


class NoScale(PocketSparkError, ValueError):
    """Lengths were asked for before a known one was marked, or that one is too short."""


def read_lengths(marks: PhotoMarks, width_px: int, height_px: int) -> list[ReadLength]:
    """All lengths in mm. They hold in the plane of the known length, seen straight on. Raises NoScale."""
    if marks.scale is None:
        raise NoScale("mark a length that you know first: a battery, a ruler, the gadget's own edge")
    known_px = _pixels(marks.scale.line, width_px, height_px)
    if known_px < 10:
        raise NoScale("the known length is too short in the picture: mark a longer one")
    mm_per_px = marks.scale.mm / known_px
    return [_read(length, mm_per_px, known_px, width_px, height_px) for length in marks.lengths]


def _read(length: MarkedLength, mm_per_px: float, known_px: float, width_px: int, height_px: int) -> ReadLength:
    pixels = _pixels(length.line, width_px, height_px)
    mm = pixels * mm_per_px
    # Both lines are off by a few pixels; the errors add as independent ones.
    off = math.hypot(MARK_PX * mm_per_px, mm * MARK_PX / known_px)
    return ReadLength(name=length.name, mm=round(mm, 2), give_or_take_mm=round(off, 2))


def _pixels(line: Line, width_px: int, height_px: int) -> float:
    return math.hypot((line.end.x - line.start.x) * width_px, (line.end.y - line.start.y) * height_px)
