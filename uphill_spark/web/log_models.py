"""What is asked of logs, and what is answered."""

from __future__ import annotations

import datetime as dt
import uuid
from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field

from ..core.given.road import Deed, RoadCause
from ..core.live import QuantityInfo
from ..core.ripple import Ripple
from ..core.road.columns import ColumnIs, ColumnSeen
from ..core.road.reading import LogSaid
from ..formats.log_out import Kind
from ..store.logs import LogState
from .models import BuildPath, Strict
from .taken_as import TakenAs

Short = Annotated[str, Field(max_length=120, pattern=r"^[^\x00-\x1f\x7f]*$")]
Words = Annotated[str, Field(max_length=4000, pattern=r"^[^\x00-\x08\x0b-\x1f\x7f]*$")]
POINTS_MOST = 3000


class LogPath(BuildPath):
    """A log of a build."""

    log_id: uuid.UUID


class LogQuery(Strict):
    """A log that is sent: what its file is called, the day it was driven, who brings it, an id made by who sends it."""

    name: Annotated[Short, Field(min_length=1)] = "log"
    day: dt.date | None = None
    who: Short = ""
    id: uuid.UUID | None = None


class DriveAsked(Strict):
    """A drive of the stand-in, or the drive of a demo car that ships."""

    what: Literal["standin", "shipped"]
    id: uuid.UUID
    day: dt.date | None = None
    who: Short = ""


class RecordAsked(Strict):
    """Begin to keep what the bus says, or end and keep it as a log."""

    on: bool
    id: uuid.UUID | None = None
    day: dt.date | None = None
    who: Short = ""


class Recording(BaseModel):
    """Whether the bus is being kept, for how long [s], how many samples; the log that came of it."""

    on: bool
    seconds: float
    samples: int
    log: uuid.UUID | None = None


class BrokenLine(BaseModel):
    """A line or block that was no row: its number, what stood there, why."""

    line: int
    text: str
    why: str


class LogLine(BaseModel):
    """A log in the list: what is told of it, where its reading in stands."""

    id: uuid.UUID
    name: str
    day: dt.date
    note: str
    photos: list[str]
    who: str
    kind: str
    state: LogState
    progress: float
    why: str
    rows: int
    seconds: float
    bytes: int
    packed: int
    revision: int
    broken: int
    taken_in: bool


class LogList(BaseModel):
    """The logs of a build; whether a drive ships for it; the most bytes that a log may have."""

    logs: list[LogLine]
    ships: bool
    most: int


class LogTold(BaseModel):
    """A log in full: its columns as they came, which are taken for what, quantities that there are, lines that were none."""

    line: LogLine
    columns: list[ColumnSeen]
    taken: list[ColumnIs]
    quantities: list[QuantityInfo]
    broken: list[BrokenLine]
    broken_count: int
    cells_lost: int
    notes: list[str]


class ColumnTaken(TakenAs):
    """A column taken for a quantity."""

    column: Annotated[str, Field(max_length=120)]


class ColumnsTaken(Strict):
    """Which columns are which quantities."""

    taken: Annotated[list[ColumnTaken], Field(max_length=40)]


class LogChange(Strict):
    """What a person writes about a log: what is left out stays. `revision` is that of the build on which the unit ran."""

    name: Annotated[Short, Field(min_length=1)] | None = None
    day: dt.date | None = None
    note: Words | None = None
    photos: Annotated[list[Annotated[str, Field(pattern="^[0-9a-f]{64}$")]], Field(max_length=12)] | None = None
    revision: Annotated[int, Field(ge=1)] | None = None


class LogAnswer(BaseModel):
    """What a log says, once it is read against the build on which it was driven: ready, running or failed; whether the build still runs on that."""

    state: Literal["ready", "running", "failed"]
    progress: float | None = None
    answer: LogSaid | None
    why: str
    revision: int
    same: bool
    in_build: bool
    did: list[Deed]


class StripQuery(Strict):
    """A stretch of a log [s], its columns by number with commas between (0 is the clock), and how many points at most."""

    columns: Annotated[str, Field(pattern=r"^\d{1,3}(,\d{1,3}){0,11}$")]
    begin: Annotated[float, Field(ge=0, allow_inf_nan=False)] = 0.0
    end: Annotated[float, Field(ge=0, allow_inf_nan=False)] | None = None
    points: Annotated[int, Field(ge=20, le=POINTS_MOST)] = 1200


class StripColumn(BaseModel):
    """A column over a stretch: its number and name, least and most of each point."""

    number: int
    low: list[float | None]
    high: list[float | None]


class Strip(BaseModel):
    """A stretch of a log: times [s], columns, rows behind each point."""

    time: list[float]
    columns: list[StripColumn]
    rows_each: float


class FileQuery(Strict):
    """As which open format."""

    kind: Kind = "csv"


class DeedsAsked(Strict):
    """What of a log's findings is to be put right: causes, curves (warm-up, after-start, idle air), the cells of the fuel table; for cells at high load made leaner a name and a reason."""

    causes: Annotated[list[RoadCause], Field(max_length=8)] = []
    curves: Annotated[list[Literal["warm_up", "after_start", "idle_air"]], Field(max_length=4)] = []
    cells: bool = False
    fill: bool = True
    signed_by: Short = ""
    signed_why: Words = ""


class Deeds(BaseModel):
    """The edit that does it, made by nobody yet: its patch, its reason, what it would move."""

    patch: list[dict[str, Any]]
    reason: str
    ripple: Ripple
