"""The power path in words: each link of the chain with its two or three live figures."""

from typing import Literal

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Finding, Level, Station, worst
from pocketspark.core.models.model import Model
from pocketspark.core.units.quantity import amp_hours, amps, ohms, volts

NodeKey = Literal["source", "charger", "cell", "protection", "regulator", "gadget"]


class PathNode(Model):
    """One link: its figure, a second line, the worst finding about it. `present` False: still to be chosen."""

    key: NodeKey
    label: str
    figure: str
    detail: str
    present: bool
    level: Level
    station: Station


class PathLink(Model):
    """What flows from one node to the next, as short texts; empty where not known yet."""

    charging: bool
    volts: str = ""
    current: str = ""


class PowerPath(Model):
    """Six nodes and the five links between them."""

    nodes: tuple[PathNode, ...]
    links: tuple[PathLink, ...]


# Which findings are about which node: by code, else by the node's own station.
_ABOUT: dict[NodeKey, tuple[str, ...]] = {
    "source": ("charge.over_source", "charge.type_c_dead"),
    "charger": ("charge.",),
    "cell": ("cell.", "fit."),
    "protection": ("wire.", "power.no_protection", "power.protection", "power.cell_ends_low"),
    "regulator": ("power.regulator", "power.two_regulators", "power.off_drain"),
    "gadget": ("survey.", "power.over_window", "power.under_window"),
}


def power_path(chain: Chain, findings: list[Finding]) -> PowerPath:
    """Draw up the chain of one build."""
    nodes = (_source(chain), _charger(chain), _cell(chain), _protection(chain), _regulator(chain), _gadget(chain))
    judged = tuple(node.model_copy(update={"level": _level(node, findings)}) for node in nodes)
    return PowerPath(nodes=judged, links=_links(chain))


def _level(node: PathNode, findings: list[Finding]) -> Level:
    about = [finding for finding in findings if finding.code.startswith(_ABOUT[node.key])]
    if node.key == "charger":
        about = [finding for finding in about if not finding.code.startswith(_ABOUT["source"])]
    # A part still to be chosen is not a passed one; a regulator may be left out.
    return worst(about, default="pass" if node.present or node.key == "regulator" else "note")


def _node(key: NodeKey, label: str, station: Station, figure: str, detail: str, present: bool = True) -> PathNode:
    return PathNode(key=key, label=label, figure=figure, detail=detail, present=present, level="pass", station=station)


def _source(chain: Chain) -> PathNode:
    source = chain.build.source
    return _node("source", "Source", "charge", f"{source.volts:.1f} V", f"{source.label}, {amps(source.limit_a)}")


def _charger(chain: Chain) -> PathNode:
    if not chain.chargers:
        return _node("charger", "Charger", "charge", "none yet", "choose a board", present=False)
    if not chain.has_cell:
        return _node("charger", "Charger", "charge", amps(chain.charger.rated_a), "needs a cell")
    detail = f"{ohms(chain.r_prog_ohm)} {chain.r_origin}"
    return _node("charger", "Charger", "charge", amps(chain.spread.nominal_a), detail)


def _cell(chain: Chain) -> PathNode:
    if not chain.has_cell:
        return _node("cell", "Cell", "cell", "none yet", "choose a cell", present=False)
    count = f"{chain.build.cell_count} x " if chain.build.cell_count > 1 else ""
    detail = f"{count}{chain.cell.facts.label}"
    return _node("cell", "Cell", "cell", amp_hours(chain.capacity_ah), detail)


def _protection(chain: Chain) -> PathNode:
    if not chain.protections:
        return _node("protection", "Protection", "power", "none yet", "choose one", present=False)
    protection = min(chain.protections, key=lambda protection: protection.trip_least_a)
    cut_v = max(protection.cut_v for protection in chain.protections)
    spread = f"trips {protection.trip_least_a:.1f} to {protection.trip_most_a:.1f} A"
    return _node("protection", "Protection", "power", f"cuts at {cut_v:.3g} V", spread)


def _regulator(chain: Chain) -> PathNode:
    regulator = chain.regulator
    if regulator.kind == "none":
        return _node("regulator", "Regulator", "power", "none", "straight through", present=False)
    figure = f"{regulator.v_set:.1f} V" if regulator.v_set else "diode"
    return _node("regulator", "Regulator", "power", figure, regulator.name)


def _gadget(chain: Chain) -> PathNode:
    window = chain.window
    detail = f"{window.v_run_min:.1f} to {window.v_abs_max:.1f} V"
    if not chain.gadget.modes:
        return _node("gadget", "Gadget", "survey", "not measured", detail)
    heaviest = chain.heaviest
    return _node("gadget", "Gadget", "survey", f"{amps(heaviest.current_a)} {heaviest.name}", detail)


def _links(chain: Chain) -> tuple[PathLink, ...]:
    if not chain.has_cell:
        return (PathLink(charging=True),) * 2 + (PathLink(charging=False),) * 3
    return (*_charging_links(chain), *_running_links(chain))


def _charging_links(chain: Chain) -> tuple[PathLink, PathLink]:
    if not chain.chargers:
        return PathLink(charging=True), PathLink(charging=True)
    source, current_a = chain.build.source, chain.spread.nominal_a
    at_board_v = source.volts - (current_a + chain.source_load_a) * source.r_cable_ohm
    drawn = amps(current_a + chain.source_load_a)
    return (
        PathLink(charging=True, volts=volts(at_board_v), current=drawn),
        PathLink(charging=True, volts=volts(chain.charger.float_v), current=amps(current_a)),
    )


def _running_links(chain: Chain) -> tuple[PathLink, ...]:
    span = f"{chain.full_v:.1f} to {max(chain.cuts.values()):.1f} V"
    if not chain.runs:
        return (PathLink(charging=False, volts=span),) * 2 + (PathLink(charging=False),)
    heaviest = max(chain.runs, key=lambda run: run.mode.current_a)
    middle_a = float(heaviest.run.cell_a[len(heaviest.run.cell_a) // 2])
    cell_current = amps(middle_a)
    most, least = f"{chain.gadget_v_max:.1f}", f"{chain.gadget_v_min:.1f}"
    at_gadget = f"{most} V" if most == least else f"{most} to {least} V"
    last = PathLink(charging=False, volts=at_gadget, current=amps(heaviest.mode.current_a))
    return (*(PathLink(charging=False, volts=span, current=cell_current),) * 2, last)
