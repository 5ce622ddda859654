"""The trade itself: pure functions on frozen models. No web, no database, no files, no clock."""

from pocketspark.core import kinds

__all__ = ["kinds"]
