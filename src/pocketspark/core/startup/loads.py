"""What a gadget draws once it is switched on: a cold filament warms, a motor gathers speed, electronics wake.

Each is a current in the gadget's own volts and in one figure of its state, from 0 when cold or still to 1 when it runs.
"""

from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np

from pocketspark.core.chain import Chain
from pocketspark.core.circuit.uses import COLD_FILAMENT
from pocketspark.core.models import Gadget, Mode
from pocketspark.core.physics.load import Load
from pocketspark.core.physics.ocv import Floats

StartKind = Literal["filament", "motor", "electronics", "plain"]
# Seconds in which a filament comes to six tenths of its heat at its own volts, a motor to six tenths of its speed (from
# memory: some 50 ms and 100 ms until little is left of either).
FILAMENT_S, MOTOR_S = 0.025, 0.05
# A motor nobody has measured stalls at so many times its running current (common practice, no source).
STALL_TIMES = 6.0
# Electronics that were running stop at this share of the volts from which they start (common practice: hysteresis).
STOP_SHARE = 0.9


class Draw(NamedTuple):
    """Amperes, and how they change with the volts."""

    amps: Floats
    by_volts: Floats


@dataclass(frozen=True)
class Starting:
    """One mode of one gadget. `at_v` and `current_a`: as it was read, running. `starts_v`: electronics wake there.

    `cold_times`: of its hot current, what a filament draws cold. `stall_ohm`: of a motor that stands still.
    """

    kind: StartKind
    load: Load
    at_v: float
    current_a: float
    cold_times: float
    stall_ohm: float
    starts_v: float
    stops_v: float

    def draws(self, volts: Floats, state: Floats) -> Draw:
        if self.kind == "filament":
            siemens = self.current_a / self.at_v * (self.cold_times - (self.cold_times - 1) * state)
            return Draw(siemens * volts, siemens)
        if self.kind == "motor":
            turning = (self.at_v - self.current_a * self.stall_ohm) * state
            return Draw((volts - turning) / self.stall_ohm, np.full_like(volts, 1 / self.stall_ohm))
        here = np.maximum(volts, 0.0)
        awake = state if self.kind == "electronics" else np.ones_like(volts)
        amps = self.load.current(here) * awake
        return Draw(amps, (self.load.current(here + 1e-4) * awake - amps) / 1e-4)

    def after(self, volts: Floats, state: Floats, amps: Floats, step_s: float) -> Floats:
        """Its state so much later."""
        if self.kind == "filament":
            heat = volts * amps / (self.at_v * self.current_a)
            return np.clip(state + step_s / FILAMENT_S * heat * (1 - state), 0.0, 1.0)
        if self.kind == "motor":
            stall_a = self.at_v / self.stall_ohm
            push = (amps - self.current_a) / (stall_a - self.current_a)
            return np.clip(state + step_s / MOTOR_S * push, 0.0, 1.2)
        if self.kind == "electronics":
            return np.where(volts >= self.starts_v, 1.0, np.where(volts < STOP_SHARE * self.stops_v, 0.0, state))
        return state


def starting_of(chain: Chain, mode: Mode) -> Starting:
    """As this gadget starts in this mode."""
    law, front_end = chain.gadget.law_of(mode), chain.gadget.front_end
    kind: StartKind = "plain"
    if law == "lamp":
        kind = "filament"
    elif front_end == "motor":
        kind = "motor"
    elif law in ("current", "power"):
        kind = "electronics"
    at_v, current_a = chain.gadget.volts_of(mode), max(mode.current_a, 1e-6)
    # A peak that was measured is what it draws at first.
    times = mode.peak_a / current_a if mode.peak_a and mode.peak_a > current_a else None
    return Starting(
        kind=kind,
        load=chain.load_of(mode),
        at_v=at_v,
        current_a=current_a,
        cold_times=times or COLD_FILAMENT,
        stall_ohm=stalled_ohm(chain.gadget, mode),
        starts_v=chain.window.v_start_min,
        stops_v=chain.window.v_run_min,
    )


def stalled_ohm(gadget: Gadget, mode: Mode) -> float:
    """Of a motor that stands still: its winding, as it was measured or as its currents have it."""
    at_v, current_a = gadget.volts_of(mode), max(mode.current_a, 1e-6)
    times = mode.peak_a / current_a if mode.peak_a and mode.peak_a > current_a else STALL_TIMES
    # A winding that would pass less than it draws running is none.
    return min(gadget.behind.winding_ohm or at_v / (times * current_a), 0.8 * at_v / current_a)
