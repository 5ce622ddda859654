"""PyBaMM's electrochemical models of published cells, run once and kept: `data/published_runs.npz`.

Reference: PyBaMM (single particle model) with its parameter sets. A run does not depend on our code, so it is kept with
the version that made it, and made again where it is not there. `POCKETSPARK_REMAKE=1 ./spark test -n 0
tests/reference/test_logs_of_published_cells.py tests/reference/test_bands_against_published_cells.py` makes all anew.
"""

import os
from functools import cache
from pathlib import Path

import numpy as np

FILE = Path(__file__).parent / "data" / "published_runs.npz"
REMAKE = bool(os.environ.get("POCKETSPARK_REMAKE"))

# Published cells of the 4.2 V class. Further ones of the library are of other classes or do not solve over the range.
CELLS = ["Chen2020", "Marquis2019", "Ai2020", "Ecker2015", "Mohtat2020", "OKane2022"]
# Volts between which each set is stated; the classes' own ends are 3.0 and 4.2 V.
LOW_V, FULL_V = 3.0, 4.2

EMPTY_IT = f"Discharge at C/10 until {LOW_V} V"
FILL_IT = f"Charge at C/3 until {FULL_V} V"
HOLD_IT = f"Hold at {FULL_V} V until C/50"


def key_of(name, *steps):
    """The run as PyBaMM words it: cell, then its steps, those of one cycle joined by a plus."""
    return "|".join([name, *(" + ".join(step) if isinstance(step, tuple) else step for step in steps)])


def solved(key):
    """Seconds, volts and amps of the last cycle of this run, from an all but full cell, by PyBaMM as it is here."""
    import pybamm

    name, *cycles = key.split("|")
    values = pybamm.ParameterValues(name)
    values.update({"Lower voltage cut-off [V]": 2.5, "Upper voltage cut-off [V]": 4.4}, check_already_exists=False)
    steps = [tuple(cycle.split(" + ")) for cycle in cycles]
    simulation = pybamm.Simulation(
        pybamm.lithium_ion.SPM(), parameter_values=values, experiment=pybamm.Experiment(steps, period="30 s")
    )
    last = simulation.solve(initial_soc=0.98).cycles[-1]
    return np.array([last[what].entries for what in ("Time [s]", "Voltage [V]", "Current [A]")], dtype=np.float32)


@cache
def kept():
    """Every run that was kept, by its key."""
    if REMAKE or not FILE.exists():
        return {}
    with np.load(FILE) as file:
        return {key: file[key] for key in file.files if key != "made by"}


def run(name, *steps):
    """Seconds, volts and amps of the last cycle of an experiment from an all but full cell."""
    key = key_of(name, *steps)
    if key not in kept():
        kept()[key] = solved(key)
        if REMAKE:
            import pybamm

            np.savez_compressed(FILE, **{"made by": f"PyBaMM {pybamm.__version__}"}, **kept())
    return tuple(kept()[key].astype(float))


# As the sets themselves state it (checked against the library by the test that solves a run anew).
NOMINAL_AH = {"Chen2020": 5.0, "Marquis2019": 0.680616, "Ai2020": 2.28, "Ecker2015": 0.15625, "Mohtat2020": 5.0}
NOMINAL_AH |= {"OKane2022": 5.0}


@cache
def truth_ah(name):
    """The charge that the cell gives at a twentieth of its capacity an hour."""
    time_s, _, amps = run(name, FILL_IT, HOLD_IT, f"Discharge at C/20 until {LOW_V} V")
    return float(np.trapezoid(np.abs(amps), time_s) / 3600)
