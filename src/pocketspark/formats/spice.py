"""The running and the charging circuit as SPICE netlists, as ngspice reads them."""

import math
from collections.abc import Sequence

from pocketspark.core.chain import WIRES_OHM, Chain, ChosenCell, ChosenParts, Running
from pocketspark.core.chain.old_charger import BODY, old_charger
from pocketspark.core.chain.states import FED_FROM_5V, InState
from pocketspark.core.kinds.regulators import back_through, kind_of
from pocketspark.core.models import Mode, Regulator
from pocketspark.core.physics.regulator_laws import ThroughRegulator

# A working point below half the source is the stuck branch of a constant-power load: a node set keeps it off.
_SETTLE = (".options reltol=1e-5 vntol=1e-7", ".temp 27")


def running_netlist(running: Running, mode: Mode | None, ocv_v: float) -> str:
    """The cell at this voltage, through protections, wires and regulator, into one mode or the switched-off gadget."""
    name = mode.name if mode else "switched off"
    lines = [comment(f"{running.chain.gadget.name}: running, {name}"), f"Vcell ocv 0 {ocv_v:.6g}"]
    lines.append(f"Rcell ocv cell {float(running.chosen.r_ohm_at(ocv_v)):.6g}")
    lines += _gadget_on_cell(running, InState(running.chosen).on_the_cell(mode), mode)
    return _netlist(lines, ocv_v, ("cell", "gadget"), "vcell")


def charging_netlist(chain: Chain, ocv_v: float, mode: Mode | None = None) -> str:
    """5 V through cable and charger into the cell, and the gadget off or in this mode in the way that is chosen.

    The charger gives its set current, or what holds the end voltage, or what its pass element or its heat allow.
    """
    running, charging = chain.required_running(), chain.required_charging()
    charger, source = charging.charger, charging.build.source
    limits = [
        f"{charging.current.spread.nominal_a:.6g}",
        f"{_GAIN:g} * max({charger.float_v:.6g} - V(out), 0)",
        f"max((V(board) - V(out)) / {max(charger.pass_ohm, 1e-6):.6g}, 0)",
    ]
    if math.isfinite(charging.current.burn_limit_w):
        limits.append(f"{charging.current.burn_limit_w:.6g} / max(V(board) - V(out), 1e-3)")
    lines = [
        comment(f"{running.chain.gadget.name}: charging"),
        f"Vusb usb 0 {source.volts:.6g}",
        f"Rcable usb board {max(float(charging.setting.cable_ohm), 1e-6):.6g}",
        f"Bcharger board out I={_least(limits)}",
        f"Rpath out cell {max(charging.path_ohm, 1e-6):.6g}",
        f"Rcell cell ocv {float(running.chosen.r_ohm_at(ocv_v)):.6g}",
        f"Vcell ocv 0 {ocv_v:.6g}",
    ]
    way, states = charging.build.use_while_charging, charging.states
    used = None if way == "off" else mode
    if way in FED_FROM_5V:
        lines += _gadget_on_5v(running, states.on_the_5v(used), used, diode=way != "change_over")
    else:
        lines += _gadget_on_cell(running, states.on_the_charger(used), used, "out")
    return _netlist(lines, ocv_v, ("board", "cell", "gadget"), "vusb")


# Steep enough that the end voltage is held to some ten microvolts.
_GAIN = 2e4
_DIODE = ".model dpath d is=2.5e-6 n=1.05 rs=0.04"


def _least(terms: Sequence[str]) -> str:
    return terms[0] if len(terms) == 1 else f"min({terms[0]}, {_least(terms[1:])})"


def old_jack_netlist(running: Running, mode: Mode | None, ocv_v: float) -> str:
    """The same with the old adapter at the battery terminals: what it gives, and the ways back through a regulator.

    For a charge path that still reaches the terminals: untouched, never plugged in, or behind a diode.
    """
    old, drawn = old_charger(running.gadget), InState(running.chosen).on_the_cell(mode)
    assert old is not None
    gives = f"max(({old.open_v:.6g} - V(gadget)) / {old.r_ohm:.6g}, 0)"
    lines = [
        comment(f"{running.chain.gadget.name}: old adapter plugged in"),
        f"Vcell ocv 0 {ocv_v:.6g}",
        f"Rcell ocv cell {float(running.chosen.r_ohm_at(ocv_v)):.6g}",
        f"Bold 0 gadget I={_least([gives, f'{old.most_a:.6g}'] if math.isfinite(old.most_a) else [gives])}",
        *_gadget_on_cell(running, drawn, mode, gives_only=True),
    ]
    return _netlist(lines, ocv_v, ("cell", "gadget"), "vcell")


# Lets through one way at next to no volts: what a regulator gives it gives, and takes nothing back at its output.
_ONE_WAY = "Bgives held gadget I=1e3 * max(V(held) - V(gadget), 0)"
_BODY = f".model dbody d is={BODY.is_a:.6g} n={BODY.n:.6g}"


def _gadget_on_cell(
    running: Running, drawn: ThroughRegulator, mode: Mode | None, node: str = "cell", *, gives_only: bool = False
) -> list[str]:
    """What hangs on the cell, or on the charger's output at its other side: protections and wires, perhaps a diode, the
    regulator and the gadget; and what hangs before the regulator."""
    lines = [f"Ibefore {node} 0 {drawn.before_a:.6g}"]
    place = running.build.switch_place
    if drawn.load is None and not (gives_only and place == "enable"):
        off = [f"Iload gadget 0 {running.chain.off_load.steady_a:.6g}"] if gives_only else []
        return [*lines, *off, "Rgadget gadget 0 1e6"]
    if node == "cell":
        for number, protection in enumerate(running.chosen.protections_in_the_way):
            lines.append(f"Rprotection{number} {node} p{number} {2 * protection.r_on_ohm:.6g}")
            node = f"p{number}"
        lines.append(f"Rwires {node} in {WIRES_OHM:.6g}")
        node = "in"
    for number in range(running.chosen.run_path_diodes):
        lines += [_DIODE] if number == 0 else []
        lines.append(f"Dpath{number} {node} after{number} dpath")
        node = f"after{number}"
    lets_back = back_through(running.chosen.regulators_in_the_way)
    if not gives_only or lets_back == "freely":
        return lines + _regulated(running.chosen, node, mode)
    lines.append(_ONE_WAY)
    if lets_back == "by_its_diode":
        lines += [_BODY, f"Dbody gadget {node} dbody"]
    if drawn.load is None:
        return [*lines, f"Iload gadget 0 {running.chain.off_load.steady_a:.6g}", "Rheld held 0 1e6"]
    return lines + _regulated(running.chosen, node, mode, "held")


def _gadget_on_5v(running: Running, drawn: ThroughRegulator, mode: Mode | None, *, diode: bool) -> list[str]:
    """The gadget on the board's 5 V, through the selector's diode or through a switch."""
    lines = [f"Ibefore board 0 {drawn.before_a:.6g}"]
    if diode:
        lines += [_DIODE, "Dselector board after dpath"]
    return lines + _regulated(running.chosen, "after" if diode else "board", mode)


def _regulated(chosen: ChosenCell, node: str, mode: Mode | None, out: str = "gadget") -> list[str]:
    # A node on which nothing hangs at all has no place for the simulator to settle at.
    chain = chosen.chain
    drawn = _load(mode, chain) if mode else [f"Iload gadget 0 {chain.off_load.steady_a:.6g}", "Rleak gadget 0 1e7"]
    *before, last = chosen.regulators_in_the_way or [Regulator(name="none")]
    lines: list[str] = []
    for number, regulator in enumerate(before):
        # A circuit of its own, so that the names of its parts are its own.
        inside = [line for line in kind_of(regulator).spice(regulator, "in", "out") if not line.startswith(".nodeset")]
        lines += [
            f".subckt regulator{number} in out",
            *inside,
            ".ends",
            f"X{number} {node} row{number} regulator{number}",
        ]
        node = f"row{number}"
    return lines + kind_of(last).spice(last, node, out) + drawn


def comment(text: str) -> str:
    """A title line: plain characters only, and not one that the simulator reads as a command."""
    plain = "".join(letter if letter.isascii() and (letter.isalnum() or letter in " ,:-") else "?" for letter in text)
    return f"* {plain[:200]}"


def _netlist(lines: list[str], ocv_v: float, asked: Sequence[str], source: str) -> str:
    """Asks these nodes, and what flows into the source at the left."""
    nodeset = ".nodeset " + " ".join(f"v({node})={ocv_v:.4g}" for node in asked)
    control = [".control", "op", *(f"print v({node})" for node in asked), f"print i({source})", ".endc", ".end", ""]
    return "\n".join([*lines, *_SETTLE, nodeset, *control])


def _load(mode: Mode, chain: ChosenParts) -> list[str]:
    at_v = chain.gadget.volts_of(mode)
    law = chain.gadget.law_of(mode)
    if law in ("led", "lamp"):
        load = chain.load_of(mode)
        rising = f"{load.steady_a:.6g} + {load.siemens:.6g} * V(gadget) + {load.power_w:.6g} / max(V(gadget), 0.1)"
        return [f"Bload gadget 0 I=max({rising}, {load.least_a:.6g})"]
    if law == "resistance":
        return [f"Rload gadget 0 {at_v / mode.current_a:.6g}"]
    if law == "power":
        # Below a quarter of the volts it was read at it takes no more: else the simulator may settle below nothing.
        # Not higher: behind a dropping resistor a gadget comes to rest well under half of them.
        return [f"Bload gadget 0 I={at_v * mode.current_a:.6g} / max(V(gadget), {at_v / 4:.4g})"]
    return [f"Iload gadget 0 {mode.current_a:.6g}"]
