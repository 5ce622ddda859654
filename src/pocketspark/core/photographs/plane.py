"""The plane of a bay in a photograph taken from anywhere: four corners and two lengths give the whole of it.

A picture of a plane is a homography of it (projective geometry of a pinhole camera, any textbook): eight unknowns, two
equations from each corner. Places in the picture are shares of its width and height, those of the plane millimetres
from the bay's own corner.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.core.photographs.marks import (
    MARK_PX,
    BayCorners,
    Line,
    MarkedLength,
    NoScale,
    PhotoMarks,
    PicturePoint,
    ReadLength,
)

Point = tuple[float, float]
# What is traced this close to a wall, or to another thing's edge, is meant to touch it (our judgement, no source).
SNAP_MM = 1.5
# A line that stays this close to a wall is along it (our judgement, no source).
ALONG_MM = 5.0
WallSide = Literal["left", "right", "front", "back"]
# Of the picture's area, the least that four corners may span.
LEAST_SPAN = 0.005


class NoPlane(PocketSparkError, ValueError):
    """The four corners are no picture of a rectangle; the message says what to do."""


@dataclass(frozen=True)
class BayPlane:
    """The rectangle of a bay as it lies in a picture. Raises NoPlane where its corners are crossed, or too close."""

    corners: BayCorners

    def __post_init__(self) -> None:
        seen = np.array([(corner.x, corner.y) for corner in self.corners.corners])
        sides = np.roll(seen, -1, axis=0) - seen
        turns = sides[:, 0] * np.roll(sides[:, 1], -1) - sides[:, 1] * np.roll(sides[:, 0], -1)
        if not (np.all(turns > 1e-6) or np.all(turns < -1e-6)):
            raise NoPlane(say("mark the four corners one after the other round it, beginning at its front left"))
        x, y = seen.T
        if abs(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) / 2 < LEAST_SPAN:
            raise NoPlane(say("it is too small in this picture: take one from nearer"))

    @property
    def size_mm(self) -> Point:
        return self.corners.length_mm, self.corners.width_mm

    @cached_property
    def _to_picture(self) -> NDArray[np.float64]:
        """Three by three, from millimetres to shares."""
        length, width = self.size_mm
        plane = ((0.0, 0.0), (length, 0.0), (length, width), (0.0, width))
        rows, right = [], []
        for (x, y), seen in zip(plane, self.corners.corners, strict=True):
            rows += [[x, y, 1, 0, 0, 0, -x * seen.x, -y * seen.x], [0, 0, 0, x, y, 1, -x * seen.y, -y * seen.y]]
            right += [seen.x, seen.y]
        return np.append(np.linalg.solve(np.array(rows, dtype=float), np.array(right)), 1.0).reshape(3, 3)

    def in_picture(self, points: Sequence[Point]) -> list[Point]:
        """Where these places of the plane, in mm, are seen."""
        return _projected(self._to_picture, points)

    def in_plane(self, points: Sequence[Point]) -> list[Point]:
        """Which places of the plane, in mm, these spots of the picture show."""
        return _projected(np.asarray(np.linalg.inv(self._to_picture), dtype=np.float64), points)

    def length_of(self, line: Line) -> float:
        """What a line in the picture is in the plane, mm."""
        (x1, y1), (x2, y2) = self.in_plane([_spot(line.start), _spot(line.end)])
        return float(np.hypot(x2 - x1, y2 - y1))

    def straightening(self, width_px: int, height_px: int, px_per_mm: float) -> tuple[float, ...]:
        """The eight figures by which a picture library makes the picture that is seen straight from above.

        For each pixel of that one they tell the pixel of this one: (a x + b y + c) / (g x + h y + 1), and so on. The
        bay's back is at its top, as on the drawing.
        """
        flip = np.array([[1 / px_per_mm, 0, 0], [0, -1 / px_per_mm, self.size_mm[1]], [0, 0, 1]])
        whole = np.diag([width_px, height_px, 1.0]) @ self._to_picture @ flip
        return tuple((whole / whole[2, 2]).ravel()[:8].tolist())


# Lengths ---------------------------------------------------------------------------------------------------------


def read_lengths(marks: PhotoMarks, width_px: int, height_px: int) -> list[ReadLength]:
    """All lengths in mm: in the plane of the bay's corners or a card from wherever it was taken, else beside a length.

    Those beside a known length hold in its plane, seen straight on. Raises NoScale.
    """
    corners = marks.bay or (marks.card and marks.card.plane)
    if corners:
        plane = BayPlane(corners)
        return [_by_plane(length, plane, width_px, height_px) for length in marks.lengths]
    if marks.scale is None:
        raise NoScale(say("mark a length that you know first: a battery, a ruler, the gadget's own edge"))
    known_px = _pixels(marks.scale.line, width_px, height_px)
    if known_px < 10:
        raise NoScale(say("the known length is too short in the picture: mark a longer one"))
    mm_per_px = marks.scale.mm / known_px
    return [_by_scale(length, mm_per_px, known_px, width_px, height_px) for length in marks.lengths]


def _by_plane(length: MarkedLength, plane: BayPlane, width_px: int, height_px: int) -> ReadLength:
    mm, pixels = plane.length_of(length.line), _pixels(length.line, width_px, height_px)
    side_px = min(
        _pixels(Line(start=a, end=b), width_px, height_px)
        for a, b in zip(plane.corners.corners, (*plane.corners.corners[1:], plane.corners.corners[0]), strict=True)
    )
    off = math.hypot(MARK_PX * mm / max(pixels, 1.0), mm * MARK_PX / max(side_px, 1.0))
    return ReadLength(name=length.name, mm=round(mm, 2), give_or_take_mm=round(off, 2))


def _by_scale(length: MarkedLength, mm_per_px: float, known_px: float, width_px: int, height_px: int) -> ReadLength:
    mm = _pixels(length.line, width_px, height_px) * mm_per_px
    # Both lines are off by a few pixels; the errors add as independent ones.
    off = math.hypot(MARK_PX * mm_per_px, mm * MARK_PX / known_px)
    return ReadLength(name=length.name, mm=round(mm, 2), give_or_take_mm=round(off, 2))


def _pixels(line: Line, width_px: int, height_px: int) -> float:
    return math.hypot((line.end.x - line.start.x) * width_px, (line.end.y - line.start.y) * height_px)


# Tracing ---------------------------------------------------------------------------------------------------------


def traced_box(plane: BayPlane, line: Line, edges: tuple[Sequence[float], Sequence[float]]) -> tuple[Point, Point]:
    """The box whose diagonal was drawn: its low corner and its size in mm, drawn to walls and edges that are near."""
    (x1, y1), (x2, y2) = plane.in_plane([_spot(line.start), _spot(line.end)])
    low, high = [], []
    for first, second, size, near in ((x1, x2, plane.size_mm[0], edges[0]), (y1, y2, plane.size_mm[1], edges[1])):
        a, b = (_snapped(min(max(at, 0.0), size), (0.0, size, *near)) for at in sorted((first, second)))
        low.append(a)
        high.append(b)
    if high[0] - low[0] < 0.1 or high[1] - low[1] < 0.1:
        raise NoPlane(say("that has no size inside the bay: draw from one corner of it to the opposite one"))
    return (low[0], low[1]), (round(high[0] - low[0], 1), round(high[1] - low[1], 1))


def traced_wall(plane: BayPlane, line: Line) -> tuple[WallSide, float, float]:
    """The wall along which was drawn, and from where to where on it, in mm; near a corner it is drawn to it."""
    (length, width), ends = plane.size_mm, plane.in_plane([_spot(line.start), _spot(line.end)])
    away: dict[WallSide, float] = {
        "left": max(abs(x) for x, _ in ends),
        "right": max(abs(length - x) for x, _ in ends),
        "front": max(abs(y) for _, y in ends),
        "back": max(abs(width - y) for _, y in ends),
    }
    side = min(away, key=lambda one: away[one])
    if away[side] > ALONG_MM:
        raise NoPlane(say("draw along one wall of the bay, on its inner edge"))
    along, size = (1, width) if side in ("left", "right") else (0, length)
    low, high = (_snapped(min(max(at, 0.0), size), (0.0, size)) for at in sorted(end[along] for end in ends))
    if high - low < 1.0:
        raise NoPlane(say("that is hardly a line: draw as long as the wall may be opened"))
    return side, low, high


def _snapped(at: float, edges: Sequence[float]) -> float:
    nearest = min(edges, key=lambda edge: abs(edge - at))
    return round(nearest if abs(nearest - at) <= SNAP_MM else at, 1)


def _spot(point: PicturePoint) -> Point:
    return point.x, point.y


def _projected(matrix: NDArray[np.float64], points: Sequence[Point]) -> list[Point]:
    seen = matrix @ np.array([[x, y, 1.0] for x, y in points]).T
    return [(float(x), float(y)) for x, y in (seen[:2] / seen[2]).T]
