"""Rules of the station Power."""

from pocketspark.core.rules.power import inrush, peaks, protection, run, standby, stress, unused, window

__all__ = ["inrush", "peaks", "protection", "run", "standby", "stress", "unused", "window"]
