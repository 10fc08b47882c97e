"""Figures: every published number, what it is called, its unit, what it rests on and how it is taken from a stage's result.

A figure's `uses` names the places in the build (JSON pointers) and the other figures that it depends on. From that the plan knows
which assumptions a figure rests on, and a person can go from a figure to the fields that move it. A test changes every field of a
build and holds this list against what really moved.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import lru_cache, partial
from typing import TYPE_CHECKING, Any, TypeVar, get_args, get_origin, get_type_hints

from pydantic import BaseModel

from .frozen import Frozen
from .stations import StationKey
from .units import from_si, printed, to_si


class Result(Frozen):
    """Base of every stage's result: frozen, sent to the drawings as it is. Numbers carry their unit in the name.

    Results are made by the core alone and by the hundred, and their types are checked before it runs: they are taken as they are, not checked again.
    """

    if not TYPE_CHECKING:

        def __init__(self, **values: Any) -> None:
            kind = type(self)
            every = _FIELDS.get(kind) or _fields_of(kind)
            if len(values) != len(every):
                _rest(kind, values)
            _put_values(self, values)
            _put_given(self, every)  # nobody changes it: a copy of a model takes a copy of it
            _put_extra(self, None)
            _put_private(self, None)


#: The library's own places of a model's values; set so, because it holds a frozen model's shut.
_put_values = BaseModel.__dict__["__dict__"].__set__
_put_given, _put_extra, _put_private = (BaseModel.__dict__[f"__pydantic_{name}__"].__set__ for name in ("fields_set", "extra", "private"))
#: The names of a result's fields, by its type.
_FIELDS: dict[type[BaseModel], set[str]] = {}


def _fields_of(kind: type[BaseModel]) -> set[str]:
    return _FIELDS.setdefault(kind, set(kind.__pydantic_fields__))


def _rest(kind: type[BaseModel], values: dict[str, Any]) -> None:
    """Put the usual values of what is not given to the others. Raises TypeError for a name that is unknown or missing."""
    every = _usual_of(kind)
    given = dict(values)
    values.clear()  # all of them in the order in which they stand in the type
    for name, usual in every:
        values[name] = given.pop(name) if name in given else usual() if usual is not None else _MISSING
    wrong = [*given, *(name for name, value in values.items() if value is _MISSING)]
    if wrong:
        raise TypeError(f"{kind.__name__}: {', '.join(wrong)} unknown or missing")


_MISSING = object()


@lru_cache(maxsize=1024)
def _usual_of(kind: type[BaseModel]) -> tuple[tuple[str, Callable[[], Any] | None], ...]:
    """The fields of a result in their order, each with what makes its usual value; None for one that has none."""
    found = []
    for name, field in kind.__pydantic_fields__.items():
        value = None if field.is_required() else field.get_default(call_default_factory=True)
        same = value is None or isinstance(value, (str, int, float, tuple))
        usual = partial(_itself, value) if same else partial(field.get_default, call_default_factory=True)
        found.append((name, None if field.is_required() else usual))
    return tuple(found)


def _itself(value: Any) -> Any:
    return value


R = TypeVar("R", bound=Result)


def told_again(kind: type[R], kept: Mapping[str, Any]) -> R:
    """A result out of what was kept of it as plain values (its JSON, read)."""
    hints = _hints_of(kind)
    return kind(**{name: _again(hints[name], value) for name, value in kept.items() if name in hints})


def _again(hint: Any, value: Any) -> Any:
    if value is None:
        return None
    origin, inside = get_origin(hint), get_args(hint)
    if isinstance(hint, type) and issubclass(hint, Result):
        return told_again(hint, value)
    if origin is list:
        return [_again(inside[0], x) for x in value]
    if origin is dict:
        return {key: _again(inside[1], x) for key, x in value.items()}
    made = next((x for x in inside if isinstance(x, type) and issubclass(x, Result)), None) if origin is not None else None
    return told_again(made, value) if made is not None else value


@lru_cache(maxsize=256)
def _hints_of(kind: type[Result]) -> dict[str, Any]:
    return get_type_hints(kind)


@dataclass(frozen=True, slots=True)
class Spec:
    """The definition of a figure. `take` gets it in SI from the stage's result, None where it is not known."""

    name: str
    unit: str
    label: str
    uses: tuple[str, ...]
    source: str
    take: Callable[[Any], float | None]
    share: bool = False  # read as a percentage; published as a plain number all the same
    quiet: bool = False  # one of a row for which the page has its stage's result

    def value(self, result: Result | None) -> float | None:
        """The figure [its unit] from its stage's result; None where it is not known."""
        found = self.take(result)
        return None if found is None else round(from_si(found, self.unit), 9)


class Figure(Result):
    """A figure as it is published: value in a fixed unit, as it is told to the person and in the other unit behind, the assumptions it rests on, what it uses."""

    value: float | None
    unit: str
    shown: str
    also: str | None
    label: str
    station: StationKey
    assumed: list[str]
    uses: list[str]
    source: str


@dataclass(frozen=True, slots=True)
class Band:
    """What a reading should lie in: from `low` to `high`, both in `unit`; an end that is None is open. Usual or worked out, it is told in one way."""

    low: float | None
    high: float | None
    unit: str

    def __contains__(self, value: float) -> bool:
        return (self.low is None or value >= self.low) and (self.high is None or value <= self.high)

    def rounded(self, digits: int) -> Band:
        """The same with ends of so many decimals, for reading."""
        low, high = (None if end is None else round(end, digits) for end in (self.low, self.high))
        return Band(low, high, self.unit)

    def __str__(self) -> str:
        low, high = (f"{end:,.6g}" if end is not None else None for end in (self.low, self.high))
        unit = _unit_words(self.unit)
        if low is None or high is None:
            return f"{low}{unit} or more" if high is None else f"{high}{unit} at most"
        return f"{low}{unit}" if low == high else f"{low} to {high}{unit}"


def _unit_words(unit: str) -> str:
    """A unit as it stands behind a number."""
    words = {"1": "", "ohm": " Ω", "mohm": " mΩ", "degC": " °C", "mm**2": " mm²", "deg": "°", "m**3/h": " m³/h", "day": " days"}
    return words.get(unit, f" {printed(unit)}")


def show(value: float | None, unit: str, share: bool = False) -> str:
    """A figure [`unit`] for reading: three or four digits that matter, unit behind; a `share` (0 to 1) as a percentage; None as "not known"."""
    if value is None:
        return "not known"
    if share:
        return f"{value * 100:.{1 if abs(value) < 0.0995 and value else 0}f} %"
    size = abs(value)
    digits = 0 if size >= 1000 else 1 if size >= 100 else 2 if size >= 1 else 3
    text = f"{value:,.{0 if abs(value - round(value)) < 1e-9 else digits}f}"
    return text + _unit_words(unit)


def told(value: float | None, spec: Spec, own: str) -> tuple[str, str | None]:
    """A figure [its unit] for reading in a person's own unit, and in its published one where that is another."""
    plain = show(value, spec.unit, spec.share)
    if value is None or own == spec.unit or spec.share:
        return plain, None
    return show(from_si(to_si(value, spec.unit), own), own), plain


def pointers(specs: dict[str, Spec]) -> dict[str, tuple[str, ...]]:
    """For every figure the places in the build that it depends on, through all the figures that it uses."""
    found: dict[str, tuple[str, ...]] = {}

    def of(name: str, trail: tuple[str, ...]) -> tuple[str, ...]:
        if name in trail:
            raise ValueError(f"figures use each other in a ring: {' -> '.join((*trail, name))}")
        if name not in found:
            parts = [(use,) if use.startswith("/") else of(use, (*trail, name)) for use in specs[name].uses]
            found[name] = tuple(dict.fromkeys(p for part in parts for p in part))
        return found[name]

    return {name: of(name, ()) for name in specs}
