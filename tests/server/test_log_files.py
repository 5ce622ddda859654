"""Log files as meters write them: any separator, decimal comma, words, units, kinds of time; broken rows by line."""

import json
import time

import numpy as np
import pytest
from typer.testing import CliRunner

from pocketspark.cli import app
from pocketspark.core.logs.log import TooShort
from pocketspark.formats.log_csv import ColumnPlaces, UnreadableLog, read_log, to_csv
from pocketspark.instruments import Bench, Meter, charge_log

ROWS = [(0, 3.5, 0.4), (10, 3.52, 0.401), (20, 3.53, 0.399), (30, 3.54, 0.4), (40, 3.55, 0.4), (50, 3.56, 0.4)]


def clock(seconds, start=0):
    total = start + seconds
    return f"{total // 3600 % 24:02d}:{total // 60 % 60:02d}:{total % 60:02d}"


SHAPES = {
    "plain": "time_s,voltage_v,current_a\n" + "\n".join(f"{t},{v},{a}" for t, v, a in ROWS),
    "no header": "\n".join(f"{t},{v},{a}" for t, v, a in ROWS),
    "milli": "Time(s);Voltage[mV];Current[mA]\n" + "\n".join(f"{t};{v * 1000};{a * 1000}" for t, v, a in ROWS),
    "comma": "Zeit;Spannung (V);Strom (A)\n" + "\n".join(f"{t};{v};{a}".replace(".", ",") for t, v, a in ROWS),
    "clock": "Elapsed\tVolts\tAmps\n" + "\n".join(f"{clock(t)}\t{v}\t{a}" for t, v, a in ROWS),
    "date": "Timestamp,Current (A),Voltage (V)\n"
    + "\n".join(f"2026-03-01 {clock(t, 36000)},{a},{v}" for t, v, a in ROWS),
    "preamble": "Meter log\nserial 1\n\nTime [s],Voltage [V],Current [A],Temp [C]\n"
    + "\n".join(f"{t},{v},{a},25.0" for t, v, a in ROWS),
    "minutes": "time (min),u (v),i (a)\n" + "\n".join(f"{t / 60},{v},{a}" for t, v, a in ROWS),
}


@pytest.mark.parametrize("shape", SHAPES)
def test_any_common_shape(shape):
    log = read_log(SHAPES[shape]).log
    assert log.time_s == pytest.approx([row[0] for row in ROWS], abs=0.01)
    assert log.volts == pytest.approx([row[1] for row in ROWS])
    assert log.amps == pytest.approx([row[2] for row in ROWS])


def test_broken_rows_are_told_by_line_and_never_swallowed():
    lines = SHAPES["plain"].splitlines()
    lines[3] = "20,oops,0.4"
    lines.insert(5, "garbage")
    taken = read_log("\n".join(lines))
    assert [row.line for row in taken.bad_rows] == [4, 6]
    assert len(taken.log.time_s) == len(ROWS) - 1


def test_one_broken_row_of_many_costs_that_row_alone():
    """Rows are read some thousands at a time, the plain ones at once: their times are the same either way."""
    lines = [f"{t * 10},{3.6 + t / 30_000:.4f},0.4" for t in range(12_000)]
    lines[7000] = "70000,oops,0.4"
    taken = read_log("time_s,volts,amps\n" + "\n".join(lines))
    assert [row.line for row in taken.bad_rows] == [7002]
    assert taken.log.time_s.tolist() == [t * 10 for t in range(12_000) if t != 7000]


def test_a_clock_goes_past_midnight():
    text = "time,volts,amps\n" + "\n".join(f"{clock(t, 86_385)},{v},{a}" for t, v, a in ROWS)
    assert read_log(text).log.time_s[-1] == pytest.approx(50)


def test_a_makers_mapping_overrides_the_words():
    swapped = "time,volts,amps\n" + "\n".join(f"{t},{a},{v}" for t, v, a in ROWS)
    log = read_log(swapped, ColumnPlaces(0, 2, 1)).log
    assert log.volts == pytest.approx([row[1] for row in ROWS])


@pytest.mark.parametrize(
    ("text", "says"),
    [("", "no line of figures"), ("hello\nworld", "no line of figures"), ("a,b\n1,2\n2,3", "no column for")],
)
def test_what_is_no_log_is_told_what_is_missing(text, says):
    with pytest.raises(UnreadableLog, match=says):
        read_log(text)
    with pytest.raises(TooShort):
        read_log("time,volts,amps\n1,2,3\n2,3,4")


def test_two_hundred_thousand_rows_are_read_whole():
    n = 200_000
    table = np.column_stack([np.arange(n) * 0.1, np.full(n, 3.7), np.full(n, 0.4)])
    text = "time,volts,amps\n" + "\n".join(f"{t:.1f},{v:.3f},{a:.3f}" for t, v, a in table)
    begun = time.perf_counter()
    assert len(read_log(text).log.time_s) == n
    assert time.perf_counter() - begun < 20  # wanted: 2 s, see ./spark bench; here only that it is no quadratic affair


def test_the_command_line_reads_its_own_log(tmp_path):
    file = tmp_path / "charge.csv"
    file.write_text(to_csv(charge_log(Bench(), Meter(seed=3), "load_left_on")))
    told = json.loads(CliRunner().invoke(app, ["analyse", str(file), "--json"]).stdout)
    keys = {"kind", "phases", "plateau_a", "end_current_a", "charge_ah", "resistance_ohm", "interruptions", "findings"}
    assert keys <= told.keys()
    assert {"name", "start_s", "end_s"} == told["phases"][0].keys()
    assert any(finding["code"] == "log.never_ends" for finding in told["findings"])
    words = CliRunner().invoke(app, ["analyse", str(file), "--plan", "800 mA"])
    assert "where 800 mA is expected" in words.stdout
    file.write_text("nothing")
    refused = CliRunner().invoke(app, ["analyse", str(file)])
    assert (refused.exit_code, "no line of figures" in refused.stderr) == (2, True)
