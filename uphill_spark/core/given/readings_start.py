"""What is read off at the steps of the first start: each reading's name, how it is measured, and how near to a single figure it has to come."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from ..errors import UnitError
from ..units import bare_number, si, signed

ReadingKey = Literal[
    "battery_rest", "fuse_pump", "fuse_unit", "feed_drop", "ignition_feed", "ground_pin", "agree", "manifold_still", "throttle_up", "throttle_down", "speed_still", "coolant_signal", "rail_prime",
    "pump_volts", "loss_prime", "speed_crank", "oil_crank", "unit_crank", "teeth", "light_locked", "catches", "oil_start", "pulse_first", "charging", "rail_first", "speed_idle", "manifold_idle", "rail_idle",
    "pulse_idle", "lambda_idle", "air_valve", "loss_off",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class ReadingKind:
    """How a reading is measured: its dimension (none: a plain number, with `unit` behind it or not), the unit of a bare number, the least and the most that is believable [unit], and, of a single figure that is
    expected, by how much it may differ (a share of it, and in its unit: the larger counts)."""

    dimension: str | None
    unit: str
    low: float
    high: float
    share: float = 0.0
    within: float = 0.0


_VOLTS = ReadingKind("voltage", "V", 0, 32, 0.0, 0.3)
_GAUGE = ReadingKind("pressure", "kPa", -100, 2000, 0.05)
_PULSE = ReadingKind("time", "ms", 0, 500, 0.15)
_SECONDS = ReadingKind("time", "s", 0, 600)
_PERCENT = ReadingKind(None, "%", -5, 110)
READINGS: dict[ReadingKey, ReadingKind] = {
    "battery_rest": _VOLTS, "fuse_pump": ReadingKind("current", "A", 0, 200), "fuse_unit": ReadingKind("current", "A", 0, 200), "feed_drop": _VOLTS, "ignition_feed": _VOLTS, "ground_pin": _VOLTS,
    "agree": ReadingKind(None, "K", 0, 120), "manifold_still": ReadingKind("pressure", "kPa", 20, 400, 0.0, 2.0), "throttle_up": _PERCENT, "throttle_down": _PERCENT, "speed_still": ReadingKind("speed", "rpm", 0, 9000),
    "coolant_signal": ReadingKind("voltage", "V", 0, 6, 0.0, 0.15), "rail_prime": _GAUGE, "pump_volts": _VOLTS, "loss_prime": _GAUGE, "speed_crank": ReadingKind("speed", "rpm", 0, 1000),
    "oil_crank": _GAUGE, "unit_crank": _VOLTS, "teeth": ReadingKind(None, "1", 0, 400), "light_locked": ReadingKind("angle", "deg", -90, 90), "catches": _SECONDS, "oil_start": _SECONDS,
    "pulse_first": _PULSE, "charging": _VOLTS, "rail_first": _GAUGE, "speed_idle": ReadingKind("speed", "rpm", 0, 9000, 0.08), "manifold_idle": ReadingKind("pressure", "kPa", 10, 400), "rail_idle": _GAUGE,
    "pulse_idle": _PULSE, "lambda_idle": ReadingKind(None, "1", 0.3, 3), "air_valve": _PERCENT, "loss_off": _GAUGE,
}  # fmt: skip
if set(READINGS) != set(get_args(ReadingKey)):
    raise ValueError("readings and their kinds differ")


def with_unit(key: ReadingKey, text: str, own: str) -> str:
    """A reading as it was typed, with its unit: a bare number takes the person's `own`."""
    text = text.strip()
    kind = READINGS[key]
    if not bare_number(text, signed=True):
        return text
    return f"{text} {own if kind.dimension is not None else kind.unit if kind.unit != '1' else ''}".strip()


def read(key: ReadingKey, text: str) -> float:
    """A reading [SI where it has a dimension, else the unit of its kind]. Raises UnitError with what would do."""
    kind = READINGS[key]
    if kind.dimension is None:
        value = signed(text, "%", "K", "°C", "C")
        low, high, shown = kind.low, kind.high, kind.unit if kind.unit != "1" else ""
    else:
        value = si(text, kind.dimension)
        low, high, shown = si(f"{kind.low:g} {kind.unit}", kind.dimension), si(f"{kind.high:g} {kind.unit}", kind.dimension), kind.unit
    if not low <= value <= high:
        raise UnitError(f"between {kind.low:g} and {kind.high:g} {shown}".strip())
    return value
