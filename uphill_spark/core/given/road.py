"""Road: what logs of drives said, each taken into the build as a reading. The log itself lies beside the build and stays as it came."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..units import Of, Quantity
from .base import Day, Name, Part, Pressure, Speed

#: What makes a mixture wrong: one wrong constant each, or fuel on the wall.
RoadCause = Literal["scale", "dead_time", "reference", "air", "high_flow", "bank", "tip_in"]
#: What a log puts right: a cause, a curve, the cells of the fuel table.
Deed = Literal["scale", "dead_time", "reference", "air", "tip_in", "warm_up", "after_start", "idle_air", "cells"]
#: What somebody should look at of a day, where it is logged.
Lookout = Literal["knock", "heat", "volts", "lean", "rail", "oil"]
Share = Annotated[float, Field(ge=-1, le=1, allow_inf_nan=False)]
OneLine = Annotated[str, Field(max_length=300, pattern=r"^[^\x00-\x1f\x7f]*$")]
DRIVES_MOST = 60


class CauseRead(Part):
    """One cause: how large it is and how sure that is (one standard deviation), both in its own unit; which share of the error it explains; whether it is named. Scale, and high flow at full flow: logarithm of fuel that is missing; dead time: ms;
    reference: share of the outside that the regulator sees; air: share for each 100 K over 20 °C at the sensor; bank: share by which the leaner is; tip-in: share of a squirt."""

    size: Annotated[float, Field(ge=-5, le=5, allow_inf_nan=False)]
    doubt: Annotated[float, Field(ge=0, le=5, allow_inf_nan=False)]
    share: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 0.0
    named: bool = False


class SnagRead(Part):
    """Something of the day that somebody should look at."""

    key: Annotated[str, Field(pattern=r"^[a-z_]{1,20}$")]
    bad: Literal["stop", "sort_out", "watch", "note"]
    what: OneLine


class Drive(Part):
    """A log of a drive as a reading: what the error is made of, how large it was, where it has been, and the sum over what the control unit ran on."""

    log: Annotated[str, Field(pattern=r"^[0-9a-f-]{36}$")] = Field(title="Log")
    name: Name = Field(title="Called")
    day: Day = Field(title="Driven on")
    ran: Annotated[str, Field(pattern=r"^[0-9a-f]{16}$")] = Field(title="Sum of what the unit ran on")
    seconds: Annotated[float, Field(ge=0, le=1e7, allow_inf_nan=False)] = Field(title="Seconds that are believed")
    error: Annotated[float, Field(ge=0, le=2, allow_inf_nan=False)] = Field(title="Off by, in the middle")
    rest: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = Field(default=0.0, title="of which the table")
    rest_is: bool = Field(default=False, title="The table is off")
    causes: dict[RoadCause, CauseRead] = Field(default={}, title="Causes")
    apart: list[Annotated[list[RoadCause], Field(min_length=2, max_length=2)]] = Field(
        default=[], max_length=20, title="Cannot be told apart"
    )
    leans: Literal[1, 2] = Field(default=2, title="The bank that is off")
    coverage: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = Field(title="Covered")
    lag: Annotated[Quantity, Of("time", "0 s", "5 s", "0.14 s")] = Field(title="Mixture comes late by")
    sensor: Literal["sound", "stuck", "pegged"] | None = Field(default=None, title="Oxygen sensor")
    power: Annotated[Quantity, Of("power", "1 kW", "2000 kW", "98 kW")] | None = Field(default=None, title="Power of the best pull")
    power_speed: Speed | None = Field(default=None, title="at")
    power_doubt: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] | None = Field(default=None, title="give or take")
    power_told: bool = Field(default=False, title="Mass, gears and drag were told")
    outside: Pressure | None = Field(default=None, title="Pressure outside")
    snags: list[SnagRead] = Field(default=[], max_length=20, title="Snags of the day")
    looked: list[Lookout] = Field(default=[], max_length=6, title="Snags that could have been seen")
    did: list[Deed] = Field(default=[], max_length=20, title="Put right by it")
    left_at: Annotated[str, Field(pattern=r"^[0-9a-f]{16}$")] | None = Field(default=None, title="Sum of what the unit ran on after that")
    corrected: Annotated[int, Field(ge=0, le=1600)] = Field(default=0, title="Cells corrected by it")


class Road(Part):
    """Drives that were logged and read, in the order in which they were taken."""

    drives: list[Drive] = Field(default=[], max_length=DRIVES_MOST, title="Drives")
