"""A cell tested by an electronic load: a stand-in with a cell of another model than the planner's.

Commands: SCPI-1999, from memory. What a test tells is held against the stand-in's own capacity and resistance.
"""

import contextlib
import os
import signal
import subprocess
import sys
import threading
import time

import numpy as np
import pytest
from fastapi.testclient import TestClient

from builders import CELL
from chances import FULL, dice
from pocketspark.core.cells.cell_test import CellTestPlan, cell_test_plan, cell_tested
from pocketspark.core.logs.log import Log
from pocketspark.core.models import Cell
from pocketspark.instruments.cell_model import SteppedCell
from pocketspark.instruments.cell_test_run import CellTestRun
from pocketspark.instruments.connection import CannotConnect
from pocketspark.instruments.guarded_instrument import Guarded
from pocketspark.instruments.instrument import SimulatedInstrument
from pocketspark.instruments.line_server import LineServer
from pocketspark.instruments.load_stand_in import LoadStandIn, SimulatedLoad, cell_on_test
from pocketspark.instruments.scpi_device import DeviceFault
from pocketspark.instruments.supply_stand_in import SupplyStandIn
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings

LABEL = Cell.model_validate(CELL | {"capacity_ah": 0.9})
# As fast as a second of ours for four minutes of its: a drain of five hours is over in a minute and a quarter.
SPEED = 240.0


class SteadyClock:
    """Goes on by a tenth of a second at most between two looks: a machine that stalls takes no minutes from a cell."""

    def __init__(self):
        self._lock, self._real, self._now = threading.Lock(), time.monotonic(), 0.0

    def __call__(self):
        with self._lock:
            real = time.monotonic()
            self._now, self._real = self._now + min(real - self._real, 0.1), real
            return self._now


CLOCK = SteadyClock()


def load_with(capacity_ah=0.8, r_ohm=0.12, soc=1.0, manner="sound", speed=SPEED):
    return SimulatedLoad(SteppedCell("li_4v20", capacity_ah, r_ohm, soc), speed, manner, clock=CLOCK)


def simulated_rows(plan, cell, every_s=2.0):
    """The same test stepped through here, without a line: what its rows hold."""
    rows, at_s = [], 0.0
    for _phase, amps, lasts_s in plan.phases():
        for _ in range(int(lasts_s / every_s)):
            cell.step(-amps, every_s)
            at_s += every_s
            volts = cell.source_v - amps * cell.ohmic_ohm
            rows.append((at_s, volts, amps))
            if amps and volts <= plan.cut_v:
                break
    return tuple(np.array(column) for column in zip(*rows, strict=True))


def test_capacity_and_ohms_of_cells_whose_truth_is_known():
    """Within 3 % of the charge between full and the cut, and of what follows a step at once and within a minute."""
    chance = dice("cells under load")
    for _ in range(100 if FULL else 30):
        capacity_ah, r_ohm = chance.uniform(0.2, 3.0), chance.uniform(0.03, 0.3)
        label = Cell.model_validate(CELL | {"capacity_ah": round(capacity_ah * chance.uniform(0.9, 1.3), 2)})
        plan = cell_test_plan(label)
        cell = SteppedCell("li_4v20", capacity_ah, r_ohm, 1.0)
        told = cell_tested(plan, *simulated_rows(plan, cell))
        taken_ah = (1.0 - cell.soc) * capacity_ah
        assert told.was_full
        assert told.ended_at_cut
        assert told.capacity_ah == pytest.approx(taken_ah, rel=0.03)
        assert told.r_soon_ohm == pytest.approx(r_ohm * 0.85, rel=0.15)  # 85 % of it follows at once
        assert told.r_minute_ohm == pytest.approx(r_ohm, rel=0.08)  # its waiting part settles in 20 s


def test_a_cell_that_was_not_full_or_did_not_end_tells_no_capacity():
    plan = cell_test_plan(LABEL)
    half = cell_tested(plan, *simulated_rows(plan, SteppedCell("li_4v20", 0.9, 0.1, 0.5)))
    assert (half.was_full, half.capacity_ah) == (False, None)
    assert half.r_soon_ohm is not None
    time_s, volts, amps = simulated_rows(plan, SteppedCell("li_4v20", 0.9, 0.1, 1.0))
    broken = cell_tested(plan, time_s[:2000], volts[:2000], amps[:2000])
    assert (broken.ended_at_cut, broken.capacity_ah) == (False, None)
    nothing = cell_tested(plan, np.array([0.0]), np.array([4.2]), np.array([0.0]))
    assert nothing.r_soon_ohm is None


@pytest.mark.parametrize(
    ("changes", "drain_a", "cut_v"),
    [
        ({}, 0.18, 3.0),  # a fifth of 0.9 Ah; such cells are empty at 3.0 V
        ({"discharge_max_a": 0.1}, 0.1, 3.0),
        ({"cell_class": "lfp"}, 0.18, 2.5),
    ],
)
def test_it_is_gentle_by_what_is_known_of_the_cell(changes, drain_a, cut_v):
    plan = cell_test_plan(Cell.model_validate(CELL | {"capacity_ah": 0.9} | changes))
    assert (plan.drain_a, plan.cut_v) == (pytest.approx(drain_a), cut_v)
    assert plan.cut_v >= 2.5


QUICK = CellTestPlan(pulse_a=0.36, drain_a=0.9, cut_v=3.0, full_v=4.2, longest_s=6000)


def rows_of(stand_in, plan=QUICK, stop=None, **beside):
    with LoadStandIn(stand_in) as served:
        run = CellTestRun("test", served.address, plan, SPEED, clock=CLOCK, **beside)
        return run, list(run.samples(stop or threading.Event()))


def on_probe(celsius):
    """A meter whose probe is so warm; None: it shows nothing."""
    says = "9.91E37" if celsius is None else f"{celsius:.3E}"
    answers = {"*IDN?": "POCKET SPARK,SIMULATED METER,0,1", "MEAS:TEMP?": says}
    return LineServer(lambda line: answers.get(line.upper()))


def test_a_supply_beside_it_brings_the_cell_back_to_half():
    load = load_with()
    with SupplyStandIn(load.with_supply()) as supply:
        run, rows = rows_of(load, supply=supply.address)
        assert not supply.supply.on
        assert "SOUR:VOLT:PROT 3.85" in supply.supply.heard  # of 3.8 V: it can do no more, whoever commands it
    assert not load.on
    given = [row.amps for row in rows if row.amps > 0]
    assert max(given) <= QUICK.drain_a * 1.05
    assert given[-1] < 0.25 * QUICK.drain_a
    assert 0.4 < load.cell.soc < 0.6
    assert any("back to half" in remark for remark in run.remarks)
    told = cell_tested(
        QUICK, *(np.array(column) for column in zip(*((r.time_s, r.volts, -r.amps) for r in rows), strict=True))
    )
    assert told.ended_at_cut  # what went back in is not counted as taken out
    assert told.capacity_ah == pytest.approx(0.8 * 0.985, rel=0.05)


@pytest.mark.parametrize(("celsius", "says"), [(47.0, "over 45 C"), (None, "shows no temperature")])
def test_a_hot_cell_or_a_dead_probe_ends_it(celsius, says):
    load = load_with()
    with on_probe(celsius) as probe, pytest.raises(DeviceFault, match=says):
        rows_of(load, thermometer=probe.address)
    assert not load.on


def test_its_temperature_is_written_beside_its_volts():
    with on_probe(31.5) as probe:
        _, rows = rows_of(load_with(soc=0.05), thermometer=probe.address)
    assert {row.celsius for row in rows} == {31.5}
    with pytest.raises(CannotConnect):
        rows_of(load_with(), thermometer="127.0.0.1:9")


@pytest.mark.parametrize("fault", ["worn", "tired", "leaks", "not_full"])
def test_what_is_wrong_with_a_cell_is_told_by_its_test(fault):
    sound, plan = cell_on_test(None), cell_test_plan(Cell.model_validate(CELL | {"capacity_ah": 0.85}))
    good = cell_tested(plan, *simulated_rows(plan, sound))
    told = cell_tested(plan, *simulated_rows(plan, cell_on_test(None, fault)))
    if fault == "worn":
        assert told.capacity_ah < 0.6 * good.capacity_ah
    elif fault == "tired":
        assert told.r_minute_ohm > 4 * good.r_minute_ohm
    elif fault == "leaks":
        assert told.capacity_ah < 0.95 * good.capacity_ah
    else:
        assert (told.was_full, told.capacity_ah) == (False, None)


def test_through_the_line_it_ends_at_the_cut_and_is_off():
    load = load_with()
    run, rows = rows_of(load)
    told = cell_tested(
        QUICK,
        *(np.array(column) for column in ([r.time_s for r in rows], [r.volts for r in rows], [-r.amps for r in rows])),
    )
    assert not load.on
    assert run.simulated
    assert told.ended_at_cut
    assert told.capacity_ah == pytest.approx((1.0 - load.cell.soc) * 0.8, rel=0.04)
    assert load.heard.index("FUNC CURR") < load.heard.index("INP ON")


@pytest.mark.parametrize(
    ("manner", "says"),
    [("lies", "look at its leads"), ("reversed", "polarity"), ("mishears", "did not take its current")],
)
def test_one_that_does_what_it_is_not_told_is_switched_off(manner, says):
    load = load_with(manner=manner)
    with pytest.raises(DeviceFault, match=says):
        rows_of(load)
    assert not load.on


def test_a_line_that_is_cut_goes_on_and_says_so():
    run, rows = rows_of(load_with(manner="hangs_up"))
    assert any("cut and came back" in remark for remark in run.remarks)
    assert rows[-1].time_s > 1000


def test_one_that_stays_on_is_told_to_be_switched_off_by_hand():
    load, stop = load_with(manner="stays_on"), threading.Event()

    def once_it_draws():
        until = time.monotonic() + 20
        while not load.on and time.monotonic() < until:
            time.sleep(0.02)
        stop.set()

    threading.Thread(target=once_it_draws, daemon=True).start()
    run, _ = rows_of(load, stop=stop)
    assert load.on
    assert any("by hand" in remark for remark in run.remarks)


@pytest.mark.parametrize(("amps", "goes_on"), [(0.1, False), (0.0, True)])
def test_nobody_speaks_to_it_for_three_seconds(amps, goes_on):
    """Drawing, that is a server that hangs. Drawing nothing, it may be starting a supply's guard on a slow machine."""
    stand_in = load_with()
    with LoadStandIn(stand_in) as served, Guarded("load", served.address) as load:
        load.order("protect", amps=0.2, least_v=3.0)
        load.order("draw", amps=0.1)
        load.order("draw", amps=amps)
        time.sleep(3)
        with contextlib.nullcontext() if goes_on else pytest.raises(DeviceFault, match="has ended"):
            assert load.read().amps == pytest.approx(0, abs=0.001)
    assert not stand_in.on


def test_nobody_there():
    with pytest.raises(CannotConnect, match="answers as a load"):
        CellTestRun("test", "127.0.0.1:9", QUICK)


TESTS = """
import sys, threading
from pocketspark.core.cells.cell_test import CellTestPlan
from pocketspark.instruments.cell_test_run import CellTestRun
plan = CellTestPlan(pulse_a=0.36, drain_a=0.18, cut_v=3.0, full_v=4.2, longest_s=30000)
list(CellTestRun("t", sys.argv[1], plan, 60.0).samples(threading.Event()))
"""


def test_where_the_server_is_killed_the_load_goes_off():
    ours = os.environ | {"PYTHONPATH": os.pathsep.join(filter(None, sys.path))}
    load = load_with(speed=60.0)
    with (
        LoadStandIn(load) as served,
        subprocess.Popen([sys.executable, "-c", TESTS, served.address], env=ours) as server,
    ):
        until = time.monotonic() + 15
        while not load.on and time.monotonic() < until:
            time.sleep(0.02)
        assert load.on
        server.send_signal(signal.SIGKILL)
        while load.on and time.monotonic() < until:
            time.sleep(0.05)
        assert not load.on


@pytest.fixture
def client(tmp_path):
    with TestClient(create_app(Settings(data=tmp_path, demo=False))) as client:
        yield client


def own(client, **changes):
    body = CELL | {"name": "mine", "origin": "new"} | changes
    return client.post("/api/inventory", json={"kind": "cell", "stock": 1, "body": body}).json()["id"]


def test_by_its_routes_a_stand_in_is_told_and_kept_nowhere(client):
    part = own(client, capacity_ah=0.2)
    with LoadStandIn(load_with(capacity_ah=0.2, speed=800.0)) as served:
        wanted = {"part_id": part, "address": served.address, "speed_up": 800.0}
        begun = client.post("/api/instruments/cell-test", json=wanted)
        assert begun.status_code == 201, begun.text
        path = f"/api/instruments/cell-test/{begun.json()['id']}"
        until = time.monotonic() + 120
        told = client.get(path, params={"part_id": part}).json()
        while not told["finished"] and time.monotonic() < until:
            time.sleep(0.3)
            told = client.get(path, params={"part_id": part}).json()
        assert told["finished"]
        assert told["simulated"]
        # So fast a minute's rest may pass between two readings; what it tells is held at a slower pace above.
        assert told["says"]
        assert told["capacity_ah"] is None or told["capacity_ah"]["value"] == pytest.approx(0.2, rel=0.3)
        assert not told["may_be_kept"]
        assert client.post(f"{path}/kept", json={"part_id": part}).status_code == 409
        assert not served.load.on


def test_several_cells_wait_for_one_load_on_the_bench_clock(client):
    """The one that is on it, until when, on every device; the others take their turn after it."""
    parts = [own(client, name=name, capacity_ah=0.2, origin="salvaged") for name in ("first", "second", "third")]
    with LoadStandIn(load_with(capacity_ah=0.2, speed=1.0)) as served:
        begun = client.post("/api/instruments/cell-test", json={"part_id": parts[0], "address": served.address}).json()
        assert client.get("/api/instruments/cell-test", params={"part_id": parts[0]}).json()["run_id"] == begun["id"]
        assert client.get("/api/instruments/cell-test", params={"part_id": parts[1]}).json()["run_id"] is None
        due = client.get("/api/clock", params={"day_begins": "00:00", "day_ends": "23:59"}).json()["timeline"]["due"]
        [off] = [one for one in due if one["step"] == "off_load"]
        assert off["job"] == "first"
        turns = sorted(
            (one["waits_from"], one["ends"]) for one in due if one["step"] == "empty" and one["job"] != "first"
        )
        assert len(turns) == 2
        # One load: what is on it next goes on when the one before is off, and never two at once.
        assert off["begins"] <= turns[0][0]
        assert turns[0][1] <= turns[1][1]
        client.delete(f"/api/instruments/live/{begun['id']}")


def test_what_is_no_cell_or_to_be_recycled_is_not_tested(client):
    resistor = client.post(
        "/api/inventory", json={"kind": "resistor", "stock": 1, "body": {"name": "3k", "ohm": 3000}}
    ).json()
    bad = own(client, origin="salvaged", intake={"damage": ["puncture"]})
    for part_id in filter(None, (resistor.get("id"), bad)):
        wanted = {"part_id": part_id, "address": "127.0.0.1:9"}
        assert client.post("/api/instruments/cell-test", json=wanted).status_code == 409
    assert client.post("/api/instruments/cell-test", json={"part_id": 999, "address": "x:1"}).status_code == 404


def test_what_a_real_load_told_is_kept_with_a_line_in_its_history(client):
    """Rows of a cell of 0.18 Ah, as a load that is no stand-in would have written them."""
    part = own(client, capacity_ah=0.2)
    plan = cell_test_plan(Cell.model_validate(CELL | {"capacity_ah": 0.2}))
    time_s, volts, amps = simulated_rows(plan, SteppedCell("li_4v20", 0.18, 0.12, 1.0))
    written = SimulatedInstrument("a load", Log(time_s, volts, -amps), 1e9, simulated=False)
    live = client.app.state.live_runs.start(written, None)
    until = time.monotonic() + 60
    while not live.finished and time.monotonic() < until:
        time.sleep(0.1)
    kept = client.post(f"/api/instruments/cell-test/{live.id}/kept", json={"part_id": part})
    assert kept.status_code == 204, kept.text
    [cell] = [one["cell"] for one in client.get("/api/inventory").json()]
    assert cell["measured_capacity_ah"] == pytest.approx(0.18, rel=0.05)
    assert cell["r_ohm"] == pytest.approx(0.12, rel=0.08)
    assert cell["intake"]["history"]
