"""The route of the backup: one file with everything, taken while the server runs."""

import tempfile
from pathlib import Path

from fastapi import APIRouter, Request
from fastapi.responses import FileResponse
from starlette.background import BackgroundTask

from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.store.backup import back_up
from pocketspark.store.clock import now

router = APIRouter(prefix="/api", tags=["backup"], responses=PROBLEM_RESPONSES)


@router.get("/backup", response_class=FileResponse, responses={200: {"content": {"application/vnd.sqlite3": {}}}})
def backup(request: Request, history: bool = True) -> FileResponse:
    """Conversions, parts, photographs, meters and logs; without `history`, each conversion as it is now."""
    folder = Path(tempfile.mkdtemp(prefix="backup-", dir=request.app.state.data))
    file = folder / f"pocket-spark-{now():%Y-%m-%d}.sqlite"

    def clear_away() -> None:
        file.unlink(missing_ok=True)
        folder.rmdir()

    try:
        back_up(request.app.state.engine, file, history=history)
    except Exception:
        file.with_suffix(".half").unlink(missing_ok=True)
        clear_away()
        raise
    return FileResponse(
        file, media_type="application/vnd.sqlite3", filename=file.name, background=BackgroundTask(clear_away)
    )
