"""What takes a while and is worked out on asking: a station's questions, the trigger on the scope."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import APIBlueprint, Tag

from .. import store
from ..core.stages.trigger.scope import TriggerDepth
from .builds import json_answer, plans
from .errors import ErrorBody
from .models import BuildPath, PaperQuery, Questions, QuestionsPath
from .papers import revision_of

api = APIBlueprint(
    "asked",
    __name__,
    url_prefix="/api/builds/<uuid:build_id>",
    abp_tags=[Tag(name="asked")],
    abp_responses={404: ErrorBody, 422: ErrorBody, 503: ErrorBody},
)


@api.get("/questions/<string:station>", responses={200: Questions}, summary="A station's questions, every answer tried")
def questions(path: QuestionsPath, query: PaperQuery) -> Response:
    rev = revision_of(path, query)
    return json_answer(Questions(revision=rev.number, questions=plans().questions(rev, path.station)).model_dump_json())


@api.get("/trigger", responses={200: TriggerDepth}, summary="The trigger on the scope: signals, cranking, volts of a coil")
def trigger(path: BuildPath, query: PaperQuery) -> Response:
    found = plans().trigger_depth(revision_of(path, query))
    if found is None:
        raise store.NotFound("There is no trigger wheel in this build.")
    return json_answer(found.model_dump_json())
