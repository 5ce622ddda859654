"""Real meters: lines as boards print them, SCPI as meters answer it, read once, recorded, lost and found again.

The lines below are written by hand in the ways such boards print (common practice, no source); the SCPI answers follow
SCPI-1999's NR3 figures, from memory. Whole runs come from the stand-ins, through the same doors as a meter's.
"""

import os
import socket
import sys
import threading
import time
import tty
from types import SimpleNamespace

import pytest
from fastapi.testclient import TestClient

from builders import plan
from pocketspark.instruments import Bench, Meter, charge_log
from pocketspark.instruments.connection import (
    LINK_KINDS,
    CannotConnect,
    Connection,
    LineLost,
    LinkType,
    MeterReading,
)
from pocketspark.instruments.joined_meters import ConnectedInstrument
from pocketspark.instruments.ports import Ports
from pocketspark.instruments.printed_line import PrintedLines
from pocketspark.instruments.scpi import ScpiLink, visa_address
from pocketspark.instruments.stand_ins import BoardStandIn, ScpiStandIn, on_the_bench
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings


def board(**more):
    return Connection(name="board", kind="serial", address="/dev/none", **more)


def read_lines(lines, **more):
    reader = PrintedLines(board(**more))
    return reader, [reading for line in lines if (reading := reader.read(line)) is not None]


WITH_DEGREES = {"reads": ("volts", "amps", "celsius")}
PRINTED = {
    "three columns": (["12.5,3.912,0.402"], {}, MeterReading(3.912, 0.402, None, 12.5)),
    "two columns": (["3.912 0.402"], {}, MeterReading(3.912, 0.402)),
    "four columns": (["1;3,912;0,402;24,5"], WITH_DEGREES, MeterReading(3.912, 0.402, 24.5, 1.0)),
    "a header": (["I (mA)\tU (mV)\tt (s)", "402\t3912\t7"], {}, MeterReading(3.912, 0.402, None, 7.0)),
    "a German header": (["Zeit;Spannung (V);Strom (mA)", "7;3,912;402"], {}, MeterReading(3.912, 0.402, None, 7.0)),
    "names": (["V=3.912 I=0.402"], {}, MeterReading(3.912, 0.402)),
    "names, small units": (["t=1500ms U=3912mV I=402mA"], {}, MeterReading(3.912, 0.402, None, 1.5)),
    "names, colons": (["Voltage: 3.912 V, Current: 0.402 A, Temp: 24 C"], WITH_DEGREES, MeterReading(3.912, 0.402, 24)),
    "a power beside": (["bus_voltage=3.912 power=1.57 current=0.402"], {}, MeterReading(3.912, 0.402)),
    "units in the cells": (["3.912 V, 402 mA"], {}, MeterReading(3.912, 0.402)),
    "minus": (["0.1,3.912,-0.402"], {}, MeterReading(3.912, -0.402, None, 0.1)),
    "columns set by hand": (["402,9,3912"], {"places": (None, 2, 0, None), "volts_in": "mV", "amps_in": "mA"},
                            MeterReading(3.912, 0.402)),
    "only volts": (["3.912"], {"reads": ("volts",)}, MeterReading(3.912)),
    "Fahrenheit": (["V,I,Temp (°F)", "3.9,0.4,77"], WITH_DEGREES, MeterReading(3.9, 0.4, 25.0)),
}  # fmt: skip


@pytest.mark.parametrize("manner", PRINTED)
def test_what_boards_print(manner):
    lines, settings, expected = PRINTED[manner]
    reader, (reading,) = read_lines(lines, **settings)
    for figure in ("volts", "amps", "celsius", "time_s"):
        assert getattr(reading, figure) == pytest.approx(getattr(expected, figure), abs=1e-9), figure
    assert reader.unread == 0


@pytest.mark.parametrize("line", ["ready.", "3.9,,0.4.1", "\x00\xff", "V=--", "x" * 5000, "1" * 5000, "a=1 b=2", ","])
def test_garbage_is_no_reading(line):
    _, readings = read_lines([line, "1,3.9,0.4"])
    assert [reading.volts for reading in readings if reading.volts is not None] == [3.9]


def test_figures_that_no_small_cell_has_are_not_taken():
    reader, readings = read_lines(["1,3.9,402", "2,3.9,401"])
    assert (readings, reader.unread) == ([], 2)
    assert "mA" in reader.refused
    assert "402" in reader.refused or "401" in reader.refused
    _, readings = read_lines(["1,3912,402"], amps_in="mA")
    assert readings == []
    _, (reading,) = read_lines(["1,3912,402"], amps_in="mA", volts_in="mV")
    assert (reading.volts, reading.amps) == pytest.approx((3.912, 0.402))


# A line of one's own ---------------------------------------------------------------------------------------------


class Wire:
    """The far end of a pseudo-terminal, written to by hand."""

    def __init__(self, folder):
        folder.mkdir(exist_ok=True)
        self.far, self.near = os.openpty()
        tty.setraw(self.near)
        self.link = folder / "wire"
        self.link.unlink(missing_ok=True)
        self.link.symlink_to(os.ttyname(self.near))

    def write(self, text):
        os.write(self.far, text.encode("latin-1"))

    def cut(self):
        self.link.unlink()
        os.close(self.far)
        os.close(self.near)


@pytest.fixture
def folder(tmp_path):
    return tmp_path / "ports"


def collected(instrument, count, act=lambda _number: None, within_s=12.0):
    """So many samples, `act` called before each."""
    stop = threading.Event()
    ending = threading.Timer(within_s, stop.set)
    ending.start()
    samples = []
    for sample in instrument.samples(stop):
        samples.append(sample)
        act(len(samples))
        if len(samples) == count:
            stop.set()
    ending.cancel()
    return samples


def test_a_line_cut_in_the_middle_is_put_together(folder):
    wire = Wire(folder)
    instrument = ConnectedInstrument([Connection(name="b", kind="serial", address=str(wire.link))], Ports(folder).open)
    instrument.connect()
    wire.write("1,3.9")
    threading.Timer(0.5, wire.write, ["12,0.4\n2,3.913,0.4\r\n"]).start()
    assert [(one.time_s, one.volts) for one in collected(instrument, 2)] == [(0.0, 3.912), (1.0, 3.913)]


def test_a_meter_that_is_started_again_goes_on_in_time(folder):
    wire = Wire(folder)
    instrument = ConnectedInstrument([Connection(name="b", kind="serial", address=str(wire.link))], Ports(folder).open)
    instrument.connect()
    wire.write("100,3.9,0.4\n101,3.9,0.4\n0,3.9,0.4\n1,3.9,0.4\n")
    times = [one.time_s for one in collected(instrument, 3)]
    assert times == sorted(set(times))
    assert any("started again" in remark for remark in instrument.remarks)


def test_a_line_that_is_lost_and_comes_back(folder, monkeypatch):
    monkeypatch.setattr("pocketspark.instruments.joined_meters.TRIED_EVERY_S", 0.1)
    wire = Wire(folder)
    instrument = ConnectedInstrument([Connection(name="b", kind="serial", address=str(wire.link))], Ports(folder).open)
    instrument.connect()
    wire.write("1,3.90,0.4\n")

    def cut_and_mend(number):
        if number == 1:
            wire.cut()
            time.sleep(0.4)
            again = Wire(folder)
            threading.Timer(0.6, again.write, ["2,3.91,0.4\n3,3.92,0.4\n"]).start()

    assert [one.volts for one in collected(instrument, 3, cut_and_mend)] == [3.90, 3.91, 3.92]
    assert "was lost" in instrument.remarks[0]
    assert "was back" in instrument.remarks[1]


def test_a_line_that_stays_away_ends_the_run_with_its_reason(folder, monkeypatch):
    monkeypatch.setattr("pocketspark.instruments.joined_meters.TRIED_FOR_S", 0.5)
    monkeypatch.setattr("pocketspark.instruments.joined_meters.TRIED_EVERY_S", 0.1)
    wire = Wire(folder)
    instrument = ConnectedInstrument([Connection(name="b", kind="serial", address=str(wire.link))], Ports(folder).open)
    instrument.connect()
    wire.write("1,3.90,0.4\n")
    with pytest.raises(LineLost, match="did not come back"):
        collected(instrument, 5, lambda _number: wire.cut())


def test_a_meter_that_falls_silent_is_told_and_given_up(folder, monkeypatch):
    monkeypatch.setattr("pocketspark.instruments.joined_meters.SILENT_S", 0.3)
    monkeypatch.setattr("pocketspark.instruments.joined_meters.GIVEN_UP_S", 1.2)
    wire = Wire(folder)
    instrument = ConnectedInstrument([Connection(name="b", kind="serial", address=str(wire.link))], Ports(folder).open)
    instrument.connect()
    wire.write("1,3.90,0.4\n")
    with pytest.raises(LineLost, match="has shown nothing"):
        collected(instrument, 5)
    assert any("shown nothing" in remark for remark in instrument.remarks)


def test_a_port_that_is_none_of_this_machine_is_never_opened(folder, tmp_path):
    secret = tmp_path / "secret"
    secret.write_text("not a port")
    ports = Ports(folder)
    for address in (str(secret), "/dev/null", "/etc/passwd", f"{folder}/../secret"):
        with pytest.raises(CannotConnect, match="no serial port"):
            ports.open(Connection(name="b", kind="serial", address=address))


# SCPI ------------------------------------------------------------------------------------------------------------


class Answers:
    """An instrument of our own on a socket: each question has its answer, or None to hang up."""

    def __init__(self, answers):
        self.server = socket.create_server(("127.0.0.1", 0))
        self.answers = answers
        threading.Thread(target=self._serve, daemon=True).start()

    @property
    def address(self):
        return f"127.0.0.1:{self.server.getsockname()[1]}"

    def _serve(self):
        while True:
            try:
                line, _ = self.server.accept()
            except OSError:
                return
            with line, line.makefile("rw", newline="\n") as text:
                for question in text:
                    answer = self.answers.get(question.strip())
                    if answer is None:
                        break
                    text.write(answer() if callable(answer) else answer)
                    text.flush()


def scpi(address, **more):
    return Connection(name="meter", kind="scpi", address=address, **more)


def test_an_instrument_is_asked_in_its_own_words():
    answers = Answers({"*IDN?": "MAKER,BENCH METER,7,1.0\n", "MEAS:VOLT?": "+3.912000E+00\n", "MEAS:CURR?": "4.02E-1\n",
                       "MEAS:TEMP?": "9.91E37\n"})  # fmt: skip
    link = ScpiLink(scpi(answers.address, reads=("volts", "amps", "celsius")))
    reading = link.read()
    link.close()
    assert (reading.volts, reading.amps, reading.celsius) == (pytest.approx(3.912), pytest.approx(0.402), None)
    assert link.introduces == "MAKER,BENCH METER,7,1.0"
    assert not link.simulated


def test_an_instrument_that_hangs_up_is_lost(monkeypatch):
    link = ScpiLink(scpi(Answers({"*IDN?": "M,1,2,3\n"}).address))
    with pytest.raises(LineLost):
        link.read()
    link.close()
    monkeypatch.setattr("pocketspark.instruments.scpi.ANSWER_MS", 300)
    mute = socket.create_server(("127.0.0.1", 0))
    with pytest.raises(CannotConnect, match="answers as an instrument"):
        ScpiLink(scpi(f"127.0.0.1:{mute.getsockname()[1]}"))
    mute.close()


@pytest.mark.parametrize(
    "address",
    ["8.8.8.8:5025", "10.0.0.5", "10.0.0.5:0", "10.0.0.5:99999", "no host.invalid:1", "ASRL1::INSTR", "::"],
)
def test_an_address_beyond_the_own_network_is_refused(address):
    with pytest.raises(CannotConnect):
        visa_address(address)


def test_addresses_of_the_own_network_are_taken():
    assert visa_address("192.168.1.20:5025") == "TCPIP0::192.168.1.20::5025::SOCKET"
    assert visa_address("USB0::0x1234::0x5678::SN1::INSTR") == "USB0::0x1234::0x5678::SN1::INSTR"


# Over the API ----------------------------------------------------------------------------------------------------


def question(practice=True):
    document = plan().model_dump(mode="json")
    document["builds"][0]["practice"] = practice
    return {"document": document}


@pytest.fixture
def bench(folder):
    """A board and a bench meter that show the same charge, 600 times as fast."""
    running = on_the_bench(charge_log(Bench(), Meter()), 600)
    with BoardStandIn(running, folder / "simulated-board", "names") as stand_in, ScpiStandIn(running) as meter:
        serial = {
            "name": "board",
            "kind": "serial",
            "address": str(stand_in.link),
            "reads": ["volts", "amps", "celsius"],
        }
        yield serial, {"name": "meter", "kind": "scpi", "address": meter.address}


@pytest.fixture
def client(tmp_path, folder):
    with TestClient(create_app(Settings(data=tmp_path / "data", ports=folder))) as client:
        yield client


def recorded(client, connections, practice=True):
    return client.post("/api/instruments/live/recorded", json=question(practice) | {"connections": connections})


def rows_of(client, run_id, at_least, within_s=15.0):
    """The rows that are durable, once there are so many."""
    until = time.monotonic() + within_s
    while time.monotonic() < until:
        csv = client.get(f"/api/instruments/live/{run_id}/log.csv")
        lines = [line for line in str(csv.text).splitlines() if line[:1].isdigit()] if csv.status_code == 200 else []
        if len(lines) >= at_least:
            return csv.text, [[float(cell) for cell in line.split(",")] for line in lines]
        time.sleep(0.1)
    raise AssertionError(f"no {at_least} rows: {csv.text[:200]}")


def test_ports_are_listed_a_meter_is_tried_and_kept(client, bench):
    board_, meter = bench
    seen = client.get("/api/instruments/meters").json()
    assert {"address": board_["address"], "says": "stand-in: simulated", "simulated": True} in seen["ports"]
    for connection in (board_, meter):
        tried = client.post("/api/instruments/meters/tried", json=connection).json()
        assert tried["simulated"]
        assert tried["heard"]
        assert 3.0 < tried["reading"]["volts"] < 4.3
        assert tried["reading"]["origin"] == "simulated"
        assert client.put("/api/instruments/meters", json=connection).status_code == 200
    kept = client.get("/api/instruments/meters").json()["connections"]
    assert [one["name"] for one in kept] == ["board", "meter"]
    assert client.post("/api/instruments/meters/removed", json={"name": "board"}).status_code == 204
    assert client.post("/api/instruments/meters/removed", json={"name": "board"}).status_code == 404
    refused = client.post("/api/instruments/meters/tried", json=board_ | {"address": "/dev/null"})
    assert refused.status_code == 409
    assert "plug the meter in" in refused.json()["detail"]


def test_a_run_through_each_adapter_and_through_both(client, bench):
    board_, meter = bench
    both = [meter | {"reads": ["volts"]}, board_ | {"name": "amps", "reads": ["amps"]}]
    truth = charge_log(Bench(), Meter())
    for connections in ([board_], [meter], both):
        run_id = recorded(client, connections).json()["id"]
        text, rows = rows_of(client, run_id, 6)
        assert text.startswith("# simulated")
        # In order; two readings within a tenth of a second have the same time as it is written.
        assert [row[0] for row in rows] == sorted(row[0] for row in rows)
        for _, volts, amps, *_ in rows:
            # Some moment of the charge had these volts and amps at once, as near as it moves in three seconds.
            assert abs((truth.volts - volts) + 1j * (truth.amps - amps)).min() < 0.05
        assert client.delete(f"/api/instruments/live/{run_id}").status_code == 204


def test_what_a_stand_in_shows_never_enters_a_real_build(client, bench):
    board_, _ = bench
    refused = recorded(client, [board_], practice=False)
    assert refused.status_code == 409
    assert "practice copy" in refused.json()["detail"]
    one_sided = recorded(client, [board_ | {"reads": ["volts"]}])
    assert one_sided.status_code == 422
    assert "add a second one" in one_sided.json()["detail"]


def test_a_real_meter_records_into_a_real_build(client):
    answers = Answers({"*IDN?": "MAKER,BENCH METER,7,1.0\n", "MEAS:VOLT?": "3.912\n", "MEAS:CURR?": "0.402\n"})
    meter = {"name": "meter", "kind": "scpi", "address": answers.address}
    assert client.post("/api/instruments/meters/reading", json=meter).json()["origin"] == "instrument"
    run_id = recorded(client, [meter], practice=False).json()["id"]
    text, rows = rows_of(client, run_id, 5)
    assert "simulated" not in text
    assert {tuple(row[1:]) for row in rows} == {(3.912, 0.402)}
    # While it is recorded, a reading is the record's last row: nobody else may take the line.
    answers.answers["MEAS:VOLT?"] = "3.950\n"
    time.sleep(1.5)
    assert client.post("/api/instruments/meters/reading", json=meter).json()["volts_text"] == "3.95 V"
    client.delete(f"/api/instruments/live/{run_id}")


def test_a_run_goes_on_after_the_server_was_started_anew(tmp_path, folder, bench):
    board_, _ = bench
    settings = Settings(data=tmp_path / "data", ports=folder)
    with TestClient(create_app(settings)) as before:
        run_id = recorded(before, [board_]).json()["id"]
        _, first = rows_of(before, run_id, 6)
    with TestClient(create_app(settings)) as after:
        _, rows = rows_of(after, run_id, len(first) + 20)
        times = [row[0] for row in rows]
        assert times[: len(first)] == [row[0] for row in first]
        assert times == sorted(set(times))
        run = after.app.state.live_runs.get(run_id)
        assert any("started anew" in remark for remark in run.remarks)
        assert not run.finished
        after.delete(f"/api/instruments/live/{run_id}")
        until = time.monotonic() + 10
        while not after.app.state.live_runs.get(run_id).finished:
            assert time.monotonic() < until
            time.sleep(0.05)
    with TestClient(create_app(settings)) as later:  # ended by its maker, it stays ended
        assert later.app.state.live_runs.get(run_id).finished


@pytest.mark.parametrize(("fault", "remark"), [("garbage", "No reading can be made"), ("hangs_up", "was back")])
def test_a_stand_in_with_a_bad_line_is_told(client, folder, fault, remark, monkeypatch):
    monkeypatch.setattr("pocketspark.instruments.joined_meters.TRIED_EVERY_S", 0.1)
    running = on_the_bench(charge_log(Bench(), Meter()), 600)
    with BoardStandIn(running, folder / "simulated-board", every_s=0.05, fault=fault) as stand_in:
        run_id = recorded(
            client, [{"name": "b", "kind": "serial", "address": str(stand_in.link), "amps_in": "mA"}]
        ).json()["id"]
        run = client.app.state.live_runs.get(run_id)
        until = time.monotonic() + 15
        while not any(remark in said for said in run.remarks):
            assert time.monotonic() < until, run.remarks
            time.sleep(0.05)
        client.delete(f"/api/instruments/live/{run_id}")


def test_one_more_kind_of_line_is_its_entry_and_its_module(monkeypatch, tmp_path):
    made_up = SimpleNamespace(open_link=lambda connection, ports: ("opened", connection.address, list(ports())))
    monkeypatch.setitem(sys.modules, "pocketspark.instruments.made_up_line", made_up)
    monkeypatch.setitem(LINK_KINDS, "made_up", LinkType("Made up", "a line of no kind", "made_up_line"))
    asked = Connection.model_construct(name="meter", kind="made_up", address="there")
    opened, address, _ = Ports(tmp_path).open(asked)
    assert (opened, address) == ("opened", "there")
