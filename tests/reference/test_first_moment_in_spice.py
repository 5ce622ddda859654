"""The first tenth of a second beside ngspice's transient: capacitors, filaments, motors and drop-out regulators.

Reference: ngspice (Debian's package). The circuit is written here from the parts' figures and from the trade (handbook,
section 16: a filament draws ten times its current cold, a motor V / R standing still); nothing of the core is asked but
the resistance between cell and gadget, which is worked out here from its parts.
"""

import re
import subprocess

import numpy as np
import pytest

from builders import PROTECTION, board, plan
from chances import FULL, same_dice
from pocketspark.core.chain import Chain
from pocketspark.core.startup.first_moment import first_moment

BUILDS = 200 if FULL else 40
AT_MS = (0.2, 1.0, 3.0, 10.0, 30.0, 60.0, 99.0)
KINDS = [("lamp", "lamp"), ("motor", "resistance"), ("heater", "resistance")]


def any_start(chance):
    front_end, law = chance.choice(KINDS)
    current_a = round(chance.uniform(0.05, 0.4), 3)
    regulator = chance.choice(
        [{"kind": "none"}, {"kind": "resistor", "series_ohm": 2.0}]
        + [{"kind": "ldo", "v_set": 3.0, "rated_a": 1.0, "drop_ohm": 0.4}] * (front_end == "heater")
    )
    return {
        "gadget": {
            "front_end": front_end,
            "capacitance_f": chance.choice([10e-6, 220e-6, 2.2e-3]),
            "window": {"v_run_min": 1.0, "v_abs_max": 6.0},
            "modes": [{"name": "on", "current_a": current_a, "at_v": 4.0, "law": law}],
            "behind": {"winding_ohm": round(chance.uniform(1.5, 4.0), 2)} if front_end == "motor" else {},
        },
        "boards": [board() | {"protection": PROTECTION | {"v_trip": 2.0}}],
        "regulator": regulator,
        "cell": {"name": "c", "capacity_ah": 0.9, "size_mm": [5, 34, 50], "r_ohm": round(chance.uniform(0.05, 0.3), 3)},
    }


def netlist(described):
    gadget, regulator = described["gadget"], described["regulator"]
    [mode] = gadget["modes"]
    # Cell, both transistors of 25 mohm, 50 mohm of thin wires (common practice).
    ohm = described["cell"]["r_ohm"] + 0.05 + 0.05 + regulator.get("series_ohm", 0.0)
    lines = ["* first moment", "Vcell e 0 4.2", f"C1 g 0 {gadget['capacitance_f']}"]
    if regulator["kind"] == "ldo":
        lines += [
            f"Rway e p {ohm}",
            "Bldo p g I=max(0, min(1.5, min(20*(3.0-V(g)), (V(p)-V(g))/0.4)))",
        ]
    else:
        lines.append(f"Rway e g {ohm}")
    amps, at_v = mode["current_a"], mode["at_v"]
    if gadget["front_end"] == "lamp":
        lines += [f"Bload g 0 I={amps / at_v}*(10-9*V(s))*V(g)", "Cs s 0 1"]
        lines.append(f"Bs 0 s I=(1-V(s))*V(g)*{amps / at_v}*(10-9*V(s))*V(g)/({at_v}*{amps})/0.025")
    elif gadget["front_end"] == "motor":
        winding = min(gadget["behind"]["winding_ohm"], 0.8 * at_v / amps)
        turning, still = at_v - amps * winding, at_v / winding
        lines += [f"Bload g 0 I=(V(g)-{turning}*V(s))/{winding}", "Cs s 0 1"]
        lines.append(f"Bs 0 s I=((V(g)-{turning}*V(s))/{winding}-{amps})/({still}-{amps})/0.05")
    else:
        lines += [f"Rload g 0 {at_v / amps}", "Rs s 0 1"]
    asked = [f"meas tran v{n} find v(g) at={ms}m" for n, ms in enumerate(AT_MS)]
    asked += [f"meas tran i{n} find i(vcell) at={ms}m" for n, ms in enumerate(AT_MS)]
    control = [".control", "tran 5u 100m 0 5u uic", *asked, ".endc", ".end", ""]
    return "\n".join([*lines, *control])


def simulated(described):
    text = netlist(described)
    told = subprocess.run(["ngspice", "-b"], input=text, capture_output=True, text=True, check=False, timeout=60)
    found = dict(re.findall(r"^([vi]\d)\s*=\s*(\S+)", told.stdout, re.M))
    assert len(found) == 2 * len(AT_MS), told.stdout + told.stderr
    volts, amps = ([float(found[f"{name}{n}"]) for n in range(len(AT_MS))] for name in "vi")
    return np.array(volts), -np.array(amps)


@pytest.mark.parametrize("seed", range(BUILDS))
def test_volts_and_amperes_over_the_first_tenth_of_a_second(seed):
    described = any_start(same_dice(seed))
    chain = Chain(plan(**described), 0)
    ours = first_moment(chain, chain.heaviest, np.array([4.2]))
    volts, amps = simulated(described)
    at_s = np.array(AT_MS) / 1000
    assert np.interp(at_s, ours.time_s, ours.gadget_v[0]) == pytest.approx(volts, rel=0.02, abs=0.03)
    assert np.interp(at_s, ours.time_s, ours.cell_a[0]) == pytest.approx(amps, rel=0.03, abs=0.03)
