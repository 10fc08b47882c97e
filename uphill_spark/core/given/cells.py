"""What a person does to the cells of a table: written, changed by so much or so many per cent, filled, drawn straight between its corners, smoothed, pasted; and its axes written anew.

Each is a function of the table and what was typed; what comes of it is the person's own, and in ink.
"""

from __future__ import annotations

import re
from itertools import pairwise
from typing import Any, Literal, cast, get_args

import numpy as np
from numpy.typing import NDArray

from ..errors import BuildError, PatchError, Problem, UnitError
from ..units import signed
from .kept import MOST, TABLES, TableKey

Array = NDArray[np.float64]
Act = Literal["enter", "set", "add", "percent", "across", "up", "between", "smooth", "paste", "axis_x", "axis_y", "accept", "pencil"]
ACTS: tuple[Act, ...] = get_args(Act)
#: Acts that need a text.
_TYPED = ("enter", "set", "add", "percent", "paste", "axis_x", "axis_y")
USUAL_DOUBT = 0.10  # share by which a cell may be off where its table does not tell
LEAST_DOUBT = 0.005
#: Weights of a cell and of its neighbours when it is smoothed (a binomial kernel), before their doubts count.
KERNEL = np.array([1.0, 2.0, 1.0])


def acted(table: dict[str, Any], pointer: str, act: Any) -> dict[str, Any]:
    """A table of the document after an act on some of its cells. Raises PatchError for an act that is none, BuildError for a text that cannot be read."""
    key = pointer.rsplit("/", 1)[-1]
    if key not in TABLES or not pointer.startswith("/tune/kept/tables/"):
        raise PatchError("The edit does not fit the build.", (Problem(pointer, "cells", "a table of the kept tune"),))
    if not isinstance(table, dict) or "rows" not in table:
        raise PatchError("The edit does not fit the build.", (Problem(pointer, "nothing", "a table that is kept: keep a tune first"),))
    do, typed = _checked(act, pointer)
    rows = np.array(table["rows"], dtype=np.float64)
    if do in ("axis_x", "axis_y"):
        return _axis(table, pointer, rows, do, typed)
    first, last = _range(act, rows.shape, pointer, do)
    if do == "paste":
        block = _pasted(typed, pointer)
        last = (min(first[0] + block.shape[0], rows.shape[0]) - 1, min(first[1] + block.shape[1], rows.shape[1]) - 1)
        if block.shape == (1, 1):
            last = _range(act, rows.shape, pointer, do)[1]
    at = (slice(first[0], last[0] + 1), slice(first[1], last[1] + 1))
    cells = rows[at]
    if do == "paste":
        cells = np.broadcast_to(block, cells.shape) if block.shape == (1, 1) else block[: cells.shape[0], : cells.shape[1]]
    elif do == "smooth":
        cells = _smoothed(rows, table, first, last)
    elif do not in ("accept", "pencil"):
        cells = _done(do, cells, typed, pointer, table, first, last)
    digits = TABLES[key].digits
    rows = rows.copy()
    rows[at] = np.round(cells, digits)
    ink = {tuple(cell) for cell in table.get("ink", [])}
    touched = {(i, j) for i in range(first[0], last[0] + 1) for j in range(first[1], last[1] + 1)}
    ink = ink - touched if do == "pencil" else ink | touched
    return {**table, "rows": rows.tolist(), "ink": [list(cell) for cell in sorted(ink)]}


def _checked(act: Any, pointer: str) -> tuple[str, str]:
    if not isinstance(act, dict) or act.get("do") not in ACTS or act.keys() - {"do", "from", "to", "typed"}:
        raise PatchError("The edit cannot be read.", (Problem(pointer, repr(act)[:80], f"cells: do ({', '.join(ACTS)}), from, to, typed"),))
    typed = act.get("typed", "")
    if not isinstance(typed, str) or (act["do"] in _TYPED and not typed.strip()):
        raise BuildError("Nothing was typed.", (Problem(pointer, repr(typed)[:40], "a number"),))
    if len(typed) > 60_000:
        raise BuildError("That is too long.", (Problem(pointer, f"{len(typed)} signs", f"at most {MOST} rows of {MOST} cells"),))
    return act["do"], typed


def _range(act: dict[str, Any], shape: tuple[int, ...], pointer: str, do: str) -> tuple[tuple[int, int], tuple[int, int]]:
    """First and last cell of what is acted on, the lower left before the upper right."""

    def cell(name: str) -> tuple[int, int]:
        found = act.get(name)
        if not isinstance(found, list) or len(found) != 2 or any(isinstance(n, bool) or not isinstance(n, int) for n in found):
            raise PatchError("The edit cannot be read.", (Problem(f"{pointer}/{name}", repr(found)[:60], "row and column of a cell"),))
        row, column = found
        if not (0 <= row < shape[0] and 0 <= column < shape[1]):
            raise PatchError(
                "The edit does not fit the build.",
                (Problem(f"{pointer}/{name}", f"{row}, {column}", f"a cell of {shape[0]} rows of {shape[1]}"),),
            )
        return row, column

    a, b = cell("from"), cell("to") if "to" in act else cell("from")
    return (min(a[0], b[0]), min(a[1], b[1])), (max(a[0], b[0]), max(a[1], b[1]))


def _number(text: str, pointer: str, *, percent: bool = False) -> float:
    try:
        return signed(text, "%" if percent else "")
    except UnitError as error:
        raise BuildError("That is not a number.", (Problem(pointer, text.strip()[:40], "a number, like 5 or -2.5"),)) from error


def _done(do: str, cells: Array, typed: str, pointer: str, table: dict[str, Any], first: tuple[int, int], last: tuple[int, int]) -> Array:
    if do == "enter":
        do, typed = _meant(typed.strip())
    if do == "set":
        return np.full(cells.shape, _number(typed, pointer))
    if do == "add":
        return np.asarray(cells + _number(typed, pointer), dtype=np.float64)
    if do == "percent":
        return np.asarray(cells * (1 + _number(typed, pointer, percent=True) / 100), dtype=np.float64)
    if do == "across":
        return np.repeat(cells[:, :1], cells.shape[1], axis=1)
    if do == "up":
        return np.repeat(cells[:1, :], cells.shape[0], axis=0)
    # straight between the corners, by what stands along the axes
    x = _shares(table["x"][first[1] : last[1] + 1])
    y = _shares(table["y"][first[0] : last[0] + 1]) if table.get("y") else np.zeros(1)
    low = cells[0, 0] + (cells[0, -1] - cells[0, 0]) * x
    high = cells[-1, 0] + (cells[-1, -1] - cells[-1, 0]) * x
    return np.asarray(low[None, :] + (high - low)[None, :] * y[:, None], dtype=np.float64)


def _meant(typed: str) -> tuple[str, str]:
    """What a text typed over cells does: with a sign before it changes by so much, with % behind by so many per cent, else (or with = before) it is written."""
    if typed.endswith("%"):
        return "percent", typed
    return ("set", typed[1:]) if typed.startswith("=") else ("add", typed) if typed[:1] in ("+", "-", "−") else ("set", typed)


def _shares(axis: list[float]) -> Array:
    found = np.array(axis, dtype=np.float64)
    return np.zeros(1) if len(found) == 1 else np.asarray((found - found[0]) / (found[-1] - found[0]), dtype=np.float64)


def _smoothed(rows: Array, table: dict[str, Any], first: tuple[int, int], last: tuple[int, int]) -> Array:
    """Each cell with its neighbours, weighted by how sure each is (one over its doubt squared): a sure cell stays, an unsure one follows."""
    doubt = np.array(table["doubt"], dtype=np.float64) if table.get("doubt") else np.full(rows.shape, USUAL_DOUBT)
    sure = 1 / np.maximum(doubt, LEAST_DOUBT) ** 2
    kernel = np.outer(KERNEL, KERNEL) if rows.shape[0] > 1 else KERNEL[None, :]
    up, along = kernel.shape[0] // 2, kernel.shape[1] // 2
    found = rows.copy()
    for i in range(first[0], last[0] + 1):
        for j in range(first[1], last[1] + 1):
            weight = total = 0.0
            for di in range(-up, up + 1):
                for dj in range(-along, along + 1):
                    r, c = i + di, j + dj
                    if 0 <= r < rows.shape[0] and 0 <= c < rows.shape[1]:
                        w = kernel[di + up, dj + along] * sure[r, c]
                        weight, total = weight + w, total + w * rows[r, c]
            found[i, j] = total / weight
    return found[first[0] : last[0] + 1, first[1] : last[1] + 1]


def _pasted(text: str, pointer: str) -> Array:
    """Cells as a spreadsheet gives them: tabs or semicolons between, a row a line, the highest load first as it stands on screen or the lowest: as it comes."""
    lines = [line for line in text.replace("\r\n", "\n").replace("\r", "\n").split("\n") if line.strip()]
    if len(lines) > MOST:
        raise BuildError("That is too much.", (Problem(pointer, f"{len(lines)} rows", f"at most {MOST} rows"),))
    part = next((d for d in ("\t", ";") if any(d in line for line in lines)), None)
    rows = [line.split(part) for line in lines] if part else [re.split(r"\s+", line.strip()) for line in lines]
    wide = len(rows[0])
    if wide > MOST:
        raise BuildError("That is too much.", (Problem(pointer, f"{wide} columns", f"at most {MOST} columns"),))
    for i, row in enumerate(rows):
        if len(row) != wide:
            raise BuildError(
                "Rows of one length are wanted.",
                (Problem(f"{pointer}/row {i + 1}", f"{len(row)} cells", f"{wide} cells, as in the first row"),),
            )
    return np.array([[_number(cell, f"{pointer}/row {i + 1}") for cell in row] for i, row in enumerate(rows)])


def _axis(table: dict[str, Any], pointer: str, rows: Array, do: str, typed: str) -> dict[str, Any]:
    """A table on another axis: its cells are read off the old one, straight between and held at the ends; ink stays where a cell stays."""
    which = do[-1]
    old = table.get(which) or []
    if not old:
        raise PatchError("The edit does not fit the build.", (Problem(pointer, do, "an axis that the table has"),))
    new = [_number(word, f"{pointer}/{which}") for word in re.split(r"[\s;]+", typed.strip()) if word]
    if not 2 <= len(new) <= MOST or any(b <= a for a, b in pairwise(new)):
        raise BuildError(
            "Those make no axis.", (Problem(f"{pointer}/{which}", typed[:80], f"2 to {MOST} numbers, each more than the one before"),)
        )
    digits = TABLES[cast(TableKey, pointer.rsplit("/", 1)[-1])].digits

    def moved(cells: Array) -> Array:
        if which == "x":
            return np.array([np.interp(new, old, row) for row in cells])
        return np.array([np.interp(new, old, column) for column in cells.T]).T

    places = {old.index(v): k for k, v in enumerate(new) if v in old}
    ink = [[i, places[j]] if which == "x" else [places[i], j] for i, j in table.get("ink", []) if (j if which == "x" else i) in places]
    found = {**table, which: new, "rows": np.round(moved(rows), digits).tolist(), "ink": ink}
    if table.get("doubt"):
        found["doubt"] = np.round(moved(np.array(table["doubt"], dtype=np.float64)), 3).tolist()
    found.pop("ruled", None)  # what ruled the old cells says nothing of the new
    return found
