"""./spark assess: in words, as data, and what it says of a bad file. Also the format itself."""

import json
from pathlib import Path

import jsonschema
import pytest
from typer.testing import CliRunner

from builders import plan
from pocketspark.cli import app
from pocketspark.demo import demo_projects
from pocketspark.formats import project_json

ROOT = Path(__file__).resolve().parents[1]
MINIMAL = {
    "format": "pocket-spark/2",
    "gadget": {
        "name": "Rain gauge",
        "supply": {"battery": "LR6", "series": 3},
        "modes": [{"name": "counting", "current_a": 0.004, "hours_per_day": 24}],
    },
    "builds": [
        {"cell": {"capacity_ah": 0.9}, "boards": [{"charger": {"k_volts": 1200}, "protection": {}}], "r_prog_ohm": 3000}
    ],
}


def run(tmp_path, text, *options):
    file = tmp_path / "plan.json"
    file.write_text(text)
    return CliRunner().invoke(app, ["assess", str(file), *options])


def test_a_minimal_file_is_judged_in_words(tmp_path):
    told = run(tmp_path, json.dumps(MINIMAL))
    assert told.exit_code == 0
    assert "Charge: 3 kΩ, 400 mA" in told.output
    assert "Local rules" in told.output


def test_and_as_data(tmp_path):
    seen = json.loads(run(tmp_path, json.dumps(MINIMAL), "--json").output)
    assert seen["charge"]["current_a"]["value"] == pytest.approx(0.4)
    assert seen["run"]["modes"][0]["stopped_by"] in {"gadget", "protection", "cell"}


@pytest.mark.parametrize(
    ("change", "named"),
    [
        ({"format": "something/2"}, "format"),
        ({"gadget": {}}, "gadget.name"),
        ({"gadget": MINIMAL["gadget"] | {"off_current_a": -3}}, "gadget.off_current_a"),
        ({"builds": [{"cell": {"capacity_ah": 1e9}}]}, "builds.0.cell.capacity_ah"),
        ({"builds": [{"policy": "wild"}]}, "builds.0.policy"),
        ({"builds": []}, "builds"),
        ({"surprise": 1}, "surprise"),
    ],
)
def test_a_bad_file_ends_with_2_and_one_sentence_naming_the_field(tmp_path, change, named):
    told = run(tmp_path, json.dumps(MINIMAL | change))
    assert told.exit_code == 2
    assert told.stderr.startswith(f"{named}: ")
    assert len(told.stderr.strip().splitlines()) == 1


@pytest.mark.parametrize("text", ["", "not json", "[1]", "{", "[" * 100_000, " " * 1_000_001])
def test_what_is_no_project_at_all_is_refused_as_plainly(tmp_path, text):
    told = run(tmp_path, text)
    assert told.exit_code == 2
    assert "Traceback" not in told.output


def test_a_missing_file_or_build_is_said(tmp_path):
    assert CliRunner().invoke(app, ["assess", str(tmp_path / "none.json")]).exit_code == 2
    told = run(tmp_path, json.dumps(MINIMAL), "--build", "4")
    assert (told.exit_code, told.stderr.strip()) == (2, "builds: this project has builds 1 to 1, not 4")


@pytest.mark.parametrize("project", [plan(), *demo_projects()], ids=lambda project: project.gadget.name)
def test_a_project_comes_back_as_it_was_written(project):
    assert project_json.loads(project_json.dumps(project)) == project


def _arrays(schema, place=""):
    if isinstance(schema, dict):
        if schema.get("type") == "array" and "prefixItems" not in schema:
            yield place, schema
        for word, inner in schema.items():
            yield from _arrays(inner, f"{place}/{word}")
    elif isinstance(schema, list):
        for number, inner in enumerate(schema):
            yield from _arrays(inner, f"{place}/{number}")


def published(name):
    return json.loads((ROOT / "docs" / f"{name}.schema.json").read_text())


def test_the_published_schema_takes_what_we_write_and_refuses_what_we_refuse():
    schema = published("project")
    for project in demo_projects():
        jsonschema.validate(json.loads(project_json.dumps(project)), schema)
    jsonschema.validate(MINIMAL, schema)
    for too_much in ({"gadget": {}}, {"builds": [{}] * 13}, {"logbook": [{}] * 1001}):
        with pytest.raises(jsonschema.ValidationError):
            jsonschema.validate(MINIMAL | too_much, schema)
    assert [place for place, array in _arrays(schema) if "maxItems" not in array] == []


@pytest.mark.parametrize("project", demo_projects(), ids=lambda project: project.gadget.name)
@pytest.mark.parametrize(("question", "schema"), [("assess", "assessment"), ("fit", "fit")])
def test_every_answer_is_as_its_schema_says(tmp_path, project, question, schema):
    file = tmp_path / "plan.json"
    file.write_text(project_json.dumps(project))
    told = CliRunner().invoke(app, [question, str(file), "--json"])
    if question == "fit" and told.exit_code == 2:
        assert not project.builds[0].cell  # nothing to place yet
        return
    jsonschema.validate(json.loads(told.stdout), published(schema))


def test_an_analysed_log_is_as_its_schema_says(tmp_path):
    rows = "".join(f"{s},{3.6 + s / 20000:.3f},0.4\n" for s in range(0, 7200, 60))
    (tmp_path / "log.csv").write_text(f"time_s,voltage_v,current_a\n{rows}nonsense\n")
    told = CliRunner().invoke(app, ["analyse", str(tmp_path / "log.csv"), "--json"])
    answer = json.loads(told.stdout)
    jsonschema.validate(answer, published("analysis"))
    assert answer["bad_rows"][0]["line"] == 122
