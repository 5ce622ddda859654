"""What runs across the stations: builds compared, other circumstances, resistors of the inventory, payback."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import CELL, board, judged, plan
from pocketspark.core.chain import Chain
from pocketspark.core.kinds.regulators import efficiency_at
from pocketspark.core.life.years import Years
from pocketspark.core.models import Project, Regulator, Supply
from pocketspark.core.physics import heat, resistors
from pocketspark.core.physics.load import Load
from pocketspark.core.physics.primary import old_hours
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.compare import compare
from pocketspark.core.questions.payback import payback_of
from pocketspark.core.questions.scenarios import scenarios
from pocketspark.demo import demo_projects

# Compare --------------------------------------------------------------------------------------------------------


def two_builds() -> Project:
    one = plan()
    other = one.builds[0].model_copy(update={"name": "hasty", "r_prog_ohm": 1200.0})
    return one.model_copy(update={"builds": (one.builds[0], other)})


def sound_and_slower() -> Project:
    one = plan()
    other = one.builds[0].model_copy(update={"name": "slower", "r_prog_ohm": 5100.0})
    return one.model_copy(update={"builds": (one.builds[0], other)})


def test_builds_are_compared_row_by_row():
    seen = compare(two_builds(), [0, 1])
    row = next(row for row in seen.rows if str(row.label) == "full in about")
    assert row.best == ()  # the hasty one is faster, but it may not be built
    assert next(row for row in compare(sound_and_slower(), [0, 1]).rows if str(row.label) == "full in about").best == (
        0,
    )
    assert next(row for row in seen.rows if str(row.label) == "cell holds").best == ()
    hasty = next(d for d in seen.differences if d.code == "charge.over_cell")
    assert hasty.levels == (None, "stop")
    assert seen.differences[0].levels.count("stop") == 1
    assert all(side.curve for side in seen.sides)


@pytest.mark.parametrize("project", demo_projects(), ids=lambda project: project.gadget.name)
def test_what_reads_alike_does_not_differ(project):
    """4.2000 V beside 4.2001 V are 4.20 V both: nobody sees a difference, and neither is better."""
    if len(project.builds) < 2:
        pytest.skip("one build: nothing to compare")
    seen = compare(project, list(range(len(project.builds)))[:4])
    for row in seen.rows:
        assert row.same == all(str(text) == str(row.texts[0]) for text in row.texts), row
        assert not (row.same and row.best), row
    for said in seen.differences:
        assert len({*map(str, said.headlines)}) > 1, said


def test_fit_wires_and_cautions_are_compared_too():
    one = plan(gadget={"bay": {"rooms": [{"size_mm": [60, 44, 14]}], "wall_mm": 2}})
    thick = one.builds[0].cell.model_copy(update={"size_mm": (18.0, 34.0, 50.0), "name": "thick"})
    build = one.builds[0].model_copy(update={"name": "other", "cell": thick, "r_prog_ohm": 1200.0})
    seen = compare(one.model_copy(update={"builds": (one.builds[0], build)}), [0, 1])
    rows = {str(row.label): row for row in seen.rows}
    assert {row.group for row in seen.rows} == {"Numbers", "Fit", "Wiring", "Cautions"}
    assert str(rows["in its bay"].texts[1]) == "it does not fit"  # 18 mm of cell, 14 mm of bay
    # Cell to the board, board to the gadget, plus and minus each: what any such build takes (fact of the trade).
    assert tuple(map(str, rows["wires to cut"].texts)) == ("4", "4")
    assert tuple(map(str, rows["stops"].texts)) == ("none", "2")  # the current, and the bay
    assert not rows["charge-current resistor"].same
    assert rows["cell holds"].same
    assert all(side.picture for side in seen.sides)


def test_a_no_about_a_bay_that_nobody_measured_is_none():
    one = plan(gadget={"bay": None, "supply": {"battery": "CR2032", "series": 1}})
    twice = one.model_copy(update={"builds": (one.builds[0], one.builds[0].model_copy(update={"name": "again"}))})
    row = next(row for row in compare(twice, [0, 1]).rows if str(row.label) == "in its bay")
    assert tuple(map(str, row.texts)) == ("not certain", "not certain")
    assert row.same


def test_a_build_that_is_not_there_is_refused():
    with pytest.raises(IndexError):
        compare(plan(), [0, 3])


# Other circumstances --------------------------------------------------------------------------------------------


def test_five_ways_to_use_it_while_it_charges():
    seen = {use.use: use for use in scenarios(plan()).uses}
    assert seen["off"].ends
    assert (seen["off"].plugged_v, seen["off"].net_a) == (None, pytest.approx(0.4))
    assert not seen["on_cell"].ends  # 60 mA on the cell hides the 40 mA end
    assert seen["on_cell"].net_a == pytest.approx(0.34, abs=0.002)
    assert 4.4 < seen["two_diodes"].plugged_v < 4.8
    assert seen["change_over"].plugged_v == pytest.approx(5.0, abs=0.02)


def test_old_and_cold_cells_run_shorter():
    new, aged, cold = scenarios(plan()).conditions
    assert aged.hours == pytest.approx(0.8 * new.hours, rel=0.02)
    assert cold.hours < new.hours


def test_without_parts_there_is_no_scenarios():
    assert scenarios(plan(cell=None)).uses == ()
    assert scenarios(plan(boards=[])).uses == ()


# Heat -----------------------------------------------------------------------------------------------------------


def test_the_air_inside_by_hand():
    # T = T_room + P / (h A): a 100 x 50 x 20 mm box has 0.016 m2, so 1 W makes 1 / (10 x 0.016) = 6.25 C
    shell = plan(gadget={"shell": {"outer_mm": [100, 50, 20]}}).gadget.shell
    assert heat.surroundings_of(shell).rise_c_per_w == pytest.approx(6.25)


def test_a_small_closed_case_is_warmer_and_folds_back_sooner():
    small = plan(gadget={"shell": {"outer_mm": [40, 30, 15]}}, boards=[board(theta_ja_c_per_w=150)])
    large = plan(gadget={"shell": {"outer_mm": [150, 90, 40]}}, boards=[board(theta_ja_c_per_w=150)])
    (a, b) = (Chain(p, 0) for p in (small, large))
    assert a.charging.warmth.inside_c.max() > b.charging.warmth.inside_c.max() + 3
    assert a.charging.current.burn_limit_w < b.charging.current.burn_limit_w
    assert a.charging.warmth.junction_c.max() <= 120 + 0.5  # the fold-back holds it


def test_a_pad_takes_its_share_of_the_source():
    seen = judged(input={"kind": "wireless"})
    limit = next(limit for limit in seen.charge.limits if str(limit.name) == "source")
    assert limit.current_a == pytest.approx(0.35)  # 70 % of 500 mA: common practice, no source


def test_a_thin_cable_is_a_limit_of_its_own():
    # (5.0 - 4.2) / (1.65 + 0.35) = 0.4 A: Ohm's law
    seen = judged(source={"kind": "own", "limit_a": 2, "r_cable_ohm": 1.65})
    assert next(x for x in seen.charge.limits if str(x.name) == "cable").current_a == pytest.approx(0.4)


# Resistors ------------------------------------------------------------------------------------------------------


def test_a_boards_own_table_counts_inside_it_and_the_formula_outside():
    # common practice, no source: boards give a little more than K / R at low current
    table = [(2000, 0.58), (5000, 0.25), (10_000, 0.13)]
    rows = [{"r_ohm": ohm, "current_a": amps} for ohm, amps in table]
    chain = Chain(plan(boards=[board(r_table=rows)], r_prog_ohm=5000), 0)
    assert chain.charging.current.spread.nominal_a == pytest.approx(0.25)
    assert chain.charging.current.spread_at(20_000).nominal_a == pytest.approx(1200 / 20_000)
    between = chain.charging.current.spread_at(3000).nominal_a
    assert 0.25 < between < 0.58
    assert resistors.ohms_for(1200, table, between) == pytest.approx(3000)


@given(st.lists(st.sampled_from([100, 470, 1000, 2200, 4700, 10_000]), min_size=1, max_size=8), st.floats(50, 20_000))
def test_nothing_from_the_drawer_is_ever_under_the_least(values, least):
    found = resistors.from_inventory(values, least)
    assert all(c.r_ohm >= least * (1 - 1e-9) for c in found)
    assert len({c.how for c in found}) == len(found)
    best = min((c.r_ohm for c in found), default=None)
    every = list(values) + [a + b for a in values for b in values] + [a * b / (a + b) for a in values for b in values]
    enough = [v for v in every if v >= least * (1 - 1e-9)]
    assert best == (pytest.approx(min(enough)) if enough else None)


def test_two_in_parallel_by_hand():
    # 10k and 4.7k in parallel: 47 / 14.7 = 3.197 kohm
    found = resistors.from_inventory([10_000, 4700], 3000)
    assert str(found[0].how) == "parallel"
    assert found[0].r_ohm == pytest.approx(3197.3, abs=0.1)


# Converters -----------------------------------------------------------------------------------------------------


def test_efficiency_falls_at_light_loads_and_low_inputs():
    converter = Regulator(kind="boost", v_set=5, efficiency=0.9, iq_a=5e-5, fixed_loss_w=0.004, input_ohm=0.15)
    assert efficiency_at(converter, 3.7, 0.1) > efficiency_at(converter, 3.7, 0.002)
    assert efficiency_at(converter, 3.7, 0.3) > efficiency_at(converter, 3.0, 0.3)
    assert efficiency_at(converter, 3.7, 0.1) < 0.9


# The old batteries ----------------------------------------------------------------------------------------------


def test_alkalines_give_less_when_pressed():
    # from memory: an AA gives some 2.6 Ah at 25 mA and about half of it at 500 mA
    aa = Supply(battery="LR6", series=2)
    light = old_hours(aa, Load(steady_a=0.025), 1.8) * 0.025
    heavy = old_hours(aa, Load(steady_a=0.5), 1.8) * 0.5
    assert 2.2 < light <= 2.6
    assert 0.25 * light < heavy < 0.6 * light


def test_a_fussy_gadget_leaves_half_an_alkaline_unused():
    aa = Supply(battery="LR6", series=2)
    assert old_hours(aa, Load(steady_a=0.02), 2.6) < 0.6 * old_hours(aa, Load(steady_a=0.02), 1.8)


@pytest.mark.parametrize(
    ("supply", "fresh_v", "cells"),
    [
        ({"kind": "pack", "pack_v": 3.6}, 4.2, 3),  # 1.2 V a NiMH cell: printed on every pack
        ({"kind": "pack", "pack_v": 7.2}, 8.4, 6),
        ({"kind": "lithium", "lithium_class": "li_4v35"}, 4.35, 1),
    ],
)
def test_packs_are_told_by_their_volts(supply, fresh_v, cells):
    read = Supply.model_validate(supply)
    assert (read.fresh_v, read.cells_in_series) == (pytest.approx(fresh_v), cells)


# Payback ----------------------------------------------------------------------------------------------------------


def test_worth_is_an_honest_no_where_the_cell_is_tiny():
    # common practice, no source: an 0.18 Ah cell in an AA outline holds a tenth or less of a bought rechargeable
    tiny = plan(gadget={"supply": {"battery": "LR6", "series": 3}}, cell=CELL | {"capacity_ah": 0.18})
    seen = assess(tiny)
    assert seen.worth.answer == "rechargeables"
    assert seen.payback.energy_wh / seen.payback.rechargeable_wh < 0.15


def test_payback_by_hand():
    # one set lasts H hours; at 3 h a day 365 x 3 / H sets a year at 3 x 0.50, and one more in 7 years that goes bad by
    # itself (from memory); parts as priced
    project = plan(cell=CELL | {"price": 4.0})
    costs = project.costs.model_copy(update={"battery_price": 0.5, "bench_hours": 2, "hourly_rate": 10})
    chain = Chain(project.model_copy(update={"costs": costs}), 0)
    seen = payback_of(chain)
    sets = 1 / 7 + 365 * 3 / chain.running.original_hours(project.gadget.modes[0])
    assert (seen.parts_cost, seen.small_parts_cost) == (4.0 + 1.0, 1.5)
    assert seen.saved_per_year == pytest.approx(sets * 1.5, rel=0.001)
    assert seen.payback_years == pytest.approx((6.5 + 20) / (sets * 1.5), rel=0.001)


def test_what_is_earned_back_later_than_it_serves_is_told_so():
    # 0.18 Ah a day from 0.9 Ah: five days, and four are wanted, so that it fails after a fifth is lost
    project = plan(gadget={"modes": [{"name": "lit", "current_a": 0.06, "hours_per_day": 3}], "wanted_days": 4})
    serves = Years(Chain(project, 0).required_running()).serves_years
    assert 2 < serves < 10
    said = {}
    for wanted_years in (0.9 * serves, 1.1 * serves):
        costs = project.costs.model_copy(update={"battery_price": 0.1, "hourly_rate": 10, "bench_hours": 0})
        saved = payback_of(Chain(project.model_copy(update={"costs": costs}), 0)).saved_per_year
        # with small parts for 1.50 and a board and a cell that are priced at nothing
        costs = costs.model_copy(update={"bench_hours": (wanted_years * saved - 1.5) / 10})
        seen = payback_of(Chain(project.model_copy(update={"costs": costs}), 0))
        said[seen.payback_years > serves] = str(seen.reason)
    assert re.fullmatch(r"It would take .* to earn back parts and hours, and it serves .*\.", said[True])
    assert "would take" not in said[False]


def test_what_does_not_run_or_is_stopped_earns_nothing_back():
    # 900 mA a day and a set of alkalines each: it pays, unless a charger of 4.35 V over-charges the cell
    heavy = {"modes": [{"name": "lit", "current_a": 0.06, "hours_per_day": 8}]}
    assert assess(plan(gadget=heavy)).payback.answer == "yes"
    assert assess(plan(gadget=heavy, boards=[board(float_v=4.35)])).payback.answer == "no"
    never = heavy | {"window": {"v_run_min": 5.0, "v_abs_max": 6.0}}
    assert payback_of(Chain(plan(gadget=never), 0)).answer == "no"


def test_a_set_that_was_recharged_saves_no_batteries():
    recharged = plan(gadget={"supply": {"battery": "LR6", "series": 3, "chemistry": "nimh"}})
    seen = payback_of(Chain(recharged, 0))
    assert seen.saved_per_year is None
    assert seen.answer != "yes"
    assert "rechargeable" in str(seen.reason)


def test_a_gadget_hardly_used_is_left_alone():
    seldom = plan(gadget={"modes": [{"name": "lit", "current_a": 0.001, "hours_per_day": 0.1}]})
    assert payback_of(Chain(seldom, 0)).answer == "no"
