"""Logs are uploaded once, kept byte for byte, asked about by number, and travel with their conversion."""

import io
import zipfile
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from resource import RUSAGE_SELF, getrusage

import numpy as np
import pytest

from builders import plan
from chances import FULL
from pocketspark.formats.log_csv import read_log
from pocketspark.store import LogFiles
from pocketspark.store.database import open_database

ROWS = "time_s,voltage_v,current_a\n" + "".join(f"{i * 10},{3.5 + i / 500:.3f},0.4\n" for i in range(300))


@pytest.fixture
def project_id(client):
    return client.post("/api/projects", json=plan().model_dump(mode="json")).json()["id"]


QUESTION = {"document": plan().model_dump(mode="json")}


def upload(client, project_id, content=ROWS, name="first charge.csv"):
    headers = {"Content-Type": "text/csv"}
    return client.post(f"/api/projects/{project_id}/logs?name={name}", content=content, headers=headers)


def test_a_log_is_kept_once_and_asked_about_by_its_number(client, project_id):
    kept = upload(client, project_id)
    assert kept.status_code == 201
    log_id = kept.json()["id"]
    assert upload(client, project_id, name="again.csv").json()["id"] == log_id
    assert len(client.get(f"/api/projects/{project_id}/logs").json()) == 1
    assert client.get(f"/api/projects/{project_id}/logs/{log_id}").text == ROWS
    by_number = client.post("/api/questions/log", json=QUESTION | {"log_id": log_id}).json()
    by_text = client.post("/api/questions/log", json=QUESTION | {"text": ROWS}).json()
    assert by_number == by_text
    assert by_number["analysis"]["kind"] == "charge"
    other_columns = QUESTION | {"log_id": log_id, "places": [0, 2, 1, None], "mends": ["as_it_is"]}
    assert client.post("/api/questions/log", json=other_columns).json()["analysis"]["most_v"] == pytest.approx(0.4)
    assert client.delete(f"/api/projects/{project_id}/logs/{log_id}").status_code == 204
    gone = client.post("/api/questions/log", json=QUESTION | {"log_id": log_id})
    assert gone.status_code == 404
    assert "read the file once more" in gone.json()["detail"]


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "utf-16-le", "cp1252"])
def test_any_encoding_comes_back_as_it_was(client, project_id, encoding):
    content = ROWS.replace("current_a", "Strom für Lücke (A)").encode(encoding)
    log_id = upload(client, project_id, content).json()["id"]
    assert client.get(f"/api/projects/{project_id}/logs/{log_id}").content == content
    reply = client.post(
        "/api/questions/log", json={"document": plan().model_dump(mode="json"), "log_id": log_id}
    ).json()
    assert reply["header"][2] == "Strom für Lücke (A)"
    assert reply["analysis"]["plateau_a"] == pytest.approx(0.4)


def test_what_is_no_log_is_refused_and_nothing_kept(client, project_id):
    refused = upload(client, project_id, "hello\nthere\n")
    assert refused.status_code == 422
    assert "no line of figures" in refused.json()["detail"]
    assert upload(client, project_id, b"").status_code == 422
    assert upload(client, 999).status_code == 404
    assert client.get(f"/api/projects/{project_id}/logs").json() == []
    assert client.delete(f"/api/projects/{project_id}/logs/7").status_code == 404


def test_logs_travel_with_their_conversion_and_go_with_it(client, project_id):
    upload(client, project_id)
    upload(client, project_id, ROWS.replace("0.4", "0.3"), name="second.csv")
    packed = client.get(f"/api/projects/{project_id}/export.zip?logs=true").content
    with zipfile.ZipFile(io.BytesIO(packed)) as archive:
        names = [name for name in archive.namelist() if name.startswith("logs/")]
        assert names == ["logs/1.csv", "logs/2.csv"]
    kind = {"Content-Type": "application/zip"}
    there = client.post("/api/projects/import", content=packed, headers=kind).json()["id"]
    names = [log["name"] for log in client.get(f"/api/projects/{there}/logs").json()]
    assert names == ["second.csv", "first charge.csv"]
    again = client.get(f"/api/projects/{there}/export.zip?logs=true").content
    with zipfile.ZipFile(io.BytesIO(packed)) as one, zipfile.ZipFile(io.BytesIO(again)) as other:
        assert one.read("logs/1.csv") == other.read("logs/3.csv") == ROWS.encode()
    client.delete(f"/api/projects/{there}")
    assert client.delete(f"/api/projects/{there}?for_good=true").status_code == 204
    assert client.get(f"/api/projects/{there}/logs").json() == []


def test_only_so_many_are_kept(monkeypatch, client, project_id):
    monkeypatch.setattr("pocketspark.store.log_files.MOST_LOGS", 2)
    for number in range(2):
        assert upload(client, project_id, ROWS.replace("0.4", f"0.{number + 1}")).status_code == 201
    refused = upload(client, project_id)
    assert refused.status_code == 409
    assert "strike one out" in refused.json()["detail"]


def many_rows(count, per_piece=20_000):
    """A long log as a file is read: 100 rows a second, 0.4 A but for a pause, so that its charge is known."""
    yield b"time_s,voltage,current\n"
    for first in range(0, count, per_piece):
        rows = np.arange(first, min(first + per_piece, count))
        amps = np.where((rows > count // 2) & (rows < count * 0.6), 0.0, 0.4)
        lines = [
            f"{row / 100:.2f},{3.5 + 0.7 * row / count:.4f},{amp:.3f}\n" for row, amp in zip(rows, amps, strict=True)
        ]
        yield "".join(lines).encode()


def test_a_million_rows_within_300_mb():
    """Five million of them in a full run; in a process of its own, by what the system says that it took at most."""
    count = 5_000_000 if FULL else 1_000_000
    with ProcessPoolExecutor(1, mp_context=get_context("spawn")) as pool:
        most, says, charge_ah = pool.submit(reading_of_many, count).result()
    print(f"{count} rows: {most / 1e6:.0f} MB at most")
    assert most < 300e6
    assert any("rows are averaged into one" in line for line in says) == FULL
    assert charge_ah == pytest.approx(0.9 * 0.4 * count / 100 / 3600, rel=1e-3)


def reading_of_many(count):
    """(bytes over those before it, what is said, Ah)"""
    read_log(many_rows(1000))
    before = getrusage(RUSAGE_SELF).ru_maxrss
    read = read_log(many_rows(count))
    most = (getrusage(RUSAGE_SELF).ru_maxrss - before) * 1024
    return most, [str(line) for line in read.says], float(read.log.charge_ah[-1])


def test_pieces_of_any_size_are_the_same_log(tmp_path):
    whole = ROWS.encode()
    expected = read_log(whole)
    for size in (1, 7, 999, 100_000):
        pieces = [whole[start : start + size] for start in range(0, len(whole), size)]
        assert np.array_equal(read_log(iter(pieces)).log.volts, expected.log.volts)
    for ending in ("\r\n", "\r"):
        assert np.array_equal(read_log(ROWS.replace("\n", ending)).log.volts, expected.log.volts)
    logs = LogFiles(open_database(tmp_path))
    assert list(logs.of(1)) == []
