"""Key on, engine off and cold: what the unit should show, against what it shows."""

from __future__ import annotations

from ...figures import Band, Result
from ...given import Build
from ...given.sensors import KeyOn
from ...physics.air import P_SEA_LEVEL, ambient_pressure
from ...scales import Kind
from ...units import to_si

KELVIN = 3.0  # K by which cold senders of one car differ
PRESSURE = 2e3  # Pa
AVERAGE_DAY = 3e3  # Pa more, where the weather is not known
THROTTLE = Band(-1.0, 1.0, "%")
BATTERY = Band(12.2, 12.9, "V")  # rested, of lead and acid, half to fully charged


class KeyOnRow(Result):
    """One reading as it was shown, in the unit of the band that it should lie in; both in words; whether it does."""

    what: str
    value: float
    band: Band
    shown: str
    expected: str
    right: bool
    #: Of which kind it is, where persons have units of their own for it; its value and the ends of its band [SI].
    kind: Kind | None
    si: tuple[float, float, float] | None


def manifold_band(build: Build) -> Band:
    """What a manifold sensor should show with the engine still [kPa, absolute]: the pressure of the altitude, wider where nobody has looked at the weather."""
    k = build.sensors.key_on
    weather = k.weather if k else None
    station = ambient_pressure(build.engine.altitude.si) * (weather.si / P_SEA_LEVEL if weather else 1.0)
    slack = PRESSURE if weather else PRESSURE + AVERAGE_DAY
    return Band((station - slack) / 1e3, (station + slack) / 1e3, "kPa")


def rows(build: Build) -> list[KeyOnRow]:
    """Every reading that was entered, held against what it should be."""
    k = build.sensors.key_on
    if k is None:
        return []
    found = []
    truth = _outside(k)
    for what, reading in (("coolant", k.coolant), ("intake air", k.air)):
        if reading is not None and truth is not None:
            want = truth - 273.15
            found.append(_row(what, reading.si - 273.15, Band(want - KELVIN, want + KELVIN, "degC"), "temperature"))
    if k.manifold is not None:
        found.append(_row("manifold pressure", k.manifold.si / 1e3, manifold_band(build), "manifold"))
    if k.throttle is not None:
        found.append(_row("throttle", k.throttle.si * 100, THROTTLE))
    if k.battery is not None:
        found.append(_row("battery", k.battery.si, BATTERY))
    return found


def _row(what: str, value: float, band: Band, kind: Kind | None = None) -> KeyOnRow:
    inside = (to_si(value, band.unit), to_si(band.low or 0.0, band.unit), to_si(band.high or 0.0, band.unit))
    shown, expected = (str(b.rounded(1)) for b in (Band(value, value, band.unit), band))
    return KeyOnRow(
        what=what, value=value, band=band, shown=shown, expected=expected, right=value in band, kind=kind, si=inside if kind else None
    )


def _outside(k: KeyOn) -> float | None:
    """The temperature [K] that all should show: the thermometer, else what coolant and air agree on half way."""
    if k.outside is not None:
        return k.outside.si
    if k.coolant is not None and k.air is not None:
        return (k.coolant.si + k.air.si) / 2
    return None
