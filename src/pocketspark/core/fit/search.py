"""The search: boxes into a box around solids, as far apart as can be, or proof that they do not go in.

One scalar, lambda, is maximised. What it stands for is the question: play beyond the clearances, or how much one size
may grow (a negative answer is how much it must shrink). Every length is `constant + slope x lambda`.

Best first. A node holds the orientations chosen so far and, for pairs that overlapped, which one of six relations
(left of, right of, before, behind, below, above) keeps them apart. Along each axis these are difference constraints,
so the largest lambda is that of the tightest chain from wall to wall: found without bisection by putting the tightest
chain's own lambda back in. Relations and parts only ever lower it, so the first complete node popped is the best.
Flat lists of numbers in the inner loop, since this is where the time goes.
"""

import heapq
from collections.abc import Sequence
from dataclasses import dataclass, field
from itertools import count
from typing import NamedTuple

AXES = (0, 1, 2)
NOTHING = float("-inf")
_EPS = 1e-7


class Length(NamedTuple):
    """`at + slope x lambda`, mm."""

    at: float
    slope: float = 0.0


@dataclass(frozen=True)
class Pose:
    """One allowed orientation of a part: its box, and where the low corner may lie along each axis."""

    name: str
    size: tuple[Length, Length, Length]
    low: tuple[Length, Length, Length]
    high: tuple[Length, Length, Length]


@dataclass(frozen=True)
class Item:
    """A part to place: its poses, largest part first in a question."""

    name: str
    poses: tuple[Pose, ...]


@dataclass(frozen=True)
class Block:
    """A solid that stays where it is."""

    name: str
    low: tuple[Length, Length, Length]
    high: tuple[Length, Length, Length]


@dataclass(frozen=True)
class Question:
    """Items, solids, the gaps between them, and where lambda may lie."""

    items: tuple[Item, ...]
    blocks: tuple[Block, ...]
    item_gap: tuple[tuple[Length, ...], ...]  # between items i and j
    block_gap: tuple[tuple[Length, ...], ...]  # between item i and block b
    least: float = 0.0  # answers below this are of no interest
    most: float = 50.0
    node_limit: int = 60_000


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

    `proven` False: the search was cut off at its node limit.
    """

    value: float
    placed: tuple[Placed, ...] = ()
    proven: bool = True
    nodes: int = 0
    others: tuple[tuple[Placed, ...], ...] = field(default=())


# One axis ------------------------------------------------------------------------------------------------------


class _Axis(NamedTuple):
    """Difference constraints along one axis: sizes, bounds, and `before` pairs (i, j, gap)."""

    size: tuple[Length, ...]
    low: tuple[Length, ...]
    high: tuple[Length, ...]
    before: tuple[tuple[int, int, float, float], ...]

    def with_pair(self, first: int, second: int, gap: Length) -> "_Axis":
        return self._replace(before=(*self.before, (first, second, gap[0], gap[1])))

    def with_item(self, pose: Pose, axis: int) -> "_Axis":
        return _Axis(
            (*self.size, pose.size[axis]), (*self.low, pose.low[axis]), (*self.high, pose.high[axis]), self.before
        )


def _solve(axis: _Axis, ceiling: float) -> tuple[float, list[float]]:
    """Largest lambda up to `ceiling` that this axis allows, and the lowest positions with it."""
    size, high, before = axis.size, axis.high, axis.before
    n = len(size)
    value = ceiling
    for _ in range(60):
        constant = [bound[0] for bound in axis.low]
        slope = [bound[1] for bound in axis.low]
        at = [c + s * value for c, s in zip(constant, slope, strict=True)]
        for _round in range(n + 1):
            moved = False
            for i, j, gap, gap_slope in before:
                reach = at[i] + size[i][0] + gap + (size[i][1] + gap_slope) * value
                if reach > at[j] + _EPS:
                    at[j] = reach
                    constant[j] = constant[i] + size[i][0] + gap
                    slope[j] = slope[i] + size[i][1] + gap_slope
                    moved = True
            if not moved:
                break
        else:
            return NOTHING, at  # a ring of "before": impossible
        worst, at_fault = _EPS, -1
        for i in range(n):
            over = at[i] - high[i][0] - high[i][1] * value
            if over > worst:
                worst, at_fault = over, i
        if at_fault < 0:
            return value, at
        steepness = slope[at_fault] - high[at_fault][1]
        if steepness <= 1e-12:
            return NOTHING, at  # too long whatever lambda is
        value = min(value, (high[at_fault][0] - constant[at_fault]) / steepness) - 1e-10
    return NOTHING, []


# The tree ------------------------------------------------------------------------------------------------------


class _Node(NamedTuple):
    """Priority first, so that heapq orders by it: larger lambda, then more resolved."""

    key: tuple[float, int, int]
    poses: tuple[int, ...]
    axes: tuple[_Axis, _Axis, _Axis]
    at: tuple[list[float], list[float], list[float]]
    value: float


def search(question: Question, solutions: int = 1) -> Answer:
    """The best placement; with `solutions` above 1 also near-best others, within 0.05 of it."""
    order = count()
    root_axes = tuple(
        _Axis(
            tuple(Length(b.high[a][0] - b.low[a][0], b.high[a][1] - b.low[a][1]) for b in question.blocks),
            tuple(b.low[a] for b in question.blocks),
            tuple(b.low[a] for b in question.blocks),
            (),
        )
        for a in AXES
    )
    at = tuple([bound[0] + bound[1] * question.most for bound in axis.low] for axis in root_axes)
    heap = [_Node((-question.most, 0, next(order)), (), root_axes, at, question.most)]  # type: ignore[arg-type]
    found: list[tuple[float, tuple[Placed, ...]]] = []
    nodes = 0
    while heap:
        node = heapq.heappop(heap)
        if found and node.value < found[0][0] - 0.05:
            break
        nodes += 1
        if nodes > question.node_limit:
            break
        pair = _overlapping(question, node)
        if pair is None and len(node.poses) == len(question.items):
            found.append((node.value, _placed(question, node)))
            if len(found) >= solutions:
                break
            continue
        children = _next_item(question, node) if pair is None else _kept_apart(question, node, *pair)
        for poses, axes, positions, value in children:
            if value >= question.least - _EPS:
                depth = len(poses) * 64 + sum(len(axis.before) for axis in axes)
                heapq.heappush(heap, _Node((-value, -depth, next(order)), poses, axes, positions, value))
    if not found:
        return Answer(NOTHING, proven=nodes <= question.node_limit, nodes=nodes)
    return Answer(found[0][0], found[0][1], True, nodes, tuple(placed for _, placed in found[1:]))


_Child = tuple[tuple[int, ...], tuple[_Axis, _Axis, _Axis], tuple[list[float], list[float], list[float]], float]


def _next_item(question: Question, node: _Node) -> list[_Child]:
    """The next part in each of its poses, alone in the box."""
    index = len(node.poses)
    children: list[_Child] = []
    for number, pose in enumerate(question.items[index].poses):
        axes = tuple(axis.with_item(pose, a) for a, axis in enumerate(node.axes))
        value, positions = node.value, []
        for axis in axes:
            value, at = _solve(axis, value)
            if value < question.least - _EPS:
                break
            positions.append(at)
        else:
            children.append(_child((*node.poses, number), axes, value))
    return children


def _child(poses: tuple[int, ...], axes: tuple[_Axis, ...], value: float) -> _Child:
    """All axes solved once more with the lambda that they agree on."""
    positions = tuple(_solve(axis, value)[1] for axis in axes)
    return poses, axes, positions, value  # type: ignore[return-value]


def _kept_apart(question: Question, node: _Node, first: int, second: int) -> list[_Child]:
    """The six ways to keep an overlapping pair apart; each changes one axis."""
    gap = _gap(question, first, second)
    children: list[_Child] = []
    for a in AXES:
        for low, high in ((first, second), (second, first)):
            axis = node.axes[a].with_pair(low, high, gap)
            value, at = _solve(axis, node.value)
            if value < question.least - _EPS:
                continue
            axes = tuple(axis if b == a else node.axes[b] for b in AXES)
            if value > node.value - _EPS:
                positions = tuple(at if b == a else node.at[b] for b in AXES)
                children.append((node.poses, axes, positions, value))  # type: ignore[arg-type]
            else:
                children.append(_child(node.poses, axes, value))
    return children


def _gap(question: Question, first: int, second: int) -> Length:
    """Indices count blocks first, then items."""
    blocks = len(question.blocks)
    if first < blocks:
        return question.block_gap[second - blocks][first]
    return question.item_gap[first - blocks][second - blocks]


def _overlapping(question: Question, node: _Node) -> tuple[int, int] | None:
    """The pair that overlaps most, at the lowest positions; None where all are apart."""
    blocks, total = len(question.blocks), len(question.blocks) + len(node.poses)
    value = node.value
    worst, pair = 1e-6, None
    low = node.at
    size = [[s[0] + s[1] * value for s in axis.size] for axis in node.axes]
    for second in range(blocks, total):
        for first in range(second):
            gap_at, gap_slope = _gap(question, first, second)
            gap = gap_at + gap_slope * value
            depth = 1e9
            for a in AXES:
                lo1, lo2 = low[a][first], low[a][second]
                into = min(lo1 + size[a][first] - lo2, lo2 + size[a][second] - lo1) + gap
                if into < depth:
                    depth = into
                    if depth <= worst:
                        break
            if depth > worst:
                worst, pair = depth, (first, second)
    return pair


def _placed(question: Question, node: _Node) -> tuple[Placed, ...]:
    blocks = len(question.blocks)
    placed = []
    for item, number in enumerate(node.poses):
        index = blocks + item
        low = (node.at[0][index], node.at[1][index], node.at[2][index])
        pose = question.items[item].poses[number]
        size = (_now(pose.size[0], node.value), _now(pose.size[1], node.value), _now(pose.size[2], node.value))
        placed.append(Placed(item, pose, low, size))
    return tuple(placed)


def _now(length: Length, value: float) -> float:
    return length.at + length.slope * value


def conflict(question: Question) -> list[str]:
    """A smallest set of items and blocks that already do not go together: each is taken out on trial."""
    items, blocks = list(range(len(question.items))), list(range(len(question.blocks)))
    for index in list(blocks):
        rest = [b for b in blocks if b != index]
        if not search(part_of(question, items, rest)).placed:
            blocks = rest
    for index in list(items):
        rest = [i for i in items if i != index]
        if rest and not search(part_of(question, rest, blocks)).placed:
            items = rest
    return [question.items[i].name for i in items] + [question.blocks[b].name for b in blocks]


def part_of(question: Question, items: Sequence[int], blocks: Sequence[int]) -> Question:
    """The same question with only these items and blocks."""
    return Question(
        items=tuple(question.items[i] for i in items),
        blocks=tuple(question.blocks[b] for b in blocks),
        item_gap=tuple(tuple(question.item_gap[i][j] for j in items) for i in items),
        block_gap=tuple(tuple(question.block_gap[i][b] for b in blocks) for i in items),
        least=question.least,
        most=question.most,
        node_limit=question.node_limit,
    )
