"""What is typed at a checkpoint is read with its unit, and refused in the wrong one."""

import pytest

from builders import plan
from pocketspark.core.models.part_texts import body_from
from pocketspark.core.steps import NoSuchCheckpoint, inside, procedure, read_value
from pocketspark.core.units.quantity import NotAQuantity


def hold(key):
    return next(step.hold for step in procedure(plan()).steps if step.key == key)


@pytest.mark.parametrize(
    ("step", "text", "value"),
    [
        ("short_check", "0.5k", 500),
        ("short_check", "47k", 47_000),
        ("short_check", "2M2", 2.2e6),
        ("resistor", "2k98", 2980),
        ("resistor", "2,98 kΩ", 2980),
        ("discharge", "90 min", 1.5),
        ("discharge", "14.5", 14.5),
        ("output", "1,2 V", 1.2),
        ("rest", "12 mV", 0.012),
        ("first_charge", "400mA", 0.4),
        ("warmth", "31 °C", 31),
    ],
)
def test_a_reading_is_taken_in_its_own_unit(step, text, value):
    assert read_value(plan(), 0, step, text) == pytest.approx(value)


@pytest.mark.parametrize(
    ("step", "text"),
    [("short_check", "4 V"), ("resistor", "3 A"), ("output", "3k ohm"), ("warmth", "much"), ("rest", "")],
)
def test_a_reading_in_another_unit_is_refused_with_a_sentence(step, text):
    with pytest.raises(NotAQuantity, match="is not"):
        read_value(plan(), 0, step, text)


def test_half_a_kilohm_is_no_sound_rail():
    # a rail with nothing shorted has 1 kohm or more (common practice, no source)
    assert not inside(hold("short_check"), read_value(plan(), 0, "short_check", "0.5k"))
    assert str(hold("short_check").limits) == "at least 1000 Ω"
    assert str(hold("resistor").limits) == "2.94 kΩ to 3.06 kΩ"


@pytest.mark.parametrize(
    ("step", "sign", "text", "value"),
    [
        ("resistor", "kΩ", "2.98", 2980),
        ("resistor", "kΩ", "2985", 2_985_000),  # one rule everywhere: the field shows kΩ
        ("first_charge", "mA", "398", 0.398),
        ("first_charge", "mA", "0.398", 0.000398),
        ("first_charge", "mA", "3", 0.003),
        ("short_check", "Ω", "14", 14),  # never 14 kΩ: a short would be let through
        ("rest", "V", "12", 12),
    ],
)
def test_a_number_alone_is_in_the_unit_that_field_and_limits_show(step, sign, text, value):
    assert str(hold(step).unit_sign) == sign
    assert sign in str(hold(step).limits)
    assert read_value(plan(), 0, step, text) == pytest.approx(value)


def test_a_step_without_a_checkpoint_takes_no_reading():
    with pytest.raises(NoSuchCheckpoint, match="no checkpoint called 'wires'"):
        read_value(plan(), 0, "wires", "1")


@pytest.mark.parametrize(
    ("kind", "path", "text", "value"),
    [
        ("cell", "name", "From a flood gauge", "From a flood gauge"),
        ("cell", "capacity_ah", "800", "800 mAh"),
        ("cell", "intake.rest_v", "1.4", "1.4 V"),
        ("resistor", "r_ohm", "3k", "3k"),
    ],
)
def test_a_field_of_an_own_part_is_put_where_it_belongs(kind, path, text, value):
    body = body_from(kind, {}, {path: text})
    *way, last = path.split(".")
    for step in way:
        body = body[step]
    assert body == {last: value}
