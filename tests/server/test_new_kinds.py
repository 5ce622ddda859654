"""One entry is one kind: a made-up kind is put into its table, and every question is asked of a build with it. Nothing
else in the tree may have to know its name."""

from dataclasses import replace

import pytest
from fastapi.testclient import TestClient

from builders import plan
from every_question import MORE, QUESTIONS
from pocketspark.core.chain import Chain
from pocketspark.core.kinds.board_features import BOARD_FEATURES, BoardFeature
from pocketspark.core.kinds.regulators import KINDS
from pocketspark.core.kinds.stations import STATIONS, Station
from pocketspark.core.message import say
from pocketspark.core.models.board import REGULATORS
from pocketspark.core.models.cell_class import CELL_CLASSES
from pocketspark.core.models.input_kind import INPUTS
from pocketspark.core.rules.rule import RULES, note, rule
from pocketspark.core.steps import order
from pocketspark.core.steps.making import StepKind, step
from pocketspark.core.units.figures import amp_hours
from pocketspark.formats.exports import EXPORTS, Export
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings

FAKES = {
    "regulator": (
        REGULATORS,
        replace(KINDS["ldo"], key="made_up", label="made-up regulator"),
        {"regulator": {"kind": "made_up", "name": "Made up", "v_set": 3.3}},
    ),
    "input": (
        INPUTS,
        replace(INPUTS["dock"], label="made-up way in", brings="the made-up way in"),
        {"input": {"kind": "made_up"}},
    ),
    "cell class": (
        CELL_CLASSES,
        replace(CELL_CLASSES["li_4v20"], label="made-up lithium", full_v=4.1),
        {"cell": {"name": "Made up", "cell_class": "made_up", "capacity_ah": 0.9, "size_mm": [5, 34, 50]}},
    ),
}


@pytest.fixture
def client(tmp_path):
    with TestClient(create_app(Settings(data=tmp_path / "data"))) as client:
        yield client


@pytest.mark.parametrize("fake", FAKES)
def test_every_question_knows_a_kind_by_its_entry_alone(monkeypatch, client, fake):
    table, entry, changes = FAKES[fake]
    monkeypatch.setitem(table, "made_up", entry)
    if table is REGULATORS:
        monkeypatch.setitem(KINDS, "made_up", entry)
    document = plan(**changes).model_dump(mode="json")
    for path in QUESTIONS:
        answer = client.post(path, json={"document": document, "build": 0} | MORE.get(path, {}))
        assert answer.status_code < 500, (path, answer.text)
        assert answer.status_code != 422, (path, answer.text)
    reply = client.post("/api/questions/assess", json={"document": document, "build": 0}).json()
    assert reply["refused"] == []
    assert entry.label in client.get("/api/reference").text
    stored = client.post("/api/projects", json=document)
    assert stored.status_code == 201, stored.text


def test_a_board_feature_is_one_entry(monkeypatch, client):
    """A made-up feature on every board: its pads are drawn, its words stand in the list, and every question answers."""

    def add_a_bell(_board, circuit):
        circuit.add("BELL")

    bell = BoardFeature(lambda _board: True, lambda _board: "with a bell", add_a_bell, {"BELL": "usb_out"})
    monkeypatch.setitem(BOARD_FEATURES, "bell", bell)
    document = plan().model_dump(mode="json")
    for path in QUESTIONS:
        answer = client.post(path, json={"document": document, "build": 0} | MORE.get(path, {}))
        assert answer.status_code < 500, (path, answer.text)
    wired = client.post("/api/questions/wiring", json={"document": document, "build": 0}).json()
    assert "charger.BELL" in {pad["name"] for part in wired["drawing"]["parts"] for pad in part["pads"]}
    assert all("with a bell" in part["says"] for part in client.get("/api/parts").json() if part["board"])


def test_an_export_is_one_entry(monkeypatch, client):
    monkeypatch.setitem(EXPORTS, "song", Export("Song", ("sheet",), "txt", "text/plain", lambda of: of.titled("la la")))
    document = plan().model_dump(mode="json")
    sung = client.post("/api/questions/export/song", json={"document": document, "build": 0})
    assert str(sung.text).endswith("la la")
    unknown = client.post("/api/questions/export/dance", json={"document": document, "build": 0})
    assert (unknown.status_code, "there is no file called 'dance'" in unknown.json()["detail"]) == (404, True)
    assert {"key": "song", "label": "Song", "pages": ["sheet"], "ending": "txt", "paper": None} in client.get(
        "/api/reference"
    ).json()["exports"]


def test_a_step_is_one_function_and_one_entry(monkeypatch, client):
    def bless(chain):
        return step("bless_it", "Knock on wood", f"For {chain.gadget.name}.", 1)

    bless.__annotations__["chain"] = order.Chain
    monkeypatch.setattr(order, "ORDER", (*order.ORDER, StepKind(bless)))
    document = plan().model_dump(mode="json")
    procedure = client.post("/api/questions/procedure", json={"document": document, "build": 0}).json()
    assert procedure["steps"][-1]["title"] == "Knock on wood"


def test_a_station_is_one_entry(monkeypatch, client):
    monkeypatch.setitem(STATIONS, "admire", Station("Admire", "Is it not fine?"))
    document = plan().model_dump(mode="json")
    document["logbook"] = [{"at": "2026-05-01T10:00", "kind": "change", "station": "admire", "text": "stood back"}]
    assert client.post("/api/projects", json=document).status_code == 201
    assert "Is it not fine?" in str(client.get("/api/reference").text)


@pytest.fixture
def made_up_rule():
    @rule("cell.made_up", station="cell", source="made up", advice=say("Do what it says."))
    def made_up(chain: Chain):
        """Watches whatever is made up, for the sake of this test."""
        yield note(say("The made-up {cell} holds {charge}.", cell=chain.cell.form, charge=amp_hours(0.9)))

    yield
    del RULES["cell.made_up"]


@pytest.mark.usefixtures("made_up_rule")
def test_a_rule_is_one_place_and_the_page_of_all_checks_knows_it(client):
    answer = client.post("/api/questions/assess", json={"document": plan().model_dump(mode="json"), "build": 0}).json()
    (raised,) = [one for one in answer["assessment"]["findings"] if one["code"] == "cell.made_up"]
    assert raised["headline"] == "The made-up pouch holds 900 mAh."
    (listed,) = [one for one in client.get("/api/reference").json()["rules"] if one["code"] == "cell.made_up"]
    assert (listed["what_to_do"], listed["station"]) == ("Do what it says.", "cell")
