"""The mistakes that makers make, each put into a sound plan: the tool must catch it where the trade says it shows.

The list is common practice, no source. Each row names the mistake as a maker would tell it, and what catches it: a rule
with its level, a hold point with a reading that it must refuse, or a finding in a log.
"""

import pytest

from builders import CELL, PROTECTION, board, finding, judged, plan
from pocketspark.core.cells.cell_history import with_changes_noted
from pocketspark.core.cells.grading import grade
from pocketspark.core.cells.matching import matches
from pocketspark.core.chain import Chain
from pocketspark.core.hookup.hookup import hook_up
from pocketspark.core.logs.analysis import analyse
from pocketspark.core.models import Cell
from pocketspark.core.questions.regulator_options import regulator_options
from pocketspark.core.steps import inside, procedure
from pocketspark.instruments import Bench, Meter, simulated_run
from pocketspark.parts import library

SMALL = CELL | {"capacity_ah": 0.12, "charge_max_a": 0.12, "size_mm": [4, 12, 30]}
LIT = {"name": "lit", "current_a": 0.06, "hours_per_day": 3}


def rewired(*pairs, extra=(), drop=()):
    """The tool's own wires, without some, and with these instead."""
    made = [
        w.model_dump()
        for w in hook_up(Chain(plan(), 0)).wires
        if f"{w.start}>{w.end}" not in drop and w.end not in drop
    ]
    return {"wiring": {"wires": made + [{"start": a, "end": b} for a, b in pairs], "extra": list(extra)}}


# mistake: (code of the rule that catches it, its level, the plan)
IN_THE_PLAN = {
    "a 1 A board left as delivered on a small cell": (
        "charge.over_cell",
        "stop",
        {"cell": SMALL, "r_prog_ohm": 1200},
    ),
    "the jack wired to USB out": (
        "wire.usb_out_fed",
        "stop",
        {"boards": [board() | {"usb_out_pads": True}]} | rewired(("source.5V", "charger.U+")),
    ),
    "the cell's lead reversed": (
        "wire.polarity",
        "stop",
        rewired(("cell.+", "charger.B-"), ("cell.-", "charger.B+"), drop=("charger.B+", "charger.B-")),
    ),
    "the protection bypassed by a shared ground": ("wire.cell_unprotected", "stop", rewired(("cell.-", "gadget.-"))),
    "the protection bypassed by a metal case": (
        "wire.protection_bypassed",
        "stop",
        {"wiring": {"case_touches": "cell.-"}},
    ),
    "own protection peeled off a salvaged cell, none put back": (
        "power.no_protection",
        "stop",
        {"cell": CELL | {"origin": "salvaged", "own_protection": False}, "boards": [board(protection=False)]},
    ),
    "a load on the cell while it charges": ("charge.never_ends", "caution", {"use_while_charging": "on_cell"}),
    "the old trickle path left in": (
        "survey.existing_charging_live",
        "stop",
        {"gadget": {"existing_charging": {"kind": "dock", "treatment": "untouched"}}},
    ),
    "an old linear regulator in front of the switch": (
        "wire.switch_place",
        "caution",
        {"regulator": {"kind": "ldo", "v_set": 3.0, "iq_a": 5e-3}},
    ),
    "bare logic on 4.2 V": (
        "power.over_window",
        "stop",
        {"gadget": {"window": None, "front_end": "logic", "supply": {"battery": "LR03", "series": 2}}},
    ),
    "a boost at an almost empty cell": (
        "power.peak_at_empty",
        "stop",
        {"regulator": {"kind": "boost", "v_set": 9}, "gadget": {"modes": [LIT | {"peak_a": 3.5}]}},
    ),
    "a lid that bulges over a pouch": (
        "fit.swell",
        "note",
        {"gadget": {"bay": {"rooms": [{"size_mm": [54, 36, 5.2]}]}}},
    ),
    "a socket too deep behind its wall": (
        "fit.socket_deep",
        "note",
        {"gadget": {"bay": {"rooms": [{"size_mm": [75, 45, 20]}], "wall_mm": 2}}},
    ),
    "a socket with nothing behind it": ("fit.socket_unsupported", "note", {}),
    "a neighbour taller than its drawing said": (
        "fit.last_try_off",
        "note",
        {"attempts": [{"note": "the coil stands 0.8 mm higher", "off_mm": 0.8}]},
    ),
    "a label twice what the volume can hold": (
        "cell.claim_not_credible",
        "stop",
        {"cell": CELL | {"capacity_ah": 3.0}},
    ),
    "unlike cells joined": ("wire.unmatched", "caution", {"cell_count": 2}),
    "a receiver pad against the cell": (
        "charge.wireless",
        "stop",
        {"input": {"kind": "wireless", "pad_ferrite": False, "pad_against_cell": True}},
    ),
    "a 4.35 V board on a 4.20 V cell": ("charge.float_high", "stop", {"boards": [board(float_v=4.35)]}),
    "a charger on the cell's side of its protection": (
        "wire.charger_before_protection",
        "stop",
        {
            "boards": [
                board(protection=False),
                {"name": "protection", "protection": PROTECTION, "outline_mm": [20, 6, 2]},
            ],
            "wiring": {
                "wires": [
                    {"start": a, "end": b}
                    for a, b in (
                        ("cell.+", "protection.B+"),
                        ("cell.-", "protection.B-"),
                        ("charger.B+", "protection.P+"),
                        ("charger.B-", "protection.B-"),
                        ("gadget.+", "protection.P+"),
                        ("gadget.-", "protection.P-"),
                        ("source.5V", "charger.IN+"),
                        ("source.GND", "charger.IN-"),
                    )
                ]
            },
        },
    ),
}


@pytest.mark.parametrize("mistake", IN_THE_PLAN)
def test_a_mistake_in_the_plan_is_caught(mistake):
    code, level, changes = IN_THE_PLAN[mistake]
    found = finding(judged(**changes), code)
    assert found is not None, mistake
    assert found.level == level
    assert str(found.headline).endswith(".")


# mistake: (step whose hold refuses it, what the meter then reads)
AT_A_HOLD = {
    "another resistor than planned": ("resistor", 1200.0),
    "ohms read with the cell connected": ("resistor", 1850.0),
    "a dead board, or 5 V on its out pads": ("board_alone", 0.2),
    "a whisker of solder between the rails": ("short_check", 3.0),
    "the cell's plug the wrong way round": ("cell_volts", -3.8),
    "a cell that was left flat": ("cell_volts", 2.2),
    "a board held back by heat, or a thin cable": ("first_charge", 0.25),
    "a pad or board against the cell": ("warmth", 51.0),
    "a board that goes on too high": ("full", 4.31),
    "a cell that discharges itself": ("rest", 0.12),
    "a weak joint under load": ("output", 2.4),
}


@pytest.mark.parametrize("mistake", AT_A_HOLD)
def test_a_mistake_at_the_bench_is_held_up(mistake):
    key, reading = AT_A_HOLD[mistake]
    steps = {step.key: step for step in procedure(plan()).steps}
    hold = steps[key].hold
    assert hold is not None
    assert not inside(hold, reading)
    assert len(hold.likely) >= 2  # what it most likely means, in order
    record = {"step": key, "done": True, "value": reading}
    after = {step.key: step for step in procedure(plan(steps=[record])).steps}[key]
    assert after.state == "held"
    forced = {step.key: step for step in procedure(plan(steps=[record | {"override": "I know"}])).steps}[key]
    assert forced.state == ("held" if hold.grade == "stop" else "overridden")


IN_A_LOG = {
    "a load left on while it charges": ("cell_meters", "load_left_on", "log.never_ends"),
    "a broken ground wire, a weak joint, a pad": ("cell_meters", "pad_starts_and_stops", "log.interrupted"),
    "a hot closed box": ("usb_meter", "hot_box", "log.folds_back"),
    "a protection that trips on start-up, in a loop": ("bench_load", "protection_trips", "log.trips_at_peak"),
    "a thin cable": ("usb_meter", "thin_cable", "log.cable_sags"),
}


@pytest.mark.parametrize("mistake", IN_A_LOG)
def test_a_mistake_shows_in_a_log(mistake):
    instrument, fault, code = IN_A_LOG[mistake]
    seen = analyse(simulated_run(instrument, Bench(), Meter(seed=9), fault), plan_a=0.4)
    assert code in [found.code for found in seen.findings]


# Cells that come out of a drawer ----------------------------------------------------------------------------------


def test_two_unlike_salvaged_cells_spoil_their_match():
    one = Cell.model_validate(CELL | {"origin": "salvaged", "measured_capacity_ah": 0.85, "intake": {"rest_v": 3.9}})
    other = Cell.model_validate(CELL | {"origin": "salvaged", "measured_capacity_ah": 0.6, "intake": {"rest_v": 3.5}})
    (pair,) = matches([one, other])
    assert len(pair.spoilers) >= 2
    (alike,) = matches([one, one])
    assert not alike.spoilers


@pytest.mark.parametrize(
    ("intake", "word"),
    [
        ({"rest_v": 1.2}, "recycle"),
        ({"rest_v": 2.3}, "watch"),
        ({"rest_v": 3.7, "damage": ["dent"]}, "recycle"),
        ({"rest_v": 3.7, "thickness_mm": 5.9}, "recycle"),  # 18 % over its code
        ({"rest_v": 3.7, "drop_24h_v": 0.045}, "recycle"),
        ({"rest_v": 3.7}, "untested"),
    ],
)
def test_the_triage_of_a_found_cell(intake, word):
    assert grade(Cell.model_validate(CELL | {"origin": "salvaged", "intake": intake})).word == word


def test_a_history_says_what_changed_and_forgets_the_oldest_first():
    before = Cell.model_validate(CELL | {"intake": {"rest_v": 3.7}})
    after = Cell.model_validate(CELL | {"intake": {"rest_v": 3.6, "damage": ["dent"]}})
    told = with_changes_noted(before, after, "2026-11-25").intake.history
    assert [str(line.text) for line in told] == ["at rest 3.60 V, was 3.70 V", "damage dent"]
    assert with_changes_noted(after, after, "2026-11-25") == after
    full = after.intake.model_copy(update={"history": told * 100})
    crowded = with_changes_noted(before, after.model_copy(update={"intake": full}), "2026-11-26").intake.history
    assert len(crowded) == 200
    assert crowded[-1].day == "2026-11-26"


# An old regulator, and what a drawer does with it --------------------------------------------------------------------


def test_a_linear_regulator_left_on_empties_the_cell_in_weeks():
    # Q / I: 900 mAh at 5 mA are 180 h, a week and a half (arithmetic).
    seen = judged(regulator={"kind": "ldo", "v_set": 3.0, "iq_a": 5e-3})
    assert seen.run.standby_days == pytest.approx(7.5, rel=0.1)


def test_every_regulator_of_the_library_is_offered_with_its_reason():
    boards = [part.board for part in library().of("regulator") if part.board]
    options = regulator_options(plan(), 0, boards)
    assert {option.name for option in options} >= {board.regulator.name for board in boards}
    assert all(option.reason for option in options)
    hours = [option.run_hours for option in options if option.level == options[0].level and option.run_hours]
    assert hours[0] >= 0.9 * max(hours)  # of those with no graver finding, one that runs about the longest comes first
