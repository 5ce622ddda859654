"""The running and the charging circuit as SPICE netlists, as ngspice reads them."""

from pocketspark.core.chain import WIRES_OHM, Chain
from pocketspark.core.models import Mode, Regulator

# A working point below half the source is the stuck branch of a constant-power load: a node set keeps it off.
_SETTLE = (".options reltol=1e-7 vntol=1e-9", ".temp 27")


def running_netlist(chain: Chain, mode: Mode, ocv_v: float) -> str:
    """The cell at this open-circuit voltage, through protections, wires and regulator, into one mode; asks node `gadget`."""
    lines = [f"* {chain.gadget.name}: running, {mode.name}", f"Vcell ocv_v 0 {ocv_v:.6g}"]
    lines.append(f"Rcell ocv_v cell {float(chain.group.r_ohm):.6g}")
    node = "cell"
    for index, protection in enumerate(chain.protections):
        lines.append(f"Rprotection{index} {node} g{index} {2 * protection.r_on_ohm:.6g}")
        node = f"g{index}"
    lines.append(f"Rwires {node} in {WIRES_OHM:.6g}")
    source = "in"
    if chain.run_path_diode:
        lines += [".model dpath d is=2.5e-6 n=1.05 rs=0.04", "Dpath in after dpath"]
        source = "after"
    lines += _regulator(chain.regulator, source, mode, chain)
    lines += _load(mode, chain)
    return _netlist(lines, ocv_v, "gadget")


def charging_netlist(chain: Chain, ocv_v: float) -> str:
    """5 V through cable and charger into the cell: constant current, or the float voltage held; asks node `cell`."""
    charger, source = chain.charger, chain.build.source
    limit = f"min({chain.spread.nominal_a:.6g}, ({charger.float_v:.6g} - {ocv_v:.6g}) / {float(chain.group.r_ohm):.6g})"
    drop_out = f"max((V(board) - V(cell)) / {charger.pass_ohm:.6g}, 0)"
    lines = [
        f"* {chain.gadget.name}: charging",
        f"Vusb usb 0 {source.volts:.6g}",
        f"Rcable usb board {max(source.r_cable_ohm, 1e-6):.6g}",
        f"Bcharger board cell I=min({limit}, {drop_out})",
        f"Rcell cell ocv_v {float(chain.group.r_ohm):.6g}",
        f"Vcell ocv_v 0 {ocv_v:.6g}",
    ]
    return _netlist(lines, ocv_v, "cell")


def _netlist(lines: list[str], ocv_v: float, asked: str) -> str:
    nodeset = f".nodeset v({asked})={ocv_v:.4g}"
    control = [".control", "op", f"print v({asked})", ".endc", ".end", ""]
    return "\n".join([*lines, *_SETTLE, nodeset, *control])


def _regulator(regulator: Regulator, node: str, mode: Mode, chain: Chain) -> list[str]:
    """What stands between `node` and `gadget`."""
    if regulator.kind == "none":
        return [f"Rregulator {node} gadget 1e-6"]
    if regulator.kind == "diode":
        model = f".model dregulator d is={regulator.is_a:.6g} n={regulator.n:.6g} rs={regulator.rs_ohm:.6g}"
        return [model, f"Dregulator {node} gadget dregulator"]
    if regulator.kind == "ldo":
        out = f"min({regulator.v_set}, V({node}) - {regulator.drop_v:.6g} - {regulator.drop_ohm:.6g} * I(Vsense))"
        return [
            f"Bregulator x 0 V={out}",
            "Vsense x gadget 0",
            f"Fregulator {node} 0 Vsense 1",
            f"Iq {node} 0 {regulator.iq_a:.6g}",
        ]
    return _converter(regulator, node, mode, chain)


def _converter(regulator: Regulator, node: str, mode: Mode, chain: Chain) -> list[str]:
    """A converter holds its setting, and draws what that takes as constant power."""
    assert regulator.v_set is not None
    load_a = float(chain.load_of(mode).current(regulator.v_set))
    out_w = regulator.v_set * load_a
    loss_w = regulator.fixed_loss_w * out_w / max(out_w + regulator.fixed_loss_w, 1e-12)
    power = out_w / regulator.efficiency + loss_w
    return [
        f"Vset gadget 0 {regulator.v_set:.6g}",
        f"Rinput {node} conv {max(regulator.input_ohm, 1e-6):.6g}",
        f"Bconv conv 0 I={regulator.iq_a:.6g} + {power:.6g} / max(V(conv), 1.5)",
        ".nodeset v(conv)=3.6",
    ]


def _load(mode: Mode, chain: Chain) -> list[str]:
    at_v = chain.gadget.volts_of(mode)
    law = chain.gadget.law_of(mode)
    if law == "resistance":
        return [f"Rload gadget 0 {at_v / mode.current_a:.6g}"]
    if law == "power":
        return [f"Bload gadget 0 I={at_v * mode.current_a:.6g} / max(V(gadget), 0.5)"]
    return [f"Iload gadget 0 {mode.current_a:.6g}"]
