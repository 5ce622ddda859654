"""Batteries counted and named in a bay that is seen straight from above: by their outlines, which IEC 60086 fixes.

A battery seen so is a rectangle of a known length and width. One may lie where the picture changes along all four sides
of it and little between them, and where it darkens towards both long sides, as what is round does. Those of one bay are
of one size and lie side by side or in a row. They lie higher or lower than what the scale was taken from, so that all
of them may look larger or smaller by one share.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.models.battery import BATTERIES
from pocketspark.core.photographs.four_sided import Pixels, Places

# Of the straightened picture.
PX_PER_MM = 3.0
# A bay lies centimetres over or under the card, seen from three decimetres; a little nearer as a rule.
SCALES = tuple(np.arange(0.90, 1.125, 0.01).round(2).tolist())
USUAL_SCALE = 1.02
# By the pictures of tests/reference/bay_photographs.py: what four sides must come to, what counts against it between
# them, how much darker a round thing is at its sides, and how much that weighs.
LEAST_SCORE, INNER_COUNTS = 0.4, 0.5
ROUND_FALL, FLAT_FALL, FALL_WEIGHS = 0.12, 0.2, 0.3
# These are met so seldom that another of about the size is likelier (our judgement).
SELDOM = {"6LR61": 0.75, "LR8D425": 0.8, "LR1": 0.8, "CR17345": 0.8, "8LR932": 0.6}
# What a group must come to, to be told at all: below lie chance outlines, of flat things far more than of round ones.
LEAST_OF_ROUND, LEAST_OF_FLAT = 22.0, 40.0
# Beside one that is seen clearly, another may be seen less so.
BESIDE_SCORE = 0.28
# So many directions of edges are tried, the clearest ones, first on a coarse picture with fewer scales; then more
# closely wherever a group comes to this share of the best one, with so much around it and so near its scale.
TURNS, COARSE_PX_PER_MM, COARSE_STEP = 2, 1.25, 3
MAY_BE_BEST, ONE_PLACE_MM, AROUND_MM, SCALE_NEAR = 0.6, 15.0, 12.0, 0.045
LEAST_SEEN_PX = 30
# Of one bay, if no farther apart than this.
NEAR_MM = 5.0
Field = NDArray[np.float32]


def seen_from_above(iec: str) -> tuple[float, float]:
    """Length and width of a battery that lies in its bay, mm."""
    battery = BATTERIES[iec]
    first, second = battery.size_mm[:2]
    return (first, second) if battery.form == "block" else (second, first)


# Buttons and coins lie under a lid of their own, or stand on edge: their outline tells nothing.
NAMED: Mapping[str, tuple[float, float]] = {
    iec: seen_from_above(iec) for iec, battery in BATTERIES.items() if battery.form in ("stick", "block")
}


@dataclass(frozen=True)
class FoundBatteries:
    """Batteries of one size. `corners`: of each, in mm of what was looked at; `scale`: how much larger they look."""

    iec: str
    scale: float
    score: float  # the more of the picture they explain, the more
    corners: tuple[Places, ...]
    degrees: float  # by which they lie turned

    @property
    def middle(self) -> Places:
        return np.asarray(np.mean(np.concatenate(self.corners), axis=0))

    def holds(self, other: "FoundBatteries") -> bool:
        """Whether each of the other's lies where one of these does."""
        ours, theirs = (np.array([spots.mean(axis=0) for spots in one.corners]) for one in (self, other))
        return bool((np.linalg.norm(ours[:, None] - theirs, axis=2).min(axis=0) < NEAR_MM).all())


def batteries_in(grey: Pixels, not_on: Places) -> FoundBatteries | None:
    """The likeliest group in a picture seen straight from above at `PX_PER_MM`; None where none are certain.

    `not_on`: corners of what is none of them, the card, in mm of the picture.
    """
    import cv2

    shrunk = COARSE_PX_PER_MM / PX_PER_MM
    coarse: Any = cv2.resize(grey, None, fx=shrunk, fy=shrunk, interpolation=cv2.INTER_AREA)
    turned = [TurnedPicture(coarse, COARSE_PX_PER_MM, degrees) for degrees in _directions_of(grey)]
    rough = [found for one in turned for iec in NAMED for found in _groups(one, iec, SCALES[::COARSE_STEP], not_on)]
    rough = _best_of_each_place(rough)
    close = (found for one in rough for found in _seen_again(grey, not_on, one, AROUND_MM, SCALE_NEAR))
    best = max(filter(_is_certain, close), key=_by_score, default=None)
    if best is None:
        return None
    # More of them may lie with these, farther off than was looked, or not so clearly seen.
    more = _seen_again(grey, not_on, best, 1.3 * NAMED[best.iec][0], 0.005, least=BESIDE_SCORE)
    row = max((one for one in more if one.holds(best)), key=_by_score, default=best)
    return row if len(row.corners) > len(best.corners) else best


def _is_certain(one: FoundBatteries) -> bool:
    return one.score >= (LEAST_OF_ROUND if BATTERIES[one.iec].form == "stick" else LEAST_OF_FLAT)


def _by_score(one: FoundBatteries) -> float:
    return one.score


def _best_of_each_place(rough: Sequence[FoundBatteries]) -> list[FoundBatteries]:
    """The best group of each size at each of the likeliest places, as far as it may be the best of all."""
    places: list[Places] = []
    kept: dict[tuple[int, str], FoundBatteries] = {}
    most = max((one.score for one in rough), default=0.0)
    for one in sorted(rough, key=_by_score, reverse=True):
        if one.score < MAY_BE_BEST * most:
            break
        place = next((n for n, at in enumerate(places) if np.hypot(*(at - one.middle)) < ONE_PLACE_MM), len(places))
        if place == len(places):
            places.append(one.middle)
        kept.setdefault((place, one.iec), one)
    return list(kept.values())


def _seen_again(
    grey: Pixels,
    not_on: Places,
    one: FoundBatteries,
    around_mm: float,
    scale_near: float,
    *,
    least: float = LEAST_SCORE,
) -> Iterator[FoundBatteries]:
    """The same size by all that the picture shows so far around, at scales as near as that."""
    corners = np.concatenate(one.corners)
    low, high = np.maximum(corners.min(axis=0) - around_mm, 0), corners.max(axis=0) + around_mm
    (left, top), (right, bottom) = (low * PX_PER_MM).astype(int), (high * PX_PER_MM).astype(int)
    corner = np.array([left, top]) / PX_PER_MM
    seen = grey[top:bottom, left:right]
    if min(seen.shape) < LEAST_SEEN_PX:  # it lay in what was made up beyond the picture's edge
        return
    piece = TurnedPicture(seen, PX_PER_MM, one.degrees)
    near = [scale for scale in SCALES if abs(scale - one.scale) < scale_near]
    for found in _groups(piece, one.iec, near, not_on - corner, least):
        yield replace(found, corners=tuple(spots + corner for spots in found.corners))


def _groups(
    turned: "TurnedPicture", iec: str, scales: Sequence[float], not_on: Places, least: float = LEAST_SCORE
) -> Iterator[FoundBatteries]:
    """Batteries of one size that lie together, at each of these scales, lengthwise along the picture's rows."""
    is_round = BATTERIES[iec].form == "stick"
    for scale in scales:
        length_mm, width_mm = (side * scale for side in NAMED[iec])
        some = (one for one in turned.rectangles(length_mm, width_mm, least, is_round=is_round))
        apart = _apart(one for one in some if not _lies_on(turned.corners_mm(one), not_on))
        # Blocks are never met in twos in what is carried in a pocket.
        for group in _together(apart, NEAR_MM * turned.px_per_mm) if is_round else ([one] for one in apart):
            outlined_mm = sum((one.score - least) * (one.long + one.wide) for one in group) / turned.px_per_mm
            likely = SELDOM.get(iec, 1.0) * (1 - abs(scale - USUAL_SCALE))
            corners = tuple(turned.corners_mm(one) for one in group)
            yield FoundBatteries(iec, scale, outlined_mm * likely, corners, turned.degrees)


def _lies_on(corners: Places, other: Places) -> bool:
    import cv2

    middle = tuple(map(float, corners.mean(axis=0)))
    return cv2.pointPolygonTest(other.astype(np.float32), middle, True) > -6.0


def _together(rectangles: Sequence["_Rectangle"], near: float) -> Iterator[list["_Rectangle"]]:
    """Those that lie side by side or in a row, the likeliest first in each group."""
    left = list(rectangles)
    while left:
        group = [left.pop(0)]
        for one in group:
            beside = [other for other in left if one.is_beside(other, near)]
            group += beside
            left = [other for other in left if other not in beside]
        yield group


@dataclass(frozen=True)
class _Rectangle:
    """In pixels of what was looked at."""

    score: float
    x: float
    y: float
    long: float
    wide: float

    def overlaps(self, other: "_Rectangle") -> bool:
        across = min(self.x, other.x) + self.long - max(self.x, other.x)
        up = min(self.y, other.y) + self.wide - max(self.y, other.y)
        return across > 0.12 * self.long and up > 0.12 * self.wide

    def is_beside(self, other: "_Rectangle", near: float) -> bool:
        along, across = abs(self.x - other.x), abs(self.y - other.y)
        return (across < self.wide + near and along < near) or (along < self.long + near and across < near)


class TurnedPicture:
    """How much a picture changes along and across its rows, and its shades, summed up quickly over any stretch."""

    def __init__(self, grey: Pixels, px_per_mm: float, degrees: float) -> None:
        import cv2

        self.px_per_mm, self.degrees = px_per_mm, degrees
        grey, self._back = _turned(grey, degrees)
        smooth = cv2.GaussianBlur(grey, (0, 0), 1.0).astype(np.float32)
        # An edge counts as one however strong it is: a label is louder than a shadow, and says less.
        along, across = (np.tanh(np.abs(cv2.Sobel(smooth, cv2.CV_32F, *way)) / 40.0) for way in ((1, 0), (0, 1)))
        self._shade, self.across, self.along = smooth + 10.0, across, along
        self._long_sides, self._ends = cv2.dilate(across, np.ones((3, 1))), cv2.dilate(along, np.ones((1, 3)))

    def corners_mm(self, one: _Rectangle) -> Places:
        right, high = one.x + one.long, one.y + one.wide
        return self.mm_of(np.array([(one.x, one.y), (right, one.y), (right, high), (one.x, high)]))

    def mm_of(self, pixels: Places) -> Places:
        """Of the picture before it was turned."""
        return np.asarray((pixels @ self._back[:, :2].T + self._back[:, 2]) / self.px_per_mm)

    def pixels_of(self, places_mm: Places) -> Places:
        return np.asarray((places_mm * self.px_per_mm - self._back[:, 2]) @ np.linalg.inv(self._back[:, :2]).T)

    def rectangles(
        self, length_mm: float, width_mm: float, least_score: float, *, is_round: bool
    ) -> Iterator[_Rectangle]:
        """Places where a rectangle of this size has four sides, the best of each neighbourhood."""
        import cv2

        long, wide = round(length_mm * self.px_per_mm), round(width_mm * self.px_per_mm)
        rows, columns = self._shade.shape[0] - wide - 1, self._shade.shape[1] - long - 1
        if rows < 3 or columns < 3:
            return
        x, y = max(2, round(0.1 * long)), max(2, round(0.15 * wide))  # corners may be anything

        def mean(of: Any, size: tuple[int, int], right: int, down: int) -> Field:
            """Over a stretch of this size, so far right of and below each place."""
            summed = cv2.boxFilter(of, -1, size, anchor=(0, 0))
            return np.asarray(summed[down : down + rows, right : right + columns])

        sides = [mean(self._long_sides, (long - 2 * x, 1), x, down) for down in (0, wide)]
        ends = [mean(self._ends, (1, wide - 2 * y), right, y) for right in (0, long)]
        # A spring and a cap stand before the ends.
        least = np.minimum(np.minimum(*sides), np.minimum(*ends) + 0.1)
        between = mean(self.across, (long - 2 * x, wide - 2 * y), x, y)
        band = (long - 2 * x, max(2, round(0.14 * wide)))
        low, *middle, high = (mean(self._shade, band, x, round(at * wide)) for at in (0.03, 0.25, 0.43, 0.61, 0.83))
        fall = sum(middle) / 3 / np.maximum(low, high) - 1
        shape = (fall - ROUND_FALL) / 0.15 if is_round else (FLAT_FALL - np.abs(fall)) / 0.1
        score = least - INNER_COUNTS * between + FALL_WEIGHS * np.clip(shape, -1, 1)
        peaks = (score >= least_score) & (score == cv2.dilate(score, np.ones((9, 9), np.uint8)))
        for down, right in zip(*np.nonzero(peaks), strict=True):
            yield _Rectangle(float(score[down, right]), float(right), float(down), float(long), float(wide))


def _directions_of(grey: Pixels) -> list[float]:
    """The degrees along which most edges lie, the clearest first, each with its right angle."""
    import cv2

    smooth = cv2.GaussianBlur(grey, (0, 0), 1.5).astype(np.float32)
    x, y = cv2.Sobel(smooth, cv2.CV_32F, 1, 0), cv2.Sobel(smooth, cv2.CV_32F, 0, 1)
    strength = np.hypot(x, y)
    strong = strength > np.percentile(strength, 90)
    degrees = np.degrees(np.arctan2(y[strong], x[strong])) % 90
    counts, _ = np.histogram(degrees, bins=90, range=(0, 90), weights=np.minimum(strength[strong], 60))
    smoothed = sum(np.roll(counts, by) * weight for by, weight in ((-2, 1), (-1, 2), (0, 3), (1, 2), (2, 1)))
    found: list[float] = []
    for at in np.argsort(-smoothed):
        if all(min(abs(at - other) % 90, 90 - abs(at - other) % 90) > 3 for other in found):
            found.append(float(at) + 0.5)
        if len(found) == TURNS:
            break
    return [degrees + quarter for degrees in found for quarter in (0.0, 90.0)]


def _turned(grey: Pixels, degrees: float) -> tuple[Pixels, Any]:
    """The picture turned so that what leans by `degrees` lies straight, and the way back, two by three."""
    import cv2

    height, width = grey.shape
    lean = np.radians(degrees)
    across = int(abs(width * np.cos(lean)) + abs(height * np.sin(lean))) + 1
    down = int(abs(width * np.sin(lean)) + abs(height * np.cos(lean))) + 1
    matrix = cv2.getRotationMatrix2D((width / 2, height / 2), degrees, 1.0)
    matrix[:, 2] += (across - width) / 2, (down - height) / 2
    turned = cv2.warpAffine(grey, matrix, (across, down), borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(turned, dtype=np.uint8), cv2.invertAffineTransform(matrix)


def _apart(rectangles: Iterable[_Rectangle]) -> list[_Rectangle]:
    """The best ones of which no two lie on one another."""
    chosen: list[_Rectangle] = []
    for one in sorted(rectangles, key=lambda one: -one.score):
        if not any(one.overlaps(other) for other in chosen):
            chosen.append(one)
    return chosen
