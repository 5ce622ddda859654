"""The words for a packing question and its answer: boxes into a box around solids, as far apart as can be.

One scalar, lambda, is maximised. What it stands for is the question: what is left over, or how much one size
may grow (a negative answer is how much it must shrink). Every length is `constant + slope x lambda`.
"""

from dataclasses import dataclass, field, replace
from typing import NamedTuple

AXES = (0, 1, 2)
NOTHING = float("-inf")


class LinearLength(NamedTuple):
    """`at + slope x lambda`, mm."""

    at: float
    slope: float = 0.0


# Several bounds that all hold: a wall's with its clearance and the edge of a window, say.
Bounds = tuple[LinearLength, ...]


@dataclass(frozen=True)
class Pose:
    """One allowed orientation of a part: its box, and between which bounds the low corner may lie along each axis."""

    name: str
    size: tuple[LinearLength, LinearLength, LinearLength]
    low: tuple[Bounds, Bounds, Bounds]
    high: tuple[Bounds, Bounds, Bounds]


@dataclass(frozen=True)
class Item:
    """A part to place: its poses, largest part first in a question."""

    name: str
    poses: tuple[Pose, ...]


@dataclass(frozen=True)
class Block:
    """A solid that stays where it is."""

    name: str
    low: tuple[LinearLength, LinearLength, LinearLength]
    high: tuple[LinearLength, LinearLength, LinearLength]


class Circle(NamedTuple):
    """What a part keeps within, seen along x: the middle of the circle in y and z, and its radius, mm.

    `own_mm`: of a round part its own radius, whose middle keeps within; of a box, 0, its corners do.
    """

    middle_mm: float
    radius_mm: float
    own_mm: float = 0.0


# A place along a circle is looked for so far inside it: what needs the last hundredth is not found.
CUT_MM = 0.01
# Nodes after which a question is left unsettled, where nobody says otherwise; after fewer the second engine is asked.
NODE_LIMIT, FIRST_NODES = 300_000, 40_000
# Between things that never meet: a gap that everything keeps.
ANY_GAP = LinearLength(-1e5)


@dataclass(frozen=True)
class Packing:
    """Items, solids, the gaps between them, and where lambda may lie."""

    items: tuple[Item, ...]
    blocks: tuple[Block, ...]
    item_gap: tuple[tuple[LinearLength, ...], ...]  # between items i and j
    block_gap: tuple[tuple[LinearLength, ...], ...]  # between item i and block b
    circles: tuple[Circle, ...] = ()  # in a bore that of every item, at the lambda that is asked about
    least: float = 0.0  # answers below this are of no interest
    most: float = 50.0
    node_limit: int = NODE_LIMIT

    def at_most(self, nodes: int) -> "Packing":
        """The same, cut off after so many nodes at the latest."""
        return replace(self, node_limit=min(self.node_limit, nodes))

    def within(self, nodes: int) -> "Packing":
        """The same, cut off after so many nodes, or fewer in so far as its own limit is lower than the usual one."""
        return replace(self, node_limit=min(self.node_limit, nodes * self.node_limit // NODE_LIMIT))


@dataclass(frozen=True)
class Placed:
    """One item where it lies."""

    item: int
    pose: Pose
    low: tuple[float, float, float]
    size: tuple[float, float, float]

    @property
    def high(self) -> tuple[float, float, float]:
        return (self.low[0] + self.size[0], self.low[1] + self.size[1], self.low[2] + self.size[2])


@dataclass(frozen=True)
class Answer:
    """The largest lambda and a placement that has it; `placed` empty where even `least` is impossible (proven).

    `proven` False: the search was cut off at its node limit. `spread`: the same placement with every axis at its own
    largest lambda, so that what is short on one axis is not short on another.
    """

    value: float
    placed: tuple[Placed, ...] = ()
    proven: bool = True
    nodes: int = 0
    others: tuple[tuple[Placed, ...], ...] = field(default=())
    spread: tuple[Placed, ...] = ()
