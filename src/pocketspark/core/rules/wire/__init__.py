"""Rules of the station Wire."""

from pocketspark.core.rules.wire import lead_short_circuit, metal, net_rules, wire_rules

__all__ = ["lead_short_circuit", "metal", "net_rules", "wire_rules"]
