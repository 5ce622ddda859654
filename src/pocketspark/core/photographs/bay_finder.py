"""A bay found by itself in a photograph with a card in it: its outline, and the batteries that lie in it.

It is the rim round its batteries. Where none lie, it is what has four straight sides, is a rectangle in the card's
plane and lies in another such one, as a bay lies in its gadget. Batteries of a known size are a better scale than a
card that lies higher or lower.
"""

from collections.abc import Sequence
from typing import Annotated

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from pocketspark.core.models.model import Model
from pocketspark.core.photographs.batteries import PX_PER_MM, FoundBatteries, TurnedPicture, batteries_in
from pocketspark.core.photographs.card import LOOKED_AT_PX
from pocketspark.core.photographs.four_sided import Pixels, Places, four_sides, outlines
from pocketspark.core.photographs.marks import CARD_MM, BayCorners, CardCorners, PicturePoint
from pocketspark.core.photographs.plane import BayPlane

# Bays of pocket gadgets, mm; of a rectangle in its plane, opposite sides and corners (our judgement).
LEAST_MM, MOST_MM = 9.0, 220.0
SIDES_ALIKE, SQUARE_WITHIN = 0.06, 0.08
# Two outlines with corners as near as this are one (our judgement).
SAME_MM = 1.2
# So far from the card's middle is looked.
REACH_MM = 190.0
# What stays free of a bay, beyond the ends of its batteries and beside them (springs, play), and how strong its rim is
# there beside the strongest edge (our judgement).
FREE_ALONG_MM, FREE_ACROSS_MM, RIM_SHARE = 7.5, 6.0, 0.5


class SeenBattery(Model):
    """Where one is seen: its corners in turn."""

    corners: Annotated[tuple[PicturePoint, ...], Field(min_length=4, max_length=4)]


class FoundBay(Model):
    """What is proposed of a photograph. `battery`: the IEC name of all in it, where any are seen."""

    bay: BayCorners
    battery: str | None = None
    # How much larger the batteries look than they are by the card: so do lengths that lie as high as they do.
    scale: float = 1.0
    batteries: tuple[SeenBattery, ...] = ()


def bay_in(grey: Pixels, card: CardCorners) -> FoundBay | None:
    """The bay of a picture in shades of grey, rows by columns; None where nothing looks like one."""
    plane = BayPlane(card.plane)
    straight, corner = _straight(grey, plane)
    if min(straight.shape) < LEAST_MM * PX_PER_MM:
        return None
    found = batteries_in(straight, np.array(_CARD) - corner)
    if found is not None:
        return _proposed(plane, _rim_round(straight, found) + corner, found, corner)
    candidates = _rectangles(grey, plane)
    inner = [one for one in candidates if any(_lies_in(one, other) for other in candidates)]
    largest = max(inner or candidates, key=_area, default=None)
    return None if largest is None else _proposed(plane, largest, None, corner)


_CARD = ((0.0, 0.0), (CARD_MM[0], 0.0), CARD_MM, (0.0, CARD_MM[1]))


def _straight(grey: Pixels, plane: BayPlane) -> tuple[Pixels, Places]:
    """What lies about the card seen straight from above at `PX_PER_MM`, and the corner where that begins, mm."""
    import cv2

    height, width = grey.shape
    seen = np.array(plane.in_plane([(0, 0), (1, 0), (1, 1), (0, 1)]))
    middle = np.array(CARD_MM) / 2
    low, high = np.maximum(seen.min(axis=0), middle - REACH_MM), np.minimum(seen.max(axis=0), middle + REACH_MM)
    box = np.array([low, (high[0], low[1]), high, (low[0], high[1])])
    spots = np.array(plane.in_picture([(float(x), float(y)) for x, y in box])) * (width, height)
    turned = cv2.getPerspectiveTransform(spots.astype(np.float32), ((box - low) * PX_PER_MM).astype(np.float32))
    # Seen so flat that its horizon lies in the picture, a plane has no corners there.
    across, down = np.maximum(np.nan_to_num((high - low) * PX_PER_MM), 1).astype(int).tolist()
    made = cv2.warpPerspective(grey, turned, (across, down), flags=cv2.INTER_AREA, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(made, dtype=np.uint8), low


def _rim_round(straight: Pixels, found: FoundBatteries) -> Places:
    """The corners of the rim that lies nearest round the batteries, mm of the straightened picture.

    From each side of them outwards, the last place where the picture changes along most of it.
    """
    turned = TurnedPicture(straight, PX_PER_MM, found.degrees)
    spots = turned.pixels_of(np.concatenate(found.corners))
    (left, top), (right, bottom) = spots.min(axis=0), spots.max(axis=0)
    y = slice(int(top + 0.1 * (bottom - top)), int(bottom - 0.1 * (bottom - top)))
    x = slice(int(left + 0.1 * (right - left)), int(right - 0.1 * (right - left)))
    along, across = turned.along[y].mean(axis=0), turned.across[:, x].mean(axis=1)
    left, right = _outermost(along, left, -FREE_ALONG_MM), _outermost(along, right, FREE_ALONG_MM)
    top, bottom = _outermost(across, top, -FREE_ACROSS_MM), _outermost(across, bottom, FREE_ACROSS_MM)
    return turned.mm_of(np.array([(left, top), (right, top), (right, bottom), (left, bottom)]))


def _outermost(changes: NDArray[np.float32], start: float, reach_mm: float) -> float:
    """From `start` so far, the last place that is nearly as strong as the strongest."""
    way = 1 if reach_mm > 0 else -1
    places = np.arange(round(start) - way, round(start + reach_mm * PX_PER_MM), way)
    places = places[(places > 0) & (places < len(changes) - 1)]
    if len(places) < 3:
        return start
    seen = changes[places]
    peak = (seen >= changes[places - 1]) & (seen >= changes[places + 1]) & (seen >= RIM_SHARE * seen.max())
    return float(places[np.nonzero(peak)[0][-1]]) if peak.any() else start


def _rectangles(grey: Pixels, plane: BayPlane) -> list[Places]:
    """Rectangles in the plane, mm, the largest first; none of them is the card, nor lies on it."""
    import cv2

    height, width = grey.shape
    shrunk = min(1.0, LOOKED_AT_PX / max(height, width))
    small = cv2.resize(grey, None, fx=shrunk, fy=shrunk, interpolation=cv2.INTER_AREA)
    found: list[Places] = []
    for outline in outlines(small):
        seen = four_sides(outline)
        if seen is None or (seen < 0).any() or (seen > (small.shape[1], small.shape[0])).any():
            continue
        corners = np.array(plane.in_plane([tuple(spot) for spot in seen / (small.shape[1], small.shape[0])]))
        known = any(np.abs(corners - other).max() < SAME_MM for other in found)
        if not known and _is_rectangle(corners) and not _touches_card(corners, plane):
            found.append(corners)
    return sorted(found, key=_area, reverse=True)


def _is_rectangle(corners: Places) -> bool:
    sides = np.roll(corners, -1, axis=0) - corners
    lengths = np.hypot(*sides.T)
    if not (lengths.min() >= LEAST_MM and lengths.max() <= MOST_MM):
        return False
    alike = np.abs(lengths[:2] / lengths[2:] - 1).max() < SIDES_ALIKE
    leans = np.abs((sides * np.roll(sides, -1, axis=0)).sum(axis=1)) / (lengths * np.roll(lengths, -1))
    return bool(alike and leans.max() < SQUARE_WITHIN)


def _touches_card(corners: Places, plane: BayPlane) -> bool:
    low, high = corners.min(axis=0), corners.max(axis=0)
    return bool((high > 1.0).all() and (low < np.array(plane.size_mm) - 1.0).all())


def _from_front_left(corners: Places, seen: Places) -> Places:
    """In turn from the corner that is lowest and leftmost in the picture, along its front first."""
    x, y = seen.T
    runs_back = np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1)) > 0
    corners, seen = (corners[::-1], seen[::-1]) if runs_back else (corners, seen)
    return np.roll(corners, -int(np.argmax(seen[:, 1] - seen[:, 0])), axis=0)


def _sides_mm(corners: Places) -> tuple[float, float]:
    lengths = np.hypot(*(np.roll(corners, -1, axis=0) - corners).T)
    return float(lengths[0] + lengths[2]) / 2, float(lengths[1] + lengths[3]) / 2


def _area(corners: Places) -> float:
    length, width = _sides_mm(corners)
    return length * width


def _lies_in(inner: Places, outer: Places) -> bool:
    import cv2

    rim = outer.astype(np.float32)
    return all(cv2.pointPolygonTest(rim, tuple(map(float, spot)), True) > 1.0 for spot in inner)


def _proposed(plane: BayPlane, corners: Places, found: FoundBatteries | None, corner: Places) -> FoundBay:
    corners = _from_front_left(corners, np.array(plane.in_picture([(float(x), float(y)) for x, y in corners])))
    length, width = (side / (found.scale if found else 1.0) for side in _sides_mm(corners))
    bay = BayCorners(corners=_spots(plane, corners), length_mm=round(length, 1), width_mm=round(width, 1))
    if found is None:
        return FoundBay(bay=bay)
    seen = tuple(SeenBattery(corners=_spots(plane, one + corner)) for one in found.corners)
    return FoundBay(bay=bay, battery=found.iec, scale=found.scale, batteries=seen)


def _spots(plane: BayPlane, corners: Sequence[Sequence[float]] | Places) -> tuple[PicturePoint, ...]:
    seen = np.clip(plane.in_picture([(float(x), float(y)) for x, y in corners]), 0.0, 1.0)
    return tuple(PicturePoint(x=float(x), y=float(y)) for x, y in seen)
