"""Rules of the station Power."""

from pocketspark.core.rules.power import (
    heard,
    inrush,
    kick,
    peaks,
    protection,
    run,
    several_gadgets,
    standby,
    starting,
    stress_of_front_end,
    unused_cell,
    window,
)

__all__ = [
    "heard",
    "inrush",
    "kick",
    "peaks",
    "protection",
    "run",
    "several_gadgets",
    "standby",
    "starting",
    "stress_of_front_end",
    "unused_cell",
    "window",
]
