"""A log that a maker can send along with a question: what was started, what failed, and where."""

import logging
import platform
from logging.handlers import RotatingFileHandler
from pathlib import Path

from pocketspark import __version__

NAME = "pocket-spark.log"
LARGEST_BYTES = 1_000_000

logger = logging.getLogger("pocketspark")


def log_into(folder: Path) -> Path:
    """Write the log into this folder, the one before kept beside it.

    No document is ever written down, but for that of a fit which its second look does not confirm.
    """
    folder.mkdir(parents=True, exist_ok=True)
    file = folder / NAME
    handler = RotatingFileHandler(file, maxBytes=LARGEST_BYTES, backupCount=1, encoding="utf-8", delay=True)
    handler.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(message)s"))
    logger.setLevel(logging.INFO)
    logger.addHandler(handler)
    logger.info("Pocket Spark %s, Python %s, %s", __version__, platform.python_version(), platform.system())
    return file
