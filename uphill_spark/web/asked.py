"""What takes a while and is worked out on asking: one address, which answers ready, running or failed."""

from __future__ import annotations

import logging

from flask import Response
from flask_openapi3 import APIBlueprint, Tag

from ..core.errors import SparkError
from .door import json_answer, opened, remembered
from .errors import ErrorBody
from .models import AskedAnswer, AskedPath, PaperQuery
from .moved import joined

api = APIBlueprint(
    "asked",
    __name__,
    url_prefix="/api/builds/<uuid:build_id>/asked",
    abp_tags=[Tag(name="asked")],
    abp_responses={404: ErrorBody, 422: ErrorBody, 503: ErrorBody},
)
log = logging.getLogger("uphill_spark")


@api.get(
    "/<string:subject>", responses={200: AskedAnswer}, summary="Something that takes a while, on one revision: ask again while it runs"
)
def asked(path: AskedPath, query: PaperQuery) -> Response:
    found = opened(path.build_id, query.revision)
    future = remembered().asked(found.standing, path.subject).future
    number = found.revision.number
    if not future.done():
        return json_answer(joined(revision=number, state="running", answer=None, why=""))
    error = future.exception()
    if error is not None:
        if not isinstance(error, SparkError):
            log.error("asked for %s of build %s", path.subject, path.build_id, exc_info=error)
        why = str(error) if isinstance(error, SparkError) else "Something went wrong in working this out. The server's log says what."
        return json_answer(joined(revision=number, state="failed", answer=None, why=why))
    return json_answer(joined(revision=number, state="ready", answer=future.result(), why=""))
