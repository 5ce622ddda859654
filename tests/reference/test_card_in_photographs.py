"""A card found in photographs that are drawn here, by a camera of our own: tilted, lit from aside, noisy, with a lens.

The size of the card is ISO/IEC 7810's ID-1, from memory: 85.60 x 53.98 mm, corners of 3.18 mm.
"""

import cv2
import numpy as np
import pytest

from chances import SEED
from pocketspark.core.photographs.card import card_in, rectangle_mm
from pocketspark.core.photographs.marks import CARD_MM, PicturePoint

WIDTH, HEIGHT = 1600, 1200
TABLE_MM = (340.0, 260.0)
PX_PER_MM = 8.0


def table(chance):
    """A bench straight from above: wood, a dark bay with a rim, a card with print, screws and bits of wire."""
    size = (int(TABLE_MM[1] * PX_PER_MM), int(TABLE_MM[0] * PX_PER_MM))
    shade = chance.uniform(70, 190)
    grain = np.cumsum(chance.normal(0, 1.2, size[0]))[:, None] + chance.normal(0, 3, size)
    picture = np.clip(shade + grain - grain.mean(), 0, 255).astype(np.uint8)

    def draw(box_mm, tone, radius_mm=0.0):
        x, y, long, wide = (at * PX_PER_MM for at in box_mm)
        mask = np.zeros(size, np.uint8)
        radius = int(radius_mm * PX_PER_MM)
        cv2.rectangle(mask, (int(x + radius), int(y)), (int(x + long - radius), int(y + wide)), 255, -1)
        cv2.rectangle(mask, (int(x), int(y + radius)), (int(x + long), int(y + wide - radius)), 255, -1)
        for across in (x + radius, x + long - radius):
            for up in (y + radius, y + wide - radius):
                if radius:
                    cv2.circle(mask, (int(across), int(up)), radius, 255, -1)
        picture[mask > 0] = tone

    bay = (chance.uniform(70, 85), chance.uniform(95, 120), chance.uniform(45, 68), chance.uniform(25, 60))
    draw((bay[0] - 12, bay[1] - 12, bay[2] + 24, bay[3] + 24), chance.uniform(20, 60))  # the gadget
    draw(bay, chance.uniform(90, 140))
    card = (chance.uniform(165, 185), chance.uniform(80, 120), *CARD_MM)
    light = 235 if shade < 140 else 40
    draw(card, light, 3.18)
    draw((card[0] + 8, card[1] + 16, 12, 9), 150)  # its chip
    for line in range(3):
        draw((card[0] + 10, card[1] + 32 + 6 * line, chance.uniform(20, 60), 2), 120)
    for _ in range(6):
        spot = (int(chance.uniform(0, size[1])), int(chance.uniform(0, size[0])))
        cv2.circle(picture, spot, int(chance.uniform(6, 22)), float(chance.uniform(30, 230)), -1)
    return picture, card, bay


def camera(chance, tilt_degrees):
    """From millimetres of the table to pixels: a pinhole some 30 cm away, looking at the middle with this tilt."""
    tilt, turn, about = np.radians(tilt_degrees), *chance.uniform(0, 2 * np.pi, 2)
    axis = np.array([np.cos(turn), np.sin(turn), 0.0])
    cross = np.array([[0, -axis[2], axis[1]], [axis[2], 0, -axis[0]], [-axis[1], axis[0], 0]])
    lean = np.eye(3) + np.sin(tilt) * cross + (1 - np.cos(tilt)) * cross @ cross
    spin = np.array([[np.cos(about), -np.sin(about), 0], [np.sin(about), np.cos(about), 0], [0, 0, 1]])
    rotation, focal = lean @ spin, WIDTH * chance.uniform(0.8, 1.3)
    away = np.array([0, 0, focal * 430 / WIDTH * chance.uniform(0.95, 1.15)])
    to_middle = np.array([[1, 0, -TABLE_MM[0] / 2], [0, 1, -TABLE_MM[1] / 2], [0, 0, 1]])
    inside = np.array([[focal, 0, WIDTH / 2], [0, focal, HEIGHT / 2], [0, 0, 1]])
    return inside @ np.column_stack([rotation[:, 0], rotation[:, 1], away]) @ to_middle


def photographed(chance, tilt_degrees):
    flat, card, bay = table(chance)
    seen_by = camera(chance, tilt_degrees)
    whole = seen_by @ np.diag([1 / PX_PER_MM, 1 / PX_PER_MM, 1.0])
    picture = cv2.warpPerspective(flat, whole, (WIDTH, HEIGHT), flags=cv2.INTER_AREA, borderValue=110)
    down, across = np.mgrid[0:HEIGHT, 0:WIDTH] / np.array([HEIGHT, WIDTH])[:, None, None]
    light = 1 + chance.uniform(-0.25, 0.25) * (across - 0.5) + chance.uniform(-0.25, 0.25) * (down - 0.5)
    light -= 0.25 * (across + 0.4 * down > chance.uniform(0.9, 1.4))  # a shadow with an edge
    noisy = cv2.GaussianBlur(picture, (0, 0), chance.uniform(0.6, 1.6)) * light + chance.normal(0, 4, picture.shape)
    return np.clip(noisy, 0, 255).astype(np.uint8), seen_by, card, bay


def shares(seen_by, box):
    x, y, long, wide = box
    corners = np.array([(x, y), (x + long, y), (x + long, y + wide), (x, y + wide)], dtype=float)
    seen = cv2.perspectiveTransform(corners[None], seen_by)[0]
    return [PicturePoint.model_construct(x=float(at / WIDTH), y=float(up / HEIGHT)) for at, up in seen]


@pytest.mark.parametrize("tilt_degrees", [0, 15, 30])
def test_a_card_tells_the_length_and_width_of_what_lies_beside_it(tilt_degrees):
    pictures = 12
    found, offs = 0, []
    for number in range(pictures):
        chance = np.random.default_rng([int(SEED), tilt_degrees, number])
        picture, seen_by, _, bay = photographed(chance, tilt_degrees)
        card = card_in(picture)
        if card is None:
            continue
        found += 1
        length, width = rectangle_mm(card, tuple(shares(seen_by, bay)))
        offs += [abs(length / bay[2] - 1), abs(width / bay[3] - 1)]
    assert found >= 0.75 * pictures
    assert np.median(offs) < 0.008
    assert np.percentile(offs, 90) < 0.02


def test_where_no_card_lies_none_is_found():
    for number in range(8):
        chance = np.random.default_rng([int(SEED), 99, number])
        noise = cv2.GaussianBlur(chance.uniform(0, 255, (HEIGHT, WIDTH)).astype(np.uint8), (0, 0), 6)
        cv2.circle(noise, (700, 500), 300, 200, -1)
        cv2.rectangle(noise, (100, 100), (1500, 300), 90, -1)  # a ruler is too long
        assert card_in(noise) is None
