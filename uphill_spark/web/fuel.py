"""The fuel station on asking: looked at longer, a change tried while it is dragged, its papers."""

from __future__ import annotations

from typing import Any

from flask import Response
from flask_openapi3 import APIBlueprint, Tag

from .. import store
from ..core.stages.fuel import FuelResult
from ..core.stages.fuel.changes import tried
from ..core.stages.fuel.depth import FuelDepth
from ..formats import fuel_sheet
from .builds import attachment, database, json_answer, plans
from .errors import ErrorBody
from .models import BuildPath, PaperQuery, TrialRequest
from .papers import revision_of, today

api = APIBlueprint(
    "fuel",
    __name__,
    url_prefix="/api",
    abp_tags=[Tag(name="fuel")],
    abp_responses={404: ErrorBody, 422: ErrorBody, 503: ErrorBody},
)


@api.get(
    "/builds/<uuid:build_id>/fuel", responses={200: FuelDepth}, summary="The fuel system looked at longer: cases, doubt, advice, shelf"
)
def depth(path: BuildPath, query: PaperQuery) -> Response:
    return json_answer(plans().fuel_depth(revision_of(path, query)).model_dump_json())


@api.post("/builds/<uuid:build_id>/fuel/trial", responses={200: FuelResult}, summary="A change tried on the fuel system, nothing stored")
def trial(path: BuildPath, body: TrialRequest) -> Response:
    def read() -> dict[str, Any]:
        with database().work() as session:
            return store.revision(session, path.build_id, body.base).document

    return json_answer(tried(plans().document(path.build_id, body.base, read), body.patch).model_dump_json())


@api.get("/builds/<uuid:build_id>/papers/fuel-sheet.pdf", summary="The fuel sheet as PDF")
def fuel_pdf(path: BuildPath, query: PaperQuery) -> Response:
    rev = revision_of(path, query)
    plan = plans().of(rev)
    written = fuel_sheet.pdf(plan, plans().fuel_depth(rev), f"revision {rev.number}", today())
    return Response(written, mimetype="application/pdf", headers=attachment(plan.name, "fuel.pdf"))


@api.get("/builds/<uuid:build_id>/papers/fuel-parts.csv", summary="What the fuel station needs from the shop")
def fuel_parts(path: BuildPath, query: PaperQuery) -> Response:
    rev = revision_of(path, query)
    text = fuel_sheet.shopping_csv(plans().fuel_depth(rev))
    return Response(text, mimetype="text/csv", headers=attachment(rev.document["name"], "fuel-parts.csv"))
