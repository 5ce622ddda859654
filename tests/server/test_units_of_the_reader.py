"""What is written is in the units of whoever reads; what is computed is the same. Inch and degree by definition."""

import re
from fractions import Fraction
from typing import Annotated

import pytest
from pydantic import TypeAdapter, ValidationError
from typer.testing import CliRunner

from builders import plan
from every_question import MORE, QUESTIONS
from pocketspark.cli import app
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.models.build import POLICIES
from pocketspark.core.models.cell_class import CELL_CLASSES
from pocketspark.core.questions.assess import assess
from pocketspark.core.steps import procedure, read_value
from pocketspark.core.units.figures import bare_length, celsius, sizes
from pocketspark.core.units.quantity import Quantity, read
from pocketspark.core.units.reading import METRIC, ReadersUnits, read_as, reading, reading_named
from pocketspark.demo import demo_projects
from pocketspark.formats.exports import EXPORTS
from pocketspark.parts import library

INCHES, FAHRENHEIT = ReadersUnits(length="in"), ReadersUnits(temperature="F")


def test_inches_are_read_back_as_the_millimetres_they_were():
    with read_as(INCHES):
        for tenths in range(1, 3000):
            text = str(bare_length(tenths / 10))
            whole, _, part = text.rpartition(" ")
            mm = (Fraction(part) + Fraction(whole or 0)) * Fraction(254, 10)
            # A fraction of a ruler's mark is at most 0.02 mm off, a thousandth half a thousandth.
            assert float(mm) == pytest.approx(tenths / 10, abs=0.0201)
            assert read(f"{text} in", "mm") == pytest.approx(float(mm), abs=1e-6)
        assert str(sizes(61.9125, 12.7, 10)) == "2 7/16 x 1/2 x 0.394 in"
    assert str(sizes(12.75, 6.9)) == "12.8 x 6.9 mm"


@pytest.mark.parametrize(("degrees_c", "text"), [(0, "32 °F"), (100, "212 °F"), (37, "99 °F"), (-40, "-40 °F")])
def test_fixed_points_of_the_two_scales(degrees_c, text):
    with read_as(FAHRENHEIT):
        assert str(celsius(degrees_c)) == text
    assert str(celsius(degrees_c)) == f"{degrees_c} °C"


def test_what_is_hotter_than_any_part_can_be_is_told_as_over_that():
    assert (str(celsius(300)), str(celsius(483_235))) == ("300 °C", "over 300 °C")
    with read_as(FAHRENHEIT):
        assert str(celsius(483_235)) == "over 572 °F"


def test_a_reading_in_degrees_is_in_those_of_its_field():
    step = next(one for one in procedure(plan(), 0).steps if one.hold and one.hold.unit == "C")
    with read_as(FAHRENHEIT):
        hold = next(one for one in procedure(plan(), 0).steps if one.key == step.key).hold
        assert (str(hold.unit_sign), str(hold.limits)) == ("°F", "at most 113 °F")
        assert read_value(plan(), 0, step.key, "104") == pytest.approx(40)
        assert read_value(plan(), 0, step.key, "40 C") == pytest.approx(40)
    assert read_value(plan(), 0, step.key, "40") == pytest.approx(40)


@pytest.mark.parametrize("size_mm", [(62, 38.5, 14.5), (50, 30, 8)])
def test_the_same_answer_in_other_words(size_mm):
    """Of one document: what is computed and kept names no reader; only its text does."""
    project = plan(gadget={"bay": {"rooms": [{"id": "room1", "size_mm": size_mm}]}})
    metric = fit_of(project), assess(project)
    with read_as(ReadersUnits("in", "F")):
        other = fit_of(project), assess(project)
        in_inches = [str(hole.says) for hole in other[0].openings]
    assert other == metric
    assert in_inches != [str(hole.says) for hole in metric[0].openings]


def test_the_shelf_is_read_in_the_units_of_whoever_looks_not_of_who_saved_last(client):
    small = plan(gadget={"bay": {"rooms": [{"size_mm": [50, 30, 8]}]}}).model_dump(mode="json")
    inches, metric = {"cookie": "units=in.F"}, {"cookie": "units=mm.C"}
    made = client.post("/api/projects", json=small, headers=inches).json()
    for reader, wanted, other in ((metric, " mm", " in "), (inches, " in ", " mm")):
        [line] = [one for one in client.get("/api/projects", headers=reader).json() if one["id"] == made["id"]]
        assert wanted in f"{line['summary']['headline']} ", line
        assert other not in f"{line['summary']['headline']} ", line


def test_every_question_is_answered_in_the_units_and_the_decimals_of_the_reader(client):
    """Every route, every demo conversion. Names of parts, classes and standards stay as they are printed, sources as
    they are cited."""
    named = (
        {str(facts.label) for facts in CELL_CLASSES.values()}
        | {label for label, _ in POLICIES.values()}
        | {"UN 38.3", "0.5C"}
    )
    named |= {(part.board or part.cell).name for part in library().parts}
    for project in demo_projects():
        document = project.model_dump(mode="json")
        known = sorted(named | {text for _, text in _texts(document)} | {"regulator"}, key=len, reverse=True)
        names = re.compile("|".join(map(re.escape, known)))
        for path in QUESTIONS:
            body = {"document": document, "build": "0"} | MORE.get(path, {})
            answer = client.post(path, json=body, headers={"cookie": "units=in.F.comma"})
            if answer.headers["content-type"] != "application/json":
                continue
            assert re.search(r"\d ?(mm|°C)(?![\w²])", answer.text) is None, path
            for key, text in _texts(answer.json()):
                seen = " ".join(re.findall(r">([^<]+)<", text)) if key == "svg" else names.sub("", text)
                if key not in ("source", "search", "schools", "document", "says_of_columns"):
                    assert re.search(r"\d\.\d", seen) is None, (path, key, text)


def test_the_limits_of_all_rules_are_told_in_them_too(client):
    told = client.get("/api/reference", headers={"cookie": "units=in.F.comma"}).json()["rules"]
    for rule in told:
        # A C behind a number without a space is a rate: "5C".
        assert re.search(r"\d (mm|C)(?![\w²])|\d ?°C", rule["limits"] + rule["formula"]) is None, rule
    [warm] = [rule for rule in told if rule["code"] == "fit.socket_deep"]
    assert warm["limits"] == "0,020 in"


def test_files_for_programs_are_the_same_for_every_reader(client):
    body = {"document": demo_projects()[1].model_dump(mode="json"), "build": "0"}
    for key, export in EXPORTS.items():
        told = [
            client.post(f"/api/questions/export/{key}", json=body, headers={"cookie": f"units={units}"}).content
            for units in ("mm.C.point", "in.F.comma")
        ]
        if export.ending in ("csv", "cir"):
            assert told[0] == told[1], key


def _texts(answer, key=""):
    if isinstance(answer, str):
        yield key, answer
    elif isinstance(answer, dict):
        for name, inner in answer.items():
            if name != "edits":  # what goes into the document is the same for every reader
                yield from _texts(inner, name)
    elif isinstance(answer, list):
        for inner in answer:
            yield from _texts(inner, key)


@pytest.mark.parametrize(
    ("value", "units", "sentence"),
    [
        ("-3 in", "in", "Enter a value from 0.1 to 100 inches, not -3"),
        ("1k2", "in", "'1k2' is not in inches; write it like 2 7/16 or 0.5"),
        ("-3 in", "mm", "Enter a value from 2.54 to 2540 mm, not -76.2"),
        (None, "in", "Enter a number in inches"),
    ],
)
def test_a_length_is_refused_in_the_unit_that_was_typed(value, units, sentence):
    field = TypeAdapter(Annotated[float, Quantity("mm", 2.54, 2540)])
    with read_as(reading_named(units)), pytest.raises(ValidationError) as refused:
        field.validate_python(value)
    assert refused.value.errors()[0]["msg"] == sentence


def test_a_temperature_is_refused_in_degrees_of_the_reader():
    field = TypeAdapter(Annotated[float, Quantity("C", -40, 100)])
    with read_as(FAHRENHEIT), pytest.raises(ValidationError, match="Enter a value from -40 to 212 °F, not 9999"):
        field.validate_python("9999 F")


def test_a_cookie_says_the_units_of_a_request_alone(client):
    body = {"document": plan().model_dump(mode="json"), "build": "0"}

    def told(**cookies):
        headers = {"cookie": "; ".join(f"{name}={value}" for name, value in cookies.items())}
        reply = client.post("/api/questions/sheet", json=body, headers=headers).json()
        return next(one["heading"] for one in reply["sheet"]["sections"] if "Where" in one["heading"])

    assert told(other="x", units="in.F") == "Where it lies, in"
    assert told() == told(units="mm.C") == told(units="furlong..x") == "Where it lies, mm"


def test_what_is_no_unit_of_ours_is_left_aside():
    assert reading_named("F.in") == ReadersUnits("in", "F")
    assert reading_named("K.mm.cm") == reading_named("") == METRIC == reading()


def test_the_command_line_writes_them_too(tmp_path):
    file = tmp_path / "plan.json"
    file.write_text(plan().model_dump_json())
    inches = CliRunner().invoke(app, ["--units", "in", "fit", str(file)]).output
    metric = CliRunner().invoke(app, ["fit", str(file)]).output
    assert " in to spare" in inches
    assert " mm to spare" in metric
