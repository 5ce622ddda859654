"""What flows and what stands at each node of a build, in each of its states: composed from the laws of its parts.

From the USB port to the gadget: `usb`, through the cable to `board`, through the charger to `cell` (the cell's own
terminals), through protection and wires and perhaps a diode to the regulator, and so to `gadget`.
"""

from dataclasses import dataclass
from typing import Literal

from pocketspark.core.chain.running import SCHOTTKY, Running
from pocketspark.core.kinds.regulators import law_of_regulator
from pocketspark.core.models import Mode
from pocketspark.core.models.build import UseWhileCharging
from pocketspark.core.physics.charge_and_discharge import ChargerSetting, charging_now
from pocketspark.core.physics.load import NO_LOAD, or_zero
from pocketspark.core.physics.regulators import BehindDiode, RegulatorLaw, ThroughRegulator

# While the 5 V is there the gadget hangs on it, and not on the cell.
FED_FROM_5V: frozenset[UseWhileCharging] = frozenset({"two_diodes", "load_sharing", "change_over"})
_THROUGH_A_DIODE: frozenset[UseWhileCharging] = frozenset({"two_diodes", "load_sharing"})

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


@dataclass(frozen=True)
class InState:
    """One build, to be asked for its states. `setting`: its charger as it is set; None where none is chosen."""

    running: Running
    setting: ChargerSetting | None = None

    @property
    def _way(self) -> UseWhileCharging:
        return self.running.build.use_while_charging

    @property
    def _before_a(self) -> float:
        """What hangs before the regulator and draws whether the gadget is on or off."""
        gadget = self.running.gadget
        return gadget.off_current_a if gadget.off_path == "before_regulator" else 0.0

    # Laws by which the gadget hangs on its supply --------------------------------------------------------------

    def on_the_cell(self, mode: Mode | None) -> ThroughRegulator:
        """The gadget in this mode, or off, as the cell's terminals see it: protection, wires and regulator between."""
        chain, chosen = self.running.chain, self.running.chosen
        law, place = self.running.regulator_law, self.running.build.switch_place
        if mode is None and place != "gadget":
            idle_a = chain.regulator.iq_off_a if place == "enable" else 0.0
            return ThroughRegulator(law, chosen.path_ohm, None, self._before_a + idle_a)
        load = chain.off_load if mode is None else chain.load_of(mode)
        return ThroughRegulator(law, chosen.path_ohm, load, self._before_a)

    def on_the_5v(self, mode: Mode | None) -> ThroughRegulator:
        """The gadget in this mode as the charger board's 5 V sees it, where it is fed from there."""
        inner = law_of_regulator(self.running.chain.regulator)
        law: RegulatorLaw = BehindDiode(SCHOTTKY, inner) if self._way in _THROUGH_A_DIODE else inner
        load = self.running.chain.off_load if mode is None else self.running.chain.load_of(mode)
        return ThroughRegulator(law, 0.0, load, self._before_a)

    def load_on_cell(self, mode: Mode | None) -> ThroughRegulator:
        """What hangs on the cell's terminals while it charges."""
        if self._way == "on_cell" and mode is not None:
            return self.on_the_cell(mode)
        if self._way in FED_FROM_5V:
            return ThroughRegulator(self.running.regulator_law, 0.0, None, 0.0)
        return self.on_the_cell(None)

    def source_load_a(self, mode: Mode | None) -> float:
        """What the gadget takes from the 5 V by itself, beside the charger: nothing where it hangs on the cell."""
        if self._way not in FED_FROM_5V or mode is None:
            return 0.0
        source = self.running.build.source
        drawn = self.on_the_5v(mode)
        # Alone on its cable; with the charger beside it a converter takes a per cent or two more.
        point = drawn.law.operating_point(source.volts, source.r_cable_ohm, drawn.load or NO_LOAD)
        return or_zero(point.cell_a) + drawn.before_a

    # States ----------------------------------------------------------------------------------------------------

    def runs(self, ocv_v: float, mode: Mode) -> State:
        """Unplugged, in this mode, the cell at this open-circuit voltage."""
        return self._from_cell("running", ocv_v, self.on_the_cell(mode), mode)

    def switched_off(self, ocv_v: float) -> State:
        return self._from_cell("switched off", ocv_v, self.on_the_cell(None), None)

    def _from_cell(self, name: StateName, ocv_v: float, drawn: ThroughRegulator, mode: Mode | None) -> State:
        r_ohm = self.running.chosen.r_ohm
        # What hangs before the regulator is small: its own drop over the cell is taken off first.
        at_v = ocv_v - r_ohm * drawn.before_a
        if drawn.load is None:
            return State(name, None, at_v, None, 0.0, 0.0, drawn.before_a, 0.0)
        point = drawn.law.operating_point(at_v, r_ohm + drawn.r_ohm, drawn.load)
        through_a, gadget_v = or_zero(point.cell_a), or_zero(point.gadget_v) or None
        gadget_a = float(drawn.load.current(gadget_v)) if gadget_v else 0.0
        cell_a = through_a + drawn.before_a
        return State(name, None, ocv_v - r_ohm * cell_a, gadget_v, 0.0, 0.0, cell_a, gadget_a)

    def charges(self, ocv_v: float, mode: Mode | None, source_v: float | None = None) -> State:
        """Plugged in, the cell at this open-circuit voltage, the gadget off or in this mode in the chosen way.

        `source_v`: of another source than the build's.
        """
        assert self.setting is not None
        name: StateName = "charging, off" if mode is None else "charging, in use"
        source = self.running.build.source
        source = source if source_v is None else source.model_copy(update={"volts": source_v})
        used = None if self._way == "off" else mode
        on_cell = self.load_on_cell(used)
        from_5v = self.on_the_5v(used) if self._way in FED_FROM_5V else None
        beside_a, charger_a, board_v, cell_v = 0.0, 0.0, source.volts, ocv_v
        for _ in range(_ROUNDS):
            setting = self.setting.fed_by(source.volts - source.r_cable_ohm * beside_a)
            cell_v, charger_a = charging_now(ocv_v, setting, self.running.chosen.r_ohm, on_cell)
            board_v = source.volts - source.r_cable_ohm * (charger_a + beside_a)
            beside_a = float(from_5v.current(board_v)) if from_5v else 0.0
        gadget_v, gadget_a = self._gadget(from_5v, board_v) if from_5v else self._gadget(on_cell, cell_v)
        cell_a = (ocv_v - cell_v) / self.running.chosen.r_ohm
        return State(name, board_v, cell_v, gadget_v, charger_a + beside_a, charger_a, cell_a, gadget_a)

    def without_cell(self, mode: Mode | None) -> State:
        """Plugged in with no cell there: the charger holds its end voltage on the empty pads, as far as it can give."""
        assert self.setting is not None
        source = self.running.build.source
        used = None if self._way == "off" else mode
        if self._way in FED_FROM_5V:
            drawn = self.on_the_5v(used)
            beside_a, board_v = 0.0, source.volts
            for _ in range(_ROUNDS):
                beside_a = float(drawn.current(board_v))
                board_v = source.volts - source.r_cable_ohm * beside_a
            gadget_v, gadget_a = self._gadget(drawn, board_v)
            return State("plugged in, no cell", board_v, self.setting.float_v, gadget_v, beside_a, 0.0, 0.0, gadget_a)
        on_pads = self.load_on_cell(used)
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
