"""Making a kept tune: of the quick tables, of the worked engine, of what was found in the unit; and holding any two sets of tables against each other.

What a person wrote stays: a cell in ink is carried over where the axes are the same; where the new table differs from it by more than it may be off, that is told, and asked.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, Literal

import numpy as np

from .asked.cycle import CycleDepth
from .errors import BuildError, Problem
from .figures import Result
from .given.kept import TABLES, KeptTable, TableKey, TableSet
from .stages.tune import Table
from .stages.tune.in_use import read
from .stages.tune.tables import between, of_kept, title_of
from .worked import Worked

Source = Literal["quick", "worked", "found"]
#: By how much a cell may be off where nothing tells its own doubt: as a share of it, or in its unit.
USUAL_OFF: dict[str, float] = {"ve": 0.10, "lambda": 0.03, "warm_up": 0.08, "cranking": 0.30, "prime": 0.40}
OFF_BY: dict[str, float] = {
    "advance": 3.0,
    "after_start": 10.0,
    "after_start_time": 4.0,
    "idle_speed": 100.0,
    "idle_air": 15.0,
    "idle_trim": 2.0,
    "fan": 20.0,
}
ELSE_OFF = 0.15


class Asks(Result):
    """A cell in ink from which the new table differs by more than it may be off: its table, place, and both values."""

    table: str
    title: str
    unit: str
    row: int
    column: int
    x: float
    y: float | None
    mine: float
    theirs: float


class Proposal(Result):
    """A tune as it would be kept (a value for the document), and what of the person's own it differs from."""

    value: dict[str, Any]
    asks: list[Asks]
    inked: int


class Difference(Result):
    """Two tables of one kind on the axes of the second: each cell of both, how many differ, and the most by which one does (second less first, in the table's unit)."""

    key: str
    title: str
    unit: str
    x_label: str
    x: list[float]
    y_label: str | None
    y: list[float]
    before: list[list[float]]
    after: list[list[float]]
    changed: int
    most: float
    only: Literal["", "before", "after"]


def proposed(w: Worked, source: Source, depth: CycleDepth | None = None, *, mine: bool = True) -> Proposal:
    """A tune to keep. With `mine`, what the person wrote into the kept one stays. Raises BuildError where there is nothing to make it of."""
    load = w.tune.load_signal
    tables = {t.key: _plain(t) for t in w.tune.tables}
    value: dict[str, Any] = {"made": source, "load": load, "tables": tables}
    found = w.build.tune.found
    if source == "found":
        if found is None:
            raise BuildError("There is nothing to go back to.", (Problem("/tune/found", "nothing", "the tables as they were found"),))
        value |= {"load": found.load, "tables": {key: _bare(t) for key, t in found.tables.items()}}
    if source == "worked":
        if depth is None:
            raise BuildError(
                "The engine is not worked yet.",
                (Problem("/tune/kept", "nothing", "the engine worked for this build: ask for it at Worked"),),
            )
        tables |= _of_engine(tables["lambda"], depth)
        value["came_of"] = _came_of(w, depth)
    kept = w.build.tune.kept
    asks: list[Asks] = []
    if kept is not None:
        if kept.in_unit is not None:
            value["in_unit"] = kept.in_unit
        if kept.label is not None:
            value["label"] = kept.label
        if mine and kept.load == value["load"]:
            for key, own in kept.tables.items():
                if own.ink and key in value["tables"]:
                    asks += _carried(key, kept.load, own, value["tables"][key])
    return Proposal(value=value, asks=asks, inked=sum(len(t.get("ink", [])) for t in value["tables"].values()))


def _plain(table: Table) -> dict[str, Any]:
    return (
        {"x": table.x, "y": table.y, "rows": [list(row) for row in table.rows]}
        if table.y
        else {"x": table.x, "rows": [list(table.rows[0])]}
    )


def _bare(table: KeptTable) -> dict[str, Any]:
    return {"x": table.x, "rows": [list(row) for row in table.rows]} | ({"y": table.y} if table.y else {})


def _of_engine(quick_lambda: dict[str, Any], depth: CycleDepth) -> dict[str, dict[str, Any]]:
    """Filling and advance from the worked engine; the mixture is a choice, and stays one."""
    g = depth.grid
    return {
        "ve": {"x": g.rpm, "y": g.load, "rows": [list(row) for row in g.typed], "doubt": g.doubt},
        "advance": {"x": g.rpm, "y": g.load, "rows": [list(row) for row in g.advance_deg], "ruled": g.ruled},
        "lambda": quick_lambda,
    }


def _came_of(w: Worked, depth: CycleDepth) -> dict[str, Any]:
    """What the tables were made of, as the document keeps it."""
    c, e = depth.curve, w.build.engine
    at = float(np.interp(e.power_speed.si * 60, c.rpm, range(len(c.rpm))))
    near = round(at)
    knock = c.knock_deg[near]
    idle = Table(
        key="residual", title="", unit="1", x_label="rpm", x=depth.grid.rpm, y_label="kPa", y=depth.grid.load, rows=depth.grid.residual, doubt=""
    )  # fmt: skip
    held = w.engine.idle_manifold_pressure_pa / 1e3
    if depth.grid.by == "throttle":
        column = [float(np.interp(e.idle_speed.si * 60, depth.grid.rpm, row)) for row in depth.grid.kpa]
        held = float(np.interp(held, column, depth.grid.load))
    return {
        "rests_on": depth.rests_on,
        "power": f"{depth.power_w / 1e3:.4g} kW",
        "power_speed": f"{depth.power_rpm:.0f} rpm",
        "power_doubt": round(depth.doubt, 4),
        "torque": f"{depth.torque_nm:.4g} N*m",
        "torque_speed": f"{depth.torque_rpm:.0f} rpm",
        "idle_residual": round(read(idle, e.idle_speed.si * 60, held), 4),
    } | ({} if knock is None else {"knocks_from": round(knock, 1)})


def _carried(key: TableKey, load: str, own: KeptTable, new: dict[str, Any]) -> list[Asks]:
    """The person's cells put into a new table with the same axes; those that differ by more than they may be off."""
    if own.x != new["x"] or own.y != new.get("y", []):
        return [
            _asks(key, load, own, i, j, between(new["x"], new.get("y", []), new["rows"], own.x[j], own.y[i] if own.y else 0.0))
            for i, j in own.ink[:1]
        ]
    asks = []
    for i, j in own.ink:
        theirs = new["rows"][i][j]
        if abs(own.rows[i][j] - theirs) > off(key, theirs, new["doubt"][i][j] if new.get("doubt") else None):
            asks.append(_asks(key, load, own, i, j, theirs))
        new["rows"][i][j] = own.rows[i][j]
    new["ink"] = [list(cell) for cell in own.ink]
    return asks


def _asks(key: TableKey, load: str, own: KeptTable, i: int, j: int, theirs: float) -> Asks:
    kind = TABLES[key]
    return Asks(
        table=key, title=title_of(key, load), unit=kind.unit, row=i, column=j, x=own.x[j], y=own.y[i] if own.y else None, mine=own.rows[i][j], theirs=round(theirs, kind.digits),
    )  # fmt: skip


def off(key: str, value: float, doubt: float | None = None) -> float:
    """By how much a cell may be off [its unit]: by its own doubt (a share), else by what is usual for its kind."""
    if doubt is not None:
        return doubt * abs(value)
    return OFF_BY[key] if key in OFF_BY else USUAL_OFF.get(key, ELSE_OFF) * abs(value)


def differences(before: Sequence[Table], after: Sequence[Table]) -> list[Difference]:
    """Two sets of tables, kind by kind, in the order of the unit's own. What only one of them has is named."""
    then, now = {t.key: t for t in before}, {t.key: t for t in after}
    return [_difference(then.get(key), now.get(key)) for key in TABLES if key in then or key in now]


def _difference(then: Table | None, now: Table | None) -> Difference:
    t = now or then
    assert t is not None, "one of the two is there"
    first = then or t
    same = first.x == t.x and first.y == t.y
    old = first.rows if same else [[round(read(first, x, y), TABLES[t.key].digits) for x in t.x] for y in (t.y or [0.0])]  # type: ignore[index]
    apart = [b - a for row_a, row_b in zip(old, t.rows, strict=True) for a, b in zip(row_a, row_b, strict=True)]
    step = 0.5 * 10 ** -TABLES[t.key].digits  # type: ignore[index]
    changed = [d for d in apart if abs(d) > step * 0.999]
    alone = then is None or now is None
    return Difference(
        key=t.key, title=t.title, unit=t.unit, x_label=t.x_label, x=t.x, y_label=t.y_label, y=t.y, before=old, after=t.rows, changed=0 if alone else len(changed),
        most=0.0 if alone else round(_most(changed), 4), only="" if not alone else "after" if then is None else "before",
    )  # fmt: skip


def _most(values: Sequence[float]) -> float:
    return max(values, key=lambda v: abs(v), default=0.0)


def tables_of(told: TableSet | None) -> list[Table]:
    """The tables of a set, in the order of the unit's own."""
    if told is None:
        return []
    return [of_kept(key, told.load, told.tables[key], "") for key in TABLES if key in told.tables]


def cell_history(tunes: Mapping[int, TableSet | None], key: TableKey, x: float, y: float | None) -> list[tuple[int, float]]:
    """What a place of a table, at `x` and `y` of its axes [their units], held at each revision, where it changed: oldest first."""
    found: list[tuple[int, float]] = []
    for number in sorted(tunes):
        told = tunes[number]
        table = told.tables.get(key) if told else None
        if table is None:
            continue
        value = round(between(table.x, table.y, table.rows, x, y or 0.0), TABLES[key].digits)
        if not found or found[-1][1] != value:
            found.append((number, value))
    return found
