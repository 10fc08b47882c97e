"""Tables read in from a control unit's own export, a spreadsheet, or typed off a screen: which axis is which, what the cells mean, found by itself and told before anything is taken.

CSV of any kind (delimiter, decimal comma, rows and columns either way round, axes rising or falling, several tables under one another) and our own JSON. What can be read in two
ways is asked, with what each would mean.
"""

from __future__ import annotations

import csv
import io
import itertools
import re
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel

from ..core.errors import BuildError, Problem, UnitError
from ..core.given.kept import MOST, TABLES, TableKey, TableKind
from ..core.stages.engine import fuel_data
from ..core.stages.tune.tables import LOAD_LABEL, title_of
from ..core.units import signed
from ..core.worked import Worked
from . import strict_json
from .tune_tables import FORMAT

Choice = Literal["percent", "fraction", "lambda", "air_fuel", "advance", "factor", "skip"]
LINES_MOST, TABLES_MOST = 1500, 40
#: What names a table in the titles of exports and sheets, in the order in which they are looked for.
_NAMES: tuple[tuple[str, TableKey], ...] = (
    (r"dries|(wall|film|tip).*(time|tau)", "tip_in_time"), (r"wets|(wall|film|tip).*(share|fraction|x\b)", "tip_in_share"), (r"dead|latency|offset", "dead_time"), (r"dwell", "dwell"), (r"prime|priming", "prime"), (r"crank", "cranking"), (r"(after|post).?start.*(time|taper|s\b)", "after_start_time"),
    (r"(after|post).?start|\base\b", "after_start"), (r"warm|\bwue\b", "warm_up"), (r"idle.*(target|rpm|speed)", "idle_speed"), (r"idle.*(valve|air|duty)", "idle_air"),
    (r"idle.*(trim|advance|ign)", "idle_trim"), (r"baro|altitude", "altitude"), (r"(air|intake|iat|mat).*(temp|corr|dens)", "air_temperature"), (r"\bfan", "fan"),
    (r"lambda|\bafr\b|air.?fuel|mixture|\beq\b", "lambda"), (r"ign|spark|advance|timing", "advance"), (r"\bve\b|volumetric|fuel|filling", "ve"),
)  # fmt: skip
SPEEDS_FROM = 350.0  # the last value of an axis, from where on it is engine speed
#: What cells hold that are not named, and what they may hold where they are.
FULL_RANGE = {"percent": (10.0, 160.0), "fraction": (0.1, 1.6), "lambda": (0.6, 1.3), "air_fuel": (8.0, 22.0), "advance": (-15.0, 60.0)}
NAMED_RANGE = {"percent": (1.0, 250.0), "fraction": (0.01, 2.5), "lambda": (0.6, 1.3), "air_fuel": (8.0, 22.0), "advance": (-20.0, 60.0)}
LEAST_ADVANCE = 5.0  # deg that an advance has somewhere
#: Of which kind of table each reading makes, and by what its cells are multiplied.
_MAKES: dict[str, TableKey] = {"percent": "ve", "fraction": "ve", "lambda": "lambda", "air_fuel": "lambda", "advance": "advance"}


class Option(BaseModel):
    """A way in which a table can be read: its word, and what a cell of it would then mean."""

    key: Choice
    word: str
    means: str


class ReadTable(BaseModel):
    """A table as it was read: of which kind, its title as it stood, axes and cells in this program's units; what was guessed; what is asked (nothing: it can be taken)."""

    key: TableKey | None
    title: str
    stood: str
    unit: str
    x_label: str
    x: list[float]
    y_label: str | None
    y: list[float]
    rows: list[list[float]]
    guesses: list[str]
    options: list[Option]
    asks: str
    doubts: list[str]


class ReadTables(BaseModel):
    """All that was found, and what tells the load in them."""

    tables: list[ReadTable]
    load: Literal["manifold_pressure", "throttle"]


@dataclass
class _Block:
    """A block of numbers with what stood over it: its first line, the words, rows of cells (None where a cell is empty)."""

    line: int
    words: str
    rows: list[list[float | None]]
    corner: str = ""


def read_tables(text: str, w: Worked, choices: dict[int, Choice] | None = None) -> ReadTables:
    """The tables of a text. `choices` says how a table is to be read, by its place. Raises BuildError that names line and cell."""
    if text.lstrip().startswith("{"):
        return _from_json(text)
    blocks = _blocks(text)
    if not blocks:
        raise _refused(
            Problem(
                "/text",
                f"{len(text.splitlines())} lines",
                "a table: speeds along the first row, loads down the first column, or two columns of a curve",
            )
        )
    tables = [_table(block, w, (choices or {}).get(i)) for i, block in enumerate(blocks)]
    return ReadTables(tables=tables, load=_load(tables, w))


def _refused(*problems: Problem) -> BuildError:
    return BuildError("The tables cannot be read.", problems)


def _load(tables: list[ReadTable], w: Worked) -> Literal["manifold_pressure", "throttle"]:
    told = {t.y_label for t in tables if t.y_label}
    if LOAD_LABEL["throttle"] in told:
        return "throttle"
    return "manifold_pressure" if told else w.tune.load_signal


def _from_json(text: str) -> ReadTables:
    """Our own file, as it was written."""
    found = strict_json.loads(text)
    if not isinstance(found, dict) or found.get("format") != FORMAT:
        raise _refused(Problem("/format", repr(found.get("format") if isinstance(found, dict) else found)[:60], f"the word {FORMAT!r}"))
    load = found.get("load_signal")
    if load not in LOAD_LABEL:
        raise _refused(Problem("/load_signal", repr(load)[:60], " or ".join(LOAD_LABEL)))
    tables = found.get("tables")
    if not isinstance(tables, list) or len(tables) > TABLES_MOST:
        raise _refused(Problem("/tables", type(tables).__name__, f"a list of at most {TABLES_MOST} tables"))
    return ReadTables(tables=[_told_json(t, load, i) for i, t in enumerate(tables)], load=load)


def _told_json(t: Any, load: str, i: int) -> ReadTable:
    at = f"/tables/{i}"
    if not isinstance(t, dict) or t.get("key") not in TABLES:
        raise _refused(Problem(f"{at}/key", repr(t.get("key") if isinstance(t, dict) else t)[:60], f"one of {', '.join(TABLES)}"))
    key: TableKey = t["key"]
    x, y, rows = t.get("x") or [], t.get("y") or [], t.get("rows")

    def numbers(v: Any) -> bool:
        return isinstance(v, list) and all(isinstance(n, (int, float)) and not isinstance(n, bool) for n in v)

    if not numbers(x) or not numbers(y) or not isinstance(rows, list) or not all(numbers(row) for row in rows):
        raise _refused(Problem(at, "cells that are no numbers", "x, y and rows of numbers"))
    _checked_axes(x, y, f"{at}")
    return _read_table(
        key,
        str(t.get("title", ""))[:80],
        [float(v) for v in x],
        [float(v) for v in y],
        [[float(v) for v in row] for row in rows],
        load,
        ["our own file"],
    )


def _blocks(text: str) -> list[_Block]:
    """Blocks of numbers, each with the words over it. Raises BuildError for lines that are too many."""
    lines = text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
    if len(lines) > LINES_MOST:
        raise _refused(Problem("/text", f"{len(lines)} lines", f"at most {LINES_MOST}"))
    full = [line for line in lines if line.strip()]
    part = next((d for d in ("\t", ";", "|") if 2 * sum(d in line for line in full) > len(full)), None)
    if part is None:
        part = "," if 2 * sum("," in line for line in full) > len(full) else " "
    found: list[_Block] = []
    words, block = "", None
    for n, line in enumerate(lines, 1):
        cells = re.split(r"\s+", line.strip()) if part == " " else next(csv.reader(io.StringIO(line), delimiter=part), [])
        cells = [c.strip().strip("'") for c in cells]
        if not any(cells):
            words, block = ("", None) if block is not None else (words, None)
            continue
        values = [_value(c) for c in cells]
        many = sum(v is not None for v in values)
        if many < 2 or many < sum(bool(c) for c in cells) - (1 if block is None else 0):
            bad = next((c for c in cells if c and _value(c) is None), "")
            if block is not None and many >= 2:
                raise _refused(Problem(f"/text/line {n}", bad[:40], "a number"))
            words, block = " ".join(c for c in cells if c)[:200], None
            continue
        row: list[float | None] = list(values)
        if block is None:
            corner = cells[0] if values[0] is None else ""
            block = _Block(n, words or corner, [], corner)
            found.append(block)
            if len(found) > TABLES_MOST:
                raise _refused(Problem("/text", f"more than {TABLES_MOST} tables", f"at most {TABLES_MOST}"))
            words = ""
        while len(row) > 1 and row[-1] is None:
            row.pop()
        block.rows.append(row)
    return found


def _value(cell: str) -> float | None:
    """A number with or without a sign; None for anything else. NaN is no number."""
    try:
        return signed(cell, "%")
    except UnitError:
        return None


def _checked_axes(x: list[float], y: list[float], at: str) -> None:
    for name, axis in (("the first axis", x), ("the second axis", y)):
        if len(axis) > MOST:
            raise _refused(Problem(at, f"{len(axis)} values along {name}", f"at most {MOST}"))
        for a, b in itertools.pairwise(axis):
            if b <= a:
                raise _refused(Problem(at, f"{b:g} after {a:g} along {name}", "each value more than the one before"))


def _table(block: _Block, w: Worked, choice: Choice | None) -> ReadTable:
    at = f"/text/line {block.line}"
    guesses: list[str] = []
    x, y, rows = _laid_out(block, at, guesses)
    stood = " ".join(dict.fromkeys([block.words, block.corner])).strip()
    key = next((k for pattern, k in _NAMES if re.search(pattern, stood, re.IGNORECASE)), None)
    if not y:
        return _curve(key, stood, x, rows[0], guesses)
    load = "throttle" if re.search(r"throttle|tps|\balpha\b", stood, re.IGNORECASE) else "manifold_pressure"
    if not re.search(r"kpa|map\b|manifold|throttle|tps|alpha", stood, re.IGNORECASE):
        load = "throttle" if y[0] < 10 and 95 <= y[-1] <= 105 else "manifold_pressure"
        guesses.append(f"the second axis taken as {LOAD_LABEL[load]}, by its values {y[0]:g} to {y[-1]:g}")
    elif re.search(r"\bbar\b", stood, re.IGNORECASE) and y[-1] < 5:
        y = [v * 100 for v in y]
        guesses.append("the second axis in bar, made kPa")
    return _grid(key, stood, x, y, rows, load, w, choice, guesses)


def _laid_out(block: _Block, at: str, guesses: list[str]) -> tuple[list[float], list[float], list[list[float]]]:
    """Axes and cells, rising both, engine speed along the first. Raises BuildError for a table that is not whole."""
    rows = block.rows
    wide = max(len(row) for row in rows)
    if len(rows) > MOST + 1 or wide > MOST + 1:
        raise _refused(Problem(at, f"{len(rows)} rows of {wide}", f"at most {MOST} rows of {MOST} cells and their axes"))
    if wide == 2 or len(rows) == 2:
        pairs = rows if wide == 2 else [list(pair) for pair in zip(*_squared(rows), strict=True)]
        if all(len(row) == 2 and row[0] is not None and row[1] is not None for row in pairs):
            ordered = sorted((float(a), float(b)) for a, b in pairs)  # type: ignore[arg-type]
            _checked_axes([a for a, _ in ordered], [], at)
            return [a for a, _ in ordered], [], [[b for _, b in ordered]]
    head = rows[0]
    if len(head) == wide - 1:
        head = [None, *head]
    x = head[1:]
    y = [row[0] for row in rows[1:]]
    body = [row[1:] for row in rows[1:]]
    for i, row in enumerate(body):
        if len(row) != len(x) or any(v is None for v in row):
            gap = next((j for j in range(len(x)) if j >= len(row) or row[j] is None), len(x))
            where = f"column {gap + 2}" if gap < len(x) else f"{len(row)} cells"
            raise _refused(
                Problem(
                    f"/text/line {block.line + i + 1}",
                    f"nothing in {where}" if gap < len(x) else where,
                    f"{len(x)} cells, one for each value of the first row: none may be missing",
                )
            )
    if any(v is None for v in (*x, *y)):
        raise _refused(Problem(at, "an axis with a gap", "speeds along the first row, loads down the first column"))
    xs, ys, cells = (
        [float(v) for v in x if v is not None],
        [float(v) for v in y if v is not None],
        [[float(v) for v in row if v is not None] for row in body],
    )
    if ys and max(ys) >= SPEEDS_FROM and max(xs) < max(ys):
        xs, ys, cells = ys, xs, [list(column) for column in zip(*cells, strict=True)]
        guesses.append("turned round: engine speed stood down the first column")
    if xs == sorted(xs, reverse=True) and len(xs) > 1:
        xs, cells = xs[::-1], [row[::-1] for row in cells]
        guesses.append("the speeds stood from high to low")
    if ys == sorted(ys, reverse=True) and len(ys) > 1:
        ys, cells = ys[::-1], cells[::-1]
        guesses.append("the loads stood from high to low")
    _checked_axes(xs, ys, at)
    return xs, ys, cells


def _squared(rows: list[list[float | None]]) -> list[list[float | None]]:
    wide = max(len(row) for row in rows)
    filled: list[list[float | None]] = []
    for row in rows:
        gap: list[float | None] = [None] * (wide - len(row))
        filled.append(gap + row)
    return filled


def _curve(key: TableKey | None, stood: str, x: list[float], values: list[float], guesses: list[str]) -> ReadTable:
    kind = TABLES[key] if key is not None else None
    if kind is None or kind.y is not None:
        return _unknown(
            stood, x, [], [values], guesses, "Which curve is this? Nothing over it says so: put its name above it, like 'Warm-up'."
        )
    assert key is not None, "a kind was found by it"
    guesses.append(f"taken as {kind.title.lower()}, by its heading")
    return _read_table(key, stood, x, [], [values], "manifold_pressure", guesses)


def _grid(
    key: TableKey | None, stood: str, x: list[float], y: list[float], rows: list[list[float]], load: str, w: Worked, choice: Choice | None, guesses: list[str]
) -> ReadTable:  # fmt: skip
    options = _options(key, stood, rows, w, x, y, load)
    if choice == "skip":
        return _unknown(stood, x, y, rows, [*guesses, "left out"], "")
    if choice is None and len(options) == 1:
        choice = options[0].key
        guesses.append(f"cells taken as {options[0].word}")
    if choice is None or choice == "factor":
        asks = "What are these cells?" if options else "These cells are neither a filling, nor a mixture, nor an advance."
        found = _unknown(stood, x, y, rows, guesses, asks)
        found.options = options
        return found
    stoich = fuel_data(w.build.engine).stoich
    scale = {"fraction": 100.0, "air_fuel": 1 / stoich}.get(choice, 1.0)
    made = _MAKES[choice]
    if choice == "air_fuel":
        guesses.append(f"divided by {stoich:g}, this fuel's own ratio")
    found = _read_table(made, stood, x, y, [[v * scale for v in row] for row in rows], load, guesses)
    found.options = options
    found.doubts += _of_another(x, y, w, load)
    return found


def _of_another(x: list[float], y: list[float], w: Worked, load: str) -> list[str]:
    """What speaks for another engine's table."""
    limit, found = w.build.engine.rev_limit.si * 60, []
    if x[-1] > 1.35 * limit or x[-1] < 0.75 * limit:
        found.append(f"Its speeds end at {x[-1]:,.0f} rpm; this engine's limit is {limit:,.0f}: is it another engine's table?")
    most = (w.engine.ambient_pressure_pa + (w.build.engine.boost.si if w.build.engine.boost else 0.0)) / 1e3
    if load == "manifold_pressure" and y[-1] < 0.85 * most:
        found.append(f"Its loads end at {y[-1]:.0f} kPa; this engine goes to {most:.0f}.")
    return found


def _options(
    key: TableKey | None, stood: str, rows: list[list[float]], w: Worked, x: list[float], y: list[float], load: str
) -> list[Option]:
    """The ways in which cells can be read: those whose usual range holds them, narrowed by what stands over them."""
    low, high = min(map(min, rows)), max(map(max, rows))
    by_name = {"ve": ("percent", "fraction"), "lambda": ("lambda", "air_fuel"), "advance": ("advance",)}
    named = by_name.get(key or "")
    ranges = FULL_RANGE if named is None else {k: NAMED_RANGE[k] for k in named}
    fits = [k for k, (a, b) in ranges.items() if a <= low and high <= b and (k != "advance" or high >= LEAST_ADVANCE)]
    if re.search(r"%", stood) and "percent" in fits:
        fits = ["percent"]
    if named and len(fits) > 1 and FULL_RANGE[fits[0]][0] <= high <= FULL_RANGE[fits[0]][1] and high > FULL_RANGE[fits[1]][1]:
        fits = fits[:1]
    i, j = len(y) // 2, len(x) // 2
    value, stoich = rows[i][j], fuel_data(w.build.engine).stoich
    where = f"at {x[j]:,.0f} rpm and {y[i]:g} {LOAD_LABEL[load].split(', ')[1]}"
    words: dict[str, tuple[str, str]] = {
        "percent": ("filling in per cent", f"{where} the cylinder fills to {value:.0f} %"),
        "fraction": ("filling as a fraction", f"{where} the cylinder fills to {value * 100:.0f} %"),
        "lambda": ("lambda", f"{where} {value:.2f} of the air that burns all the fuel"),
        "air_fuel": ("air-fuel ratio", f"{where} {value:.1f} parts of air, lambda {value / stoich:.2f} on this fuel"),
        "advance": ("advance in degrees", f"{where} spark {value:.0f} degrees before top"),
    }
    return [Option(key=k, word=words[k][0], means=words[k][1]) for k in fits]  # type: ignore[arg-type]


def _unknown(stood: str, x: list[float], y: list[float], rows: list[list[float]], guesses: list[str], asks: str) -> ReadTable:
    return ReadTable(
        key=None, title=stood or "A table", stood=stood, unit="", x_label="rpm" if y else "", x=x, y_label="load" if y else None, y=y, rows=rows, guesses=guesses, options=[], asks=asks, doubts=[],
    )  # fmt: skip


def _read_table(
    key: TableKey, stood: str, x: list[float], y: list[float], rows: list[list[float]], load: str, guesses: list[str]
) -> ReadTable:
    kind: TableKind = TABLES[key]
    rounded = [[round(v, kind.digits) for v in row] for row in rows]
    doubts = [
        f"{v:g} {kind.unit} in row {i + 1}, column {j + 1} is outside {kind.low:g} to {kind.high:g}"
        for i, row in enumerate(rounded)
        for j, v in enumerate(row)
        if not kind.low <= v <= kind.high
    ]
    return ReadTable(
        key=key, title=title_of(key, load), stood=stood, unit=kind.unit, x_label=kind.x, x=x, y_label=LOAD_LABEL[load] if kind.y else None, y=y, rows=rounded, guesses=guesses, options=[], asks="",
        doubts=doubts[:3],
    )  # fmt: skip
