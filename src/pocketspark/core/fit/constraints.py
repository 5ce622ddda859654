"""A second engine for the packing questions that the own search does not settle in its time: constraint programming.

It finds a placement of eight or twelve parts in some tenths of a second, where a search for the best one takes minutes.
What it is worse at, how much may be left over, is asked of it in steps.

CP-SAT of ortools. Every length is counted in thousandths of a millimetre. For a placement each is rounded up, so that
none is a thousandth too big; for a proof that there is none each is rounded down, so that none is proven by rounding.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

from ortools.sat.python import cp_model

from pocketspark.core.fit.packing import AXES, FIRST_NODES, NOTHING, Answer, Bounds, LinearLength, Packing, Placed, Pose

PER_MM = 1000
# What no part is ever away from the corner of its bay, mm; a gap under minus that is between things that never meet.
FAR_MM = 4000
# Deterministic time of the solver, some five seconds of one core each: the same question always has the same answer.
FIRST_TIME, CLIMB_TIME, PROOF_TIME = 1.0, 0.1, 1.0
# A placement is asked for with more and more to spare, mm, until none is found in the time.
CLIMB_MM = (0.1, 0.25, 0.5, 1.0, 2.0, 4.0)


def settle(question: Packing) -> Answer:
    """A placement with as much lambda as a few attempts come to; else `proven` says whether there is none at all.

    Circles are not asked about: it lays boxes into boxes. Who asked for a quick look, by fewer nodes, gets one.
    """
    haste = min(question.node_limit / FIRST_NODES, 1.0)
    found, impossible = _placement(question, FIRST_TIME * haste)
    if not found:
        return Answer(NOTHING, proven=impossible and _is_impossible(question))
    value = question.least
    for more in CLIMB_MM:
        target = min(question.least + more, question.most)
        better, _ = _placement(replace(question, least=target), CLIMB_TIME) if target > value else ((), True)
        if not better:
            break
        found, value = better, target
    return Answer(value, found, spread=found)


def _placement(question: Packing, time: float) -> tuple[tuple[Placed, ...], bool]:
    """Any placement with its least lambda, and whether there is none."""
    asked, solver = _Model(question, math.ceil), _solver(time)
    # It begins anew again and again, each time otherwise. Of 96 boxes of 8 to 12 parts that are known to go in it
    # found all, in a tenth to a fifth of a second; without, 78, in some three times that.
    solver.parameters.search_branching = cp_model.PORTFOLIO_WITH_QUICK_RESTART_SEARCH
    status = solver.solve(asked.model)
    found = status in (cp_model.OPTIMAL, cp_model.FEASIBLE)
    return asked.placed(solver) if found else (), status == cp_model.INFEASIBLE


def _is_impossible(question: Packing) -> bool:
    return bool(_solver(PROOF_TIME).solve(_Model(question, math.floor).model) == cp_model.INFEASIBLE)


def _solver(time: float) -> cp_model.CpSolver:
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 0
    solver.parameters.max_deterministic_time = time
    return solver


@dataclass
class _Model:
    """The question at its least lambda as constraints. `rounded`: how a length of no whole thousandths becomes one."""

    question: Packing
    rounded: Callable[[float], int]

    def __post_init__(self) -> None:
        question, model = self.question, cp_model.CpModel()
        self.model = model
        far = FAR_MM * PER_MM
        self.low = [[model.new_int_var(-far, far, f"{i} {axis}") for axis in AXES] for i in range(len(question.items))]
        self.pose = [
            [model.new_bool_var(f"{i} {pose.name}") for pose in item.poses] for i, item in enumerate(question.items)
        ]
        for i, item in enumerate(question.items):
            model.add_exactly_one(self.pose[i])
            for pose, taken in zip(item.poses, self.pose[i], strict=True):
                for axis in AXES:
                    self._within(i, axis, pose.low[axis], pose.high[axis], taken)
        for i in range(len(question.items)):
            for j in range(i):
                self._apart(i, j)
            for b in range(len(question.blocks)):
                self._clear_of(i, b)

    def placed(self, solver: cp_model.CpSolver) -> tuple[Placed, ...]:
        return tuple(self._one(solver, i) for i in range(len(self.question.items)))

    def _one(self, solver: cp_model.CpSolver, i: int) -> Placed:
        pose = next(
            pose
            for pose, taken in zip(self.question.items[i].poses, self.pose[i], strict=True)
            if solver.boolean_value(taken)
        )
        x, y, z = (solver.value(low) / PER_MM for low in self.low[i])
        length, width, height = (self._length(size) for size in pose.size)
        return Placed(i, pose, (x, y, z), (length, width, height))

    # Constraints --------------------------------------------------------------------------------------------------

    def _length(self, length: LinearLength) -> float:
        return length.at + length.slope * self.question.least

    def _whole(self, *lengths: LinearLength) -> int:
        """The sum of these in thousandths of a millimetre."""
        return self.rounded(round(sum(map(self._length, lengths)) * PER_MM, 6))

    def _within(self, i: int, axis: int, low: Bounds, high: Bounds, taken: cp_model.IntVar) -> None:
        here = self.low[i][axis]
        for bound in low:
            self.model.add(here >= self._whole(bound)).only_enforce_if(taken)
        for bound in high:
            self.model.add(here <= -self._whole(_minus(bound))).only_enforce_if(taken)

    def _apart(self, i: int, j: int) -> None:
        gap = self.question.item_gap[i][j]
        if gap.at <= -FAR_MM:
            return
        sides = []
        for axis in AXES:
            for first, second in ((i, j), (j, i)):
                side = self.model.new_bool_var(f"{first} before {second} along {axis}")
                sides.append(side)
                for pose, taken in self._poses(first):
                    ends = self.low[first][axis] + self._whole(pose.size[axis], gap)
                    self.model.add(ends <= self.low[second][axis]).only_enforce_if(side, taken)
        self.model.add_bool_or(sides)

    def _clear_of(self, i: int, b: int) -> None:
        gap, block = self.question.block_gap[i][b], self.question.blocks[b]
        if gap.at <= -FAR_MM:
            return
        sides = []
        for axis in AXES:
            before, behind = (
                self.model.new_bool_var(f"{i} {where} {b} along {axis}") for where in ("before", "behind")
            )
            sides += [before, behind]
            here = self.low[i][axis]
            for pose, taken in self._poses(i):
                ends = here + self._whole(pose.size[axis], gap, _minus(block.low[axis]))
                self.model.add(ends <= 0).only_enforce_if(before, taken)
            self.model.add(here >= self._whole(block.high[axis], gap)).only_enforce_if(behind)
        self.model.add_bool_or(sides)

    def _poses(self, i: int) -> "zip[tuple[Pose, cp_model.IntVar]]":
        return zip(self.question.items[i].poses, self.pose[i], strict=True)


def _minus(length: LinearLength) -> LinearLength:
    return LinearLength(-length.at, -length.slope)
