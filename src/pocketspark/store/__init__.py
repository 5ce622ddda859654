"""Where projects are kept: SQLite through SQLAlchemy, every saved state a revision."""

from pocketspark.store.drawer import Drawer, DrawerPart, StillUsed
from pocketspark.store.live_logs import LiveLog, LiveLogs
from pocketspark.store.meters import Meters
from pocketspark.store.photos import Photo, Photos, TooMany
from pocketspark.store.pictures import NewPhoto
from pocketspark.store.shelf import Conflict, Kept, NothingThere, Shelf, Summary

__all__ = [
    "Conflict",
    "Drawer",
    "DrawerPart",
    "Kept",
    "LiveLog",
    "LiveLogs",
    "Meters",
    "NewPhoto",
    "NothingThere",
    "Photo",
    "Photos",
    "Shelf",
    "StillUsed",
    "Summary",
    "TooMany",
]
