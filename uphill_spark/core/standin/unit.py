"""The control unit of the stand-in: it runs the person's own tables, and knows of the engine only what its sensors say."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..physics import arith as m
from ..physics.air import Array
from ..stages.tune import Table
from ..stages.tune.in_use import by_throttle

CRANKS_UNDER = 400.0 / 60  # rev/s, under which the unit gives cranking fuel and holds its cranking spark
CRANKING_SPARK = 8.0  # deg before top
WAKES = 6.5  # V, under which a unit resets
HOLDS, REACHES = 0.10, 0.5  # of the valve for each 100 rpm under the target, and the most that it adds so


@dataclass(frozen=True, slots=True)
class Grid:
    """A table as arrays: made once, read many times."""

    x: Array
    y: Array
    rows: Array
    _rows: list[list[float]] = field(init=False, repr=False, compare=False)
    _axes: tuple[list[float], list[float]] = field(init=False, repr=False, compare=False)
    #: Of each cell its first corner, what it rises to the next along each axis, and what both together add; one over the width of each step of an axis.
    _cells: Array = field(init=False, repr=False, compare=False)
    _per: tuple[Array, Array] = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "_rows", self.rows.tolist())
        object.__setattr__(self, "_axes", (self.x.tolist(), self.y.tolist()))
        corner, along, up, far = self.rows[:-1, :-1], self.rows[:-1, 1:], self.rows[1:, :-1], self.rows[1:, 1:]
        cells = np.stack([corner, along - corner, up - corner, far - along - up + corner], axis=-1)
        object.__setattr__(self, "_cells", cells.reshape(-1, 4))
        object.__setattr__(self, "_per", (1 / np.diff(self.x), 1 / np.diff(self.y)))

    @staticmethod
    def of(table: Table) -> Grid:
        """The arrays of a table."""
        return Grid(np.asarray(table.x, dtype=np.float64), np.asarray(table.y, dtype=np.float64), np.asarray(table.rows, dtype=np.float64))

    def curve(self, x: Array) -> Array:
        """The one row of a curve read [its unit] over its axis."""
        return m.num(m.interp(x, self._axes[0], self._rows[0]) if isinstance(x, float) else np.interp(x, self.x, self.rows[0]))

    def at(self, x: Array, y: Array) -> Array:
        """Cells at many places [its axes], straight along both axes, held at its edges."""
        if isinstance(x, float):
            return m.num(self._one(x, float(y)))
        x, y = m.within(x, self.x[0], self.x[-1]), m.within(y, self.y[0], self.y[-1])
        j, i = self.x[1:-1].searchsorted(x), self.y[1:-1].searchsorted(y)
        u, v = (x - self.x[j]) * self._per[0][j], (y - self.y[i]) * self._per[1][i]
        cell = self._cells[i * (len(self.x) - 1) + j]
        return m.num(cell[..., 0] + cell[..., 1] * u + (cell[..., 2] + cell[..., 3] * u) * v)

    def _one(self, x: float, y: float) -> Any:
        rows, (j, u), (i, v) = self._rows, m.place(x, self._axes[0]), m.place(y, self._axes[1])
        low, high = rows[i], rows[i + 1]
        return (low[j] * (1 - u) + low[j + 1] * u) * (1 - v) + (high[j] * (1 - u) + high[j + 1] * u) * v


@dataclass(frozen=True, slots=True)
class Unit:
    """What is typed into it: its tables by name, fuel [kg] that fills one cylinder for the full-cylinder pulse, number of cylinders; by what the cells of a table are multiplied in each lane, where a change is tried."""

    tables: Mapping[str, Table]
    full_kg: float
    cylinders: int
    scaled: Mapping[str, Array]
    _grids: dict[str, Grid] = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "_grids", {key: Grid.of(table) for key, table in self.tables.items()})

    def over(self, key: str, x: Array) -> Array:
        """A curve read."""
        found = self._grids[key].curve(x)
        return found * self.scaled[key] if key in self.scaled else found

    def grid(self, key: str, rpm: Array, load: Array) -> Array:
        """A grid read between its cells, held at its edges."""
        found = self._grids[key].at(rpm, load)
        return found * self.scaled[key] if key in self.scaled else found

    def sprays(
        self,
        rev_s: Array,
        manifold_pa: Array,
        opening: Array,
        coolant: Array,
        air_c: Array,
        since_s: Array,
        cranks: NDArray[np.bool_],
        knows: Array | None = None,
    ) -> Array:
        """Fuel that it means to give one cylinder in a cycle [kg]. `since_s` is how long ago it caught; with `knows`, the filling (share) and the air's warmth are known in place of what the tables say."""
        rpm, kpa = rev_s * 60, manifold_pa / 1e3
        throttled = by_throttle(self.tables["ve"])
        load = opening if throttled else kpa
        warmth = self.over("air_temperature", air_c)
        filled = self.grid("ve", rpm, load) / 100 * (1.0 if throttled else kpa / 100) * warmth if knows is None else knows
        more = (
            self.over("after_start", coolant) / 100 * m.within(1 - since_s / m.maximum(self.over("after_start_time", coolant), 0.1), 0, 1)
        )
        runs = filled / self.grid("lambda", rpm, load) * self.over("warm_up", coolant) * (1 + more)
        return m.num(self.full_kg * m.where(cranks, self.over("cranking", coolant), runs))

    def spark(self, rev_s: Array, manifold_pa: Array, opening: Array, coolant: Array, cranks: NDArray[np.bool_]) -> Array:
        """Advance that it gives [deg before top]."""
        load = opening if by_throttle(self.tables["advance"]) else manifold_pa / 1e3
        table = self.grid("advance", rev_s * 60, load)
        trim = self.over("idle_trim", rev_s * 60 - self.over("idle_speed", coolant))
        near = abs(rev_s * 60 - self.over("idle_speed", coolant)) < 300
        return m.num(m.where(cranks, CRANKING_SPARK, table + m.where(near, trim, 0.0)))

    def idle_valve(self, rev_s: Array, coolant: Array, cranks: NDArray[np.bool_]) -> Array:
        """How far the idle valve stands open (share): as typed in for the coolant, and more the further the speed is under its target."""
        short = m.within((self.over("idle_speed", coolant) - rev_s * 60) / 100 * HOLDS, -REACHES / 2, REACHES)
        return m.num(m.within(self.over("idle_air", coolant) / 100 + m.where(cranks, 0.1, short), 0.0, 1.0))
