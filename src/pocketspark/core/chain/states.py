"""What flows and what stands at each node of a build, in each of its states: composed from the laws of its parts.

From the USB port to the gadget: `usb`, through the cable to `board`, through the charger to `cell` (the cell's own
terminals), through protection and wires and perhaps a diode to the regulator, and so to `gadget`.
"""

from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np

from pocketspark.core.chain.chosen_cell import LEAST_OHM, ChosenCell
from pocketspark.core.kinds.regulators import SCHOTTKY, law_of_regulators
from pocketspark.core.models import Mode
from pocketspark.core.models.build import UseWhileCharging
from pocketspark.core.physics.charge_and_discharge import SETTLED_A, ChargerSetting, charging_now
from pocketspark.core.physics.load import NO_LOAD, Draws, or_zero
from pocketspark.core.physics.ocv import Floats, Numbers
from pocketspark.core.physics.regulator_laws import BehindDiode, RegulatorLaw, ThroughRegulator

# While the 5 V is there the gadget hangs on it, and not on the cell.
FED_FROM_5V: frozenset[UseWhileCharging] = frozenset({"two_diodes", "load_sharing", "change_over"})
THROUGH_A_DIODE: frozenset[UseWhileCharging] = frozenset({"two_diodes", "load_sharing"})

StateName = Literal[
    "running", "switched off", "charging, off", "charging, in use", "plugged in, no cell", "adapter in the old jack"
]


@dataclass(frozen=True)
class State:
    """Volts at the nodes and amperes in the branches; `cell_a` is what leaves the cell, negative while it is charged.

    None: there is no such node in this state, or nothing flows into it because the source cannot carry the load.
    """

    name: StateName
    board_v: float | None
    cell_v: float | None
    gadget_v: float | None
    source_a: float
    charger_a: float
    cell_a: float
    gadget_a: float


class Charged(NamedTuple):
    """Volts at the board, the charger's output and the cell, and amperes: from the source, the charger, the cell."""

    board_v: Floats
    charger_v: Floats
    cell_v: Floats
    source_a: Floats
    charger_a: Floats
    cell_a: Floats


@dataclass(frozen=True)
class InState:
    """One build, to be asked for its states. `setting`: its charger as it is set; None where none is chosen."""

    chosen: ChosenCell
    setting: ChargerSetting | None = None

    @property
    def _way(self) -> UseWhileCharging:
        return self.chosen.chain.build.use_while_charging

    @property
    def before_a(self) -> float:
        """What hangs before the regulator and draws whether the gadget is on or off."""
        gadget = self.chosen.chain.gadget
        return gadget.off_current_a if gadget.off_path == "before_regulator" else 0.0

    # Laws by which the gadget hangs on its supply --------------------------------------------------------------

    def on_the_cell(self, mode: Mode | None) -> ThroughRegulator:
        """The gadget in this mode, or off, as the cell's terminals see it: protection, wires and regulator between."""
        return self._hanging(mode, self.chosen.path_ohm)

    def _hanging(self, mode: Mode | None, path_ohm: float) -> ThroughRegulator:
        chain = self.chosen.chain
        law, place = self.chosen.regulator_law, self.chosen.chain.build.switch_place
        if mode is None and place != "gadget":
            idle_a = chain.regulator.iq_off_a if place == "enable" else 0.0
            return ThroughRegulator(law, path_ohm, None, self.before_a + idle_a)
        load = chain.off_load if mode is None else chain.load_of(mode)
        return ThroughRegulator(law, path_ohm, load, self.before_a)

    def on_the_5v(self, mode: Mode | None) -> ThroughRegulator:
        """The gadget in this mode as the charger board's 5 V sees it, where it is fed from there."""
        inner = law_of_regulators(self.chosen.chain.regulators)
        law: RegulatorLaw = BehindDiode(SCHOTTKY, inner) if self._way in THROUGH_A_DIODE else inner
        load = self.chosen.chain.off_load if mode is None else self.chosen.chain.load_of(mode)
        return ThroughRegulator(law, 0.0, load, self.before_a)

    def on_the_charger(self, mode: Mode | None) -> ThroughRegulator:
        """What hangs on the charger's output while it charges: leads and protection lie between that and the cell."""
        if self._way in FED_FROM_5V:
            return ThroughRegulator(self.chosen.regulator_law, 0.0, None, 0.0)
        return self._hanging(mode if self._way == "on_cell" else None, 0.0)

    def source_load_a(self, mode: Mode | None) -> float:
        """What the gadget takes from the 5 V by itself, beside the charger: nothing where it hangs on the cell."""
        if self._way not in FED_FROM_5V or mode is None:
            return 0.0
        source = self.chosen.chain.build.source
        drawn = self.on_the_5v(mode)
        # Alone on its cable; with the charger beside it a converter takes a per cent or two more.
        point = drawn.law.operating_point(source.volts, source.r_cable_ohm, drawn.load or NO_LOAD)
        return or_zero(point.cell_a) + drawn.before_a

    def gadget_on_charger_v(self, at_v: float) -> float | None:
        """Volts at the gadget in its heaviest mode, the charger's output at these; None where it hangs elsewhere."""
        if self._way != "on_cell":
            return None
        return self._gadget(self.on_the_charger(self.chosen.chain.heaviest), at_v)[0] or 0.0

    # States ----------------------------------------------------------------------------------------------------

    def runs(self, ocv_v: float, mode: Mode) -> State:
        """Unplugged, in this mode, the cell at this open-circuit voltage."""
        return self._from_cell("running", ocv_v, self.on_the_cell(mode), mode)

    def switched_off(self, ocv_v: float) -> State:
        return self._from_cell("switched off", ocv_v, self.on_the_cell(None), None)

    def _from_cell(self, name: StateName, ocv_v: float, drawn: ThroughRegulator, mode: Mode | None) -> State:
        r_ohm = float(self.chosen.r_ohm_at(ocv_v))
        # What hangs before the regulator is small: its own drop over the cell is taken off first.
        at_v = ocv_v - r_ohm * drawn.before_a
        if drawn.load is None:
            return State(name, None, at_v, None, 0.0, 0.0, drawn.before_a, 0.0)
        point = drawn.law.operating_point(at_v, r_ohm + drawn.r_ohm, drawn.load)
        through_a, gadget_v = or_zero(point.cell_a), or_zero(point.gadget_v) or None
        gadget_a = float(drawn.load.current(gadget_v)) if gadget_v else 0.0
        cell_a = through_a + drawn.before_a
        return State(name, None, ocv_v - r_ohm * cell_a, gadget_v, 0.0, 0.0, cell_a, gadget_a)

    def charged(
        self,
        ocv_v: Numbers,
        setting: ChargerSetting,
        source_v: Numbers,
        beside_cell: Draws,
        from_5v: Draws | None,
    ) -> "Charged":
        """Plugged in, in one state or in many: all of them numbers, or arrays that fit together.

        `beside_cell` hangs on the charger's output; `from_5v` on the board's 5 V, where anything does.
        """
        chosen, r_cable_ohm = self.chosen, self.chosen.chain.build.source.r_cable_ohm
        r_ohm = chosen.r_ohm_at(ocv_v)
        all_ohm = np.maximum(r_ohm + chosen.path_ohm, LEAST_OHM)
        beside_a: Numbers = 0.0
        for _ in range(_ROUNDS):
            fed = setting.fed_by(source_v - r_cable_ohm * beside_a)
            charger_v, charger_a = charging_now(ocv_v, fed, all_ohm, beside_cell)
            board_v = np.asarray(source_v - r_cable_ohm * (charger_a + beside_a))
            if from_5v is None:
                break
            before_a, beside_a = beside_a, from_5v.current(board_v)
            if np.max(np.abs(beside_a - before_a)) < SETTLED_A:
                break
        cell_a = (ocv_v - charger_v) / all_ohm
        cell_v = np.asarray(ocv_v - r_ohm * cell_a)
        return Charged(board_v, charger_v, cell_v, np.asarray(charger_a + beside_a), charger_a, cell_a)

    def charges(self, ocv_v: float, mode: Mode | None, source_v: float | None = None) -> State:
        """Plugged in, the cell at this open-circuit voltage, the gadget off or in this mode in the chosen way.

        `source_v`: of another source than the build's.
        """
        assert self.setting is not None
        name: StateName = "charging, off" if mode is None else "charging, in use"
        source = self.chosen.chain.build.source
        used = None if self._way == "off" else mode
        beside_cell = self.on_the_charger(used)
        from_5v = self.on_the_5v(used) if self._way in FED_FROM_5V else None
        at = self.charged(ocv_v, self.setting, source.volts if source_v is None else source_v, beside_cell, from_5v)
        board_v, charger_v, cell_v, source_a, charger_a, cell_a = (float(value) for value in at)
        gadget_v, gadget_a = self._gadget(from_5v, board_v) if from_5v else self._gadget(beside_cell, charger_v)
        return State(name, board_v, cell_v, gadget_v, source_a, charger_a, cell_a, gadget_a)

    def without_cell(self, mode: Mode | None) -> State:
        """Plugged in with no cell there: the charger holds its end voltage on the empty pads, as far as it can give."""
        assert self.setting is not None
        source = self.chosen.chain.build.source
        used = None if self._way == "off" else mode
        if self._way in FED_FROM_5V:
            drawn = self.on_the_5v(used)
            beside_a, board_v = 0.0, source.volts
            for _ in range(_ROUNDS):
                beside_a = float(drawn.current(board_v))
                board_v = source.volts - source.r_cable_ohm * beside_a
            gadget_v, gadget_a = self._gadget(drawn, board_v)
            return State("plugged in, no cell", board_v, self.setting.float_v, gadget_v, beside_a, 0.0, 0.0, gadget_a)
        on_pads = self.on_the_charger(used)
        charger_a = float(on_pads.current(self.setting.float_v))
        if charger_a > self.setting.i_prog_a:
            return State("plugged in, no cell", source.volts, None, None, 0.0, 0.0, 0.0, 0.0)
        board_v = source.volts - source.r_cable_ohm * charger_a
        gadget_v, gadget_a = self._gadget(on_pads, self.setting.float_v)
        return State(
            "plugged in, no cell", board_v, self.setting.float_v, gadget_v, charger_a, charger_a, 0.0, gadget_a
        )

    @staticmethod
    def _gadget(drawn: ThroughRegulator, at_v: float) -> tuple[float | None, float]:
        """Volts and current of the gadget whose supply is held at these volts."""
        if drawn.load is None:
            return None, 0.0
        point = drawn.law.operating_point(at_v, drawn.r_ohm, drawn.load)
        gadget_v = or_zero(point.gadget_v) or None
        return gadget_v, float(drawn.load.current(gadget_v)) if gadget_v else 0.0


# Board volts and the gadget's draw hang on each other by the cable alone: a few rounds settle them.
_ROUNDS = 12
