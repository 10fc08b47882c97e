"""Every place of a document, and other values that may stand there."""

from __future__ import annotations

import copy
from typing import Any

from uphill_spark.core.errors import BuildError
from uphill_spark.core.given import VERSION, Build, parse
from uphill_spark.core.given.fields import FieldInfo, info_at
from uphill_spark.core.units import si
from uphill_spark.core.units import written as in_words

NOT_VALUES = ("/format", "/version", "/marks")


def written(info: FieldInfo, share: float) -> str:
    """A quantity at a share of the way between the field's bounds."""
    dimension = info.dimension or ""
    low, high = si(info.at_least or "", dimension), si(info.at_most or "", dimension)
    return in_words(low + (high - low) * share, dimension)


def leaves(node: Any, pointer: str = "") -> list[str]:
    """Every place that holds a value, lists of numbers and words as one."""
    if isinstance(node, dict):
        return [leaf for key, below in node.items() for leaf in leaves(below, f"{pointer}/{key.replace('~', '~0').replace('/', '~1')}")]
    if isinstance(node, list) and node and isinstance(node[0], dict):
        return [leaf for i, below in enumerate(node) for leaf in leaves(below, f"{pointer}/{i}")]
    return [pointer]


def at(doc: dict[str, Any], pointer: str) -> Any:
    """The value at a place."""
    here: Any = doc
    for token in pointer.split("/")[1:]:
        here = here[int(token)] if isinstance(here, list) else here[token.replace("~1", "/").replace("~0", "~")]
    return here


def put(doc: dict[str, Any], pointer: str, value: Any) -> None:
    """Set a value that is there."""
    above, _, last = pointer.rpartition("/")
    here = at(doc, above)
    last = last.replace("~1", "/").replace("~0", "~")
    here[int(last) if isinstance(here, list) else last] = value


def with_value(doc: dict[str, Any], pointer: str, value: Any) -> dict[str, Any]:
    """The document with another value at a place that is there; what does not lie on the way to it is the same in both, so that it is quick, and nothing may be written into."""
    tokens = [t.replace("~1", "/").replace("~0", "~") for t in pointer.split("/")[1:]]
    top = here = dict(doc)
    for token in tokens[:-1]:
        key: Any = int(token) if isinstance(here, list) else token
        here[key] = here[key].copy()
        here = here[key]
    here[int(tokens[-1]) if isinstance(here, list) else tokens[-1]] = value
    return top


def other_values(info: Any, old: Any) -> list[Any]:
    """Values that may stand in a field in place of another."""
    if info is not None and info.kind == "quantity":
        return [written(info, share) for share in (0.02, 0.3, 0.1, 0.5)]
    if info is not None and info.kind == "choice":
        return [o for o in info.options if o != old]
    if isinstance(old, bool):
        return [not old]
    if isinstance(old, (int, float)):
        return [old + 1, old * 1.1, old - 1]
    return [f"{old} x"] if isinstance(old, str) else [old[::-1], old[:-1]] if isinstance(old, list) else []


def with_sections_of(build: Build, doc: dict[str, Any], pointer: str) -> Build:
    """A build that differs from another at a place alone: the sections beside that are taken as they were read, as an edit does. Raises what reading it raises."""
    current = doc.get("version") == VERSION  # an old one is moved about first
    beside = doc.keys() & Build.model_fields.keys() - {pointer.split("/")[1]} if current else set()
    return parse(doc, {key: getattr(build, key) for key in beside})


def another(doc: dict[str, Any], pointer: str, build: Build | None = None) -> Build | None:
    """The build with another value at a place; None where the place holds no value of the build, or no other will do. `build` is the document's own, where it was read."""
    if pointer.startswith(NOT_VALUES):
        return None
    for value in other_values(info_at(pointer), at(doc, pointer)):
        try:
            other = with_value(doc, pointer, value)
            return parse(other) if build is None else with_sections_of(build, other, pointer)
        except BuildError:
            continue
    return None


def grown(document: dict[str, Any]) -> dict[str, Any]:
    """The document with every list of parts, and every group of parts by free names, grown until it is refused."""
    doc = copy.deepcopy(document)
    for pointer in _growing(doc):
        for many in (512, 256, 128, 64, 32, 16, 8, 4, 2, 1):
            bigger = copy.deepcopy(doc)
            here = at(bigger, pointer)
            if isinstance(here, list):
                here += [copy.deepcopy(here[-1]) for _ in range(many)]
            else:
                here.update({f"more_{len(here)}_{k}": copy.deepcopy(here[next(iter(here))]) for k in range(many)})
            try:
                parse(bigger)
            except BuildError:
                continue
            doc = bigger
    return doc


def _growing(node: Any, pointer: str = "") -> list[str]:
    """The places that hold several parts of a kind."""
    below = node.items() if isinstance(node, dict) else enumerate(node) if isinstance(node, list) else ()
    found = [p for key, value in below for p in _growing(value, f"{pointer}/{key}")] if pointer != "/marks" else []
    parts = list(node.values()) if isinstance(node, dict) else node if isinstance(node, list) else []
    info = info_at(f"{pointer}/*") if pointer and parts and all(isinstance(part, dict) for part in parts) else None
    return [*found, pointer] if info is not None and info.pointer.endswith("/*") else found
