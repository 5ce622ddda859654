"""Simulated instruments: what a meter in line would have written, from the same physics, with noise and faults."""

from pocketspark.instruments.simulated import FAULTS, Bench, Fault, Meter, charge_log, run_down_log

__all__ = ["FAULTS", "Bench", "Fault", "Meter", "charge_log", "run_down_log"]
