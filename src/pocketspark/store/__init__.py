"""Where projects are stored: SQLite through SQLAlchemy, every saved state a revision."""

from pocketspark.store.arrivals import Arrivals, EarlierState, NewPart
from pocketspark.store.connections import Connections
from pocketspark.store.documents import Unreadable
from pocketspark.store.inventory import Inventory, InventoryPart, PartChanged, StillUsed
from pocketspark.store.live_logs import LiveLog, LiveLogs
from pocketspark.store.log_files import LogFile, LogFiles, NewLog
from pocketspark.store.meters import Meters
from pocketspark.store.nothing_there import NothingThere
from pocketspark.store.photos import Photo, PhotoChanged, Photos, TooMany
from pocketspark.store.pictures import NewPhoto
from pocketspark.store.projects import Conflict, Projects, PutAway, StateMark, StillOnTheShelf, Stored
from pocketspark.store.shelf import JudgedLine, ListedProject, Sieve

__all__ = [
    "Arrivals",
    "Conflict",
    "Connections",
    "EarlierState",
    "Inventory",
    "InventoryPart",
    "JudgedLine",
    "ListedProject",
    "LiveLog",
    "LiveLogs",
    "LogFile",
    "LogFiles",
    "Meters",
    "NewLog",
    "NewPart",
    "NewPhoto",
    "NothingThere",
    "PartChanged",
    "Photo",
    "PhotoChanged",
    "Photos",
    "Projects",
    "PutAway",
    "Sieve",
    "StateMark",
    "StillOnTheShelf",
    "StillUsed",
    "Stored",
    "TooMany",
    "Unreadable",
]
