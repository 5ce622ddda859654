"""The one door: its contract, and what it does with half a plan."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import finding, judged, plan
from pocketspark.core.chain import Chain
from pocketspark.core.models import BATTERIES, Project
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.candidates import candidates
from pocketspark.demo import demo_projects
from pocketspark.parts import library


def test_the_contract_keys_are_there():
    seen = judged().model_dump()
    assert {"code", "level", "station", "headline", "assumed"} <= seen["findings"][0].keys()
    wanted = {"r_prog_ohm", "current_a", "current_least_a", "current_most_a", "hours", "cc_share", "terminates"}
    assert wanted <= seen["charge"].keys()
    assert {"modes", "days", "standby_days"} <= seen["run"].keys()
    assert {"name", "hours", "stopped_by"} <= seen["run"]["modes"][0].keys()
    assert {"max", "min"} <= seen["gadget_v"].keys()


def test_the_numbers_of_a_plan_hang_together():
    seen = judged()
    assert seen.charge.current_a == pytest.approx(0.4)
    assert seen.charge.current_least_a < 0.4 < seen.charge.current_most_a
    assert 0.9 / 0.4 < seen.charge.hours < 1.3 * 0.9 / 0.4
    assert seen.run.modes[0].hours == pytest.approx(0.9 / 0.06, rel=0.02)
    assert 3 < seen.gadget_v.max - 0.9 < 3.4
    daily_h = 3
    assert seen.run.days < seen.run.modes[0].hours / daily_h


def test_a_minimal_plan_is_judged():
    seen = assess(Project.model_validate({"gadget": {"name": "rain gauge"}}))
    assert (seen.cell, seen.charge, seen.run, seen.gadget_v) == (None, None, None, None)
    assert [node.present for node in seen.path.nodes] == [True, False, False, False, False, True]


def test_findings_come_gravest_first():
    order = ["stop", "caution", "note", "pass"]
    levels = [order.index(finding.level) for finding in judged(r_prog_ohm=1200).findings]
    assert levels == sorted(levels)


def test_there_is_no_such_build():
    with pytest.raises(IndexError, match="builds 0 to 0, not 3"):
        assess(plan(), 3)


def test_measured_ohms_replace_the_marking():
    seen = judged(r_measured_ohm=2980)
    assert (seen.charge.r_prog_ohm, seen.charge.r_origin, seen.charge.fitted.r_ohm) == (2980, "measured", 3000)


def test_nothing_fitted_and_nothing_delivered_means_the_suggestion():
    seen = judged(r_prog_ohm=None)
    assert seen.charge.r_origin == "suggested"
    assert seen.charge.r_prog_ohm == seen.charge.suggested.r_ohm == 3000


def test_daily_use_is_summed():
    modes = [{"current_a": 0.06, "hours_per_day": 3}, {"current_a": 0.02, "hours_per_day": 1}]
    survey = judged(gadget={"modes": modes, "off_current_a": 1e-3}).survey
    assert survey.daily_ah == pytest.approx(0.18 + 0.02 + 0.020)


currents = st.floats(1e-5, 3)
boards = st.sampled_from(
    [part.board.model_dump() for kind in ("charger", "protection", "regulator") for part in library().of(kind)]
)
cells = st.sampled_from([part.cell.model_dump() for part in library().of("cell")])


uses = st.sampled_from(["off", "on_cell", "two_diodes"])
batteries = st.sampled_from(list(BATTERIES))


@given(batteries, st.integers(1, 6), currents, cells, st.lists(boards, max_size=3), uses)
@settings(max_examples=80)
def test_whatever_is_put_together_gets_an_answer_that_can_be_sent(battery, series, current_a, cell, parts, use):
    gadget = {"supply": {"battery": battery, "series": series}, "window": None, "modes": [{"current_a": current_a}]}
    seen = judged(gadget=gadget, cell=cell, boards=parts, use_while_charging=use)
    seen.model_dump_json()
    assert seen.run.modes[0].hours >= 0
    assert "nan" not in " ".join(f"{finding.headline} {finding.working}" for finding in seen.findings).split()


def test_the_demo_is_in_different_states_with_one_honest_stop():
    worst = [assess(project).worst for project in demo_projects()]
    assert len(worst) >= 3
    assert "stop" in worst
    assert len(set(worst)) >= 3


def test_the_finder_tries_each_cell_in_place():
    parts = [part.cell for part in library().of("cell")]
    found = candidates(plan(), 0, parts)
    small, large = found[0], next(c for c in found if "2600" in str(c.name))
    assert small.over_c
    assert not large.over_c
    assert large.run_hours > small.run_hours
    assert candidates(plan(boards=[]), 0, parts)[0].c_rate is None


def test_the_light_falls_with_the_volts_by_the_lamps_own_law():
    # LEDs behind a resistor glow by their current, (V - Vf) / R: of 62 mA at 4.5 V with 3.0 V over them R is 24 ohm.
    lamp = {
        "front_end": "led_resistor",
        "behind": {"design_v": 4.5, "led_v": 3.0},
        "modes": [{"name": "lit", "current_a": 0.062, "at_v": 4.5, "hours_per_day": 2}],
    }
    (shown,) = assess(plan(gadget=lamp)).run.modes
    for volts, share in zip(shown.curve.gadget_v, shown.light.shares, strict=True):
        assert share * 0.062 == pytest.approx(max(volts - 3.0, 0) / (1.5 / 0.062), abs=2e-4)
    assert shown.light.at_first > shown.light.half_way > shown.light.at_the_end
    # A filament by the 3.4th power of its volts (trade rule, from memory).
    bulb = {
        "front_end": "lamp",
        "behind": {"design_v": 3.0},
        "modes": [{"name": "lit", "current_a": 0.2, "at_v": 3.0, "hours_per_day": 1}],
    }
    (shown,) = assess(plan(gadget=bulb)).run.modes
    assert shown.light.at_first == pytest.approx((shown.curve.gadget_v[0] / 3.0) ** 3.4, rel=1e-3)
    assert assess(plan()).run.modes[0].light is None


@pytest.mark.parametrize("project", demo_projects(), ids=lambda project: project.gadget.name)
def test_modes_that_run_together_run_as_each_alone(project):
    for build in range(len(project.builds)):
        running = Chain(project, build).running
        for run in running.runs if running else ():
            alone = running.run_of(run.load)
            assert (run.stopped_by, run.run.time_h.shape) == (alone.stopped_by, alone.time_h.shape)
            for name in ("time_h", "soc", "cell_v", "gadget_v", "cell_a", "capacity_ah"):
                assert getattr(run.run, name) == pytest.approx(getattr(alone, name), rel=1e-9, abs=1e-12)


def test_a_converter_whistles_as_often_as_its_capacitor_runs_down():
    """Against a capacitor that is drawn down and filled up again, microsecond by microsecond."""
    converter = {"kind": "boost", "v_set": 9.0, "rated_a": 0.3}
    radio = {"sound": "speaker", "window": {"v_run_min": 7, "v_abs_max": 10}, "supply": {"battery": "6LR61"}}
    for draws_a, heard in ((0.005, True), (0.02, True), (0.06, False)):
        modes = [{"name": "on", "current_a": draws_a, "hours_per_day": 1}]
        seen = assess(plan(gadget=radio | {"modes": modes}, regulator=converter))
        volts, bursts = 9.0, 0
        for _ in range(200_000):  # a fifth of a second
            volts -= draws_a * 1e-6 / 22e-6
            if volts <= 9.0 * 0.99:
                volts, bursts = 9.0, bursts + 1
        whistle = seen.run.modes[0].whistle
        assert whistle.bursts == pytest.approx(bursts * 5, rel=0.05)
        assert whistle.is_heard is heard
        assert ("in bursts" in str(finding(seen, "power.hum").working)) is heard
    assert assess(plan(gadget=radio | {"sound": "none"}, regulator=converter)).run.modes[0].whistle is None
    assert assess(plan(gadget=radio)).run.modes[0].whistle is None


def test_the_loudness_falls_with_the_volts():
    # Half the volts are 6 dB less, a fifth less are 2 dB less: the definition of the level of a field quantity.
    toy = {
        "front_end": "logic",
        "sound": "speaker",
        "behind": {"design_v": 4.5},
        "modes": [{"name": "loud", "current_a": 0.06, "at_v": 4.5, "hours_per_day": 2}],
    }
    (shown,) = assess(plan(gadget=toy)).run.modes
    steps_db = {1.0: 0.0, 0.9: -0.915, 0.8: -1.938, 0.7: -3.098, 0.6: -4.437}
    for volts, told in zip(shown.curve.gadget_v, shown.loudness.decibels, strict=True):
        assert told == pytest.approx(np.interp(volts / 4.5, sorted(steps_db), sorted(steps_db.values())), abs=0.06)
    assert shown.loudness.at_first > shown.loudness.half_way > shown.loudness.at_the_end
    for quiet in ({"sound": "none"}, {"sound": None}, {"front_end": "regulator"}):
        assert assess(plan(gadget=toy | quiet)).run.modes[0].loudness is None
