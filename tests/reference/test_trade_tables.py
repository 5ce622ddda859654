"""The tables of the trade against the standards they come from, and the trade's own check values."""

import pytest

from pocketspark.core.models import BATTERIES, CELL_CLASSES, SOURCES, Protection, Supply
from pocketspark.core.physics.resistors import DECADE, preferred_at_or_above, prog_current
from pocketspark.parts import library


@pytest.mark.parametrize(
    ("name", "size_mm"),
    [
        ("LR03", (10.5, 44.5)),
        ("LR6", (14.5, 50.5)),
        ("LR14", (26.2, 50.0)),
        ("LR20", (34.2, 61.5)),
        ("6LR61", (48.5, 26.5, 17.5)),
        ("CR2032", (20.0, 3.2)),
    ],
)
def test_battery_sizes(name, size_mm):
    # IEC 60086-2, maxima, from memory
    assert BATTERIES[name].size_mm == size_mm


def test_preferred_values():
    # IEC 60063: E12 and E24 as listed there; E96 begins 100, 102, 105, 107, 110, 113
    e12 = [1.0, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2]
    assert list(DECADE["E12"]) == e12
    assert set(e12) < set(DECADE["E24"])
    assert len(DECADE["E24"]) == 24
    assert DECADE["E96"][:6] == (1.00, 1.02, 1.05, 1.07, 1.10, 1.13)
    assert DECADE["E96"][-1] == 9.76
    assert preferred_at_or_above(2716) == 3000
    assert preferred_at_or_above(9500) == 10_000


@pytest.mark.parametrize(
    ("r_ohm", "low_ma", "high_ma"),
    [
        (1200, 1000, 1000),
        (2000, 580, 600),
        (3000, 400, 400),
        (4000, 300, 300),
        (5000, 240, 250),
        (10_000, 120, 130),
    ],
)
def test_charge_current_for_k_1200(r_ohm, low_ma, high_ma):
    # common practice, no source
    assert low_ma <= prog_current(1200, r_ohm) * 1000 <= high_ma


def test_the_common_protection_trips_at_three_amps():
    # common practice, no source: 25 mohm each and 0.15 V
    assert Protection(v_trip=0.15, r_on_ohm=0.025).trip_current_a == pytest.approx(3.0)


def test_two_alkalines_are_three_volts_new_and_two_dead():
    # common practice, no source
    two, three = Supply(series=2), Supply(series=3)
    assert (two.working_v, round(two.empty_v)) == (3.0, 2)
    assert (three.working_v, round(three.empty_v)) == (4.5, 3)


def test_usb_source_limits():
    # USB 2.0 before it is asked and after, USB 3, Battery Charging 1.2, Type-C, from memory
    limits = {kind: facts.limit_a for kind, facts in SOURCES.items()}
    assert limits.pop("usb_unasked") == 0.1
    assert limits == {"usb2": 0.5, "usb3": 0.9, "charging_port": 1.5, "type_c_1a5": 1.5, "type_c_3a": 3.0}


def test_full_voltages_of_the_classes():
    # handbooks, from memory
    assert {key: facts.full_v for key, facts in CELL_CLASSES.items()} == {
        "li_4v20": 4.20,
        "li_4v35": 4.35,
        "lfp": 3.65,
    }


def test_half_an_amp_hour_runs_a_46_milliamp_handheld_for_some_eleven_hours():
    # common practice, no source: 500 mAh ran a handheld for 10 h 48 min at an average of 46 mA
    from builders import judged

    seen = judged(
        gadget={"window": {"v_run_min": 2.5, "v_abs_max": 5}, "modes": [{"name": "on", "current_a": 0.046}]},
        cell={"capacity_ah": 0.5},
    )
    assert seen.run.modes[0].hours == pytest.approx(10.8, rel=0.03)


def test_the_library_is_as_large_as_promised_and_honest():
    parts = library()
    chargers = [part.board for part in parts.of("charger")]
    assert len(parts.of("cell")) >= 20
    assert len(chargers) >= 6
    assert {board.charger.k_volts for board in chargers} >= {1000, 1200}
    assert {board.socket.kind for board in chargers if board.socket} >= {"type_c", "micro_b"}
    assert {bool(board.protection) for board in chargers} == {True, False}
    assert len(parts.of("protection")) >= 3
    assert len(parts.of("regulator")) >= 4
    assert all(
        part.board.outline_mm and part.board.pcb_mm
        for kind in ("charger", "protection", "regulator")
        for part in parts.of(kind)
    )
