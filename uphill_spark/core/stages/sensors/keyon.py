"""Key on, engine off and cold: what the unit should show, against what it shows."""

from __future__ import annotations

from ...figures import Result
from ...given import Build
from ...given.sensors import KeyOn
from ...physics.air import P_SEA_LEVEL, ambient_pressure

KELVIN = 3.0
PRESSURE = 2e3  # Pa
AVERAGE_DAY = 3e3  # Pa more, where the weather is not known
THROTTLE = 0.01
BATTERY = (12.2, 12.9)


class KeyOnRow(Result):
    """One reading as it was shown and the band that it should lie in, in its own unit; whether it does."""

    what: str
    shown: float
    low: float
    high: float
    unit: str
    right: bool


def rows(build: Build) -> list[KeyOnRow]:
    """Every reading that was entered, held against what it should be."""
    k = build.sensors.key_on
    if k is None:
        return []
    found = []
    truth = _outside(k)
    for what, reading in (("coolant", k.coolant), ("intake air", k.air)):
        if reading is not None and truth is not None:
            t, want = reading.si - 273.15, truth - 273.15
            found.append(KeyOnRow(what=what, shown=t, low=want - KELVIN, high=want + KELVIN, unit="degC", right=abs(t - want) <= KELVIN))
    if k.manifold is not None:
        station = ambient_pressure(build.engine.altitude.si) * (k.weather.si / P_SEA_LEVEL if k.weather else 1.0)
        slack = PRESSURE if k.weather else PRESSURE + AVERAGE_DAY
        low, high = (station - slack) / 1e3, (station + slack) / 1e3
        found.append(
            KeyOnRow(
                what="manifold pressure",
                shown=k.manifold.si / 1e3,
                low=low,
                high=high,
                unit="kPa",
                right=low <= k.manifold.si / 1e3 <= high,
            )
        )
    if k.throttle is not None:
        found.append(
            KeyOnRow(what="throttle", shown=k.throttle.si, low=-THROTTLE, high=THROTTLE, unit="1", right=abs(k.throttle.si) <= THROTTLE)
        )
    if k.battery is not None:
        low, high = BATTERY
        found.append(KeyOnRow(what="battery", shown=k.battery.si, low=low, high=high, unit="V", right=low <= k.battery.si <= high))
    return found


def _outside(k: KeyOn) -> float | None:
    """The temperature [K] that all should show: the thermometer, else what coolant and air agree on half way."""
    if k.outside is not None:
        return k.outside.si
    if k.coolant is not None and k.air is not None:
        return (k.coolant.si + k.air.si) / 2
    return None
