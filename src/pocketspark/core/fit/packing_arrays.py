"""A packing question as arrays of numbers for the compiled search, and its answer back in words.

Importing this takes a second, for the compiler comes with it.
"""

from collections.abc import Iterable
from itertools import chain

import numpy as np

from pocketspark.core.fit.kernel import BOUND, LOW, UNCUT, Asked, Floats, Found
from pocketspark.core.fit.packing import AXES, Bounds, LinearLength, Packing, Placed

_NO_BOUND = LinearLength(0.0)


def packed(question: Packing) -> Asked:
    """The question in the columns of the kernel."""
    poses = [pose for item in question.items for pose in item.poses]
    most = max((len(bounds) for pose in poses for bounds in (*pose.low, *pose.high)), default=1)
    rows = [[_row(*along, most) for along in zip(pose.size, pose.low, pose.high, strict=True)] for pose in poses]
    faces = chain.from_iterable(zip(block.low, block.high, strict=True) for block in question.blocks)
    items = len(question.items)
    return Asked(
        first_pose=np.cumsum([0, *(len(item.poses) for item in question.items)]),
        pose=_array(chain.from_iterable(rows)).reshape(len(poses), 3, LOW + BOUND * most),
        item_gap=_array(chain.from_iterable(question.item_gap)).reshape(items, items, 2),
        block=_array(chain.from_iterable(faces)).reshape(len(question.blocks), 3, 4),
        block_gap=_array(chain.from_iterable(question.block_gap)).reshape(items, len(question.blocks), 2),
        circle=_array(question.circles).reshape(len(question.circles), 3),
        mirrored=_mirrored(question),
        least=float(question.least),
        most=float(question.most),
        node_limit=question.node_limit,
    )


def _array(lengths: Iterable[Iterable[float]]) -> Floats:
    """One number after the other: three times as quick as from nested rows."""
    return np.fromiter(chain.from_iterable(lengths), np.float64)


def _row(size: LinearLength, low: Bounds, high: Bounds, most: int) -> list[float]:
    """A pose along one axis in the columns of the kernel: its size, then bounds from below and above in turn."""
    row = [*size, len(low), len(high), *UNCUT]
    for number in range(most):
        row += low[number] if number < len(low) else _NO_BOUND
        row += high[number] if number < len(high) else _NO_BOUND
    return row


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


def placed(question: Packing, found: Found, number: int, low: Floats) -> tuple[Placed, ...]:
    """One of the placements found, at these low corners."""
    value, placed = float(found.value[number]), []
    for index, (item, pose_number) in enumerate(zip(question.items, found.pose[number], strict=True)):
        pose = item.poses[pose_number]
        x, y, z = (length.at + length.slope * value for length in pose.size)
        at_x, at_y, at_z = low[:, index].tolist()
        placed.append(Placed(index, pose, (at_x, at_y, at_z), (x, y, z)))
    return tuple(placed)
