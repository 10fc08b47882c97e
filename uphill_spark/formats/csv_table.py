"""Tables that people keep as CSV: any column order under a heading, any unit in the heading or behind the number, errors by line."""

from __future__ import annotations

import csv
import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from ..core.errors import BuildError, Problem, TableError, UnitError
from ..core.units import si
from .cells import from_text, written

MAX_ROWS = 200
LONGEST_LINE = 1000  # signs
MOST_COLUMNS = 40
#: Lines that may stand over the heading: a title, a date.
TITLES = 4
Row = dict[str, Any]
Line = tuple[int, list[str]]
Points = Literal["decimal", "thousands"]
_FIGURE = re.compile(r"\s*[-+.]?\d")
#: A number that may be three, to three decimals, or three thousand.
_DOUBTFUL = re.compile(r"[1-9]\d{0,2}\.\d{3}")
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

    def read(self, text: str, columns: Mapping[str, int] | None = None, points: Points | None = None) -> list[Row]:
        """Rows as the build document has them. Blank rows, and a title over the heading, are passed over.

        `columns` says which column is which where the heading does not, `points` what "3.000" means where nothing in the text tells. Raises BuildError that names each line that
        cannot be read, TableError where one of the two has to be said first.
        """
        numbered = [(i, line) for i, line in enumerate(text.splitlines(), 1) if line.strip(" \t,;|")]
        lines = [line for _, line in numbered]
        if any(len(line) > LONGEST_LINE for line in lines):
            raise self._refused(Problem("/table", f"a line of {max(map(len, lines))} signs", f"lines of at most {LONGEST_LINE} signs"))
        if len(lines) > MAX_ROWS + 1 + TITLES:
            raise self._refused(Problem("/table", f"{len(lines)} lines", f"{self.least} to {MAX_ROWS} rows"))
        cells = list(csv.reader(lines, delimiter=_delimiter(lines))) if lines else []
        rows = [(n, row) for (n, _), row in zip(numbered, cells, strict=False)]
        found, rows = self._columns(rows, columns)
        if not self.least <= len(rows) <= MAX_ROWS:
            told = f"{len(rows)} {'row' if len(rows) == 1 else 'rows'} of figures"
            raise self._refused(Problem("/table", told, f"{self.least} to {MAX_ROWS} rows: {', '.join(c.key for c in self.columns)}"))
        sense = points or self._points(rows, found)
        problems: list[Problem] = []
        taken = [_row(row, found, f"/table/line {n}", problems, sense) for n, row in rows]
        if problems:
            raise self._refused(*problems[:20])
        return taken

    def _columns(self, rows: list[Line], said: Mapping[str, int] | None) -> tuple[list[tuple[int, Column]], list[Line]]:
        """Which column is which, and the rows under the heading. Raises BuildError, or TableError where a heading is there and says too little."""
        begins = next(
            (k for k, (_, row) in enumerate(rows) if sum(bool(_FIGURE.match(cell)) for cell in row) >= min(2, len(self._must))), len(rows)
        )
        if said is not None:
            if wrong := sorted(said.keys() - {c.key for c in self.columns}):
                raise self._refused(Problem("/table/columns", wrong[0], f"one of {', '.join(c.key for c in self.columns)}"))
            named = [(said[c.key], c) for c in self.columns if c.key in said]
            if missing := [c.key for c in self._must if c.key not in said]:
                raise self._refused(Problem("/table/columns", "nothing", f"which column is {missing[0]}"))
            return named, rows[begins:]
        heads = rows[: min(begins, TITLES + 1)]
        if not heads and self.headless:
            return list(enumerate(self.columns)), rows
        refusal: BuildError | None = None
        for k, (n, row) in enumerate(heads or rows[:1]):
            try:
                return self._heading(row, n), rows[k + 1 :]
            except BuildError as error:
                refusal = error
        if self.headless and rows[begins:] and all(len([cell for cell in row if cell.strip()]) == 1 for _, row in heads):
            return list(enumerate(self.columns)), rows[begins:]  # nothing but a title over the figures
        if refusal is not None and heads and rows[begins:] and len(heads[-1][1]) >= len(self._must):
            raise TableError(
                refusal.message,
                refusal.problems,
                tuple(cell.strip()[:60] for cell in heads[-1][1][:MOST_COLUMNS]),
                tuple(c.key for c in self.columns),
            )
        raise refusal or self._refused(
            Problem("/table", "no rows", f"{self.least} to {MAX_ROWS} rows: {', '.join(c.key for c in self.columns)}")
        )

    @property
    def _must(self) -> list[Column]:
        return [c for c in self.columns if not c.optional]

    def _points(self, rows: list[Line], columns: list[tuple[int, Column]]) -> Points:
        """What a point before three digits means, as the other numbers of the text tell. Raises TableError where none does."""
        numbers = [
            (n, m[0])
            for n, row in rows
            for i, c in columns
            if c.kind == "quantity" and i < len(row)
            for m in re.finditer(r"\d[\d.,]*", row[i])
        ]
        doubtful = next((pair for pair in numbers if _DOUBTFUL.fullmatch(pair[1])), None)
        if doubtful is None or any(re.fullmatch(r"\d+\.(\d{1,2}|\d{4,})|0\.\d+", number) for _, number in numbers):
            return "decimal"
        if any(re.fullmatch(r"\d{1,3}(\.\d{3}){2,}|\d{1,3}(\.\d{3})*,\d+", number) for _, number in numbers):
            return "thousands"
        line, number = doubtful
        plain = number.replace(".", "")
        raise TableError(
            f"The {self.name} can be read in two ways.", (Problem(f"/table/line {line}", number, f"whether that is {float(number):g} or {int(plain):,}"),)
        )  # fmt: skip

    def write(self, rows: Iterable[Any]) -> str:
        """Rows of the build document, units behind the numbers."""
        return written([[c.key for c in self.columns], *([_written(getattr(row, c.key)) for c in self.columns] for row in rows)])

    def _heading(self, cells: Sequence[str], line: int) -> list[tuple[int, Column]]:
        """Columns by what the heading says: its first word, else a unit in it."""
        if len(cells) > MOST_COLUMNS:
            raise self._refused(Problem(f"/table/line {line}", f"{len(cells)} columns", f"at most {MOST_COLUMNS} columns"))
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
                Problem(
                    f"/table/line {line}", ", ".join(cells)[:80] or "nothing", f"a heading with {' and '.join(missing)}, such as '{usual}'"
                )
            )
        return list(found.values())

    def _refused(self, *problems: Problem) -> BuildError:
        return BuildError(f"The {self.name} cannot be taken.", problems)


def _word(cell: str) -> str:
    return cell.strip().lower().replace(" ", "_")


def _delimiter(lines: list[str]) -> str:
    """What parts the columns: what most lines have (a title has none); a comma is a decimal sign where something else parts them."""
    return next(
        (d for d in (";", "\t", "|") if 2 * sum(d in line for line in lines) > len(lines)),
        "," if any("," in line for line in lines) else " ",
    )


def _is_unit(word: str, dimension: str) -> bool:
    try:
        si(f"1 {word}", dimension)
    except UnitError:
        return False
    return True


def _row(cells: Sequence[str], columns: list[tuple[int, Column]], at: str, problems: list[Problem], points: Points) -> Row:
    row: Row = {}
    for i, c in columns:
        text = from_text(cells[i].strip()) if i < len(cells) else ""
        if not text and c.optional:
            continue
        if points == "thousands" and c.kind == "quantity":
            text = re.sub(r"(?<=\d)\.(?=\d{3})", "", text)
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
#: A made loom's list of circuits.
LOOM = Table(
    "loom's list of circuits",
    (
        Column("label"),
        Column("serves", optional=True),
        Column("length", "quantity", ("length",), "m", optional=True),
        Column("size", "quantity", ("wire size",), "mm2", optional=True),
        Column("ends", optional=True),
    ),
)

#: A control unit's own pin table.
PINS = Table("pin table", (Column("pin"), Column("kind"), Column("limit", "quantity", ("current",), "A", optional=True)))

TABLES = {
    "loom": LOOM,
    "pins": PINS,
    "coolant": THERMISTOR,
    "air": THERMISTOR,
    "pump": PUMP,
    "injector-box": INJECTOR_BOX,
    "flow-bench": FLOW_BENCH,
}
