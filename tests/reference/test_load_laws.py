"""Which law a gadget follows, told from readings of gadgets by the physics of their parts (`gadgets_by_physics.py`)."""

from collections import Counter

import numpy as np
import pytest
from gadgets_by_physics import KINDS, MAKES, read

from builders import plan
from chances import FULL, dice, in_turn
from pocketspark.core.load_laws.fitting import apart, fitted, race
from pocketspark.core.load_laws.next_reading import widest_gap
from pocketspark.core.models.gadget import DrawnReading
from pocketspark.core.questions.load_law import laws_of_readings

GADGETS = 700 if FULL else 210


@pytest.mark.parametrize("count", in_turn([3, 4, 6], 1))
def test_the_law_of_gadgets_by_their_physics(count):
    """Right or among those that are left, in 97 of 100; and what the chosen law draws is what the gadget draws.

    A motor whose friction outweighs its speed draws as a filament does: there both say the same.
    """
    chance, seen, off = dice(f"laws {count}"), Counter(), []
    for number in range(GADGETS):
        kind = KINDS[number % len(KINDS)]
        drawn, low_v, high_v = MAKES[kind](chance)
        volts, amps = read(chance, drawn, low_v, high_v, count)
        laws = fitted(volts, amps)
        left = race(laws, low_v, high_v)
        alike = [one.key for one in laws if left and apart(left[0], one, low_v, high_v).spreads < 3]
        seen["right" if kind in [one.key for one in left] or kind in alike else "wrong"] += 1
        if left:
            at = np.linspace(low_v, high_v, 20)
            truth = np.array([drawn(one) for one in at])
            off.append(np.max(np.abs(left[0].current(at) - truth)) / np.max(truth))
    assert seen["wrong"] <= 0.03 * GADGETS, seen
    assert len(off) >= 0.97 * GADGETS
    assert np.quantile(off, 0.95) < 0.06


def test_the_give_or_take_covers_resistors_and_powers():
    """95 of 100, by the meter's own share beside the scatter: 1 % of it, as `read` makes it."""
    chance, inside = dice("give or take"), []
    for number in range(140):
        kind = ("resistor", "same_power")[number % 2]
        truth = chance.uniform(5, 100) if kind == "resistor" else chance.uniform(0.05, 1)

        def drawn(volts, kind=kind, truth=truth):
            return volts / truth if kind == "resistor" else truth / volts

        law = next(one for one in fitted(*read(chance, drawn, 2.4, 6.0, 5)) if one.key == kind)
        inside.append(abs(law.parameters[0] - truth) <= np.hypot(law.off[0], 2 * 0.01 * truth))
    assert np.mean(inside) > 0.9


def test_the_forward_volts_of_leds_are_where_their_line_begins():
    # by hand: 10 mA at 3.20 V and 50 mA at 4.00 V are 20 ohm from 3.00 V on
    law = next(one for one in fitted([3.2, 3.4, 3.6, 4.0], [0.010, 0.020, 0.030, 0.050]) if one.key == "leds")
    assert law.parameters[:2] == pytest.approx((3.0, 20.0), rel=0.01)


def test_what_cannot_be_told_is_not_told():
    assert fitted([3.0], [0.02]) == []
    assert fitted([3.0, 3.001], [0.02, 0.02]) == []
    assert fitted([3.0, 4.0], [0.0, 0.0]) == []
    assert race(fitted([2.0, 3.0, 4.0, 5.0], [0.1, 0.01, 0.2, 0.02]), 2, 5) == []


def test_readings_are_asked_for_at_the_top_the_bottom_and_between():
    taken = []
    for wanted in (4.8, 3.0, 3.9, 4.35, 3.45):
        assert widest_gap(taken, 3.0, 4.8) == pytest.approx(wanted)
        taken.append(wanted)


def surveyed(readings, **gadget):
    mode = {"name": "lit", "current_a": 0.0, "readings": [{"volts": v, "current_a": a} for v, a in readings]}
    return plan(gadget={"front_end": "logic", "supply": {"battery": "LR6", "series": 3}, "modes": [mode]} | gadget)


LEDS = [(3.2, 0.010), (3.4, 0.020), (3.6, 0.030), (4.0, 0.050), (4.5, 0.075)]


def test_what_was_found_goes_into_the_survey_as_measured():
    project = surveyed(LEDS)
    seen = laws_of_readings(project, project.gadget.modes[0].id)
    assert str(seen.headline) == "It draws like LEDs and their resistor."
    assert str(seen.detail).startswith("Its LEDs take 3.00 V")
    filled = project.apply(seen.edits)
    [mode] = filled.gadget.modes
    assert filled.gadget.front_end == "led_resistor"
    assert filled.gadget.led_forward_v == pytest.approx(3.0, abs=0.02)
    assert filled.basis_of("gadget.behind.led_v") == "measured"
    assert (mode.at_v, mode.law) == (4.5, None)  # nearest to the volts at which three such batteries work
    assert mode.current_a == pytest.approx(0.075, rel=0.02)
    assert mode.readings == project.gadget.modes[0].readings


def test_with_too_few_readings_the_next_is_named_with_what_a_maker_has():
    nothing = laws_of_readings(surveyed([]), "")
    assert "fresh set" in str(nothing.wanted)
    assert nothing.edits == ()
    one = laws_of_readings(surveyed([(4.8, 0.04)]), "")
    assert "one battery bridged" in str(one.wanted)
    assert laws_of_readings(plan(gadget={"modes": []}), "") is None


def test_where_two_are_left_the_reading_that_tells_them_apart_is_named():
    """The same watts and the same amperes over a narrow span: far down they part."""
    near = [(4.60, 0.0506), (4.65, 0.0501), (4.70, 0.0497), (4.75, 0.0494)]
    seen = laws_of_readings(surveyed(near), "")
    assert len(seen.curves) > 1
    assert "as far as these readings go" in str(seen.headline)
    assert str(seen.wanted).startswith("Read it at 3")


def test_a_reading_outside_all_reason_is_refused_at_its_place():
    with pytest.raises(ValueError, match="V"):
        DrawnReading(volts=99, current_a=0.1)
