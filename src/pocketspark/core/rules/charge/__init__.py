"""Rules of the station Charge."""

from pocketspark.core.rules.charge import chip, current, end, given, habit, inputs, plug_in, temperature

__all__ = ["chip", "current", "end", "given", "habit", "inputs", "plug_in", "temperature"]
