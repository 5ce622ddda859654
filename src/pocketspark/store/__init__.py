"""Where projects are stored: SQLite through SQLAlchemy, every saved state a revision."""

from pocketspark.store.inventory import Inventory, InventoryPart, StillUsed
from pocketspark.store.live_logs import LiveLog, LiveLogs
from pocketspark.store.meters import Meters
from pocketspark.store.photos import Photo, Photos, TooMany
from pocketspark.store.pictures import NewPhoto
from pocketspark.store.projects import Conflict, NothingThere, Projects, Stored, Summary

__all__ = [
    "Conflict",
    "Inventory",
    "InventoryPart",
    "Stored",
    "LiveLog",
    "LiveLogs",
    "Meters",
    "NewPhoto",
    "NothingThere",
    "Photo",
    "Photos",
    "Projects",
    "StillUsed",
    "Summary",
    "TooMany",
]
