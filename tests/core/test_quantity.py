"""Quantities as makers write them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pocketspark.core.units.figures import amp_hours, amps, days, engineering, hours, percent
from pocketspark.core.units.quantity import NotAQuantity, read, read_size


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [
        ("1k2", "ohm", 1200),
        ("1.2k", "ohm", 1200),
        ("4R7", "ohm", 4.7),
        ("3 kΩ", "ohm", 3000),
        ("3 k\u2126", "ohm", 3000),  # the ohm sign instead of the Greek letter
        ("400m", "A", 0.4),
        ("400 mA", "A", 0.4),
        ("0,4", "A", 0.4),
        ("45 \u00b5A", "A", 45e-6),  # the micro sign
        ("3V3", "V", 3.3),
        ("900 mAh", "Ah", 0.9),
        ("2/3", "h", 2 / 3),
        ("2 7/16 in", "mm", 61.9125),  # 1 in = 25.4 mm exactly (ISO 80000, from memory)
        ('1-1/2"', "mm", 38.1),
        ("77 F", "C", 25.0),  # (F - 32) x 5/9
        ("-40 °F", "C", -40.0),
        ("30 min", "h", 0.5),
        ("1e3", "ohm", 1000),
        ('1/4"', "mm", 6.35),
        ("1 %", "%", 0.01),
    ],
)
def test_what_a_maker_writes_is_read(text, unit, value):
    assert read(text, unit) == pytest.approx(value)


@pytest.mark.parametrize(
    ("text", "unit"), [("", "A"), ("abc", "A"), ("3 V", "A"), ("1.2.3", "V"), ("1/0", "h"), ("--2", "V")]
)
def test_what_cannot_be_read_gets_a_sentence(text, unit):
    with pytest.raises(NotAQuantity, match=r"is not|divides by zero"):
        read(text, unit)


def test_a_size_is_read_in_the_order_written():
    assert read_size("5.0x37x59 mm") == (5.0, 37.0, 59.0)


@given(st.floats(1e-8, 9e8))
def test_engineering_notation_round_trips_to_its_digits(value):
    assert read(str(engineering(value, "A")), "A") == pytest.approx(value, rel=5.1e-3)


def test_numbers_are_written_as_precisely_as_they_deserve():
    written = amps(0.4), amps(0.0000451), hours(4.3333), hours(0.84), percent(0.0612)
    assert tuple(map(str, written)) == (
        "400 mA",
        "45 μA",
        "4 h 20",
        "50 min",
        "6.1 %",
    )
    assert tuple(map(str, (hours(80), days(951), days(5.13)))) == ("3.3 days", "3 years", "5.1 days")
    assert str(engineering(0.99996, "A")) == "1 A"


@pytest.mark.parametrize(
    ("value_ah", "text"), [(0.000567, "0.567 mAh"), (0.0094, "9.4 mAh"), (0.9, "900 mAh"), (12.0, "12 Ah")]
)
def test_a_small_charge_keeps_its_figures(value_ah, text):
    assert str(amp_hours(value_ah)) == text
