"""Cells of a CSV file (RFC 4180) as a spreadsheet takes them: what a person wrote is text there, never a formula."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable, Sequence
from typing import Any

#: What spreadsheets begin to work out: a formula, or text that one of them reads as the beginning of one.
_FORMULA = re.compile(r"'*[=+\-@\t\r]")
#: A number, with a unit behind it or not, is what it says.
_NUMBER = re.compile(r"[+-]?\d[\d.,]*(e[+-]?\d+)?( ?[A-Za-z°Ω%µ][A-Za-z0-9°Ω²³/*^ ]{0,12})?", re.IGNORECASE)


def as_text(cell: Any) -> Any:
    """A cell with an apostrophe before what a spreadsheet would work out, which spreadsheets take as the sign of text."""
    if isinstance(cell, str) and _FORMULA.match(cell) and not _NUMBER.fullmatch(cell):
        return f"'{cell}"
    return cell


def from_text(cell: str) -> str:
    """A cell as it was before `as_text`."""
    return cell[1:] if cell.startswith("'") and _FORMULA.match(cell) else cell


def written(rows: Iterable[Sequence[Any]], lineterminator: str = "\r\n") -> str:
    """Rows as CSV."""
    out = io.StringIO()
    csv.writer(out, lineterminator=lineterminator).writerows([as_text(cell) for cell in row] for row in rows)
    return out.getvalue()
