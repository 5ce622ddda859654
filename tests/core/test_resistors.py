"""Charge-current resistor: current, preferred values, and the codes on the part."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pocketspark.core.physics.resistors import (
    DECADE,
    NotACode,
    chip_code,
    colour_bands,
    current_spread,
    eia96_code,
    least_ohms,
    preferred_at_or_above,
    preferred_between,
    prog_current,
    read_chip_code,
    read_colour_bands,
    rkm_code,
)

e24 = st.sampled_from([v * 10**n for v in DECADE["E24"] for n in range(1, 6)]).map(lambda ohm: float(f"{ohm:.6g}"))
e96 = st.sampled_from([v * 10**n for v in DECADE["E96"] for n in range(1, 6)]).map(lambda ohm: float(f"{ohm:.6g}"))


@given(e24)
def test_chip_codes_and_bands_round_trip(ohm):
    assert read_chip_code(chip_code(ohm)) == pytest.approx(ohm)
    assert read_colour_bands(colour_bands(ohm, 0.05)) == pytest.approx(ohm)


@given(e96)
def test_fine_codes_round_trip(ohm):
    assert read_chip_code(chip_code(ohm, 3)) == pytest.approx(ohm)
    assert read_chip_code(eia96_code(ohm)) == pytest.approx(ohm)
    assert read_colour_bands(colour_bands(ohm, 0.01)) == pytest.approx(ohm)


@given(st.floats(100, 1e6), st.floats(1.001, 10))
def test_a_higher_resistor_never_raises_the_current(ohm, factor):
    assert prog_current(1200, ohm * factor) < prog_current(1200, ohm)


@given(st.floats(0.01, 1.5), st.sampled_from([1000.0, 1200.0]), st.sampled_from(["E12", "E24", "E96"]))
def test_the_suggested_value_keeps_its_worst_case_under_the_target(target_a, k_volts, series):
    ohm = preferred_at_or_above(least_ohms(k_volts, 0.10, target_a, 0.01), series)
    assert current_spread(k_volts, 0.10, ohm, 0.01).most_a <= target_a * (1 + 1e-6)


@given(st.floats(1, 1e6), st.sampled_from(["E12", "E24", "E96"]))
def test_the_next_preferred_value_is_at_or_above_and_less_than_a_step_away(ohm, series):
    step = {"E12": 1.26, "E24": 1.16, "E96": 1.03}[series]
    assert ohm * (1 - 1e-8) <= preferred_at_or_above(ohm, series) < ohm * step


def test_a_stretch_of_preferred_values_holds_both_ends():
    assert preferred_between(1000, 2000) == [1000, 1100, 1200, 1300, 1500, 1600, 1800, 2000]


def test_codes_as_printed():
    # IEC 60062 letter code; chip codes are common practice, no source
    assert (rkm_code(1200), rkm_code(4.7), rkm_code(1e6), rkm_code(2980)) == ("1K2", "4R7", "1M", "2K98")
    assert (chip_code(3000), chip_code(3000, 3), chip_code(4.7)) == ("302", "3001", "4R7")
    assert colour_bands(3000, 0.01) == ["orange", "black", "black", "brown", "brown"]
    assert colour_bands(4700, 0.05) == ["yellow", "violet", "red", "gold"]


@pytest.mark.parametrize("code", ["", "99Q", "00A", "97A", "12", "R", "4RR7"])
def test_what_is_no_chip_code_is_refused(code):
    with pytest.raises(NotACode, match="no chip code"):
        read_chip_code(code)


def test_what_are_no_bands_is_refused():
    with pytest.raises(NotACode, match="four or five"):
        read_colour_bands(["red", "red"])
    with pytest.raises(NotACode, match="stands for no figure"):
        read_colour_bands(["pink", "red", "red", "gold"])
