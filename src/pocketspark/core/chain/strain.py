"""What strains a part: the watts that a regulator turns to heat, and peaks that pull the gadget down too early."""

from dataclasses import dataclass

import numpy as np

from pocketspark.core.chain.running import ModeRun, Running
from pocketspark.core.chain.states import FED_FROM_5V
from pocketspark.core.kinds.regulators import law_of_regulator
from pocketspark.core.models import Mode
from pocketspark.core.physics.heat import surroundings_of

# Junction to air on little copper, C/W, where the part's own figure is not known (from memory): a small linear
# regulator is a SOT-89, a diode an SMA, a converter a module of some square centimetres.
USUAL_THETA = {"ldo": 150.0, "diode": 90.0, "buck": 60.0, "boost": 60.0, "buck_boost": 60.0}
# What a chip or quarter-watt resistor may burn (common practice, no source).
RESISTOR_W = 0.25
_HALVINGS = 30


@dataclass(frozen=True)
class RegulatorHeat:
    """The regulator in the mode that warms it most: watts, and degrees C of what carries them.

    With a full cell, or `plugged_in`, where it hangs on the 5 V.
    """

    mode: Mode
    watts: float
    hottest_c: float
    plugged_in: bool = False


def regulator_heat(running: Running) -> RegulatorHeat | None:
    """None where there is no regulator that could get warm, or nothing runs."""
    regulator = running.chain.regulator
    theta = regulator.theta_ja_c_per_w or USUAL_THETA.get(regulator.kind, 0.0)
    around = surroundings_of(running.gadget.shell)
    heats = [
        RegulatorHeat(
            run.mode, watts, around.room_c + watts * run.mode.duty * (theta + around.rise_c_per_w), plugged_in
        )
        for run in running.runs
        for watts, plugged_in in ((_burnt_w(running, run), False), (_burnt_plugged_in_w(running, run), True))
    ]
    return max(heats, key=lambda heat: heat.watts, default=None) if regulator.kind != "none" else None


def _burnt_w(running: Running, run: ModeRun) -> float:
    """What goes in less what comes out, full cell: P = V_in I_in - V_out I_out."""
    full_v, all_ohm = running.chosen.full_v, running.chosen.all_ohm
    point = running.regulator_law.operating_point(full_v, all_ohm, run.load)
    gadget_v, cell_a = float(point.gadget_v), float(point.cell_a)
    if not np.isfinite(gadget_v) or not np.isfinite(cell_a):
        return 0.0
    out_w = gadget_v * float(run.load.current(gadget_v))
    return max((full_v - all_ohm * cell_a) * cell_a - out_w, 0.0)


def plugged_input_v(running: Running) -> float | None:
    """Volts before the regulator while it is plugged in, lightest load; None where the cell feeds it then.

    A diode on the way takes off the least where least flows, so it is left out.
    """
    build = running.build
    return build.source.volts if build.who_charges == "board" and build.use_while_charging in FED_FROM_5V else None


def _burnt_plugged_in_w(running: Running, run: ModeRun) -> float:
    """The same on the 5 V: P = V_in I_in - V_out I_out, with the drop of a diode on the way left to the diode."""
    fed_v = plugged_input_v(running)
    if fed_v is None:
        return 0.0
    law = law_of_regulator(running.chain.regulator)
    point = law.operating_point(fed_v, 0.0, run.load)
    gadget_v, drawn_a = float(point.gadget_v), float(point.cell_a)
    if not np.isfinite(gadget_v) or not np.isfinite(drawn_a):
        return 0.0
    return max(fed_v * drawn_a - gadget_v * float(run.load.current(gadget_v)), 0.0)


@dataclass(frozen=True)
class PeakReset:
    """A peak that pulls the gadget under its lowest volts while charge is left: `left` is that share of the charge."""

    mode: Mode
    left: float
    cell_v: float


def first_peak_reset(running: Running) -> PeakReset | None:
    """The peak that resets the gadget earliest; None where none does before its run ends anyway."""
    resets = []
    for run in running.runs:
        if run.mode.peak_a is None or run.mode.peak_a <= run.mode.current_a or run.hours <= 0:
            continue
        left = _left_where_peak_fails(running, run)
        if left > run.unused:
            resets.append(PeakReset(run.mode, left, float(running.chosen.curve.at(left))))
    return max(resets, key=lambda reset: reset.left, default=None)


def _left_where_peak_fails(running: Running, run: ModeRun) -> float:
    """By halves: with more charge the gadget always sees more volts under the same peak."""
    peak, least_v = running.chain.load_of(run.mode, run.mode.most_a), running.chain.window.v_run_min

    def carried(soc: float) -> bool:
        return running.gadget_v_at(float(running.chosen.curve.at(soc)), peak) >= least_v

    low, high = 0.0, 1.0
    if not carried(high):
        return 1.0
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        low, high = (low, middle) if carried(middle) else (middle, high)
    return high
