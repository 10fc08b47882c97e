"""The list of parts as CSV (RFC 4180) and as a workbook (ECMA-376), written and read in again: what somebody filled in beside a line comes back to that line."""

from __future__ import annotations

import csv
import io
import zipfile
from collections.abc import Iterable, Sequence
from typing import Any, Literal, get_args

from openpyxl import Workbook, load_workbook
from openpyxl.styles import Font
from openpyxl.utils import get_column_letter
from openpyxl.worksheet.worksheet import Worksheet
from pydantic import BaseModel, ValidationError

from ..core.errors import BuildError, Problem
from ..core.given import Build
from ..core.given.document import problem_of
from ..core.given.edit import Patch, put
from ..core.given.work import OwnPart, PartNote, PartState
from ..core.stages.work.parts import PartRow, slug
from .cells import as_text, from_text, written

COLUMNS = ("key", "what", "quantity", "unit", "for", "state", "from", "price", "comes back", "ordered", "promised", "words", "note")
#: What of a line a person fills in, by its column.
_FILLED = {
    "state": "state",
    "from": "supplier",
    "price": "price",
    "comes back": "credit",
    "ordered": "ordered",
    "promised": "due",
    "words": "words",
}
ROWS_MOST, LARGEST, UNPACKED_MOST = 1000, 2_000_000, 30_000_000
CELL_MOST = 400
_WANTS = f"a table of at most {ROWS_MOST} rows with a heading that has 'what' or 'key': CSV, or a workbook (.xlsx)"
_WIDTHS = {"what": 42, "note": 44, "key": 26, "from": 22}


class PartsRead(BaseModel):
    """What a table says: the edit that takes it over, how many lines of the plan and of one's own it changes, and how many it leaves as they are."""

    patch: list[dict[str, Any]]
    changed: int
    new: int
    same: int


def rows(parts: Iterable[PartRow], tasks: dict[str, str]) -> list[tuple[object, ...]]:
    """The list as rows under `COLUMNS`. `tasks` tells each task by its key."""
    return [
        (p.key, p.what, p.quantity, p.unit, tasks.get(p.task, ""), p.state.replace("_", " "), p.supplier, p.price, p.credit, p.ordered, p.due, p.words, p.spec)
        for p in parts
    ]  # fmt: skip


def write_csv(parts: Iterable[PartRow], tasks: dict[str, str]) -> str:
    """The list as CSV."""
    return written([COLUMNS, *rows(parts, tasks)])


ORDER_COLUMNS = ("from", "what", "quantity", "unit", "for which car", "price", "order by", "note")


def order_csv(lists: Sequence[tuple[str, Sequence[PartRow], dict[str, str]]]) -> str:
    """What is left to order for several cars, one line for what is the same from the same supplier. Each list has the car's name, its parts, and by when each is to be ordered by its key."""
    merged: dict[tuple[str, str, str, str], tuple[float, list[str], list[str], str]] = {}
    for car, parts, by in lists:
        for p in parts:
            if p.gone or not (p.state == "to_order" or p.short):
                continue
            key = (p.supplier, p.what, p.unit, p.spec)
            many, cars, prices, soonest = merged.get(key, (0.0, [], [], ""))
            days = [d for d in (soonest, by.get(p.key, "")) if d]
            merged[key] = (
                round(many + (p.short or p.quantity), 2),
                [*cars, car],
                [*prices, p.price] if p.price else prices,
                min(days, default=""),
            )
    rows = [
        (supplier, what, many, unit, ", ".join(dict.fromkeys(cars)), " + ".join(prices), soonest, spec)
        for (supplier, what, unit, spec), (many, cars, prices, soonest) in merged.items()
    ]  # fmt: skip
    return written([ORDER_COLUMNS, *sorted(rows, key=lambda r: (r[0] == "", r[0], r[6] or "9", r[1]))])


def write_book(parts: Iterable[PartRow], tasks: dict[str, str]) -> bytes:
    """The list as a workbook."""
    book = Workbook()
    sheet = book.active
    assert isinstance(sheet, Worksheet), "a new workbook has a sheet"
    sheet.title = "Parts"
    sheet.append(list(COLUMNS))
    for row in rows(parts, tasks):
        sheet.append([as_text(cell) for cell in row])
    for cell in sheet[1]:
        cell.font = Font(bold=True)
    for i, name in enumerate(COLUMNS, 1):
        sheet.column_dimensions[get_column_letter(i)].width = _WIDTHS.get(name, 13)
    sheet.freeze_panes = "C2"
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _refused(given: str, wants: str = _WANTS) -> BuildError:
    return BuildError("This is no list of parts that can be read.", (Problem("/table", given, wants),))


def cells(data: bytes) -> list[list[str]]:
    """The rows of a file. Raises BuildError."""
    if not data:
        raise _refused("an empty file")
    if len(data) > LARGEST:
        raise _refused(f"{len(data) / 1e6:.1f} MB", f"at most {LARGEST // 1_000_000} MB")
    if data[:2] == b"PK":
        return _of_book(data)
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("cp1252", errors="replace")
    lines = text.splitlines()
    if len(lines) > ROWS_MOST + 1 or any("\x00" in line for line in lines):
        raise _refused(f"{len(lines)} lines" if len(lines) > ROWS_MOST + 1 else "a file that is no text")
    heading = next((line for line in lines if line.strip()), "")
    marks = max(",;\t", key=heading.count)
    try:
        return [[from_text(c.strip()) for c in row] for row in csv.reader(lines, delimiter=marks)]
    except csv.Error as error:
        raise _refused(str(error)[:60]) from error


def _of_book(data: bytes) -> list[list[str]]:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            if sum(i.file_size for i in packed.infolist()) > UNPACKED_MOST:
                raise _refused(
                    "a workbook that unpacks to more than a list of parts holds", f"at most {UNPACKED_MOST // 1_000_000} MB unpacked"
                )
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True)
        sheet = book.worksheets[0]
        found = [[_text(c) for c in row[:40]] for _, row in zip(range(ROWS_MOST + 2), sheet.iter_rows(values_only=True), strict=False)]
    except BuildError:
        raise
    except Exception as error:  # whatever a broken workbook breaks in the library
        raise _refused("a workbook that cannot be opened") from error
    if len(found) > ROWS_MOST + 1:
        raise _refused(f"more than {ROWS_MOST} rows")
    return found


def _text(cell: object) -> str:
    if cell is None:
        return ""
    if isinstance(cell, float) and cell.is_integer():
        return str(int(cell))
    date = getattr(cell, "date", None)
    return str(date() if callable(date) else cell).strip()


def read(data: bytes, build: Build, parts: Sequence[PartRow]) -> PartsRead:
    """What a table fills in beside the lines of the plan, found by their key or by what they are; other lines are the person's own. Raises BuildError that names each line."""
    table = [row for row in cells(data) if any(row)]
    if not table:
        raise _refused("a table without rows")
    heading = [h.casefold().strip() for h in table[0]]
    if not {"what", "key"} & set(heading):
        raise _refused(f"a heading of {', '.join(h for h in heading[:8] if h) or 'nothing'}")
    by_key = {p.key: p for p in parts}
    by_what = {p.what.casefold(): p for p in parts}
    problems: list[Problem] = []
    patch: Patch = []
    taken = set(build.work.lines)
    changed = new = same = 0
    for n, row in enumerate(table[1:], 2):
        told = {h: cell[:CELL_MOST] for h, cell in zip(heading, row, strict=False) if cell}
        name = told.get("what", "")
        line = by_key.get(told.get("key", "")) or by_what.get(name.casefold())
        if line is None and not name:
            problems.append(Problem(f"/table/line {n}/what", "nothing", "what it is"))
            continue
        ops, kind = _line(told, line, build, taken, n, problems)
        patch += ops
        changed, new, same = changed + (kind == "changed"), new + (kind == "new"), same + (kind == "same")
    if problems:
        raise BuildError("Some lines cannot be taken. Nothing was.", tuple(problems[:20]))
    return PartsRead(patch=_short(patch, build), changed=changed, new=new, same=same)


#: Operations from which on the lines are written as one.
_MANY = 100


def _short(patch: Patch, build: Build) -> Patch:
    """An edit of many lines as one of the whole list: a patch holds so many operations and no more."""
    if len(patch) <= _MANY:
        return patch
    whole: dict[str, dict[str, Any]] = {}
    for op in patch:
        above, _, key = op["path"].rpartition("/")
        if above not in whole:
            notes = build.work.lines if above.endswith("lines") else build.work.parts
            whole[above] = {k: note.model_dump(mode="json", exclude_unset=True) for k, note in notes.items()}
        whole[above][key] = op["value"]
    return [put(above, notes) for above, notes in whole.items()]


def _line(
    told: dict[str, str], line: PartRow | None, build: Build, taken: set[str], n: int, problems: list[Problem]
) -> tuple[Patch, Literal["changed", "new", "same"]]:
    work = build.work
    own = line is None or line.own
    key = line.key if line is not None else _fresh(told["what"], taken)
    notes = work.lines if own else work.parts
    before: dict[str, Any] = notes[key].model_dump(mode="json", exclude_unset=True) if key in notes else {}
    after = dict(before)
    for column, field in _FILLED.items():
        if column in told:
            after[field] = told[column].replace(" ", "_").casefold() if field == "state" else told[column]
    if own:
        after |= {"what": told.get("what", before.get("what", ""))}
        if "quantity" in told:
            after["quantity"] = _number(told["quantity"], n, problems)
        if "unit" in told:
            after["unit"] = told["unit"]
    if "state" in after and after["state"] not in get_args(PartState):
        problems.append(
            Problem(f"/table/line {n}/state", str(after["state"]), f"one of {', '.join(w.replace('_', ' ') for w in get_args(PartState))}")
        )
        return [], "same"
    model = OwnPart if own else PartNote
    try:
        if model.model_validate(after) == (model.model_validate(before) if before else PartNote()):
            return [], "same"
    except ValidationError as error:
        columns = {field: column for column, field in _FILLED.items()}
        for e in error.errors(include_url=False)[:3]:
            p = problem_of(e)
            field = p.at.lstrip("/").split("/")[0]
            problems.append(Problem(f"/table/line {n}/{columns.get(field, field)}", p.given, p.wants))
        return [], "same"
    place = f"/work/{'lines' if own else 'parts'}/{key}"
    return [put(place, after)], "new" if line is None else "changed"


def _number(text: str, n: int, problems: list[Problem]) -> float:
    try:
        return float(text.replace(",", "."))
    except ValueError:
        problems.append(Problem(f"/table/line {n}/quantity", text, "a number"))
        return 1.0


def _fresh(what: str, taken: set[str]) -> str:
    """A key for a line that is new: of what it is, and not one that is taken."""
    stem = (slug(what) or "part")[:32]
    stem = stem if stem[0].isalpha() else f"p_{stem}"
    key, k = stem, 2
    while key in taken:
        key, k = f"{stem}_{k}", k + 1
    taken.add(key)
    return key
