"""Four-sided things in a photograph: outlines followed at several contrasts, and the corners where their sides meet."""

from collections.abc import Iterator
from typing import Any

import numpy as np
from numpy.typing import NDArray

Pixels = NDArray[np.uint8]
Places = NDArray[np.float64]
# Of the picture's area, the least and most that a thing in question may take (our judgement).
LEAST_AREA, MOST_AREA = 0.004, 0.7
# How far an outline may be from four lines, as a share of its sides (our judgement).
MOST_BENT = 0.012
# Of each side, what is straight: the rest belongs to round corners.
STRAIGHT = (0.15, 0.85)


def outlines(grey: Any) -> Iterator[Places]:
    """Closed outlines that may be a card, by edges and by shades."""
    import cv2

    smooth = cv2.bilateralFilter(grey, 7, 40, 7)
    for low in (20, 45, 90):
        yield from _contours(cv2.dilate(cv2.Canny(smooth, low, 3 * low), np.ones((3, 3), np.uint8)))
    for block in (51, 151):
        for way in (cv2.THRESH_BINARY, cv2.THRESH_BINARY_INV):
            yield from _contours(cv2.adaptiveThreshold(smooth, 255, cv2.ADAPTIVE_THRESH_MEAN_C, way, block, 4))
    _, shades = cv2.threshold(smooth, 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    yield from _contours(shades)
    yield from _contours(255 - shades)


def _contours(black_and_white: Any) -> Iterator[Places]:
    import cv2

    whole = black_and_white.size
    for outline in cv2.findContours(black_and_white, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)[0]:
        if LEAST_AREA * whole < cv2.contourArea(outline) < MOST_AREA * whole:
            yield outline[:, 0, :].astype(np.float64)


def four_sides(outline: Places) -> Places | None:
    """The corners of four straight lines through an outline, in turn; None where it is no four-sided thing."""
    import cv2

    rough = cv2.approxPolyDP(outline.astype(np.float32), 0.03 * cv2.arcLength(outline.astype(np.float32), True), True)
    if len(rough) != 4 or not cv2.isContourConvex(rough):
        return None
    corners = rough[:, 0, :].astype(np.float64)
    lines = [_line_along(outline, corners[at], corners[(at + 1) % 4]) for at in range(4)]
    if any(line is None for line in lines):
        return None
    met = [meeting(lines[at - 1], lines[at]) for at in range(4)]
    return np.array(met) if all(np.isfinite(spot).all() for spot in met) else None


def _line_along(outline: Places, start: Places, end: Places) -> tuple[Places, Places] | None:
    """A spot and a direction of the line that the middle of a side follows; None where it is not straight."""
    import cv2

    along = (end - start) / (length := float(np.hypot(*(end - start))))
    reach = (outline - start) @ along / length
    aside = np.abs((outline - start) @ np.array([-along[1], along[0]]))
    of_it = outline[(reach > STRAIGHT[0]) & (reach < STRAIGHT[1]) & (aside < 0.08 * length)]
    if len(of_it) < 8:
        return None
    x, y, at_x, at_y = cv2.fitLine(of_it.astype(np.float32), cv2.DIST_HUBER, 0, 0.01, 0.01).ravel()[[0, 1, 2, 3]]
    direction, spot = np.array([x, y], dtype=np.float64), np.array([at_x, at_y], dtype=np.float64)
    off = np.abs((of_it - spot) @ np.array([-direction[1], direction[0]]))
    return (spot, direction) if float(np.percentile(off, 80)) < max(MOST_BENT * length, 1.0) else None


def meeting(first: Any, second: Any) -> Places:
    (spot, along), (other, across) = first, second
    turned = along[0] * across[1] - along[1] * across[0]
    if abs(turned) < 1e-6:
        return np.full(2, np.inf)
    ahead = ((other[0] - spot[0]) * across[1] - (other[1] - spot[1]) * across[0]) / turned
    return np.asarray(spot + ahead * along)
