"""Where projects are kept: SQLite through SQLAlchemy, every saved state a revision."""

from pocketspark.store.shelf import Conflict, Kept, NothingThere, Shelf, Summary

__all__ = ["Conflict", "Kept", "NothingThere", "Shelf", "Summary"]
