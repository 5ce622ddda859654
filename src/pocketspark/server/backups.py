"""Routes of safekeeping: one file with everything, and the copies that are made by themselves."""

import os
import shutil
import tempfile
from datetime import datetime
from pathlib import Path

from fastapi import APIRouter, Request
from fastapi.responses import FileResponse
from pydantic import BaseModel
from starlette.background import BackgroundTask

from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.store.backup import back_up
from pocketspark.store.clock import now
from pocketspark.store.copies import Copies
from pocketspark.store.database import COPIES

router = APIRouter(prefix="/api", tags=["backup"], responses=PROBLEM_RESPONSES)

# What is half made has the number of its process in its name: one that was killed is told by it at the next start.
_HALF_MADE = "backup-{process}-"


class DataCopy(BaseModel):
    """One of the copies beside the data."""

    number: int
    name: str
    size: int
    made_at: datetime


class DataCopies(BaseModel):
    """The newest first. `second`: the other folder that gets them, and `problem`: why it has not got the newest."""

    folder: str
    copies: list[DataCopy]
    second: str
    problem: str


@router.get("/copies")
def copies_made(request: Request) -> DataCopies:
    """Those that were made by themselves."""
    copies: Copies = request.app.state.copies
    found = [
        DataCopy(number=one.number, name=one.file.name, size=one.size, made_at=one.made_at) for one in copies.all()
    ]
    return DataCopies(folder=str(copies.folder), copies=found, second=str(copies.second or ""), problem=copies.problem)


@router.get("/backup", response_class=FileResponse, responses={200: {"content": {"application/vnd.sqlite3": {}}}})
def backup(request: Request, history: bool = True) -> FileResponse:
    """Conversions, parts, photographs, meters and logs; without `history`, each conversion as it is now."""
    half_made = _HALF_MADE.format(process=os.getpid())
    folder = Path(tempfile.mkdtemp(prefix=half_made, dir=request.app.state.data))
    file = folder / f"pocket-spark-{now():%Y-%m-%d}.sqlite"
    try:
        back_up(request.app.state.engine, file, history=history)
    except BaseException:
        shutil.rmtree(folder, ignore_errors=True)
        raise
    clear_away = BackgroundTask(shutil.rmtree, folder, ignore_errors=True)
    return FileResponse(file, filename=file.name, media_type="application/vnd.sqlite3", background=clear_away)


def clear_left_overs(data: Path) -> None:
    """What a backup or a copy left half made when it was killed."""
    for folder in data.glob(_HALF_MADE.format(process="*") + "*"):
        if not _is_running(folder.name.split("-")[1]):
            shutil.rmtree(folder, ignore_errors=True)
    for half in (data / COPIES).glob("*.half*"):
        half.unlink(missing_ok=True)


def _is_running(process: str) -> bool:
    """Whether this process, or another one of its number, goes on; what has no number is of nobody."""
    try:
        os.kill(int(process), 0)
    except (ValueError, OverflowError, ProcessLookupError):
        return False
    except PermissionError:
        pass
    return True
