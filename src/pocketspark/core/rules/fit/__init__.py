"""Rules of the station Fit."""

from pocketspark.core.rules.fit import fits_or_not, holes_in_walls, where_parts_lie

__all__ = ["fits_or_not", "holes_in_walls", "where_parts_lie"]
