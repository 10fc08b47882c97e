"""The control unit of the stand-in: it runs the person's own tables, and knows of the engine only what its sensors say."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from ..physics.air import Array
from ..stages.tune import Table
from ..stages.tune.in_use import by_throttle
from .engine import within

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

    @staticmethod
    def of(table: Table) -> Grid:
        """The arrays of a table."""
        return Grid(np.asarray(table.x, dtype=np.float64), np.asarray(table.y, dtype=np.float64), np.asarray(table.rows, dtype=np.float64))

    def at(self, x: Array, y: Array) -> Array:
        """Cells at many places [its axes], straight along both axes, held at its edges."""
        x, y = within(x, self.x[0], self.x[-1]), within(y, self.y[0], self.y[-1])
        j = np.minimum(np.maximum(np.searchsorted(self.x, x) - 1, 0), len(self.x) - 2)
        i = np.minimum(np.maximum(np.searchsorted(self.y, y) - 1, 0), len(self.y) - 2)
        u, v = (x - self.x[j]) / (self.x[j + 1] - self.x[j]), (y - self.y[i]) / (self.y[i + 1] - self.y[i])
        low = self.rows[i, j] * (1 - u) + self.rows[i, j + 1] * u
        high = self.rows[i + 1, j] * (1 - u) + self.rows[i + 1, j + 1] * u
        return np.asarray(low * (1 - v) + high * v, dtype=np.float64)


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
        g = self._grids[key]
        found: Array = np.interp(x, g.x, g.rows[0])
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
        more = self.over("after_start", coolant) / 100 * within(1 - since_s / np.maximum(self.over("after_start_time", coolant), 0.1), 0, 1)
        runs = filled / self.grid("lambda", rpm, load) * self.over("warm_up", coolant) * (1 + more)
        return np.asarray(self.full_kg * np.where(cranks, self.over("cranking", coolant), runs), dtype=np.float64)

    def spark(self, rev_s: Array, manifold_pa: Array, opening: Array, coolant: Array, cranks: NDArray[np.bool_]) -> Array:
        """Advance that it gives [deg before top]."""
        load = opening if by_throttle(self.tables["advance"]) else manifold_pa / 1e3
        table = self.grid("advance", rev_s * 60, load)
        trim = self.over("idle_trim", rev_s * 60 - self.over("idle_speed", coolant))
        near = np.abs(rev_s * 60 - self.over("idle_speed", coolant)) < 300
        return np.asarray(np.where(cranks, CRANKING_SPARK, table + np.where(near, trim, 0.0)), dtype=np.float64)

    def idle_valve(self, rev_s: Array, coolant: Array, cranks: NDArray[np.bool_]) -> Array:
        """How far the idle valve stands open (share): as typed in for the coolant, and more the further the speed is under its target."""
        short = within((self.over("idle_speed", coolant) - rev_s * 60) / 100 * HOLDS, -REACHES / 2, REACHES)
        return np.asarray(within(self.over("idle_air", coolant) / 100 + np.where(cranks, 0.1, short), 0.0, 1.0), dtype=np.float64)
