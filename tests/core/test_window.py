"""The window: measured, stated, or inferred from every battery of the table."""

import pytest

from builders import finding, plan
from pocketspark.core.models import BATTERIES, Supply
from pocketspark.core.questions.assess import assess

# What one battery leaves a gadget and gives it fresh, V (cell voltages from memory; 1.05 V a cell, common practice).
INFERRED = {
    "LR8D425": (1.05, 1.60),
    "LR03": (1.05, 1.60),
    "LR1": (1.05, 1.60),
    "LR6": (1.05, 1.60),
    "LR14": (1.05, 1.60),
    "LR20": (1.05, 1.60),
    "6LR61": (6.30, 9.60),
    "8LR932": (8.40, 12.80),
    "LR41": (1.10, 1.58),
    "LR44": (1.10, 1.58),
    "CR1632": (2.00, 3.20),
    "CR2016": (2.00, 3.20),
    "CR2025": (2.00, 3.20),
    "CR2032": (2.00, 3.20),
    "CR2450": (2.00, 3.20),
    "CR17345": (2.00, 3.20),
}


def window(basis=None, **gadget):
    return assess(plan(gadget=gadget, basis=basis)).survey.window


def test_every_battery_of_the_table_is_here():
    assert INFERRED.keys() == BATTERIES.keys()


@pytest.mark.parametrize("battery", INFERRED)
def test_inferred_from_one_battery(battery):
    low, high = INFERRED[battery]
    seen = window(supply={"battery": battery}, window=None)
    assert (seen.v_run_min, seen.v_abs_max) == (pytest.approx(low), pytest.approx(high))
    assert (seen.min_basis, seen.max_basis) == ("inferred", "inferred")


@pytest.mark.parametrize(
    ("chemistry", "fresh_v", "empty_v"),
    [("alkaline", 1.6, 1.05), ("zinc_carbon", 1.6, 1.05), ("lithium_iron", 1.8, 1.05), ("nimh", 1.6, 1.0)],
)
def test_inferred_for_each_chemistry_of_an_aa(chemistry, fresh_v, empty_v):
    # cell voltages from memory; a slot with NiMH in it takes alkalines as well, which are 1.6 V fresh
    seen = window(supply={"battery": "LR6", "chemistry": chemistry, "series": 4}, window=None)
    assert (seen.v_run_min, seen.v_abs_max) == (pytest.approx(4 * empty_v), pytest.approx(4 * fresh_v))


def test_parallel_strings_change_the_capacity_not_the_window():
    one, two = Supply(series=3), Supply(series=3, parallel=2)
    assert (one.fresh_v, one.empty_v) == (two.fresh_v, two.empty_v)
    assert two.capacity_ah == 2 * one.capacity_ah


def test_each_end_has_its_own_basis():
    seen = window({"gadget.window.v_run_min": "measured"}, window={"v_run_min": 3.0})
    assert (seen.v_run_min, seen.min_basis) == (3.0, "measured")
    assert (seen.v_abs_max, seen.max_basis) == (pytest.approx(4.8), "inferred")
    told = finding(assess(plan(gadget={"window": {"v_run_min": 3.0}})), "survey.window_inferred")
    assert str(told.headline).endswith("the highest is guessed.")


def test_the_ruler_lays_old_lithium_and_gadget_over_each_other():
    bands = assess(plan()).survey.ruler
    assert [band.kind for band in bands] == ["old", "lithium", "gadget"]
    old, lithium, gadget = bands
    assert (old.low_v, old.high_v) == (pytest.approx(3.15), pytest.approx(4.8))
    assert (lithium.low_v, lithium.high_v) == (3.0, 4.2)
    assert lithium.low_v <= gadget.low_v < gadget.high_v <= lithium.high_v
    assert [band.kind for band in assess(plan(cell=None)).survey.ruler] == ["old"]
