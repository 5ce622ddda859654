"""The inner loop of the search, compiled: a question as arrays of numbers in, the best placements out.

Best first. A node is one decision more than its parent: the next part in one of its poses, or one of six relations
(left of, right of, before, behind, below, above) that keeps two things apart which overlapped. Along each axis these
are difference constraints, so the largest lambda is that of the tightest chain from wall to wall: found without
bisection by putting the tightest chain's own lambda back in. Relations and parts only ever lower it, so the first
complete node taken is the best.

Every length is two numbers, `constant + slope x lambda`. Few arrays with named columns, since each that is passed on
costs time to compile. All that is compiled stands in this file: what is kept is made anew when it changes.
"""

import heapq
import math
from collections.abc import Callable
from typing import NamedTuple, TypeVar, cast

import numpy as np
from numba import njit
from numpy.typing import NDArray

from pocketspark.core.fit.packing import ANY_GAP, CUT_MM

Floats = NDArray[np.float64]
Counts = NDArray[np.int64]

AXES = 3
NOTHING = -np.inf
NEVER = np.inf
EPS = 1e-7
# Of near-best placements, how much less than the best is still of interest.
NEAR = 0.05
# Columns of a part along one axis: its size, how many bounds its low corner has, between which cuts it is, and the
# first bound from either side. The second bounds are `BOUND` columns further, and so on.
SIZE, LOWS, HIGHS, CUT_LOW, CUT_HIGH, LOW, HIGH, BOUND = 0, 2, 3, 4, 5, 6, 8, 4
UNCUT = (-1e9, 1e9)
# Of a block along one axis.
BLOCK_LOW, BLOCK_HIGH = 0, 2
# Of a pair: the second begins past the first by its reach (size and gap).
BEFORE, AFTER, REACH = 0, 1, 2
# Of a position: where, and the constant and slope of its chain from the wall.
AT, CONSTANT, SLOPE = 0, 1, 2
# How many pairs an axis has, and how many relations: pairs and blocks.
PAIRS, RELATIONS = 0, 1
# Of a node, and what it may decide. A part more counts for more than any number of relations.
PARENT, DEPTH, KIND, AXIS, FIRST, SECOND = range(6)
ROOT, ITEM, PAIR, PAST, UP_TO, CUT = range(6)
WORTH, CUT_AT = 0, 1
# A circle: its middle, its radius, and a round item's own.
MIDDLE, RADIUS, OWN = 0, 1, 2
# What an item can meet.
NOTHING_MET, ANOTHER, A_BLOCK, ITS_CIRCLE = range(4)
PER_ITEM = 1 << 20

_NEVER_MEETS = ANY_GAP.at

Function = TypeVar("Function", bound=Callable[..., object])


def _compiled(function: Function) -> Function:
    return cast(Function, njit(nogil=True, error_model="numpy")(function))


def _compiled_and_kept(function: Function) -> Function:
    """Kept beside this file, since it takes some fifteen seconds; made anew when this file changes.

    In the user's own cache where nothing may be written here, and not at all where there is none.
    """
    try:
        return cast(Function, njit(nogil=True, error_model="numpy", cache=True)(function))
    except RuntimeError:  # numba found no folder to keep it in
        return _compiled(function)


class Asked(NamedTuple):
    """What is asked. Poses of all items in one row: item `i` has those from `first_pose[i]` to `first_pose[i + 1]`."""

    first_pose: Counts  # (items + 1,)
    pose: Floats  # (poses, 3, columns of a part)
    item_gap: Floats  # (items, items, 2)
    block: Floats  # (blocks, 3, columns of a block)
    block_gap: Floats  # (items, blocks, 2)
    circle: Floats  # (items, 3), or none
    mirrored: tuple[bool, bool, bool]  # along these axes, of a first pair either order will do
    least: float
    most: float
    node_limit: int


class Found(NamedTuple):
    """Placements, best first: so many of them; the nodes it took; and the first with each axis at its own best."""

    placements: int
    nodes: int
    value: Floats  # (solutions,)
    pose: Counts  # (solutions, items), numbers within the item
    low: Floats  # (solutions, 3, items)
    spread: Floats  # (3, items)


class _Decided(NamedTuple):
    """What the decisions on the way to one node add up to. A block passed is one more bound of its item."""

    items: int
    item: Floats  # (3, items, columns of a part)
    pair: Floats  # (3, pairs, columns of a pair)
    counts: Counts  # (3, 2)


@_compiled_and_kept
def best(question: Asked, solutions: int) -> Found:  # noqa: PLR0912, one loop, and the only one
    """The best placement; with `solutions` above 1 also near-best others."""
    items = len(question.first_pose) - 1
    rows, pairs, count = _nothing_held(question, items)
    at, trial = np.empty((AXES, items, 3)), np.empty((AXES, items, 3))
    taken = np.empty(items, np.int64)
    found, nodes = 0, 0
    value, pose = np.empty(solutions), np.empty((solutions, items), np.int64)
    low, spread = np.empty((solutions, AXES, items)), np.empty((AXES, items))
    steps, worth = np.zeros((1024, 6), np.int64), np.zeros((1024, 2))
    worth[0, WORTH], used = question.most, 1
    heap = [(-question.most, 0, 0)]
    while len(heap) > 0:
        node = heapq.heappop(heap)[2]
        if found > 0 and worth[node, WORTH] < value[0] - NEAR:
            break
        nodes += 1
        if nodes > question.node_limit:
            break
        # Only here, since most nodes are pushed and never looked at.
        held = _Decided(_gather(question, steps, worth, node, rows, pairs, count, taken), rows, pairs, count)
        for axis in range(AXES):
            _solve(held, axis, worth[node, WORTH], at)
        item, other, met = _overlapping(question, held, worth[node, WORTH], at)
        if met == NOTHING_MET and held.items == items:
            value[found] = worth[node, WORTH]
            for i in range(items):
                pose[found, i] = taken[i]
                for axis in range(AXES):
                    low[found, axis, i] = at[axis, i, AT]
            found += 1
            if found == 1:
                _spread(question, held, trial, spread)
            if found >= solutions:
                break
            continue
        if used + _most_children(question) > len(worth):
            steps, worth = _twice_as_long(steps, worth)
        if met == NOTHING_MET:
            new = _next_item(question, held, taken, node, steps, worth, used)
        elif met == ITS_CIRCLE:
            new = _kept_in_circle(question, held, item, at, trial, node, steps, worth, used)
        else:
            new = _kept_apart(question, held, item, other, met == A_BLOCK, at, trial, node, steps, worth, used)
        for child in range(used, new):
            heapq.heappush(heap, (-worth[child, WORTH], -steps[child, DEPTH], child))
        used = new
    return Found(found, nodes, value, pose, low, spread)


@_compiled
def _nothing_held(question: Asked, items: int) -> tuple[Floats, Floats, Counts]:
    columns = question.pose.shape[2] + BOUND * question.block.shape[0]
    return np.zeros((AXES, items, columns)), np.empty((AXES, items * items, 4)), np.zeros((AXES, 2), np.int64)


@_compiled
def _most_children(question: Asked) -> int:
    most = 2 * AXES
    for item in range(len(question.first_pose) - 1):
        most = max(most, question.first_pose[item + 1] - question.first_pose[item])
    return most


@_compiled
def _twice_as_long(steps: Counts, worth: Floats) -> tuple[Counts, Floats]:
    return np.concatenate((steps, np.zeros_like(steps))), np.concatenate((worth, np.zeros_like(worth)))


@_compiled
def _spread(question: Asked, held: _Decided, trial: Floats, spread: Floats) -> None:
    """Every axis with its own largest lambda."""
    for axis in range(AXES):
        _solve(held, axis, question.most, trial)
        for item in range(held.items):
            spread[axis, item] = trial[axis, item, AT]


# One node --------------------------------------------------------------------------------------------------------


@_compiled
def _gather(
    question: Asked,
    steps: Counts,
    worth: Floats,
    node: int,
    rows: Floats,
    pairs: Floats,
    count: Counts,
    taken: Counts,
) -> int:
    """All that has been decided on the way to this node, from the root down; returns how many parts are in."""
    for axis in range(AXES):
        count[axis, PAIRS] = count[axis, RELATIONS] = 0
    depth = steps[node, DEPTH]
    way = np.empty(depth // PER_ITEM + depth % PER_ITEM, np.int64)
    for number in range(len(way) - 1, -1, -1):
        way[number] = node
        node = steps[node, PARENT]
    items = 0
    for number in range(len(way)):
        step = way[number]
        kind, axis, first, second = steps[step, KIND], steps[step, AXIS], steps[step, FIRST], steps[step, SECOND]
        if kind == ITEM:
            taken[items] = first
            _put_in(question, rows, items, question.first_pose[items] + first)
            items += 1
        elif kind == PAIR:
            _keep_pair(question, rows, pairs, count, axis, first, second)
        elif kind in (PAST, UP_TO):
            _keep_to_one_side(question, rows, count, axis, first, second, kind)
        else:
            rows[axis, first, second] = worth[step, CUT_AT]
            count[axis, RELATIONS] += 1
    return items


@_compiled
def _put_in(question: Asked, rows: Floats, item: int, pose: int) -> None:
    for axis in range(AXES):
        for column in range(question.pose.shape[2]):
            rows[axis, item, column] = question.pose[pose, axis, column]


@_compiled
def _keep_pair(question: Asked, rows: Floats, pairs: Floats, count: Counts, axis: int, first: int, second: int) -> None:
    """The second begins past the first and the gap between them."""
    last = count[axis, PAIRS]
    pairs[axis, last, BEFORE], pairs[axis, last, AFTER] = first, second
    for k in range(2):
        pairs[axis, last, REACH + k] = rows[axis, first, SIZE + k] + question.item_gap[first, second, k]
    count[axis, PAIRS] += 1
    count[axis, RELATIONS] += 1


@_compiled
def _keep_to_one_side(
    question: Asked, rows: Floats, count: Counts, axis: int, item: int, block: int, kind: int
) -> None:
    """The item begins past the block, or ends before it."""
    side = LOW if kind == PAST else HIGH
    counted = LOWS if kind == PAST else HIGHS
    column = side + BOUND * int(rows[axis, item, counted])
    for k in range(2):
        gap = question.block_gap[item, block, k]
        if kind == PAST:
            rows[axis, item, column + k] = question.block[block, axis, BLOCK_HIGH + k] + gap
        else:
            rows[axis, item, column + k] = question.block[block, axis, BLOCK_LOW + k] - rows[axis, item, SIZE + k] - gap
    rows[axis, item, counted] += 1
    count[axis, RELATIONS] += 1


# One axis --------------------------------------------------------------------------------------------------------


@_compiled
def _solve(held: _Decided, axis: int, ceiling: float, at: Floats) -> float:
    """Largest lambda up to `ceiling` that this axis allows; into `at` the lowest positions with it."""
    value = ceiling
    for _ in range(60):
        for item in range(held.items):
            _to_its_bound(held, axis, item, value, at)
        if not _pushed_up(held, axis, value, at):
            return NOTHING
        less = _eased(held, axis, value, at)
        if less == NEVER:
            return value
        if less == NOTHING:
            return NOTHING
        value = less
    return NOTHING


@_compiled
def _to_its_bound(held: _Decided, axis: int, item: int, value: float, at: Floats) -> None:
    """An item to the bound that counts from below at this lambda."""
    at[axis, item, AT] = NOTHING
    for number in range(int(held.item[axis, item, LOWS])):
        constant, slope = held.item[axis, item, LOW + BOUND * number], held.item[axis, item, LOW + BOUND * number + 1]
        if constant + slope * value > at[axis, item, AT]:
            at[axis, item, AT] = constant + slope * value
            at[axis, item, CONSTANT], at[axis, item, SLOPE] = constant, slope
    if held.item[axis, item, CUT_LOW] > at[axis, item, AT]:
        at[axis, item, AT] = at[axis, item, CONSTANT] = held.item[axis, item, CUT_LOW]
        at[axis, item, SLOPE] = 0.0


@_compiled
def _pushed_up(held: _Decided, axis: int, value: float, at: Floats) -> bool:
    """Move everything up until every pair is kept; False for a ring of "before", which is impossible."""
    for _ in range(held.items + 1):
        moved = False
        for number in range(held.counts[axis, PAIRS]):
            before, after = int(held.pair[axis, number, BEFORE]), int(held.pair[axis, number, AFTER])
            reach, reach_slope = held.pair[axis, number, REACH], held.pair[axis, number, REACH + 1]
            begins = at[axis, before, AT] + reach + reach_slope * value
            if begins > at[axis, after, AT] + EPS:
                at[axis, after, AT] = begins
                at[axis, after, CONSTANT] = at[axis, before, CONSTANT] + reach
                at[axis, after, SLOPE] = at[axis, before, SLOPE] + reach_slope
                moved = True
        if not moved:
            return True
    return False


@_compiled
def _eased(held: _Decided, axis: int, value: float, at: Floats) -> float:
    """The lambda at which the chain that reaches furthest past its wall just fits; NEVER where none does."""
    worst, at_fault, wall, wall_slope = EPS, -1, 0.0, 0.0
    for item in range(held.items):
        # Each bound by itself: past the nearest of them it is furthest.
        for number in range(int(held.item[axis, item, HIGHS])):
            high, slope = held.item[axis, item, HIGH + BOUND * number], held.item[axis, item, HIGH + BOUND * number + 1]
            over = at[axis, item, AT] - high - slope * value
            if over > worst:
                worst, at_fault, wall, wall_slope = over, item, high, slope
        over = at[axis, item, AT] - held.item[axis, item, CUT_HIGH]
        if over > worst:
            worst, at_fault, wall, wall_slope = over, item, held.item[axis, item, CUT_HIGH], 0.0
    if at_fault < 0:
        return NEVER
    steepness = float(at[axis, at_fault, SLOPE]) - wall_slope
    if steepness <= 1e-12:
        return NOTHING  # too long whatever lambda is
    return min(value, float(wall - at[axis, at_fault, CONSTANT]) / steepness) - 1e-10


@_compiled
def _solved_below(held: _Decided, axis: int, value: float, at: Floats, trial: Floats) -> float:
    """The largest lambda, from positions that keep every pair at this one."""
    less = _eased(held, axis, value, at)
    if less == NEVER:
        return value
    if less == NOTHING:
        return NOTHING
    return _solve(held, axis, less, trial)


@_compiled
def _with_last_pair(held: _Decided, axis: int, value: float, at: Floats, trial: Floats) -> float:
    """The largest lambda of an axis that was settled at `at` before its last pair was added."""
    last = held.counts[axis, PAIRS] - 1
    before, after = int(held.pair[axis, last, BEFORE]), int(held.pair[axis, last, AFTER])
    begins = at[axis, before, AT] + held.pair[axis, last, REACH] + held.pair[axis, last, REACH + 1] * value
    if begins <= at[axis, after, AT] + EPS:
        return value
    for item in range(held.items):
        for column in range(3):
            trial[axis, item, column] = at[axis, item, column]
    return _pushed_from(held, axis, value, trial)


@_compiled
def _with_last_low(held: _Decided, axis: int, item: int, value: float, at: Floats, trial: Floats) -> float:
    """The same, where its last bound from below was added."""
    column = LOW + BOUND * (int(held.item[axis, item, LOWS]) - 1)
    constant, slope = held.item[axis, item, column], held.item[axis, item, column + 1]
    return _begun_at(held, axis, item, constant, slope, value, at, trial)


@_compiled
def _begun_at(
    held: _Decided, axis: int, item: int, constant: float, slope: float, value: float, at: Floats, trial: Floats
) -> float:
    """The same, where an item begins no earlier than this."""
    begins = constant + slope * value
    if begins <= at[axis, item, AT] + EPS:
        return value
    for other in range(held.items):
        for k in range(3):
            trial[axis, other, k] = at[axis, other, k]
    trial[axis, item, AT], trial[axis, item, CONSTANT], trial[axis, item, SLOPE] = begins, constant, slope
    return _pushed_from(held, axis, value, trial)


@_compiled
def _with_last_high(held: _Decided, axis: int, item: int, value: float, at: Floats, trial: Floats) -> float:
    """The same, where its last bound from above was added."""
    column = HIGH + BOUND * (int(held.item[axis, item, HIGHS]) - 1)
    ends = held.item[axis, item, column] + held.item[axis, item, column + 1] * value
    return value if at[axis, item, AT] <= ends + EPS else _solved_below(held, axis, value, at, trial)


@_compiled
def _pushed_from(held: _Decided, axis: int, value: float, trial: Floats) -> float:
    return _solved_below(held, axis, value, trial, trial) if _pushed_up(held, axis, value, trial) else NOTHING


# What comes after a node -----------------------------------------------------------------------------------------


@_compiled
def _child(
    question: Asked,
    node: int,
    kind: int,
    axis: int,
    first: int,
    second: int,
    value: float,
    steps: Counts,
    worth: Floats,
    used: int,
) -> int:
    """One node more, unless it is of no interest; returns how many there are then."""
    if value < question.least - EPS:
        return used
    steps[used, PARENT], steps[used, DEPTH] = node, steps[node, DEPTH] + (PER_ITEM if kind == ITEM else 1)
    steps[used, KIND], steps[used, AXIS], steps[used, FIRST], steps[used, SECOND] = kind, axis, first, second
    worth[used, WORTH], worth[used, CUT_AT] = value, 0.0
    return used + 1


@_compiled
def _next_item(
    question: Asked, held: _Decided, taken: Counts, node: int, steps: Counts, worth: Floats, used: int
) -> int:
    """The next part in each of its poses. Nothing holds it yet but the walls, and each other part taken by itself."""
    item = held.items
    for pose in range(question.first_pose[item + 1] - question.first_pose[item]):
        number = question.first_pose[item] + pose
        value = min(worth[node, WORTH], _alone(question, number))
        for other in range(item):
            if value < question.least - EPS:
                break
            its_pose = question.first_pose[other] + taken[other]
            value = min(value, _two_by_two(question, number, its_pose, item, other))
        used = _child(question, node, ITEM, 0, pose, 0, value, steps, worth, used)
    return used


@_compiled
def _alone(question: Asked, pose: int) -> float:
    """The largest lambda with which this pose goes between its walls."""
    value = NEVER
    for axis in range(AXES):
        value = min(value, _between_walls(question, pose, pose, axis, 0.0, 0.0))
    return value


@_compiled
def _two_by_two(question: Asked, one: int, other: int, item: int, of_other: int) -> float:
    """The largest lambda with which two poses go in beside each other, along the best of the axes."""
    value = NOTHING
    for axis in range(AXES):
        for first, second in ((one, other), (other, one)):
            reach = question.pose[first, axis, SIZE] + question.item_gap[item, of_other, 0]
            slope = question.pose[first, axis, SIZE + 1] + question.item_gap[item, of_other, 1]
            value = max(value, _between_walls(question, first, second, axis, reach, slope))
    return value


@_compiled
def _between_walls(question: Asked, first: int, second: int, axis: int, reach: float, reach_slope: float) -> float:
    """The largest lambda with which no beginning of the first and what it reaches is past any end of the second."""
    value = NEVER
    for low in range(int(question.pose[first, axis, LOWS])):
        begins = question.pose[first, axis, LOW + BOUND * low] + reach
        slope = question.pose[first, axis, LOW + BOUND * low + 1] + reach_slope
        for high in range(int(question.pose[second, axis, HIGHS])):
            ends = question.pose[second, axis, HIGH + BOUND * high]
            steepness = slope - question.pose[second, axis, HIGH + BOUND * high + 1]
            if steepness > 1e-12:
                value = min(value, (ends - begins) / steepness)
            elif begins > ends + EPS:
                return NOTHING
    return value


@_compiled
def _kept_apart(
    question: Asked,
    held: _Decided,
    item: int,
    other: int,
    is_block: bool,
    at: Floats,
    trial: Floats,
    node: int,
    steps: Counts,
    worth: Floats,
    used: int,
) -> int:
    """The six ways to keep an item off another, or off a block; each changes one axis."""
    for axis in range(AXES):
        # Of a first pair in a box that looks the same from either end one order will do.
        ways = 1 if question.mirrored[axis] and held.counts[axis, RELATIONS] == 0 else 2
        for way in range(ways):
            if is_block:
                kind, first, second = PAST if way == 0 else UP_TO, item, other
                value = _one_side(question, held, axis, item, other, kind, worth[node, WORTH], at, trial)
            else:
                kind, first, second = PAIR, other if way == 0 else item, item if way == 0 else other
                value = _one_order(question, held, axis, first, second, worth[node, WORTH], at, trial)
            used = _child(question, node, kind, axis, first, second, value, steps, worth, used)
    return used


@_compiled
def _one_order(
    question: Asked, held: _Decided, axis: int, first: int, second: int, value: float, at: Floats, trial: Floats
) -> float:
    """The largest lambda with this pair as well; it is added on trial."""
    _keep_pair(question, held.item, held.pair, held.counts, axis, first, second)
    value = _with_last_pair(held, axis, value, at, trial)
    held.counts[axis, PAIRS] -= 1
    held.counts[axis, RELATIONS] -= 1
    return value


@_compiled
def _one_side(
    question: Asked,
    held: _Decided,
    axis: int,
    item: int,
    block: int,
    kind: int,
    value: float,
    at: Floats,
    trial: Floats,
) -> float:
    """The same with the item to one side of a block."""
    _keep_to_one_side(question, held.item, held.counts, axis, item, block, kind)
    if kind == PAST:
        value = _with_last_low(held, axis, item, value, at, trial)
        held.item[axis, item, LOWS] -= 1
    else:
        value = _with_last_high(held, axis, item, value, at, trial)
        held.item[axis, item, HIGHS] -= 1
    held.counts[axis, RELATIONS] -= 1
    return value


@_compiled
def _kept_in_circle(
    question: Asked,
    held: _Decided,
    item: int,
    at: Floats,
    trial: Floats,
    node: int,
    steps: Counts,
    worth: Floats,
    used: int,
) -> int:
    """Its outermost corner nearer to the middle along one axis or the other, to where the arc beyond it is halved."""
    value, radius = worth[node, WORTH], question.circle[item, RADIUS] - CUT_MM
    off = (0.0, _off_middle(question, held, value, at, item, 1), _off_middle(question, held, value, at, item, 2))
    angle = (_arc_sine(abs(off[1]), radius) + math.pi / 2 - _arc_sine(abs(off[2]), radius)) / 2
    keeps = (0.0, radius * math.sin(angle), radius * math.cos(angle))
    for axis in range(1, AXES):
        side = CUT_LOW if off[axis] < 0 else CUT_HIGH
        # As far as the corner is to come nearer, so is the low corner of its box.
        mm = at[axis, item, AT] + (abs(off[axis]) - keeps[axis]) * (1.0 if off[axis] < 0 else -1.0)
        apart = _cut_on_trial(held, axis, item, side, mm, value, at, trial)
        new = _child(question, node, CUT, axis, item, side, apart, steps, worth, used)
        if new > used:
            worth[used, CUT_AT] = mm
        used = new
    return used


@_compiled
def _arc_sine(length: float, radius: float) -> float:
    return math.asin(length / radius) if length < radius else math.pi / 2


@_compiled
def _cut_on_trial(
    held: _Decided, axis: int, item: int, side: int, mm: float, value: float, at: Floats, trial: Floats
) -> float:
    """The largest lambda of an axis with this cut as well."""
    before = held.item[axis, item, side]
    held.item[axis, item, side] = mm
    if side == CUT_LOW:
        value = _begun_at(held, axis, item, mm, 0.0, value, at, trial)
    else:
        value = _solved_below(held, axis, value, at, trial)
    held.item[axis, item, side] = before
    return value


@_compiled
def _off_middle(question: Asked, held: _Decided, value: float, at: Floats, item: int, axis: int) -> float:
    """How far the outermost edge of a box lies off the middle of its circle, or the middle of a round item."""
    low = float(at[axis, item, AT] - question.circle[item, MIDDLE])
    own = float(question.circle[item, OWN])
    if own > 0:
        return low + own
    high = low + float(held.item[axis, item, SIZE] + held.item[axis, item, SIZE + 1] * value)
    return high if high > -low else low


@_compiled
def _overlapping(question: Asked, held: _Decided, value: float, at: Floats) -> tuple[int, int, int]:
    """The item that overlaps another, a block or the wall round it most at the lowest positions; which; and what."""
    worst, found, met, what = 1e-6, -1, -1, NOTHING_MET
    for item in range(held.items):
        for block in range(len(question.block)):
            if question.block_gap[item, block, 0] == _NEVER_MEETS:
                continue
            overlap = _into_block(question, held, value, at, item, block)
            if overlap > worst:
                worst, found, met, what = overlap, item, block, A_BLOCK
        for other in range(item):
            overlap = _into_another(question, held, value, at, item, other)
            if overlap > worst:
                worst, found, met, what = overlap, item, other, ANOTHER
        if len(question.circle) > 0:
            y, z = _off_middle(question, held, value, at, item, 1), _off_middle(question, held, value, at, item, 2)
            overlap = np.hypot(y, z) - question.circle[item, RADIUS]
            if overlap > worst:
                worst, found, met, what = overlap, item, item, ITS_CIRCLE
    return found, met, what


@_compiled
def _into_block(question: Asked, held: _Decided, value: float, at: Floats, item: int, block: int) -> float:
    """By how much an item and the gap around it reach into a block, along the axis where that is least."""
    overlap = NEVER
    for axis in range(AXES):
        low = at[axis, item, AT]
        high = low + held.item[axis, item, SIZE] + held.item[axis, item, SIZE + 1] * value
        begins = question.block[block, axis, BLOCK_LOW] + question.block[block, axis, BLOCK_LOW + 1] * value
        ends = question.block[block, axis, BLOCK_HIGH] + question.block[block, axis, BLOCK_HIGH + 1] * value
        overlap = min(overlap, ends - low, high - begins)
    return overlap + float(question.block_gap[item, block, 0] + question.block_gap[item, block, 1] * value)


@_compiled
def _into_another(question: Asked, held: _Decided, value: float, at: Floats, item: int, other: int) -> float:
    """The same of two items."""
    overlap = NEVER
    for axis in range(AXES):
        low, begins = at[axis, item, AT], at[axis, other, AT]
        high = low + held.item[axis, item, SIZE] + held.item[axis, item, SIZE + 1] * value
        ends = begins + held.item[axis, other, SIZE] + held.item[axis, other, SIZE + 1] * value
        overlap = min(overlap, ends - low, high - begins)
    return overlap + float(question.item_gap[item, other, 0] + question.item_gap[item, other, 1] * value)
