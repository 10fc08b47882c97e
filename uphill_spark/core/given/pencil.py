"""What of a build nobody chose or measured: values in pencil, and usual values that stand for what was left empty."""

from __future__ import annotations

import threading
from functools import lru_cache

from cachetools import LRUCache, cached
from pydantic import BaseModel

from ..units import Quantity
from .document import Build
from .edit import escape

#: Fields that say what is wanted, or how a drawing is looked at: a usual wish is nobody's reading.
_WISHES = {"design_margin", "duty_limit", "coldest", "hottest", "seen_from", "power_basis", "step"}
#: Flags whose "no" would make something sound; every other "no" is the careful answer.
_HOPEFUL = {"leaded", "ballast", "multi_spark", "due"}
#: Usual words that say of themselves that nothing is known, or that the program chooses.
_SAYS_NOTHING = ("not_", "none_heard", "by_layout")


def pencilled(build: Build) -> tuple[str, ...]:
    """Pointers, in order, to every value that is assumed: marked so, or the usual value of a field that was left empty in a part that is there."""
    found = {place for place, mark in build.marks.items() if mark.kind == "assumed"}
    for section, part in build.__dict__.items():
        if isinstance(part, BaseModel) and section not in ("start", "work"):  # what is signed and done is not assumed
            found.update(_in_section(section, part)[1])
    return tuple(sorted(found))


@cached(LRUCache(256), key=lambda _, part: id(part), lock=threading.Lock())
def _in_section(section: str, part: BaseModel) -> tuple[BaseModel, frozenset[str]]:
    """A section looked through, remembered by its identity: an edit leaves all but one as they were. It is held, so that its identity stays its own."""
    found: set[str] = set()
    _walk(part, f"/{section}", found)
    return part, frozenset(found)


def _walk(node: object, pointer: str, found: set[str]) -> None:
    if isinstance(node, BaseModel):
        given = node.model_fields_set
        usual = usual_fields(type(node))
        for name, value in node.__dict__.items():
            if name in usual and name not in given:
                found.add(f"{pointer}/{name}")
            elif isinstance(value, (BaseModel, list, dict)):
                _walk(value, f"{pointer}/{name}", found)
    elif isinstance(node, list):
        for i, value in enumerate(node):
            if isinstance(value, BaseModel):
                _walk(value, f"{pointer}/{i}", found)
    elif isinstance(node, dict):
        for key, value in node.items():
            if isinstance(value, BaseModel):
                _walk(value, f"{pointer}/{escape(str(key))}", found)


@lru_cache(maxsize=256)
def usual_fields(part: type[BaseModel]) -> frozenset[str]:
    """Fields of a part for which a usual value stands while they are empty."""
    return frozenset(name for name, info in part.model_fields.items() if name not in _WISHES and _is_value(name, info.default))


def _is_value(name: str, default: object) -> bool:
    if default is False:
        return name in _HOPEFUL
    if isinstance(default, str) and not isinstance(default, Quantity):
        return bool(default) and not default.startswith(_SAYS_NOTHING)
    return isinstance(default, (Quantity, bool, int, float))
