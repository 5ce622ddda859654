"""The first tenth of a second by hand: a capacitor through a resistance, a cold filament, a motor, what opens."""

import numpy as np
import pytest

from builders import CELL, PROTECTION, board, plan
from pocketspark.core.chain import Chain
from pocketspark.core.questions.start_up import start_up
from pocketspark.core.startup.first_moment import first_moment


def moment(ocv_v=4.2, **changes):
    chain = Chain(plan(**changes), 0)
    return first_moment(chain, chain.heaviest, np.array([ocv_v]))


def gadget(front_end="logic", capacitance_f=None, **mode):
    return {
        "gadget": {
            "front_end": front_end,
            "capacitance_f": capacitance_f,
            "window": {"v_run_min": 2.5, "v_abs_max": 6.0},
            "modes": [{"name": "on", "current_a": 0.02, "at_v": 4.0} | mode],
        }
    }


NEVER_TRIPS = {"boards": [board() | {"protection": PROTECTION | {"v_trip": 2.0}}]}


def test_a_capacitor_through_a_resistance():
    # 4.7 mF through 0.09 ohm of cell, 0.05 of transistors and 0.05 of wires: 0.19 ohm, tau 0.893 ms; 22 A at first
    seen = moment(**gadget("heater", 4.7e-3, current_a=0.001), **NEVER_TRIPS)
    expected = 4.2 * (1 - np.exp(-seen.time_s / (0.19 * 4.7e-3)))
    assert np.abs(seen.gadget_v[0] - expected).max() < 0.03
    assert seen.cell_a.max() == pytest.approx(22, rel=0.02)
    assert seen.comes_to == ("starts",)


def test_a_protection_takes_it_for_a_short_and_what_then():
    # trips at some 2.3 A; over three times that for 0.3 ms: open. A heater hangs on; electronics let go, and again
    stays, again = (moment(**gadget(kind, 4.7e-3, current_a=0.05)) for kind in ("heater", "logic"))
    assert (stays.comes_to, stays.opened) == (("stays off",), (1,))
    assert again.comes_to == ("hiccups",)
    assert again.opened[0] > 2
    assert stays.gadget_v[0][-1] < 1 < again.gadget_v[0].max()


def test_a_small_capacitor_is_full_before_anything_opens():
    # 100 uF x 0.19 ohm: 19 us, over 7 A for some 20 us
    seen = moment(**gadget("logic", 100e-6))
    assert (seen.comes_to, seen.opened) == (("starts",), (0,))


def test_a_cold_filament():
    # ten times its hot current cold (handbook, section 16); warm within some 50 ms
    seen = moment(**gadget("lamp", current_a=0.2, at_v=4.0), **NEVER_TRIPS)
    assert seen.cell_a.max() == pytest.approx(4.2 / (0.19 + 4.0 / 2.0), rel=0.05)
    late = seen.cell_a[0][np.searchsorted(seen.time_s, 0.09)]
    assert late == pytest.approx(0.2, rel=0.15)
    early = seen.cell_a[0][np.searchsorted(seen.time_s, 0.01)]
    assert late < early < seen.cell_a.max()


def test_a_motor_that_stalls_for_longer_than_the_protection_waits():
    # 0.8 ohm of winding: 4.2 / 0.99 = 4.2 A still, over the trip of 2.3 A for more than 10 ms
    motor = gadget("motor", current_a=0.3, at_v=4.0)
    motor["gadget"]["behind"] = {"winding_ohm": 0.8}
    assert moment(**motor).comes_to == ("stays off",)
    free = moment(**motor, **NEVER_TRIPS)
    assert free.cell_a.max() == pytest.approx(4.24, rel=0.03)
    # by hand: 0.05 s x 4.7 A / 3.8 A per full speed is a time constant of 62 ms; after 100 ms a fifth is left
    assert free.cell_a[0][-1] == pytest.approx(0.3 + (4.24 - 0.3) * np.exp(-100 / 62), rel=0.08)


def test_a_step_up_starts_softly_and_one_that_gets_too_little_does_not():
    up = {"regulator": {"kind": "boost", "v_set": 5.0, "rated_a": 0.5}}
    seen = moment(**gadget("logic", 470e-6, current_a=0.1), **up, **NEVER_TRIPS)
    assert seen.comes_to == ("starts",)
    assert seen.gadget_v[0][-1] == pytest.approx(5.0, rel=0.02)
    weak = up | {"cell": CELL | {"r_ohm": 3.0}}
    assert moment(3.0, **gadget("heater", current_a=0.9, at_v=5.0), **weak, **NEVER_TRIPS).comes_to != ("starts",)


def test_the_answer_says_it_of_the_gravest_cell():
    seen = start_up(plan(**gadget("logic", 4.7e-3, current_a=0.05)), 0)
    assert seen.level == "caution"
    assert "hiccups" in str(seen.headline)
    assert "soft start" in str(seen.help)
    assert len(seen.time_ms) == len(seen.curves[0].gadget_v) == len(seen.curves[0].cell_a)
    assert [str(one.label) for one in seen.curves] == ["full cell", "half full", "nearly empty"]
    sound = start_up(plan(), 0)
    assert sound.level == "pass"
    assert "taken as having none" in str(sound.assumed)
    assert start_up(plan(gadget={"modes": []}), 0) is None
