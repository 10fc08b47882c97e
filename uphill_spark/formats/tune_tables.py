"""Tune tables: one CSV a table with units in the header row, and one JSON that holds all; what is written is read in again as it was."""

from __future__ import annotations

import json

from ..core.plan import Plan
from ..core.stages.tune import Table
from ..core.stages.tune.in_use import tables_in_use
from .cells import written

FORMAT, VERSION = "uphill-spark-tune", 2
CONSTANTS = ("tune.full_cylinder_pulse", "injectors.nominal", "engine.fuel_mass_flow")


def table_csv(table: Table) -> str:
    """A grid as rows of load over speed, a curve as two columns. The first cell names the axes and the unit."""
    if table.y_label is None:
        return written([[table.x_label, f"{table.title} [{table.unit}]"], *zip(table.x, table.rows[0], strict=True)])
    head = [f"{table.title} [{table.unit}]; rows {table.y_label}; columns {table.x_label}", *table.x]
    return written([head, *([y, *row] for y, row in zip(table.y, table.rows, strict=True))])


def typed_in(plan: Plan) -> list[Table]:
    """The tables that are typed in: those in use, without what a distributor keeps for itself."""
    s = plan.stages
    return [t for t in tables_in_use(s.tune.tables, s.in_use) if not t.hidden]


def all_json(plan: Plan) -> str:
    """Every table and the constants at the top, with units."""
    t, use = plan.stages.tune, plan.stages.in_use
    return json.dumps(
        {
            "format": FORMAT,
            "version": VERSION,
            "build": plan.name,
            "load_signal": t.load_signal,
            "made_of": use.made,
            "constants": {
                name: {"value": plan.figures[name].value, "unit": plan.figures[name].unit, "label": plan.figures[name].label}
                for name in CONSTANTS
            },
            "limits": [c.model_dump() for c in t.constants],
            "tables": [table.model_dump() for table in typed_in(plan)],
        },
        indent=1,
        ensure_ascii=False,
    )
