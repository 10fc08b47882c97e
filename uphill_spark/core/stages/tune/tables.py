"""A table as it is shown and typed in, whatever made it."""

from __future__ import annotations

from collections.abc import Sequence

from ...figures import Result
from ...given.kept import TABLES, KeptTable, TableKey
from ...physics.arith import place

#: What stands along the second axis of a grid, by what tells the load.
LOAD_LABEL = {"manifold_pressure": "manifold pressure, kPa", "throttle": "throttle, %"}
FUEL_BY_THROTTLE = "Fuel by throttle"


class Table(Result):
    """A table to type in: axes, values by row of load, unit and doubt. A curve has no load axis and one row. Of a kept one `ink` names the cells [row, column] that a person wrote, `doubts` how far each
    may be off (shares), `ruled` what rules each (a letter a cell). `hidden` says why it is not typed in, where it is not."""

    key: str
    title: str
    unit: str
    x_label: str
    x: list[float]
    y_label: str | None
    y: list[float]
    rows: list[list[float]]
    doubt: str
    ink: list[list[int]] = []
    doubts: list[list[float]] = []
    ruled: list[str] = []
    hidden: str = ""


def between(x: Sequence[float], y: Sequence[float], rows: Sequence[Sequence[float]], at_x: float, at_y: float) -> float:
    """What stands between cells [their unit], as a control unit reads it: straight along both axes [their units], held at the edges; a curve has no second axis."""
    i, share = _cell(x, at_x)
    if not y:
        return _along(rows[0], i, share)
    j, up = _cell(y, at_y)
    return _along([_along(rows[j], i, share), _along(rows[j + 1], i, share)], 0, up) if len(y) > 1 else _along(rows[0], i, share)


def _cell(axis: Sequence[float], at: float) -> tuple[int, float]:
    """The step of an axis in which a place lies, and how far into it (0 to 1); an axis of one point has none."""
    return place(at, axis) if len(axis) > 1 else (0, 0.0)


def _along(row: Sequence[float], i: int, share: float) -> float:
    """A value so far into a step of a row."""
    return row[i] + (row[i + 1] - row[i]) * share if share else float(row[i])


def title_of(key: TableKey, load: str) -> str:
    """What a table is called: fuel by throttle is no filling."""
    return FUEL_BY_THROTTLE if key == "ve" and load == "throttle" else TABLES[key].title


def curve(key: TableKey, x: list[float], values: list[float], doubt: str, hidden: str = "") -> Table:
    """A table with one axis, its values [the unit of its kind] rounded as they are typed in."""
    kind = TABLES[key]
    rounded = [round(v, kind.digits) for v in values]
    return Table(
        key=key, title=kind.title, unit=kind.unit, x_label=kind.x, x=x, y_label=None, y=[], rows=[rounded], doubt=doubt, hidden=hidden
    )


def grid(key: TableKey, load: str, x: list[float], y: list[float], rows: list[list[float]], doubt: str, hidden: str = "") -> Table:
    """A table with two axes, its rows [the unit of its kind] rounded likewise."""
    kind = TABLES[key]
    rounded = [[round(v, kind.digits) for v in row] for row in rows]
    return Table(
        key=key, title=title_of(key, load), unit=kind.unit, x_label=kind.x, x=x, y_label=LOAD_LABEL[load], y=y, rows=rounded, doubt=doubt,
        hidden=hidden,
    )  # fmt: skip


def of_kept(key: TableKey, load: str, kept: KeptTable, doubt: str, hidden: str = "") -> Table:
    """A table as it was kept."""
    kind = TABLES[key]
    return Table(
        key=key, title=title_of(key, load), unit=kind.unit, x_label=kind.x, x=kept.x, y_label=LOAD_LABEL[load] if kind.y else None, y=kept.y, rows=kept.rows, doubt=doubt, ink=kept.ink,
        doubts=kept.doubt, ruled=kept.ruled, hidden=hidden,
    )  # fmt: skip
