"""What every field is called and takes, read off the models: for forms, for naming an edit, never typed a second time."""

from __future__ import annotations

from functools import lru_cache
from typing import Any, Literal

from pydantic import BaseModel, Field

from ..reference import tube_bores, wires
from ..units import si
from .document import Build

WIRE_SLID = (0.75e-6, 10e-6)  # m2, sizes that a power wire is slid through
FieldKind = Literal["quantity", "choice", "flag", "count", "number", "text", "order", "numbers", "list", "group"]


class Size(BaseModel):
    """A usual size to slide through: as it is written, and in SI."""

    written: str
    si: float


class FieldInfo(BaseModel):
    """One field of the build document. `pointer` has * for a list number or a key, `usual_si` what stands for it while it is empty."""

    pointer: str = ""
    title: str
    help: str
    kind: FieldKind
    dimension: str | None = None
    example: str | None = None
    options: list[str] = []
    optional: bool = False
    default: str | None = None
    at_least: str | None = None
    at_most: str | None = None
    usual_si: float | None = None
    sizes: list[Size] = []
    usual: Any = Field(default=None, exclude=True)


@lru_cache(maxsize=1)
def fields() -> dict[str, FieldInfo]:
    """Every field by its pointer."""
    schema = Build.model_json_schema()
    found: dict[str, FieldInfo] = {}
    _walk(schema, schema["$defs"], "", found)
    return found


@lru_cache(maxsize=4096)
def info_at(pointer: str) -> FieldInfo | None:
    """What is known of the field at a pointer, whatever list numbers and free keys it has; None where there is no such field."""
    known = fields()
    here = [""]
    for token in pointer.split("/")[1:]:
        here = [at for above in here for at in (f"{above}/{token}", f"{above}/*") if at in known]
        if not here:
            return None
    return known[here[0]]


def label(pointer: str) -> str:
    """The name of the field at a pointer; the last word of the pointer where it has none."""
    parts = pointer.split("/")
    if parts[-1].isdigit() or parts[-1] == "-":
        return label("/".join(parts[:-1]))  # an entry of a list goes by the list's name
    info = info_at(pointer)
    return info.title if info and info.title else parts[-1].replace("_", " ").replace("~1", "/")


@lru_cache(maxsize=4096)
def called(pointer: str) -> str:
    """What a place is called where it stands alone: its field's title, with the part that it belongs to where there are several of a kind.

    >>> called("/wiring/fitted/pump_feed/length"), called("/fuel/parts/filter"), called("/engine/bsfc")
    ('Pump feed: length', 'Parts on the path: filter', 'Fuel used per unit of work')
    """
    info = info_at(pointer)
    if info is None or "*" not in info.pointer:
        return label(pointer)
    tokens, general = pointer.split("/"), info.pointer.split("/")
    last = max(i for i, token in enumerate(general) if token == "*")
    own = tokens[last].replace("~1", "/").replace("_", " ")
    above = label("/".join(tokens[:last]))
    if own.isdigit():
        own = f"{above} {int(own) + 1}"
        return own if last == len(tokens) - 1 else f"{own}: {label(pointer).lower()}"
    return f"{above}: {own}" if last == len(tokens) - 1 else f"{own[:1].upper()}{own[1:]}: {label(pointer).lower()}"


def _walk(
    node: dict[str, Any], defs: dict[str, Any], pointer: str, found: dict[str, FieldInfo], outer: dict[str, Any] | None = None
) -> None:
    outer = outer or node
    optional = False
    if "anyOf" in node:
        optional = any(option.get("type") == "null" for option in node["anyOf"])
        node = {**next(option for option in node["anyOf"] if option.get("type") != "null")}
    if "$ref" in node:
        node = defs[node["$ref"].rsplit("/", 1)[-1]]
    if pointer:
        info = _info(node, outer, pointer, optional, defs)
        if pointer in found:  # the same key in another kind of part
            info = info.model_copy(update={"options": list(dict.fromkeys([*found[pointer].options, *info.options]))})
        found[pointer] = info
    for option in node.get("oneOf", ()):
        _walk({**outer, **option}, defs, pointer, found, outer)
    for key, below in node.get("properties", {}).items():
        _walk(below, defs, f"{pointer}/{key}", found)
    if isinstance(node.get("items"), dict) and found.get(pointer) and found[pointer].kind == "list":
        _walk(node["items"], defs, f"{pointer}/*", found)
    for extra in (node.get("additionalProperties"), *node.get("patternProperties", {}).values()):
        if isinstance(extra, dict):
            _walk(extra, defs, f"{pointer}/*", found)


def _info(node: dict[str, Any], outer: dict[str, Any], pointer: str, optional: bool, defs: dict[str, Any]) -> FieldInfo:
    title = str(outer.get("title") or "")
    examples = outer.get("examples") or node.get("examples") or []
    last = pointer.rsplit("/", 1)[-1].replace("_", " ")
    if not title or title == last.title():  # the models' own words only; a generated title is set in sentence case
        title = last[:1].upper() + last[1:] if last != "*" else ""
    return FieldInfo(
        pointer=pointer,
        title=title,
        help=outer.get("description", "") if "properties" not in node else "",
        kind=_kind(node, defs),
        dimension=node.get("x-dimension"),
        example=str(examples[0]) if examples else None,
        options=[str(option) for option in node.get("enum", [node["const"]] if "const" in node else [])],
        optional=optional,
        at_least=node.get("x-at-least"),
        at_most=node.get("x-at-most"),
        default=str(outer["default"]) if isinstance(outer.get("default"), (str, int, float)) else None,
        usual_si=_usual(node, outer),
        usual=outer.get("default"),
        sizes=_sizes(pointer),
    )


def _usual(node: dict[str, Any], outer: dict[str, Any]) -> float | None:
    """The usual value of a quantity in SI."""
    default = outer.get("default")
    return si(default, node["x-dimension"]) if isinstance(default, str) and "x-dimension" in node else None


def _sizes(pointer: str) -> list[Size]:
    """Sizes as they are sold, for fields that have them."""
    if pointer == "/fuel/parts/*/bore":
        return [Size(written=f"{bore * 1e3:g} mm", si=bore) for bore in tube_bores()]
    if pointer == "/wiring/fitted/*/size":
        return [Size(written=f"{wire.area * 1e6:g} mm2", si=wire.area) for wire in wires() if WIRE_SLID[0] <= wire.area <= WIRE_SLID[1]]
    return []


def _kind(node: dict[str, Any], defs: dict[str, Any]) -> FieldKind:
    if "x-dimension" in node:
        return "quantity"
    if "enum" in node or "const" in node:
        return "choice"
    if node.get("type") == "array":
        each = node.get("items", {}).get("type")
        return "order" if each == "integer" else "numbers" if each == "number" else "list"
    if node.get("type") == "object":
        return "group"
    kinds: dict[str, FieldKind] = {"boolean": "flag", "integer": "count", "number": "number"}
    return kinds.get(node.get("type", ""), "text")
