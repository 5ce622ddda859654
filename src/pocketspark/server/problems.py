"""Every refusal as an RFC 9457 problem, with the field and a sentence."""

from collections.abc import Sequence
from http import HTTPStatus
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from pocketspark.core.cells.size_codes import NotASizeCode
from pocketspark.core.logs.log import TooShort
from pocketspark.core.photo import NoScale
from pocketspark.core.refusal import Refusal, UnfitPart, refusals_from
from pocketspark.formats.drill_template import NothingToDrill
from pocketspark.formats.log_csv import UnreadableLog
from pocketspark.formats.photograph import UnreadablePhotograph
from pocketspark.formats.printed import NoSuchPrint
from pocketspark.formats.project_json import UnreadableProject
from pocketspark.instruments.trainer import NoSuchBench
from pocketspark.server.jobs import NoSuchJob
from pocketspark.store import Conflict, NothingThere, StillUsed, TooMany


class FieldProblem(BaseModel):
    """One field of the request, as a dotted path, and what is wrong with it."""

    field: str
    sentence: str


class Problem(BaseModel):
    """RFC 9457 problem details."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    errors: list[FieldProblem] = []


PROBLEM_RESPONSES: dict[int | str, dict[str, Any]] = {
    status: {"model": Problem, "content": {"application/problem+json": {}}} for status in (404, 409, 413, 422)
}


def problem(status: int, detail: str, refused: Sequence[Refusal] = ()) -> JSONResponse:
    """The answer for one refusal."""
    body = Problem(
        title=HTTPStatus(status).phrase,
        status=status,
        detail=detail,
        errors=[FieldProblem(field=refusal.field, sentence=refusal.sentence) for refusal in refused],
    )
    return JSONResponse(body.model_dump(), status_code=status, media_type="application/problem+json")


def answer_with_problems(app: FastAPI) -> None:
    """Turn every exception a route may raise into its problem, in this one place."""

    @app.exception_handler(RequestValidationError)
    def invalid(_request: Request, error: RequestValidationError) -> JSONResponse:
        refused = [_within_body(refusal) for refusal in refusals_from(error.errors())]
        return problem(422, str(refused[0]), refused)

    @app.exception_handler(UnreadableProject)
    def unreadable(_request: Request, error: UnreadableProject) -> JSONResponse:
        return problem(422, str(error), error.refusals)

    @app.exception_handler(NothingThere)
    def nothing_there(_request: Request, error: NothingThere) -> JSONResponse:
        return problem(404, str(error))

    @app.exception_handler(Conflict)
    def conflict(_request: Request, error: Conflict) -> JSONResponse:
        return problem(409, str(error))

    @app.exception_handler(UnfitPart)
    def unfit(_request: Request, error: UnfitPart) -> JSONResponse:
        return problem(422, str(error), error.refusals)

    @app.exception_handler(StillUsed)
    @app.exception_handler(TooMany)
    def held(_request: Request, error: Exception) -> JSONResponse:
        return problem(409, str(error))

    @app.exception_handler(NoSuchJob)
    @app.exception_handler(NoSuchBench)
    def forgotten(_request: Request, error: Exception) -> JSONResponse:
        return problem(404, str(error))

    @app.exception_handler(NoSuchPrint)
    @app.exception_handler(NothingToDrill)
    def no_use(_request: Request, error: Exception) -> JSONResponse:
        return problem(409, str(error))

    @app.exception_handler(UnreadablePhotograph)
    @app.exception_handler(NotASizeCode)
    @app.exception_handler(UnreadableLog)
    @app.exception_handler(TooShort)
    @app.exception_handler(NoScale)
    def unread(_request: Request, error: Exception) -> JSONResponse:
        return problem(422, str(error))

    @app.exception_handler(HTTPException)
    def other(_request: Request, error: HTTPException) -> JSONResponse:
        return problem(error.status_code, str(error.detail))


def _within_body(refusal: Refusal) -> Refusal:
    """The field as the document names it, without where in the request it stood."""
    field = refusal.field.removeprefix("body.").removeprefix("project.")
    return Refusal("" if field in ("body", "project") else field, refusal.sentence)
