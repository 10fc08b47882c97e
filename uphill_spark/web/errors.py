"""Every error a person may meet, as one shape: a code, a sentence, and the fields that are meant. Never a traceback."""

from __future__ import annotations

import logging

from flask import Response, request
from flask_openapi3 import OpenAPI
from pydantic import BaseModel, ValidationError
from werkzeug.exceptions import HTTPException

from ..core.errors import BuildError, FormatError, NoBus, NotConverged, PatchError, PhotoError, TableError, WorkedTooLong
from ..core.given.document import problem_of
from ..store import Busy, Full, IdTaken, NotFound, NothingToDo, Stale, StoreDown, TooEarly
from .limits import limit_words
from .printing import TooLong
from .schema_once import SchemaOnce
from .standing import CannotBeWorkedOut

log = logging.getLogger("uphill_spark")


class FieldProblem(BaseModel):
    """A field that was not taken: where, what was given, what would do."""

    at: str
    given: str
    wants: str


class Between(BaseModel):
    """A revision that came in between."""

    number: int
    who: str
    summary: str
    patch: list[dict[str, object]]


class ErrorBody(SchemaOnce):
    """What an answer with a status of 400 and more holds. `head` and `between` come with a stale change, `whole` tells whether that is all that came between;
    `heading` and `wanted` with a table whose columns have to be named."""

    code: str
    message: str
    problems: list[FieldProblem] = []
    head: int | None = None
    between: list[Between] = []
    whole: bool = True
    heading: list[str] = []
    wanted: list[str] = []


#: Status and code by the kind of error. The first kind that fits is taken.
_KINDS: tuple[tuple[type[Exception], int, str], ...] = (
    (FormatError, 422, "not_a_build_file"),
    (PhotoError, 422, "photo_not_acceptable"),
    (PatchError, 422, "edit_does_not_fit"),
    (TableError, 422, "table_asks"),
    (BuildError, 422, "build_not_acceptable"),
    (NotFound, 404, "not_found"),
    (NothingToDo, 409, "nothing_to_do"),
    (TooEarly, 409, "too_early"),
    (IdTaken, 422, "id_taken"),
    (Full, 422, "store_full"),
    (Busy, 503, "busy"),
    (TooLong, 503, "too_long"),
    (Stale, 409, "stale"),
    (StoreDown, 503, "store_down"),
    (NotConverged, 422, "not_converged"),
    (WorkedTooLong, 422, "worked_too_long"),
    (NoBus, 422, "no_bus"),
    (CannotBeWorkedOut, 422, "cannot_be_worked_out"),
)


def answer(status: int, body: ErrorBody) -> Response:
    """An error as the page gets it."""
    response = Response(body.model_dump_json(), status=status, mimetype="application/json")
    if status == 503:
        response.headers["Retry-After"] = "2"
    return response


def known(error: Exception) -> Response:
    """The answer to an error that is expected to happen."""
    status, code = next((s, c) for kind, s, c in _KINDS if isinstance(error, kind))
    body = ErrorBody(code=code, message=str(error))
    if isinstance(error, BuildError):
        body.message = error.message
        body.problems = [FieldProblem(at=p.at, given=p.given, wants=p.wants) for p in error.problems]
    if isinstance(error, TableError):
        body.heading, body.wanted = [*error.heading], [*error.wanted]
    if isinstance(error, Stale):
        body.message = f"The build has moved on to revision {error.head}."
        body.head, body.whole = error.head, error.whole
        body.between = [Between(number=r.number, who=r.who, summary=r.summary, patch=r.patch) for r in error.between]
    if isinstance(error, CannotBeWorkedOut):
        log.error("a build cannot be worked out at %s %s", request.method, request.path, exc_info=error.__cause__)
    if isinstance(error, StoreDown):
        body.message = "The store does not answer. Nothing was lost on this page; it is tried again."
    return answer(status, body)


def invalid_request(error: ValidationError) -> Response:
    """The answer to a request whose body, path or query does not fit."""
    problems = [problem_of(e) for e in error.errors(include_url=False)[:20]]
    return answer(
        422,
        ErrorBody(
            code="request_not_acceptable",
            message="The request cannot be taken.",
            problems=[FieldProblem(at=p.at, given=p.given, wants=p.wants) for p in problems],
        ),
    )


def register(app: OpenAPI) -> None:
    """Let every error be answered in one form, without a traceback."""
    for kind, _, _ in _KINDS:
        app.register_error_handler(kind, known)

    def http(error: HTTPException) -> Response:
        status = error.code or 500
        words = {404: "There is nothing at this address.", 405: "This address does not take that method.", 413: f"That is too large: {limit_words(request.path)}.",
                 415: "Send JSON, or a file where one is taken.", 400: "The request cannot be read as JSON."}  # fmt: skip
        return answer(status, ErrorBody(code=f"http_{status}", message=words.get(status, error.description or error.name)))

    def unexpected(error: Exception) -> Response:
        if type(error).__module__.startswith("gunicorn."):  # a body that the server cannot read is its sender's
            return answer(400, ErrorBody(code="http_400", message="The request cannot be read: it breaks off, or its pieces do not fit."))
        log.exception("unexpected error at %s %s", request.method, request.path)
        return answer(
            500,
            ErrorBody(
                code="unexpected", message="Something went wrong that should not have. Nothing was stored. The server's log says what."
            ),
        )

    def late(_: TimeoutError) -> Response:
        return answer(408, ErrorBody(code="too_slow", message="The request did not come to its end in time. Nothing was stored."))

    app.register_error_handler(TimeoutError, late)
    app.register_error_handler(HTTPException, http)
    app.register_error_handler(Exception, unexpected)
