"""Rules of the station Survey."""

from pocketspark.core.rules.survey import gadget, old_charger

__all__ = ["gadget", "old_charger"]
