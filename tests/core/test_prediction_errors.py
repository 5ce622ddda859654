"""How far predictions were off, by hand: median, bias, worst, and what stands in the file."""

import csv
import io

from builders import plan
from pocketspark.core.questions.prediction_errors import prediction_errors
from pocketspark.formats.errors_csv import errors_as_csv


def built(current_a):
    """K / R of 1200 V and 3 kohm is 0.4 A (the trade's formula); so much was measured."""
    steps = [{"step": "first_charge", "done": True, "value": current_a}]
    return plan(r_prog_ohm=3000, steps=steps), 0


def charge_current(errors):
    return next(kind for kind in errors.kinds if str(kind.what) == "charge current")


def test_median_bias_worst_and_how_many_are_close():
    seen = prediction_errors(built(amps) for amps in (0.40, 0.38, 0.36, 0.44, 0.30))
    kind = charge_current(seen)
    # off by 0, -5, -10, +10, -25 %: the median is -5 % with its sign and 10 % without
    assert (str(kind.bias), str(kind.usual), str(kind.worst)) == ("-5 %", "10 %", "-25 %")
    assert str(kind.close) == "4 of 5 within 10 %"
    assert not seen.enough
    assert str(seen.headline) == "5 of 10 builds: too few to go by yet"


def test_from_ten_builds_on_it_says_so():
    seen = prediction_errors([built(0.4)] * 10)
    assert seen.enough
    assert str(seen.headline) == "10 builds were measured to their end"
    assert prediction_errors([]).kinds == ()


def test_the_file_has_a_row_for_each_figure_of_each_build():
    rows = list(csv.DictReader(io.StringIO(errors_as_csv(prediction_errors([built(0.3), built(0.4)])))))
    current = [row for row in rows if row["kind"] == "charge current"]
    assert [(row["planned"], row["measured"], float(row["off"])) for row in current] == [
        ("400 mA", "300 mA", -0.25),
        ("400 mA", "400 mA", 0.0),
    ]
    assert {row["gadget"] for row in rows} == {"Moth-trap lamp"}
