"""Where a part's pads are drawn: at their own places where these are known, in rows along its edges where not.

Wires of a pad near an end leave the part there, and turn up or down beside it, each in a lane of its own.
"""

from dataclasses import dataclass
from typing import Literal

from pocketspark.core.hookup.wired_parts import WiredPart
from pocketspark.core.models.model import Model

# Beside a part, for the lanes of its pads; from a pad to its label; from an end within which a label stays inside.
LANES_MM, LANE_MM = 6.0, 3.0
_ASIDE_MM, _BELOW_MM, _ABOVE_MM = 2.2, 4.4, 2.4
_NEAR_END_MM, _OVER_MM = 4.5, 1.4
LETTER_MM = 1.6  # as wide is one of a label, about
Edge = Literal["top", "bottom", "left", "right"]
Anchor = Literal["start", "middle", "end"]


class DrawnPad(Model):
    """One pad; `name` is the full one ("charger.OUT+"), `label` as printed, from `label_x` on, round it or up to it."""

    name: str
    label: str
    x: float
    y: float
    upper: bool  # its wires run above the parts
    turn_x: float  # and turn up or down here
    label_x: float
    label_y: float
    label_anchor: Anchor


@dataclass(frozen=True)
class _Outline:
    x: float
    y: float
    width: float
    height: float

    def at(self, share: tuple[float, float]) -> tuple[float, float]:
        """A place told in shares from the left front corner: the front is below."""
        return self.x + share[0] * self.width, self.y + (1 - share[1]) * self.height

    def nearest_edge(self, x: float, y: float) -> Edge:
        """Upper and lower edge first: a wire that leaves there needs no turn."""
        away: dict[Edge, float] = {
            "top": y - self.y,
            "bottom": self.y + self.height - y,
            "left": x - self.x,
            "right": self.x + self.width - x,
        }
        return min(away, key=lambda edge: round(away[edge], 3))


def drawn_pads(part: WiredPart, x: float, y: float, width: float, height: float) -> list[DrawnPad]:
    """All pads of a part that is drawn as this box."""
    outline = _Outline(x, y, width, height)
    shares = dict(part.places) if part.places else _in_rows(part)
    placed = {name: outline.at(shares[name]) for name in part.pads}
    edges = {name: outline.nearest_edge(*at) for name, at in placed.items()}
    lanes = _lanes(placed, edges, outline)
    return [_pad(part, name, at, edges[name], lanes.get(name, at[0]), outline) for name, at in placed.items()]


def labels_mm(part: WiredPart) -> float:
    """What the labels at both ends need beside each other."""
    return 2 * (LETTER_MM * max(map(len, part.pads)) + _ASIDE_MM) + 8.0 if part.places else 0.0


def _in_rows(part: WiredPart) -> dict[str, tuple[float, float]]:
    """Plus pads along the upper edge, minus pads along the lower one."""
    lower = [name for name in part.pads if name.endswith("-") or name == "GND"]
    rows = ([name for name in part.pads if name not in lower], lower)
    return {name: ((n + 0.5) / len(row), 1.0 - at) for at, row in enumerate(rows) for n, name in enumerate(row)}


def _lanes(placed: dict[str, tuple[float, float]], edges: dict[str, Edge], outline: _Outline) -> dict[str, float]:
    """Beside an end: the pad that is farthest up, or down, turns nearest to it, so that no two lines cross."""
    middle = outline.y + outline.height / 2
    lanes: dict[str, float] = {}
    for edge, end, outwards in (("left", outline.x, -1), ("right", outline.x + outline.width, 1)):
        here = [name for name, at in placed.items() if edges[name] == edge]
        for half in ([n for n in here if placed[n][1] <= middle], [n for n in here if placed[n][1] > middle]):
            ordered = sorted(half, key=lambda name: -abs(placed[name][1] - middle))
            step = min(LANE_MM, LANES_MM / max(len(ordered), 1))
            lanes |= {name: end + outwards * step * (n + 1) for n, name in enumerate(ordered)}
    return lanes


def _pad(part: WiredPart, name: str, at: tuple[float, float], edge: Edge, turn_x: float, outline: _Outline) -> DrawnPad:
    x, y = at
    upper = y <= outline.y + outline.height / 2 if edge in ("left", "right") else edge == "top"
    anchor: Anchor = "middle"
    label_x, label_y = x, y + (_BELOW_MM if edge == "top" else -_ABOVE_MM)
    if edge in ("left", "right"):
        label_y = y + 1.0
        anchor, label_x = ("start", x + _ASIDE_MM) if edge == "left" else ("end", x - _ASIDE_MM)
    elif part.places and x - outline.x < _NEAR_END_MM:
        anchor, label_x = "start", max(x - _OVER_MM, outline.x + 0.5)
    elif part.places and outline.x + outline.width - x < _NEAR_END_MM:
        anchor, label_x = "end", min(x + _OVER_MM, outline.x + outline.width - 0.5)
    return DrawnPad(
        name=part.pad(name),
        label=name,
        x=x,
        y=y,
        upper=upper,
        turn_x=turn_x,
        label_x=label_x,
        label_y=label_y,
        label_anchor=anchor,
    )
