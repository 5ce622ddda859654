"""Rules of the station Wire."""

from pocketspark.core.rules.wire import nets, wires

__all__ = ["nets", "wires"]
