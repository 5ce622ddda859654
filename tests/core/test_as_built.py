"""As built beside as planned."""

import pytest

from builders import CELL, plan
from pocketspark.core.questions.as_built import as_built


def figures(**build):
    project = plan(**build)
    return {str(figure.what): figure for figure in as_built(project)}


def test_nothing_measured_is_nothing_told():
    assert as_built(plan()) == ()
    assert as_built(plan(cell=None, boards=[])) == ()


def test_a_reading_at_a_hold_stands_beside_its_plan():
    told = figures(
        r_prog_ohm=3000,
        steps=[
            {"step": "resistor", "done": True, "value": 3010},
            {"step": "first_charge", "done": True, "value": 0.30},
        ],
    )
    assert (str(told["charge-current resistor"].planned), told["charge-current resistor"].same) == ("3 kΩ", True)
    # K / R = 1200 V / 3 kohm = 0.4 A (the trade's formula of such boards); 0.3 A is a quarter less.
    assert told["charge current"].off_share == pytest.approx(-0.25)
    assert not told["charge current"].same


def test_a_measured_cell_and_an_attended_charge():
    told = figures(
        cell=CELL | {"measured_capacity_ah": CELL["capacity_ah"] / 2},
        first_charge={"started_at": "2026-11-25T10:00:00Z", "ended_at": "2026-11-25T12:30:00Z"},
    )
    assert told["cell's charge"].off_share == pytest.approx(-0.5)
    assert str(told["first charge"].built) == "2 h 30"
