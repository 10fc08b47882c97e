"""A pump's sheet as CSV: volts, pressure, flow, current, one point in a row. Any unit, in the heading or behind the number."""

from __future__ import annotations

import csv
import io
import re

from ..core.build.fuel import PumpPoint
from ..core.errors import BuildError, Problem, UnitError
from ..core.units import si

MAX_ROWS = 200
#: Columns by their place where there is no heading: key, dimension, unit of a bare number.
COLUMNS = (
    ("voltage", "voltage", "V"),
    ("pressure", "pressure", "kPa"),
    ("flow", "volume flow", "L/h"),
    ("current", "current", "A"),
)
Row = dict[str, str]


def read(text: str) -> list[Row]:
    """Rows as the build document has them. Raises BuildError that names each line that cannot be read."""
    lines = [line for line in text.splitlines() if line.strip()]
    rows = list(csv.reader(lines, delimiter=_delimiter(lines))) if lines else []
    columns = [(i, key, dimension, unit) for i, (key, dimension, unit) in enumerate(COLUMNS)]
    first = 1
    if rows and not any(re.match(r"\s*[-+.]?\d", cell) for cell in rows[0]):
        columns, rows, first = _heading(rows[0]), rows[1:], 2
    if not 2 <= len(rows) <= MAX_ROWS:
        raise BuildError(
            "The pump's table cannot be taken.",
            (Problem("/table", f"{len(rows)} {'row' if len(rows) == 1 else 'rows'} of figures", f"2 to {MAX_ROWS} rows: volts, pressure, flow, amps"),),
        )  # fmt: skip
    problems: list[Problem] = []
    found = [_row(row, columns, f"/table/line {i}", problems) for i, row in enumerate(rows, first)]
    if problems:
        raise BuildError("The pump's table cannot be taken.", tuple(problems[:20]))
    return found


def write(rows: list[PumpPoint]) -> str:
    """The rows as they stand in the build, units behind the numbers."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow([key for key, _, _ in COLUMNS])
    writer.writerows((row.voltage, row.pressure, row.flow, row.current) for row in rows)
    return out.getvalue()


def _delimiter(lines: list[str]) -> str:
    """What parts the columns: as many in each line as possible; a comma is a decimal sign where something else parts them."""
    return next((d for d in (";", "\t", "|") if all(d in line for line in lines)), "," if any("," in line for line in lines) else " ")


def _heading(cells: list[str]) -> list[tuple[int, str, str, str]]:
    """Columns by what the heading says: a unit in it, bare or in brackets, else its first word."""
    found: dict[str, tuple[int, str, str, str]] = {}
    for i, cell in enumerate(cells):
        words = [*re.findall(r"[\[(]([^\])]+)[\])]", cell), *re.split(r"[\s,_()\[\]]+", cell.strip())]
        for key, dimension, usual in COLUMNS:
            unit = next((w for w in words if w and _is_unit(w, dimension)), usual if cell.strip().lower().startswith(key[:4]) else None)
            if unit and key not in found:
                found[key] = (i, key, dimension, unit)
                break
    missing = [key for key, _, _ in COLUMNS if key not in found]
    if missing:
        raise BuildError(
            "The pump's table cannot be taken.",
            (Problem("/table/line 1", ", ".join(cells)[:80], f"a heading with {' and '.join(missing)}, such as 'volts (V), pressure (kPa), flow (L/h), current (A)'"),),
        )  # fmt: skip
    return list(found.values())


def _is_unit(word: str, dimension: str) -> bool:
    try:
        si(f"1 {word}", dimension)
    except UnitError:
        return False
    return True


def _row(cells: list[str], columns: list[tuple[int, str, str, str]], at: str, problems: list[Problem]) -> Row:
    row = {}
    for i, key, dimension, unit in columns:
        text = cells[i].strip() if i < len(cells) else ""
        written = text if re.search(r"[A-Za-z]", text) else f"{text} {unit}"
        try:
            si(written, dimension)
        except UnitError as error:
            problems.append(Problem(f"{at}/{key}", text or "nothing", str(error)))
        row[key] = written
    return row
