"""Steps, wiring and logs over the API."""

import pytest

from builders import plan


def question(practice=True, **build):
    document = plan(**build).model_dump(mode="json")
    document["builds"][0]["practice"] = practice
    return {"document": document}


def test_steps_of_a_build(client):
    seen = client.post("/api/questions/procedure", json=question()).json()
    assert seen["next_step"] == "photograph"
    assert seen["bench_hours"]["value"] * 60 > 60
    assert client.post("/api/questions/procedure", json=question(cell=None)).status_code == 409


def test_the_hook_up_its_drawing_and_its_netlists(client):
    seen = client.post("/api/questions/wiring", json=question()).json()
    assert not seen["own"]
    assert {wire["start"] for wire in seen["wires"]} >= {"cell.+", "cell.-"}
    assert seen["cut_list"]
    assert str(client.post("/api/questions/export/hook-up", json=question()).text).startswith("<svg")
    assert ".end" in str(client.post("/api/questions/export/running", json=question()).text)
    assert client.post("/api/questions/export/charging", json=question(boards=[])).status_code == 409
    assert client.post("/api/questions/wiring", json=question(cell=None)).status_code == 409


@pytest.mark.parametrize(("instrument", "run"), [("cell_meters", "charge"), ("bench_load", "discharge")])
def test_a_simulated_log_is_read_back_beside_its_prediction(client, instrument, run):
    made = client.post(f"/api/instruments/log?instrument={instrument}&seed=4", json=question()).json()
    seen = client.post("/api/questions/log", json=question() | {"text": made["csv"]}).json()
    assert seen["analysis"]["kind"] == run
    assert seen["bad_count"] == 0
    assert len(seen["measured"]["hours"]) <= 1200
    phase = seen["analysis"]["phases"]
    flowed = [one for one in phase if one["name"] not in ("ended", "cut")]
    assert flowed[-1]["end_s"] / 3600 == pytest.approx(seen["predicted"]["hours"][-1], rel=0.15)


def test_a_fault_on_the_simulated_bench_is_named(client):
    bench = client.get("/api/instruments").json()
    assert "load_left_on" in [one["fault"] for one in bench["faults"]]
    assert {kind for one in bench["faults"] for kind in one["shown_by"]} == {
        one["kind"] for one in bench["instruments"]
    }
    made = client.post("/api/instruments/log?fault=load_left_on", json=question()).json()
    seen = client.post("/api/questions/log", json=question() | {"text": made["csv"]}).json()
    assert "log.never_ends" in [finding["code"] for finding in seen["analysis"]["findings"]]
    assert client.post("/api/instruments/log", json=question(boards=[])).status_code == 409


def log(header, rows=40):
    return f"{header}\n" + "\n".join(f"{t * 60},{3.6 + t / 100},0.4,{21 + t / 10}" for t in range(rows))


def read(client, text, places=None):
    return client.post("/api/questions/log", json=question() | {"text": text, "places": places}).json()


def test_a_meters_columns_are_remembered_by_its_header(client):
    odd = log("time,voltage,current,aux")
    assert read(client, odd)["places"] == [0, 1, 2, None]
    assert read(client, odd, [0, 1, 2, 3])["analysis"]["most_c"] == pytest.approx(24.9)
    assert read(client, odd)["places"] == [0, 1, 2, 3]
    assert read(client, log("time,voltage,current,other"))["places"] == [0, 1, 2, None]
    read(client, odd, [0, 1, 2, None])
    assert read(client, odd)["places"] == [0, 1, 2, None]  # put right again


def test_columns_that_do_not_suit_this_log_are_left_aside(client):
    narrow, wide = (log("time,voltage,current,aux").replace("aux", name) for name in ("x", "x"))
    read(client, wide, [0, 1, 2, 3])
    three = "\n".join(line.rsplit(",", 1)[0] if number else line for number, line in enumerate(narrow.splitlines()))
    seen = read(client, three)
    assert (seen["places"], seen["bad_count"]) == ([0, 1, 2, None], 0)


def test_a_log_teaches_and_what_was_foretold_comes_with_it(client):
    made = client.post("/api/instruments/log?seed=4", json=question()).json()
    seen = read(client, made["csv"])
    assert [offer["what"] for offer in seen["calibration_offers"]] == ["capacity", "charge current"]
    assert seen["prediction"]["charge_current_a"] == pytest.approx(0.4)
    project = question(predictions=[{"at": "2026-11-25", "adopted": "capacity", "before": seen["prediction"]}])
    sheet = client.post("/api/questions/sheet/as-built", json=project).json()
    assert sheet["prediction"] == seen["prediction"]


def test_a_log_that_is_none_gets_a_sentence(client):
    refused = client.post("/api/questions/log", json=question() | {"text": "hello"})
    assert (refused.status_code, "no line of figures" in refused.json()["detail"]) == (422, True)
    short = client.post("/api/questions/log", json=question() | {"text": "time,volts,amps\n1,2,3\n2,3,4"})
    assert short.status_code == 422
    swapped = {"text": "a,b,c\n" + "\n".join(f"{i},3.{i},0.4" for i in range(9)), "places": [0, 1, None]}
    assert "each need a column" in client.post("/api/questions/log", json=question() | swapped).json()["detail"]


def test_the_sheet_and_the_bill_of_materials(client):
    assert client.post("/api/questions/export/sheet", json=question()).content.startswith(b"%PDF")
    assert str(client.post("/api/questions/export/parts", json=question()).text).startswith("quantity,part")
    assert client.post("/api/questions/export/sheet", json=question(cell=None)).status_code == 409


@pytest.mark.parametrize("path", ["log", "live", "multimeter/full"])
def test_the_simulated_bench_works_on_practice_copies_alone(client, path):
    real = client.post(f"/api/instruments/{path}", json=question(practice=False))
    assert real.status_code == 409
    assert "practice copy" in real.json()["detail"]
    assert client.post(f"/api/instruments/{path}", json=question()).status_code < 300


def test_a_real_build_learns_nothing_from_a_simulated_log(client):
    csv = client.post("/api/instruments/log?seed=4", json=question()).json()["csv"]
    practised = client.post("/api/questions/log", json=question() | {"text": csv}).json()
    real = client.post("/api/questions/log", json=question(practice=False) | {"text": csv}).json()
    assert practised["calibration_offers"]
    assert practised["simulated"]
    assert real["simulated"]
    assert not real["calibration_offers"]
