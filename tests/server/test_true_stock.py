"""Where one's own parts are, what is to buy for all, labels with a code, and what a batch of boards really gives.

A QR code is read back by nothing of ours where the registries have a reader at hand; its text is looked up by its own
code. Check characters: worked here by their weights, 3^i mod 31.
"""

import io
import statistics
import time

import pypdfium2
import pytest
from fastapi.testclient import TestClient

from builders import CELL, plan
from builders import board as board_body
from core.test_verdict import proven
from pocketspark.core.cells.cell_code import NoSuchCode, code_of, number_of
from pocketspark.core.models import Project
from pocketspark.core.questions.shopping import Owned, WantedBuild, shopping_list, shopping_over_all
from pocketspark.instruments.load_stand_in import LoadStandIn, SimulatedLoad, cell_on_test
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings

ALPHABET = "0123456789ABCDEFGHJKMNPQRTVWXYZ"


@pytest.fixture
def client(tmp_path):
    with TestClient(create_app(Settings(data=tmp_path, demo=False))) as client:
        yield client


def own(client, kind="cell", stock=1, **changes):
    body = {"cell": CELL | {"name": "mine", "origin": "new"}, "charger": board_body()}[kind] | changes
    answer = client.post("/api/inventory", json={"kind": kind, "stock": stock, "body": body})
    assert answer.status_code == 201, answer.text
    return answer.json()["id"]


def listed(client, part_id):
    return next(part for part in client.get("/api/inventory").json() if part["id"] == part_id)


def kept(client, project):
    answer = client.post("/api/projects", json=project.model_dump(mode="json"))
    assert answer.status_code == 201, answer.text
    return answer.json()["id"]


# Where they are ----------------------------------------------------------------------------------------------------


def test_promised_built_in_and_on_test_are_told_apart(client):
    cell = own(client, stock=4)
    holds = CELL | {"inventory_id": cell, "name": "mine"}
    kept(client, plan(cell=holds))
    assert listed(client, cell)["where"] == "1 promised, 4 free"
    kept(client, plan(cell=holds, practice=True))  # nothing of a practice copy is there
    kept(client, proven(cell=holds))
    assert listed(client, cell)["where"] == "1 built in, 1 promised, 3 free"
    with LoadStandIn(SimulatedLoad(cell_on_test(None), 1.0)) as served:
        run = client.post("/api/instruments/cell-test", json={"part_id": cell, "address": served.address}).json()
        assert listed(client, cell)["where"] == "1 built in, 1 on test, 1 promised, 2 free"
        client.delete(f"/api/instruments/live/{run['id']}")
    until = time.monotonic() + 10
    while "on test" in listed(client, cell)["where"] and time.monotonic() < until:
        time.sleep(0.1)
    assert "on test" not in listed(client, cell)["where"]


def test_of_two_plans_of_one_gadget_one_will_be_built(client):
    cell = own(client, stock=3)
    document = plan(cell=CELL | {"inventory_id": cell, "name": "mine"}, cell_count=2).model_dump(mode="json")
    document["builds"].append(document["builds"][0] | {"id": "", "name": "other", "cell_count": 1})
    client.post("/api/projects", json=document)
    assert listed(client, cell)["where"] == "2 promised, 3 free"


# What to buy for all -----------------------------------------------------------------------------------------------


def test_one_list_is_the_sum_of_each_less_what_is_there_once():
    builds = [WantedBuild(f"lamp {n}", plan(), 0) for n in range(12)]
    one, over_all = shopping_list(plan(), 0), shopping_over_all(builds)
    assert {str(line.part): 12 * line.pieces for line in one.to_buy} == {
        str(line.part): line.pieces for line in over_all.to_buy
    }
    # Twelve resistors are two bags of ten.
    [resistor] = [line for line in over_all.to_buy if str(line.part).startswith("resistor")]
    assert (resistor.missing, resistor.sold_by, resistor.bags) == (12, 10, 2)
    cell = plan().builds[0].cell
    some = shopping_over_all(builds, [Owned("cell", cell, 5)])
    [line] = [line for line in some.to_buy if str(line.part) == cell.name]
    assert (line.missing, line.wanted_by[0], len(line.wanted_by)) == (7, "lamp 0", 12)


def test_what_is_begun_or_has_no_cell_is_not_on_it(client):
    first = plan().model_dump(mode="json")
    first["gadget"]["name"] = "open one"
    kept(client, Project.model_validate(first))
    kept(client, proven())
    bare = plan(cell=None).model_dump(mode="json")
    bare["gadget"]["name"] = "bare one"
    kept(client, Project.model_validate(bare))
    told = client.get("/api/drawer/shopping").json()
    assert {name for line in told["to_buy"] for name in line["wanted_by"]} == {"open one"}
    assert told["left_out"] == ["bare one"]


# Labels ------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("number", [1, 7, 12, 99, 480, 1_000_003])
def test_a_code_is_sound_by_its_weights_and_a_slip_is_told(number):
    code = code_of(number)
    digits = code.removeprefix("C").replace("-", "")
    weighted = sum(ALPHABET.index(one) * pow(3, at, 31) for at, one in enumerate(reversed(digits)))
    assert weighted % 31 == 0
    assert number_of(code) == number_of(code.lower().replace("-", " ")) == number
    text = str(number)
    for at, character in enumerate(text):
        for other in "0123456789":
            if other != character:
                with pytest.raises(NoSuchCode):
                    number_of(f"C{text[:at]}{other}{text[at + 1 :]}-{code[-1]}")
    for at in range(len(text) - 1):
        if text[at] != text[at + 1]:
            swapped = text[:at] + text[at + 1] + text[at] + text[at + 2 :]
            with pytest.raises(NoSuchCode):
                number_of(f"C{swapped}-{code[-1]}")


def test_a_tested_cell_has_a_label_and_is_found_by_it(client):
    assert client.get("/api/inventory/labels").status_code == 409
    own(client)  # untested: no label
    cell = own(client, measured_capacity_ah=0.83, r_ohm=0.12, name="From a lamp")
    sheet = client.get("/api/inventory/labels")
    assert sheet.headers["content-type"] == "application/pdf"
    document = pypdfium2.PdfDocument(io.BytesIO(sheet.content))
    text = document[0].get_textpage().get_text_bounded()
    assert code_of(cell) in text
    assert "830 mAh" in text
    assert code_of(cell - 1) not in text
    assert client.get(f"/api/inventory/by-code/{code_of(cell)}").json()["id"] == cell
    assert listed(client, cell)["code"] == code_of(cell)
    wrong = client.get("/api/inventory/by-code/C99999")
    assert wrong.status_code == 422
    assert client.get(f"/api/inventory/by-code/{code_of(4711)}").status_code == 404


def test_many_labels_take_several_sheets_of_both_sizes(client):
    for _ in range(30):
        own(client, measured_capacity_ah=0.5)
    for paper in ("a4", "letter"):
        document = pypdfium2.PdfDocument(
            io.BytesIO(client.get("/api/inventory/labels", params={"paper": paper}).content)
        )
        assert len(document) == 2


# A batch of boards -------------------------------------------------------------------------------------------------


def built_with(board, amps, ohm, end_v):
    project = proven(boards=[board_body() | {"inventory_id": board}])
    document = project.model_dump(mode="json")
    record = document["builds"][0]["record"]
    record["r_measured_ohm"] = ohm
    for step in record["steps"]:
        step["value"] = {"first_charge": amps, "full": end_v}.get(step["step"], step["value"])
    return Project.model_validate(document)


def test_what_three_boards_gave_is_what_the_next_is_planned_with(client):
    board = own(client, "charger", stock=5)
    assert listed(client, board)["batch"] is None
    assert client.post(f"/api/inventory/{board}/batch").status_code == 409
    read = [(0.372, 3010.0, 4.18), (0.380, 2990.0, 4.19), (0.376, 3005.0, 4.185)]
    for one in read:
        kept(client, built_with(board, *one))
    k_volts = [amps * ohm for amps, ohm, _ in read]
    batch = listed(client, board)["batch"]
    assert (batch["boards"], batch["changes"]) == (3, True)
    assert batch["k_volts"] == pytest.approx(statistics.mean(k_volts), rel=1e-3)
    assert batch["k_off"] == pytest.approx(
        max(2 * statistics.stdev(k_volts) / statistics.mean(k_volts), 0.03), abs=1e-3
    )
    learnt = client.post(f"/api/inventory/{board}/batch").json()["board"]["charger"]
    assert learnt["k_volts"] == pytest.approx(batch["k_volts"])
    assert learnt["float_v"] == pytest.approx(4.185)
    assert listed(client, board)["batch"]["changes"] is False


def test_a_practice_copy_or_a_wild_reading_teaches_a_batch_nothing(client):
    board = own(client, "charger")
    wild = built_with(board, 40.0, 3000.0, 4.19)
    kept(client, wild)
    assert listed(client, board)["batch"]["k_volts"] is None
