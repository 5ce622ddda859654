"""The running and the charging circuit as SPICE netlists, as ngspice reads them."""

from pocketspark.core.chain import WIRES_OHM, Chain
from pocketspark.core.nouns import Mode, Shaper

# A working point below half the source is the stuck branch of a constant-power load: a node set keeps it off.
_SETTLE = (".options reltol=1e-7 vntol=1e-9", ".temp 27")


def running_netlist(chain: Chain, mode: Mode, emf_v: float) -> str:
    """The cell at this open-circuit voltage, through guards, wires and shaper, into one mode; asks node `gadget`."""
    lines = [f"* {chain.gadget.name}: running, {mode.name}", f"Vcell emf 0 {emf_v:.6g}"]
    lines.append(f"Rcell emf cell {float(chain.group.r_ohm):.6g}")
    node = "cell"
    for index, guard in enumerate(chain.guards):
        lines.append(f"Rguard{index} {node} g{index} {2 * guard.r_on_ohm:.6g}")
        node = f"g{index}"
    lines.append(f"Rwires {node} in {WIRES_OHM:.6g}")
    source = "in"
    if chain.run_path_diode:
        lines += [".model dpath d is=2.5e-6 n=1.05 rs=0.04", "Dpath in after dpath"]
        source = "after"
    lines += _shaper(chain.shaper, source, mode, chain)
    lines += _load(mode, chain)
    return _netlist(lines, emf_v, "gadget")


def charging_netlist(chain: Chain, emf_v: float) -> str:
    """5 V through cable and charger into the cell: constant current, or the float voltage held; asks node `cell`."""
    charger, source = chain.charger, chain.build.source
    limit = f"min({chain.spread.nominal_a:.6g}, ({charger.float_v:.6g} - {emf_v:.6g}) / {float(chain.group.r_ohm):.6g})"
    drop_out = f"max((V(board) - V(cell)) / {charger.pass_ohm:.6g}, 0)"
    lines = [
        f"* {chain.gadget.name}: charging",
        f"Vusb usb 0 {source.volts:.6g}",
        f"Rcable usb board {max(source.r_cable_ohm, 1e-6):.6g}",
        f"Bcharger board cell I=min({limit}, {drop_out})",
        f"Rcell cell emf {float(chain.group.r_ohm):.6g}",
        f"Vcell emf 0 {emf_v:.6g}",
    ]
    return _netlist(lines, emf_v, "cell")


def _netlist(lines: list[str], emf_v: float, asked: str) -> str:
    nodeset = f".nodeset v({asked})={emf_v:.4g}"
    control = [".control", "op", f"print v({asked})", ".endc", ".end", ""]
    return "\n".join([*lines, *_SETTLE, nodeset, *control])


def _shaper(shaper: Shaper, node: str, mode: Mode, chain: Chain) -> list[str]:
    """What stands between `node` and `gadget`."""
    if shaper.kind == "none":
        return [f"Rshaper {node} gadget 1e-6"]
    if shaper.kind == "diode":
        model = f".model dshaper d is={shaper.is_a:.6g} n={shaper.n:.6g} rs={shaper.rs_ohm:.6g}"
        return [model, f"Dshaper {node} gadget dshaper"]
    if shaper.kind == "ldo":
        out = f"min({shaper.v_set}, V({node}) - {shaper.drop_v:.6g} - {shaper.drop_ohm:.6g} * I(Vsense))"
        return [
            f"Bshaper x 0 V={out}",
            "Vsense x gadget 0",
            f"Fshaper {node} 0 Vsense 1",
            f"Iq {node} 0 {shaper.iq_a:.6g}",
        ]
    return _converter(shaper, node, mode, chain)


def _converter(shaper: Shaper, node: str, mode: Mode, chain: Chain) -> list[str]:
    """A converter holds its setting, and draws what that takes as constant power."""
    assert shaper.v_set is not None
    load_a = float(chain.load_of(mode).current(shaper.v_set))
    out_w = shaper.v_set * load_a
    loss_w = shaper.fixed_loss_w * out_w / max(out_w + shaper.fixed_loss_w, 1e-12)
    power = out_w / shaper.efficiency + loss_w
    return [
        f"Vset gadget 0 {shaper.v_set:.6g}",
        f"Rinput {node} conv {max(shaper.input_ohm, 1e-6):.6g}",
        f"Bconv conv 0 I={shaper.iq_a:.6g} + {power:.6g} / max(V(conv), 1.5)",
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
