"""The series diode against ngspice's noted figures, and against the closed form with scipy's Lambert W."""

import numpy as np
import pytest
from scipy.special import lambertw

from pocketspark.core.kinds.regulators import law_of_regulator
from pocketspark.core.models import Regulator
from pocketspark.core.physics.load import Load
from pocketspark.core.physics.regulator_laws import THERMAL_V

DIODE = Regulator(kind="diode", n=1.05, is_a=2.5e-6, rs_ohm=0.04)
BEHIND_OHM = 0.150


@pytest.mark.parametrize(
    ("load", "at_3v7", "at_4v2"),
    [
        (Load(siemens=1 / 50), 3.4097, 3.9041),
        (Load(siemens=1 / 10), 3.3166, 3.8037),
        (Load(power_w=0.25), 3.4067, 3.9122),
        (Load(power_w=1.0), 3.3252, 3.8367),
    ],
    ids=["50 ohm", "10 ohm", "0.25 W", "1 W"],
)
def test_gadget_voltage_behind_a_diode(load, at_3v7, at_4v2):
    # ngspice at 27 C, noted in the numerics of this project
    point = law_of_regulator(DIODE).operating_point(np.array([3.7, 4.2]), BEHIND_OHM, load)
    assert point.gadget_v == pytest.approx([at_3v7, at_4v2], abs=2e-3 if load.power_w == 0.25 else 1e-4)


@pytest.mark.parametrize("load_ohm", [5, 50, 5000])
@pytest.mark.parametrize("ocv_v", [3.0, 3.7, 4.2])
def test_a_resistance_behind_a_diode_against_lambert_w(ocv_v, load_ohm):
    """I R + n Vt ln(1 + I/Is) = ocv_v has the closed form I = n Vt/R W(x) - Is (scipy.special.lambertw)."""
    n_vt, r_all = DIODE.n * THERMAL_V, BEHIND_OHM + DIODE.rs_ohm + load_ohm
    # W of a huge number, in log space: W(e^y) solves w + ln w = y.
    y = np.log(DIODE.is_a * r_all / n_vt) + (ocv_v + DIODE.is_a * r_all) / n_vt
    w = lambertw(np.exp(y)).real if y < 600 else y - np.log(y)
    current = n_vt / r_all * w - DIODE.is_a
    ours = law_of_regulator(DIODE).operating_point(ocv_v, BEHIND_OHM, Load(siemens=1 / load_ohm))
    assert float(ours.cell_a) == pytest.approx(current, rel=1e-6)
