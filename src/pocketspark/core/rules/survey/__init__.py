"""Rules of the station Survey."""

from pocketspark.core.rules.survey import contradictions, gadget, old_charger, place

__all__ = ["contradictions", "gadget", "old_charger", "place"]
