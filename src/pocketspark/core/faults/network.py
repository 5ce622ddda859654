"""A circuit of branches between nodes, come to rest: Newton's method on the node voltages, for many cases at once.

Every law tells its current and how that changes with the volts, so one round is one linear system for each case. Node
0 is the reference. All arrays have a case in each row.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, is_dataclass, replace
from typing import NamedTuple, Protocol, cast

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.physics.ocv import Floats

# Every node leaks a little to the reference, so that one on which nothing hangs has its place.
LEAK_SIEMENS = 1e-9
MOST_ROUNDS, NEAR_ROUNDS, LONGEST = 160, 40, 20
# Over so many amperes corners are rounded off, and so many siemens every branch has besides, round after round; all but
# the last come to rest only roughly.
EASED = np.array([1.0, 0.1, 1e-2, 1e-3, 1e-4, 1e-5])
LAST, NEARLY, ROUGHLY = len(EASED) - 1, 2, 0.02
LEFT_A, LEFT_SHARE = 2e-8, 1e-6
# No round moves a node further: what is far off the mark only tells the direction.
MOST_STEP_V = 3.0


class Flow(NamedTuple):
    """Amperes through a branch from plus to minus, and their change with its own volts and with those it watches."""

    amps: Floats
    by_own: Floats
    by_watched: Floats


class Law(Protocol):
    """What a branch lets through, each case by itself. `watched_v` is 0 where it watches nothing."""

    def flow(self, own_v: Floats, watched_v: Floats, corner_a: Floats) -> Flow: ...


@dataclass(frozen=True)
class Branch:
    """From node `plus` to node `minus`. `watched`: the two nodes whose volts its law looks at besides.

    `alive`: 1 in the cases in which it is there, else 0.
    """

    name: str
    plus: int
    minus: int
    law: Law
    watched: tuple[int, int] = (0, 0)
    alive: Floats | float = 1.0


@dataclass(frozen=True)
class AtRest:
    """Volts of each node (case, node), amperes of each branch by name (case), and which cases did come to rest."""

    volts: Floats
    amps: Mapping[str, Floats]
    settled: NDArray[np.bool_]


def at_rest(nodes: int, branches: Sequence[Branch], cases: int, begin_v: Floats | None = None) -> AtRest:
    """All cases together; what has come to rest is left alone, so that one hard case costs no more than itself.

    By easing: at first all corners are widely rounded off and every branch lets a little through besides, and then
    less and less of both from where that came to rest. A case whose steps turn back takes shorter ones.
    """
    near = begin_v is not None
    volts = begin_v.copy() if begin_v is not None else np.zeros((cases, nodes))
    moving, stage = np.arange(cases), np.full(cases, NEARLY if near else 0)
    wires = _conductances(nodes, branches, cases)
    bent = [branch for branch in branches if not hasattr(branch.law, "siemens")]
    rounds = np.zeros(cases, dtype=int)
    reach_v, before_v = np.full(cases, MOST_STEP_V), np.zeros_like(volts)
    for _ in range(NEAR_ROUNDS if near else MOST_ROUNDS):
        eased = EASED[stage[moving]]
        left_a, scale_a, jacobian = _stamped(wires[moving], bent, volts[moving], moving, eased)
        enough_a = LEFT_A + LEFT_SHARE * scale_a + ROUGHLY * (eased * (stage[moving] < LAST))[:, None]
        rests = np.all(np.abs(left_a) <= enough_a, axis=1)
        done = rests & (stage[moving] == LAST)
        rounds[moving] += 1
        # What a converter asks for may be too much only as long as it is eased: it is tried with less of that.
        further = moving[(rests & ~done) | ((rounds[moving] > LONGEST) & (stage[moving] < LAST))]
        stage[further] += 1
        rounds[further] = 0
        reach_v[further] = MOST_STEP_V
        moving, left_a, jacobian = moving[~done], left_a[~done], jacobian[~done]
        if not moving.size:
            break
        step_v = -_solved(jacobian[:, 1:, 1:], left_a[:, 1:])
        turned = np.sum(step_v * before_v[moving, 1:], axis=1) < 0
        reach_v[moving] = np.where(turned, reach_v[moving] / 2, np.minimum(reach_v[moving] * 1.5, MOST_STEP_V))
        farthest = np.abs(step_v).max(axis=1)
        step_v *= np.minimum(1.0, reach_v[moving] / np.maximum(farthest, 1e-12))[:, None]
        volts[moving, 1:] += step_v
        before_v[moving, 1:] = step_v
    settled = np.ones(cases, dtype=bool)
    settled[moving] = False
    if near and moving.size:  # it was not so near after all
        anew = at_rest(nodes, _of_branches(branches, moving), len(moving))
        volts[moving], settled[moving] = anew.volts, anew.settled
    everything, sharp = np.arange(cases), np.full(cases, EASED[-1])
    amps = {branch.name: _flow(branch, volts, everything, sharp).amps for branch in branches}
    return AtRest(volts, amps, settled)


def _of_branches(branches: Sequence[Branch], cases: NDArray[np.int_]) -> list[Branch]:
    """The same circuit in these cases alone."""
    return [
        replace(
            one,
            law=_of_cases(one.law, cases),
            alive=one.alive[cases] if isinstance(one.alive, np.ndarray) else one.alive,
        )
        for one in branches
    ]


def _solved(jacobian: Floats, left_a: Floats) -> Floats:
    try:
        return np.asarray(np.linalg.solve(jacobian, left_a[..., None])[..., 0])
    except np.linalg.LinAlgError:  # by chance, what draws watts just takes up what feeds it
        held = jacobian + 1e-3 * np.eye(jacobian.shape[-1])
        return np.asarray(np.linalg.solve(held, left_a[..., None])[..., 0])


def _flow(branch: Branch, volts: Floats, cases: NDArray[np.int_], eased: Floats) -> Flow:
    own_v = volts[:, branch.plus] - volts[:, branch.minus]
    watched_v = volts[:, branch.watched[0]] - volts[:, branch.watched[1]]
    law = _of_cases(branch.law, cases)
    amps, by_own, by_watched = law.flow(own_v, watched_v, eased)
    if not hasattr(law, "siemens"):
        beside = np.where(eased > EASED[-1], eased, 0.0)
        amps, by_own = amps + beside * own_v, by_own + beside
    alive = branch.alive[cases] if isinstance(branch.alive, np.ndarray) else branch.alive
    return Flow(amps * alive, by_own * alive, by_watched * alive)


def _of_cases(law: Law, cases: NDArray[np.int_]) -> Law:
    """The same law for these cases alone: its figures that differ by case are arrays, also in a law within it."""
    picked: dict[str, object] = {}
    for name, value in vars(law).items():
        if isinstance(value, np.ndarray):
            picked[name] = value[cases]
        elif is_dataclass(value) and hasattr(value, "flow"):
            picked[name] = _of_cases(cast(Law, value), cases)
    if not picked:
        return law
    other: Law = object.__new__(type(law))
    for name, value in (vars(law) | picked).items():
        object.__setattr__(other, name, value)
    return other


def _conductances(nodes: int, branches: Sequence[Branch], cases: int) -> Floats:
    """Of all that is a plain resistance: the same in every round."""
    found = np.zeros((cases, nodes, nodes))
    found[:, range(nodes), range(nodes)] = LEAK_SIEMENS
    for branch in branches:
        siemens = getattr(branch.law, "siemens", None)
        if siemens is not None:
            _stamp(found, branch.plus, branch.minus, branch.plus, branch.minus, siemens * branch.alive)
    return found


def _stamp(jacobian: Floats, out: int, into: int, plus: int, minus: int, slope: Floats | float) -> None:
    """What leaves one node and enters another grows so with the volts between these two."""
    jacobian[:, out, plus] += slope
    jacobian[:, out, minus] -= slope
    jacobian[:, into, plus] -= slope
    jacobian[:, into, minus] += slope


def _stamped(
    wires: Floats, bent: Sequence[Branch], volts: Floats, cases: NDArray[np.int_], eased: Floats
) -> tuple[Floats, Floats, Floats]:
    """What flows out of each node and into none, how much flows there, and how the first changes with all volts."""
    left_a, scale_a, jacobian = (wires @ volts[..., None])[..., 0], np.zeros_like(volts), wires.copy()
    for branch in bent:
        amps, by_own, by_watched = _flow(branch, volts, cases, eased)
        left_a[:, branch.plus] += amps
        left_a[:, branch.minus] -= amps
        scale_a[:, branch.plus] += np.abs(amps)
        scale_a[:, branch.minus] += np.abs(amps)
        _stamp(jacobian, branch.plus, branch.minus, branch.plus, branch.minus, by_own)
        if branch.watched != (0, 0):
            _stamp(jacobian, branch.plus, branch.minus, *branch.watched, by_watched)
    left_a[:, 0] = 0.0
    return left_a, scale_a, jacobian
