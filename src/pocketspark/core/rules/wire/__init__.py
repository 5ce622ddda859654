"""Rules of the station Wire."""

from pocketspark.core.rules.wire import metal, nets, wires

__all__ = ["metal", "nets", "wires"]
