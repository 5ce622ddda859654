"""What the way from the cell lets into the gadget at its volts, and what that takes from the cell."""

from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np

from pocketspark.core.chain import ChosenCell
from pocketspark.core.kinds.regulators import SCHOTTKY, law_of_regulator, most_given_a
from pocketspark.core.models import Regulator
from pocketspark.core.physics.ocv import Floats
from pocketspark.core.physics.regulator_laws import (
    PASS_THROUGH_V,
    THERMAL_V,
    Converter,
    DroppingResistor,
    LinearRegulator,
    RegulatorLaw,
    SeriesDiode,
    StepDown,
    StepUp,
)

# A converter raises its output within some milliseconds (common practice: soft start).
SOFT_START_S = 0.003
# Siemens by which a regulator holds its volts.
HOLDS = 20.0
# A hair past its volts it is still ready to give again.
JUST_A = 1e-3


class Given(NamedTuple):
    """Amperes into the gadget, how they change with its volts, and amperes out of the cell."""

    amps: Floats
    by_volts: Floats
    cell_a: Floats


@dataclass(frozen=True)
class StartSupply:
    """Cells of one build at several charges, at once. `ocv_v`, `r_ohm`: each with its way to the regulator."""

    ocv_v: Floats
    r_ohm: Floats
    diodes: int
    regulator: Regulator

    @cached_property
    def _law(self) -> RegulatorLaw:
        return law_of_regulator(self.regulator)

    def gives(self, volts: Floats, cell_v: Floats, since_s: float) -> Given:
        """`cell_v`: of the moment before, for what converts; `since_s`: since it got its volts."""
        is_linear = isinstance(self._law, LinearRegulator)
        if isinstance(self._law, Converter):
            return self._converted(volts, cell_v, since_s)
        ohm = self.r_ohm + self.diodes * SCHOTTKY.rs_ohm
        if isinstance(self._law, DroppingResistor):
            ohm = ohm + (self.regulator.series_ohm or 0.0)
        open_v = self.ocv_v - self.diodes * _across(SCHOTTKY, self.ocv_v - volts)
        if isinstance(self._law, SeriesDiode):
            ohm, open_v = ohm + self.regulator.rs_ohm, open_v - _across(self.regulator, self.ocv_v - volts)
        if is_linear:
            ohm, open_v = ohm + self.regulator.drop_ohm, open_v - self.regulator.drop_v
        lets = (open_v - volts) / ohm
        slope = -1 / ohm
        if is_linear:
            held = HOLDS * ((self.regulator.v_set or 0.0) - volts)
            most_a = most_given_a(self.regulator)
            given = np.minimum(np.minimum(lets, held), most_a)
            slope = np.where(given == most_a, 0.0, np.where(held < lets, -HOLDS, slope))
            lets = given
        amps = np.maximum(lets, 0.0)
        return Given(amps, np.where(lets > -JUST_A, slope, 0.0), amps + self.regulator.iq_a * is_linear)

    def highest_v(self, since_s: float) -> Floats:
        """It raises the gadget no higher: a current limit by itself knows no end."""
        one = self.regulator
        if isinstance(self._law, LinearRegulator):
            return np.minimum(one.v_set or 0.0, self.ocv_v)
        if not isinstance(self._law, Converter):
            return self.ocv_v
        set_v = (one.v_set or 0.0) * min(since_s / SOFT_START_S, 1.0)
        if isinstance(self._law, StepUp):
            return np.maximum(set_v, self.ocv_v - PASS_THROUGH_V)
        return np.minimum(set_v, self.ocv_v) if isinstance(self._law, StepDown) else np.full_like(self.ocv_v, set_v)

    def _converted(self, volts: Floats, cell_v: Floats, since_s: float) -> Given:
        """Up to its limit what holds its setting, which rises softly; a step-up lets its input through before."""
        one = self.regulator
        set_v = (one.v_set or 0.0) * min(since_s / SOFT_START_S, 1.0)
        works = cell_v > one.v_in_min
        held = np.where(works, HOLDS * (set_v - volts), 0.0)
        if isinstance(self._law, StepDown):
            held = np.minimum(held, (cell_v - volts) / max(one.drop_ohm, 0.05))
        # What the cell can give at all, at half its volts, bounds what comes out.
        most_w = one.efficiency * cell_v * np.maximum((self.ocv_v - cell_v * 0.5) / self.r_ohm, 0.0)
        most_a = np.minimum(most_given_a(one), most_w / np.maximum(volts, 0.5))
        given = np.clip(held, 0.0, most_a)
        slope = np.where((held > -JUST_A) & (held < most_a), -HOLDS, 0.0)
        passed = np.zeros_like(volts)
        if isinstance(self._law, StepUp):
            ohm = self.r_ohm + max(one.input_ohm, 0.02)
            passed = np.maximum((self.ocv_v - PASS_THROUGH_V - volts) / ohm, 0.0)
            slope = slope - np.where(passed > 0, 1 / ohm, 0.0)
        drawn = given * np.maximum(volts, 0.0) / one.efficiency / np.maximum(cell_v, 0.5)
        return Given(given + passed, slope, drawn + passed + one.iq_a)


def _across(diode: Regulator, over_v: Floats) -> Floats:
    """Of a diode with these volts over it and its resistance, about what its junction takes: some 0.1 to 0.3 A."""
    return np.asarray(np.minimum(diode.n * THERMAL_V * np.log1p(0.2 / diode.is_a), np.maximum(over_v, 0.0)))


def supply_of(chosen: ChosenCell, ocv_v: Floats) -> StartSupply:
    regulators = chosen.regulators_in_the_way
    last = regulators[-1] if regulators else Regulator(name="none")
    return StartSupply(ocv_v, chosen.all_ohm_at(ocv_v), chosen.run_path_diodes, last)
