"""Whether a rating is really passed, and told: a circuit simulator solves every state of random builds for itself.

For each build ngspice (Debian's package) finds the most of a quantity over all modes, peaks and charges, unplugged and
plugged in, on the exported netlists. A part rated for a tenth less is a fault, and has to be told; one rated for a
third more is sound, and must not be.
"""

from collections import Counter
from dataclasses import dataclass

from any_build import random_build, settled

from chances import EXAMPLES, same_dice
from pocketspark.core.chain import Chain
from pocketspark.core.finding import GRAVITY
from pocketspark.core.models import Project
from pocketspark.core.questions.assess import assess
from pocketspark.formats.spice import charging_netlist, running_netlist

TOO_LITTLE, ENOUGH = 0.9, 1.34
CHARGES = (3.0, 3.4, 3.7, 4.0, 4.2)


def build_with_a_peak(chance):
    project = random_build(chance)
    mode = project.gadget.modes[0]
    return project.with_value("gadget.modes.0.peak_a", round(mode.current_a * chance.uniform(1.2, 3), 4))


@dataclass(frozen=True)
class Found:
    """One state as the simulator has it; `cell_a` leaves the cell, negative while it is charged."""

    is_peak: bool
    plugged_in: bool
    cell_a: float
    source_a: float
    before_regulator_v: float
    gadget_v: float


def states(chain):
    """Every state by the simulator; None for one in which it comes to no rest."""
    mode = chain.gadget.modes[0]
    peak = mode.model_copy(update={"current_a": mode.peak_a, "peak_a": None})
    used = [None] if chain.build.use_while_charging == "off" else [None, mode, peak]
    for rest_v in CHARGES:
        for what in (mode, peak):
            yield state(chain, running_netlist(chain.running, what, rest_v), rest_v, is_peak=what is peak)
        for what in used:
            yield state(chain, charging_netlist(chain, rest_v, what), rest_v, is_peak=what is peak)


def state(chain, netlist, rest_v, *, is_peak):
    # The node before the regulator: behind a diode, behind the wires, the charger's output, or the board's 5 V itself.
    lines = netlist.splitlines()
    behind = {"Dpath0": "after0", "Dselector": "after", "Rwires": "in", "Rpath": "out"}
    before = next((node for part, node in behind.items() if any(line.startswith(part) for line in lines)), "board")
    found = settled(netlist.replace("print v(gadget)", f"print v(gadget)\nprint v({before})"), None)
    if found is None:
        return None
    plugged_in = "i(vusb)" in found
    # A source's own current is counted into it.
    cell_a = (rest_v - found["v(cell)"]) / chain.running.chosen.r_ohm if plugged_in else -found["i(vcell)"]
    on_5v = plugged_in and chain.build.use_while_charging in ("two_diodes", "load_sharing", "change_over")
    input_v = found["v(board)"] if on_5v and before != "after" else found[f"v({before})"]
    return Found(is_peak, plugged_in, cell_a, -found.get("i(vusb)", 0.0), input_v, found["v(gadget)"])


def cell_current(chain, seen):
    """Of one cell of like ones in parallel."""
    return max(one.cell_a for one in seen) / chain.build.cell_count


def peak_current(_, seen):
    return max(one.cell_a for one in seen)


def fuse_current(_, seen):
    return max(abs(one.cell_a) for one in seen if not one.is_peak)


def source_current(_, seen):
    return max(one.source_a for one in seen if one.plugged_in and not one.is_peak)


def regulator_volts(chain, seen):
    return max(one.before_regulator_v for one in seen) if len(chain.regulators) == 1 else 0.0


def gadget_volts(_, seen):
    return max(one.gadget_v for one in seen)


# Code, what is measured, and where the document says what a part is rated for.
KINDS = {
    "cell.over_discharge_rating": (cell_current, "builds.0.cell.discharge_max_a", "stop"),
    "power.protection_trips_early": (peak_current, "builds.0.boards.0.protection.v_trip", "stop"),
    "wire.fuse_opens": (fuse_current, "builds.0.fuse_a", "caution"),
    "charge.over_source": (source_current, "builds.0.source.limit_a", "caution"),
    "power.regulator_overloaded": (regulator_volts, "builds.0.regulator.v_in_max", "stop"),
    "power.stress_regulator": (gadget_volts, "gadget.behind.input_max_v", "stop"),
}


def rated(project, code, path, limit):
    """The same build with this part rated so."""
    if code == "power.protection_trips_early":
        # Told by the low end of its trip with an empty cell (the core's own figure, as the part is described).
        protection = Chain(project, 0).first_to_trip
        return project.with_value(path, protection.v_trip * limit / protection.trip_least_a)
    if code == "power.stress_regulator":
        project = project.with_value("gadget.front_end", "regulator")
    return project.with_value(path, limit)


def level_of(project, code):
    seen = assess(Project.model_validate(project.model_dump(mode="json")))
    return max((GRAVITY[finding.level] for finding in seen.findings if finding.code == code), default=0)


def test_what_is_passed_is_told_and_what_is_not_is_left_in_peace():
    chance, table = same_dice(41), Counter()
    for number in range(max(24, EXAMPLES // 100)):
        project = build_with_a_peak(chance)
        chain = Chain(project, 0)
        every = list(states(chain))
        seen = [one for one in every if one is not None]
        for code, (measured, path, level) in KINDS.items():
            truth = measured(chain, seen)
            if truth < 1e-3:
                continue
            table[code, "asked"] += 1
            if level_of(rated(project, code, path, truth * TOO_LITTLE), code) < GRAVITY[level]:
                table[code, "false calm"] += 1
                print(number, code, "false calm", truth, chain.build.use_while_charging, chain.regulator.kind)
            if len(seen) < len(every):
                continue  # what cannot be carried asks for more than anything here has measured
            # A protection must clear the peak with a margin of three tenths, and so must what is left over here.
            enough = truth * (1.31 if code == "power.protection_trips_early" else 1) * ENOUGH
            if level_of(rated(project, code, path, enough), code) > GRAVITY["note"]:
                table[code, "false alarm"] += 1
                print(number, code, "false alarm", truth, chain.build.use_while_charging, chain.regulator.kind)
    for code in KINDS:
        calm, alarm = table[code, "false calm"], table[code, "false alarm"]
        print(f"{code:32} {table[code, 'asked']:4} builds, {calm:3} false calm, {alarm:3} false alarms")
        assert table[code, "asked"] >= 10
    assert not any(count for (_, what), count in table.items() if what != "asked")
