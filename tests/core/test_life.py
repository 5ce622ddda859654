"""Years of whole builds: seasons, storage, levers, and what tests of a cell teach; each reference by another route."""

from datetime import date, datetime

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from icalendar import Calendar
from pydantic import ValidationError

from builders import CELL, PROTECTION, board, finding, judged, plan
from pocketspark.core.cells.grading import grade
from pocketspark.core.chain import Chain
from pocketspark.core.clock import Workbench, recharge_job
from pocketspark.core.clock import plan as clock_plan
from pocketspark.core.life.ageing_tests import CAPACITY_SD, learnt_of
from pocketspark.core.life.recharge import recharge_of
from pocketspark.core.life.serving import serving
from pocketspark.core.life.unused import Unused
from pocketspark.core.life.years import Years
from pocketspark.core.models import Cell
from pocketspark.core.models.climate import CLIMATES
from pocketspark.core.physics.ageing import AGEING, Stress, losses, resistance_growth
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.life_levers import LEVERS
from pocketspark.core.questions.service_life import january_near, service_life
from pocketspark.core.questions.sheet import sheet_of
from pocketspark.core.questions.summary import summary_of
from pocketspark.formats.calendar import to_ics
from pocketspark.parts import library

LIT = {"name": "lit", "current_a": 0.06, "hours_per_day": 3}
CELLS = [part.cell for part in library().of("cell") if part.cell]


def running(**changes):
    return Chain(plan(**changes), 0).required_running()


def in_climate(climate="temperate", **more):
    return {"gadget": {"shell": {"climate": climate} | more}}


# Month by month ------------------------------------------------------------------------------------------------------


@given(
    climate=st.sampled_from([*CLIMATES, None]),
    month=st.integers(0, 119),
    current_a=st.floats(0.002, 0.5),
    off_a=st.floats(0, 3e-4),
    hours=st.floats(0.2, 24),
    r_ohm=st.floats(0.05, 0.5),
    law=st.sampled_from(["current", "resistance", "power"]),
)
def test_a_month_is_what_is_said_of_a_worn_cell_in_its_weather(climate, month, current_a, off_a, hours, r_ohm, law):
    # the other way: a cell of what is left by then, with the resistance of then, in a gadget that is used at the
    # temperature of that month, judged as any other build is
    modes = [{"name": "lit", "current_a": current_a, "hours_per_day": hours, "law": law}]
    gadget = {"modes": modes, "off_current_a": off_a}
    years = Years(running(gadget=gadget | {"shell": {"climate": climate}}, cell=CELL | {"r_ohm": r_ohm}))
    lost = years.lost.likely[month]
    worn = CELL | {"capacity_ah": 0.9 * (1 - lost), "r_ohm": r_ohm * float(resistance_growth(lost))}
    then = running(gadget=gadget | {"shell": {"use_c": float(years.celsius[month])}}, cell=worn, r_prog_ohm=3000)
    expected = then.served_days or 0.0
    # how full the charge leaves it follows its resistance, which years leave as it is new: under half a per cent
    # and next to where it would not run at all its hours fall steeply: as far as a little more resistance takes them
    stiffer = worn | {"r_ohm": worn["r_ohm"] * 1.03}
    cold = gadget | {"shell": {"use_c": float(years.celsius[month])}}
    steep = abs((running(gadget=cold, cell=stiffer, r_prog_ohm=3000).served_days or 0.0) - expected)
    allowed = 0.01 + 0.03 * years.days_now + steep
    assert years.days.likely[month] == pytest.approx(expected, rel=0.015, abs=allowed)


def test_the_band_holds_the_curve_and_widens():
    years = Years(running(**in_climate()))
    least, likely, most = years.days.least, years.days.likely, years.days.most
    assert (least <= likely + 1e-12).all()
    assert (likely <= most + 1e-12).all()
    assert most[-12] - least[-12] > most[0] - least[0]


def test_winter_is_shorter_and_summer_use_does_not_see_it():
    all_year, summer = (Years(running(**in_climate("cold", months_used=of))) for of in (None, [6, 7, 8]))
    assert (all_year.shortest_month, summer.shortest_month in (5, 7)) == (0, True)
    assert all_year.days.likely[0] < 0.8 * all_year.days.likely[6]
    # used a quarter of the year it is cycled a quarter as much
    assert summer.stress.cycles.sum() == pytest.approx(all_year.stress.cycles.sum() / 4, rel=0.3)


@pytest.mark.parametrize("share", [0.95, 0.8, 0.6])
def test_the_end_comes_when_a_charge_is_shorter_than_wanted(share):
    new = running().served_days
    years = Years(running(gadget={"wanted_days": round(share * new, 4)}))
    month = years.fails_at(years.days.likely)
    if month is None:
        assert years.days.likely.min() >= years.wanted_days - 1e-3
    else:
        assert years.days.likely[month] < years.wanted_days <= years.days.likely[max(month - 1, 0)] + 1e-3
    assert years.serves_years == (years.years if month is None else month / 12)


def test_what_does_not_do_its_job_serves_no_year():
    dark = {"front_end": "led_resistor", "behind": {"led_v": 4.4, "design_v": 4.5}, "modes": [LIT]}
    assert serving(Chain(plan(gadget=dark), 0)) is None
    assert service_life(plan(gadget=dark), 0, 2027).serves_years == 0


@pytest.mark.parametrize(
    ("gadget", "says"),
    [
        ({"shell": {"months_c": [-60] * 12}}, "Enter a value from -50 to 70"),
        ({"shell": {"months_c": [10] * 11}}, "A year has 12 months, from January on; these are 11"),
        ({"shell": {"months_used": []}}, "at least one month"),
        ({"shell": {"months_used": [13]}}, "12"),
        ({"shell": {"climate": "moon"}}, "Enter one of"),
        ({"wanted_days": -1}, "Enter a value"),
    ],
)
def test_odd_years_are_refused_in_a_sentence(gadget, says):
    with pytest.raises(ValidationError, match=says):
        plan(gadget=gadget)


@pytest.mark.parametrize(
    ("cell", "says"),
    [
        ({"age_years": 1999}, "how many years old it is, 40 at most, and not the year"),
        ({"age_years": -2}, "Enter a value"),
        ({"tests": [{"after_years": -1}]}, "Enter a value"),
    ],
)
def test_odd_ages_are_refused_in_a_sentence(cell, says):
    with pytest.raises(ValidationError, match=says):
        plan(cell=CELL | cell)


def test_a_very_old_cell_is_said_to_be_one():
    said = [str(one) for one in service_life(plan(cell=CELL | {"age_years": 27}), 0, 2027).remarks]
    assert any("27 years old" in one for one in said)
    young, old = (Years(running(cell=CELL | {"age_years": age})).lost_before for age in (1, 4))
    assert 0 < young < old < 0.2


# Unused --------------------------------------------------------------------------------------------------------------


def test_the_three_dates_by_hand():
    # 0.9 Ah. Asleep 100 uA, protection 3 uA, the charger's leak 2 uA, the cell's own 2.5 % a month: 22.5 mAh in
    # 729.6 h, 30.8 uA; 135.8 uA in all. At 60 mA it stops at 3.1 V with next to nothing left: 0.896 Ah, 275 days.
    # Then the protection opens at 2.5 V, a day later; 2 % are left under that, 18 mAh, for 35.8 uA: 21 days.
    unused = Unused(
        running(gadget={"off_current_a": 100e-6}, boards=[board() | {"protection": PROTECTION | {"drain_a": 3e-6}}])
    )
    assert unused.stops_days == pytest.approx(275, abs=3)
    assert unused.opens_days - unused.stops_days == pytest.approx(1.2, abs=0.5)
    assert unused.lost_days - unused.opens_days == pytest.approx(21, abs=0.5)
    assert unused.recharge_days == pytest.approx(0.8 * unused.opens_days)


def test_a_protection_at_the_end_of_the_cell_cuts_the_charger_off_as_well():
    leaky = board(protection=False, back_leak_a=20e-6)
    own = running(cell=CELL | {"own_protection": PROTECTION}, boards=[leaky])
    on_board = running(boards=[leaky | {"protection": PROTECTION}])
    assert Unused(on_board).after_opening_a - Unused(own).after_opening_a == pytest.approx(20e-6)


def test_without_a_protection_the_gadget_drains_it_all_the_way():
    unused = Unused(running(boards=[board(protection=False)], gadget={"off_current_a": 100e-6}))
    assert unused.opens_days is None
    assert unused.lost_days > unused.stops_days


def test_a_small_cell_that_is_lost_within_a_season_is_a_caution_and_a_warm_place_brings_it_nearer():
    small = {"cell": CELL | {"capacity_ah": 0.1, "r_ohm": 0.5}, "gadget": {"off_current_a": 60e-6}}
    assert finding(judged(**small), "power.recharge_by").level == "caution"
    cool, warm = (Unused(running(gadget={"shell": {"use_c": celsius}})).lost_days for celsius in (20, 40))
    assert warm < 0.6 * cool


def test_recharging_counts_from_the_newest_full_charge_and_not_for_practice():
    watched = {"first_charge": {"ended_at": "2026-03-01T10:00Z"}}
    first = recharge_of(Chain(plan(**watched), 0))
    later = recharge_of(Chain(plan(**watched, charged_at="2026-05-01T10:00Z"), 0))
    assert first.charged == "2026-03-01T10:00Z"
    assert first.by > "2026-03-02"
    assert later.lost > later.by > first.by
    assert recharge_of(Chain(plan(), 0)) is None
    assert recharge_of(Chain(plan(**watched, practice=True), 0)) is None
    assert summary_of(plan(**watched)).recharge == first


def test_what_is_done_comes_up_on_the_bench_clock_and_in_the_calendar():
    due = recharge_of(Chain(plan(first_charge={"ended_at": "2026-03-01T10:00Z"}), 0))
    now = datetime.fromisoformat("2026-03-02T10:00:00+00:00")
    timeline = clock_plan([recharge_job("Lamp", "/conversion/1/years", due)], Workbench(), now)
    (task,) = timeline.due
    assert task.begins.date() >= date.fromisoformat(due.by) > now.date()
    assert task.begins.date() < date.fromisoformat(due.lost)
    (event,) = Calendar.from_ical(to_ics(timeline, now)).walk("VEVENT")
    assert event["SUMMARY"] == f"Lamp: Charge it: its cell is lost on {due.lost}"


# What keeps it on its charger ----------------------------------------------------------------------------------------


def test_left_plugged_in_is_a_caution_where_it_costs_much():
    hot = {"gadget": {"shell": {"room_c": 40}}}
    assert finding(judged(plugged_in="always", **hot), "charge.plugged_in").level == "caution"
    assert finding(judged(plugged_in="always"), "charge.plugged_in").remedy.edits[0].value == "until_full"
    assert finding(judged(**hot), "charge.plugged_in") is None
    lost = [
        float(Years(running(plugged_in=habit, gadget={"modes": [LIT | {"hours_per_day": 0.1}]})).lost.likely[23])
        for habit in ("until_full", "overnight", "always")
    ]
    assert lost == sorted(lost)
    assert lost[2] > 1.2 * lost[0]


def test_cold_months_of_use_are_judged():
    assert "-16" in str(finding(judged(**in_climate("cold")), "cell.use_temperature").headline)
    assert finding(judged(**in_climate("cold", months_used=[6, 7])), "cell.use_temperature") is None


# Levers --------------------------------------------------------------------------------------------------------------

HARD = {"gadget": {"shell": {"climate": "temperate"}, "modes": [LIT | {"hours_per_day": 12}], "wanted_days": 0.85}}


def test_each_lever_does_what_it_says():
    project = plan(**HARD, r_prog_ohm=1300, plugged_in="always")
    told = service_life(project, 0, 2027, CELLS)
    assert {lever.key for lever in told.levers} >= {"taken_off", "lower_end", "gentler", "warm_winter", "larger_cell"}
    for lever in told.levers:
        # the other way: the plan really changed, with what was wanted before
        changed = service_life(project.apply(lever.edits), 0, 2027)
        assert lever.serves_years == changed.serves_years
        pulled = service_life(project, 0, 2027, CELLS, [lever.key])
        assert pulled.serves_years == lever.serves_years
        assert next(one for one in pulled.levers if one.key == lever.key).pulled
    by_key = {lever.key: lever for lever in told.levers}
    assert by_key["larger_cell"].serves_years > told.serves_years
    assert by_key["gentler"].serves_years >= told.serves_years


def test_all_levers_at_once_are_one_plan():
    project = plan(**HARD, r_prog_ohm=1300, plugged_in="always")
    pulled = ["taken_off", "gentler", "warm_winter"]
    told = service_life(project, 0, 2027, CELLS, pulled)
    assert told.serves_years > service_life(project, 0, 2027).serves_years
    assert [lever.key for lever in told.levers if lever.pulled] == [key for key in LEVERS if key in pulled]


def test_there_is_nothing_to_pull_where_nothing_is_wrong():
    keys = {lever.key for lever in service_life(plan(r_prog_ohm=10_000), 0, 2027).levers}
    assert not keys & {"taken_off", "gentler", "warm_winter", "larger_cell"}


def test_a_hot_place_and_another_class_are_levers_and_none_makes_a_stop():
    hot = plan(gadget={"shell": {"climate": "hot"}, "wanted_days": 3})
    by_key = {lever.key: lever for lever in service_life(hot, 0, 2027, CELLS).levers}
    assert by_key["cool_summer"].serves_years >= service_life(hot, 0, 2027).serves_years
    round_cell = next(part.cell for part in library().of("cell") if part.id == "round-18650")
    calm = {"window": {"v_run_min": 2.6, "v_abs_max": 4.8}, "bay": {"rooms": [{"size_mm": [100, 45, 25]}]}}
    other = service_life(plan(gadget=calm, cell=round_cell.model_dump(mode="json")), 0, 2027, CELLS)
    assert "iron_phosphate" in {lever.key for lever in other.levers}
    # a longer charge than the port or the class bears is no lever: every one that is offered keeps the build sound
    for project in (hot, plan(gadget=calm, cell=round_cell.model_dump(mode="json"))):
        before = {one.code for one in assess(project, 0).findings if one.level == "stop"}
        for lever in service_life(project, 0, 2027, CELLS).levers:
            after = {one.code for one in assess(project.apply(lever.edits), 0).findings if one.level == "stop"}
            assert after <= before


@pytest.mark.parametrize(("month", "year"), [(1, 2026), (6, 2026), (7, 2027), (12, 2027)])
def test_years_begin_in_the_nearest_january(month, year):
    assert january_near(2026, month) == year


# What was measured teaches it ----------------------------------------------------------------------------------------


def learnt_by_tests(pace, seed, count):
    """A cell that ages `pace` times as fast, read once a year as well as people read."""
    chance = np.random.default_rng(seed)
    months = 120
    stress = Stress(np.full(months, 25.0), 1.0, 0.1, 0.0, np.full(months, 8.0))
    lost = pace * losses(AGEING["lithium"], stress)
    reads = [1 - lost[12 * year - 1] + chance.normal(0, CAPACITY_SD) for year in range(1, count + 1)]
    rows = [{"after_years": year, "capacity_ah": 0.9 * read} for year, read in enumerate(reads, 1)]
    return learnt_of(Cell.model_validate(CELL | {"tests": rows}), AGEING["lithium"], stress, 0.0)


@pytest.mark.parametrize("pace", [0.6, 1.0, 1.8])
def test_tests_over_the_years_find_a_cells_own_pace(pace):
    found = [learnt_by_tests(pace, seed, 3) for seed in range(200)]
    covered = [abs(np.log(one.times / pace)) < 1.645 * one.spread for one in found]
    assert np.mean(covered) > 0.8
    assert np.median([one.times for one in found]) == pytest.approx(pace, rel=0.15)
    assert max(one.spread for one in found) < 0.7 * AGEING["lithium"].spread


def test_more_tests_leave_less_doubt_and_none_leaves_it_all():
    assert learnt_by_tests(1.0, 1, 5).spread < learnt_by_tests(1.0, 1, 1).spread < AGEING["lithium"].spread
    nothing = Years(running()).learnt
    assert (nothing.times, nothing.spread, nothing.tests) == (1.0, AGEING["lithium"].spread, ())


def test_a_test_moves_the_curve_of_the_build_and_is_drawn_on_it():
    worn = CELL | {"tests": [{"after_years": 2, "capacity_ah": 0.6}]}
    before, after = service_life(plan(), 0, 2027), service_life(plan(cell=worn), 0, 2027)
    assert after.days.likely[60] < before.days.likely[60]
    assert [(one.month, one.left) for one in after.tests] == [(24, pytest.approx(2 / 3))]
    assert any("its own tests" in str(one) for one in after.remarks)


def test_a_salvaged_cell_is_told_how_much_life_is_left():
    left = {}
    for share in (0.95, 0.8, 0.65, 0.45):
        cell = Cell.model_validate(CELL | {"origin": "salvaged", "measured_capacity_ah": 0.9 * share})
        left[share] = str(grade(cell).life_left)
    assert "half of its label" in left[0.65]
    assert left[0.45] == ""
    assert "many years" in left[0.95] or left[0.95] != left[0.65]


def test_the_sheet_says_when_to_charge_it_and_what_would_save_it():
    hungry = plan(regulator={"kind": "ldo", "v_set": 3.3, "drop_v": 0.1, "iq_a": 200e-6}, gadget={"off_current_a": 0})
    lines = [str(line.text) for section in sheet_of(hungry, 0).sections for line in section.lines]
    assert any("The cell is lost after" in line for line in lines)
    assert any(line.startswith("Serves ") for line in lines)
    saves = [str(one) for one in service_life(hungry, 0, 2027).saves]
    assert any(one.startswith("A switch before the regulator") for one in saves)
    # the other way: the switch really put there
    switched = running(**{**HUNGRY, "switch_place": "before_regulator"})
    assert Unused(switched).lost_days > 2 * Unused(running(**HUNGRY)).lost_days


HUNGRY = {"regulator": {"kind": "ldo", "v_set": 3.3, "drop_v": 0.1, "iq_a": 200e-6}, "gadget": {"off_current_a": 0}}
