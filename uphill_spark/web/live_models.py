"""What the addresses of the live bus take and answer."""

from __future__ import annotations

import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from ..core.live import Quantity, QuantityInfo, SignalTaken, Turning
from ..core.stages.start import Verdict
from .models import Strict
from .taken_as import TakenAs

PLAIN = r"^[^\x00-\x1f\x7f]*$"


class StandInRequest(Strict):
    """A stand-in for this car: as it stands, with a fault that is named, or in order but for the fault of a practice; cold, or warm already."""

    practice: uuid.UUID | None = None
    fault: Annotated[str, Field(max_length=40, pattern=r"^[a-z0-9_]*$")] = ""
    warm: bool = False


class HandRequest(Strict):
    """The hand at key and pedal of a stand-in: key, how far the pedal is down [%], whether the injectors are off."""

    key: Literal["off", "run", "start"]
    pedal: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] = 0.0
    injectors_off: bool = False


class LiveQuery(BaseModel):
    """Which step's readings are wanted."""

    step: Annotated[int, Field(ge=0, le=8)] = 0


class Gauge(BaseModel):
    """A quantity as it is shown now."""

    key: Quantity
    word: str
    shown: str
    unit: str
    old: bool


class LiveReading(BaseModel):
    """A reading of the step as it comes over the bus: as it would be typed and as it is shown, whether it lies in its band, how far off it is, and for how long it has held [s]."""

    key: str
    typed: str
    shown: str
    verdict: Verdict
    off: str
    held: float


class LiveTold(BaseModel):
    """What the bus says now. `stale`: nothing has come for so long [s] that it is no reading of now; none ever came where `age` is none. `key` is where the stand-in's stands, none where there is no stand-in."""

    stale: bool
    age: float | None
    turning: Turning
    gauges: list[Gauge]
    readings: list[LiveReading]
    holds: bool
    flood: int
    key: Literal["off", "run", "start"] | None


class SignalAsked(TakenAs):
    """A signal taken for a quantity."""

    signal: Annotated[str, Field(max_length=120)]


class BusRequest(Strict):
    """A person's own bus: where it is, the DBC file, and which signals are which quantities (none: by their names)."""

    place: Annotated[str, Field(max_length=120, pattern=PLAIN)]
    name: Annotated[str, Field(max_length=120, pattern=PLAIN)] = ""
    dbc: Annotated[str, Field(max_length=2_000_000)]
    taken: list[SignalAsked] | None = Field(default=None, max_length=40)


class BusSignal(BaseModel):
    """A signal of a DBC file, and its unit."""

    name: str
    unit: str


class BusAnswer(BaseModel):
    """What is listened to: the stand-in's own bus, or the one that was told; its signals, what they are taken for, and all quantities that there are."""

    own: bool
    place: str
    name: str
    signals: list[BusSignal]
    taken: list[SignalTaken]
    quantities: list[QuantityInfo]


class Begun(BaseModel):
    """A stand-in that was begun: on which bus, and whether it is heard already."""

    place: str
    heard: bool
