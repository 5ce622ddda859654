"""Single faults of random builds: the core's currents and what opens, beside ngspice on netlists made from the wiring.

Reference: ngspice (Debian's package), by `fault_circuit.py`, which shares nothing with the core but the wiring itself.
"""

from collections import Counter

import numpy as np
import pytest
from fault_circuit import circuit_of, rested

from builders import PROTECTION, board, plan
from chances import FULL, same_dice
from pocketspark.core.chain import Chain
from pocketspark.core.faults.fault import faults_of
from pocketspark.core.faults.outcome import solve
from pocketspark.core.faults.situation import situations_of
from pocketspark.core.faults.soldered_circuit import Soldered

BUILDS, FAULTS_OF_EACH = (200, 5) if FULL else (10, 4)
APART = {"name": "protection", "protection": PROTECTION, "outline_mm": [20, 6, 2]}
NO_HEAT = {"theta_ja_c_per_w": None}  # its chip's own warmth is looked at elsewhere
REGULATORS = [
    {"kind": "none"},
    {"kind": "diode"},
    {"kind": "resistor", "series_ohm": 8},
    {"kind": "ldo", "v_set": 3.0, "rated_a": 0.3, "drop_ohm": 0.8, "iq_a": 1e-4},
]


def any_plan(chance):
    law, front_end = chance.choice([("resistance", "heater"), ("current", "logic"), ("power", "converter")])
    own = PROTECTION if chance.random() < 0.4 else None
    cell = {"name": "cell", "capacity_ah": 0.9, "size_mm": [5, 34, 50], "r_ohm": round(chance.uniform(0.05, 0.3), 3)}
    shares = chance.random() < 0.3
    one = board(protection=chance.random() < 0.6, socket={"kind": "type_c"}, **NO_HEAT) | {"load_sharing": shares}
    apart = [APART] if not one["protection"] and chance.random() < 0.7 else []
    return plan(
        gadget={
            "front_end": front_end,
            "modes": [{"name": "lit", "current_a": round(chance.uniform(0.01, 0.3), 3), "law": law, "at_v": 4.0}],
            "window": {"v_run_min": 2.4, "v_abs_max": 6.0},
        },
        boards=[one, *apart],
        cell=cell | {"own_protection": own, "discharge_max_a": 3.0},
        cell_count=chance.choice([1, 1, 2]),
        regulator=chance.choice(REGULATORS),
        use_while_charging="load_sharing" if shares else chance.choice(["off", "on_cell", "two_diodes", "change_over"]),
        r_prog_ohm=chance.choice([1200.0, 2400.0, 6000.0]),
        source={"limit_a": chance.choice([0.5, 1.5]), "r_cable_ohm": 0.2},
        wiring={"matched": True},
    )


def compared(seed):
    """(what differs, or "") of one build's faults in all its situations, with their names."""
    chance = same_dice(seed)
    chain = Chain(any_plan(chance), 0)
    soldered = Soldered(chain)
    cut = {pair: (one.awg, one.length_mm) for pair, one in soldered._cut.items()}
    situations = [one for one in situations_of(chain) if not one.probe and one.key != "unused"]
    faults = list(faults_of(chain, soldered.hookup))
    picked = chance.sample(faults, min(FAULTS_OF_EACH, len(faults)))
    sound = solve(soldered, [(None, one) for one in situations])
    cases = [(fault, one) for fault in picked for one in situations]
    ours = solve(soldered, cases, np.tile(sound.first.volts, (len(picked), 1)))
    for case, (fault, situation) in enumerate(cases):
        theirs = rested(circuit_of(chain, soldered.hookup, cut, fault, situation), chain.build, fault)
        name = f"{seed} {fault.key} {situation.key}"
        if theirs is None or not ours.last.settled[case] or theirs.close:
            yield name, "left out"
            continue
        cell_a = -float(ours.amps("cell.cell")[case])
        gadget_v = float(ours.volts("gadget.+", "gadget.-")[case])
        runs = situation.used and theirs.cell_a > 0.005
        opened = {(one.who, one.why) for one in ours.opened[case]}
        # With the cell off it, what a board's protection sees is a matter of leaks.
        is_apart = fault.kind == "joint_open" and any(at.startswith("cell") for at in fault.at)
        if opened != theirs.opened and not is_apart:
            yield name, f"opens {sorted(opened)} and not {sorted(theirs.opened)}"
        elif cell_a != pytest.approx(theirs.cell_a, rel=0.02, abs=0.002):
            yield name, f"{cell_a:.4f} A and not {theirs.cell_a:.4f}"
        elif runs and gadget_v != pytest.approx(theirs.gadget_v, rel=0.02, abs=0.03):
            yield name, f"{gadget_v:.3f} V and not {theirs.gadget_v:.3f}"
        else:
            yield name, ""


def test_currents_and_what_opens_are_those_of_the_simulator():
    """Within 2 % of the current, and the same barriers, in 99 of 100 cases (98.5 of the 4,700 of a full run): a short
    into constant watts has two places of rest, of two protections in one short either may be first, and what a board
    sees behind a cell's protection that does not wake is a matter of leaks. Left out is what stands within a hair of a
    trip, and what one of the two finds no rest for."""
    found = [one for seed in range(BUILDS) for one in compared(seed)]
    counted = Counter("same" if not what else "left out" if what == "left out" else "other" for _, what in found)
    print(dict(counted))
    assert counted["left out"] < 0.12 * len(found)
    others = [f"{name}: {what}" for name, what in found if what not in ("", "left out")]
    assert len(others) <= (0.015 if FULL else 0.01) * len(found), "\n".join(others)
