"""The search: boxes into a box around solids, as far apart as can be, or proof that they do not go in.

One scalar, lambda, is maximised. What it stands for is the question: what is left over, or how much one size
may grow (a negative answer is how much it must shrink). Every length is `constant + slope x lambda`.

Best first. A node holds the orientations chosen so far and, for pairs that overlapped, which one of six relations
(left of, right of, before, behind, below, above) keeps them apart. Along each axis these are difference constraints,
so the largest lambda is that of the tightest chain from wall to wall: found without bisection by putting the tightest
chain's own lambda back in. Relations and parts only ever lower it, so the first complete node popped is the best.
Flat lists of numbers in the inner loop, since this is where the time goes.
"""

import heapq
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from functools import lru_cache
from itertools import count
from typing import NamedTuple

AXES = (0, 1, 2)
NOTHING = float("-inf")
_EPS = 1e-7


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


# Nodes after which a question is left unsettled, where nobody says otherwise.
NODE_LIMIT = 60_000
# Between things that never meet: a gap that everything keeps.
ANY_GAP = LinearLength(-1e5)


@dataclass(frozen=True)
class Packing:
    """Items, solids, the gaps between them, and where lambda may lie."""

    items: tuple[Item, ...]
    blocks: tuple[Block, ...]
    item_gap: tuple[tuple[LinearLength, ...], ...]  # between items i and j
    block_gap: tuple[tuple[LinearLength, ...], ...]  # between item i and block b
    least: float = 0.0  # answers below this are of no interest
    most: float = 50.0
    node_limit: int = NODE_LIMIT

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


# One axis ------------------------------------------------------------------------------------------------------


class _Axis(NamedTuple):
    """Difference constraints along one axis: sizes, bounds, and pairs (i, j, reach, its slope): j begins past i.

    A block that an item keeps to one side of is one more bound of that item. `relations`: how many of both there are.
    """

    size: tuple[LinearLength, ...]
    low: tuple[Bounds, ...]
    high: tuple[Bounds, ...]
    before: tuple[tuple[int, int, float, float], ...] = ()
    relations: int = 0

    def with_pair(self, first: int, second: int, gap: LinearLength) -> "_Axis":
        size = self.size[first]
        before = (*self.before, (first, second, size[0] + gap[0], size[1] + gap[1]))
        return _Axis(self.size, self.low, self.high, before, self.relations + 1)

    def past(self, item: int, bound: LinearLength) -> "_Axis":
        """The item begins past this."""
        low = (*self.low[:item], (*self.low[item], bound), *self.low[item + 1 :])
        return _Axis(self.size, low, self.high, self.before, self.relations + 1)

    def up_to(self, item: int, bound: LinearLength) -> "_Axis":
        """The item begins no further than this."""
        high = (*self.high[:item], (*self.high[item], bound), *self.high[item + 1 :])
        return _Axis(self.size, self.low, high, self.before, self.relations + 1)

    def with_item(self, pose: Pose, axis: int) -> "_Axis":
        return _Axis(
            (*self.size, pose.size[axis]),
            (*self.low, pose.low[axis]),
            (*self.high, pose.high[axis]),
            self.before,
            self.relations,
        )


class _Lowest(NamedTuple):
    """The lowest positions with one lambda, each also as the `constant + slope x lambda` of its chain from the wall."""

    at: list[float]
    constant: list[float]
    slope: list[float]


def _solve(axis: _Axis, ceiling: float) -> tuple[float, _Lowest]:
    """Largest lambda up to `ceiling` that this axis allows, and the lowest positions with it."""
    value = ceiling
    for _ in range(60):
        begins = [bounds[0] if len(bounds) == 1 else _furthest(bounds, value) for bounds in axis.low]
        constant, slope = [bound[0] for bound in begins], [bound[1] for bound in begins]
        lowest = _Lowest([c + s * value for c, s in zip(constant, slope, strict=True)], constant, slope)
        if not _pushed_up(axis, lowest, value):
            return NOTHING, lowest
        less = _eased(axis, lowest, value)
        if less is None or less == NOTHING:
            return value if less is None else NOTHING, lowest
        value = less
    return NOTHING, _Lowest([], [], [])


def _furthest(bounds: Bounds, value: float) -> LinearLength:
    """The bound that counts from below at this lambda."""
    best, furthest = bounds[0], NOTHING
    for bound in bounds:
        at = bound[0] + bound[1] * value
        if at > furthest:
            best, furthest = bound, at
    return best


def _with_last_pair(axis: _Axis, lowest: _Lowest, value: float) -> float:
    """The largest lambda of an axis that was settled at `lowest` before its last pair was added."""
    i, j, reach, reach_slope = axis.before[-1]
    if lowest.at[i] + reach + reach_slope * value <= lowest.at[j] + _EPS:
        return value
    return _pushed_from(axis, _Lowest(lowest.at[:], lowest.constant[:], lowest.slope[:]), value)


def _with_last_low(axis: _Axis, item: int, lowest: _Lowest, value: float) -> float:
    """The same, where its last bound from below was added."""
    constant, slope = axis.low[item][-1]
    begins = constant + slope * value
    if begins <= lowest.at[item] + _EPS:
        return value
    lowest = _Lowest(lowest.at[:], lowest.constant[:], lowest.slope[:])
    lowest.at[item], lowest.constant[item], lowest.slope[item] = begins, constant, slope
    return _pushed_from(axis, lowest, value)


def _with_last_high(axis: _Axis, item: int, lowest: _Lowest, value: float) -> float:
    """The same, where its last bound from above was added."""
    constant, slope = axis.high[item][-1]
    return value if lowest.at[item] <= constant + slope * value + _EPS else _solved_below(axis, lowest, value)


def _pushed_from(axis: _Axis, lowest: _Lowest, value: float) -> float:
    return _solved_below(axis, lowest, value) if _pushed_up(axis, lowest, value) else NOTHING


def _solved_below(axis: _Axis, lowest: _Lowest, value: float) -> float:
    less = _eased(axis, lowest, value)
    return value if less is None else less if less == NOTHING else _solve(axis, less)[0]


def _pushed_up(axis: _Axis, lowest: _Lowest, value: float) -> bool:
    """Move everything up until every pair is kept; False for a ring of "before", which is impossible."""
    at, constant, slope = lowest
    for _round in range(len(at) + 1):
        moved = False
        for i, j, reach, reach_slope in axis.before:
            begins = at[i] + reach + reach_slope * value
            if begins > at[j] + _EPS:
                at[j] = begins
                constant[j] = constant[i] + reach
                slope[j] = slope[i] + reach_slope
                moved = True
        if not moved:
            return True
    return False


def _eased(axis: _Axis, lowest: _Lowest, value: float) -> float | None:
    """The lambda at which the chain that reaches furthest past its wall just fits; None where none does."""
    worst, at_fault = _EPS, -1
    at, highs = lowest.at, axis.high
    for i in range(len(at)):
        # Each bound by itself: past the nearest of them it is furthest.
        for high in highs[i]:
            over = at[i] - high[0] - high[1] * value
            if over > worst:
                worst, at_fault, wall = over, i, high
    if at_fault < 0:
        return None
    steepness = lowest.slope[at_fault] - wall[1]
    if steepness <= 1e-12:
        return NOTHING  # too long whatever lambda is
    return min(value, (wall[0] - lowest.constant[at_fault]) / steepness) - 1e-10


# What stands in the way ------------------------------------------------------------------------------------------

_Edges = list[tuple[float, float, float, float, float, float]]


class _Blocks:
    """The blocks of a question: which of them each item keeps off, and where their faces are at a lambda."""

    def __init__(self, question: Packing) -> None:
        self.blocks = question.blocks
        self.of_item = [
            [(number, gap[0], gap[1]) for number, gap in enumerate(gaps) if gap[0] != ANY_GAP[0]]
            for gaps in question.block_gap
        ]
        self._stay = all(length[1] == 0 for block in self.blocks for length in (*block.low, *block.high))
        self._value, self._edges = NOTHING, [_edges(block, 0.0) for block in self.blocks]

    def edges_at(self, value: float) -> _Edges:
        if not self._stay and value != self._value:
            self._value, self._edges = value, [_edges(block, value) for block in self.blocks]
        return self._edges


def _edges(block: Block, value: float) -> tuple[float, float, float, float, float, float]:
    """Its faces: low and high along each axis."""
    (x0, y0, z0), (x1, y1, z1) = (
        [length[0] + length[1] * value for length in corner] for corner in (block.low, block.high)
    )
    return x0, x1, y0, y1, z0, z1


# The tree ------------------------------------------------------------------------------------------------------


class _Node(NamedTuple):
    """Priority first, so that heapq orders by it: larger lambda, then more resolved."""

    key: tuple[float, int, int]
    poses: tuple[int, ...]
    axes: tuple[_Axis, _Axis, _Axis]
    value: float


_Positions = tuple[_Lowest, _Lowest, _Lowest]
_Child = tuple[tuple[int, ...], tuple[_Axis, _Axis, _Axis], float]


def search(question: Packing, solutions: int = 1) -> Answer:
    """The best placement; with `solutions` above 1 also near-best others, within 0.05 of it."""
    order = count()
    mirrored, blocks = _mirrored(question), _Blocks(question)
    bare = _Axis((), (), ())
    heap = [_Node((-question.most, 0, next(order)), (), (bare, bare, bare), question.most)]
    found: list[tuple[float, tuple[Placed, ...]]] = []
    spread: tuple[Placed, ...] = ()
    nodes = 0
    while heap:
        node = heapq.heappop(heap)
        if found and node.value < found[0][0] - 0.05:
            break
        nodes += 1
        if nodes > question.node_limit:
            break
        # Only here, since most nodes are pushed and never looked at.
        at = _positions(node)
        meeting = _overlapping(question, blocks, node, at)
        if meeting is None and len(node.poses) == len(question.items):
            spread = spread or _placed(question, node, _spread(question, node))
            found.append((node.value, _placed(question, node, at)))
            if len(found) >= solutions:
                break
            continue
        if meeting is None:
            children = _next_item(question, node)
        elif meeting.block is None:
            children = _kept_apart(question, node, at, meeting, mirrored)
        else:
            children = _kept_off(question, node, at, meeting, mirrored)
        for poses, axes, value in children:
            if value >= question.least - _EPS:
                depth = len(poses) * 64 + sum(axis.relations for axis in axes)
                heapq.heappush(heap, _Node((-value, -depth, next(order)), poses, axes, value))
    if not found:
        return Answer(NOTHING, proven=nodes <= question.node_limit, nodes=nodes)
    return Answer(found[0][0], found[0][1], True, nodes, tuple(placed for _, placed in found[1:]), spread)


def _mirrored(question: Packing) -> tuple[bool, bool, bool]:
    """Along which axes the box looks the same from either end: there, of a first pair either order will do."""
    x, y, z = (_looks_the_same(question, axis) for axis in AXES)
    return x, y, z


def _looks_the_same(question: Packing, axis: int) -> bool:
    """Every part may come as near to one end as to the other, and every block stands in the middle."""
    poses = [pose for item in question.items for pose in item.poses]
    if any(len(pose.low[axis]) + len(pose.high[axis]) > 2 for pose in poses):
        return False
    ends = {
        (round(p.low[axis][0][0] + p.high[axis][0][0] + p.size[axis][0], 6),
         round(p.low[axis][0][1] + p.high[axis][0][1] + p.size[axis][1], 6))
        for p in poses
    }  # fmt: skip
    ends |= {
        (round(b.low[axis][0] + b.high[axis][0], 6), round(b.low[axis][1] + b.high[axis][1], 6))
        for b in question.blocks
    }
    return len(ends) == 1 and next(iter(ends))[1] == 0


def _positions(node: _Node) -> _Positions:
    """The lowest position of everything, with the lambda that all axes agree on."""
    x, y, z = (_solve(axis, node.value)[1] for axis in node.axes)
    return x, y, z


def _spread(question: Packing, node: _Node) -> _Positions:
    """The positions with each axis at its own largest lambda."""
    x, y, z = (_solve(axis, question.most)[1] for axis in node.axes)
    return x, y, z


def _next_item(question: Packing, node: _Node) -> list[_Child]:
    """The next part in each of its poses. Nothing holds it yet but the walls, and each other part taken by itself."""
    index = len(node.poses)
    item = question.items[index]
    children: list[_Child] = []
    for number, pose in enumerate(item.poses):
        value = min(node.value, _alone(pose))
        for other, taken in enumerate(node.poses):
            if value < question.least - _EPS:
                break
            gap = question.item_gap[index][other]
            value = min(value, _two_by_two(pose, question.items[other].poses[taken], gap))
        if value >= question.least - _EPS:
            x, y, z = (axis.with_item(pose, a) for a, axis in enumerate(node.axes))
            children.append(((*node.poses, number), (x, y, z), value))
    return children


@lru_cache(maxsize=4096)
def _alone(pose: Pose) -> float:
    """The largest lambda with which this pose goes between its walls."""
    return min(_largest(low, high) for low, high in zip(pose.low, pose.high, strict=True))


@lru_cache(maxsize=65_536)
def _two_by_two(one: Pose, other: Pose, gap: LinearLength) -> float:
    """The largest lambda with which two poses go in beside each other, along the best of the axes."""
    return max(
        _largest(tuple(_past(low, first.size[a], gap) for low in first.low[a]), second.high[a])
        for a in AXES
        for first, second in ((one, other), (other, one))
    )


def _past(low: LinearLength, size: LinearLength, gap: LinearLength) -> LinearLength:
    return LinearLength(low[0] + size[0] + gap[0], low[1] + size[1] + gap[1])


def _largest(begins: Bounds, ends: Bounds) -> float:
    """The largest lambda with which no beginning is further than any end."""
    return min(_largest_of_two(begin, end) for begin in begins for end in ends)


def _largest_of_two(begins: LinearLength, ends: LinearLength) -> float:
    steepness = begins[1] - ends[1]
    if steepness <= 1e-12:
        return float("inf") if begins[0] <= ends[0] + _EPS else NOTHING
    return (ends[0] - begins[0]) / steepness


class _Meeting(NamedTuple):
    """An item that overlaps another, or a block."""

    item: int
    other: int
    block: int | None = None


def _kept_apart(
    question: Packing, node: _Node, at: _Positions, pair: _Meeting, mirrored: tuple[bool, bool, bool]
) -> list[_Child]:
    """The six ways to keep an overlapping pair apart; each changes one axis."""
    gap = question.item_gap[pair.item][pair.other]
    children: list[_Child] = []
    for a in AXES:
        orders = ((pair.other, pair.item), (pair.item, pair.other))
        for low, high in orders[:1] if mirrored[a] and not node.axes[a].relations else orders:
            axis = node.axes[a].with_pair(low, high, gap)
            _add(question, node, a, axis, _with_last_pair(axis, at[a], node.value), children)
    return children


def _kept_off(
    question: Packing, node: _Node, at: _Positions, pair: _Meeting, mirrored: tuple[bool, bool, bool]
) -> list[_Child]:
    """The six ways to keep an item off a block."""
    assert pair.block is not None
    item, block = pair.item, question.blocks[pair.block]
    gap = question.block_gap[item][pair.block]
    children: list[_Child] = []
    for a in AXES:
        now = node.axes[a]
        past = LinearLength(block.high[a][0] + gap[0], block.high[a][1] + gap[1])
        axis = now.past(item, past)
        _add(question, node, a, axis, _with_last_low(axis, item, at[a], node.value), children)
        if mirrored[a] and not now.relations:
            continue
        size = now.size[item]
        up_to = LinearLength(block.low[a][0] - size[0] - gap[0], block.low[a][1] - size[1] - gap[1])
        axis = now.up_to(item, up_to)
        _add(question, node, a, axis, _with_last_high(axis, item, at[a], node.value), children)
    return children


def _add(question: Packing, node: _Node, a: int, axis: _Axis, value: float, children: list[_Child]) -> None:
    """A child that differs on one axis, unless it is of no interest."""
    if value >= question.least - _EPS:
        x, y, z = (axis if b == a else node.axes[b] for b in AXES)
        children.append((node.poses, (x, y, z), value))


def _overlapping(question: Packing, blocks: _Blocks, node: _Node, low: _Positions) -> _Meeting | None:
    """The two that overlap most, at the lowest positions; None where all are apart."""
    value = node.value
    worst, found = 1e-6, None
    edges = blocks.edges_at(value)
    x, y, z = ([s[0] + s[1] * value for s in axis.size] for axis in node.axes)
    boxes = [
        (x0, x0 + dx, y0, y0 + dy, z0, z0 + dz)
        for x0, dx, y0, dy, z0, dz in zip(low[0].at, x, low[1].at, y, low[2].at, z, strict=True)
    ]
    for item, (x0, x1, y0, y1, z0, z1) in enumerate(boxes):
        for block, gap_at, gap_slope in blocks.of_item[item]:
            bx0, bx1, by0, by1, bz0, bz1 = edges[block]
            # More than the worst so far along every axis, or it is of no interest.
            more = worst - gap_at - gap_slope * value
            if bx1 - x0 > more < x1 - bx0 and by1 - y0 > more < y1 - by0 and bz1 - z0 > more < z1 - bz0:
                worst += min(bx1 - x0, x1 - bx0, by1 - y0, y1 - by0, bz1 - z0, z1 - bz0) - more
                found = _Meeting(item, block, block)
        for other in range(item):
            gap_at, gap_slope = question.item_gap[item][other]
            bx0, bx1, by0, by1, bz0, bz1 = boxes[other]
            more = worst - gap_at - gap_slope * value
            if bx1 - x0 > more < x1 - bx0 and by1 - y0 > more < y1 - by0 and bz1 - z0 > more < z1 - bz0:
                worst += min(bx1 - x0, x1 - bx0, by1 - y0, y1 - by0, bz1 - z0, z1 - bz0) - more
                found = _Meeting(item, other)
    return found


def _placed(question: Packing, node: _Node, at: _Positions) -> tuple[Placed, ...]:
    placed = []
    for item, number in enumerate(node.poses):
        low = (at[0].at[item], at[1].at[item], at[2].at[item])
        pose = question.items[item].poses[number]
        size = (_now(pose.size[0], node.value), _now(pose.size[1], node.value), _now(pose.size[2], node.value))
        placed.append(Placed(item, pose, low, size))
    return tuple(placed)


def _now(length: LinearLength, value: float) -> float:
    return length.at + length.slope * value


def conflict(question: Packing) -> list[str]:
    """A smallest set of items and blocks that already do not go together: each is taken out on trial.

    Blocks of one name are taken out together: they are one thing, or what is left round several rooms.
    """
    items, blocks = list(range(len(question.items))), list(range(len(question.blocks)))
    for name in dict.fromkeys(block.name for block in question.blocks):
        rest = [b for b in blocks if question.blocks[b].name != name]
        if not search(part_of(question, items, rest)).placed:
            blocks = rest
    for index in list(items):
        rest = [i for i in items if i != index]
        if rest and not search(part_of(question, rest, blocks)).placed:
            items = rest
    return [question.items[i].name for i in items] + list(dict.fromkeys(question.blocks[b].name for b in blocks))


def part_of(question: Packing, items: Sequence[int], blocks: Sequence[int]) -> Packing:
    """The same question with only these items and blocks."""
    return Packing(
        items=tuple(question.items[i] for i in items),
        blocks=tuple(question.blocks[b] for b in blocks),
        item_gap=tuple(tuple(question.item_gap[i][j] for j in items) for i in items),
        block_gap=tuple(tuple(question.block_gap[i][b] for b in blocks) for i in items),
        least=question.least,
        most=question.most,
        node_limit=question.node_limit,
    )
