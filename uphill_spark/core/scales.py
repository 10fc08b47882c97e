"""Scales: in which unit a drawing, a table, a paper or a sentence tells each kind of thing to a person, and how a value in SI becomes a number on it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, get_args

from .figures import Result
from .given import Build
from .given.own import unit_of_figure
from .units import Units, both, printed, to_si

Kind = Literal[
    "pressure", "loss", "compression", "vacuum", "manifold", "throttle_loss", "flow", "injector", "power", "heat", "temperature", "length", "pitch", "gap", "distance", "velocity", "road",
]  # fmt: skip
KINDS: tuple[Kind, ...] = get_args(Kind)


@dataclass(frozen=True, slots=True)
class _Kept:
    """A kind of thing: the usual unit, what is worth telling of it [usual unit], and as which figures it takes the person's unit."""

    unit: str
    worth: float
    like: str = ""

    @property
    def digits(self) -> int:
        """Digits behind the point that are worth telling, in the usual unit."""
        return _digits(self.worth)


#: A digit is told where it is worth half of itself: 0.62 mph are a whole one, 0.26 gal/h are not.
_NEARLY = -math.log10(0.5)


def _digits(worth: float) -> int:
    return max(0, math.ceil(-math.log10(worth) - _NEARLY))


_KEPT: dict[Kind, _Kept] = {
    "pressure": _Kept("kPa", 1.0, "fuel."),
    "loss": _Kept("kPa", 0.1, "fuel."),
    "compression": _Kept("kPa", 1.0, "engine.compression"),
    "vacuum": _Kept("kPa", 1.0, "engine.vacuum"),
    "manifold": _Kept("kPa", 1.0, "sensors."),
    "throttle_loss": _Kept("kPa", 0.1, "air."),
    "flow": _Kept("L/h", 1.0, "fuel."),
    "injector": _Kept("g/min", 1.0, "injectors."),
    "power": _Kept("kW", 1.0, "engine."),
    "heat": _Kept("degC", 1.0, "fuel."),
    "temperature": _Kept("degC", 1.0),
    "length": _Kept("mm", 1.0),
    "pitch": _Kept("mm", 0.1),
    "gap": _Kept("mm", 0.01),
    "distance": _Kept("m", 0.1),
    "velocity": _Kept("m/s", 0.1),
    "road": _Kept("km/h", 1.0),
}


class Scale(Result):
    """A unit as it is printed, the SI value of nought and of one of it, and the digits behind the point that are worth telling."""

    unit: str
    zero: float
    one: float
    digits: int

    def of(self, si: float) -> float:
        """A value [SI] as a number on the scale."""
        return (si - self.zero) / (self.one - self.zero)

    def bare(self, si: float, finer: int = 0) -> str:
        """A value [SI] as the number that is printed, with so many digits more."""
        return f"{self.of(si):.{max(self.digits + finer, 0)}f}"

    def tell(self, si: float, finer: int = 0) -> str:
        """A value [SI] as that number with its unit."""
        return f"{self.bare(si, finer)} {self.unit}"


def scale(build: Build, units: Units, kind: Kind) -> Scale:
    """The scale on which a kind of thing is told to somebody who thinks in `units`."""
    kept = _KEPT[kind]
    return in_unit(kind, unit_of_figure(build, units, kept.like, kept.unit))


@lru_cache(maxsize=256)
def in_unit(kind: Kind, unit: str) -> Scale:
    """The scale of a kind of thing in some unit of it."""
    kept = _KEPT[kind]
    worth = (to_si(kept.worth, kept.unit) - to_si(0.0, kept.unit)) / (to_si(1.0, unit) - to_si(0.0, unit))
    return Scale(unit=printed(unit), zero=to_si(0.0, unit), one=to_si(1.0, unit), digits=_digits(worth))


def scales(build: Build, units: Units) -> dict[Kind, Scale]:
    """All of them, by kind."""
    return {kind: scale(build, units, kind) for kind in KINDS}


def told(build: Build, units: Units, kind: Kind, si: float, finer: int = 0) -> str:
    """A value [SI] as a sentence tells it, with so many digits more: in the person's unit, with the usual one behind; in the usual one alone where they agree."""
    kept = _KEPT[kind]
    return both(si, kept.unit, unit_of_figure(build, units, kept.like, kept.unit), kept.digits + finer)


def span(build: Build, units: Units, kind: Kind, low: float, high: float) -> str:
    """Two values [SI] as a sentence tells what lies between them: in the person's unit, with the usual one behind where that is another."""
    own, usual = scale(build, units, kind), in_unit(kind, _KEPT[kind].unit)
    between, plainly = (f"{s.bare(low)} to {s.tell(high)}" for s in (own, usual))
    return between if own.unit == usual.unit else f"{between} ({plainly})"
