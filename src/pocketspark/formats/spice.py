"""The running and the charging circuit as SPICE netlists, as ngspice reads them."""

from pocketspark.core.chain import WIRES_OHM, Chain, Charging, Running
from pocketspark.core.kinds.regulators import kind_of
from pocketspark.core.models import Mode

# A working point below half the source is the stuck branch of a constant-power load: a node set keeps it off.
_SETTLE = (".options reltol=1e-7 vntol=1e-9", ".temp 27")


def running_netlist(running: Running, mode: Mode, ocv_v: float) -> str:
    """The cell at this voltage, through protections, wires and regulator, into one mode; asks node `gadget`."""
    chain = running.chain
    lines = [comment(f"{chain.gadget.name}: running, {mode.name}"), f"Vcell ocv 0 {ocv_v:.6g}"]
    lines.append(f"Rcell ocv cell {running.chosen.r_ohm:.6g}")
    node = "cell"
    for number, protection in enumerate(chain.protections):
        lines.append(f"Rprotection{number} {node} p{number} {2 * protection.r_on_ohm:.6g}")
        node = f"p{number}"
    lines.append(f"Rwires {node} in {WIRES_OHM:.6g}")
    source = "in"
    if running.run_path_diode:
        lines += [".model dpath d is=2.5e-6 n=1.05 rs=0.04", "Dpath in after dpath"]
        source = "after"
    set_v = chain.regulator.v_set or 0.0
    load_a = float(chain.load_of(mode).current(set_v)) if set_v else mode.current_a
    lines += kind_of(chain.regulator).spice(chain.regulator, source, load_a)
    lines += _load(mode, chain)
    return _netlist(lines, ocv_v, "gadget")


def charging_netlist(charging: Charging, ocv_v: float) -> str:
    """5 V through cable and charger into the cell: constant current, or the end voltage held; asks node `cell`."""
    charger, source, r_ohm = charging.charger, charging.build.source, charging.chosen.r_ohm
    limit = f"min({charging.current.spread.nominal_a:.6g}, ({charger.float_v:.6g} - {ocv_v:.6g}) / {r_ohm:.6g})"
    drop_out = f"max((V(board) - V(cell)) / {charger.pass_ohm:.6g}, 0)"
    lines = [
        comment(f"{charging.chain.gadget.name}: charging"),
        f"Vusb usb 0 {source.volts:.6g}",
        f"Rcable usb board {max(source.r_cable_ohm, 1e-6):.6g}",
        f"Bcharger board cell I=min({limit}, {drop_out})",
        f"Rcell cell ocv {r_ohm:.6g}",
        f"Vcell ocv 0 {ocv_v:.6g}",
    ]
    return _netlist(lines, ocv_v, "cell")


def comment(text: str) -> str:
    """A title line: plain characters only, and not one that the simulator reads as a command."""
    plain = "".join(letter if letter.isascii() and (letter.isalnum() or letter in " ,:-") else "?" for letter in text)
    return f"* {plain[:200]}"


def _netlist(lines: list[str], ocv_v: float, asked: str) -> str:
    nodeset = f".nodeset v({asked})={ocv_v:.4g}"
    control = [".control", "op", f"print v({asked})", ".endc", ".end", ""]
    return "\n".join([*lines, *_SETTLE, nodeset, *control])


def _load(mode: Mode, chain: Chain) -> list[str]:
    at_v = chain.gadget.volts_of(mode)
    law = chain.gadget.law_of(mode)
    if law == "resistance":
        return [f"Rload gadget 0 {at_v / mode.current_a:.6g}"]
    if law == "power":
        return [f"Bload gadget 0 I={at_v * mode.current_a:.6g} / max(V(gadget), 0.5)"]
    return [f"Iload gadget 0 {mode.current_a:.6g}"]
