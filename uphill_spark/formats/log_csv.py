"""Logs as text, from anything: any delimiter, decimal comma, units in a row or behind the name, headers that come again, lines of words, missing cells, clocks of several kinds.

The numbers are read by polars; what is here finds out how they are written, and says which lines were none.
"""

from __future__ import annotations

import codecs
import csv
import gzip
import io
import re
import zipfile
import zlib
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import polars as pl

from ..core.errors import FormatError
from ..core.physics.air import Array
from .raw_log import BROKEN_TOLD, COLUMNS_MOST, LARGEST, ROWS_MOST, Broken, RawLog, clocked, named_once

_HEAD = 65_536  # bytes
_LOOKS = 400  # lines that are looked at to see how it is written
_NOTHING = ("", "-", "--", "NaN", "nan", "NAN", "NULL", "null", "None", "N/A", "n/a", "#N/A", "inf", "-inf", "?")
_PICTURES = {
    b"\xff\xd8\xff": "a photograph",
    b"\x89PNG": "a picture",
    b"GIF8": "a picture",
    b"%PDF": "a PDF",
    b"RIFF": "a film or sound",
    b"BM": "a picture",
    b"\xd0\xcf\x11\xe0": "a workbook of an old kind",
    b"\x7fELF": "a program",
}
_UNIT = re.compile(r"^(.*?)\s*[\[(]\s*([^\])]{0,20})\s*[\])]\s*$")
_PLAIN = re.compile(r"^[+-]?(\d+([.,]\d*)?|[.,]\d+)([eE][+-]?\d+)?$")
_CLOCK = re.compile(r"^\d{1,3}:\d{2}(:\d{2})?([.,:]\d+)?$")
_DATE = re.compile(r"^\d{4}[-/.]\d{1,2}[-/.]\d{1,2}|^\d{1,2}[-/.]\d{1,2}[-/.]\d{4}")
_TIME_NAME = re.compile(
    r"^(t|time|zeit|temps|tempo|tiempo|seconds?|secs?|timestamp|clock|elapsed.*|.*time ?stamp.*|log ?time|time.*)$", re.IGNORECASE
)
_OF_TIME = {"ms": 1e-3, "msec": 1e-3, "us": 1e-6, "µs": 1e-6, "ns": 1e-9, "s": 1.0, "sec": 1.0, "seconds": 1.0, "min": 60.0, "h": 3600.0}


@dataclass(frozen=True)
class _Written:
    """How a text is written: delimiter, decimal comma, lines before the first row, names, units, fields in a row."""

    delimiter: str
    comma: bool
    before: int
    names: list[str]
    units: list[str]
    header: bool

    @property
    def wide(self) -> int:
        """Fields in a row."""
        return len(self.names)


def unpacked(data: bytes) -> bytes:
    """A packed file opened, up to the most that is taken. Raises FormatError."""
    try:
        if data[:2] == b"\x1f\x8b":
            with gzip.open(io.BytesIO(data)) as packed:
                data = packed.read(LARGEST + 1)
        elif data[:4] == b"PK\x03\x04":
            with zipfile.ZipFile(io.BytesIO(data)) as packed_zip:
                inside = [x for x in packed_zip.infolist() if not x.is_dir() and not x.filename.startswith("xl/")]
                if any(x.filename.startswith("xl/") for x in packed_zip.infolist()):
                    raise FormatError("This is a workbook. Save its sheet as CSV and bring that.")
                if len(inside) != 1:
                    raise FormatError(f"The packed file holds {len(inside)} files. One log at a time will do.")
                with packed_zip.open(inside[0]) as one:
                    data = one.read(LARGEST + 1)
    except (OSError, EOFError, zlib.error, zipfile.BadZipFile, RuntimeError, NotImplementedError) as error:
        raise FormatError("The packed file is broken off or cannot be opened. Pack it again, or bring it unpacked.") from error
    if len(data) > LARGEST:
        raise FormatError(f"The log holds more than {LARGEST / 1e6:.0f} MB. Cut it into drives, or log fewer columns.")
    return data


def _text(data: bytes) -> bytes:
    """The text as UTF-8 without a mark at its beginning. Raises FormatError for what is no text."""
    for mark, word in _PICTURES.items():
        if data.startswith(mark):
            raise FormatError(f"This is {word}, whatever its name says. A log as CSV or MDF 4 will do.")
    if data.startswith((codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)):
        try:
            return data.decode("utf-16").encode()
        except UnicodeError as error:
            raise FormatError("The text is broken off in the middle of a letter.") from error
    data = data.removeprefix(codecs.BOM_UTF8)
    head = data[:_HEAD]
    if b"\x00" in head:
        raise FormatError("This file holds no text. A log as CSV or MDF 4 will do.")
    try:
        head.decode()
    except UnicodeDecodeError as error:
        if error.start < len(head) - 4:
            return data.decode("cp1252", errors="replace").encode()
    return data


def read(data: bytes, told: Callable[[float], None] = lambda _: None) -> RawLog:
    """A log as text. `told` hears how far it is (0 to 1), and may raise to end it. Raises FormatError, in words, with the line."""
    data = _text(unpacked(data)) if data else data
    if not data[:_HEAD].strip():
        raise FormatError("The file is empty.")
    w = _looked_at(data)
    told(0.05)
    begins, first_line = _begins(data, w), w.before + 1
    texts = _time_texts(data[begins : begins + 40_000], w)
    frame = _frame(data, w, texts)
    told(0.55)
    if frame.height == 0:
        raise FormatError("There is no row of numbers in this file.")
    if frame.height > ROWS_MOST:
        raise FormatError(f"The log has {frame.height:,} rows; {ROWS_MOST:,} are taken at most. Cut it into drives.")
    columns = [None if k in texts else frame.get_column(str(k)).to_numpy() for k in range(w.wide)]
    keep, broken, count, lost, notes = _broken(data, begins, w, frame, columns, texts)
    told(0.75)
    line_of = np.arange(frame.height) + first_line
    names, twice = named_once(w.names)
    if twice:
        notes.append(
            f"{', '.join(sorted(set(twice))[:5])} stand{'s' if len(set(twice)) == 1 else ''} more than once: the later have a number behind."
        )
    time, at = _time(w, names, frame, columns, texts, keep)
    seconds, rows, more = clocked(time, "row number" if at is None else names[at], line_of[keep])
    notes += more
    if at is None:
        notes.append("No column is a clock: rows are counted, and ten of them are taken for a second. Tell how many it is.")
    chosen = [k for k in range(w.wide) if k != at and k not in texts]
    out: list[Array] = []
    kept_names, kept_units, empty = [], [], []
    for k in chosen:
        values = np.asarray(columns[k])[keep][rows] if len(rows) != frame.height else np.asarray(columns[k])
        if not np.isfinite(values).any():
            empty.append(names[k])
            continue
        out.append(np.ascontiguousarray(np.where(np.isinf(values), np.nan, values) if np.isinf(values).any() else values, dtype=np.float64))
        kept_names.append(names[k])
        kept_units.append(w.units[k])
    if not out:
        raise FormatError("No column of this file holds numbers. Is it a log? A row of names and rows of numbers under it will do.")
    if empty:
        notes.append(f"Without a number: {', '.join(empty[:6])}{f' and {len(empty) - 6} more' if len(empty) > 6 else ''}.")
    told(1.0)
    return RawLog(seconds, kept_names, kept_units, out, broken, count, lost, notes)


# How it is written
def _looked_at(data: bytes) -> _Written:
    lines = data[:400_000].decode("utf-8", errors="replace").splitlines()[:_LOOKS]
    best: tuple[float, _Written] | None = None
    for delimiter in (";", "\t", ",", "|"):
        found = _written(lines, delimiter)
        if found is not None and (best is None or found[0] > best[0]):
            best = found
    if best is None:
        raise FormatError(
            "No row of numbers is found in the first lines. A row of names and rows of numbers under it, with commas, semicolons or tabs between, will do."
        )
    if best[1].wide > COLUMNS_MOST:
        raise FormatError(f"The log has {best[1].wide} columns; {COLUMNS_MOST} are taken at most.")
    return best[1]


def _fields(line: str, delimiter: str) -> list[str]:
    if '"' in line:
        return [x.strip() for x in next(csv.reader([line], delimiter=delimiter), [])]
    return [x.strip() for x in line.split(delimiter)]


def _number_like(x: str) -> bool:
    return bool(_PLAIN.match(x)) or bool(_CLOCK.match(x)) or bool(_DATE.match(x))


def _written(lines: list[str], delimiter: str) -> tuple[float, _Written] | None:
    """How well a delimiter explains the lines, and what it makes of them."""
    rows = [_fields(line, delimiter) if line.strip() else [] for line in lines]
    full = [
        k
        for k, row in enumerate(rows)
        if len(row) >= 2
        and sum(map(_number_like, row)) >= max(0.6 * sum(x not in _NOTHING for x in row), 1)
        and sum(x not in _NOTHING for x in row) >= 2
    ]
    if not full:
        return None
    widths = [len(rows[k]) for k in full]
    wide = max(set(widths), key=lambda x: (widths.count(x), x))
    steady = [k for k in full if len(rows[k]) in (wide, wide - 1)]
    if wide < 2 or not steady:
        return None
    first = steady[0]
    cells = [x for k in steady[:80] for x in rows[k] if _PLAIN.match(x)]
    comma = delimiter != "," and sum("," in x for x in cells) > sum("." in x for x in cells)
    above = [
        k for k in range(first) if rows[k] and len(rows[k]) >= max(wide - 1, 2) and sum(map(_number_like, rows[k])) <= 0.3 * len(rows[k])
    ]
    names, units, header = [f"column {k + 1}" for k in range(wide)], [""] * wide, False
    if above:
        top = above[0] if len(above) <= 2 else above[-2] if _units_row(rows[above[-1]]) else above[-1]
        names, header = _padded(rows[top], wide), True
        under = [k for k in above if k > top]
        if under and _units_row(rows[under[0]]):
            units = [x.strip("[]() ") for x in _padded(rows[under[0]], wide)]
    for k, name in enumerate(names):
        found = _UNIT.match(name)
        if found and found.group(1) and not units[k]:
            names[k], units[k] = found.group(1), found.group(2).strip()
    while wide > 1 and not names[-1].strip() and all(len(rows[k]) < wide or not rows[k][-1] for k in steady):
        wide, names, units = wide - 1, names[:-1], units[:-1]  # a delimiter at the end of every line
    numbers = sum(_number_like(x) for k in steady for x in rows[k]) / max(sum(len(rows[k]) for k in steady), 1)
    score = len(steady) / max(len([r for r in rows if r]), 1) + numbers + 0.02 * min(wide, 40) + (0.2 if above else 0.0)
    return score, _Written(delimiter, comma, first, names, units, header)


def _units_row(row: list[str]) -> bool:
    """Whether a row holds units: short words, many of them known, none a number."""
    told = [x.strip("[]() ") for x in row if x.strip()]
    return bool(told) and all(len(x) <= 12 and not _PLAIN.match(x) for x in told) and sum(len(x) <= 6 for x in told) >= 0.7 * len(told)


def _padded(row: list[str], wide: int) -> list[str]:
    return [*row[:wide], *[""] * (wide - len(row))]


def _begins(data: bytes, w: _Written) -> int:
    """The byte at which the first row begins."""
    at = 0
    for _ in range(w.before):
        at = data.find(b"\n", at) + 1 or len(data)
    return at


def _time_texts(head: bytes, w: _Written) -> set[int]:
    """Columns that hold clocks or dates as words."""
    rows = [_fields(line, w.delimiter) for line in head.decode("utf-8", errors="replace").splitlines()[:60]]
    return {k for k in range(w.wide) if sum(len(r) > k and bool(_CLOCK.match(r[k]) or _DATE.match(r[k])) for r in rows) > 0.6 * len(rows)}


def _frame(data: bytes, w: _Written, texts: set[int]) -> pl.DataFrame:
    """The rows, by the library."""
    schema = {str(k): pl.String if k in texts else pl.Float64 for k in range(w.wide)}
    try:
        return pl.read_csv(
            data, has_header=False, skip_lines=w.before, schema=schema, separator=w.delimiter, decimal_comma=w.comma, ignore_errors=True, truncate_ragged_lines=True, encoding="utf8-lossy", raise_if_empty=False,
            quote_char='"' if b'"' in data[:200_000] else None,
        )  # fmt: skip
    except pl.exceptions.PolarsError as error:
        raise FormatError(f"The rows cannot be read: {str(error).splitlines()[0][:160]}.") from error


# What was no row
def _broken(
    data: bytes, at: int, w: _Written, frame: pl.DataFrame, columns: list[Array | None], texts: set[int]
) -> tuple[np.ndarray, list[Broken], int, int, list[str]]:
    """Rows that are kept; lines that are none, word for word; how many; cells that were no numbers; what was noticed. Lines are looked at only where a cell is missing, or where there are too many."""
    missing = np.zeros(frame.height, dtype=bool)
    lost = 0
    for column in columns:
        if column is not None:
            gone = ~np.isfinite(column)
            lost += int(gone.sum())
            missing |= gone
    wanted = frame.height * (w.wide - 1)
    delimiters = data.count(w.delimiter.encode(), at)
    first_line = w.before + 1
    trailing = 0
    if delimiters == wanted + frame.height:
        trailing = 1  # one at the end of every line
    ragged = delimiters != wanted + trailing * frame.height
    keep = np.arange(frame.height)
    if not missing.any() and not ragged:
        return keep, [], 0, 0, []
    body = data[at:]
    whole = np.frombuffer(body, dtype=np.uint8)
    ends = np.flatnonzero(whole == 10)
    begins = np.concatenate(([0], ends + 1))
    if len(begins) - frame.height not in (0, 1):  # quoted newlines, or lines that the reader passed over: told by cells alone
        some = missing
        odd = np.zeros(0, dtype=int)
    else:
        many = (
            np.add.reduceat((whole == ord(w.delimiter)).astype(np.int32), np.minimum(begins[: frame.height], len(whole) - 1))
            if ragged
            else None
        )
        odd = np.flatnonzero(many != w.wide - 1 + trailing) if many is not None else np.zeros(0, dtype=int)
        some = missing.copy()
        some[odd] = True
    broken: list[Broken] = []
    count, headers, empty, gone_cells = 0, 0, 0, 0
    away = np.zeros(frame.height, dtype=bool)
    name_set = {x.strip().lower() for x in w.names if x.strip()}
    oddly = set(odd.tolist())
    for row in np.flatnonzero(some).tolist():
        line = (
            body[begins[row] : ends[row] if row < len(ends) else len(body)].decode("utf-8", errors="replace").strip("\r\n")
            if row < len(begins)
            else ""
        )
        fields = _fields(line, w.delimiter)
        told = [x for x in fields if x not in _NOTHING]
        bad = [x for k, x in enumerate(fields[: w.wide]) if x not in _NOTHING and k not in texts and not _PLAIN.match(x)]
        if not told:
            away[row] = True
            empty += 1
        elif (w.header and sum(x.lower() in name_set or bool(_UNIT.match(x)) for x in told) >= 0.6 * len(told)) or (
            _units_row(told) and len(bad) == len(told)
        ):
            away[row] = True
            headers += 1
        elif (
            len(bad) > 0.3 * max(len(told), 1)
            or (row in oddly and len(fields) < w.wide and len(told) < 0.7 * w.wide)
            or len(fields) > w.wide + 1
        ):
            away[row] = True
            count += 1
            if len(broken) < BROKEN_TOLD:
                why = (
                    "words where numbers should stand"
                    if len(bad) > 0.3 * max(len(told), 1)
                    else f"{len(fields)} fields where {w.wide} belong"
                )
                broken.append(Broken(row + first_line, line[:300], why))
        elif bad:
            gone_cells += len(bad)
            if len(broken) < BROKEN_TOLD:
                broken.append(
                    Broken(row + first_line, line[:300], f"{bad[0][:40]!r} is no number: that cell is left empty, the row is kept")
                )
    notes = []
    if headers:
        notes.append(f"The header comes again {headers} time{'s' if headers > 1 else ''}.")
    if empty:
        notes.append(f"{empty} empty line{'s' if empty > 1 else ''}.")
    return np.flatnonzero(~away), broken, count, gone_cells, notes


# Clocks
def _time(
    w: _Written, names: list[str], frame: pl.DataFrame, columns: list[Array | None], texts: set[int], keep: np.ndarray
) -> tuple[Array, int | None]:
    """Seconds of the kept rows, and the column that they stand in; None where rows had to be counted."""
    worded = sorted(texts)
    for k in worded:
        series = frame.get_column(str(k))
        sample = next((x for x in series.head(50).to_list() if x), "")
        if _CLOCK.match(sample):
            found = _of_clock(series, w.comma)[keep]
            date = next(
                (j for j in worded if j != k and _DATE.match(next((x for x in frame.get_column(str(j)).head(50).to_list() if x), ""))), None
            )
            return (found + _days(frame.get_column(str(date)))[keep] if date is not None else _past_midnight(found)), k
        if _DATE.match(sample) and any(c in sample for c in ":T"):
            return _of_date(series)[keep], k
    best = [k for k, name in enumerate(names) if _TIME_NAME.match(name.strip()) and columns[k] is not None]
    best.sort(key=lambda k: (len(names[k]), k))
    for k in best:
        values = np.asarray(columns[k])[keep]
        there = values[np.isfinite(values)]
        if len(there) > 2 and np.mean(np.diff(there) != 0) > 0.3:
            return values * _of_unit(w.units[k], there), k
    first = columns[0]
    if first is not None and not w.header:
        values = np.asarray(first)[keep]
        steps = np.diff(values[np.isfinite(values)])
        if len(steps) > 2 and (steps > 0).mean() > 0.99:
            return values * _of_unit(w.units[0], values), 0
    return np.asarray(np.arange(len(keep)) * 0.1, dtype=np.float64), None


def _of_unit(unit: str, values: Array) -> float:
    """Seconds for one of a clock's unit; of one that says none, by its step: whole numbers of 2 to 2,000 apart are milliseconds."""
    plain = unit.strip().lower().rstrip(".")
    if plain in _OF_TIME:
        return _OF_TIME[plain]
    there = values[np.isfinite(values)][:20000]
    step = float(np.median(np.diff(there))) if len(there) > 2 else 0.1
    return 1e-3 if 2 <= step <= 2000 and bool(np.all(there == np.round(there))) else 1.0


def _of_clock(series: pl.Series, comma: bool) -> Array:
    """Seconds of 12:34:56.7, 34:56.7 or 12:34:56:700."""
    text = series.str.replace(",", ".") if comma or "," in "".join(x or "" for x in series.head(5).to_list()) else series
    parts = text.str.split(":").list
    many = int(parts.len().max() or 0)  # type: ignore[arg-type]
    values = [np.asarray(parts.get(k, null_on_oob=True).cast(pl.Float64, strict=False).to_numpy(), dtype=np.float64) for k in range(many)]
    if many == 2:
        return np.asarray(values[0] * 60 + values[1])
    found = values[0] * 3600 + values[1] * 60 + values[2]
    return np.asarray(found + np.nan_to_num(values[3]) / 1000 if many == 4 else found)


def _past_midnight(t: Array) -> Array:
    """A clock on the wall, carried over midnight."""
    steps = np.diff(np.where(np.isfinite(t), t, 0.0))
    return t + np.concatenate(([0.0], np.cumsum(steps < -80_000))) * 86_400.0


def _of_date(series: pl.Series) -> Array:
    """Seconds of a date with a time."""
    text = (
        series.str.replace("T", " ")
        .str.replace_all("/", "-")
        .str.replace_all(r"^(\d{1,2})[-.](\d{1,2})[-.](\d{4})", "${3}-${2}-${1}")
        .str.replace(",", ".")
        .str.replace(r"(Z|[+-]\d{2}:?\d{2})$", "")
    )
    parts = text.str.split(" ").list
    return np.asarray(_days(parts.get(0, null_on_oob=True)) + _of_clock(parts.get(1, null_on_oob=True), False))


def _days(series: pl.Series) -> Array:
    """Seconds of the midnight of a date."""
    plain = series.str.replace_all(r"[/.]", "-").str.replace_all(r"^(\d{1,2})-(\d{1,2})-(\d{4})", "${3}-${2}-${1}")
    days = plain.str.to_date("%Y-%m-%d", strict=False)
    return np.asarray(days.to_physical().cast(pl.Float64).to_numpy() * 86_400.0)
