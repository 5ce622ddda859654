"""What every table may have to refuse."""

from pocketspark.core.error import PocketSparkError


class NothingThere(PocketSparkError, LookupError):
    """There is nothing of that number."""

    status = 404
