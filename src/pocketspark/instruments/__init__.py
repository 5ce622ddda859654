"""Instruments: the small interface that a meter's adapter implements, and the simulated ones that ship with the app."""

from pocketspark.instruments.bench import FAULTS, Bench, Fault, InstrumentKind, bench_of
from pocketspark.instruments.instrument import Instrument, Sample, SimulatedInstrument
from pocketspark.instruments.meter import Meter
from pocketspark.instruments.runs import INSTRUMENTS, charge_log, discharge_log, simulated_run

__all__ = [
    "FAULTS",
    "INSTRUMENTS",
    "Bench",
    "Fault",
    "Instrument",
    "InstrumentKind",
    "Meter",
    "Sample",
    "SimulatedInstrument",
    "bench_of",
    "charge_log",
    "discharge_log",
    "simulated_run",
]
