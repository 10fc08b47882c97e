"""Samples laid on the cells of the fuel table: each to the four around it, by how near it lies, as the control unit reads between them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..physics.air import Array
from .samples import Table2

APART_S = 0.5  # rows nearer to each other than that say the same: one sample


@dataclass(frozen=True)
class Weights:
    """Of each sample the four cells around it (by number, row by row of the table) and its shares."""

    cell: np.ndarray
    share: Array


@dataclass(frozen=True)
class Visited:
    """By cell: seconds, samples that stand by themselves, mean off, its standard error (nan where nobody was)."""

    seconds: Array
    many: Array
    mean: Array
    error: Array


def weights(table: Table2, rpm: Array, load: Array) -> Weights:
    """Where samples lie between the cells; held at the edges, as the unit does."""
    x, y = table.grid.x, table.grid.y
    u, v = np.clip(rpm, x[0], x[-1]), np.clip(load, y[0], y[-1])
    j = np.clip(np.searchsorted(x, u) - 1, 0, len(x) - 2)
    i = np.clip(np.searchsorted(y, v) - 1, 0, len(y) - 2)
    a, b = (u - x[j]) / (x[j + 1] - x[j]), (v - y[i]) / (y[i + 1] - y[i])
    wide = len(x)
    cell = np.stack([i * wide + j, i * wide + j + 1, (i + 1) * wide + j, (i + 1) * wide + j + 1])
    share = np.stack([(1 - a) * (1 - b), a * (1 - b), (1 - a) * b, a * b])
    return Weights(cell, share)


def visited(table: Table2, at: Weights, off: Array, seconds: Array, spread: float) -> Visited:
    """Mean of what is off in each cell, weighted by nearness and time. `spread` is that of a single sample [of off]; the error counts only samples that stand by themselves."""
    rows, columns = table.shape
    size = rows * columns
    cells = at.cell.ravel()
    w = (at.share * seconds[None, :]).ravel()
    total = np.asarray(np.bincount(cells, w, size), dtype=np.float64)
    sums = np.bincount(cells, w * np.broadcast_to(off, at.share.shape).ravel(), size)
    squares = np.bincount(cells, w * np.broadcast_to(off**2, at.share.shape).ravel(), size)
    many = np.asarray(np.bincount(cells, (at.share**2 * seconds[None, :]).ravel(), size), dtype=np.float64)
    with np.errstate(invalid="ignore", divide="ignore"):
        mean = np.where(total > 0, sums / total, np.nan)
        own = np.sqrt(np.maximum(squares / total - mean**2, 0.0))
        alone = np.maximum(total**2 / np.maximum(many, 1e-12) / APART_S, 1.0)
        error = np.where(total > 0, np.maximum(own, spread) / np.sqrt(alone), np.nan)
    shape = (rows, columns)
    return Visited(total.reshape(shape), np.where(total > 0, alone, 0.0).reshape(shape), mean.reshape(shape), error.reshape(shape))
