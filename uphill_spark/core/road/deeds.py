"""What to do about each cause as a patch of the build: one constant put right, one curve, or the cells; nothing for what is done with a spanner."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping, Sequence
from typing import Any

from ..given.edit import Patch, put, standing, take_out
from ..given.kept import TABLES, TableKey
from ..given.road import DRIVES_MOST, RoadCause
from ..keeping import proposed
from ..stages.injectors import DEAD_TIME_VOLTS
from ..worked import Worked
from .correct import Correction
from .parts import Proposed

_FIGURE = re.compile(r"^\s*(?:\d+ )?(?:\d+(?:[.,]\d+)?(?:/\d+)?)\s*(.*)$")
WRITTEN = ("corrected", "limited", "filled")


def scaled_text(text: str, times: float) -> str:
    """A figure with its unit as it was typed, so many times [1] as much, to four figures."""
    from ..units import number

    found = _FIGURE.match(text)
    unit = found.group(1) if found else ""
    plain = text[: len(text) - len(unit)].strip() if unit else text.strip()
    return f"{number(plain) * times:.4g} {unit}".strip()


def cause_patch(w: Worked, key: RoadCause, size: float, tip_in: Proposed | None) -> Patch:
    """The patch that puts a cause of a size [its own unit, see `CauseRead`] right; empty for what has to be mended on the car."""
    if key == "scale":
        return _scale(w, math.exp(-size))
    if key == "dead_time":
        return _dead_time(w, size)
    if key == "air":
        return table_patch(w, "air_temperature", lambda x, v: max(v * (1 + size * (x - 20.0) / 100), 0.3))
    if key == "tip_in" and tip_in is not None:
        return proposed_patch(w, tip_in)
    if key == "reference" and abs(size) > 0.5:
        return [put("/fuel/regulator/reference", "open_air")]
    return []


def _scale(w: Worked, times: float) -> Patch:
    i = w.build.injectors
    if i.altered:  # the flow bench is its figure, not the sheet: that is measured again, not written over
        return []
    patch = [put("/injectors/flow", scaled_text(i.flow, times))]
    if w.build.tune.typed.injector_flow is not None:
        patch.append(put("/tune/typed/injector_flow", f"{w.injectors.flow_nominal_kg_s * 6e4 * times:.1f} g/min"))
    return patch


def _dead_time(w: Worked, more_ms: float) -> Patch:
    i = w.build.injectors
    rows = i.dead_times or [(v, w.injectors.dead_time[f"{v:g}"]) for v in DEAD_TIME_VOLTS]
    patch = [put("/injectors/dead_time", [{"voltage": f"{v:g} V", "time": f"{max(t * 1e3 + more_ms, 0.05):.3f} ms"} for v, t in rows])]
    if w.build.tune.kept is not None and "dead_time" in w.build.tune.kept.tables:
        patch += table_patch(w, "dead_time", lambda _, v: max(v + more_ms, 0.05))
    return patch


def _kept(w: Worked) -> tuple[Patch, dict[str, dict[str, Any]], frozenset[str]]:
    """The tables as they are typed in; what keeps a tune where none is kept yet; and which of them a kept tune has."""
    kept, quick = w.build.tune.kept, proposed(w, "quick", mine=False).value
    if kept is None:
        return [put("/tune/kept", quick)], dict(quick["tables"]), frozenset(quick["tables"])
    own = {key: {"x": t.x, "y": t.y, "rows": t.rows, "ink": t.ink} for key, t in kept.tables.items()}
    other = quick["tables"] if kept.load == quick["load"] else {}
    return [], {**other, **own}, frozenset(own)


def table_patch(w: Worked, key: TableKey, change: Any) -> Patch:
    """A curve with each value changed: `change` takes the place along its axis and the value. In ink, for a person took it."""
    first, tables, held = _kept(w)
    if key not in tables:
        return []
    kind, x, row = TABLES[key], tables[key]["x"], tables[key]["rows"][0]
    new = [round(min(max(change(at, value), kind.low), kind.high), kind.digits) for at, value in zip(x, row, strict=True)]
    ink = [[0, k] for k in range(len(new)) if new[k] != row[k]]
    return [*first, *_rows(key, tables[key], [new], [*tables[key].get("ink", []), *ink], kept=key in held)] if ink else []


def _rows(key: TableKey, table: Mapping[str, Any], rows: Sequence[Sequence[float]], ink: Sequence[Sequence[int]], *, kept: bool) -> Patch:
    """A table's cells with those in ink; the whole table where the kept tune has none of the kind."""
    inked = [list(at) for at in sorted({(int(i), int(j)) for i, j in ink})]
    cells = [list(row) for row in rows]
    at = f"/tune/kept/tables/{key}"
    if not kept:
        return [put(at, {"x": table["x"], **({"y": table["y"]} if table.get("y") else {}), "rows": cells, "ink": inked})]
    return [put(f"{at}/rows", cells), put(f"{at}/ink", inked)]


def drive_patch(document: Any, drive: dict[str, Any]) -> Patch:
    """A reading put behind the others; one of the same log takes the place of the one that stands."""
    drives = standing(document, "/road/drives")
    if drives is None:
        return [put("/road", {"drives": [drive]})]
    same = next((k for k, d in enumerate(drives) if d.get("log") == drive["log"] and d.get("ran") == drive["ran"]), None)
    if same is not None:
        return [{"op": "replace", "path": f"/road/drives/{same}", "value": drive}]
    first = [take_out("/road/drives/0")] if len(drives) >= DRIVES_MOST else []
    return [*first, put("/road/drives/-", drive)]


def proposed_patch(w: Worked, curve: Proposed) -> Patch:
    """A curve as it is proposed."""
    at = dict(zip(curve.x, curve.new, strict=True))
    return table_patch(w, curve.table, lambda x, v: at.get(x, v))


def cells_patch(w: Worked, found: Correction) -> Patch:
    """The fuel table with its corrected cells, those in ink."""
    first, tables, held = _kept(w)
    if "ve" not in tables:
        return []
    rows = [list(row) for row in tables["ve"]["rows"]]
    ink = [list(at) for at in tables["ve"].get("ink", [])]
    moved = [c for c in found.cells if c.what in WRITTEN and c.new != c.old]
    for cell in moved:
        rows[cell.row][cell.column] = cell.new
        if cell.what != "filled":  # what nobody drove stays in pencil
            ink.append([cell.row, cell.column])
    return [*first, *_rows("ve", tables["ve"], rows, ink, kept="ve" in held)] if moved else []
