"""What a person waits for at the tune: quick tables inside an edit, an act on cells, a workbook, tables read in."""

from __future__ import annotations

import statistics
from collections.abc import Callable
from typing import Any

from bench.fuel import Rows
from tests.builds import document, worked
from uphill_spark.core.given import apply_edit, parse
from uphill_spark.core.plan import evaluate, evaluated
from uphill_spark.core.stages import tune
from uphill_spark.formats import tune_book, tune_tables
from uphill_spark.formats.tune_read import read_tables


def core(table: Rows, milliseconds: Callable[[Callable[[], Any], int], list[float]]) -> None:
    """On the Tern."""
    doc, w = document("tern"), worked("tern")
    stands = evaluated(parse(doc))
    plan = evaluate(parse(doc))
    text = tune_tables.all_json(plan)

    def median(work: Callable[[], Any], times: int) -> float:
        return statistics.median(milliseconds(work, times))

    def act() -> None:
        cells = {"do": "percent", "typed": "3", "from": [3, 2], "to": [6, 8]}
        build = apply_edit(doc, [{"op": "replace", "path": "/tune/kept/tables/ve", "cells": cells}])[2]
        evaluated(build, stands)

    table.row("tune: quick tables, Tern, median", 2.0, median(lambda: tune.work_out(w.build, w.engine, w.injectors, w.ignition), 40))
    table.row("tune: an act on 28 cells, and what follows, median", 20.0, median(act, 40))
    table.row("tune: workbook written, median", 300.0, median(lambda: tune_book.book(plan, "revision 1", "2026-01-01"), 5))
    table.row("tune: our own file read in, median", None, median(lambda: read_tables(text, w), 10))
