"""Rules of the station Charge."""

from pocketspark.core.rules.charge import current, end, given, inputs, temperature

__all__ = ["current", "end", "given", "inputs", "temperature"]
