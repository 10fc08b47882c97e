"""What a person types into a field, made a value of the document: units, numbers and orders are read here and nowhere else."""

from __future__ import annotations

import re
from typing import Any

from ..errors import BuildError, Problem, UnitError
from ..units import DIMENSIONS, bare_number, number, si, unit_of
from .edit import standing
from .fields import FieldInfo, info_at

_LONGEST = 400  # characters


def read_typed(document: Any, pointer: str, text: str) -> Any:
    """The value that a text stands for at a place. Raises BuildError naming the place, what was given and what would do.

    A bare number takes the unit that stands there, else that of the field's example.
    """
    info = info_at(pointer)
    if info is None:
        raise BuildError("There is no such field.", (Problem(pointer, text[:80], "a place in the build that takes a value"),))
    text = text.strip()
    if len(text) > _LONGEST:
        raise BuildError("That is too long.", (Problem(pointer, f"{text[:40]}...", f"at most {_LONGEST} characters"),))
    if info.kind == "quantity":
        return with_unit(text, info, standing(document, pointer))
    reader = _READERS.get(info.kind)
    return reader(pointer, text) if reader else text


def usual_value(pointer: str) -> Any:
    """The usual value of a field, made the person's own. Raises BuildError for a field that has none."""
    info = info_at(pointer)
    if info is None or info.usual is None:
        raise BuildError("There is no usual value.", (Problem(pointer, "the usual value", "a field for which one stands"),))
    return info.usual


def with_unit(text: str, info: FieldInfo, there: Any = None) -> str:
    """A quantity as text, a bare number with the unit that stands there or with the example's."""
    if info.dimension == "ratio" or not bare_number(text, signed=(info.at_least or "").startswith("-")):
        return text
    unit = (unit_of(there) if isinstance(there, str) else "") or unit_of(info.example or "")
    return f"{text} {unit}".strip()


def read_quantity(dimension: str, text: str, unit: str = "") -> tuple[str, float]:
    """A quantity that stands in no document: as it is written with its unit, and in SI. Raises UnitError with what would do."""
    if dimension not in DIMENSIONS:
        raise UnitError(f"{dimension!r} is not measured here; known are {', '.join(DIMENSIONS)}")
    text = text.strip()
    whole = f"{text} {unit}".strip() if unit and bare_number(text, signed=dimension != "length") else text
    return whole, si(whole, dimension)


def _order(pointer: str, text: str) -> list[int]:
    found = re.findall(r"\d{1,3}", text)
    if not found:
        raise BuildError(
            "No numbers are found.", (Problem(pointer, text[:80], "whole numbers with a dash or a space between, like 1-3-4-2"),)
        )
    return [int(n) for n in found]


def _numbers(pointer: str, text: str) -> list[float]:
    words = [w for w in re.split(r"[\s;/]+|,(?=\s)", text) if w]
    try:
        return [number(w) for w in words]
    except UnitError as error:
        raise BuildError("Those are not numbers.", (Problem(pointer, text[:80], "numbers with a space between"),)) from error


def _number(pointer: str, text: str) -> float:
    try:
        return number(text)
    except UnitError as error:
        raise BuildError("That is not a number.", (Problem(pointer, text[:80], "a number"),)) from error


def _count(pointer: str, text: str) -> int:
    found = re.fullmatch(r"[+-]?\d{1,9}", text)
    if found is None:
        raise BuildError("That is not a whole number.", (Problem(pointer, text[:80], "a whole number"),))
    return int(text)


_READERS = {"order": _order, "numbers": _numbers, "number": _number, "count": _count}
