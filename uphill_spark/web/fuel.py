"""The fuel station: a change tried while it is dragged, its papers."""

from __future__ import annotations

from typing import cast

from flask import Response

from ..core.asked import FuelDepth, under_the_hand
from ..core.stages.fuel import FuelResult
from ..formats import fuel_sheet
from .door import Opened, attachment, json_answer, opened, press, remembered
from .interface import Interface
from .models import BuildPath, PaperQuery, TrialRequest
from .moved import Drawn
from .papers import today

api = Interface("fuel", __name__, "/api")


@api.post("/builds/<uuid:build_id>/fuel/trial", responses={200: FuelResult}, summary="A change tried on the fuel system, nothing stored")
def trial(path: BuildPath, body: TrialRequest) -> Response:
    standing = opened(path.build_id, body.base).standing
    return json_answer(Drawn(under_the_hand(standing.document, standing.worked, [op.told() for op in body.patch])).model_dump_json())


@api.get("/builds/<uuid:build_id>/papers/fuel-sheet.pdf", summary="The fuel sheet as PDF")
def fuel_pdf(path: BuildPath, query: PaperQuery) -> Response:
    found = opened(path.build_id, query.revision)
    plan = found.standing.plan
    written = fuel_sheet.pdf(plan, _depth(found), f"revision {found.revision.number}", today(), press())
    return Response(written, mimetype="application/pdf", headers=attachment(plan.name, "fuel.pdf"))


@api.get("/builds/<uuid:build_id>/papers/fuel-parts.csv", summary="What the fuel station needs from the shop")
def fuel_parts(path: BuildPath, query: PaperQuery) -> Response:
    found = opened(path.build_id, query.revision)
    return Response(fuel_sheet.shopping_csv(_depth(found)), mimetype="text/csv", headers=attachment(found.row.name, "fuel-parts.csv"))


def _depth(found: Opened) -> FuelDepth:
    return cast(FuelDepth, remembered().answer(found.standing, "fuel"))
