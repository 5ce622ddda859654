"""Rules of the station Power."""

from pocketspark.core.rules.power import peaks, protection, run, standby, stress, window

__all__ = ["peaks", "protection", "run", "standby", "stress", "window"]
