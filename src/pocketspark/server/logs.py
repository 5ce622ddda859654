"""Routes of a conversion's logs: uploaded once, kept as they came, read by their number."""

from collections.abc import Iterator
from datetime import datetime
from tempfile import SpooledTemporaryFile
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request, Response
from fastapi.responses import StreamingResponse
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from pocketspark.core.models.model import RowNumber
from pocketspark.core.models.plain_text import ON_ONE_LINE
from pocketspark.formats.log_csv import header_of
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.store import LogFile, LogFiles

router = APIRouter(prefix="/api/projects/{project_id}/logs", tags=["logs"], responses=PROBLEM_RESPONSES)

# A log beyond this waits on the disk while it comes in.
IN_MEMORY = 2_000_000
READ_AT_ONCE = 1_000_000


def log_files_of(request: Request) -> LogFiles:
    log_files: LogFiles = request.app.state.log_files
    return log_files


OurLogFiles = Annotated[LogFiles, Depends(log_files_of)]


class KeptLog(BaseModel):
    """A log that is kept, without its text."""

    id: int
    name: str
    size: int
    made_at: datetime


_ANY_TEXT = {"requestBody": {"required": True, "content": {"text/csv": {"schema": {"type": "string"}}}}}


@router.get("")
def list_logs(project_id: RowNumber, logs: OurLogFiles) -> list[KeptLog]:
    return [_answer(log) for log in logs.of(project_id)]


@router.post("", status_code=201, openapi_extra=_ANY_TEXT)
async def add_log(
    project_id: RowNumber,
    request: Request,
    logs: OurLogFiles,
    name: Annotated[str, Query(max_length=120), ON_ONE_LINE] = "log.csv",
) -> KeptLog:
    """Takes the file itself as the body. One without a line of figures is refused, one that is here not doubled."""
    with SpooledTemporaryFile(max_size=IN_MEMORY) as file:
        async for chunk in request.stream():
            file.write(chunk)
        return await run_in_threadpool(_take_in, file, project_id, name.strip() or "log.csv", logs)


def _take_in(file: SpooledTemporaryFile[bytes], project_id: int, name: str, logs: LogFiles) -> KeptLog:
    file.seek(0)
    header_of(file.read(READ_AT_ONCE))
    file.seek(0)
    return _answer(logs.add(project_id, name, iter(lambda: file.read(READ_AT_ONCE), b"")))


@router.get("/{log_id}", response_class=StreamingResponse, responses={200: {"content": {"text/csv": {}}}})
def log_as_it_came(project_id: RowNumber, log_id: RowNumber, logs: OurLogFiles) -> Response:
    log = logs.get(project_id, log_id)
    plain = "".join(c if c.isascii() and (c.isalnum() or c in "-_.") else "-" for c in log.name)
    headers = {"Content-Disposition": f'attachment; filename="{plain}"'}
    content: Iterator[bytes] = logs.content(log_id)
    return StreamingResponse(content, media_type="text/csv", headers=headers)


@router.delete("/{log_id}", status_code=204)
def remove_log(project_id: RowNumber, log_id: RowNumber, logs: OurLogFiles) -> None:
    logs.remove(project_id, log_id)


def _answer(log: LogFile) -> KeptLog:
    return KeptLog(id=log.id, name=log.name, size=log.size, made_at=log.made_at)
