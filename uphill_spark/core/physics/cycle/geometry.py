"""A cylinder as the cycle sees it: its volume by crank angle, the flow areas of its valves, its walls. Angles in degrees after top dead centre of the burn."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields
from typing import Any

import numpy as np

from ...errors import NoEngine
from ..network import Array

SEAT = 0.9  # of a curtain's height, across a seat of 45 degrees
THROAT, STEM = 0.87, 0.23  # of the valve's head, its throat and its stem
INWARD, BACKWARD = 0.85, 0.75  # discharge of curtain and throat together, with the flow and against it (Heywood, ch. 6.3)
CROWN = 1.1  # of the bore's area, a piston's crown or a chamber's roof


@dataclass(frozen=True, slots=True)
class Valve:
    """One kind of valve of a cylinder: how many, head [m], lift [m], where it opens and shuts [deg after firing top]; how well its port flows against a usual one."""

    count: int
    head: float
    lift: float
    opens: float
    shuts: float
    flows: float = 1.0

    def lifted(self, degrees: Array) -> Array:
        """Lift [m] over crank angle: a polynomial lobe that begins and ends gently; its mean is 0.53 of the highest."""
        z = np.clip(2 * (degrees - self.opens) / (self.shuts - self.opens) - 1, -1, 1)
        return np.asarray(self.lift * (1 - z * z) ** 2, dtype=np.float64)

    def area(self, degrees: Array) -> Array:
        """Flow area [m2]: curtain and throat, one behind the other."""
        curtain = self.count * np.pi * self.head * self.lifted(degrees) * SEAT
        throat = self.count * np.pi / 4 * self.head**2 * (THROAT**2 - STEM**2)
        return np.asarray(self.flows * curtain * throat / np.sqrt(curtain**2 + throat**2), dtype=np.float64)


@dataclass(frozen=True, slots=True)
class Cylinder:
    """A cylinder: bore, stroke, rod [m], compression ratio, its valves, the tract before its inlet (length [m] and area [m2]).

    Raises NoEngine for what is none: a rod of half the stroke or less, valves that do not lift, events that are not a breathing cycle.
    """

    bore: float
    stroke: float
    rod: float
    ratio: float
    inlet: Valve
    exhaust: Valve
    tract_length: float
    tract_area: float

    def __post_init__(self) -> None:
        if self.rod <= self.stroke / 2:
            raise NoEngine(
                f"A connecting rod of {self.rod * 1e3:.4g} mm with a stroke of {self.stroke * 1e3:.4g} mm: it has to be longer than half of the stroke."
            )
        if self.ratio <= 1 or min(self.bore, self.stroke, self.tract_length, self.tract_area) <= 0:
            raise NoEngine("Bore, stroke and inlet tract have to be more than nought, the compression ratio more than 1.")
        for valve in (self.inlet, self.exhaust):
            if min(valve.lift, valve.head) <= 0 or valve.count < 1 or not 120 < valve.shuts - valve.opens < 400:
                raise NoEngine(
                    f"A valve of {valve.head * 1e3:.4g} mm that lifts {valve.lift * 1e3:.3g} mm for {valve.shuts - valve.opens:.0f} degrees: it has to lift, and be open for 120 to 400."
                )
        if not (
            60 < self.exhaust.opens < 180 < 360 < self.inlet.shuts < 700
            and self.exhaust.shuts < self.inlet.shuts
            and self.exhaust.opens < self.inlet.opens
        ):
            raise NoEngine("The valves open and shut in an order in which no engine breathes: look at the cam card.")

    @property
    def swept(self) -> float:
        """Swept volume [m3]."""
        return np.pi / 4 * self.bore**2 * self.stroke

    @property
    def clearance(self) -> float:
        """Volume [m3] at top dead centre."""
        return self.swept / (self.ratio - 1)

    def travel(self, degrees: Array) -> Array:
        """The piston below top dead centre [m] (slider-crank)."""
        a, r = np.radians(degrees), self.stroke / 2
        return np.asarray(r + self.rod - r * np.cos(a) - np.sqrt(self.rod**2 - (r * np.sin(a)) ** 2), dtype=np.float64)

    def volume(self, degrees: Array) -> Array:
        """Volume [m3]."""
        return np.asarray(self.clearance + np.pi / 4 * self.bore**2 * self.travel(degrees), dtype=np.float64)

    def walls(self, degrees: Array) -> Array:
        """Area of its walls [m2]: crown, roof, what of the liner is bare."""
        return np.asarray(2 * CROWN * np.pi / 4 * self.bore**2 + np.pi * self.bore * self.travel(degrees), dtype=np.float64)

    def piston_speed(self, rev_s: Array) -> Array:
        """Mean piston speed [m/s]."""
        return np.asarray(2 * self.stroke * rev_s, dtype=np.float64)


class _Cylinders(Cylinder):
    """Cylinders, a lane each: asked as one is, each measure an array over the lanes. Each was looked at when it was made."""

    def __post_init__(self) -> None:
        pass


def stacked(cylinders: Sequence[Cylinder], lanes: Sequence[int]) -> Cylinder:
    """Several cylinders to be worked side by side, each for so many lanes in a row; one alone stays as it is. Angles over which they are asked run down the first axis."""
    return cylinders[0] if len(cylinders) == 1 else _measured(_Cylinders, list(cylinders), lambda values: np.repeat(values, lanes))


def repeated(cylinder: Cylinder, times: int) -> Cylinder:
    """The same lanes so many times one after the other."""
    return _measured(_Cylinders, [cylinder], lambda values: np.tile(values[0], times)) if isinstance(cylinder, _Cylinders) else cylinder


def _measured(kind: type[Any], ones: list[Any], arrayed: Callable[[list[Any]], Array]) -> Any:
    """A thing of that kind whose every measure is made of those of several."""
    made: dict[str, Any] = {}
    for field in fields(ones[0]):
        values = [getattr(one, field.name) for one in ones]
        made[field.name] = _measured(Valve, values, arrayed) if isinstance(values[0], Valve) else arrayed(values)
    return kind(**made)
