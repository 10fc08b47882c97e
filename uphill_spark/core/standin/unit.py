"""The control unit of the stand-in: it runs the person's own tables, and knows of the engine only what its sensors say."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..physics.air import Array
from ..stages.tune import Table
from ..stages.tune.in_use import by_throttle

CRANKS_UNDER = 400.0 / 60  # rev/s, under which the unit gives cranking fuel and holds its cranking spark
CRANKING_SPARK = 8.0  # deg before top
WAKES = 6.5  # V, under which a unit resets
HOLDS, REACHES = 0.10, 0.5  # of the valve for each 100 rpm under the target, and the most that it adds so


@dataclass(frozen=True, slots=True)
class Unit:
    """What is typed into it: its tables by name, fuel [kg] that fills one cylinder for the full-cylinder pulse, number of cylinders; by what the cells of a table are multiplied in each lane, where a change is tried."""

    tables: Mapping[str, Table]
    full_kg: float
    cylinders: int
    scaled: Mapping[str, Array]

    def over(self, key: str, x: Array) -> Array:
        """A curve read."""
        t = self.tables[key]
        return np.asarray(np.interp(x, t.x, t.rows[0]) * self.scaled.get(key, 1.0), dtype=np.float64)

    def grid(self, key: str, rpm: Array, load: Array) -> Array:
        """A grid read between its cells, held at its edges."""
        return np.asarray(bilinear(self.tables[key], rpm, load) * self.scaled.get(key, 1.0), dtype=np.float64)

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
            self.over("after_start", coolant) / 100 * np.clip(1 - since_s / np.maximum(self.over("after_start_time", coolant), 0.1), 0, 1)
        )
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
        short = np.clip((self.over("idle_speed", coolant) - rev_s * 60) / 100 * HOLDS, -REACHES / 2, REACHES)
        return np.asarray(np.clip(self.over("idle_air", coolant) / 100 + np.where(cranks, 0.1, short), 0.0, 1.0), dtype=np.float64)


def bilinear(table: Table, x: Array, y: Array) -> Array:
    """A grid at many places [its axes], straight along both axes, held at its edges."""
    rows = np.asarray(table.rows, dtype=np.float64)
    xs, ys = np.asarray(table.x, dtype=np.float64), np.asarray(table.y, dtype=np.float64)
    x, y = np.clip(x, xs[0], xs[-1]), np.clip(y, ys[0], ys[-1])
    j = np.clip(np.searchsorted(xs, x) - 1, 0, len(xs) - 2)
    i = np.clip(np.searchsorted(ys, y) - 1, 0, len(ys) - 2)
    u, v = (x - xs[j]) / (xs[j + 1] - xs[j]), (y - ys[i]) / (ys[i + 1] - ys[i])
    low = rows[i, j] * (1 - u) + rows[i, j + 1] * u
    high = rows[i + 1, j] * (1 - u) + rows[i + 1, j + 1] * u
    return np.asarray(low * (1 - v) + high * v, dtype=np.float64)
