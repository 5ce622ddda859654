"""Rules of the station Charge."""

from pocketspark.core.rules.charge import chip, current, end, given, habit, inputs, temperature

__all__ = ["chip", "current", "end", "given", "habit", "inputs", "temperature"]
