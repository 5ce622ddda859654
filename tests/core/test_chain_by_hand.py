"""The chain's figures worked by hand from the trade's formulas, on one plan with round numbers."""

import numpy as np
import pytest

from builders import CELL, CHARGER, PROTECTION, SIZE, board, plan
from pocketspark.core.chain import WIRES_OHM, Chain
from pocketspark.core.circuit import circuit_of
from pocketspark.core.kinds.wires import gauge_for, ohm_per_m
from pocketspark.core.physics.charge_and_discharge import CellGroup, ChargerSetting, charge
from pocketspark.core.physics.ocv import curve_of
from pocketspark.core.wiring.cutlist import cut_list

LIT = {"name": "lit", "current_a": 0.06, "hours_per_day": 3}
# cell 90 mohm + protection 2 x 25 mohm + the wires between
ALL_OHM = 0.09 + 0.05 + WIRES_OHM


def chain(**changes):
    return Chain(plan(**changes), 0)


# Switched off --------------------------------------------------------------------------------------------------

SELF_A = 0.9 * 0.025 / (30.4 * 24)  # 2.5 % a month of 0.9 Ah, from memory: 31 uA


def test_what_leaves_the_cell_in_the_drawer():
    # protection 3 uA, charger 2 uA (common practice, no source), the gadget's own 10 uA straight from the cell
    seen = chain(gadget={"off_current_a": 10e-6, "modes": [LIT]})
    assert seen.running.standby_a == pytest.approx(10e-6 + 3e-6 + 2e-6 + SELF_A, rel=1e-3)
    assert seen.running.standby_days == pytest.approx(seen.running.usable_ah / seen.running.standby_a / 24)


SLEEPY = {"kind": "ldo", "v_set": 3.3, "iq_a": 50e-6, "has_enable": True, "iq_off_a": 1e-6}


@pytest.mark.parametrize(
    ("place", "regulator_a", "gadget_a"),
    [("gadget", 50e-6, 10e-6), ("before_regulator", 0.0, 0.0), ("enable", 1e-6, 0.0)],
)
def test_where_the_switch_stands_decides_what_sleeps(place, regulator_a, gadget_a):
    seen = chain(regulator=SLEEPY, switch_place=place, gadget={"off_current_a": 10e-6, "modes": [LIT]})
    assert seen.running.off_drains["regulator"] == pytest.approx(regulator_a, abs=1e-9)
    assert seen.running.off_drains["gadget"] == pytest.approx(gadget_a, abs=1e-9)


def test_what_hangs_before_the_regulator_draws_on_whatever_the_switch_does():
    gadget = {"off_current_a": 10e-6, "off_path": "before_regulator", "modes": [LIT]}
    seen = chain(regulator=SLEEPY, switch_place="before_regulator", gadget=gadget)
    assert seen.running.off_drains["gadget"] == pytest.approx(10e-6)


def test_days_at_the_surveyed_use():
    # a day takes 3 h of the run, 21 h of the gadget's off current, and 24 h of what leaks by itself
    seen = chain(gadget={"modes": [LIT], "off_current_a": 1e-4})
    run_h = seen.running.runs[0].hours
    running = seen.running
    a_day_ah = 21 * 1e-4 + 24 * (running.standby_a - 1e-4)
    assert running.days == pytest.approx(1 / (3 / run_h + a_day_ah / running.usable_ah))


# Volts and peaks ------------------------------------------------------------------------------------------------


def test_volts_at_the_gadget_with_a_full_cell():
    # 4.2 V - 0.06 A x everything in the way
    seen = chain(gadget={"modes": [LIT]})
    assert seen.running.gadget_v_max == pytest.approx(4.2 - 0.06 * ALL_OHM, abs=1e-6)
    assert chain(cell_count=2).running.chosen.all_ohm == pytest.approx(ALL_OHM - 0.045)


def test_a_switched_off_gadget_sees_nearly_the_whole_cell():
    seen = chain(gadget={"modes": [LIT], "off_current_a": 1e-3})
    assert seen.running.gadget_v_max == pytest.approx(4.2 - 1e-3 * ALL_OHM, abs=1e-6)
    cut = chain(
        gadget={"modes": [LIT], "off_current_a": 1e-3},
        regulator=SLEEPY | {"v_set": 5.0},
        switch_place="before_regulator",
    )
    assert cut.running.gadget_v_max < seen.running.gadget_v_max


def test_a_stalled_motor_takes_volts_over_ohms():
    # 4.2 V / (2 ohm of winding + the way there)
    gadget = {"front_end": "motor", "behind": {"winding_ohm": 2.0}, "modes": [LIT]}
    assert stalled_a(gadget=gadget) == pytest.approx(4.2 / (2 + ALL_OHM), rel=1e-6)
    # Held at 3.0 V by a regulator with volts to spare: 3.0 V / 2 ohm, and the same current from the cell.
    assert stalled_a(gadget=gadget, regulator={"kind": "ldo", "v_set": 3.0, "iq_a": 0}) == pytest.approx(1.5)
    # Behind a step-up to 5 V the winding burns 12.5 W / 2: over 4 V and 88 %, more than from the cell alone.
    assert stalled_a(gadget=gadget, regulator={"kind": "boost", "v_set": 5.0}) > 5.0**2 / 2 / 0.88 / 4.2
    assert stalled_a(gadget=gadget | {"front_end": "heater"}) == 0


def stalled_a(**changes):
    return circuit_of(chain(**changes).running).most("cell_out_a", uses=("stalled",))


def test_two_protections_in_series_count_twice_and_the_weaker_trips_first():
    second = {"name": "protection", "protection": PROTECTION | {"v_trip": 0.10, "cut_v": 2.8}, "outline_mm": [20, 6, 2]}
    first = {"name": "board", "charger": CHARGER, "protection": PROTECTION} | SIZE
    seen = chain(boards=[first, second])
    assert seen.running.chosen.path_ohm == pytest.approx(0.10 + WIRES_OHM)
    assert seen.first_to_trip.v_trip == 0.10
    assert seen.running.chosen.cuts["protection"] == 2.8


def test_old_and_cold():
    # 300 cycles: 80 % and 1.5 x; 0 C: 85 % and 2 x (usual data sheets, from memory)
    old, cold, both = chain(aged=True), chain(cold=True), chain(aged=True, cold=True)
    assert [round(c.running.chosen.capacity_ah, 4) for c in (old, cold, both)] == [0.72, 0.765, 0.612]
    assert [round(float(c.running.chosen.group.r_ohm), 4) for c in (old, cold, both)] == [0.135, 0.18, 0.27]


# Charging -------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("changes", "name", "limit_a"),
    [
        ({}, "policy", 0.45),
        ({"policy": "label"}, "source", 0.5),
        ({"policy": "label", "source": {"kind": "type_c_3a"}}, "policy", 0.9),
        (
            {"policy": "data_sheet", "source": {"kind": "type_c_3a"}, "cell": CELL | {"charge_max_a": 0.7}},
            "policy",
            0.7,
        ),
        # without a data sheet, gentle; salvaged, gentle whatever was chosen
        ({"policy": "data_sheet", "cell": CELL | {"charge_max_a": None}}, "policy", 0.45),
        ({"policy": "label", "cell": CELL | {"origin": "salvaged"}}, "policy", 0.45),
        ({"cell_count": 2, "source": {"kind": "type_c_3a"}}, "policy", 0.9),
        ({"policy": "label", "use_while_charging": "two_diodes"}, "source", 0.44),
        ({"policy": "label", "boards": [board(rated_a=0.3)]}, "board", 0.3),
        # (120 - 25) / (150 + 1 / (10 W/m2K x 0.01830 m2)) C/W = 0.611 W over 5.0 - 3.78 V or so
        ({"policy": "label", "boards": [board(theta_ja_c_per_w=250)]}, "heat", None),
    ],
)
def test_the_lowest_limit_sets_the_target(changes, name, limit_a):
    lowest = chain(**changes).charging.current.limits[0]
    assert lowest.name == name
    if limit_a is not None:
        assert lowest.current_a == pytest.approx(limit_a)


def test_what_the_heat_allows():
    # (120 - 25) / (200 + 1 / (h A)) W over what stands between 5 V and the middle of the curve
    shell = {"outer_mm": [90, 60, 25]}
    seen = chain(boards=[board(theta_ja_c_per_w=200)], gadget={"shell": shell}, policy="label")
    area = 2 * (0.09 * 0.06 + 0.09 * 0.025 + 0.06 * 0.025)
    burnt_w = 95 / (200 + 1 / (10 * area))
    heat = next(limit for limit in seen.charging.current.limits if str(limit.name) == "heat")
    assert heat.current_a == pytest.approx(burnt_w / (5.0 - float(seen.running.chosen.curve.at(0.5))))


def test_the_resistor_in_force():
    # measured, else chosen, else as delivered, else suggested
    delivered = [board(r_prog_ohm=1200)]
    assert (
        chain(r_measured_ohm=2950).charging.current.r_prog_ohm,
        chain(r_measured_ohm=2950).charging.current.r_origin,
    ) == (2950, "measured")
    assert chain(boards=delivered).charging.current.r_origin == "chosen"
    assert chain(boards=delivered, r_prog_ohm=None).charging.current.r_prog_ohm == 1200
    assert chain(boards=delivered, r_prog_ohm=None).charging.current.r_origin == "as delivered"
    suggested = chain(r_prog_ohm=None)
    assert (suggested.charging.current.r_prog_ohm, suggested.charging.current.r_origin) == (3000, "suggested")
    assert chain(r_measured_ohm=2950).charging.current.r_marked_ohm == 3000


def test_volts_at_the_gadget_while_it_is_plugged_in():
    # change-over: 5 V less the cable's drop at 60 mA; on the charger's output: its float voltage
    assert chain(use_while_charging="change_over").charging.plugged_gadget_v() == pytest.approx(5 - 0.06 * 0.15)
    on_cell = chain(use_while_charging="on_cell").charging.plugged_gadget_v()
    assert on_cell == pytest.approx(4.2)
    assert chain(use_while_charging="off").charging.plugged_gadget_v() is None


# Cut list -------------------------------------------------------------------------------------------------------


def test_the_length_of_a_wire_is_the_way_along_the_bay_and_a_loop():
    pins = [
        {"part": "Pouch 503450", "at_mm": [2, 2, 1]},
        {"part": "1 A board", "at_mm": [40, 10, 12], "turned": "flat, across"},
    ]
    bare = [{"name": "1 A board", "charger": CHARGER, "protection": PROTECTION, "outline_mm": [26, 17, 4.2]}]
    seen = chain(boards=bare, pins=pins)
    wires = {(wire.start, wire.end): wire for wire in cut_list(seen)}
    # middles: cell 2 + 26, 2 + 17, 1 + 2.75; board 40 + 8.5, 10 + 14, 12 + 2.1: 20.5 + 5 + 10.35 and a loop of 25
    assert wires["cell.+", "charger.B+"].length_mm == round((20.5 + 5 + 10.35 + 25) / 5) * 5
    assert not wires["cell.+", "charger.B+"].guessed


def test_a_wire_nobody_has_placed_is_taken_as_a_long_one():
    seen = chain(gadget={"bay": None, "supply": {"kind": "pack", "pack_v": 3.6}})
    assert all(wire.guessed and wire.length_mm == 90 for wire in cut_list(seen))


def test_gauge_by_hand():
    # half of 50 mV over one wire: 1 A over 100 mm of 28 AWG drops 21 mV, of 30 AWG 34 mV
    assert gauge_for(1.0, 0.1) == 28
    assert gauge_for(0.7, 0.1) == 30
    assert gauge_for(50, 1.0) == 20  # none is thick enough: the thickest
    assert 1.0 * ohm_per_m(28) * 0.1 < 0.025 < 1.0 * ohm_per_m(30) * 0.1


def test_colours_follow_the_poles():
    seen = chain(boards=[board()])
    colour = {f"{wire.start} {wire.end}": wire.colour for wire in cut_list(seen)}
    assert colour["cell.+ charger.B+"] == "red"
    assert colour["cell.- charger.B-"] == "black"
    assert colour["charger.OUT+ gadget.+"] == "red"  # the same net as B+ on such a board
    assert colour["source.5V charger.IN+"] == "orange"
    assert colour["source.GND charger.IN-"] == "grey"  # behind the protection, as the gadget is


def test_what_lies_between_charger_and_cell_is_charged_through_too():
    """By hand: at constant current the charger reaches 4.2 V earlier by I R. 0.1 ohm at 1 A: with 4.1 V in the cell."""
    group = CellGroup(curve_of("li_4v20"), 1.8, 0.05)
    straight = charge(group, ChargerSetting(1.0, cable_ohm=0.0))
    through = charge(group, ChargerSetting(1.0, cable_ohm=0.0), path_ohm=0.1)
    held = int(np.argmax(through.charger_v.ravel() >= 4.2 - 1e-9))
    assert through.cell_v.ravel()[held] == pytest.approx(4.2 - 0.1 * 1.0, abs=1e-6)
    # Worked out elsewhere for 1 A into 1.8 Ah: 2.16 h in the place of 1.92, twelve per cent more.
    assert float(through.hours.flat[0] / straight.hours.flat[0]) == pytest.approx(2.16 / 1.92, abs=0.05)
