"""Tune tables: one CSV a table with units in the header row, and one JSON that holds all."""

from __future__ import annotations

import json

from ..core.plan import Plan
from ..core.stages.tune import Table
from .cells import written

FORMAT, VERSION = "uphill-spark-tune", 1


def table_csv(table: Table) -> str:
    """A grid as rows of load over speed, a curve as two columns. The first cell names the axes and the unit."""
    if table.y_label is None:
        return written([[table.x_label, f"{table.title} [{table.unit}]"], *zip(table.x, table.rows[0], strict=True)])
    head = [f"{table.title} [{table.unit}]; rows {table.y_label}; columns {table.x_label}", *table.x]
    return written([head, *([y, *row] for y, row in zip(table.y, table.rows, strict=True))])


def all_json(plan: Plan) -> str:
    """Every table and the constants at the top, with units."""
    t = plan.stages.tune
    names = ("tune.full_cylinder_pulse", "injectors.nominal", "engine.fuel_mass_flow")
    return json.dumps(
        {
            "format": FORMAT,
            "version": VERSION,
            "build": plan.name,
            "load_signal": t.load_signal,
            "constants": {
                name: {"value": plan.figures[name].value, "unit": plan.figures[name].unit, "label": plan.figures[name].label}
                for name in names
            },
            "tables": [table.model_dump() for table in t.tables],
        },
        indent=1,
        ensure_ascii=False,
    )
