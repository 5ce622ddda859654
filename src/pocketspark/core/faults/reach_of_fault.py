"""What a single fault reaches that it must not, in each situation, beside the same build without it."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from pocketspark.core.faults.fault import Fault
from pocketspark.core.faults.outcome import FaultOutcome, Opened
from pocketspark.core.faults.situation import FaultSituation, SituationKey
from pocketspark.core.faults.soldered_circuit import GADGET
from pocketspark.core.physics.ocv import Floats

ReachedKind = Literal[
    "over_charged",
    "cell_gives_too_much",
    "cell_takes_too_much",
    "wire_too_hot",
    "gadget_over",
    "gadget_reversed",
    "board_reversed",
    "charger_over",
    "cut_lost",
    "short_not_cut",
    "drained",
    "does_not_run",
    "does_not_charge",
    "never_settles",
]
Gravity = Literal["danger", "hidden", "harm", "dead", "none"]
GRAVITY: dict[ReachedKind, Gravity] = {
    "over_charged": "danger",
    "cell_gives_too_much": "danger",
    "cell_takes_too_much": "harm",
    "wire_too_hot": "danger",
    "cut_lost": "hidden",
    "short_not_cut": "hidden",
    "drained": "hidden",
    "gadget_over": "harm",
    "gadget_reversed": "harm",
    "board_reversed": "harm",
    "charger_over": "harm",
    "does_not_run": "dead",
    "does_not_charge": "dead",
    "never_settles": "dead",
}
ORDER: tuple[Gravity, ...] = ("danger", "hidden", "harm", "dead", "none")
AT_THE_ENDS: tuple[SituationKey, ...] = ("flat", "over_full")
PROBES: tuple[SituationKey, ...] = ("stuck_charger", "shorted")
# In these somebody would see that it starts and stops again.
IN_USE: tuple[SituationKey, ...] = ("used", "charging", "charging_used")
# A cell that is full takes no more than this, and one that is empty gives no more, where something has opened.
NOTHING_A = 0.003
# Without a data sheet a cell gives three times its capacity and takes once (common practice, no source).
GIVES_C, TAKES_C = 3.0, 1.0
# So much over what is allowed is within what parts are off by.
OVER_SHARE = 1.05
# A table of wire says what it carries for good in a chassis; at so many times that it is twice as warm (our judgement).
HOT_SHARE = 1.5
# Chips stand so much of the wrong sign (usual absolute ratings, from memory).
WRONG_SIGN_V = 0.5
# Under this share of the charging current of before, it does not charge.
CHARGES_SHARE = 0.1


@dataclass(frozen=True)
class Reached:
    """`value` against `limit`, in volts or amperes; 0 and 0 where there is no figure. `subject`: a wire or a part."""

    kind: ReachedKind
    situation: SituationKey
    value: float = 0.0
    limit: float = 0.0
    subject: str = ""

    @property
    def weight(self) -> tuple[bool, float]:
        """In use it counts for more than with a cell at the ends of its charge."""
        return self.situation not in AT_THE_ENDS, self.value


@dataclass(frozen=True)
class Seen:
    """One fault: what it reaches in the end, the most that flows out of the cell before anything opens, what opens."""

    fault: Fault
    reached: tuple[Reached, ...]
    first_a: float
    opened: tuple[tuple[SituationKey, Opened], ...]

    @property
    def gravity(self) -> Gravity:
        return min((GRAVITY[one.kind] for one in self.reached), key=ORDER.index, default="none")

    @property
    def worst_in(self) -> SituationKey | None:
        """Where it is gravest, and most flows. None: it does nothing, or only a second fault shows it."""
        at = [one for one in self.reached if GRAVITY[one.kind] == self.gravity and one.situation not in PROBES]
        return max(at, key=lambda one: one.weight).situation if at else None


def seen_in(
    faults: Sequence[Fault], situations: Sequence[FaultSituation], sound: FaultOutcome, found: FaultOutcome
) -> list[Seen]:
    """`found`: of every fault in every situation, situations innermost. `sound`: of none, in every situation."""
    per_case = list(_reached(found))
    without = [frozenset((one.kind, one.subject) for one in reached) for reached in _reached(sound)]
    seen = []
    for number, fault in enumerate(faults):
        cases = range(number * len(situations), (number + 1) * len(situations))
        reached = [
            one
            for at, case in enumerate(cases)
            for one in (*per_case[case], *_beside(found, sound, case, at))
            if (one.kind, one.subject) not in without[at]
        ]
        opened = [
            (situations[at].key, one)
            for at, case in enumerate(cases)
            for one in found.opened[case]
            if not situations[at].probe and (one not in sound.opened[at] or _had_to_end(found, case, one))
        ]
        first_a = max(
            (
                abs(float(found.amps(f"{key}.cell", first=True)[case]))
                for at, case in enumerate(cases)
                for key in found.soldered.cells
                if not situations[at].probe
            ),
            default=0.0,
        )
        seen.append(Seen(fault, tuple(dict.fromkeys(reached)), _rounded(first_a), tuple(dict.fromkeys(opened))))
    return seen


def _rounded(value: float) -> float:
    """To three digits: a circuit that comes to rest by steps is known no better, and reads the same wherever it is."""
    return float(f"{float(value):.3g}")


def _had_to_end(found: FaultOutcome, case: int, one: Opened) -> bool:
    """A full cell's protection is open anyway; here it was this that ended a charge."""
    into_a = sum(float(found.amps(f"{key}.cell", first=True)[case]) for key in found.soldered.cells)
    return one.why == "over-charged" and into_a > NOTHING_A


def _reached(found: FaultOutcome) -> Iterator[tuple[Reached, ...]]:
    """By itself, case by case."""
    limits = _Limits(found)
    each = [*limits.of_the_cells(), *limits.of_wires(), *limits.of_the_gadget(), *limits.of_boards()]
    for case, (_, situation) in enumerate(found.cases):
        yield tuple(
            Reached(kind, situation.key, _rounded(values[case]), limit, subject)
            for kind, values, passed, limit, subject in each
            if passed[case] and found.last.settled[case]
        )


_Passed = tuple[ReachedKind, Floats, np.ndarray, float, str]


@dataclass(frozen=True)
class _Limits:
    """What is allowed, held against all cases at once."""

    found: FaultOutcome

    @property
    def _probed(self) -> np.ndarray:
        return np.array([bool(situation.probe) for _, situation in self.found.cases])

    def _in(self, *keys: SituationKey) -> np.ndarray:
        return np.array([situation.key in keys for _, situation in self.found.cases])

    def of_the_cells(self) -> Iterator[_Passed]:
        for key, cell in self.found.soldered.cells.items():
            into = self.found.amps(f"{key}.cell")
            gives_a = cell.discharge_max_a or GIVES_C * cell.planning_capacity_ah
            takes_a = cell.charge_max_a or TAKES_C * cell.planning_capacity_ah
            shorted, stuck = self._in("shorted"), self._in("stuck_charger")
            yield "cell_gives_too_much", -into, (-into > OVER_SHARE * gives_a) & ~self._probed, gives_a, key
            yield "cell_takes_too_much", into, (into > OVER_SHARE * takes_a) & ~self._probed, takes_a, key
            yield "over_charged", into, (into > NOTHING_A) & self._in("over_full"), 0.0, key
            yield "cut_lost", into, (into > NOTHING_A) & stuck, 0.0, key
            yield "short_not_cut", -into, (-into > OVER_SHARE * gives_a) & shorted, gives_a, key
            yield "drained", -into, (-into > NOTHING_A) & self._in("flat"), 0.0, key

    def of_wires(self) -> Iterator[_Passed]:
        for name, bears_a in self.found.soldered.wire_bears_a.items():
            amps = np.abs(self.found.amps(name))
            yield "wire_too_hot", amps, (amps > HOT_SHARE * bears_a) & ~self._probed, bears_a, name

    def of_the_gadget(self) -> Iterator[_Passed]:
        chain = self.found.soldered.chain
        gadget_v, most_v = self.found.volts("gadget.+", "gadget.-"), chain.window.v_abs_max
        yield "gadget_over", gadget_v, (gadget_v > 1.02 * most_v) & ~self._probed, most_v, ""
        wrong = (gadget_v < -WRONG_SIGN_V) & ~self._probed
        if chain.gadget.front_end in ("logic", "regulator", "converter", "motor"):
            yield "gadget_reversed", gadget_v, wrong, 0.0, ""

    def of_boards(self) -> Iterator[_Passed]:
        for key, board in self.found.soldered.boards.items():
            if board.charger is not None:
                input_v = self.found.volts(f"{key}.IN+", f"{key}.IN-")
                most_v = board.charger.v_in_max
                yield "charger_over", input_v, (input_v > OVER_SHARE * most_v) & ~self._probed, most_v, key
                on_cell = self.found.volts(f"{key}.B+", f"{key}.IN-", first=True)
                yield "board_reversed", on_cell, (on_cell < -WRONG_SIGN_V) & ~self._probed, 0.0, key
        for guard in self.found.soldered.guards:
            if not guard.plus.endswith("bare+"):
                cell_v = self.found.volts(guard.plus, guard.minus, first=True)
                yield "board_reversed", cell_v, (cell_v < -WRONG_SIGN_V) & ~self._probed, 0.0, guard.key


def _beside(found: FaultOutcome, sound: FaultOutcome, case: int, at: int) -> Iterator[Reached]:
    """What went on without the fault, and goes on no more."""
    situation = found.cases[case][1]
    if not found.last.settled[case]:
        if sound.last.settled[at] and situation.key in IN_USE:
            yield Reached("never_settles", situation.key)
        return
    if situation.probe:
        return
    if situation.used and situation.key != "flat":
        needs_v = found.soldered.chain.stops_at_v
        ran, runs = (float(one.volts("gadget.+", "gadget.-")[n]) for one, n in ((sound, at), (found, case)))
        if ran >= needs_v > runs or float(sound.amps(GADGET)[at]) > 0 >= float(found.amps(GADGET)[case]):
            yield Reached("does_not_run", situation.key, _rounded(runs), needs_v)
    if situation.key == "charging":
        was, now = _charging_a(sound, at), _charging_a(found, case)
        if was > 0 and now < CHARGES_SHARE * was:
            yield Reached("does_not_charge", situation.key, _rounded(now), _rounded(was))


def _charging_a(found: FaultOutcome, case: int) -> float:
    return sum(float(found.amps(f"{key}.cell")[case]) for key in found.soldered.cells)
