"""Tables as they are kept: those that the control unit came with, and those that a person works on and types in.

Numbers stand bare in the units of their kind (`TABLES`): a table is typed over cell by cell, in the unit that stands above it.
"""

from __future__ import annotations

import hashlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated, Literal, get_args

from pydantic import Field, field_validator, model_validator

from ..units import Of, Quantity
from .base import Day, Name, Note, Part, Speed

TableKey = Literal[
    "ve", "lambda", "advance", "prime", "cranking", "after_start", "after_start_time", "warm_up", "tip_in_share", "tip_in_time", "air_temperature", "altitude", "idle_speed", "idle_air",
    "idle_trim", "dwell", "dead_time", "fan",
]  # fmt: skip
MOST = 40  # cells along an axis


@dataclass(frozen=True, slots=True)
class TableKind:
    """A kind of table: its title, the unit of its cells, the least and the most that one may hold, decimals that are typed in, what stands along its axes (no second axis: a curve)."""

    title: str
    unit: str
    low: float
    high: float
    digits: int
    x: str
    y: str | None = None


_COOLANT, _VOLTS, _RPM, _LOAD = "coolant, °C", "volts", "rpm", "load"
#: Every table that a control unit is told, in the order in which they are worked through.
TABLES: dict[TableKey, TableKind] = {
    "ve": TableKind("Volumetric efficiency", "%", 1.0, 250.0, 1, _RPM, _LOAD),
    "lambda": TableKind("Lambda target", "lambda", 0.6, 1.3, 3, _RPM, _LOAD),
    "advance": TableKind("Ignition advance", "deg before top", -20.0, 60.0, 1, _RPM, _LOAD),
    "prime": TableKind("Prime, times the full-cylinder pulse", "1", 0.0, 12.0, 2, _COOLANT),
    "cranking": TableKind("Cranking fuel, times the full-cylinder pulse", "1", 0.05, 15.0, 2, _COOLANT),
    "after_start": TableKind("After-start fuel, more by", "%", 0.0, 200.0, 0, _COOLANT),
    "after_start_time": TableKind("After-start fuel, gone after", "s", 0.0, 120.0, 1, _COOLANT),
    "warm_up": TableKind("Warm-up fuel", "1", 0.5, 5.0, 3, _COOLANT),
    "tip_in_share": TableKind("Tip-in, share of the fuel that wets the wall", "1", 0.0, 0.95, 2, _COOLANT),
    "tip_in_time": TableKind("Tip-in, time in which the wall dries", "s", 0.01, 10.0, 2, _COOLANT),
    "air_temperature": TableKind("Air temperature, fuel times", "1", 0.3, 2.0, 3, "air, °C"),
    "altitude": TableKind("Altitude, fuel times", "1", 0.3, 1.5, 3, "outside, kPa"),
    "idle_speed": TableKind("Idle target", "rpm", 300.0, 3000.0, 0, _COOLANT),
    "idle_air": TableKind("Idle air, of the valve's most", "%", 0.0, 100.0, 0, _COOLANT),
    "idle_trim": TableKind("Idle, advance more by", "deg", -20.0, 20.0, 1, "rpm over the target"),
    "dwell": TableKind("Dwell", "ms", 0.2, 20.0, 3, _VOLTS),
    "dead_time": TableKind("Injector dead time", "ms", 0.0, 6.0, 3, _VOLTS),
    "fan": TableKind("Fan", "%", 0.0, 100.0, 0, _COOLANT),
}
if set(TABLES) != set(get_args(TableKey)):
    raise ValueError("tables and their kinds differ")

Cell = Annotated[float, Field(allow_inf_nan=False, ge=-1e5, le=1e5)]
Axis = Annotated[list[Cell], Field(max_length=MOST)]
Rows = Annotated[list[Axis], Field(max_length=MOST)]


class KeptTable(Part):
    """A table: its axes, rising, and its rows by the second one (one row where it has none). `ink` names the cells [row, column] that a person wrote or accepted; `doubt` is by how much each may be
    off (shares), `ruled` what rules each (a letter a cell: b best spark, k knock, i idle, h held from the next that runs)."""

    x: Axis = Field(min_length=1, title="Along")
    y: Axis = Field(default=[], title="Up")
    rows: Rows = Field(min_length=1, title="Cells")
    ink: list[Annotated[list[Annotated[int, Field(ge=0, lt=MOST)]], Field(min_length=2, max_length=2)]] = Field(
        default=[], max_length=MOST * MOST, title="Cells in ink"
    )
    doubt: Rows = Field(default=[], title="Doubt of the cells")
    ruled: list[Annotated[str, Field(max_length=MOST, pattern="^[bkih]*$")]] = Field(
        default=[], max_length=MOST, title="What rules the cells"
    )

    @field_validator("x", "y")
    @classmethod
    def _rising(cls, axis: list[float]) -> list[float]:
        for i, (a, b) in enumerate(pairwise(axis)):
            if b <= a:
                raise ValueError(f"/{i + 1}|{b:g} after {a:g}|each value of an axis more than the one before")
        return axis

    @model_validator(mode="after")
    def _whole(self) -> KeptTable:
        wide, high = len(self.x), max(len(self.y), 1)
        parts: dict[str, Sequence[Sequence[object]]] = {"rows": self.rows, "doubt": self.doubt, "ruled": self.ruled}
        for name, lines in parts.items():
            if name != "rows" and not lines:
                continue
            if len(lines) != high:
                raise ValueError(f"/{name}|{len(lines)} rows|{high} rows, one for each value of the second axis")
            for i, line in enumerate(lines):
                if len(line) != wide:
                    raise ValueError(
                        f"/{name}/{i}|{len(line)} cells|{wide} cells, one for each value of the first axis: none may be missing"
                    )
        for i, (row, column) in enumerate(self.ink):
            if row >= high or column >= wide:
                raise ValueError(f"/ink/{i}|[{row}, {column}]|a cell that the table has")
        return self


def sum_of(tables: Mapping[TableKey, KeptTable]) -> str:
    """A sum over what a set of tables says to a control unit: its axes and cells."""
    said = repr([(key, tables[key].x, tables[key].y, tables[key].rows) for key in sorted(tables)])
    return hashlib.sha256(said.encode()).hexdigest()[:16]


class TableSet(Part):
    """Tables of a kind each, and what tells the load in those that have one."""

    load: Literal["manifold_pressure", "throttle"] = Field(default="manifold_pressure", title="Load is told by")
    tables: dict[TableKey, KeptTable] = Field(default={}, title="Tables")

    @model_validator(mode="after")
    def _within(self) -> TableSet:
        for key, table in self.tables.items():
            kind = TABLES[key]
            if (kind.y is None) != (not table.y):
                raise ValueError(f"/tables/{key}/y|{len(table.y)} values|{'a second axis' if kind.y else 'no second axis: one row'}")
            for i, row in enumerate(table.rows):
                for j, value in enumerate(row):
                    if not kind.low <= value <= kind.high:
                        raise ValueError(f"/tables/{key}/rows/{i}/{j}|{value:g} {kind.unit}|{kind.low:g} to {kind.high:g} {kind.unit}")
        return self


class Found(TableSet):
    """What stood in the control unit before the first table was typed in. It is taken whole, and not written in."""

    source: Literal["read_out", "written_down", "photographed"] = Field(default="read_out", title="How it was had")
    day: Day | None = Field(default=None, title="Day")
    note: Note = Field(default="", title="Notes")


class CameOf(Part):
    """What the worked engine came to when the tables were made of it, and a sum over all that it rested on then."""

    rests_on: Annotated[str, Field(pattern="^[0-9a-f]{16}$")]
    power: Annotated[Quantity, Of("power", "1 kW", "2000 kW", "90 kW")] = Field(title="Power, worked")
    power_speed: Speed = Field(title="Speed of it")
    power_doubt: Annotated[float, Field(ge=0, le=1)] = Field(title="Doubt of it")
    torque: Annotated[Quantity, Of("torque", "5 N*m", "3000 N*m", "190 N*m")] = Field(title="Torque, worked")
    torque_speed: Speed = Field(title="Speed of it")
    idle_residual: Annotated[float, Field(ge=0, le=1)] = Field(title="Residual gas at idle")
    knocks_from: Annotated[float, Field(ge=-60, le=90)] | None = Field(
        default=None, title="Knocks from, at full power", description="Degrees before top; none where it does not knock."
    )


#: Of what a kept tune was made, in words.
MADE = {
    "quick": "the quick tables",
    "worked": "the worked engine",
    "found": "what was found in the unit",
    "read_in": "tables that were read in",
}


class Kept(TableSet):
    """The tune that is kept: tables with the cells that a person wrote in ink, what they were made of, and the sum of those that stand in the unit."""

    made: Literal["quick", "worked", "found", "read_in"] = Field(title="Made of")
    came_of: CameOf | None = Field(default=None, title="The worked engine")
    in_unit: Annotated[str, Field(pattern="^[0-9a-f]{16}$")] | None = Field(default=None, title="Sum of what stands in the unit")
    label: Name | None = Field(default=None, title="Called")
