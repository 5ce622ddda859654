"""A build with one fault as ngspice reads it, made from its pads and wires, and what opens in it.

Nothing of the core's answers is in it: parts are written down from their own figures, what protections and port do from
what the trade says of them (handbook, sections 5, 16 and 17), and each wire is a copper wire of its gauge.
"""

import math
import re
import subprocess
from dataclasses import dataclass, field

WIRE_OHM_PER_M = {30: 0.3385, 28: 0.2129, 26: 0.1339, 24: 0.0842, 22: 0.0530, 20: 0.0333}  # ASTM B258, from memory
BODY = "is=1e-12 n=1"
SCHOTTKY = ".model schottky d is=2.5e-6 n=1.05 rs=0.04"
LIMITS = {"led_resistor": "none", "lamp": "same", "motor": "same", "heater": "same"}


@dataclass
class Circuit:
    """`lines` without the protections' transistors, which are written last, as they are on or off."""

    nodes: dict = field(default_factory=dict)
    lines: list = field(default_factory=list)
    guards: list = field(default_factory=list)  # key, protection, inner, outer, plus, sign

    def node(self, pad):
        return self.nodes.setdefault(pad, "0" if not self.nodes else f"n{len(self.nodes)}")

    def add(self, name, *rest):
        self.lines.append(" ".join((name, *rest)))

    def ohm(self, name, a, b, ohm):
        self.add(f"R{name}", self.node(a), self.node(b), f"{ohm:.9g}")

    def volts(self, a, b):
        return f"(V({self.node(a)})-V({self.node(b)}))"


def circuit_of(chain, hookup, cut, fault, situation):
    """`cut`: gauge and millimetres of each wire by its ends."""
    made = Circuit()
    made.node("cell.bare-")
    build, gadget = chain.build, chain.gadget
    for number, wire in enumerate(hookup.wires):
        if fault.kind == "joint_open" and fault.at == (wire.start, wire.end):
            continue
        gauge = cut.get((wire.start, wire.end))
        ohm = WIRE_OHM_PER_M[gauge[0]] * gauge[1] / 1000 if gauge else 0.005
        made.ohm(f"wire{number}", wire.start, wire.end, max(ohm, 1e-3))
    for part in hookup.parts.by_key.values():
        for number, (a, b) in enumerate(part.joined):
            made.ohm(f"copper{part.key}{number}", f"{part.key}.{a}", f"{part.key}.{b}", 1e-5)
    if fault.kind == "pads_joined":
        made.ohm("bridge", *fault.at, 0.01)
    _cells(made, chain, hookup, fault, situation)
    _source(made, build, situation)
    boards = iter(build.boards)
    for part in hookup.parts.by_key.values():
        if part.kind in ("charger", "protection"):
            _board(made, chain, part, next(boards), fault, situation)
        elif part.kind == "diode":
            _diode(made, part.key, f"{part.key}.A", f"{part.key}.K", fault, "schottky")
        elif part.kind == "switch":
            ends = ("3", "2") if part.key == "change_over" and situation.plugged_in else ("1", "2")
            made.ohm(part.key, f"{part.key}.{ends[0]}", f"{part.key}.{ends[1]}", 0.01)
        elif part.kind == "regulator":
            _regulator(made, part, build.regulator, fault)
    _gadget(made, gadget, situation)
    made.lines += [SCHOTTKY, f".model chip d {BODY} rs=0.2"]
    return made


def _cells(made, chain, hookup, fault, situation):
    for number, (key, cell) in enumerate(zip(hookup.parts.cells, chain.build.cells, strict=True)):
        sign = -1 if fault.kind == "cell_reversed" and fault.at == (key,) else 1
        # One of a pair that is empty: 3.0 V at rest (handbook, section 3).
        rest_v = 3.0 if fault.kind == "cells_unlike" and number == 1 else situation.rest_v
        made.add(f"V{key}", made.node(f"{key}.emf"), made.node(f"{key}.bare-"), f"{sign * rest_v:.9g}")
        made.ohm(f"cell{number}", f"{key}.emf", f"{key}.bare+", max(cell.r_ohm, 1e-3))
        made.ohm(f"lead{number}", f"{key}.bare+", f"{key}.+", 1e-5)
        if cell.protection:
            made.guards.append((key, cell.protection, f"{key}.bare-", f"{key}.-", f"{key}.bare+", sign))
        else:
            made.ohm(f"end{number}", f"{key}.bare-", f"{key}.-", 1e-5)


def _source(made, build, situation):
    if not situation.plugged_in:
        return
    source = build.source
    across = made.volts("source.5V", "source.GND")
    # It takes nothing back, and switches off, or gives its most, at twice what it may give.
    ohm = max(source.r_cable_ohm, 0.01)
    given = f"max(0, min({2 * source.limit_a:.6g}, ({source.volts}-{across})/{ohm:.6g}))"
    made.add("Bport", made.node("source.GND"), made.node("sensed"), f"I={given}")
    made.add("Vsense", made.node("sensed"), made.node("source.5V"), "0")


def _board(made, chain, part, board, fault, situation):
    key = part.key
    if board.protection:
        outer = "P-" if "P-" in part.pads else "OUT-"
        made.guards.append((key, board.protection, f"{key}.B-", f"{key}.{outer}", f"{key}.B+", 1))
    if not board.charger:
        return
    charger, plus_in, minus, plus = board.charger, f"{key}.IN+", f"{key}.IN-", f"{key}.B+"
    set_a = 1200.0 / (chain.build.r_prog_ohm or 1200.0)
    if fault.kind == "resistor_open":
        set_a = 0.0
    if fault.kind == "resistor_shorted":
        set_a = 1.5 * charger.rated_a
    over, out = made.volts(plus_in, plus), made.volts(plus, minus)
    lets = f"{over}/{charger.pass_ohm}"
    wanted = f"({out} < {charger.precharge_v} ? {0.1 * set_a:.9g} : {set_a:.9g})"
    gives = f"max(0, min({wanted}, min(200*({charger.float_v}-{out}), {lets})))"
    stuck = fault.kind == "charger_stuck_on"
    made.add("Bcharger", made.node(plus_in), made.node(plus), f"I={lets if stuck else gives}")
    made.add("Dchip", made.node(minus), made.node(plus), "chip")
    if board.load_sharing:
        shorted = fault.kind == "part_shorted" and fault.at == (key,)
        if not situation.plugged_in or shorted:
            made.ohm("sharing", plus, f"{key}.OUT+", 0.05)
        made.add("Dsharing", made.node(plus), made.node(f"{key}.OUT+"), "sharing")
        made.lines.append(f".model sharing d {BODY} rs=0.05")
        made.add("Dfive", made.node(plus_in), made.node(f"{key}.OUT+"), "schottky")


def _diode(made, name, anode, cathode, fault, model):
    if fault.kind == "part_shorted" and fault.at == (name,):
        made.ohm(f"short{name}", anode, cathode, 0.01)
    elif not (fault.kind == "part_open" and fault.at == (name,)):
        made.add(f"D{name}", made.node(anode), made.node(cathode), model)


def _regulator(made, part, regulator, fault):
    key = part.key
    if regulator.kind == "diode":
        _diode(made, key, f"{key}.A", f"{key}.K", fault, "schottky")
        return
    ends = ("1", "2") if regulator.kind == "resistor" else ("IN+", "OUT+")
    plus_in, plus_out = (f"{key}.{end}" for end in ends)
    if fault.at == (key,) and fault.kind == "part_shorted":
        made.ohm("regulator", plus_in, plus_out, 0.01)
    elif fault.at == (key,) and fault.kind == "part_open":
        return
    elif regulator.kind == "resistor":
        made.ohm("regulator", plus_in, plus_out, regulator.series_ohm)
    else:  # an LDO
        over, out = made.volts(plus_in, plus_out), made.volts(plus_out, f"{key}.IN-")
        most = 1.5 * regulator.rated_a
        lets = f"({over}-{regulator.drop_v})/{regulator.drop_ohm}"
        gives = f"max(0, min({most}, min(200*({regulator.v_set}-{out}), {lets})))"
        made.add("Bregulator", made.node(plus_in), made.node(plus_out), f"I={gives}")
        made.add("Dbody", made.node(plus_out), made.node(plus_in), "body01")
        made.lines.append(f".model body01 d {BODY} rs=0.1")
        idle = f"I={regulator.iq_a}*max(0, min(1, {made.volts(plus_in, f'{key}.IN-')}))"
        made.add("Bidle", made.node(plus_in), made.node(f"{key}.IN-"), idle)


def _gadget(made, gadget, situation):
    plus, minus = made.node("gadget.+"), made.node("gadget.-")
    made.add("Rgadgetleak", plus, minus, "1e9")
    if not situation.used:
        return
    [mode] = gadget.modes
    at_v, volts = mode.at_v or 4.5, made.volts("gadget.+", "gadget.-")
    # Half starved it draws in proportion (our judgement).
    starved = max(0.5 * gadget.window.v_run_min, 0.3)
    if gadget.law_of(mode) == "resistance":
        made.add("Rgadget", plus, minus, f"{at_v / mode.current_a:.9g}")
        return
    drawn = {
        "current": f"{mode.current_a}",
        "power": f"{mode.current_a * at_v}/max({volts}, {starved})",
    }[gadget.law_of(mode)]
    made.add("Bgadget", plus, minus, f"I=({drawn})*max(0, min(1, {volts}/{starved}))")
    made.add("Dgadget", minus, plus, "reversed")
    made.lines.append(f".model reversed d {BODY} rs=0.5")


# What opens --------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Rested:
    """`cell_a` out of the first cell; `opened` as (whose, why); `close`: something stood within a hair of its trip."""

    cell_a: float
    source_a: float
    gadget_v: float
    opened: frozenset
    close: bool


def rested(made, build, fault):
    """The circuit once everything has opened that will. None: the simulator finds no rest."""
    states = {key: [True, True] for key, *_ in made.guards}  # lets it be charged, and discharged
    if fault.kind == "does_not_wake":
        states[fault.at[0]] = [False, False]
    opened, close = set(), False
    for _ in range(6):
        seen = _simulated(made, states)
        if seen is None:
            return None
        fast, slow = [], []
        for key, protection, inner, outer, plus, sign in made.guards:
            drop_v = sign * (seen[inner] - seen[outer])
            cell_v = sign * (seen[plus] - seen[inner])
            takes, gives = states[key]
            # Transistors that are driven less, by fewer volts of the cell, resist more: 25 % a volt about 3.6 V.
            driven = 1 + 0.25 * (3.6 - min(max(cell_v, 2.0), 4.4))
            share = abs(drop_v) * driven / protection.v_trip if takes and gives else 0
            close |= 0.97 < share < 1.03 or abs(cell_v - protection.over_charge_v) < 0.004
            close |= abs(cell_v - protection.cut_v) < 0.004
            can_in = not (fault.kind == "cannot_stop_charge" and fault.at == (key,))
            can_out = not (fault.kind == "cannot_stop_discharge" and fault.at == (key,))
            if share > 1 and drop_v < 0 and gives and can_out:
                fast.append((key, 1, "too much out"))
            if share > 1 and drop_v > 0 and takes and can_in:
                fast.append((key, 0, "too much in"))
            if cell_v < protection.cut_v and gives and can_out:
                slow.append((key, 1, "empty"))
            if cell_v > protection.over_charge_v and takes and can_in:
                slow.append((key, 0, "over-charged"))
        if not (fast or slow):
            break
        for key, side, why in fast or slow:
            states[key][side] = False
            opened.add((key, why))
    source_a = seen.get("port", 0.0)
    if source_a > 0.97 * 2 * build.source.limit_a:
        opened.add(("port", "too much out"))
    return Rested(seen["cell"], source_a, seen["gadget.+"] - seen["gadget.-"], frozenset(opened), close)


def _simulated(made, states):
    lines = list(made.lines)
    for key, protection, inner, outer, _plus, sign in made.guards:
        a, b = made.node(inner), made.node(outer)
        takes, gives = states[key]
        # Charging current flows from the cell's minus outwards.
        anode, cathode = (a, b) if sign > 0 else (b, a)
        if takes and gives:
            lines.append(f"Rguard{key} {a} {b} {2 * protection.r_on_ohm:.9g}")
        elif takes:
            lines.append(f"Dguard{key} {anode} {cathode} guard{key}")
        elif gives:
            lines.append(f"Dguard{key} {cathode} {anode} guard{key}")
        lines.append(f".model guard{key} d {BODY} rs={protection.r_on_ohm:.6g}")
    lines += [f"Rleak{n} {node} 0 1e9" for n, node in enumerate(made.nodes.values()) if node != "0"]
    at_rest = _asked(made, lines, "op", "")
    # Two limits in a row leave the direct way without a slope: then it is let settle, from nothing, through capacitors.
    return at_rest or _asked(made, [*lines, *_capacitors(made)], "tran 20u 40m uic", "[length(time)-1]")


def _capacitors(made):
    return [f"Cslow{n} {node} 0 2u" for n, node in enumerate(made.nodes.values()) if node != "0"]


def _asked(made, lines, how, last):
    asked = [node for node in made.nodes.values() if node != "0"]
    wanted = [f"v({node})" for node in asked] + ["i(vcell)"]
    if any(line.startswith("Vsense") for line in lines):
        wanted.append("i(vsense)")
    text = "\n".join(
        ["* one fault", *lines, ".options reltol=1e-5 vntol=1e-7 itl1=800", ".temp 27", ".control", how]
        + [f"print {one}{last}" for one in wanted]
        + [".endc", ".end", ""]
    )
    told = subprocess.run(["ngspice", "-b"], input=text, capture_output=True, text=True, check=False, timeout=60)
    found = {
        name.removesuffix("[length(time)-1]"): float(value)
        for name, value in re.findall(r"^(\S+) = (\S+)$", told.stdout, re.M)
    }
    if not set(wanted) <= set(found) or any(math.isnan(value) for value in found.values()):
        return None
    by_pad = {pad: found.get(f"v({node})", 0.0) for pad, node in made.nodes.items()}
    return by_pad | {"cell": -found["i(vcell)"], "port": found.get("i(vsense)", 0.0)}
