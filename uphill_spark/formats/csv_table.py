"""Tables that people keep as CSV: any column order under a heading, any unit in the heading or behind the number, errors by line."""

from __future__ import annotations

import csv
import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from ..core.errors import BuildError, Problem, UnitError
from ..core.units import si
from .cells import from_text, written

MAX_ROWS = 200
LONGEST_LINE = 1000  # signs
MOST_COLUMNS = 40
Row = dict[str, Any]
Kind = Literal["quantity", "text", "count", "flag"]


@dataclass(frozen=True, slots=True)
class Column:
    """A column: its key in the build document, what it holds, and for a quantity the dimensions it may have and the unit of a bare number."""

    key: str
    kind: Kind = "text"
    dimensions: tuple[str, ...] = ()
    unit: str = ""
    optional: bool = False


@dataclass(frozen=True, slots=True)
class Table:
    """A kind of table. Without a heading its columns stand in their own order, if that is allowed."""

    name: str
    columns: tuple[Column, ...]
    least: int = 1
    headless: bool = False

    def read(self, text: str) -> list[Row]:
        """Rows as the build document has them. Raises BuildError that names each line that cannot be read."""
        lines = [line for line in text.splitlines() if line.strip()]
        if any(len(line) > LONGEST_LINE for line in lines):
            raise self._refused(Problem("/table", f"a line of {max(map(len, lines))} signs", f"lines of at most {LONGEST_LINE} signs"))
        if len(lines) > MAX_ROWS + 1:
            raise self._refused(Problem("/table", f"{len(lines)} lines", f"{self.least} to {MAX_ROWS} rows"))
        rows = list(csv.reader(lines, delimiter=_delimiter(lines))) if lines else []
        found = list(enumerate(self.columns))
        first = 1
        if rows and not (self.headless and any(re.match(r"\s*[-+.]?\d", cell) for cell in rows[0])):
            found, rows, first = self._heading(rows[0]), rows[1:], 2
        if not self.least <= len(rows) <= MAX_ROWS:
            told = f"{len(rows)} {'row' if len(rows) == 1 else 'rows'} of figures"
            raise self._refused(Problem("/table", told, f"{self.least} to {MAX_ROWS} rows: {', '.join(c.key for c in self.columns)}"))
        problems: list[Problem] = []
        taken = [_row(row, found, f"/table/line {i}", problems) for i, row in enumerate(rows, first)]
        if problems:
            raise self._refused(*problems[:20])
        return taken

    def write(self, rows: Iterable[Any]) -> str:
        """Rows of the build document, units behind the numbers."""
        return written([[c.key for c in self.columns], *([_written(getattr(row, c.key)) for c in self.columns] for row in rows)])

    def _heading(self, cells: Sequence[str]) -> list[tuple[int, Column]]:
        """Columns by what the heading says: its first word, else a unit in it."""
        if len(cells) > MOST_COLUMNS:
            raise self._refused(Problem("/table/line 1", f"{len(cells)} columns", f"at most {MOST_COLUMNS} columns"))
        found: dict[str, tuple[int, Column]] = {}
        named = {i: c for i, cell in enumerate(cells) for c in self.columns if _word(cell).startswith(c.key.split("_")[0][:4])}
        for i, cell in enumerate(cells):
            words = [*re.findall(r"[\[(]([^\])]+)[\])]", cell), *re.split(r"[\s,_()\[\]]+", cell.strip())]
            for c in [named[i]] if i in named else [c for c in self.columns if c.kind == "quantity"]:
                unit = next((w for w in words if w and any(_is_unit(w, d) for d in c.dimensions)), c.unit if i in named else None)
                if unit is not None and c.key not in found:
                    found[c.key] = (i, Column(c.key, c.kind, c.dimensions, unit, c.optional))
                    break
        missing = [c.key for c in self.columns if c.key not in found and not c.optional]
        if missing:
            usual = ", ".join(f"{c.key} ({c.unit})" if c.unit else c.key for c in self.columns)
            raise self._refused(
                Problem("/table/line 1", ", ".join(cells)[:80] or "nothing", f"a heading with {' and '.join(missing)}, such as '{usual}'")
            )
        return list(found.values())

    def _refused(self, *problems: Problem) -> BuildError:
        return BuildError(f"The {self.name} cannot be taken.", problems)


def _word(cell: str) -> str:
    return cell.strip().lower().replace(" ", "_")


def _delimiter(lines: list[str]) -> str:
    """What parts the columns: as many in each line as possible; a comma is a decimal sign where something else parts them."""
    return next((d for d in (";", "\t", "|") if all(d in line for line in lines)), "," if any("," in line for line in lines) else " ")


def _is_unit(word: str, dimension: str) -> bool:
    try:
        si(f"1 {word}", dimension)
    except UnitError:
        return False
    return True


def _row(cells: Sequence[str], columns: list[tuple[int, Column]], at: str, problems: list[Problem]) -> Row:
    row: Row = {}
    for i, c in columns:
        text = from_text(cells[i].strip()) if i < len(cells) else ""
        if not text and c.optional:
            continue
        try:
            row[c.key] = _value(text, c)
        except (UnitError, ValueError) as error:
            problems.append(Problem(f"{at}/{c.key}", text or "nothing", str(error)))
    return row


def _value(text: str, c: Column) -> Any:
    if c.kind == "text":
        if not text:
            raise ValueError("a word")
        return text
    if c.kind == "flag":
        return text.lower() in ("yes", "true", "1", "x", "after")
    if c.kind == "count":
        if not re.fullmatch(r"\d{1,6}", text):
            raise ValueError("a whole number")
        return int(text)
    quantity = text if re.search(r"[A-Za-zΩ]", text) else f"{text} {c.unit}"
    wrong: UnitError | None = None
    for dimension in c.dimensions:
        try:
            si(quantity, dimension)
        except UnitError as error:
            wrong = wrong or error
        else:
            return quantity
    raise wrong or UnitError("a quantity")


def _written(value: Any) -> Any:
    if isinstance(value, bool):
        return "yes" if value else "no"
    return "" if value is None else value


PUMP = Table(
    "pump's table",
    (
        Column("voltage", "quantity", ("voltage",), "V"),
        Column("pressure", "quantity", ("pressure",), "kPa"),
        Column("flow", "quantity", ("volume flow",), "L/h"),
        Column("current", "quantity", ("current",), "A"),
    ),
    least=2,
    headless=True,
)
INJECTOR_BOX = Table(
    "list of injectors",
    (
        Column("name"),
        Column("pieces", "count", optional=True),
        Column("flow", "quantity", ("mass flow", "volume flow"), "g/min"),
        Column("rated_at", "quantity", ("pressure",), "kPa"),
        Column("fluid", optional=True),
        Column("resistance", "quantity", ("resistance",), "ohm"),
        Column("connector", optional=True),
        Column("price", optional=True),
    ),
)
FLOW_BENCH = Table(
    "flow bench log",
    (
        Column("mark"),
        Column("cleaned", "flag", optional=True),
        Column("volume", "quantity", ("volume",), "mL"),
        Column("time", "quantity", ("time",), "s"),
        Column("pressure", "quantity", ("pressure",), "kPa"),
        Column("drops", "count", optional=True),
        Column("resistance", "quantity", ("resistance",), "ohm", optional=True),
        Column("spray", optional=True),
    ),
)
THERMISTOR = Table(
    "sender's points",
    (
        Column("temperature", "quantity", ("temperature",), "degC"),
        Column("resistance", "quantity", ("resistance",), "ohm"),
    ),
    least=3,
    headless=True,
)
TABLES = {"coolant": THERMISTOR, "air": THERMISTOR, "pump": PUMP, "injector-box": INJECTOR_BOX, "flow-bench": FLOW_BENCH}
