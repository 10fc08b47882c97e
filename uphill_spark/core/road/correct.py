"""Cells of the fuel table corrected by what a log says of them, once the constants are told apart: only where it was driven, only by more than its doubt, never by much at a time.

A cell's own mean is smoothed by a ridge on second differences in which each counts by its doubt (Eilers and Marx, Statistical Science 11, 1996); cells that nobody visited follow the engine's own shape (the quick table) as the visited
ones beside them do, and are marked so.
"""

from __future__ import annotations

from typing import Literal

import numpy as np
from scipy import sparse
from scipy.sparse.linalg import splu

from ..figures import Result
from ..physics.air import Array
from ..standin.unit import Grid
from ..worked import Worked
from .cells import Visited
from .samples import Table2

STEP = 0.10  # of a cell, that one correction moves it at most
LEAST_S = 1.5  # that a cell has to have been visited
BEYOND = 1.0  # of its doubt, that a cell has to be off
LEAST_OFF = 0.004  # under which nothing is worth writing
BENDS = 0.012  # of second differences from cell to cell, that a filling usually has
FOLLOWS = 0.05  # of first differences, for cells that nobody visited
FILLED_LEAST = 0.01  # by which a cell that nobody visited has to move to be filled

CellIs = Literal["kept", "corrected", "limited", "held", "filled", "not_visited"]


class Cell(Result):
    """A cell corrected: row and column, old and new value [%], what was off and its doubt there [shares], seconds that it was visited, and what became of it: kept, corrected, limited to a step, held back for being made leaner at
    high load, filled by the engine's shape, not visited."""

    row: int
    column: int
    old: float
    new: float
    off: float | None
    doubt: float | None
    seconds: float
    what: CellIs


class Correction(Result):
    """A table corrected: its axes, its cells, how many of each kind, and the mean square that is left where it was driven, before and after [share]."""

    x: list[float]
    y: list[float]
    y_label: str
    cells: list[Cell]
    moved: int
    held: int
    filled: int
    before: float
    after: float


def correction(w: Worked, table: Table2, seen: Visited, *, signed: bool = False, fill: bool = True) -> Correction:
    """The table in use with what a log says of its cells. Only with `signed` are those at high load made leaner too; with `fill` cells that nobody visited follow the engine's shape."""
    rows, columns = table.shape
    old = table.grid.rows
    counts = (seen.seconds >= LEAST_S) & np.isfinite(seen.mean)
    smooth, doubt = smoothed(np.where(counts, seen.mean, 0.0), np.where(counts, np.maximum(seen.error, 0.002), np.inf))
    at_high = np.broadcast_to((table.grid.y >= table.high)[:, None], (rows, columns))
    ve = next((t for t in w.in_use.kept if t.key == "ve"), None)
    inked = {(r, c) for r, c in ve.ink} if ve else set()
    new, what = old.copy(), np.full((rows, columns), "not_visited", dtype=object)
    for i in range(rows):
        for j in range(columns):
            if not counts[i, j]:
                continue
            off, sure = float(smooth[i, j]), float(doubt[i, j])
            if abs(off) <= max(BEYOND * sure, LEAST_OFF):
                what[i, j] = "kept"
                continue
            moved = float(np.clip(off, -STEP, STEP))
            if moved < 0 and at_high[i, j] and not signed:
                what[i, j] = "held"
                continue
            new[i, j] = old[i, j] * float(np.exp(moved))
            what[i, j] = "limited" if moved != off else "corrected"
    if fill and counts.any():
        _fill(w, table, new, old, counts, what, inked, at_high, signed=signed)
    new = np.asarray(np.round(np.clip(new, 1.0, 250.0), 1), dtype=np.float64)
    cells = [
        Cell(row=i, column=j, old=float(old[i, j]), new=float(new[i, j]), off=round(float(smooth[i, j]), 4) if counts[i, j] else None, doubt=round(float(doubt[i, j]), 4) if counts[i, j] else None,
             seconds=round(float(seen.seconds[i, j]), 1), what=what[i, j])
        for i in range(rows) for j in range(columns)
    ]  # fmt: skip
    weight = np.where(counts, seen.seconds, 0.0)
    left = np.where(counts, seen.mean - np.log(new / old), 0.0)
    whole = max(float(weight.sum()), 1e-9)
    before, after = (float(np.sqrt((weight * np.where(counts, x, 0.0) ** 2).sum() / whole)) for x in (seen.mean, left))
    return Correction(
        x=table.grid.x.tolist(), y=table.grid.y.tolist(), y_label="throttle, %" if table.by_throttle else "manifold, kPa", cells=cells, moved=sum(c.what in ("corrected", "limited") for c in cells),
        held=sum(c.what == "held" for c in cells), filled=sum(c.what == "filled" for c in cells), before=round(before, 4), after=round(after, 4),
    )  # fmt: skip


def _differences(n: int, order: int) -> sparse.csr_matrix:
    found = sparse.eye(n, format="csr")
    for _ in range(min(order, n - 1)):
        found = found[1:] - found[:-1]
    return found


def smoothed(mean: Array, error: Array) -> tuple[Array, Array]:
    """Means of cells [share] smoothed over the table, each by its own error (infinite: it says nothing), and the doubt of each."""
    rows, columns = mean.shape
    weight = np.where(np.isfinite(error), 1 / np.maximum(error, 1e-6) ** 2, 0.0).ravel()
    along = sparse.kron(sparse.eye(rows), _differences(columns, 2))
    up = sparse.kron(_differences(rows, 2), sparse.eye(columns))
    matrix = (sparse.diags(weight + 1e-4) + (along.T @ along + up.T @ up) / BENDS**2).tocsc()
    factor = splu(matrix)
    found = factor.solve(weight * mean.ravel())
    inverse = factor.solve(np.eye(rows * columns))
    return found.reshape(rows, columns), np.sqrt(np.maximum(np.diag(inverse), 0.0)).reshape(rows, columns)


def _fill(
    w: Worked,
    table: Table2,
    new: Array,
    old: Array,
    counts: np.ndarray,
    what: np.ndarray,
    inked: set[tuple[int, int]],
    at_high: np.ndarray,
    *,
    signed: bool,
) -> None:
    """Cells that nobody visited, by the engine's own shape: the quick table, raised or lowered as the visited cells beside are."""
    quick = next(t for t in w.tune.tables if t.key == "ve")
    if len(quick.x) < 2 or len(quick.y) < 2:
        return
    shape = Grid.of(quick)
    x, y = np.meshgrid(table.grid.x, table.grid.y)
    usual = np.maximum(shape.at(x.ravel(), y.ravel()).reshape(old.shape), 1.0)
    ratio = np.where(counts, np.log(np.maximum(new, 1.0) / usual), 0.0)
    rows, columns = old.shape
    weight = np.where(counts, 1 / 0.005**2, 0.0).ravel()
    along = sparse.kron(sparse.eye(rows), _differences(columns, 1))
    up = sparse.kron(_differences(rows, 1), sparse.eye(columns))
    field = (
        splu((sparse.diags(weight + 1e-2) + (along.T @ along + up.T @ up) / FOLLOWS**2).tocsc())
        .solve(weight * ratio.ravel())
        .reshape(old.shape)
    )
    for i in range(rows):
        for j in range(columns):
            if counts[i, j] or (i, j) in inked:
                continue
            moved = float(np.clip(np.log(usual[i, j] * np.exp(field[i, j]) / max(old[i, j], 1.0)), -STEP, STEP))
            if abs(moved) < FILLED_LEAST or (moved < 0 and at_high[i, j] and not signed):
                continue
            new[i, j], what[i, j] = old[i, j] * float(np.exp(moved)), "filled"
