"""Photographs of open bays with batteries in them, drawn here by a camera of our own, layer by layer as each lies.

Sizes of batteries are the largest of IEC 60086-2, from memory; real ones are up to four in a hundred smaller. Their
looks are invented.
"""

from dataclasses import dataclass

import cv2
import numpy as np

WIDTH, HEIGHT = 1600, 1200
PX = 6.0  # of a layer, for each millimetre
TABLE_MM = (320.0, 240.0)
STICKS = {"LR03": (10.5, 44.5), "LR6": (14.5, 50.5), "LR14": (26.2, 50.0), "LR20": (34.2, 61.5), "LR1": (12.0, 30.2)}
BLOCK = ("6LR61", (26.5, 48.5))
CARD_MM = (85.60, 53.98)


@dataclass
class Drawn:
    """A photograph, and what is true of it: corners in pixels."""

    picture: np.ndarray
    name: str
    batteries: list[np.ndarray]
    bay: np.ndarray
    bay_mm: tuple[float, float]
    card: np.ndarray


def photograph(chance, tilt_degrees, names=tuple(STICKS), most=4, empty=False):
    """One drawn by these dice."""
    name = str(chance.choice(names))
    wide, long = (STICKS | dict([BLOCK]))[name]
    count = int(chance.integers(1, 2 if name in ("LR20", "6LR61") else 3 if name == "LR14" else most + 1))
    in_line = count in (2, 4) and name in ("LR03", "LR6", "LR1") and chance.random() < 0.3
    rows, columns = (count // 2, 2) if in_line else (count, 1)
    gap, slack = chance.uniform(0.0, 1.2), chance.uniform(1.5, 4.0)
    bay = np.array([columns * long + slack, rows * wide + (rows - 1) * gap + chance.uniform(0.5, 3.0)])
    rim, deep = chance.uniform(14, 30), wide if name != "6LR61" else 17.5
    corner = np.array([chance.uniform(60, 90), chance.uniform(70, 110)])
    seen = _Camera(chance, tilt_degrees)

    canvas = np.full((HEIGHT, WIDTH), 110.0)
    _lay(canvas, _wood(chance), seen.of_plane(0.0), np.zeros(2), None)
    shell, walls, floor = chance.uniform(25, 70), chance.uniform(80, 150), chance.uniform(60, 130)
    if chance.random() < 0.5:
        shell, floor = 255 - shell, chance.uniform(140, 210)
    around = chance.uniform(8, 20)
    _lay(canvas, _plain(chance, bay + 2 * around, shell), seen.of_plane(rim), corner - around, None)
    hole = _mask(seen.of_plane(rim), corner, bay)
    canvas[hole] = walls
    _lay(canvas, _plain(chance, bay, floor), seen.of_plane(rim - deep), corner, hole)
    batteries = []
    left = corner + np.array([chance.uniform(0.5, slack - 0.5), (bay[1] - rows * wide - (rows - 1) * gap) / 2])
    style = chance.integers(0, 4)
    for row in range(rows):
        for column in range(columns):
            true = np.array([long, wide]) * chance.uniform(0.97, 1.0, 2)
            at = left + np.array([column * long, row * (wide + gap)])
            look = _battery(chance, true, style, name == "6LR61")
            if (row + column) % 2:
                look = look[:, ::-1]
            plane = seen.of_plane(rim - deep + (deep / 2 if name != "6LR61" else deep))
            if not empty:
                _lay(canvas, look, plane, at, hole)
                batteries.append(_corners(plane, at, true))
    card_at = corner + np.array([bay[0] + around + chance.uniform(14, 22), chance.uniform(-20, 0)])
    above = rim if chance.random() < 0.5 else 0.0
    lies = seen.of_plane(above) @ _turned(chance.uniform(-8, 8), card_at)
    _lay(canvas, _card(chance, shade=float(np.median(canvas))), lies, np.zeros(2), None, radius_mm=3.18)
    return Drawn(
        _through_a_lens(chance, canvas),
        name,
        batteries,
        _corners(seen.of_plane(rim), corner, bay),
        (float(bay[0]), float(bay[1])),
        _corners(lies, np.zeros(2), np.array(CARD_MM)),
    )


class _Camera:
    """A pinhole some 30 cm away that looks at the middle of the table, held with this tilt."""

    def __init__(self, chance, tilt_degrees):
        tilt, turn, about = np.radians(tilt_degrees), *chance.uniform(0, 2 * np.pi, 2)
        rotation, _ = cv2.Rodrigues(tilt * np.array([np.cos(turn), np.sin(turn), 0.0]))
        spin, _ = cv2.Rodrigues(np.array([0.0, 0.0, about]))
        self._turned = rotation @ spin
        self._focal = WIDTH * chance.uniform(0.8, 1.2)
        self._away = self._focal * 300 / WIDTH * chance.uniform(0.95, 1.15)

    def of_plane(self, z_mm):
        """From millimetres of a plane so high over the table to pixels."""
        inside = np.array([[self._focal, 0, WIDTH / 2], [0, self._focal, HEIGHT / 2], [0, 0, 1]])
        shift = np.array([[1, 0, -TABLE_MM[0] / 2], [0, 1, -TABLE_MM[1] / 2], [0, 0, 1]])
        raised = np.array([0, 0, self._away]) - z_mm * self._turned[:, 2]
        return inside @ np.column_stack([self._turned[:, 0], self._turned[:, 1], raised]) @ shift


def _turned(degrees, at):
    return np.vstack([np.c_[cv2.getRotationMatrix2D((0, 0), degrees, 1.0)[:, :2], at], [0, 0, 1]])


def _corners(plane, at, size):
    whole = [at, at + size * (1, 0), at + size, at + size * (0, 1)]
    return cv2.perspectiveTransform(np.array(whole, dtype=float)[None], plane)[0]


def _mask(plane, at, size):
    mask = np.zeros((HEIGHT, WIDTH), np.uint8)
    cv2.fillConvexPoly(mask, np.round(_corners(plane, at, size)).astype(np.int32), 255)
    return mask > 0


def _lay(canvas, texture, plane, at, within, radius_mm=0.0):
    """A layer that begins at this place of its plane; what of it is NaN is not there."""
    to_plane = plane @ np.array([[1 / PX, 0, at[0]], [0, 1 / PX, at[1]], [0, 0, 1]])
    there = (~np.isnan(texture)).astype(np.float32)
    if radius_mm:
        there *= _rounded(texture.shape, radius_mm * PX)
    over = cv2.warpPerspective(there, to_plane, (WIDTH, HEIGHT), flags=cv2.INTER_LINEAR)
    drawn = cv2.warpPerspective(np.nan_to_num(texture).astype(np.float32), to_plane, (WIDTH, HEIGHT))
    if within is not None:
        over = over * within
    canvas[:] = canvas * (1 - over) + drawn * (over > 0) * over


def _rounded(shape, radius):
    mask = np.zeros(shape, np.uint8)
    r = round(radius)
    cv2.rectangle(mask, (r, 0), (shape[1] - r, shape[0]), 1, -1)
    cv2.rectangle(mask, (0, r), (shape[1], shape[0] - r), 1, -1)
    for x in (r, shape[1] - r - 1):
        for y in (r, shape[0] - r - 1):
            cv2.circle(mask, (x, y), r, 1, -1)
    return mask.astype(np.float32)


def _pixels(size_mm):
    return max(2, round(size_mm[1] * PX)), max(2, round(size_mm[0] * PX))


def _wood(chance):
    size = _pixels(TABLE_MM)
    grain = np.cumsum(chance.normal(0, 1.2, size[0]))[:, None] + chance.normal(0, 3, size)
    wood = np.clip(chance.uniform(70, 190) + grain - grain.mean(), 0, 255)
    for _ in range(6):  # screws, and bits of wire
        spot = (int(chance.uniform(0, size[1])), int(chance.uniform(0, size[0])))
        cv2.circle(wood, spot, int(chance.uniform(6, 18)), float(chance.uniform(30, 230)), -1)
    return wood


def _plain(chance, size_mm, tone):
    return np.clip(tone + chance.normal(0, 3, _pixels(size_mm)), 0, 255)


def _battery(chance, size_mm, style, is_block):
    """Plus at its right: label in one tone or two, print, ends of metal, a cap."""
    tall, wide = _pixels(size_mm)
    tones = chance.uniform(30, 210, 2)
    look = np.full((tall, wide), round(tones[0]), np.uint8)
    if style in (1, 2):
        look[:, round(wide * chance.uniform(0.55, 0.75)) :] = tones[1]
    for _ in range(int(chance.integers(0, 4)) if style else 0):
        x, y = int(wide * chance.uniform(0.1, 0.5)), int(tall * chance.uniform(0.3, 0.8))
        cv2.putText(look, "POWER 1.5V", (x, y), cv2.FONT_HERSHEY_DUPLEX, tall / 130, int(255 - tones[0]), 2)
    look = look.astype(float)
    look[:, : round(0.8 * PX)] = 180
    if is_block:
        return np.clip(look + chance.normal(0, 3, look.shape), 0, 255)
    body = wide - round(1.2 * PX)
    look[:, body - round(0.6 * PX) :] = 190
    across = np.linspace(-1, 1, tall)[:, None]
    side = chance.uniform(-0.4, 0.4)
    shade = 0.35 + 0.65 * np.sqrt(np.clip(1 - across**2, 0, 1)) + 0.35 * np.exp(-((across - side) ** 2) / 0.01)
    look = np.clip(look * shade + chance.normal(0, 3, look.shape), 0, 255)
    cap = round(0.19 * tall)
    look[: tall // 2 - cap, body:] = np.nan
    look[tall // 2 + cap :, body:] = np.nan
    return look


def _card(chance, shade):
    size = _pixels(CARD_MM)
    card = np.full(size, 235.0 if shade < 140 else 40.0)
    cv2.rectangle(card, (48, 96), (120, 150), 150.0, -1)
    for line in range(3):
        start = (60, 192 + 36 * line)
        cv2.rectangle(card, start, (start[0] + int(chance.uniform(120, 300)), start[1] + 10), 120.0, -1)
    return card


def _through_a_lens(chance, canvas):
    """Bent a little, lit from aside, with a shadow, not quite sharp, and noisy."""
    down, across = np.mgrid[0:HEIGHT, 0:WIDTH].astype(np.float32)
    x, y = (across - WIDTH / 2) / WIDTH, (down - HEIGHT / 2) / WIDTH
    bent = 1 + chance.uniform(-0.05, 0.05) * (x * x + y * y)
    picture = cv2.remap(canvas.astype(np.float32), x * bent * WIDTH + WIDTH / 2, y * bent * WIDTH + HEIGHT / 2,
                        cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)  # fmt: skip
    light = 1 + chance.uniform(-0.25, 0.25) * across / WIDTH + chance.uniform(-0.25, 0.25) * down / HEIGHT
    light -= chance.uniform(0.1, 0.3) * (across / WIDTH + 0.4 * down / HEIGHT > chance.uniform(0.9, 1.4))
    seen = cv2.GaussianBlur(picture, (0, 0), chance.uniform(0.6, 1.6)) * light + chance.normal(0, 4, picture.shape)
    return np.clip(seen, 0, 255).astype(np.uint8)
