"""A gadget swept by a programmable supply: a stand-in on a socket, a simulator of instruments, killed processes.

Commands and answers: SCPI-1999, from memory. The simulator is pyvisa-sim, of the package registries; its device is
written below from the standard's words alone. What is left on when something dies is looked up in the stand-in itself.
"""

import os
import signal
import subprocess
import sys
import threading
import time
from collections import Counter

import numpy as np
import pytest
from gadgets_by_physics import KINDS, MAKES

from chances import FULL, dice
from pocketspark.core.load_laws.fitting import apart, fitted, race
from pocketspark.core.load_laws.supply_sweep import SupplyLimits, SweepPlan
from pocketspark.instruments.connection import CannotConnect
from pocketspark.instruments.gadget_sweep import swept
from pocketspark.instruments.guarded_instrument import Guarded
from pocketspark.instruments.power_supply import PowerSupply
from pocketspark.instruments.scpi_device import DeviceFault
from pocketspark.instruments.supply_stand_in import SimulatedSupply, SupplyStandIn

OHM = 40.0
PLAN = SweepPlan((4.5, 3.5, 2.5), SupplyLimits(4.8, 0.5))


def resistor(volts):
    return volts / OHM


@pytest.fixture
def at_hand():
    """A supply that behaves in a manner, behind its stand-in."""
    open_ones = []

    def connect(manner="sound", drawn=resistor):
        one = SupplyStandIn(SimulatedSupply(drawn, manner))
        one.__enter__()
        open_ones.append(one)
        return one

    yield connect
    for one in open_ones:
        one.__exit__(None, None, None)


def readings(stand_in, plan=PLAN):
    with Guarded("supply", stand_in.address) as supply:
        return [(one.volts, one.current_a) for one in swept(supply, plan, threading.Event())]


@pytest.mark.parametrize("manner", ["sound", "windows"])
def test_every_step_is_read_and_it_is_off_at_the_end(at_hand, manner):
    stand_in = at_hand(manner)
    taken = readings(stand_in)
    assert taken == [pytest.approx((volts, volts / OHM), abs=1e-4) for volts in PLAN.volts]
    assert not stand_in.supply.on
    heard = stand_in.supply.heard
    first_on = heard.index("OUTP ON")
    assert max(heard.index("SOUR:VOLT:PROT 4.8"), heard.index("SOUR:CURR 0.5")) < first_on


def test_a_slow_one_is_waited_for(at_hand):
    assert len(readings(at_hand("slow"), SweepPlan((3.0,), SupplyLimits(4.8, 0.5)))) == 1


def test_a_gadget_that_takes_more_is_held_at_the_limit(at_hand):
    stand_in = at_hand(drawn=lambda volts: volts / 2)
    assert max(amps for _, amps in readings(stand_in)) == pytest.approx(0.5)
    assert not stand_in.supply.on


@pytest.mark.parametrize(
    ("manner", "says"),
    [
        ("lies", "figures that no supply has"),
        ("runs_away", "more volts than its limit"),
        ("refuses", "refuses"),
        ("mishears", "did not take its over-voltage protection"),
        ("mute", "does not answer any more"),
        ("hangs_up", "does not answer any more"),
    ],
)
def test_one_that_does_what_it_is_not_told_is_switched_off_and_told(at_hand, manner, says):
    stand_in = at_hand(manner)
    with pytest.raises(DeviceFault, match=says):
        readings(stand_in)
    assert not stand_in.supply.on


def test_nobody_there_and_what_is_no_supply():
    with pytest.raises(CannotConnect, match="nothing at"):
        Guarded("supply", "127.0.0.1:9")
    with pytest.raises(CannotConnect, match="written like"):
        Guarded("supply", "somewhere")


def test_volts_over_the_limit_are_not_given(at_hand):
    stand_in = at_hand()
    with Guarded("supply", stand_in.address) as supply, pytest.raises(DeviceFault, match="over the limits"):
        supply.order("give", volts=3.0)  # before any limit is set
    assert "OUTP ON" not in stand_in.supply.heard
    with Guarded("supply", stand_in.address) as supply, pytest.raises(DeviceFault, match="over the limits"):
        list(swept(supply, SweepPlan((6.0,), SupplyLimits(4.8, 0.5)), threading.Event()))


def off_within(stand_in, seconds):
    until = time.monotonic() + seconds
    while stand_in.supply.on and time.monotonic() < until:
        time.sleep(0.05)
    return not stand_in.supply.on


def on_within(stand_in, seconds=8.0):
    until = time.monotonic() + seconds
    while not stand_in.supply.on and time.monotonic() < until:
        time.sleep(0.02)
    return stand_in.supply.on


def test_stop_switches_off_at_once(at_hand):
    stand_in, stop = at_hand(), threading.Event()
    with Guarded("supply", stand_in.address) as supply:
        taken = swept(supply, PLAN, stop)
        next(taken)
        stop.set()
        begun = time.monotonic()
        assert list(taken) == []
    assert time.monotonic() - begun < 2
    assert not stand_in.supply.on


def test_where_the_guard_is_killed_it_is_switched_off_by_whoever_is_left(at_hand):
    stand_in = at_hand()
    with Guarded("supply", stand_in.address) as supply:
        taken = swept(supply, PLAN, threading.Event())
        next(taken)
        os.kill(supply.guard_pid, signal.SIGKILL)
        with pytest.raises(DeviceFault, match="guards the supply has ended"):
            list(taken)
    assert not stand_in.supply.on
    assert supply.was_left_off


OURS = os.environ | {"PYTHONPATH": os.pathsep.join(filter(None, sys.path))}
SWEEPS = """
import sys, threading, time
from pocketspark.core.load_laws.supply_sweep import SupplyLimits, SweepPlan
from pocketspark.instruments.gadget_sweep import swept
from pocketspark.instruments.guarded_instrument import Guarded
with Guarded("supply", sys.argv[1]) as supply:
    for _ in swept(supply, SweepPlan((3.0,) * 200, SupplyLimits(4.8, 0.5)), threading.Event()):
        if len(sys.argv) > 2:
            time.sleep(60)
"""


@pytest.mark.parametrize("signal_sent", [signal.SIGKILL, signal.SIGTERM, signal.SIGINT])
def test_where_the_server_dies_the_guard_switches_off(at_hand, signal_sent):
    stand_in = at_hand()
    with subprocess.Popen(
        [sys.executable, "-c", SWEEPS, stand_in.address], stderr=subprocess.DEVNULL, env=OURS
    ) as server:
        assert on_within(stand_in)
        server.send_signal(signal_sent)
        assert off_within(stand_in, 5)


def test_where_the_server_hangs_the_guard_switches_off(at_hand):
    stand_in = at_hand()
    with subprocess.Popen([sys.executable, "-c", SWEEPS, stand_in.address, "hangs"], env=OURS) as server:
        assert on_within(stand_in)
        assert off_within(stand_in, 6)
        server.kill()


def test_killed_at_any_moment_nothing_is_left_on(at_hand):
    """At moments from before it is on to the middle of the sweep."""
    chance, left_on = dice("killed"), []
    for _ in range(40 if FULL else 6):
        stand_in = at_hand()
        with subprocess.Popen(
            [sys.executable, "-c", SWEEPS, stand_in.address], stderr=subprocess.DEVNULL, env=OURS
        ) as server:
            time.sleep(chance.uniform(0.3, 3.0))
            server.kill()
            server.wait()
        time.sleep(0.3)
        if not off_within(stand_in, 5):
            left_on.append(stand_in.supply.heard[-3:])
    assert left_on == []


def test_gadgets_by_their_physics_are_told_by_the_supply(at_hand):
    """Each kind of gadget, swept from its top to its bottom through the SCPI line, and its law from that."""
    chance, seen = dice("swept"), Counter()
    for kind in KINDS:
        drawn, low_v, high_v = MAKES[kind](chance)
        plan = SweepPlan(
            tuple(round(float(one), 2) for one in np.linspace(high_v, low_v, 5)), SupplyLimits(high_v + 0.3, 5.0)
        )
        taken = readings(at_hand(drawn=drawn), plan)
        laws = fitted([volts for volts, _ in taken], [amps for _, amps in taken])
        left = race(laws, low_v, high_v)
        alike = [one.key for one in laws if left and apart(left[0], one, low_v, high_v).spreads < 3]
        seen[kind in [one.key for one in left] or kind in alike] += 1
    assert seen[True] >= len(KINDS) - 1


SIMULATED_DEVICE = """
spec: "1.1"
devices:
  supply:
    eom:
      TCPIP SOCKET:
        q: "\\n"
        r: "\\n"
    error: ERROR
    dialogues:
      - q: "*IDN?"
        r: "A BENCH SUPPLY OF THE SIMULATOR"
      - q: "SYST:ERR?"
        r: '0,"No error"'
      - q: "MEAS:VOLT?"
        r: "+3.00000E+00"
      - q: "MEAS:CURR?"
        r: "+7.50000E-02"
      - q: "OUTP ON"
      - q: "OUTP OFF"
      - q: "OUTP?"
        r: "0"
    properties:
      voltage:
        default: 0.0
        getter: {q: "SOUR:VOLT?", r: "{:.4f}"}
        setter: {q: "SOUR:VOLT {}"}
        specs: {min: 0, max: 30, type: float}
      current:
        default: 1.0
        getter: {q: "SOUR:CURR?", r: "{:.4f}"}
        setter: {q: "SOUR:CURR {}"}
        specs: {min: 0, max: 5, type: float}
      protection:
        default: 32.0
        getter: {q: "SOUR:VOLT:PROT?", r: "{:.4f}"}
        setter: {q: "SOUR:VOLT:PROT {}"}
        specs: {min: 1, max: 33, type: float}
resources:
  TCPIP0::127.0.0.1::5025::SOCKET:
    device: supply
"""


def test_the_driver_at_the_simulator_of_instruments(tmp_path):
    file = tmp_path / "devices.yaml"
    file.write_text(SIMULATED_DEVICE)
    supply = PowerSupply("", f"{file}@sim", resource="TCPIP0::127.0.0.1::5025::SOCKET")
    supply.protect(SupplyLimits(4.8, 0.5))
    supply.give(3.0)
    shown = supply.read()
    assert (shown.volts, shown.amps) == (3.0, 0.075)
    assert not supply.simulated  # it is none of our stand-ins
    with pytest.raises(DeviceFault, match="refuses SOUR:VOLT:PROT"):
        supply.protect(SupplyLimits(60.0, 0.5))  # more than that device can be set to
    assert supply.off()
    supply.close()
