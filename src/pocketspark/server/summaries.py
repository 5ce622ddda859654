"""The lines of the shelf: judged after a conversion is saved, and by which rules that was."""

from functools import cache
from hashlib import sha256
from importlib import resources
from typing import Any

from pocketspark.core.models import Project
from pocketspark.core.questions.summary import Summary, summary_of
from pocketspark.core.units.figures import FACTS
from pocketspark.server.budget import TookTooLong, at_most
from pocketspark.server.own_log import NAME, logger
from pocketspark.store import JudgedLine

# As long as one line may take: the next ones wait for it.
LINE_WITHIN_S = 20.0


@cache
def rules_version() -> str:
    """A mark that changes with every change of the core or of the shipped parts: what was judged before may differ."""
    mark = sha256()
    files = [file for package in ("core", "parts") for file in _files(resources.files("pocketspark") / package)]
    for file in files:
        mark.update(file.read_bytes())
    return mark.hexdigest()[:16]


def _files(folder: Any) -> list[Any]:
    inside = sorted(folder.iterdir(), key=lambda entry: entry.name)
    deeper = [file for entry in inside if entry.is_dir() and entry.name != "__pycache__" for file in _files(entry)]
    return [entry for entry in inside if entry.is_file() and entry.name.endswith((".py", ".json"))] + deeper


def judged(project: Project) -> JudgedLine:
    """The line of a project as it is stored: as facts, which whoever looks at the shelf reads in their own units.

    One that our rules fail on is still saved, and its line says so.
    """
    try:
        summary = at_most(LINE_WITHIN_S, lambda: summary_of(project))
    except TookTooLong:
        return JudgedLine({"unreadable": f"judging it takes longer than {LINE_WITHIN_S:.0f} s; open it to see why"})
    except Exception:
        logger.exception("a conversion could not be judged")
        reason = f"it could not be judged, which is a fault of ours; {NAME} in your data folder says what"
        return JudgedLine({"unreadable": reason})
    words = " ".join(map(str, (summary.supply, summary.worth, summary.headline, *summary.tags)))
    return JudgedLine(summary.model_dump(mode="json", context=FACTS), words)


def read_summary(stored: dict[str, Any] | None) -> Summary | None:
    """None where it was not judged, or could not be."""
    return None if stored is None or "supply" not in stored else Summary.model_validate(stored)
