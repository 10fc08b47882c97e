"""The tables on paper: what is typed into the control unit, to lie beside the laptop."""

from __future__ import annotations

from collections.abc import Mapping

from ..core.given import Build
from ..core.given.kept import MADE
from ..core.plan import Plan
from ..core.stages.tune import Table
from .station_sheet import Block, Sheet
from .tune_tables import typed_in

_WIDE = 9  # columns of a grid that stand beside each other on a sheet


def sheet(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """The sheet."""
    tables = typed_in(plan)
    return Sheet(
        station="tune", title="Tables to type in",
        lead=f"Made of {MADE[plan.stages.in_use.made]}. Good enough to start and be driven gently; the road finishes it.",
        cautions=["Laptop on mains, a charger on the battery while you write: a unit that loses its volts in the midst of it may be dead.", "Listen for knock. The part maker's data come first."],
        figures=("tune.full_cylinder_pulse", "injectors.nominal", "tune.table_duty.full", "tune.spark.full", "tune.ve.full.peak"),
        blocks=[
            Block("Limits and switches", [(c.title, f"{c.value:g} {c.unit}", c.why) for c in plan.stages.tune.constants]),
            *(block for t in tables if t.y for block in _grid(t)),
            *(_curve(t) for t in tables if not t.y),
        ],
        photos=photos, most=3,
    )  # fmt: skip


def _grid(table: Table) -> list[Block]:
    """A grid, the highest load on top as on screen, in as many parts as a sheet is too narrow for."""
    mine = {tuple(cell) for cell in table.ink}
    parts = []
    for begin in range(0, len(table.x), _WIDE):
        columns = range(begin, min(begin + _WIDE, len(table.x)))
        rows = [
            (f"{table.y[i]:g}", *(f"{table.rows[i][j]:g}{' *' if (i, j) in mine else ''}" for j in columns))
            for i in reversed(range(len(table.y)))
        ]
        title = f"{table.title}, {table.unit}" + (f", from {table.x[begin]:g} rpm" if begin else "")
        note = "" if begin else f"Rows: {table.y_label}. {'* written by hand. ' if mine else ''}Doubt: {table.doubt}."
        parts.append(Block(title, rows, ("", *(f"{table.x[j]:g}" for j in columns)), note=note))
    return parts


def _curve(table: Table) -> Block:
    return Block(
        f"{table.title}, {table.unit}", [("", *(f"{v:g}" for v in table.rows[0]))], (table.x_label, *(f"{v:g}" for v in table.x)), note=f"Doubt: {table.doubt}."
    )  # fmt: skip
