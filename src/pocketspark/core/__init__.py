"""The trade itself: pure functions on frozen models. No web, no database, no files, no clock."""

from pocketspark.core import kinds
from pocketspark.core.wiring import as_wired

__all__ = ["as_wired", "kinds"]
