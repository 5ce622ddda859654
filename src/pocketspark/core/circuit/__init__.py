"""The build as wired, solved in all its states at once: what flows and what stands where, in the worst corner."""

from pocketspark.core.circuit.corners import (
    BUT_COLD,
    EVERY_FEED,
    EVERY_USE,
    TOLERANCES,
    Circuit,
    Corner,
    Feed,
    Solved,
    Worst,
)
from pocketspark.core.circuit.solving import circuit_of
from pocketspark.core.circuit.uses import Use, UseKind

__all__ = [
    "BUT_COLD",
    "EVERY_FEED",
    "EVERY_USE",
    "TOLERANCES",
    "Circuit",
    "Corner",
    "Feed",
    "Solved",
    "Use",
    "UseKind",
    "Worst",
    "circuit_of",
]
