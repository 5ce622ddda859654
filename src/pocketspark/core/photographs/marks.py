"""Measuring in a photograph: one known length marked in the picture gives the scale for all others.

Places are shares of the picture's width and height, so that they hold at any size it is shown in.
"""

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


class BayCorners(Model):
    """The bay's rim or floor as it is seen: front left, front right, back right, back left, and what it measures."""

    corners: Annotated[tuple[PicturePoint, ...], Field(min_length=4, max_length=4)]
    length_mm: LongMillimetres
    width_mm: LongMillimetres


# A card as banks and libraries give out, mm (ISO/IEC 7810, format ID-1; its corners are round by 3.18).
CARD_MM = (85.60, 53.98)


class CardCorners(Model):
    """Where such a card lies in the picture: its corners in turn, the first side being a long one."""

    corners: Annotated[tuple[PicturePoint, ...], Field(min_length=4, max_length=4)]

    @property
    def plane(self) -> BayCorners:
        return BayCorners(corners=self.corners, length_mm=CARD_MM[0], width_mm=CARD_MM[1])


class PhotoMarks(Model):
    """Everything drawn on one photograph. Lengths are read in the bay's plane, else in the card's, else by `scale`."""

    scale: Scale | None = None
    card: CardCorners | None = None
    bay: BayCorners | None = None
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
