"""Drivers that hold a current: by Ohm's law of LEDs behind their own resistor, and against ngspice."""

import re
import shutil
import subprocess

import numpy as np
import pytest

from builders import plan
from pocketspark.core.chain import Chain
from pocketspark.core.kinds.regulators import law_of_regulator
from pocketspark.core.models import Regulator
from pocketspark.core.physics.load import Load, volts_at_current
from pocketspark.formats.spice import running_netlist

# LEDs of 2.0 V behind 20 ohm: 50 mA at 3.0 V.
LEDS = Load(steady_a=-0.1, siemens=0.05, least_a=0.0005)
LINEAR = Regulator(kind="ldo", v_set=5.5, i_set_a=0.05, drop_v=0.1, drop_ohm=1.0)
STEP_UP = Regulator(kind="boost", v_set=12.0, i_set_a=0.05, efficiency=0.85, v_in_min=2.7)


def test_the_volts_at_a_current_are_those_of_ohms_law():
    assert volts_at_current(0.05, LEDS) == pytest.approx(2.0 + 0.05 * 20)
    assert np.isnan(volts_at_current(0.05, Load(steady_a=0.1)))


@pytest.mark.parametrize("driver", [LINEAR, STEP_UP])
def test_a_driver_holds_its_current_while_the_cell_falls(driver):
    point = law_of_regulator(driver).operating_point(np.array([4.2, 3.9, 3.6, 3.3]), 0.1, LEDS)
    held_v = np.broadcast_to(point.gadget_v, (4,))
    assert held_v[-1] == pytest.approx(3.0, abs=0.01)
    if driver.kind == "ldo":
        assert held_v == pytest.approx(np.full(4, 3.0))
        assert np.broadcast_to(point.cell_a, (4,)) == pytest.approx(np.full(4, 0.05))
    else:
        # A step-up cannot hold back: what stands over its input less a diode of 0.3 V passes.
        assert held_v[0] > 3.5


def test_a_linear_driver_that_has_no_headroom_left_lets_the_light_fall():
    point = law_of_regulator(LINEAR).operating_point(3.0, 0.0, LEDS)
    # 3.0 V less 0.1 V, over 1 and 20 ohm and the LEDs' 2.0 V.
    assert float(point.cell_a) == pytest.approx((3.0 - 0.1 - 2.0) / 21, rel=1e-6)


def test_where_less_is_drawn_it_is_a_regulator_of_volts():
    point = law_of_regulator(STEP_UP).operating_point(3.6, 0.0, Load(siemens=0.001))
    assert float(point.gadget_v) == pytest.approx(12.0)


@pytest.mark.parametrize("driver", [LINEAR, STEP_UP])
@pytest.mark.parametrize("rest_v", [4.2, 3.8, 3.2])
def test_which_source_gives_these_volts_is_the_way_back(driver, rest_v):
    law = law_of_regulator(driver)
    gadget_v = float(law.operating_point(rest_v, 0.2, LEDS).gadget_v)
    found = float(law.ocv_for(gadget_v - 1e-6, 0.2, LEDS))
    assert found <= rest_v + 1e-3
    assert np.isinf(law.ocv_for(13.0, 0.2, LEDS)) == (driver.kind == "ldo")


@pytest.mark.skipif(shutil.which("ngspice") is None, reason="no ngspice here")
@pytest.mark.parametrize("kind", ["ldo", "buck", "boost", "buck_boost"])
@pytest.mark.parametrize("rest_v", [4.15, 3.7, 3.3])
def test_ngspice_finds_the_same_volts_from_the_exported_netlist(tmp_path, kind, rest_v):
    gadget = {
        "front_end": "led_resistor",
        "supply": {"battery": "LR6", "series": 2},
        "behind": {"design_v": 3.0, "led_v": 2.0},
        "modes": [{"name": "lit", "current_a": 0.05, "hours_per_day": 1}],
        "window": {"v_run_min": 2.1, "v_abs_max": 5.0},
    }
    regulator = {"kind": kind, "name": "driver", "v_set": 5.5, "i_set_a": 0.04, "drop_v": 0.0, "drop_ohm": 0.8}
    project = plan(gadget=gadget, regulator=regulator)
    running = Chain(project, 0).required_running()
    mode = project.gadget.modes[0]
    netlist = tmp_path / "driver.cir"
    netlist.write_text(running_netlist(running, mode, rest_v))
    run = subprocess.run(["ngspice", "-b", netlist], capture_output=True, text=True, check=False, timeout=60)
    volts = re.search(r"v\(gadget\w*\)\s*=?\s*([-\d.e+]+)", run.stdout, re.I)
    assert volts, run.stdout[-800:] + run.stderr[-400:]
    ours = running.gadget_v_at(rest_v, running.chain.load_of(mode))
    assert float(volts.group(1)) == pytest.approx(ours, abs=0.01)
    if kind in ("ldo", "buck_boost"):
        assert (ours - 2.0) / 20 == pytest.approx(0.04, abs=0.0005)
