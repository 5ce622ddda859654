"""What coils do: a cable plugged into ceramic, a motor switched off, by hand; and by a circuit simulator.

Reference of the ringing: ngspice (Debian's package), by its transient of R, L and C on a step.
"""

import re
import subprocess

import pytest

from builders import board, finding, judged
from chances import FULL, dice
from pocketspark.core.physics.transients import kick_v, ring_peak_v

DRAWS = 200 if FULL else 40


def simulated_peak_v(source_v, inductance_h, capacitance_f, r_ohm):
    turn_s = 6.2832 * (inductance_h * capacitance_f) ** 0.5
    lines = [
        "* plugged in",
        f"Vs s 0 PWL(0 0 {turn_s / 1000:.6g} {source_v})",
        f"R1 s a {r_ohm}",
        f"L1 a b {inductance_h}",
        f"C1 b 0 {capacitance_f}",
        ".control",
        f"tran {turn_s / 400:.6g} {3 * turn_s:.6g} 0 {turn_s / 400:.6g} uic",
        "meas tran peak max v(b)",
        ".endc",
        ".end",
        "",
    ]
    told = subprocess.run(["ngspice", "-b"], input="\n".join(lines), capture_output=True, text=True, check=False)
    return float(re.search(r"peak\s*=\s*(\S+)", told.stdout)[1])


def test_a_cable_rings_as_in_the_simulator():
    chance = dice("plugged in")
    for _ in range(DRAWS):
        circuit = chance.uniform(4.5, 12), chance.uniform(0.1e-6, 3e-6), chance.uniform(1e-6, 22e-6)
        r_ohm = chance.uniform(0.02, 0.6)
        damping = r_ohm / 2 * (circuit[2] / circuit[1]) ** 0.5
        # Where hardly anything goes over, the longest of three turns is not the end of it.
        if damping < 0.9:
            assert ring_peak_v(*circuit, r_ohm) == pytest.approx(simulated_peak_v(*circuit, r_ohm), rel=0.01)


def test_the_ends_of_ringing():
    assert ring_peak_v(5, 1e-6, 10e-6, 1e-9) == pytest.approx(10, rel=1e-3)  # nothing damps it: twice
    assert ring_peak_v(5, 1e-6, 10e-6, 2.0) == 5


def test_all_that_a_coil_holds_goes_into_the_capacitor():
    # 1 mH at 2 A is 2 mJ; 100 uF at 5 V is 1.25 mJ: 3.25 mJ are 8.06 V
    assert kick_v(5.0, 1e-3, 2.0, 100e-6) == pytest.approx((2 * 3.25e-3 / 100e-6) ** 0.5)


def at(cable_mm=None, volts=5.0, **changes):
    return {"source": {"kind": "own", "volts": volts, "limit_a": 1, "cable_mm": cable_mm}} | changes


@pytest.mark.parametrize(
    ("described", "level"),
    [
        (at(), None),
        (at(2000), None),
        (at(3000), "note"),
        (at(3000, 5.8), "caution"),
        (at(3000, 5.8, input={"damped": True}), None),
        (at(3000, 5.8, input={"kind": "wireless"}), None),
        (at(3000, 5.8, boards=[board(v_in_max=10)]), None),
    ],
)
def test_only_a_long_cable_rings_over_what_a_charger_bears(described, level):
    found = finding(judged(**described), "charge.hot_plug")
    assert (found.level if found else None) == level


def motor(current_a, place, **behind):
    return {
        "gadget": {
            "front_end": "motor",
            "window": {"v_run_min": 2.0, "v_abs_max": 5.5},
            "behind": behind,
            "modes": [{"name": "on", "current_a": current_a, "at_v": 4.0}],
        },
        "regulator": {"kind": "boost", "v_set": 4.5, "rated_a": 3.0},
        "switch_place": place,
    }


@pytest.mark.parametrize(
    ("described", "level"),
    [
        # 0.3 ms x 2 ohm = 0.6 mH; at 1 A 0.6 mJ, twice that into 22 uF: 16 + 27 are 43, 6.6 V
        (motor(1.0, "before_regulator", winding_ohm=2.0), "caution"),
        (motor(0.1, "before_regulator", winding_ohm=2.0), None),
        (motor(1.0, "before_regulator", winding_ohm=2.0, kick_diode=True), None),
        (motor(1.0, "gadget", winding_ohm=2.0), "note"),
    ],
)
def test_a_motor_kicks_what_is_switched_off_before_it(described, level):
    found = finding(judged(**described), "power.motor_kick")
    assert (found.level if found else None) == level


def receiver(band, **regulator):
    return {"gadget": {"sound": "radio", "receives": band}, "regulator": {"kind": "boost", "v_set": 5.0} | regulator}


@pytest.mark.parametrize(
    ("described", "level", "says"),
    [
        (receiver("medium_wave"), "caution", "in the band"),  # 1.2 MHz lies in 526 to 1606 kHz
        (receiver("medium_wave", switching_hz=2.2e6), None, ""),
        (receiver("long_wave"), None, ""),
        (receiver("short_wave"), "caution", "harmonic 2 "),  # from 2.3 MHz on: twice 1.2
        (receiver("fm"), "note", "harmonic 61 "),  # 87.5 MHz by 1.2 and a fifth
        (receiver("fm", kind="ldo"), None, ""),
    ],
)
def test_a_converter_in_the_band_that_is_received(described, level, says):
    found = finding(judged(**described), "power.in_band")
    assert (found.level if found else None) == level
    assert says in (str(found.headline) if found else "")
