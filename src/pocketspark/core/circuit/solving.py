"""Composes the build as wired from the laws of its parts, and solves all its states at once."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.chain import Charging, Running
from pocketspark.core.chain.chosen_cell import AGED_RESISTANCE
from pocketspark.core.chain.old_charger import in_the_old_jack, old_charger
from pocketspark.core.chain.states import FED_FROM_5V, THROUGH_A_DIODE, InState, State
from pocketspark.core.circuit.corners import OF_THE_CELL, OF_THE_SOURCE, Circuit, Feed, Solved
from pocketspark.core.circuit.uses import Use, uses_of
from pocketspark.core.kinds.regulators import SCHOTTKY, law_of_regulators
from pocketspark.core.models import Regulator
from pocketspark.core.physics.charge_and_discharge import ChargerSetting
from pocketspark.core.physics.load import NO_LOAD, Load, stacked
from pocketspark.core.physics.ocv import Floats, Numbers
from pocketspark.core.physics.regulator_laws import InARow, OperatingPoint, RegulatorLaw, behind_diodes, junction_v

# Open-circuit voltages of the cell that are tried, from nearly empty to full.
CHARGES = 6
# So far under its pre-charge voltage a cell is flat: 2.5 V with most chargers (common practice, no source).
FLAT_UNDER_V = 0.4
# With these it is meant that the old adapter may be plugged in again; what else reaches the cell has its own rule.
ADAPTER_STAYS = ("moved", "diode")
# A 5 V port gives 4.75 to 5.25 V (USB 2.0, from memory).
PORT_OFF = 0.05


def circuit_of(running: Running) -> Circuit:
    """Worked out once for a chain, and kept as long as that lives."""
    return running.chain.kept(Circuit, lambda: _solve(running))


def _solve(running: Running) -> Circuit:
    uses, charging = uses_of(running.chain), running.charging
    rest_v = tuple(np.linspace(running.cell.facts.empty_v, running.chosen.full_v, CHARGES).tolist())
    solved = [_unplugged(running, uses, rest_v)]
    if charging is not None and charging.in_the_gadget:
        used = uses[:1] if running.build.use_while_charging == "off" else uses
        solved += [*_plugged_in(running, charging, used, rest_v), _without_cell(running, charging, used)]
    if running.gadget.existing_charging.treatment in ADAPTER_STAYS and old_charger(running.gadget) is not None:
        solved.append(_on_old_adapter(running, uses, (rest_v[0], rest_v[-1])))
    return Circuit(running, tuple(solved))


# The ways in which it is fed --------------------------------------------------------------------------------------


def _unplugged(running: Running, uses: tuple[Use, ...], rest_v: tuple[float, ...]) -> Solved:
    chosen, behind = running.chosen, _behind(running, uses)
    ocv_v = _charge_axis(rest_v)
    worn = np.array([1.0, 1.0 if running.build.aged else AGED_RESISTANCE])[None, None, :]
    r_ohm = chosen.r_ohm_at(ocv_v) * worn
    # What hangs before the regulator is small: its own drop over the cell is taken off first.
    settled = behind.settled(ocv_v - r_ohm * behind.before_a, r_ohm + chosen.path_ohm)
    cell_a = _or_wanted(uses, settled.drawn_a) + behind.before_a
    found = {"cell_out_a": cell_a, "cell_a": cell_a, "cell_v": ocv_v - r_ohm * cell_a, **settled.quantities}
    return Solved("unplugged", uses, rest_v, OF_THE_CELL, found)


def _plugged_in(
    running: Running, charging: Charging, uses: tuple[Use, ...], rest_v: tuple[float, ...]
) -> tuple[Solved, Solved]:
    """With the cell at each charge, and with a flat one, under its pre-charge voltage."""
    states, flat_v = charging.states, max(charging.charger.precharge_v - FLAT_UNDER_V, 0.1)
    source_v, setting = _at_tolerance(charging)
    hanging, on_5v = _while_plugged_in(running, uses)
    beside_cell = states.on_the_charger(None) if on_5v else hanging
    at = states.charged(_charge_axis((flat_v, *rest_v)), setting, source_v, beside_cell, hanging if on_5v else None)
    settled = hanging.settled(at.board_v if on_5v else at.charger_v, 0.0)
    found = {
        "board_v": at.board_v,
        "cell_v": at.cell_v,
        "source_a": at.source_a,
        "charger_a": at.charger_a,
        "cell_out_a": np.maximum(at.cell_a, 0.0),
        "cell_in_a": np.maximum(-at.cell_a, 0.0),
        "cell_a": np.abs(at.cell_a),
        **settled.quantities,
    }
    shape = len(uses), 1 + len(rest_v), len(OF_THE_SOURCE)
    found = {name: np.broadcast_to(of, shape) for name, of in found.items()}
    charged = {name: of[:, 1:] for name, of in found.items()}
    flat = _unless_stopped(running, uses, {name: of[:, :1] for name, of in found.items()})
    return (
        Solved("plugged in", uses, rest_v, OF_THE_SOURCE, charged),
        Solved("plugged in, flat cell", uses, (flat_v,), OF_THE_SOURCE, flat),
    )


def _unless_stopped(running: Running, uses: tuple[Use, ...], found: Mapping[str, Floats]) -> dict[str, Floats]:
    """A gadget that gets less than it needs has stopped, and is in no such use."""
    awake = np.array([use.kind != "asleep" for use in uses])[:, None, None]
    stopped = awake & ~(found["gadget_v"] >= running.chain.stops_at_v)
    return {name: np.where(stopped, np.nan, of) for name, of in found.items()}


def _on_old_adapter(running: Running, uses: tuple[Use, ...], rest_v: tuple[float, ...]) -> Solved:
    """In its old jack, which was moved to the charger or leads to the terminals behind a diode."""
    used = tuple(use for use in uses if use.kind in ("asleep", "mode"))
    states = running.charging.states if running.charging else InState(running.chosen)
    found = [[in_the_old_jack(states, rest, use.mode) for rest in rest_v] for use in used]

    def each(what: Callable[[State], float | None]) -> Floats:
        return np.array([[[np.nan if (of := what(state)) is None else of] for state in row] for row in found])

    cell_a = each(lambda state: state.cell_a)
    return Solved(
        "old adapter",
        used,
        rest_v,
        ("nominal",),
        {
            "cell_v": each(lambda state: state.cell_v),
            "gadget_v": each(lambda state: state.gadget_v),
            "gadget_a": each(lambda state: state.gadget_a),
            "cell_out_a": np.maximum(cell_a, 0.0),
            "cell_in_a": np.maximum(-cell_a, 0.0),
            "cell_a": np.abs(cell_a),
        },
    )


def _without_cell(running: Running, charging: Charging, uses: tuple[Use, ...]) -> Solved:
    """The gadget hangs on the 5 V; or the charger holds its end voltage on the empty pads, as far as it can give."""
    source_v, setting = _at_tolerance(charging)
    hanging, on_5v = _while_plugged_in(running, uses)
    feed: Feed = "plugged in, no cell"
    if on_5v:
        settled = hanging.settled(source_v, charging.build.source.r_cable_ohm)
        return Solved(feed, uses, (None,), OF_THE_SOURCE, {"source_a": settled.drawn_a, **settled.quantities})
    settled = hanging.settled(np.full((1, 1, 1), setting.float_v), 0.0)
    gives = settled.drawn_a + hanging.before_a <= setting.i_prog_a
    found = {"source_a": settled.drawn_a + hanging.before_a, **settled.quantities}
    return Solved(feed, uses, (None,), OF_THE_SOURCE, {name: np.where(gives, of, np.nan) for name, of in found.items()})


def _charge_axis(rest_v: Sequence[float]) -> Floats:
    return np.array(rest_v)[None, :, None]


def _at_tolerance(charging: Charging) -> tuple[Floats, ChargerSetting]:
    """Volts of the source and the charger's current, as made for and at both ends of what they may be."""
    spread, volts = charging.current.spread, charging.build.source.volts
    source_v = volts * np.array([1.0, 1 + PORT_OFF, 1 - PORT_OFF])[None, None, :]
    i_prog_a = np.array([spread.nominal_a, spread.most_a, spread.least_a])[None, None, :]
    return source_v, replace(charging.setting, i_prog_a=i_prog_a)


def _or_wanted(uses: Sequence[Use], drawn_a: Floats) -> Floats:
    """A use that cannot be carried at all counts as what it asks for."""
    return np.where(np.isnan(drawn_a), np.array([use.wanted_a for use in uses])[:, None, None], drawn_a)


# The way from a supply to the gadget -------------------------------------------------------------------------------


@dataclass(frozen=True)
class Settled:
    """Where the way comes to rest: what it draws from its supply, and everything on it by name."""

    drawn_a: Floats
    quantities: Mapping[str, Floats]


@dataclass(frozen=True)
class WayToGadget:
    """Diodes, the regulators in a row and the gadget in each of its uses, hanging on one supply.

    `is_off`: uses in which the regulator is off or cut off; then `idle_a` flows, and nothing reaches the gadget.
    `is_open`: uses in which the gadget's own switch is open, so that nothing gets behind it. `before_a` is drawn before
    the first regulator in any use.
    """

    regulators: Sequence[Regulator]
    diodes: int
    loads: Load
    is_off: NDArray[np.bool_]
    is_open: NDArray[np.bool_]
    idle_a: float
    before_a: float

    @property
    def law(self) -> RegulatorLaw:
        return behind_diodes(self.diodes, SCHOTTKY, law_of_regulators(self.regulators))

    def current(self, volts: Numbers) -> Floats:
        """Amperes at these volts; a regulator that cannot carry its load there takes nothing."""
        drawn_a = self.law.operating_point(volts, 0.0, self.loads).cell_a
        return np.where(self.is_off, self.idle_a, np.where(np.isnan(drawn_a), 0.0, drawn_a)) + self.before_a

    def settled(self, ocv_v: Floats, r_ohm: Numbers) -> Settled:
        """On a source of `ocv_v` behind `r_ohm`; what hangs before the regulator is not in it."""
        point = self.law.operating_point(ocv_v, r_ohm, self.loads)
        gadget_v = np.where(self.is_off, np.nan, point.gadget_v)
        seen_v = np.where(self.is_open, np.nan, gadget_v)
        found = {"gadget_v": seen_v, "gadget_a": self.loads.current(gadget_v)}
        row_ohm = r_ohm + self.diodes * SCHOTTKY.rs_ohm
        row_v = ocv_v - self.diodes * junction_v(SCHOTTKY, np.where(np.isnan(point.cell_a), 0.0, point.cell_a))
        found |= _in_the_row(self.regulators, 0, point, row_v, row_ohm, self.loads, self.is_off)
        return Settled(np.where(self.is_off, self.idle_a, point.cell_a), found)


def _in_the_row(
    regulators: Sequence[Regulator],
    first: int,
    point: OperatingPoint,
    ocv_v: Floats,
    r_ohm: Numbers,
    loads: Load,
    is_off: NDArray[np.bool_],
) -> dict[str, Floats]:
    """What goes into each regulator from this one on and comes out of it, and the watts that stay in it.

    `point`: where the row from here on rests, on a source of `ocv_v` behind `r_ohm`.
    """
    if first == len(regulators):
        return {}
    law = law_of_regulators(regulators[first:])
    if isinstance(law, InARow):
        out_v, out_a = law.between(ocv_v, r_ohm, loads)
    else:
        out_v, out_a = point.gadget_v, loads.current(point.gadget_v)
    # Cut off, nothing flows in it; whether it still sees its input depends on where it is cut off, and is left out.
    in_v, in_a, out_v, out_a = (
        np.where(is_off, np.nan, of) for of in (ocv_v - r_ohm * point.cell_a, point.cell_a, out_v, out_a)
    )
    name = f"regulator{first}"
    here = {
        f"{name}_in_v": in_v,
        f"{name}_in_a": in_a,
        f"{name}_out_v": out_v,
        f"{name}_out_a": out_a,
        f"{name}_w": in_v * in_a - out_v * out_a,
    }
    after = OperatingPoint(point.gadget_v, out_a)
    return here | _in_the_row(regulators, first + 1, after, np.asarray(out_v), 0.0, loads, is_off)


def _behind(running: Running, uses: Sequence[Use]) -> WayToGadget:
    """The way from the cell to the gadget."""
    asleep = InState(running.chosen).on_the_cell(None)
    is_off = np.array([use.load is None for use in uses])[:, None, None]
    before_a = InState(running.chosen).before_a
    return WayToGadget(
        running.chosen.regulators_in_the_way,
        running.chosen.run_path_diodes,
        stacked([use.load or NO_LOAD for use in uses], axes=2),
        is_off,
        _open(use.load for use in uses),
        asleep.before_a - before_a if asleep.load is None else 0.0,
        before_a,
    )


def _while_plugged_in(running: Running, uses: Sequence[Use]) -> tuple[WayToGadget, bool]:
    """The way from the board's 5 V, where the gadget is fed from there; else from the charger's output."""
    behind, way = _behind(running, uses), running.build.use_while_charging
    if way not in FED_FROM_5V:
        return behind, False
    # Whatever the switch cuts off, it cuts off behind the change-over.
    loads = [use.load or running.chain.off_load for use in uses]
    hanging = replace(
        behind,
        regulators=running.chain.regulators,
        diodes=int(way in THROUGH_A_DIODE),
        loads=stacked(loads, axes=2),
        is_off=np.zeros_like(behind.is_off),
        is_open=_open(loads),
    )
    return hanging, True


def _open(loads: Iterable[Load | None]) -> NDArray[np.bool_]:
    """Where nothing is drawn at all the gadget's own switch is open."""
    return np.array([load == NO_LOAD for load in loads])[:, None, None]
