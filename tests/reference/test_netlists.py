"""Netlists read by ngspice without an error, and its gadget and cell voltages against ours within 10 mV."""

import re
import subprocess

import pytest

from builders import plan
from pocketspark.core.chain import Chain
from pocketspark.demo import demo_projects
from pocketspark.formats.spice import charging_netlist, running_netlist

READY = [p for p in demo_projects() if p.builds[0].cell and p.gadget.modes]
REGULATORS = [
    {"kind": "none"},
    {"kind": "diode"},
    {"kind": "ldo", "v_set": 3.3},
    {"kind": "boost", "v_set": 5.0, "fixed_loss_w": 0.004, "input_ohm": 0.1},
]


def asked(netlist):
    told = subprocess.run(["ngspice", "-b"], input=netlist, capture_output=True, text=True, check=False, timeout=60)
    found = re.search(r"v\((?:gadget|cell)\) = (\S+)", told.stdout)
    assert found, told.stdout + told.stderr
    assert "error" not in (told.stdout + told.stderr).lower()
    return float(found[1])


@pytest.mark.parametrize("soc", [0.9, 0.3])
@pytest.mark.parametrize("project", READY, ids=lambda p: p.gadget.name)
def test_the_running_circuit_of_every_demo(project, soc):
    chain = Chain(project, 0)
    ocv_v = float(chain.running.chosen.curve.at(soc))
    ours = chain.running.gadget_v_at(ocv_v, chain.load_of(chain.heaviest))
    assert asked(running_netlist(chain.running, chain.heaviest, ocv_v)) == pytest.approx(ours, abs=0.010)


@pytest.mark.parametrize("law", ["current", "resistance", "power"])
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
    assert asked(charging_netlist(chain.charging, float(chain.running.chosen.curve.at(soc)))) == pytest.approx(
        float(run.cell_v[0]), abs=0.010
    )
