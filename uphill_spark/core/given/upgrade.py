"""Older build documents brought to the present version, one step at a time. What a person stored stays readable for good.

Each step takes a document of version n, free to change, and returns one of version n + 1 that means the same. A step leaves alone what does not
have the shape it expects: checking is the business of the models, which then name the field.
"""

from __future__ import annotations

import copy
from collections.abc import Callable
from typing import Any

from ..errors import UnitError
from ..units import si
from .base import NOTES_MOST
from .wiring import FUSES, WIRE_NAMES

Document = dict[str, Any]


def upgrade(document: Document, version: int) -> Document:
    """The document at `version`, as a copy if anything had to change."""
    if document["version"] == version:
        return document
    document = copy.deepcopy(document)
    while document["version"] < version:
        document = UPGRADERS[document["version"]](document)
    return document


def _fuel_becomes_a_path(document: Document) -> Document:
    """1 to 2: lines, filter and strainer, which had fixed places, become named parts on a path; the scheme is where the regulator stands on it."""
    document["version"] = 2
    fuel = document.get("fuel")
    if not isinstance(fuel, dict):
        return document
    kinds = {"strainer": "filter", "suction": "run", "filter": "filter", "supply": "run", "return_line": "run"}
    scheme = fuel.pop("scheme", "return")
    parts: Document = {}
    for name, kind in kinds.items():
        part = fuel.pop(name, None)
        if isinstance(part, dict) and not (name == "return_line" and scheme == "dead_head"):
            parts[name] = {"kind": kind, **part}
    if "strainer" in parts:
        parts["strainer"].setdefault("fluid", "working_fuel")  # a strainer's drop was never taken as thicker with the fuel
    lift, tank = fuel.get("lift"), fuel.get("tank")
    ends, start = "tank", ["tank"]
    if isinstance(lift, dict):
        ends = {"main_tank": "tank"}.get(str(lift.pop("return_to", "surge_tank")), "surge_tank")
        start = ["tank", "lift", "surge_tank"]
    if isinstance(tank, dict):
        head = _head_at_the_pick_up(tank, parts.get("suction", {}))
        if isinstance(lift, dict) and head is not None:  # what was asked for is the height over the pump's inlet
            lift["head"] = head
            tank.pop("head", None)
        elif head is not None:
            tank["head"] = head
    before = [*start, *(name for name in ("strainer", "suction") if name in parts), "pump", "filter"]
    after = {
        "return": ["supply", "rail", "regulator", "return_line", ends],
        "tank_regulator": ["regulator", "supply", "rail", "return_line", ends],
        "dead_head": ["supply", "regulator", "rail"],
    }
    fuel["path"] = [*before, *after.get(scheme, after["return"])] if isinstance(scheme, str) else before
    fuel["parts"] = parts

    def moved(pointer: str) -> list[str]:
        found = _fuel_pointer(pointer, set(kinds), set(parts), isinstance(lift, dict))
        return [] if found is None else [found]

    _repoint(document, moved)
    return document


def _head_at_the_pick_up(tank: Document, suction: Document) -> str | None:
    """The height used to be over the pump's inlet; it now stands over the pick-up, and the suction line's rise counts."""
    head = tank.get("head", "0.1 m")
    rise = suction.get("rise", "0 m")
    try:
        lift = si(rise, "length")
        return head if lift == 0 else f"{si(head, 'length') + lift:.6g} m"
    except (UnitError, TypeError, AttributeError):
        return None


def _fuel_pointer(pointer: str, kinds: set[str], parts: set[str], lifted: bool) -> str | None:
    """A pointer of version 1 as it is in version 2; None for what is no longer there."""
    tokens = pointer.split("/")
    if tokens[:2] != ["", "fuel"] or len(tokens) < 3:
        return pointer
    if tokens[2] in kinds:
        return "/".join(["", "fuel", "parts", *tokens[2:]]) if tokens[2] in parts else None
    if tokens[2:] == ["tank", "head"] and lifted:
        return "/fuel/lift/head"
    return "/fuel/path" if tokens[2:] in (["scheme"], ["lift", "return_to"]) else pointer


#: The wires of the pump's circuit, in the order in which its current passes them.
PUMP_WIRES = ("pump_supply", "pump_feed", "pump_ground")
_ONCE = ("fuse_holder", "relay")  # parts of the circuit itself: only more than one of them is a contact of a wire


def _pump_wire_becomes_conductors(document: Document) -> Document:
    """2 to 3: the pump's circuit, which had one size and one length out and back, becomes its three wires; wires fitted otherwise are wires as fitted."""
    document["version"] = 3
    wiring, fuel = document.get("wiring"), document.get("fuel")
    if not isinstance(wiring, dict) or not isinstance(fuel, dict):
        return document
    fitted = wiring.pop("overrides", {})
    wire = fuel.pop("wire", None)
    if isinstance(fitted, dict) and isinstance(wire, dict):
        fitted |= _pump_wires(wire, {key: fitted.get(key, {}) for key in PUMP_WIRES})
    wiring["fitted"] = fitted

    def moved(pointer: str) -> list[str]:
        tokens = pointer.split("/")
        if tokens[:3] == ["", "wiring", "overrides"]:
            return ["/".join(["", "wiring", "fitted", *tokens[3:]])]
        if tokens[:3] != ["", "fuel", "wire"]:
            return [pointer]
        if tokens[3:4] == ["contacts"]:
            return ["/wiring/fitted/pump_feed/joints"]
        return ["/".join(["", "wiring", "fitted", key, *tokens[3:]]) for key in PUMP_WIRES]

    _repoint(document, moved)
    return document


def _pump_wires(wire: Document, fitted: Document) -> Document:
    """The three wires; a size or colour that was said of one of them stands."""
    try:
        whole = si(wire["length"], "length")
        near = min(0.6, whole * 0.2)
        lengths = {"pump_supply": f"{near:.6g} m", "pump_feed": f"{whole - near:.6g} m", "pump_ground": wire["length"]}
    except (UnitError, KeyError, TypeError, AttributeError):
        lengths = {key: wire.get("length") for key in PUMP_WIRES}
    rows = wire.get("contacts", [])
    joints: Any = rows
    if isinstance(rows, list) and all(isinstance(row, dict) and isinstance(row.get("count"), int) for row in rows):
        joints = [{**row, "count": row["count"] - (row.get("kind") in _ONCE)} for row in rows]
        joints = [row for row in joints if row["count"] > 0]
    found = {}
    for key in PUMP_WIRES:
        found[key] = {"size": wire.get("size"), "length": lengths[key], "temperature": wire.get("temperature", "20 degC")}
        found[key]["joints"] = joints if key == "pump_feed" else []
        found[key] |= fitted[key] if isinstance(fitted[key], dict) else {}
        found[key] = {name: value for name, value in found[key].items() if value is not None}
    return found


def _harness_names_are_known(document: Document) -> Document:
    """3 to 4: fuses and fitted wires go by the names of the harness. What stood under another name never counted; it is kept in the notes."""
    document["version"] = 4
    wiring = document.get("wiring")
    told = []
    for section, what, known in (("fuses", "fuse", FUSES.__contains__), ("fitted", "wire", WIRE_NAMES.fullmatch)):
        entries = wiring.get(section) if isinstance(wiring, dict) else None
        if isinstance(entries, dict):
            for name in [n for n in entries if not known(n)]:
                told.append(f"A {what} {name} was noted, which this harness has not: {entries.pop(name)}")
    if told:
        notes = document.get("notes")
        document["notes"] = "\n".join([*([notes] if isinstance(notes, str) and notes else []), *told])[:NOTES_MOST]
    return document


def _fuel_enters_somewhere(document: Document) -> Document:
    """4 to 5: where the injectors spray is said. It follows from the layout, in pencil where a kit may do it otherwise. Outputs were asked for in the order
    in which they fire, which is how a unit numbers them that numbers by place."""
    document["version"] = 5
    engine, injectors, ignition, wiring = (document.get(key) for key in ("engine", "injectors", "ignition", "wiring"))
    layout = engine.get("layout") if isinstance(engine, dict) else None
    if isinstance(injectors, dict) and isinstance(layout, str):
        injectors.setdefault("enters", "above_plates" if layout == "throttle_body" else "below_plates")
        marks = document.setdefault("marks", {})
        if layout != "port_plenum" and isinstance(marks, dict):
            marks.setdefault("/injectors/enters", {"kind": "assumed"})
        if layout == "throttle_body" and isinstance(marks, dict) and marks.get("/injectors/unit_compensates") == {"kind": "assumed"}:
            injectors["unit_compensates"] = False  # nobody's own word, and it only belongs to injectors that see the manifold
    if isinstance(ignition, dict) and isinstance(wiring, dict):
        by_firing = any(isinstance(part, dict) and part.get("outputs") for part in (ignition, injectors))
        if by_firing and not ignition.get("letters"):
            unit = wiring.setdefault("unit", {})
            if isinstance(unit, dict):
                unit.setdefault("numbers", "by_place")
    return document


def _repoint(document: Document, moved: Callable[[str], list[str]]) -> None:
    """Pointers of marks and of Stops signed for, as they are now."""
    if isinstance(document.get("marks"), dict):
        document["marks"] = {new: mark for old, mark in document["marks"].items() for new in moved(old)}
    start = document.get("start")
    signed = start.get("overrules", []) if isinstance(start, dict) else []
    for row in signed if isinstance(signed, list) else []:
        if isinstance(row, dict) and isinstance(row.get("at"), str):
            row["at"] = next(iter(moved(row["at"])), row["at"])


#: Steps by the version they start from.
UPGRADERS: dict[int, Callable[[Document], Document]] = {
    1: _fuel_becomes_a_path,
    2: _pump_wire_becomes_conductors,
    3: _harness_names_are_known,
    4: _fuel_enters_somewhere,
}
