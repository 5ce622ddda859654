"""Every refusal as an RFC 9457 problem, with the field and a sentence."""

import secrets
from collections.abc import Mapping, Sequence
from http import HTTPStatus
from pathlib import Path
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from sqlalchemy.exc import DBAPIError
from starlette.exceptions import HTTPException

from pocketspark.core.error import PocketSparkError
from pocketspark.core.refusal import Refusal, refusals_from
from pocketspark.server.own_log import NAME, logger
from pocketspark.store.database import NotWritable, why_not


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


_STATUSES = (400, 403, 404, 409, 410, 413, 415, 422)
# Of the first router with the model itself, which puts it among the schemas. All others name it there: with the model
# the framework makes eight fields for each route, once as it is read and once for each app, and a start waits for them.
PROBLEM_RESPONSES_DEFINED: dict[int | str, dict[str, Any]] = {
    status: {"model": Problem, "content": {"application/problem+json": {}}} for status in _STATUSES
}
PROBLEM_RESPONSES: dict[int | str, dict[str, Any]] = {
    status: {
        "description": HTTPStatus(status).phrase,
        "content": {"application/problem+json": {"schema": {"$ref": f"#/components/schemas/{Problem.__name__}"}}},
    }
    for status in _STATUSES
}


def problem(status: int, detail: str, refused: Sequence[Refusal] = ()) -> JSONResponse:
    """The answer for one refusal. Half a character that it quotes from the request is shown as a question mark."""
    body = Problem(
        title=HTTPStatus(status).phrase,
        status=status,
        detail=_writable(detail),
        errors=[FieldProblem(field=_writable(one.field), sentence=_writable(one.sentence)) for one in refused],
    )
    return JSONResponse(body.model_dump(), status_code=status, media_type="application/problem+json")


def answer_with_problems(app: FastAPI, data: Path) -> None:
    """Turn every exception a route may raise into its problem, in this one place. `data`: the data folder."""

    @app.exception_handler(RequestValidationError)
    def invalid(_request: Request, error: RequestValidationError) -> JSONResponse:
        if all(place["loc"][0] == "path" for place in error.errors()):
            return problem(404, "there is nothing of that number")
        refused = [_within_body(refusal) for refusal in refusals_from(error.errors())]
        return problem(422, str(refused[0]), refused)

    @app.exception_handler(PocketSparkError)
    def ours(_request: Request, error: PocketSparkError) -> JSONResponse:
        return problem(error.status, str(error), getattr(error, "refusals", ()))

    @app.exception_handler(HTTPException)
    def other(request: Request, error: HTTPException) -> JSONResponse:
        detail = _OF_THE_FRAMEWORK.get(error.status_code, "").format(method=request.method, path=request.url.path[:200])
        answer = problem(error.status_code, detail or str(error.detail))
        answer.headers.update(error.headers or {})
        return answer

    @app.exception_handler(DBAPIError)
    def data_failed(request: Request, error: DBAPIError) -> JSONResponse:
        failure = why_not(error, data)
        logger.error("%s %s failed: %s", request.method, request.url.path, failure)
        return problem(507 if isinstance(failure, NotWritable) else 500, str(failure))

    @app.exception_handler(Exception)
    def unforeseen(request: Request, error: Exception) -> JSONResponse:
        number = secrets.token_hex(3)
        logger.error("fault %s: %s %s", number, request.method, request.url.path, exc_info=error)
        sentence = f"This went wrong inside Pocket Spark. {NAME} in your data folder says more of it, as fault {number}"
        return problem(500, sentence)


def _writable(text: str) -> str:
    """No more of it than a person reads: a refusal may quote what was sent."""
    whole = text.encode(errors="replace").decode()
    return whole if len(whole) <= _LONGEST else f"{whole[:_LONGEST]} ..."


_LONGEST = 600


# What the web framework says in its own words.
_OF_THE_FRAMEWORK: Mapping[int, str] = {
    400: "the body cannot be read: it is not JSON",
    405: "{path} does not take {method}",
}


def _within_body(refusal: Refusal) -> Refusal:
    """The field as the document names it, without where in the request it stood."""
    field = refusal.field.removeprefix("body.").removeprefix("query.").removeprefix("path.")
    return Refusal("" if field in ("body", "query", "path") else field, refusal.sentence)
