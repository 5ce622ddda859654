"""One charge written in the ways in which meters, testers and spreadsheets write it: read right, or asked about.

The charge is made here by hand (constant current into a straight line of volts, then the tail of a resistance), and the
shapes are those of the handbook, section 21: none of this tool's own writing.
"""

from datetime import datetime, timedelta

import numpy as np
import pytest

from pocketspark.core.logs.analysis import analyse
from pocketspark.core.logs.pieces import pieces_of
from pocketspark.formats.log_csv import UnreadableLog, read_log

STEP_S, LATE = 10.0, datetime(2026, 11, 12, 22, 0, 0)


def charge(capacity_ah=0.9, amps=0.4, r_ohm=0.15):
    """Time, volts, amps and the mAh counted so far, row by row."""
    rows, moved_ah = [], 0.0
    for number in range(1000):
        rest_v = 3.3 + 0.9 * min(moved_ah / capacity_ah, 1)
        flows = amps if rest_v + amps * r_ohm < 4.2 else (4.2 - rest_v) / r_ohm
        flows = 0.0 if flows < 0.04 and moved_ah > 0.5 * capacity_ah else flows
        rows.append((number * STEP_S, rest_v + flows * r_ohm, flows, moved_ah * 1000))
        moved_ah += flows * STEP_S / 3600
    return rows


US, EU = "%m/%d/%Y %H:%M:%S", "%d/%m/%Y %H:%M:%S"
ROWS = charge()
MOVED_AH = ROWS[-1][3] / 1000


def clock(s):
    return f"{int(s // 3600)}:{int(s % 3600 // 60):02d}:{s % 60:04.1f}"


def written(head, line):
    """`line` names what stands in a row, in the units that it is to have."""
    rows = (
        line.format(s=s, v=v, a=a, mah=m, ah=m / 1000, ms=s * 1000, mv=v * 1000, ma=a * 1000, w=v * a, n=s / 10,
                    minutes=s / 60, us=day(s, US), eu=day(s, EU), clock=clock(s), words=in_words(s),
                    serial=46338.9 + s / 86400)
        for s, v, a, m in ROWS
    )  # fmt: skip
    return "\n".join([*([head] if head else []), *rows]) + "\n"


def in_words(s):
    return f"{s // 3600:.0f}h {s % 3600 // 60:02.0f}m {s % 60:02.0f}s"


def day(s, shape):
    return (LATE + timedelta(seconds=s)).strftime(shape)


SHAPES = {
    "titles that are units": written("s,V,A", "{s},{v:.4f},{a:.4f}"),
    "milli everything": written("ms,mV,mA", "{ms:.0f},{mv:.0f},{ma:.1f}"),
    "minutes": written("Minutes,Volts,mA", "{minutes:.5f},{v:.4f},{ma:.1f}"),
    "watts alone": written("Time (s),Voltage (V),Power (W)", "{s},{v:.4f},{w:.5f}"),
    "a counter alone": written("Time (s),Voltage (V),Capacity (mAh)", "{s},{v:.4f},{mah:.3f}"),
    "a coarse counter": written("Time (s),Voltage (V),Capacity (mAh)", "{s},{v:.4f},{mah:.0f}"),
    "hours in words": written(
        "Time,Volts,Amps",
        "{words},{v:.4f},{a:.4f}",
    ),
    "days and a clock": written("Time,Volts,Amps", "0d {clock},{v:.4f},{a:.4f}"),
    "days of a spreadsheet": written("Date,Volts,Amps", "{serial:.8f},{v:.4f},{a:.4f}"),
    "a month first, past midnight": written("Date,Volts,Amps", "{us},{v:.4f},{a:.4f}"),
    "a day first, past midnight": written("Date,Volts,Amps", "{eu},{v:.4f},{a:.4f}"),
    "thousands": written("Time (s);Volts;Current (mA)", "{s:,.1f};{v:.4f};{ma:,.1f}"),
    "samples with their interval": "# Interval: 10 s\n"
    + written("Sample,Voltage (V),Current (A)", "{n:.0f},{v:.4f},{a:.4f}"),
    "no titles, another order": written("", "{v:.4f},{a:.4f},{s}"),
    "no titles, rows counted first": written("", "{n:.0f},{s},{v:.4f},{a:.4f}"),
    "no titles, mAh behind": written("", "{s},{v:.4f},{a:.4f},{mah:.2f}"),
    "no titles, degrees behind": written("", "{s},{a:.4f},{v:.4f},24.3"),
    "degrees that are missing": written("s,V,A,Temperature (C)", "{s},{v:.4f},{a:.4f},"),
    "a tester's many columns": written(
        "Data_Point,Test_Time(s),Step_Time(s),Date_Time,Step_Index,Cycle_Index,Current(A),Voltage(V),"
        "Charge_Capacity(Ah),Discharge_Capacity(Ah),Internal_Resistance(Ohm),Temperature (C)",
        "{n:.0f},{s},{s},{us},1,1,{a:.4f},{v:.4f},{ah:.5f},0,0.05,25.1",
    ),
    "rows out of order": "s,V,A\n"
    + "\n".join(f"{s},{v:.4f},{a:.4f}" for s, v, a, _ in (ROWS[n] for n in np.random.default_rng(1).permutation(1000))),
}


@pytest.mark.parametrize("shape", SHAPES)
def test_it_is_the_same_charge(shape):
    taken = read_log(SHAPES[shape].encode())
    assert taken.doubts == ()
    seen = analyse(taken.log)
    assert seen.kind == "charge"
    assert seen.charge_ah == pytest.approx(MOVED_AH, rel=0.01)
    assert seen.hours == pytest.approx(999 * STEP_S / 3600, rel=0.01)
    assert seen.plateau_a == pytest.approx(0.4, rel=0.06 if "counter" in shape else 0.01)


def test_what_cannot_be_told_is_asked():
    in_milli = written("", "{s},{mv:.0f},{ma:.0f}")
    asked = [mend.key for doubt in read_log(in_milli).doubts for mend in doubt.mends]
    assert asked[0] == "volts_in_mv"
    read = read_log(in_milli, mends=["volts_in_mv", "amps_in_ma"])
    assert analyse(read.log).charge_ah == pytest.approx(MOVED_AH, rel=0.01)
    counted = written("Sample,Voltage (V),Current (A)", "{n:.0f},{v:.4f},{a:.4f}")
    with pytest.raises(UnreadableLog, match="interval: 10 s"):
        read_log(counted)
    nothing = written("s,V,A", "{s},3.7,0")
    with pytest.raises(ValueError, match="no current flows"):
        read_log(nothing)


def cycles(signed):
    """Charge, an hour of rest, run-down; three times, by hand: 400 mA in and 300 mA out of 0.8 Ah each."""
    rows, at = [], 0.0
    for _ in range(3):
        for amps, hours, begin, end in (
            (0.4, 2, 3.3, 4.2),
            (0, 1, 4.18, 4.15),
            (-0.3, 8 / 3, 4.1, 3.1),
            (0, 1, 3.3, 3.4),
        ):
            count = round(hours * 360)
            for n in range(count):
                rows.append(f"{at:.0f},{begin + (end - begin) * n / count:.4f},{amps if signed else abs(amps)}")
                at += 10
    return "s,V,A\n" + "\n".join(rows)


@pytest.mark.parametrize("signed", [True, False])
def test_several_cycles_are_several_pieces_and_each_is_read_for_itself(signed):
    (doubt,) = read_log(cycles(signed)).doubts
    assert [mend.key for mend in doubt.mends] == [f"piece{n}" for n in range(1, 7)]
    for number in range(1, 7):
        taken = read_log(cycles(signed), mends=[f"piece{number}"])
        assert taken.doubts == ()
        seen = analyse(taken.log, kind=taken.kind)
        assert seen.kind == ("charge" if number % 2 else "discharge")
        assert seen.charge_ah == pytest.approx(0.8, rel=0.01)
        assert seen.interruptions == ()


def test_a_meters_zero_and_a_gadgets_pauses_part_nothing():
    time_s = np.arange(0, 36_000, 10.0)
    pulsing = np.where(time_s % 600 < 60, -0.2, 0.0)
    pulsing[5::97] = 0.003  # the meter's own zero
    (one,) = pieces_of(time_s, np.linspace(4.1, 3.2, len(time_s)), pulsing)
    assert (one.kind, one.charge_ah) == ("discharge", pytest.approx(0.2, rel=0.05))
