"""Papers: start sheet, wire list, tables, figures."""

from __future__ import annotations

import dataclasses
import datetime as dt
from typing import cast

from flask import Response, request

from .. import store
from ..core.asked import Guesses, TriggerDepth
from ..core.plan import Plan
from ..core.stages.tune.in_use import tables_in_use
from ..formats import (
    air_sheet,
    engine_sheet,
    evening_sheet,
    flow_sheet,
    form_board,
    harness_sheets,
    hose_tags,
    order_sheet,
    road_sheet,
    scope_csv,
    sensor_card,
    start_sheet,
    station_sheet,
    timing_card,
    trigger_card,
    tune_book,
    tune_sheet,
    tune_tables,
    wire_labels,
    wire_list,
)
from ..formats.printing import FONTS_AT, font
from .door import attachment, database, opened, press, remembered
from .interface import Interface
from .models import BuildPath, FontPath, PaperQuery, TablePath

api = Interface("papers", __name__, "/api/builds/<uuid:build_id>/papers", refuses=(404, 503))


letters = Interface("letters", __name__, FONTS_AT, under="papers", refuses=(404,))


@letters.get("/<string:key>", summary="The letters of the papers, by their file")
def font_file(path: FontPath) -> Response:
    data = font(path.key)
    if data is None:
        raise store.NotFound(f"There are no letters {path.key!r}.")
    return Response(data, mimetype="font/woff2", headers={"Cache-Control": "private, max-age=604800"})


def _plan(path: BuildPath, query: PaperQuery) -> tuple[Plan, int]:
    found = opened(path.build_id, query.revision)
    return found.standing.plan, found.revision.number


def today() -> str:
    """The date printed on a paper."""
    return dt.datetime.now(dt.UTC).date().isoformat()


@api.get("/start-sheet.html", summary="The first-start sheet as a page")
def sheet_page(path: BuildPath, query: PaperQuery) -> Response:
    plan, number = _plan(path, query)
    return Response(start_sheet.html(plan, f"revision {number}", today()), mimetype="text/html")


@api.get("/start-sheet.pdf", summary="The first-start sheet as PDF")
def sheet_pdf(path: BuildPath, query: PaperQuery) -> Response:
    plan, number = _plan(path, query)
    return Response(
        start_sheet.pdf(plan, f"revision {number}", today(), press()),
        mimetype="application/pdf",
        headers=attachment(plan.name, "first-start.pdf"),
    )


@api.get("/wire-list.csv", summary="The wire list")
def wires(path: BuildPath, query: PaperQuery) -> Response:
    plan, _ = _plan(path, query)
    return Response(wire_list.write(plan), mimetype="text/csv", headers=attachment(plan.name, "wires.csv"))


@api.get("/test-sheet.csv", summary="The test sheet: what to read at each wire in each position of the key, and what was read")
def test_sheet(path: BuildPath, query: PaperQuery) -> Response:
    plan, _ = _plan(path, query)
    return Response(harness_sheets.tests_csv(plan), mimetype="text/csv", headers=attachment(plan.name, "test-sheet.csv"))


@api.get("/cut-list.csv", summary="Wire to cut and to buy, by size and colour")
def cut_list(path: BuildPath, query: PaperQuery) -> Response:
    plan, _ = _plan(path, query)
    return Response(harness_sheets.cut_list(plan), mimetype="text/csv", headers=attachment(plan.name, "cut-list.csv"))


@api.get("/wire-labels.pdf", summary="Labels for both ends of every wire, as PDF")
def labels(path: BuildPath, query: PaperQuery) -> Response:
    plan, _ = _plan(path, query)
    address = f"{request.url_root.rstrip('/')}/b/{path.build_id}"
    return Response(wire_labels.pdf(plan, address, press()), mimetype="application/pdf", headers=attachment(plan.name, "wire-labels.pdf"))


@api.get("/form-board.svg", summary="The form board to full size, as SVG in millimetres")
def board(path: BuildPath, query: PaperQuery) -> Response:
    plan, _ = _plan(path, query)
    return Response(form_board.svg(plan), mimetype="image/svg+xml", headers=attachment(plan.name, "form-board.svg"))


@api.get("/form-board/<string:key>.pdf", summary="The form board on sheets to glue together: a4 or a3")
def board_sheets(path: TablePath, query: PaperQuery) -> Response:
    plan, _ = _plan(path, query)
    if path.key not in form_board.PAPERS:
        raise store.NotFound(f"There is no paper {path.key!r} for it; there are {', '.join(form_board.PAPERS)}.")
    return Response(
        form_board.pdf(plan, path.key, press()), mimetype="application/pdf", headers=attachment(plan.name, f"form-board-{path.key}.pdf")
    )


@api.get("/figures.csv", summary="Every figure")
def figures(path: BuildPath, query: PaperQuery) -> Response:
    plan, _ = _plan(path, query)
    return Response(wire_list.figures(plan), mimetype="text/csv", headers=attachment(plan.name, "figures.csv"))


@api.get("/tune.json", summary="Every table and the constants")
def tune(path: BuildPath, query: PaperQuery) -> Response:
    plan, _ = _plan(path, query)
    return Response(tune_tables.all_json(plan), mimetype="application/json", headers=attachment(plan.name, "tune.json"))


@api.get("/tune.xlsx", summary="The tune as a workbook, a sheet a table")
def workbook(path: BuildPath, query: PaperQuery) -> Response:
    plan, number = _plan(path, query)
    kind = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
    return Response(tune_book.book(plan, f"revision {number}", today()), mimetype=kind, headers=attachment(plan.name, "tune.xlsx"))


@api.get("/tables/<string:key>.csv", summary="One table")
def table(path: TablePath, query: PaperQuery) -> Response:
    plan, _ = _plan(path, query)
    tables = tables_in_use(plan.stages.tune.tables, plan.stages.in_use)
    found = next((t for t in tables if t.key == path.key), None)
    if found is None:
        raise store.NotFound(f"There is no table {path.key!r}; there are {', '.join(t.key for t in tables)}.")
    return Response(tune_tables.table_csv(found), mimetype="text/csv", headers=attachment(plan.name, f"{found.key}.csv"))


@api.get("/hose-tags.pdf", summary="Tags for the vacuum hoses as PDF")
def tags(path: BuildPath, query: PaperQuery) -> Response:
    found = opened(path.build_id, query.revision).standing
    plan, build = found.plan, found.build
    shown = [key for consumer in build.air.consumers for key in consumer.photos[:1]]
    return Response(
        hose_tags.pdf(plan, build, small_photos(shown), press()), mimetype="application/pdf", headers=attachment(plan.name, "hose-tags.pdf")
    )


@api.get("/evening.pdf", summary="What to measure this evening, as PDF")
def evening(path: BuildPath, query: PaperQuery) -> Response:
    found = opened(path.build_id, query.revision)
    plan, told = found.standing.plan, cast(Guesses, remembered().answer(found.standing, "guesses"))
    written = station_sheet.pdf(evening_sheet.sheet(plan, told), plan, f"revision {found.revision.number}", today(), press())
    return Response(written, mimetype="application/pdf", headers=attachment(plan.name, "evening.pdf"))


#: The one-page sheet of each station that has one.
SHEETS = {
    "engine": engine_sheet.sheet, "flow": flow_sheet.sheet, "air": air_sheet.sheet, "sensors": sensor_card.sheet, "trigger": trigger_card.sheet,
    "timing": timing_card.sheet, "order": order_sheet.sheet, "tests": harness_sheets.tests, "fuses": harness_sheets.fuses, "connectors": harness_sheets.connectors, "which-wire": harness_sheets.which_wire, "hand-over": harness_sheets.hand_over,
    "tune": tune_sheet.sheet, "road": road_sheet.sheet,
}  # fmt: skip


@api.get(
    "/sheets/<string:key>.pdf",
    summary="The one-page sheet of a station as PDF: engine, flow, air, sensors, trigger, timing, order, tests, fuses, connectors, which-wire, hand-over, tune, road",
)
def station_pdf(path: TablePath, query: PaperQuery) -> Response:
    if path.key not in SHEETS:
        raise store.NotFound(f"There is no sheet {path.key!r}; there are {', '.join(SHEETS)}.")
    found = opened(path.build_id, query.revision)
    rev, plan, build = found.revision, found.standing.plan, found.standing.build
    bare = SHEETS[path.key](plan, build, {})
    photos = small_photos([key for pictures in bare.pictures for key, _ in pictures.shown])
    written = station_sheet.pdf(dataclasses.replace(bare, photos=photos), plan, f"revision {rev.number}", today(), press())
    return Response(written, mimetype="application/pdf", headers=attachment(plan.name, f"{path.key}.pdf"))


@api.get("/sheets/<string:key>.csv", summary="The tables of a station's sheet as CSV")
def station_csv(path: TablePath, query: PaperQuery) -> Response:
    if path.key not in SHEETS:
        raise store.NotFound(f"There is no sheet {path.key!r}; there are {', '.join(SHEETS)}.")
    found = opened(path.build_id, query.revision).standing
    written = station_sheet.csv(SHEETS[path.key](found.plan, found.build, {}))
    return Response(written, mimetype="text/csv", headers=attachment(found.plan.name, f"{path.key}.csv"))


def small_photos(keys: list[str]) -> dict[str, bytes]:
    """The small pictures of those that are kept here."""
    if not keys:
        return {}
    with database().work() as session:
        return store.small_photos(session, keys)


@api.get("/signals.csv", summary="Crank and phase signals over two turns, to compare with a scope")
def signals_csv(path: BuildPath, query: PaperQuery) -> Response:
    found = opened(path.build_id, query.revision)
    depth = cast("TriggerDepth | None", remembered().answer(found.standing, "trigger"))
    if depth is None or not depth.signals:
        raise store.NotFound("There are no signals to write: the trigger wheel or its angle is not described.")
    return Response(scope_csv.write(depth), mimetype="text/csv", headers=attachment(found.row.name, "signals.csv"))


@api.get("/adc/<string:key>.csv", summary="A sender's table: temperature, ohms, volts; coolant or air")
def adc(path: TablePath, query: PaperQuery) -> Response:
    plan, _ = _plan(path, query)
    curve = {"coolant": plan.stages.sensors.coolant, "air": plan.stages.sensors.air}.get(path.key)
    if curve is None:
        raise store.NotFound(f"There is no table {path.key!r}: coolant or air, once its points are entered.")
    return Response(scope_csv.adc_table(curve), mimetype="text/csv", headers=attachment(plan.name, f"{path.key}-table.csv"))
