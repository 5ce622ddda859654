"""Logs of real cells by real testers, with other columns than ours; each counted its charge itself, and that decides.

Excerpts, thinned where nothing changes: `pulse-test` and `interrupted-charge` from the datasets of the package ampworks
0.1.0 (BSD-3-Clause), the others from the tests of battery-data-toolkit 0.4.6 (Apache-2.0).
"""

import csv
from pathlib import Path

import numpy as np
import pytest

from pocketspark.core.logs.analysis import analyse
from pocketspark.formats.log_csv import read_log

DATA = Path(__file__).parent / "data" / "testers"


def column(name, title):
    with (DATA / name).open() as file:
        return np.array([float(row[title]) for row in csv.DictReader(file)])


def seen(name, *mends):
    taken = read_log((DATA / name).read_bytes(), mends=mends)
    assert taken.bad_rows == ()
    assert taken.doubts == ()
    return analyse(taken.log, kind=taken.kind)


def pieces(name):
    (doubt,) = read_log((DATA / name).read_bytes()).doubts
    return [mend.key for mend in doubt.mends]


def test_a_pulse_test_is_one_run_and_its_rests_are_no_weak_joints():
    run = seen("pulse-test.csv")
    assert (run.kind, run.findings) == ("discharge", ())
    counted = column("pulse-test.csv", "Ah")
    assert run.charge_ah == pytest.approx(counted.max() - counted.min(), rel=0.02)


def test_a_charge_that_is_interrupted_on_purpose_has_no_weak_joint_and_no_heat():
    # 130 pauses of 10 s at 1.9 mA: charge over time, by hand
    charge = seen("interrupted-charge.csv")
    assert (charge.kind, charge.findings) == ("charge", ())
    assert len(charge.interruptions) > 100
    assert charge.charge_ah == pytest.approx(0.0019 * charge.flow_hours, rel=0.05)


def test_cycles_of_a_tester_are_told_apart_and_each_holds_what_it_counted():
    name = "cycles-of-a-tester.csv"
    keys = pieces(name)
    found = [seen(name, key) for key in keys]
    assert [one.kind for one in found] == ["charge", "discharge", "charge", "discharge"]
    cycle, counted = column(name, "Cycle_Index"), column(name, "Discharge_Capacity")
    out = [counted[cycle == number].max() - counted[cycle == number].min() for number in np.unique(cycle)]
    for run, counted_ah in zip([found[1], found[3]], [ah for ah in out if ah > 0.5], strict=True):
        assert run.charge_ah == pytest.approx(counted_ah, rel=0.02)
        assert run.least_v == pytest.approx(2.0, abs=0.01)
        assert run.most_c < 40


def test_a_capacity_check_is_charge_by_run_in_turn():
    name = "capacity-check.csv"
    found = [seen(name, key) for key in pieces(name)]
    assert [one.kind for one in found] == ["charge", "discharge"] * 4
    # The tester's own counter of each way begins anew with each cycle: its greatest are those of its whole cycles.
    counted = column(name, "Discharge_Capacity_Ah")
    assert max(one.charge_ah for one in found if one.kind == "discharge") >= 0.95 * counted.max()
    assert all("joint" not in str(finding.headline) for one in found for finding in one.findings)


def test_a_few_minutes_with_empty_columns():
    first = seen("first-minutes.csv")
    counted = column("first-minutes.csv", "Charge_Capacity (Ah)")
    assert first.charge_ah == pytest.approx(counted[-1], abs=0.003)
    assert first.most_c is None
