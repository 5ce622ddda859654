"""The same cell in PyBaMM's Thevenin model: our curve, one series resistance, no RC pair. Used by tests and bench."""

from typing import Any

import numpy as np
import pybamm

from pocketspark.core.physics.ocv import OcvCurve, curve_of

CAPACITY_AH = 1.0
R_OHM = 0.150
START_SOC = 0.02  # PyBaMM refuses a start at 0


def parameters(start_soc: float, curve: OcvCurve = curve_of("li_4v20"), cut_v: float = 3.0) -> pybamm.ParameterValues:
    """Isothermal in effect: heat flows off freely and nothing depends on temperature."""
    values = pybamm.equivalent_circuit.Thevenin().default_parameter_values

    def ocv(soc: Any) -> Any:
        return pybamm.Interpolant(curve.soc, curve.volts, soc, interpolator="linear")

    changes = {
        "Open-circuit voltage [V]": ocv,
        "R0 [Ohm]": R_OHM,
        "Entropic change [V/K]": 0,
        "Cell capacity [A.h]": CAPACITY_AH,
        "Nominal cell capacity [A.h]": CAPACITY_AH,
        "Initial SoC": start_soc,
        "Upper voltage cut-off [V]": 4.3,
        "Lower voltage cut-off [V]": cut_v,
        "Current function [A]": 0.0,
    }
    values.update(changes, check_already_exists=False)
    return values


def solver() -> Any:
    return pybamm.IDAKLUSolver(rtol=1e-8, atol=1e-8)


def simulation(steps: list[Any], start_soc: float, cut_v: float = 2.0) -> pybamm.Simulation:
    model = pybamm.equivalent_circuit.Thevenin(options={"number of rc elements": 0})
    # Its own bounds on the state of charge would refuse a start at exactly full.
    model.events = [event for event in model.events if "SoC" not in str(event.name)]
    return pybamm.Simulation(
        model,
        experiment=pybamm.Experiment([tuple(steps)]),
        parameter_values=parameters(start_soc, cut_v=cut_v),
        solver=solver(),
    )


def charge_hours(current_a: float, end_a: float) -> tuple[float, float]:
    """Hours of constant current to 4.2 V, and hours in all until the current falls to `end_a`."""
    run = simulation(
        [
            pybamm.step.current(-current_a, termination="4.2V"),
            pybamm.step.voltage(4.2, termination=f"{end_a}A"),
        ],
        START_SOC,
    ).solve()
    steps = run.cycles[0].steps
    return _hours(steps[0]), _hours(steps[0]) + _hours(steps[1])


def discharge_hours(step: Any) -> float:
    """Hours from full to 3.0 V under one step."""
    run = simulation([step], 1.0).solve()
    return _hours(run.cycles[0].steps[0])


def _hours(solution: Any) -> float:
    times = np.asarray(solution["Time [h]"].entries)
    return float(times[-1] - times[0])
