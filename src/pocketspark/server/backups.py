"""Routes of safekeeping: one file with everything, and the copies that are made by themselves."""

import os
import shutil
import tempfile
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from datetime import datetime
from pathlib import Path

from fastapi import APIRouter, Request
from fastapi.responses import FileResponse
from pydantic import BaseModel
from sqlalchemy import Engine
from starlette.background import BackgroundTask

from pocketspark.core.message import say
from pocketspark.core.models.model import RowNumber
from pocketspark.server.jobs import Job, Jobs, State
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.store import NothingThere
from pocketspark.store.backup import back_up
from pocketspark.store.copies import Copies
from pocketspark.store.database import COPIES, FILE_NAME
from pocketspark.store.utc import now

router = APIRouter(prefix="/api", tags=["backup"], responses=PROBLEM_RESPONSES)

LOOKED_AT_EVERY_S = 0.05
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


class BackupUnderWay(BaseModel):
    """How far a backup is, in bytes; `failure` says why there is none."""

    id: int
    done: int
    total: int
    state: State
    failure: str


@router.post("/backup", status_code=202)
def begin_backup(request: Request, history: bool = True) -> BackupUnderWay:
    """Conversions, parts, photographs, meters and logs; without `history`, each conversion as it is now."""
    data: Path = request.app.state.data
    clear_left_overs(data, of_ours=not any(job.state == "running" for job in _backups_of(request).all()))
    return _told(_backups_of(request).start(_backing_up(request.app.state.engine, data, history)))


@router.get("/backup/{job_id}")
def look_at_backup(job_id: RowNumber, request: Request) -> BackupUnderWay:
    return _told(_backups_of(request).get(job_id))


@router.delete("/backup/{job_id}", status_code=204)
def cancel_backup(job_id: RowNumber, request: Request) -> None:
    _backups_of(request).cancel(job_id)


@router.get(
    "/backup/{job_id}/file",
    response_class=FileResponse,
    responses={200: {"content": {"application/vnd.sqlite3": {}}}},
)
def backup_file(job_id: RowNumber, request: Request) -> FileResponse:
    """The file, once it is whole; it is cleared away as soon as it was sent."""
    job = _backups_of(request).get(job_id)
    if not job.results or not job.results[-1].exists():
        raise NothingThere(say("this backup is not there: it goes on still, or was sent already"))
    file = job.results[-1]
    clear_away = BackgroundTask(shutil.rmtree, file.parent, ignore_errors=True)
    return FileResponse(file, filename=file.name, media_type="application/vnd.sqlite3", background=clear_away)


def _backups_of(request: Request) -> Jobs[Path]:
    backups: Jobs[Path] = request.app.state.backups
    return backups


def _told(job: Job[Path]) -> BackupUnderWay:
    failure = "The backup failed; the log in your data folder says why." if job.state == "failed" else ""
    return BackupUnderWay(id=job.id, done=job.done, total=job.total, state=job.state, failure=failure)


def _backing_up(engine: Engine, data: Path, history: bool) -> Iterator[tuple[int, int, Path | None]]:
    """In a thread of its own, while this one looks how far the file has grown."""
    half_made = _HALF_MADE.format(process=os.getpid())
    folder = Path(tempfile.mkdtemp(prefix=half_made, dir=data))
    file = folder / f"pocket-spark-{now():%Y-%m-%d}.sqlite"
    total = (data / FILE_NAME).stat().st_size
    is_whole = False
    try:
        with ThreadPoolExecutor(1) as pool:
            work = pool.submit(back_up, engine, file, history=history)
            while not work.done():
                yield min(_written(folder), total), total, None
                time.sleep(LOOKED_AT_EVERY_S)
            work.result()
        is_whole = True
        yield total, total, file
    finally:
        if not is_whole:
            shutil.rmtree(folder, ignore_errors=True)


def _written(folder: Path) -> int:
    """So many bytes by now; what is there for a moment only is left aside."""
    size = 0
    for file in folder.iterdir():
        with suppress(FileNotFoundError):
            size += file.stat().st_size
    return size


def clear_left_overs(data: Path, *, of_ours: bool = False) -> None:
    """What a backup or a copy left half made when it was killed; `of_ours`: and backups that nobody has fetched."""
    for folder in data.glob(_HALF_MADE.format(process="*") + "*"):
        process = folder.name.split("-")[1]
        if not _is_running(process) or (of_ours and process == str(os.getpid())):
            shutil.rmtree(folder, ignore_errors=True)
    if of_ours:
        return
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
