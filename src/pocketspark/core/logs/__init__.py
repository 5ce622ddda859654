"""Measured runs: what a log of a charge or a run-down tells, and the cell that explains it."""
