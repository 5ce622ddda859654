"""The first tenth of a second, step by step: does it start, late, in hiccups, or not until a charger wakes it?

The gadget's volts stand on its capacitor: C dV/dt = what comes in - what is drawn, by the linearly implicit step of
Euler's, which is stable for a capacitor as small as any. A protection opens after the delay of an overload or of a
short; where the load goes away by itself it closes again, and where it stays, only a charger or a switch closes it.
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.chain import Chain
from pocketspark.core.models import Mode
from pocketspark.core.physics.ocv import Floats
from pocketspark.core.startup.loads import Starting, starting_of
from pocketspark.core.startup.supply_at_start import StartSupply, supply_of

Mask = NDArray[np.bool_]
Start = Literal["starts", "starts late", "hiccups", "stays off", "does not start"]
LASTS_S = 0.1
# Steps, and until when each is taken: a capacitor of some microfarads is full within some of the first.
STEPS_S, UNTIL_S = (1e-6, 5e-6, 5e-5), (5e-4, 5e-3, LASTS_S)
# How long a protection waits before it opens, on an overload and on a short, which it takes anything over so many times
# its trip for; and how long the load has to be gone before it closes again (from memory).
OVERLOAD_S, SHORT_S, SHORT_TIMES, RELEASE_S = 0.010, 0.0003, 3.0, 0.008
# Of a gadget nobody has looked into.
LEAST_F = 1e-9
# Later than this somebody sees it.
LATE_S = 0.03
# Points that are kept of each curve.
KEPT = 160


@dataclass(frozen=True)
class FirstMoment:
    """Rows are cells at several charges: volts at the gadget and amperes out of the cell over `time_s`."""

    time_s: Floats
    gadget_v: Floats
    cell_a: Floats
    opened: tuple[int, ...]  # how often the protection opened
    starts_s: tuple[float | None, ...]  # from when on it runs, as far as that is seen
    comes_to: tuple[Start, ...]


def first_moment(chain: Chain, mode: Mode, ocv_v: Floats) -> FirstMoment:
    """Switched on at rest, in this mode, with cells of these open-circuit volts."""
    chosen = chain.required_running().chosen
    trip = chain.first_to_trip if chosen.protections_in_the_way else None
    trips_a = np.inf if trip is None else trip.trip_least_a
    run = _Run(supply_of(chosen, ocv_v), starting_of(chain, mode), chain.gadget.capacitance_f or LEAST_F, trips_a)
    return run.through(chain.window.v_run_min)


def _times() -> Floats:
    begins_s = (0.0, *UNTIL_S[:-1])
    spans = [np.arange(a, b, step) for a, b, step in zip(begins_s, UNTIL_S, STEPS_S, strict=True)]
    return np.concatenate([*spans, [LASTS_S]])


@dataclass
class _Run:
    """One run of several cells beside one another."""

    supply: StartSupply
    starting: Starting
    capacitance_f: float
    trips_a: float

    def through(self, runs_from_v: float) -> FirstMoment:
        rows = len(self.supply.ocv_v)
        time_s = _times()
        volts, state = np.zeros(rows), np.zeros(rows)
        cell_v, on = self.supply.ocv_v.copy(), np.ones(rows, dtype=bool)
        over_s, short_s, gone_s, since_s = (np.zeros(rows) for _ in range(4))
        opened = np.zeros(rows, dtype=int)
        kept_v, kept_a = np.zeros((len(time_s), rows)), np.zeros((len(time_s), rows))
        for number in range(1, len(time_s)):
            step_s = time_s[number] - time_s[number - 1]
            given = self.supply.gives(volts, cell_v, float(since_s.max()))
            draws = self.starting.draws(volts, state)
            net_a = given.amps * on - draws.amps
            slope = given.by_volts * on - draws.by_volts
            change_v = step_s * net_a / (self.capacitance_f - step_s * np.minimum(slope, 0.0))
            highest_v = np.maximum(volts, self.supply.highest_v(float(since_s.max())))
            volts = np.clip(volts + change_v, 0.0, highest_v)
            state = self.starting.after(volts, state, draws.amps, step_s)
            # What flows at the end of the step is what the gadget and its capacitor take.
            given = self.supply.gives(volts, cell_v, float(since_s.max()))
            cell_a = given.cell_a * on
            cell_v = self.supply.ocv_v - self.supply.r_ohm * cell_a
            since_s = np.where(on, since_s + step_s, 0.0)
            over_s = np.where(on & (cell_a > self.trips_a), over_s + step_s, 0.0)
            short_s = np.where(on & (cell_a > SHORT_TIMES * self.trips_a), short_s + step_s, 0.0)
            opens = on & ((over_s > OVERLOAD_S) | (short_s > SHORT_S))
            opened += opens
            on = on & ~opens
            gone = ~on & self._load_is_gone(state)
            gone_s = np.where(gone, gone_s + step_s, 0.0)
            closes = gone_s > RELEASE_S
            on, gone_s = on | closes, np.where(closes, 0.0, gone_s)
            kept_v[number], kept_a[number] = volts, cell_a
        return self._told(time_s, kept_v, kept_a, on, opened, runs_from_v)

    def _load_is_gone(self, state: Floats) -> Mask:
        """Electronics without volts let nothing through; filaments, motors and resistors stay where they are."""
        return (state == 0) if self.starting.kind == "electronics" else np.zeros_like(state, dtype=bool)

    def _told(
        self, time_s: Floats, volts: Floats, cell_a: Floats, on: Mask, opened: NDArray[np.int_], runs_from_v: float
    ) -> FirstMoment:
        comes_to: list[Start] = []
        starts_s: list[float | None] = []
        for row in range(volts.shape[1]):
            runs = volts[:, row] >= runs_from_v
            stopped = np.flatnonzero(~runs)
            since = int(stopped[-1]) + 1 if stopped.size else 0
            lasting = since < len(time_s) and bool(on[row])
            begins = int(np.count_nonzero(runs[1:] & ~runs[:-1]))
            starts_s.append(float(time_s[since]) if lasting else None)
            if opened[row] > 1 or begins > 2:
                comes_to.append("hiccups")
            elif not on[row]:
                comes_to.append("hiccups" if self.starting.kind == "electronics" else "stays off")
            elif not lasting:
                comes_to.append("does not start")
            else:
                comes_to.append("starts late" if time_s[since] > LATE_S else "starts")
        places = np.unique(np.searchsorted(time_s, np.concatenate([_early(), np.linspace(0.002, LASTS_S, KEPT)])))
        places = np.minimum(places, len(time_s) - 1)
        return FirstMoment(
            time_s[places],
            volts[places].T,
            cell_a[places].T,
            tuple(int(one) for one in opened),
            tuple(starts_s),
            tuple(comes_to),
        )


def _early() -> Floats:
    """The first two milliseconds, ever less finely. What is over sooner than ten microseconds nobody has measured."""
    return np.concatenate([[0.0], np.geomspace(1e-5, 0.002, 90)])
