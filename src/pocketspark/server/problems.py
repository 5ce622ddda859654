"""Every refusal as an RFC 9457 problem, with the field and a sentence."""

from collections.abc import Sequence
from http import HTTPStatus
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from pocketspark.core.error import PocketSparkError
from pocketspark.core.refusal import Refusal, refusals_from
from pocketspark.server.log import NAME, logger


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

    @app.exception_handler(PocketSparkError)
    def ours(_request: Request, error: PocketSparkError) -> JSONResponse:
        return problem(error.status, str(error), getattr(error, "refusals", ()))

    @app.exception_handler(HTTPException)
    def other(_request: Request, error: HTTPException) -> JSONResponse:
        return problem(error.status_code, str(error.detail))

    @app.exception_handler(Exception)
    def unforeseen(request: Request, error: Exception) -> JSONResponse:
        logger.error("%s %s failed", request.method, request.url.path, exc_info=error)
        return problem(500, f"This went wrong inside Pocket Spark; {NAME} in your data folder says what")


def _within_body(refusal: Refusal) -> Refusal:
    """The field as the document names it, without where in the request it stood."""
    field = refusal.field.removeprefix("body.").removeprefix("query.").removeprefix("path.")
    return Refusal("" if field in ("body", "query", "path") else field, refusal.sentence)
