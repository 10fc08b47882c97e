"""Tables of the bench in and out as CSV: a pump's sheet, the box of injectors, the flow bench."""

from __future__ import annotations

from typing import Any

from flask import Response

from .. import store
from ..core.given import Build
from ..formats.csv_table import TABLES, Table
from .door import attachment, json_answer, opened
from .interface import Interface
from .models import BuildTablePath, PaperQuery, TableKind, TableRows, TableText

api = Interface("tables", __name__, "/api")


def _table(kind: str) -> Table:
    if kind not in TABLES:
        raise store.NotFound(f"There is no table {kind!r}; there are {', '.join(TABLES)}.")
    return TABLES[kind]


@api.post("/tables/<string:kind>", responses={200: TableRows}, summary="A table read from CSV, as rows of the build document")
def read(path: TableKind, body: TableText) -> Response:
    return json_answer(TableRows(rows=_table(path.kind).read(body.text, body.columns, body.points)).model_dump_json())


@api.get("/builds/<uuid:build_id>/papers/rows/<string:kind>.csv", summary="A table of a build as CSV")
def written(path: BuildTablePath, query: PaperQuery) -> Response:
    table = _table(path.kind)
    build = opened(path.build_id, query.revision).standing.build
    return Response(table.write(_rows(build, path.kind)), mimetype="text/csv", headers=attachment(build.name, f"{path.kind}.csv"))


def _rows(build: Build, kind: str) -> list[Any]:
    s = build.sensors
    rows: dict[str, list[Any]] = {
        "coolant": [*s.coolant.points] if s.coolant else [],
        "air": [*s.air.points] if s.air else [],
        "pump": [*build.fuel.pump.curve],
        "injector-box": [*build.injectors.box],
        "flow-bench": [*build.injectors.bench],
        "loom": [*build.wiring.loom],
        "pins": [*build.wiring.unit.pins],
    }
    return rows[kind]
