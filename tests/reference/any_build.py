"""Random builds of every kind, and what a circuit simulator makes of their netlists."""

import re
import subprocess

from builders import SIZE, board, plan

WAYS = ["off", "on_cell", "change_over", "two_diodes", "load_sharing"]
ANY_REGULATOR = [
    {"kind": "none"},
    {"kind": "resistor", "series_ohm": 10},
    {"kind": "diode"},
    {"kind": "ldo", "v_set": 3.0, "iq_a": 2e-3, "drop_ohm": 1.5},
    {"kind": "buck", "v_set": 1.8, "input_ohm": 0.05, "iq_a": 1e-4},
    {"kind": "buck", "v_set": 3.3, "drop_ohm": 0.4, "iq_a": 5e-5},
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


def simulated(netlist):
    """Every value that the netlist asks for, by its name."""
    told = subprocess.run(["ngspice", "-b"], input=netlist, capture_output=True, text=True, check=False, timeout=60)
    found = {name: float(value) for name, value in re.findall(r"^([vi]\(\w+\)) = (\S+)$", told.stdout, re.M)}
    assert found, told.stdout + told.stderr
    assert "error" not in (told.stdout + told.stderr).lower()
    return found


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
