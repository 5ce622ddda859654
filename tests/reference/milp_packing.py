"""The same packing question as a mixed-integer program, for HiGHS through scipy: a general-purpose solver.

Big-M on six relations a pair, one binary for each pose; lambda is the objective. Also used by ./spark bench.
"""

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import lil_matrix

AXES = (0, 1, 2)


def best_value(question):
    """Largest lambda, or None where there is no placement down to `question.least`."""
    model = _Model(question)
    result = milp(
        model.cost,
        constraints=[LinearConstraint(model.rows.tocsr()[: model.used], -np.inf, model.most[: model.used])],
        integrality=model.integer,
        bounds=Bounds(model.low, model.high),
        options={"mip_rel_gap": 1e-7, "time_limit": 60},
    )
    return float(result.x[0]) if result.status == 0 else None


class _Model:
    """Variables: lambda, three coordinates an item, a binary a pose, six binaries a pair."""

    def __init__(self, q):
        self.items, self.blocks = q.items, q.blocks
        reach = 10 + max(
            max(length.at + pose.size[a].at for a, lengths in enumerate(pose.high) for length in lengths)
            for i in q.items
            for pose in i.poses
        )
        self.big = 3 * reach
        pairs = [("item", i, j) for i in range(len(q.items)) for j in range(i)]
        pairs += [("block", i, b) for i in range(len(q.items)) for b in range(len(q.blocks))]
        self.pose_at, at = [], 1 + 3 * len(q.items)
        for item in q.items:
            self.pose_at.append(at)
            at += len(item.poses)
        self.pair_at = {pair: at + 6 * n for n, pair in enumerate(pairs)}
        n = at + 6 * len(pairs)
        self.rows, self.most, self.used = lil_matrix((60 * n + 200, n)), np.zeros(60 * n + 200), 0
        self.cost = np.zeros(n)
        self.cost[0] = -1
        self.low, self.high = np.zeros(n), np.ones(n)
        self.low[0], self.high[0] = q.least, q.most
        self.low[1 : 1 + 3 * len(q.items)], self.high[1 : 1 + 3 * len(q.items)] = -reach, 2 * reach
        self.integer = np.concatenate([np.zeros(1 + 3 * len(q.items)), np.ones(n - 1 - 3 * len(q.items))])
        for index, item in enumerate(q.items):
            self._poses(index, item)
        for pair in pairs:
            self._pair(q, pair)

    def _row(self, terms, most):
        for column, value in terms:
            self.rows[self.used, column] += value
        self.most[self.used] = most
        self.used += 1

    def _x(self, item, axis):
        return 1 + 3 * item + axis

    def _poses(self, index, item):
        """One pose; low <= x <= high of that pose."""
        at = self.pose_at[index]
        ones = [(at + k, 1.0) for k in range(len(item.poses))]
        self._row(ones, 1)
        self._row([(c, -v) for c, v in ones], -1)
        for k, pose in enumerate(item.poses):
            for a in AXES:
                for low in pose.low[a]:
                    self._row([(self._x(index, a), -1), (0, low.slope), (at + k, self.big)], self.big - low.at)
                for high in pose.high[a]:
                    self._row([(self._x(index, a), 1), (0, -high.slope), (at + k, self.big)], self.big + high.at)

    def _size(self, index, axis):
        """Terms of the item's size along an axis: the chosen pose's (sizes do not move with lambda here)."""
        at = self.pose_at[index]
        return [(at + k, pose.size[axis].at) for k, pose in enumerate(self.items[index].poses)]

    def _pair(self, q, pair):
        kind, i, other = pair
        at = self.pair_at[pair]
        self._row([(at + k, -1.0) for k in range(6)], -1)
        for a in AXES:
            if kind == "item":
                gap = q.item_gap[i][other]
                for n, (first, second) in enumerate(((i, other), (other, i))):
                    terms = [(self._x(first, a), 1), (self._x(second, a), -1), (0, gap.slope), *self._size(first, a)]
                    self._row([*terms, (at + 2 * a + n, self.big)], self.big - gap.at)
            else:
                gap, block = q.block_gap[i][other], q.blocks[other]
                before = [(self._x(i, a), 1), (0, gap.slope), *self._size(i, a), (at + 2 * a, self.big)]
                self._row(before, self.big - gap.at + block.low[a].at)
                behind = [(self._x(i, a), -1), (0, gap.slope), (at + 2 * a + 1, self.big)]
                self._row(behind, self.big - gap.at - block.high[a].at)
