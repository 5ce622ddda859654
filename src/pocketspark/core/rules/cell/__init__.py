"""Rules of the station Cell."""

from pocketspark.core.rules.cell import demand, label, parallel, readings, swap, unlike

__all__ = ["demand", "label", "parallel", "readings", "swap", "unlike"]
