"""Logs in the shapes in which meters of many makes and lands write them: read right, or asked about; never a wrong
figure. Written by hand from the formats' own rules (ISO 8601, RFC 4180, POSIX time), languages from memory."""

import numpy as np
import pytest

from builders import plan
from pocketspark.core.logs.log import TooShort
from pocketspark.formats.log_csv import UnreadableLog, read_log

N = 12
T = [10 * k for k in range(N)]
V = [round(3.50 + 0.01 * k, 3) for k in range(N)]
A = [round(0.400 - 0.001 * k, 4) for k in range(N)]
PLAIN = "time,voltage,current"


def clock(s, start=36_000, shape="{h:02d}:{m:02d}:{s:02d}"):
    total = start + s
    return shape.format(h=total // 3600 % 24, m=total // 60 % 60, s=total % 60)


def ampm(s, start=43_195):
    total = start + s
    hour = total // 3600 % 24
    return f"{(hour - 1) % 12 + 1}:{total // 60 % 60:02d}:{total % 60:02d} {'PM' if hour >= 12 else 'AM'}"


def comma(x):
    return str(x).replace(".", ",")


def rows(head, line):
    return "\n".join([head, *(line(t, v, a) for t, v, a in zip(T, V, A, strict=True))]).lstrip("\n") + "\n"


def in_the_words_of(time, volts, amps):
    return rows(f"{time} (s);{volts} (V);{amps} (A)", lambda t, v, a: f"{t};{comma(v)};{comma(a)}")


EPOCH = 1_795_600_000
READ_RIGHT = {
    "iso with fractions and Z": rows(PLAIN, lambda t, v, a: f"2026-11-25T{clock(t)}.250Z,{v},{a}"),
    "iso with a zone": rows("timestamp;volts;amps", lambda t, v, a: f"2026-11-25T{clock(t)}+01:00;{v};{a}"),
    "date and time apart": rows(
        "Datum;Zeit;Spannung;Strom", lambda t, v, a: f"25.11.2026;{clock(t)};{comma(v)};{comma(a)}"
    ),
    "past midnight with dates": rows(
        "Date,Time,Voltage (V),Current (A)",
        lambda t, v, a: f"{24 if t < 60 else 25}/11/2026,{clock(t, 86_340)},{v},{a}",
    ),
    "am and pm": rows("Time,Volts,Amps", lambda t, v, a: f"11/25/2026 {ampm(t)},{v},{a}"),
    "am and pm without a date": rows("Time,Volts,Amps", lambda t, v, a: f"{ampm(t)},{v},{a}"),
    "epoch in seconds": rows("timestamp,voltage,current", lambda t, v, a: f"{EPOCH + t},{v},{a}"),
    "epoch in milliseconds": rows("t,u,i", lambda t, v, a: f"{(EPOCH + t) * 1000},{v},{a}"),
    "german": in_the_words_of("Laufzeit", "Spannung", "Stromstärke"),
    "french": in_the_words_of("Temps", "Tension", "Courant"),
    "spanish": in_the_words_of("Tiempo", "Tensión", "Corriente"),
    "dutch": in_the_words_of("Tijd", "Spanning", "Stroom"),
    "italian": in_the_words_of("Tempo", "Tensione", "Corrente"),
    "polish": in_the_words_of("Czas", "Napięcie", "Prąd"),
    "words around": rows(
        "Sample,Elapsed Time (s),Battery Voltage (V),Charge Current (A)", lambda t, v, a: f"{t // 10},{t},{v},{a}"
    ),
    "words run together": rows("ElapsedTime,BatteryVoltage,ChargeCurrent", lambda t, v, a: f"{t},{v},{a}"),
    "a units row": rows("Time,Voltage,Current\ns,mV,mA", lambda t, v, a: f"{t},{v * 1000:.0f},{a * 1000:.1f}"),
    "units in the cells": rows("Time (s),Voltage,Current", lambda t, v, a: f"{t},{v} V,{a * 1000:.1f} mA"),
    "scientific": rows(PLAIN, lambda t, v, a: f"{t:.3e},{v:.4e},{a:.4E}"),
    "comments before": "# bench 3\n# cell: blue, 1, 2\n#\n" + rows(PLAIN, lambda t, v, a: f"{t},{v},{a}"),
    "a commented header": rows("# time voltage current", lambda t, v, a: f"{t} {v} {a}"),
    "settings beside readings": rows(
        "Time,Set Voltage (V),Voltage (V),Current Limit (A),Current (A)", lambda t, v, a: f"{t},4.2,{v},0.5,{a}"
    ),
    "two channels": rows(
        "Time (s),CH1 Voltage (V),CH1 Current (A),CH2 Voltage (V),CH2 Current (A)",
        lambda t, v, a: f"{t},{v},{a},12.0,0.0",
    ),
    "channels the other way round": rows(
        "Time (s),CH1 Current (A),CH2 Current (A),CH2 Voltage (V)", lambda t, v, a: f"{t},0.0,{a},{v}"
    ),
    "power and charge too": rows(
        "Time,Power (W),Voltage (V),Current (A),Capacity (Ah)",
        lambda t, v, a: f"{t},{v * a:.3f},{v},{a},{t * a / 3600:.5f}",
    ),
    "minutes and seconds, as titled": rows(
        "Time (mm:ss),Voltage,Current", lambda t, v, a: f"{(3555 + t) // 60}:{(3555 + t) % 60:02d},{v},{a}"
    ),
    "minutes past sixty": rows(PLAIN, lambda t, v, a: f"{(3555 + t) // 60}:{(3555 + t) % 60:02d},{v},{a}"),
    "several rows a minute": rows(PLAIN, lambda t, v, a: f"{clock(t, shape='{h:02d}:{m:02d}')},{v},{a}"),
    "utf-16": rows("Time (s)\tVoltage (V)\tCurrent (A)", lambda t, v, a: f"{t}\t{v}\t{a}").encode("utf-16"),
    "old western": rows("Zeit;Spannung;Stromstärke;Gehäuse °C", lambda t, v, a: f"{t};{v};{a};25").encode("cp1252"),
    "quoted": rows('"Time, s","Voltage, V","Current, A"', lambda t, v, a: f'"{t}","{v}","{a}"'),
    "milliseconds": rows("Time (ms),Voltage (V),Current (A)", lambda t, v, a: f"{t * 1000},{v},{a}"),
    "hours": rows("Time [h]|Voltage [V]|Current [A]", lambda t, v, a: f"{t / 3600:.6f}|{v}|{a}"),
}


@pytest.mark.parametrize("shape", READ_RIGHT)
def test_read_right(shape):
    read = read_log(READ_RIGHT[shape])
    assert not read.doubts, read.doubts
    assert not read.bad_rows, read.bad_rows
    assert read.log.volts == pytest.approx(V, abs=1e-3)
    assert read.log.amps == pytest.approx(A, abs=2e-4)
    wanted = [60 * (t // 60) for t in T] if shape == "several rows a minute" else T
    assert read.log.time_s == pytest.approx(wanted, abs=0.3)
    assert read.says


# Cannot be so ---------------------------------------------------------------------------------------------------

DOUBTFUL = {
    "volts_in_mv": rows(PLAIN, lambda t, v, a: f"{t},{v * 1000:.0f},{a}"),
    "amps_in_ma": rows(PLAIN, lambda t, v, a: f"{t},{v},{a * 1000:.1f}"),
    "swapped_columns": rows(PLAIN, lambda t, v, a: f"{t},{a},{v}"),
    "fahrenheit": rows(f"{PLAIN},temperature", lambda t, v, a: f"{t},{v},{a},{80 + t / 20}"),
    "no_celsius": rows(f"{PLAIN},temp", lambda t, v, a: f"{t},{v},{a},{t * a:.4f}"),
    "hh:mm": rows(PLAIN, lambda t, v, a: f"10:{t // 10:02d},{v},{a}"),
}


@pytest.mark.parametrize("mend", DOUBTFUL)
def test_what_cannot_be_so_is_asked_about_and_its_mend_reads_it_right(mend):
    doubtful = read_log(DOUBTFUL[mend])
    assert any(mend in [way.key for way in doubt.mends] for doubt in doubtful.doubts), doubtful.doubts
    read = read_log(DOUBTFUL[mend], mends=[mend])
    assert not read.doubts
    assert read.log.volts == pytest.approx(V, abs=1e-3)
    assert read.log.amps == pytest.approx(A, abs=2e-4)
    if mend == "fahrenheit":
        assert read.log.celsius[0] == pytest.approx((80 - 32) / 1.8, abs=0.1)
    if mend == "hh:mm":
        assert read.log.time_s == pytest.approx([60 * k for k in range(N)])


def test_a_doubtful_log_is_never_judged(client):
    asked = {"document": plan().model_dump(mode="json"), "text": DOUBTFUL["volts_in_mv"]}
    doubtful = client.post("/api/questions/log", json=asked).json()
    assert doubtful["analysis"] is None
    assert not doubtful["calibration_offers"]
    assert doubtful["doubts"][0]["mends"][0]["label"] == "It is in millivolts"
    settled = client.post("/api/questions/log", json=asked | {"mends": ["volts_in_mv"]}).json()
    assert settled["analysis"]["most_v"] == pytest.approx(V[-1], abs=0.02)


def test_a_charge_and_a_run_in_one_file_are_told_apart():
    there = [f"{t},{3.6 + t / 36_000:.4f},0.4" for t in range(0, 7200, 60)]
    back = [f"{t},{3.8 - (t - 7200) / 36_000:.4f},-0.2" for t in range(7200, 18_000, 60)]
    text = "\n".join([PLAIN, *there, *back])
    assert [mend.key for doubt in read_log(text).doubts for mend in doubt.mends] == ["the_charge", "the_run"]
    charge, run = (read_log(text, mends=[key]) for key in ("the_charge", "the_run"))
    assert (charge.doubts, run.doubts) == ((), ())
    assert charge.log.charge_ah[-1] == pytest.approx(0.4 * 119 / 60, rel=0.01)
    assert run.log.charge_ah[-1] == pytest.approx(0.2 * 179 / 60, rel=0.01)


# Clocks that jump -----------------------------------------------------------------------------------------------


def clocks(*seconds):
    return [f"{s // 3600:02d}:{s % 3600 // 60:02d}:{s % 60:02d}" for s in seconds]


def steady(times):
    return f"{PLAIN}\n" + "".join(f"{t},{3.7 + 0.0001 * k:.4f},0.4\n" for k, t in enumerate(times))


@pytest.mark.parametrize(
    ("times", "says", "seconds"),
    [
        ([*range(0, 600, 10), *range(0, 600, 10)], "counting again", 1190),
        (clocks(*range(0, 600, 10), *range(4200, 4800, 10)), "forward by an hour", 1190),
        (clocks(*range(7200, 7800, 10), *range(4200, 4800, 10)), "back by an hour", 1190),
        ([*range(0, 600, 10), *range(4200, 4800, 10)], "missing once", 4790),  # a stopwatch knows no summer time
        ([*range(0, 600, 10), *range(1800, 2400, 10)], "missing once", 2390),
    ],
)
def test_a_clock_that_jumps_is_mended_and_told(times, says, seconds):
    read = read_log(steady(times))
    assert any(says in str(line) for line in read.says), read.says
    assert read.log.time_s[-1] == pytest.approx(seconds, abs=1)
    assert (np.diff(read.log.time_s) > 0).all()


def test_rows_that_stand_there_twice_are_left_out():
    lines = steady(range(0, 600, 10)).splitlines()
    read = read_log("\n".join([*lines[:20], lines[19], *lines[20:]]))
    assert len(read.log.time_s) == 60
    assert any("repeated" in str(line) for line in read.says)


@pytest.mark.parametrize("text", ["", "a;b;c\nx;y;z\n", "voltage,current\n3.7,0.4\n3.7,0.4\n"])
def test_what_is_no_log_is_refused_with_a_sentence(text):
    with pytest.raises((UnreadableLog, TooShort)):
        read_log(text)
