"""Frames of a bus by a DBC file: read with its faults told, encoded, decoded, and taken for quantities that are known here."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from importlib import resources
from typing import Any

import cantools
from cantools.database.can import Database, Message
from cantools.database.errors import DecodeError

from ..core.errors import FormatError
from ..core.live import QUANTITIES, Quantity, SignalTaken, guessed
from .library import can

MESSAGES_MOST, BYTES_MOST = 3000, 2_000_000  # of a file that a person brings
HAND = "Hand"
#: Signals of the shipped file, by the quantity that each is.
OWN: dict[Quantity, str] = {
    "speed": "EngineSpeed", "advance": "SparkAdvance", "teeth": "TeethInTurn", "in_step": "InStep", "runs": "EngineRuns", "starter": "StarterOn", "pump": "PumpOn", "manifold": "ManifoldPressure",
    "throttle": "ThrottleOpening", "coolant": "CoolantTemperature", "air": "AirTemperature", "lambda": "Lambda", "pulse": "InjectorPulse", "rail": "RailPressure", "valve": "IdleValve", "volts": "UnitVolts", "oil": "OilPressure", "exhaust": "ExhaustTemperature",
    "knock": "KnocksCounted", "key": "KeyAt",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Frames:
    """A DBC file that was read, and which of its signals are which quantities."""

    database: Database
    taken: tuple[SignalTaken, ...]

    @property
    def signals(self) -> list[tuple[str, str]]:
        """Every signal with its unit, in the order of the file."""
        return [(s.name, s.unit or "") for m in self.database.messages for s in m.signals]

    def decoded(self, message: can.Message) -> dict[str, float]:
        """Signals of a frame; nothing for one that the file does not know or that does not fit it."""
        known = _message(self.database, message.arbitration_id)
        if known is None or message.is_error_frame or message.is_remote_frame:
            return {}
        try:
            found: Any = known.decode(bytes(message.data), decode_choices=False, allow_truncated=False)
        except (ValueError, KeyError, DecodeError):
            return {}
        return {key: float(value) for key, value in found.items() if isinstance(value, (int, float)) and math.isfinite(value)}

    def quantities(self, signals: Mapping[str, float]) -> dict[Quantity, float]:
        """Signals as quantities; what lies outside of what can be believed is left out."""
        found: dict[Quantity, float] = {}
        for t in self.taken:
            if t.signal in signals:
                value = signals[t.signal] * t.factor + t.offset
                info = QUANTITIES[t.quantity]
                if info.low <= value <= info.high:
                    found[t.quantity] = value
        return found

    def encoded(self, name: str, signals: Mapping[str, float]) -> can.Message:
        """A frame of a message, each signal held inside of what it can say."""
        known = self.database.get_message_by_name(name)
        held = {s.name: _held(s, signals.get(s.name, 0.0)) for s in known.signals}
        return can.Message(arbitration_id=known.frame_id, data=known.encode(held, strict=False), is_extended_id=known.is_extended_frame)


def _held(signal: Any, value: float) -> float:
    low, high = signal.minimum, signal.maximum
    value = 0.0 if not math.isfinite(value) else float(value)
    return min(max(value, float(low) if low is not None else value), float(high) if high is not None else value)


def _message(database: Database, frame_id: int) -> Message | None:
    try:
        found = database.get_message_by_frame_id(frame_id)
    except KeyError:
        return None
    return found if isinstance(found, Message) else None


def read(text: str, taken: Sequence[SignalTaken] | None = None) -> Frames:
    """A DBC file. Raises FormatError, in words, for one that cannot be read, is too large, or in which signals overlap or do not fit their frame."""
    if (not text.isprintable() and any(c in text for c in "\x00\ufffe\uffff")) or any("\ud800" <= c <= "\udfff" for c in text):
        raise FormatError("The DBC file holds what is no text. Choose the file that the unit's maker gives.")
    if len(text.encode()) > BYTES_MOST:
        raise FormatError(
            f"The DBC file is larger than {BYTES_MOST // 1_000_000} MB. One with the messages of this control unit alone will do."
        )
    if text.count("\nBO_ ") > MESSAGES_MOST:
        raise FormatError(f"The DBC file describes more than {MESSAGES_MOST} messages. One with those of this control unit alone will do.")
    try:
        database = cantools.database.load_string(text, database_format="dbc", strict=True)
    except Exception as error:  # the reader raises what its grammar gives
        raise FormatError(f"The DBC file cannot be used: {_plain(error)}") from error
    if not isinstance(database, Database) or not any(m.signals for m in database.messages):
        raise FormatError("The DBC file describes no signal. A file with at least the engine's speed will do.")
    frames = Frames(database, ())
    return Frames(database, tuple(taken if taken is not None else guessed(frames.signals)))


def _plain(error: Exception) -> str:
    said = str(error).strip().rstrip(".") or type(error).__name__
    said = said.split("\n")[0].replace("DBC: ", "")
    return f"{said[:220]}. Overlapping signals and signals that do not fit their frame are put right in the tool that made the file."


@lru_cache(maxsize=1)
def own() -> Frames:
    """The file that ships, for the stand-in."""
    text = resources.files(__package__ or "uphill_spark.standin").joinpath("unit.dbc").read_text("utf-8")
    return read(text, [SignalTaken(signal=name, quantity=key) for key, name in OWN.items()])
