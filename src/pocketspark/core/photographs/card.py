"""A bank card found by itself in a photograph: it tells how large everything in its plane is.

Outlines of the picture are followed at several contrasts; what has four straight sides, and lies as a card of its
proportions would lie in front of a camera, is one. Its corners are where its sides meet, since they are rounded.
"""

import itertools
import math
from typing import Any

import numpy as np

from pocketspark.core.photographs.four_sided import STRAIGHT, Pixels, Places, four_sides, meeting, outlines
from pocketspark.core.photographs.marks import CARD_MM, CardCorners, Line, PicturePoint
from pocketspark.core.photographs.plane import BayPlane

# Enough to see a card by, and quick.
LOOKED_AT_PX = 1400
# How far its proportions may be off, as a share (our judgement).
MOST_ASPECT_OFF = 0.06
# So far to either side of an outline its edge is looked for.
EDGE_PX = 4.0


def card_in(grey: Pixels) -> CardCorners | None:
    """The card of a picture in shades of grey, rows by columns; None where none is certain."""
    import cv2

    height, width = grey.shape
    shrunk = min(1.0, LOOKED_AT_PX / max(height, width))
    small = cv2.resize(grey, None, fx=shrunk, fy=shrunk, interpolation=cv2.INTER_AREA)
    found = [corners for outline in outlines(small) if (corners := four_sides(outline)) is not None]
    size = (small.shape[1], small.shape[0])
    cards = [(off, corners) for corners in found if (off := _unlike_a_card(corners, size)) < MOST_ASPECT_OFF]
    if not cards:
        return None
    _, best = min(cards, key=lambda card: card[0] - 0.1 * math.sqrt(_area(card[1]) / (size[0] * size[1])))
    best = _on_its_edge(small, best)
    long_first = (
        best if _side(best, 0) + _side(best, 2) >= _side(best, 1) + _side(best, 3) else np.roll(best, -1, axis=0)
    )
    shares = np.clip(long_first / size, 0.0, 1.0)
    return CardCorners(corners=tuple(PicturePoint(x=float(x), y=float(y)) for x, y in shares))


def rectangle_mm(card: CardCorners, corners: tuple[PicturePoint, ...]) -> tuple[float, float]:
    """Length and width of a rectangle in the card's plane by its corners, front left first: means of opposite sides."""
    plane = BayPlane(card.plane)
    sides = [
        plane.length_of(Line(start=start, end=end))
        for start, end in zip(corners, (*corners[1:], corners[0]), strict=True)
    ]
    return (sides[0] + sides[2]) / 2, (sides[1] + sides[3]) / 2


def _on_its_edge(grey: Any, corners: Places) -> Places:
    """The same corners where the picture changes most across each side: an outline lies a pixel beside it."""
    import cv2

    smooth = cv2.GaussianBlur(grey, (0, 0), 1.0).astype(np.float32)
    lines = []
    for at in range(4):
        start, end = corners[at], corners[(at + 1) % 4]
        along = (end - start) / np.hypot(*(end - start))
        across = np.array([-along[1], along[0]])
        middle = start + np.linspace(*STRAIGHT, 80)[:, None] * (end - start)
        steps = np.arange(-EDGE_PX, EDGE_PX + 0.25, 0.5)
        spots = (middle[:, None, :] + steps[None, :, None] * across).astype(np.float32)
        seen = cv2.remap(smooth, spots[..., 0], spots[..., 1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
        edge = (steps[:-1] + 0.25)[np.argmax(np.abs(np.diff(seen, axis=1)), axis=1)]
        near = np.abs(edge - np.median(edge)) <= 1.0
        on_edge = (middle + edge[:, None] * across)[near].astype(np.float32)
        x, y, at_x, at_y = cv2.fitLine(on_edge, cv2.DIST_HUBER, 0, 0.01, 0.01).ravel()
        lines.append((np.array([at_x, at_y], dtype=np.float64), np.array([x, y], dtype=np.float64)))
    met = np.array([meeting(lines[at - 1], lines[at]) for at in range(4)])
    # A side that runs into something else is left as its outline had it.
    return met if np.isfinite(met).all() and np.abs(met - corners).max() < 3 * EDGE_PX else corners


def _side(corners: Places, at: int) -> float:
    return float(np.hypot(*(corners[(at + 1) % 4] - corners[at])))


def _area(corners: Places) -> float:
    x, y = corners.T
    return float(abs(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) / 2)


def _unlike_a_card(corners: Places, size: tuple[int, int]) -> float:
    """How far its proportions are from a card's, as a share, seen by a camera whose lens looks at the middle.

    The two directions of a rectangle are at right angles in space, which tells the focal length, and with it the
    proportions (projective geometry: the image of the absolute conic, square pixels). Seen straight on, its focal
    length does not matter and its own sides are the proportions.
    """
    centred = corners - np.array(size) / 2
    wanted = CARD_MM[0] / CARD_MM[1]
    focal_px = 1.1 * max(size)  # of usual phones, where the picture does not tell
    offs = []
    for order in (centred, np.roll(centred, -1, axis=0)):
        first, second = _directions(order)
        skew = -(first[0] * second[0] + first[1] * second[1])
        flat = abs(first[2] * second[2]) * focal_px**2 < 0.02 * abs(first[:2] @ first[:2])
        if not flat and skew / (first[2] * second[2]) > 0:
            focal = math.sqrt(skew / (first[2] * second[2]))
            focal_px = focal if 0.5 * max(size) < focal < 4 * max(size) else focal_px
        longs, shorts = (math.hypot(one[0] / focal_px, one[1] / focal_px, one[2]) for one in (first, second))
        offs.append(abs(longs / shorts / wanted - 1) if shorts else math.inf)
    return min(offs)


def _directions(corners: Places) -> tuple[Places, Places]:
    """Of the homography from a unit square: its first two columns, the sides' directions with one common scale."""
    rows, right = [], []
    for (u, v), (x, y) in zip(itertools.islice(((0, 0), (1, 0), (1, 1), (0, 1)), 4), corners, strict=True):
        rows += [[u, v, 1, 0, 0, 0, -u * x, -v * x], [0, 0, 0, u, v, 1, -u * y, -v * y]]
        right += [x, y]
    flat = np.append(np.linalg.solve(np.array(rows, dtype=float), np.array(right, dtype=float)), 1.0).reshape(3, 3)
    return flat[:, 0], flat[:, 1]
