"""Netlists read by ngspice without an error: all states of random builds, node volts within 10 mV, currents within 1 %.

chances.EXAMPLES / 10: how many builds.
"""

import re
import subprocess
from collections import Counter

import pytest

from builders import SIZE, board, plan
from chances import EXAMPLES, same_dice
from pocketspark.core.chain import Chain
from pocketspark.core.chain.old_charger import in_the_old_jack
from pocketspark.demo import demo_projects
from pocketspark.formats.spice import charging_netlist, old_jack_netlist, running_netlist

READY = [p for p in demo_projects() if p.builds[0].cell and p.gadget.modes]
REGULATORS = [
    {"kind": "none"},
    {"kind": "diode"},
    {"kind": "ldo", "v_set": 3.3},
    {"kind": "boost", "v_set": 5.0, "fixed_loss_w": 0.004, "input_ohm": 0.1},
]


def simulated(netlist):
    """Every value that the netlist asks for, by its name."""
    told = subprocess.run(["ngspice", "-b"], input=netlist, capture_output=True, text=True, check=False, timeout=60)
    found = {name: float(value) for name, value in re.findall(r"^([vi]\(\w+\)) = (\S+)$", told.stdout, re.M)}
    assert found, told.stdout + told.stderr
    assert "error" not in (told.stdout + told.stderr).lower()
    return found


def asked(netlist, node="gadget"):
    return simulated(netlist)[f"v({node})"]


@pytest.mark.parametrize("soc", [0.9, 0.3])
@pytest.mark.parametrize("project", READY, ids=lambda p: p.gadget.name)
def test_the_running_circuit_of_every_demo(project, soc):
    chain = Chain(project, 0)
    ocv_v = float(chain.running.chosen.curve.at(soc))
    ours = chain.running.gadget_v_at(ocv_v, chain.load_of(chain.heaviest))
    assert asked(running_netlist(chain.running, chain.heaviest, ocv_v)) == pytest.approx(ours, abs=0.010)


@pytest.mark.parametrize("law", ["current", "resistance", "power", "led", "lamp"])
@pytest.mark.parametrize("regulator", REGULATORS, ids=lambda s: s["kind"])
def test_every_regulator_and_law(regulator, law):
    modes = [{"name": "lit", "current_a": 0.08, "law": law, "hours_per_day": 3}]
    chain = Chain(plan(gadget={"modes": modes}, regulator=regulator), 0)
    ours = chain.running.gadget_v_at(3.7, chain.load_of(chain.heaviest))
    assert asked(running_netlist(chain.running, chain.heaviest, 3.7)) == pytest.approx(ours, abs=0.010)


def test_a_blocking_diode_stands_in_the_netlist_too():
    chain = Chain(plan(gadget={"existing_charging": {"kind": "dock", "treatment": "diode"}}), 0)
    ours = chain.running.gadget_v_at(3.9, chain.load_of(chain.heaviest))
    assert asked(running_netlist(chain.running, chain.heaviest, 3.9)) == pytest.approx(ours, abs=0.010)


@pytest.mark.parametrize("soc", [0.3, 0.6, 0.99])
def test_the_charging_circuit(soc):
    # the same moment of our charge run: constant current, and the float voltage held near the end
    chain = Chain(plan(), 0)
    run = chain.charging.charge_from(soc)
    netlist = charging_netlist(chain.charging, float(chain.running.chosen.curve.at(soc)))
    assert asked(netlist, "cell") == pytest.approx(float(run.cell_v[0]), abs=0.010)


# All states of random builds ------------------------------------------------------------------------------------

WAYS = ["off", "on_cell", "change_over", "two_diodes", "load_sharing"]
ANY_REGULATOR = [
    {"kind": "none"},
    {"kind": "resistor", "series_ohm": 10},
    {"kind": "diode"},
    {"kind": "ldo", "v_set": 3.0, "iq_a": 2e-3, "drop_ohm": 1.5},
    {"kind": "buck", "v_set": 1.8, "input_ohm": 0.05, "iq_a": 1e-4},
    {"kind": "boost", "v_set": 3.3, "iq_a": 1e-3},
    {"kind": "boost", "v_set": 9.0, "fixed_loss_w": 0.004, "input_ohm": 0.1, "iq_a": 1e-3},
    {"kind": "buck_boost", "v_set": 3.3, "input_ohm": 0.08, "iq_a": 5e-4},
]


def random_build(chance):
    modes = [
        {
            "name": "lit",
            "current_a": round(chance.uniform(0.005, 0.15), 4),
            "law": chance.choice(["current", "resistance", "power", "led", "lamp"]),
            "hours_per_day": 3,
            "at_v": chance.choice([None, 3.0, 4.5]),
        }
    ]
    gadget = {
        "modes": modes,
        "off_current_a": chance.choice([0, 2e-5, 3e-3]),
        "off_path": chance.choice(["after_regulator", "before_regulator"]),
        "window": {"v_run_min": 1.0, "v_abs_max": 12.0},
    }
    if chance.random() < 0.2:
        gadget["existing_charging"] = {"kind": "dock", "treatment": "diode"}
    boards = [board(socket={"kind": "type_c"})]
    if chance.random() < 0.25:
        # A step-up board that feeds whatever comes after it: two in a row are two.
        boards.append({"name": "step-up", "regulator": {"kind": "boost", "v_set": 5.0, "efficiency": 0.9}} | SIZE)
    return plan(
        gadget=gadget,
        boards=boards,
        regulator=chance.choice(ANY_REGULATOR),
        use_while_charging=chance.choice(WAYS),
        switch_place=chance.choice(["gadget", "gadget", "before_regulator", "enable"]),
        source={"r_cable_ohm": round(chance.uniform(0, 0.6), 2)},
        cell={"name": "cell", "capacity_ah": 0.9, "size_mm": [5, 34, 50], "r_ohm": chance.uniform(0.05, 0.3)},
        cell_count=chance.choice([1, 1, 2]),
    )


def settled(netlist, near_v):
    """What the simulator finds, told where to begin if need be; None: nothing, or only the stuck branch of a constant
    power, far below, both times."""
    begin = f".nodeset v(gadget)={near_v:.3f}\n.control" if near_v else ".control"
    for text in (netlist, re.sub(r"v\(gadget\)=\S+", "", netlist).replace(".control", begin)):
        try:
            theirs = simulated(text)
        except AssertionError:
            continue
        if near_v is None or theirs["v(gadget)"] > near_v / 2:
            return theirs
    return None


def require_same(ours, theirs, what):
    for node in ("board", "cell", "gadget"):
        volts = getattr(ours, f"{node}_v")
        if volts is not None and f"v({node})" in theirs:
            assert volts == pytest.approx(theirs[f"v({node})"], abs=0.010), (what, node, ours, theirs)
    source = "vusb" if "i(vusb)" in theirs else "vcell"
    flows = ours.source_a if source == "vusb" else ours.cell_a
    # A source's current is counted into it.
    assert flows == pytest.approx(-theirs[f"i({source})"], rel=0.01, abs=3e-5), (what, ours, theirs)


def test_every_state_of_random_builds():
    chance, count = same_dice(13), Counter()
    for number in range(max(60, EXAMPLES // 10)):
        project = random_build(chance)
        chain = Chain(project, 0)
        running, charging, mode = chain.running, chain.charging, chain.heaviest
        ocv_v = float(running.chosen.curve.at(chance.uniform(0.15, 0.98)))
        states = charging.states
        way, kind = chain.build.use_while_charging, chain.regulator.kind
        for ours, netlist in (
            (states.runs(ocv_v, mode), running_netlist(running, mode, ocv_v)),
            (states.switched_off(ocv_v), running_netlist(running, None, ocv_v)),
            (states.charges(ocv_v, None), charging_netlist(charging, ocv_v, None)),
            (states.charges(ocv_v, mode), charging_netlist(charging, ocv_v, mode)),
        ):
            if ours.gadget_v is None and "Rgadget gadget 0 1e6" not in netlist:
                # A load of constant power that cannot be carried: a simulator settles low, below nothing, or nowhere.
                assert "Bload" in netlist or "Bconv" in netlist
                count["not carried", way] += 1
                continue
            pulled_low = ours.gadget_v is not None and ours.gadget_v < 0.6 * (ours.cell_v or 0.0)
            if pulled_low and kind == "resistor" and chain.gadget.law_of(mode) == "power":
                # So near to its collapse a constant power rests at two points; which one a simulator finds is chance.
                count["two points of rest", way] += 1
                continue
            theirs = settled(netlist, ours.gadget_v)
            if not theirs:
                count["no answer of the simulator", way] += 1
                continue
            require_same(ours, theirs, (number, ours.name, way, kind))
            count[ours.name, way] += 1
    print(dict(count))
    assert {way for _, way in count} == set(WAYS)
    apart = sum(times for (name, _), times in count.items() if name.startswith(("no answer", "two points")))
    assert apart < 0.02 * sum(count.values())


# What an old adapter may be: weak and strong, below the cell and far above it.
OLD_CHARGERS = [
    {"kind": "jack", "adapter_v": 2.6},
    {"kind": "dock", "adapter_v": 3.5, "current_a": 0.4},
    {"kind": "jack", "adapter_v": 5.0, "current_a": 0.05},
    {"kind": "contacts", "adapter_v": 8.2, "current_a": 0.12},
    {"kind": "jack", "adapter_v": 9.7, "current_a": 0.4},
    {"kind": "jack"},
    {"kind": "lithium_charger", "current_a": 0.1},
]


def with_old_charger(project, chance):
    as_data = project.model_dump(mode="json")
    build = as_data["builds"][0]
    if build["switch_place"] == "enable" and build["regulator"]["kind"] in ("none", "resistor", "diode"):
        build["switch_place"] = "gadget"
    treatment = chance.choice(["untouched", "never_plugged_in", "diode"])
    as_data["gadget"]["existing_charging"] = chance.choice(OLD_CHARGERS) | {"treatment": treatment}
    return type(project).model_validate(as_data)


def test_an_old_adapter_in_the_jack_of_random_builds():
    chance, count = same_dice(21), Counter()
    for number in range(max(120, EXAMPLES // 10)):
        chain = Chain(with_old_charger(random_build(chance), chance), 0)
        running, mode = chain.running, chance.choice([chain.heaviest, None])
        ocv_v = float(running.chosen.curve.at(chance.uniform(0.15, 0.98)))
        ours = in_the_old_jack(chain.charging.states, ocv_v, mode)
        theirs = settled(old_jack_netlist(running, mode, ocv_v), ours.gadget_v)
        if not theirs:
            count["no answer of the simulator"] += 1
            continue
        if mode and chain.gadget.law_of(mode) == "power" and theirs["v(gadget)"] > (ours.gadget_v or 0.0) + 0.05:
            count["two points of rest"] += 1  # held at its setting, or lifted by an adapter that then carries it alone
            continue
        if ours.gadget_a or ours.source_a > 1e-5:  # with nothing on them the terminals float
            require_same(ours, theirs, (number, chain.regulator.kind, chain.gadget.existing_charging))
        count["charges" if ours.cell_a < -1e-4 else "lifts" if ours.source_a > ours.gadget_a - 1e-4 else "helps"] += 1
    print(dict(count))
    assert min(count[what] for what in ("charges", "lifts", "helps")) >= 1
    assert count["no answer of the simulator"] < 0.07 * sum(count.values())
    assert count["two points of rest"] <= 1 + 0.02 * sum(count.values())
