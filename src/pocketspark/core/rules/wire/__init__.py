"""Rules of the station Wire."""

from pocketspark.core.rules.wire import leads, metal, nets, wires

__all__ = ["leads", "metal", "nets", "wires"]
