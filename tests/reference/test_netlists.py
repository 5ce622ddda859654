"""Netlists read by ngspice without an error: all states of random builds, node volts within 10 mV, currents within 1 %.

chances.EXAMPLES / 10: how many builds.
"""

from collections import Counter

import pytest
from any_build import WAYS, random_build, settled, simulated

from builders import plan
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
    netlist = charging_netlist(chain, float(chain.running.chosen.curve.at(soc)))
    assert asked(netlist, "cell") == pytest.approx(float(run.cell_v[0]), abs=0.010)


# All states of random builds ------------------------------------------------------------------------------------


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
            (states.charges(ocv_v, None), charging_netlist(chain, ocv_v, None)),
            (states.charges(ocv_v, mode), charging_netlist(chain, ocv_v, mode)),
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
