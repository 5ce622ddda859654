"""Rules of the station Power."""

from pocketspark.core.rules.power import (
    heard,
    inrush,
    kick,
    peaks,
    protection,
    run,
    shared_pack,
    standby,
    starting,
    stress,
    unused,
    window,
)

__all__ = [
    "heard",
    "inrush",
    "kick",
    "peaks",
    "protection",
    "run",
    "shared_pack",
    "standby",
    "starting",
    "stress",
    "unused",
    "window",
]
