"""The tune as a workbook (ECMA-376): a sheet a table, cells in ink set bold, constants on the first."""

from __future__ import annotations

import io
import re

from openpyxl import Workbook
from openpyxl.styles import Alignment, Font, PatternFill
from openpyxl.utils import get_column_letter
from openpyxl.worksheet.worksheet import Worksheet

from ..core.given.kept import MADE
from ..core.plan import Plan
from ..core.stages.tune import Table
from ..core.stages.tune.in_use import InUse
from .cells import as_text
from .tune_tables import CONSTANTS, typed_in

_AXIS = PatternFill("solid", fgColor="E8E4D8")
_BOLD = Font(bold=True)


def book(plan: Plan, revision: str, printed: str) -> bytes:
    """The workbook."""
    found = Workbook()
    first = found.active
    assert isinstance(first, Worksheet), "a new workbook has a sheet"
    _front(first, plan, revision, printed)
    for table in typed_in(plan):
        _sheet(found.create_sheet(_name(table.title, found.sheetnames)), table)
    out = io.BytesIO()
    found.save(out)
    return out.getvalue()


def _front(sheet: Worksheet, plan: Plan, revision: str, printed: str) -> None:
    sheet.title = "Figures"
    use: InUse = plan.stages.in_use
    rows: list[tuple[object, ...]] = [
        (plan.name,),
        (f"{revision}, {printed}",),
        (f"Made of {MADE[use.made]}",),
        ("A base to start and be driven gently with, not a finished tune. The part maker's data come first.",),
        (),
        ("Figure", "Value", "Unit"),
        *((plan.figures[n].label, plan.figures[n].value, plan.figures[n].unit) for n in CONSTANTS),
        *((c.title, c.value, c.unit) for c in plan.stages.tune.constants),
    ]
    for row in rows:
        sheet.append([as_text(cell) for cell in row])
    for cell in (*sheet[1], *sheet[6]):
        cell.font = _BOLD
    sheet.column_dimensions["A"].width = 58


def _sheet(sheet: Worksheet, table: Table) -> None:
    """Axes in the first row and column, so that it is read in again as it is."""
    if table.y_label is None:
        sheet.append([table.x_label, f"{table.title} [{table.unit}]"])
        for x, value in zip(table.x, table.rows[0], strict=True):
            sheet.append([x, value])
    else:
        sheet.append([f"{table.title} [{table.unit}]; rows {table.y_label}; columns {table.x_label}", *table.x])
        for y, row in zip(table.y, table.rows, strict=True):
            sheet.append([y, *row])
        for i, j in table.ink:
            sheet.cell(i + 2, j + 2).font = _BOLD
    for cell in sheet[1]:
        cell.font, cell.fill, cell.alignment = _BOLD, _AXIS, Alignment(wrap_text=True, vertical="top")
    for line in sheet.iter_rows(min_row=2, max_col=1):
        line[0].font, line[0].fill = _BOLD, _AXIS
    sheet.freeze_panes = "B2"
    sheet.column_dimensions["A"].width = 26
    for k in range(2, len(table.x) + 2):
        sheet.column_dimensions[get_column_letter(k)].width = 8.5


def _name(title: str, taken: list[str]) -> str:
    """A sheet's name: 31 signs at most, none of those that a workbook refuses, each once."""
    bare = re.sub(r"[\[\]:*?/\\]", " ", title.split(",")[0] if title.split(",")[0] not in taken else title)[:31].strip()
    return bare if bare not in taken else f"{bare[:28]} {len(taken)}"
