"""Every state of a build as a circuit simulator has it: ngspice (Debian's package) on the exported netlists."""

import math
import re
import subprocess
from dataclasses import dataclass
from functools import partial

from pocketspark.formats.spice import charging_netlist, old_jack_netlist, running_netlist

CHARGES = (3.0, 3.4, 3.7, 4.0, 4.2)
# Volts and amperes that nothing here can have: the simulator has come to no rest, and says one.
_NO_REST = 1e3
_FED_FROM_5V = ("two_diodes", "load_sharing", "change_over")


@dataclass(frozen=True)
class Found:
    """One state; `cell_a` leaves the cell, negative while it is charged. None: there is no such thing in it."""

    use: str
    fed: str  # "cell", "5 V" or "old adapter"
    rest_v: float
    cell_a: float
    source_a: float
    charger_a: float
    before_regulator_v: float
    before_regulator_a: float
    gadget_v: float
    gadget_a: float

    @property
    def plugged_in(self):
        return self.fed == "5 V"


def every_state(chain):
    """All of them by the simulator, and how many come to no rest."""
    mode = chain.gadget.modes[0]
    peak = mode.model_copy(update={"current_a": mode.peak_a or mode.current_a, "peak_a": None})
    uses = {"asleep": None, "mode": mode, "peak": peak}
    found = []
    for use, what in uses.items():
        found += _along_the_charge(chain, partial(running_netlist, chain.running, what), use)
        if chain.charging and chain.charging.in_the_gadget:
            used = what if chain.build.use_while_charging != "off" else None
            if used or use == "asleep":
                found += _along_the_charge(chain, partial(charging_netlist, chain, mode=used), use)
        if use != "peak" and chain.gadget.existing_charging.treatment == "diode":
            found += _along_the_charge(chain, partial(old_jack_netlist, chain.running, what), use)
    return [state for state in found if state], found.count(None)


def _along_the_charge(chain, netlist_at, use):
    """The netlist at every charge of the cell."""
    return [_state_of(chain, netlist_at(rest_v), rest_v, use) for rest_v in CHARGES]


def _state_of(chain, netlist, rest_v, use):
    before, cell_ohm = _before_regulator(netlist), float(re.search(r"(?m)^Rcell \S+ \S+ (\S+)", netlist)[1])
    title, *lines = [_through_a_sense(line) for line in netlist.splitlines()]
    text = "\n".join([title, "Vload gadget load 0", *lines, ""])
    text = text.replace("print v(gadget)", f"print v(gadget)\nprint i(vload)\nprint v({before})")
    for begin in (text, text.replace(".control", f".nodeset v(gadget)={_expected(chain, rest_v):.3g}\n.control")):
        found = _simulated(begin)
        # Far below lies the stuck branch of a constant power, which is never meant.
        stuck = found and (found["v(cell)"] < rest_v / 2 or found["v(gadget)"] < 0.45 * _expected(chain, rest_v))
        if found and (use == "asleep" or not stuck):
            state = _state(chain, found, rest_v, use, before, cell_ohm, title)
            return None if _has_collapsed(chain, state) else state
    return None


def _has_collapsed(chain, state):
    """A constant power holds no lower than half of what feeds it: under that it restarts, whatever the simulator says.

    Below 1.5 V at its input the exported converter takes no more.
    """
    if state.use == "asleep" or state.fed != "cell":
        return False
    first = next(iter(chain.regulators), None)
    if first is not None and first.kind.startswith(("buck", "boost")):
        input_v = state.before_regulator_v - first.input_ohm * state.before_regulator_a
        return input_v < max(1.5, 0.52 * state.rest_v)
    constant_power = chain.gadget.law_of(chain.gadget.modes[0]) == "power"
    return constant_power and state.gadget_v < 0.52 * state.rest_v


def _expected(chain, rest_v):
    """Volts that the gadget should about get, for telling the stuck branch apart."""
    set_v = chain.regulator.v_set if chain.running.chosen.regulators_in_the_way else None
    return min(set_v or rest_v, rest_v) - 1.0


def _state(chain, found, rest_v, use, before, cell_ohm, title):
    plugged_in, adapter = "i(vusb)" in found, "old adapter" in title
    before_a = chain.gadget.off_current_a if chain.gadget.off_path == "before_regulator" else 0.0
    source_a = -found["i(vusb)"] if plugged_in else 0.0
    # A source's own current is counted into it.
    cell_a = (rest_v - found["v(cell)"]) / cell_ohm if plugged_in else -found["i(vcell)"]
    on_5v = plugged_in and chain.build.use_while_charging in _FED_FROM_5V
    charger_a = (-cell_a if on_5v else source_a) if plugged_in else 0.0
    through_a = (source_a - charger_a if on_5v else charger_a + cell_a) - before_a
    # Cut off, nothing stands before it.
    input_v = found.get("v(board)" if on_5v and before != "after" else f"v({before})", math.nan)
    seen = found["v(gadget)"], found["i(vload)"]
    fed = "old adapter" if adapter else "5 V" if plugged_in else "cell"
    if adapter:  # what goes through its regulator is not looked at
        input_v = through_a = math.nan
    return Found(use, fed, rest_v, cell_a, source_a, charger_a, input_v, through_a, *seen)


def _before_regulator(netlist):
    """The node before it: behind a diode, behind the wires, the charger's output, or the board's 5 V itself."""
    lines = netlist.splitlines()
    behind = {"Dpath0": "after0", "Dselector": "after", "Rwires": "in", "Rpath": "out"}
    return next((node for part, node in behind.items() if any(line.startswith(part) for line in lines)), "board")


def _through_a_sense(line):
    """What the gadget draws, through a source of 0 V that measures it."""
    return re.sub(r"^([BIR](?:load|leak|gadget)) gadget 0 ", r"\1 load 0 ", line)


def _simulated(netlist):
    told = subprocess.run(["ngspice", "-b"], input=netlist, capture_output=True, text=True, check=False, timeout=60)
    if "error" in (told.stdout + told.stderr).lower():
        return None
    found = {name: float(value) for name, value in re.findall(r"^([vi]\(\w+\)) = (\S+)$", told.stdout, re.M)}
    return found if all(abs(value) < _NO_REST for value in found.values()) else None
