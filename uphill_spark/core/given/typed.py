"""What a person types into a field, made a value of the document: units, numbers and orders are read here and nowhere else."""

from __future__ import annotations

import re
from typing import Any

from ..errors import BuildError, Problem, UnitError
from ..units import DIMENSIONS, Quantity, Units, bare_number, is_fraction, number, si, unit_of
from .edit import standing
from .fields import FieldInfo, info_at
from .own import as_field, own_unit
from .readings_start import READINGS, read, with_unit

_LONGEST = 400  # characters


def read_typed(document: Any, pointer: str, text: str, units: Units = "as_written", *, sure: bool = False) -> Any:
    """The value that a text stands for at a place. Raises BuildError naming the place, what was given and what would do.

    A bare number takes the unit that the field shows, in `units`; where that is far from what stood there, it is asked about unless the person is `sure`.
    """
    info = info_at(pointer)
    if info is None:
        raise BuildError("There is no such field.", (Problem(pointer, text[:80], "a place in the build that takes a value"),))
    text = text.strip()
    if len(text) > _LONGEST:
        raise BuildError("That is too long.", (Problem(pointer, f"{text[:40]}...", f"at most {_LONGEST} characters"),))
    if taken := _TAKEN.fullmatch(pointer):
        return _reading(document, pointer, taken["key"], text, units)
    if info.kind == "quantity":
        return _quantity(document, pointer, text, info, units, sure)
    if info.kind == "count":
        text = _without_title(text, info.title)
    reader = _READERS.get(info.kind)
    return reader(pointer, text) if reader else text


#: A reading at a step of the first start: its unit hangs on what is read.
_TAKEN = re.compile(r"/start/steps/\d/readings/(?P<key>[a-z_]+)/typed")


def _reading(document: Any, pointer: str, key: str, text: str, units: Units) -> str:
    """A reading with its unit. Raises BuildError naming the place."""
    if key not in READINGS:
        raise BuildError("There is no such reading.", (Problem(pointer, key, f"one of {', '.join(READINGS)}"),))
    kind = READINGS[key]
    told = with_unit(key, text, own_unit(document, f"1 {kind.unit}", units))
    try:
        read(key, told)
    except UnitError as error:
        raise BuildError("That reading cannot be taken.", (Problem(pointer, text[:40] or "nothing", str(error)),)) from error
    return told


def usual_value(pointer: str) -> Any:
    """The usual value of a field, made the person's own. Raises BuildError for a field that has none."""
    info = info_at(pointer)
    if info is None or info.usual is None:
        raise BuildError("There is no usual value.", (Problem(pointer, "the usual value", "a field for which one stands"),))
    return info.usual


#: A bare number that changes what stood there by more than this was perhaps meant in another unit: bar and psi lie 14 apart, kPa and psi 7, mm and inch 25.
FAR = 3.5


def _quantity(document: Any, pointer: str, text: str, info: FieldInfo, units: Units, sure: bool) -> str:
    """A quantity as text. A bare number takes the unit that the field shows: that of what stands there, as the person has it, or of an empty field."""
    if info.dimension == "ratio" or info.dimension is None or not bare_number(text, signed=(info.at_least or "").startswith("-")):
        return text
    there = standing(document, pointer)
    if info.dimension == "length" and is_fraction(text):
        return f"{text} in"
    if not isinstance(there, str):
        return f"{text} {own_unit(document, info.example or '', units)}".strip()
    try:
        stood = Quantity(there, si(there, info.dimension))
    except UnitError:
        return f"{text} {unit_of(info.example or '')}".strip()
    told = as_field(stood, units)
    shown = told[0] if told else there
    whole = f"{text} {unit_of(shown) or unit_of(info.example or '')}".strip()
    if not sure:
        _asked(pointer, whole, shown, stood.si, info.dimension)
    return whole


def _asked(pointer: str, whole: str, shown: str, stood: float, dimension: str) -> None:
    """Asks about a bare number that is far from what stood there. Raises BuildError with the question."""
    try:
        now = si(whole, dimension)
    except UnitError:
        return
    if dimension == "temperature" or min(now, stood) <= 0 or 1 / FAR <= now / stood <= FAR:
        return
    times = f"{now / stood:.3g} times" if now > stood else f"1/{stood / now:.3g} of"
    raise BuildError(
        "That is far from what stood there.", (Problem(pointer, whole, f"{times} the {shown} that stood there: enter it once more if it is meant, or write the unit"),)
    )  # fmt: skip


def read_quantity(dimension: str, text: str, unit: str = "") -> tuple[str, float]:
    """A quantity that stands in no document: as it is written with its unit, and its value [SI]. Raises UnitError with what would do."""
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


def _without_title(text: str, title: str) -> str:
    """A count without the words of its own title: "95 RON" of an octane, "36 teeth"."""
    words = {w.lower().strip(",.") for w in title.split()}
    return " ".join(w for w in text.split() if w.lower() not in words)


def _count(pointer: str, text: str) -> int:
    found = re.fullmatch(r"[+-]?\d{1,9}", text)
    if found is None:
        raise BuildError("That is not a whole number.", (Problem(pointer, text[:80], "a whole number"),))
    return int(text)


_READERS = {"order": _order, "numbers": _numbers, "number": _number, "count": _count}
