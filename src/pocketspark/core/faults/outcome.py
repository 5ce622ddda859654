"""What a fault comes to: what flows at first, what opens, and what flows then."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from pocketspark.core.faults.barriers import FUSE_TIMES, Barriers, Guard, Mask
from pocketspark.core.faults.network import AtRest, at_rest
from pocketspark.core.faults.soldered_circuit import PORT_TIMES, SOURCE, Case, Soldered
from pocketspark.core.physics.ocv import Floats

# Why a protection opened.
Reason = Literal["too much out", "too much in", "empty", "over-charged"]
# One opens another's trip: after so many there is nothing left to open.
MOST_OPENINGS = 6
# A port that gives so much of what it lets through at most has switched off.
PORT_SHARE = 0.97


@dataclass(frozen=True)
class Opened:
    """A protection by its part's key, and why; "fuse" and "port" have no reason but too much."""

    who: str
    why: Reason = "too much out"


@dataclass(frozen=True)
class FaultOutcome:
    """Of all cases together. `first`: before anything opens; `last`: when all has that will. `opened` by case."""

    soldered: Soldered
    cases: Sequence[Case]
    first: AtRest
    last: AtRest
    barriers: Barriers
    opened: Sequence[tuple[Opened, ...]]

    def volts(self, plus: str, minus: str, *, first: bool = False) -> Floats:
        at, nodes = (self.first if first else self.last).volts, self.soldered.nodes
        return np.asarray(at[:, nodes.of(plus)] - at[:, nodes.of(minus)])

    def amps(self, branch: str, *, first: bool = False) -> Floats:
        """0 where there is no such branch."""
        found: Mapping[str, Floats] = (self.first if first else self.last).amps
        return found.get(branch, np.zeros(len(self.cases)))


def solve(soldered: Soldered, cases: Sequence[Case], begin_v: Floats | None = None) -> FaultOutcome:
    """What is fastest opens first: the protections' trips, then what they see of the cell's volts, then a fuse.

    `begin_v`: volts of each node in each case near which it will rest, such as those of the build without a fault.
    """
    barriers = soldered.untouched(cases)
    nodes = len(soldered.nodes.numbers)
    first = last = at_rest(nodes, soldered.circuit(cases, barriers), len(cases), begin_v)
    opened: list[list[Opened]] = [[] for _ in cases]
    for _ in range(MOST_OPENINGS):
        found = FaultOutcome(soldered, cases, first, last, barriers, ())
        then, who = _opening(found)
        if not who:
            break
        for case, one in who:
            opened[case].append(one)
        barriers = then
        changed = np.array(sorted({case for case, _ in who}))
        last = _with(last, _again(soldered, cases, barriers, changed, last), changed)
    for off in np.flatnonzero(_port_is_off(soldered, last)):
        opened[off].append(Opened("port"))
    return FaultOutcome(soldered, cases, first, last, barriers, tuple(tuple(one) for one in opened))


def _again(soldered: Soldered, cases: Sequence[Case], barriers: Barriers, changed: np.ndarray, last: AtRest) -> AtRest:
    """Only the cases in which something opened, from where they stood."""
    some = Barriers(
        {key: mask[changed] for key, mask in barriers.takes.items()},
        {key: mask[changed] for key, mask in barriers.gives.items()},
        barriers.fuse[changed],
    )
    circuit = soldered.circuit([cases[number] for number in changed], some)
    return at_rest(len(soldered.nodes.numbers), circuit, len(changed), last.volts[changed])


def _with(last: AtRest, some: AtRest, changed: np.ndarray) -> AtRest:
    volts, settled = last.volts.copy(), last.settled.copy()
    volts[changed], settled[changed] = some.volts, some.settled
    amps = {}
    for name, before in last.amps.items():
        amps[name] = before.copy()
        if name in some.amps:
            amps[name][changed] = some.amps[name]
    return AtRest(volts, amps, settled)


def _opening(found: FaultOutcome) -> tuple[Barriers, list[tuple[int, Opened]]]:
    """The next to open in each case: nothing slower opens where something faster does."""
    takes, gives = dict(found.barriers.takes), dict(found.barriers.gives)
    who: list[tuple[int, Opened]] = []
    free = np.ones(len(found.cases), dtype=bool)
    for guard in found.soldered.guards:
        trips_out, trips_in = _trips(found, guard)
        for mask, why, sides in ((trips_out, "too much out", gives), (trips_in, "too much in", takes)):
            who += _opens(mask & free, Opened(guard.key, why), guard, sides)  # type: ignore[arg-type]
    free &= ~_cases_of(who, len(found.cases))
    for guard in found.soldered.guards:
        empty, over = _by_volts(found, guard)
        for mask, why, sides in ((empty, "empty", gives), (over, "over-charged", takes)):
            who += _opens(mask & free, Opened(guard.key, why), guard, sides)  # type: ignore[arg-type]
    free &= ~_cases_of(who, len(found.cases))
    fuse = found.barriers.fuse
    holds_a = found.soldered.chain.build.fuse_a
    if holds_a is not None:
        blows = free & fuse & (np.abs(found.amps("fuse")) > FUSE_TIMES * holds_a)
        who += [(int(case), Opened("fuse")) for case in np.flatnonzero(blows)]
        fuse = fuse & ~blows
    return replace(found.barriers, takes=takes, gives=gives, fuse=fuse), who


def _opens(mask: Mask, opened: Opened, guard: Guard, sides: dict[str, Mask]) -> list[tuple[int, Opened]]:
    opening = mask & sides[guard.key]
    sides[guard.key] = sides[guard.key] & ~opening
    return [(int(case), opened) for case in np.flatnonzero(opening)]


def _cases_of(who: list[tuple[int, Opened]], count: int) -> Mask:
    found = np.zeros(count, dtype=bool)
    found[[case for case, _ in who]] = True
    return found


def _sign(found: FaultOutcome, guard: Guard) -> Floats:
    """-1 where the cell with this protection on it is the wrong way round."""
    own = guard.plus.endswith("bare+")
    return np.array(
        [-1.0 if own and f and f.kind == "cell_reversed" and f.at == (guard.key,) else 1.0 for f, _ in found.cases]
    )


def _trips(found: FaultOutcome, guard: Guard) -> tuple[Mask, Mask]:
    """By the drop over both transistors, which is the current: out of the cell, and into it."""
    sign = _sign(found, guard)
    amps, cell_v = found.amps(guard.branch) * sign, found.volts(guard.plus, guard.minus) * sign
    trip_a = guard.protection.trip_at(np.clip(cell_v, 2.0, 4.4))  # type: ignore[arg-type]
    cannot = found.soldered.cannot
    out = (-amps > trip_a) & ~cannot(found.cases, "cannot_stop_discharge", guard)
    into = (amps > trip_a) & ~cannot(found.cases, "cannot_stop_charge", guard)
    return out, into


def _by_volts(found: FaultOutcome, guard: Guard) -> tuple[Mask, Mask]:
    cell_v = found.volts(guard.plus, guard.minus) * _sign(found, guard)
    cannot = found.soldered.cannot
    empty = (cell_v < guard.protection.cut_v) & ~cannot(found.cases, "cannot_stop_discharge", guard)
    over = (cell_v > guard.protection.over_charge_v) & ~cannot(found.cases, "cannot_stop_charge", guard)
    return empty, over


def _port_is_off(soldered: Soldered, last: AtRest) -> Mask:
    limit_a = PORT_TIMES * soldered.chain.build.source.limit_a
    return np.asarray(-last.amps[SOURCE] > PORT_SHARE * limit_a)
