"""Builds for tests, made through the public constructors: the demo cars, and edits of them."""

from __future__ import annotations

import functools
from typing import Any

from uphill_spark import demo
from uphill_spark.core.asked import Trial
from uphill_spark.core.circuit.netlist import PUMP_WIRES
from uphill_spark.core.given import VERSION, Build, apply_edit, parse
from uphill_spark.core.given.document import copied
from uphill_spark.core.plan import Evaluated, Plan, evaluated
from uphill_spark.core.worked import Worked, work_out


@functools.cache
def _document(name: str) -> dict[str, Any]:
    return demo.document(name)


def document(name: str = "tern") -> dict[str, Any]:
    """A demo car's document, free to change."""
    found: dict[str, Any] = copied(_document(name))
    return found


def _at(document: Any, tokens: list[str]) -> Any:
    for token in tokens:
        document = document[int(token)] if isinstance(document, list) else document.get(token) if document is not None else None
    return document


@functools.cache
def _read(name: str) -> Build:
    return parse(_document(name))


def edited(name: str = "tern", changes: dict[str, Any] | None = None) -> Build:
    """A demo car with values set by pointer; None takes a value out. What lies in other sections is as it was read, as with an edit."""
    if not changes:
        return _read(name)
    written = {pointer.split("/")[1] for pointer in changes}
    doc = {section: copied(value) if section in written else value for section, value in _document(name).items()}
    for pointer, value in changes.items():
        tokens = pointer.split("/")[1:]
        above = _at(doc, tokens[:-1])
        key: Any = int(tokens[-1]) if isinstance(above, list) else tokens[-1]
        if value is None:
            del above[key]
        else:
            above[key] = value
    beside = doc.keys() & Build.model_fields.keys() - written if doc["version"] == VERSION else set()
    return parse(doc, {section: getattr(_read(name), section) for section in beside})


def kept_rows(key: str, value: float) -> list[list[float]]:
    """Rows of a kept table of the Tern, every cell the same."""
    return [[value] * len(row) for row in document()["tune"]["kept"]["tables"][key]["rows"]]


def pump_wire(size: str | None = None, metres: float | None = None, joints: list[dict[str, Any]] | None = None) -> dict[str, Any]:
    """Changes of the pump's three wires: their size, their length one way, the contacts in the feed."""
    changes: dict[str, Any] = {}
    for key in PUMP_WIRES:
        if size is not None:
            changes[f"/wiring/fitted/{key}/size"] = size
    if metres is not None:
        near = min(0.6, metres * 0.2)
        for key, length in zip(PUMP_WIRES, (near, metres - near, metres), strict=True):
            changes[f"/wiring/fitted/{key}/length"] = f"{length:.6f} m"
    if joints is not None:
        changes["/wiring/fitted/pump_feed/joints"] = joints
    return changes


@functools.cache
def stands(name: str) -> Evaluated:
    """A demo car as it is, with all that is worked out from it."""
    return evaluated(_read(name))


def plan(name: str = "tern", changes: dict[str, Any] | None = None) -> Plan:
    """The plan of a demo car, changed; worked out from the car as it is, as an edit is (that this is the same is tested by itself)."""
    return evaluated(edited(name, changes), stands(name)).plan if changes else stands(name).plan


def trial(doc: dict[str, Any]) -> Trial:
    """A document as something to try changes on."""
    return Trial(doc, evaluated(parse(doc)))


def worked(name: str = "tern", changes: dict[str, Any] | None = None) -> Worked:
    """What a demo car's stages come to, changed; as with its plan."""
    return work_out(edited(name, changes), stands(name).worked) if changes else stands(name).worked


def severity(code: str, name: str = "tern", changes: dict[str, Any] | None = None) -> set[str]:
    """The severities that a check gives, both kinds of sound as one."""
    return {"sound" if f.severity == "sound_if" else f.severity for f in plan(name, changes).findings if f.code == code}


#: Changes that string the Tern's path another way.
TANK_REGULATOR: dict[str, Any] = {
    "/fuel/path": ["tank", "pump", "filter", "regulator", "supply", "rail", "return_line", "tank"],
    "/fuel/regulator/reference": "open_air",
}
DEAD_HEAD: dict[str, Any] = {
    "/fuel/path": ["tank", "pump", "filter", "supply", "regulator", "rail"],
    "/fuel/parts/return_line": None,
    "/fuel/regulator/reference": "open_air",
}
SCHEMES: dict[str, dict[str, Any]] = {"return": {}, "tank_regulator": TANK_REGULATOR, "dead_head": DEAD_HEAD}


def strung(name: str = "tern", put: dict[str, Any] | None = None, before: str = "rail", out: str | None = None) -> dict[str, Any]:
    """Changes that put parts on a demo car's path, before a part or place, or take one off it."""
    path = [p for p in _document(name)["fuel"]["path"] if p != out]
    at = path.index(before)
    changes: dict[str, Any] = {"/fuel/path": [*path[:at], *(put or {}), *path[at:]]}
    changes |= {f"/fuel/parts/{key}": part for key, part in (put or {}).items()}
    return changes | ({f"/fuel/parts/{out}": None} if out else {})


def patched(name: str, patch: list[dict[str, Any]]) -> tuple[dict[str, Any], list[dict[str, Any]], Build]:
    return apply_edit(document(name), patch, _read(name))
