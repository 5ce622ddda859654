"""Regulators: two questions that must agree, and energy that must balance."""

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from pocketspark.core.kinds.regulators import law_of_regulator
from pocketspark.core.models import Regulator
from pocketspark.core.physics.load import Load, collapse_ocv, load_from_reading, terminal_voltage
from pocketspark.core.physics.regulator_laws import InARow

ocvs_v = st.floats(3.0, 4.35)
resistances = st.floats(0.01, 0.6)
currents = st.floats(1e-5, 0.4)
laws = st.sampled_from(["current", "resistance", "power"])
loads = st.builds(load_from_reading, laws, currents, st.just(3.6))
SIMPLE = [Regulator(), Regulator(kind="diode"), Regulator(kind="ldo", v_set=3.3), Regulator(kind="buck", v_set=2.8)]
CONVERTERS = [
    Regulator(kind="buck", v_set=2.5, efficiency=0.9, iq_a=1e-4),
    Regulator(kind="boost", v_set=5.0, efficiency=0.85, iq_a=1e-4),
    Regulator(kind="buck_boost", v_set=3.3, efficiency=0.8, iq_a=1e-4),
]


@given(st.sampled_from(SIMPLE), ocvs_v, resistances, loads)
def test_the_ocv_for_a_voltage_is_the_inverse_of_settling(regulator, ocv_v, r_ohm, load):
    regulator_law = law_of_regulator(regulator)
    gadget_v = float(regulator_law.operating_point(ocv_v, r_ohm, load).gadget_v)
    # Where a regulator holds its setting, many ocvs_v give the same voltage: the lowest of them is told.
    needed = float(regulator_law.ocv_for(gadget_v, r_ohm, load))
    held = regulator.v_set is not None and gadget_v == regulator.v_set
    assert needed <= ocv_v + 1e-9 if held else needed == pytest.approx(ocv_v, abs=1e-9)


@given(st.sampled_from(CONVERTERS), ocvs_v, resistances, loads)
def test_a_converter_never_gives_more_energy_than_it_takes(regulator, ocv_v, r_ohm, load):
    point = law_of_regulator(regulator).operating_point(ocv_v, r_ohm, load)
    assume(np.isfinite(point.cell_a))
    v_in = ocv_v - r_ohm * float(point.cell_a)
    out_w = float(point.gadget_v * load.current(point.gadget_v))
    assert v_in * float(point.cell_a) >= out_w * 0.999


@given(st.sampled_from(SIMPLE), ocvs_v, resistances, loads)
def test_nothing_linear_lifts_the_voltage(regulator, ocv_v, r_ohm, load):
    point = law_of_regulator(regulator).operating_point(ocv_v, r_ohm, load)
    assert float(point.gadget_v) <= ocv_v
    assert float(point.cell_a) > 0


@given(ocvs_v, resistances, loads)
def test_the_terminal_voltage_satisfies_its_own_equation(ocv_v, r_ohm, load):
    volts = float(terminal_voltage(ocv_v, r_ohm, load))
    assert volts == pytest.approx(ocv_v - r_ohm * float(load.current(volts)), rel=1e-9)


def test_below_its_collapse_a_source_carries_nothing():
    load = Load(power_w=2.0)
    edge = float(collapse_ocv(0.6, load))
    assert np.isnan(terminal_voltage(edge * 0.999, 0.6, load))
    assert terminal_voltage(edge * 1.001, 0.6, load) > edge / 2


def test_a_reading_becomes_the_same_current_at_its_own_voltage():
    for law in ("current", "resistance", "power"):
        assert float(load_from_reading(law, 0.062, 4.5).current(4.5)) == pytest.approx(0.062)
    lower = {law: float(load_from_reading(law, 0.062, 4.5).current(3.0)) for law in ("current", "resistance", "power")}
    assert lower["resistance"] < lower["current"] < lower["power"]


def test_a_regulator_asked_for_more_than_its_setting_can_never_do_it():
    assert law_of_regulator(Regulator(kind="ldo", v_set=3.0)).ocv_for(3.1, 0.1, Load(0.1)) == np.inf
    assert law_of_regulator(Regulator(kind="buck_boost", v_set=5.0)).ocv_for(6.0, 0.1, Load(0.1)) == np.inf


def test_a_step_up_holds_its_setting_and_passes_what_comes_in_above_it():
    # A boost stops switching when its input is above its setting; its diode still drops 0.3 V (common practice).
    boost = law_of_regulator(Regulator(kind="boost", v_set=3.3, efficiency=0.9))
    seen = [float(boost.operating_point(v, 0.0, Load(0.02)).gadget_v) for v in (3.0, 3.4, 3.6, 3.8, 4.2)]
    assert seen == pytest.approx([3.3, 3.3, 3.3, 3.5, 3.9])
    # At 3.5 V the source behind 0.1 ohm rests at 3.5 + 0.3 + 0.1 x 0.02.
    assert float(boost.ocv_for(3.5, 0.1, Load(0.02))) == pytest.approx(3.802)


@given(st.floats(0.05, 0.6), st.floats(0.01, 0.4), st.floats(0.05, 3.0))
def test_a_constant_power_never_rests_under_its_collapse(r_ohm, power_w, v_run_min):
    """However low its window, the run ends where the source is pulled down, and not later on the falling branch."""
    load = Load(power_w=power_w)
    lowest = float(law_of_regulator(Regulator()).ocv_for(v_run_min, r_ohm, load))
    assert lowest >= float(collapse_ocv(r_ohm, load)) - 1e-12
    assert np.isfinite(terminal_voltage(lowest + 1e-9, r_ohm, load))


PAIRS = [
    (Regulator(kind="boost", v_set=5.0, efficiency=0.9), Regulator(kind="boost", v_set=12.0, efficiency=0.85)),
    (Regulator(kind="boost", v_set=5.0, efficiency=0.9), Regulator(kind="ldo", v_set=3.3, iq_a=1e-3)),
    (Regulator(kind="diode"), Regulator(kind="ldo", v_set=3.3)),
    (Regulator(kind="resistor", series_ohm=3.0), Regulator(kind="boost", v_set=5.0, efficiency=0.85)),
]


@given(st.sampled_from(PAIRS), ocvs_v, st.floats(0.01, 0.2), st.floats(1e-3, 0.05))
def test_two_in_a_row_keep_kirchhoff_at_the_node_between_them(pair, ocv_v, r_ohm, current_a):
    first, then = map(law_of_regulator, pair)
    row, load = InARow(first, then), Load(current_a)
    point, between = row.operating_point(ocv_v, r_ohm, load), row.between(ocv_v, r_ohm, load)
    assume(np.isfinite(point.cell_a))
    # What the first gives is what the second takes, as each says by itself.
    taken = then.operating_point(between.gadget_v, 0.0, load)
    given_ = first.operating_point(ocv_v, r_ohm, Load(steady_a=float(taken.cell_a)))
    assert float(given_.gadget_v) == pytest.approx(float(between.gadget_v), abs=1e-4)
    assert float(given_.cell_a) == pytest.approx(float(point.cell_a), rel=1e-3)
    assert float(taken.gadget_v) == float(point.gadget_v)


@given(st.floats(2.8, 4.2), st.floats(0.05, 4.0), st.floats(1e-3, 0.35))
def test_two_linear_ones_in_a_row_only_take_their_drops(ocv_v, r_ohm, current_a):
    """By hand, down to the last millivolt: a current that is only passed on never pulls its source down."""
    first = Regulator(kind="ldo", v_set=3.3, drop_v=1.1, drop_ohm=0.1, iq_a=5e-3)
    then = Regulator(kind="ldo", v_set=3.3, drop_ohm=2.5, iq_a=5e-7)
    between_v = ocv_v - r_ohm * (current_a + 5e-7 + 5e-3) - 1.1 - 0.1 * (current_a + 5e-7)
    by_hand_v = min(between_v, 3.3) - 2.5 * current_a
    assume(by_hand_v > 0.001)
    row = InARow(law_of_regulator(first), law_of_regulator(then))
    point = row.operating_point(ocv_v, r_ohm, Load(current_a))
    assert float(point.gadget_v) == pytest.approx(by_hand_v, abs=1e-6)
    assert float(point.cell_a) == pytest.approx(current_a + 5e-7 + 5e-3)


def test_an_old_three_terminal_regulator_is_in_drop_out_on_lithium_always():
    # common practice, no source: 3.3 V out needs 4.4 V in
    old = law_of_regulator(Regulator(kind="ldo", v_set=3.3, drop_v=1.1, drop_ohm=0.0))
    assert float(old.operating_point(4.2, 0.1, Load(0.01)).gadget_v) == pytest.approx(4.2 - 1.1 - 0.001)
