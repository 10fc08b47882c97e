"""What the tune's addresses take and answer."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from pydantic import BaseModel, Field

from ..core.given.kept import TableKey
from ..core.keeping import Difference, Source
from ..core.stages.tune.landmarks import CellTold
from ..core.stages.tune.walk import WarmStep
from ..formats.tune_read import Choice
from .models import BuildPath, EditId, Number, Shown, Strict, Who


class TrailStep(BaseModel):
    """A revision at which the tune changed. `made` is of what the kept one was made (empty: none is kept), `cells` how many of it are in ink, `in_unit` whether it stood in the unit."""

    number: int
    kind: str
    who: str
    written: dt.datetime
    summary: str
    reason: str
    made: str
    cells: int
    in_unit: bool


class Trail(BaseModel):
    """Newest first."""

    steps: list[TrailStep]
    found: bool


class CompareQuery(BaseModel):
    """Two tunes: a revision's number, `found`, `quick`, `worked`, or `now` for the tables in use."""

    before: str = Field(pattern=r"^(\d{1,9}|found|quick|worked|now)$")
    after: str = Field(default="now", pattern=r"^(\d{1,9}|found|quick|worked|now)$")
    revision: Number | None = None


class Compared(BaseModel):
    """Both by name, and the tables in which either has something."""

    before: str
    after: str
    tables: list[Difference]


class CellQuery(BaseModel):
    """A cell of a table in use."""

    table: TableKey
    row: int = Field(ge=0, lt=40)
    column: int = Field(ge=0, lt=40)
    revision: Number | None = None


class CellStep(BaseModel):
    """What a cell held from a revision on: who wrote it, when, in which words."""

    number: int
    value: float
    who: str
    written: dt.datetime
    summary: str


class CellAnswer(BaseModel):
    """What a cell does in the car (none for a curve), and what it held before, newest first."""

    told: CellTold | None
    history: list[CellStep]


class KeepRequest(Strict):
    """A tune to keep, made on revision `base`. With `mine` the cells in ink stay."""

    base: Number
    source: Source
    mine: bool = True
    who: Who = ""
    reason: Annotated[str, Field(max_length=600, pattern=r"^[^\x00]*$")] = ""
    edit_id: EditId = None
    shown: Shown = []


class BackRequest(Strict):
    """The tune of revision `to` brought back, on revision `base`."""

    base: Number
    to: Number
    who: Who = ""
    edit_id: EditId = None
    shown: Shown = []


class ReadIn(Strict):
    """Tables as text: CSV of any kind, or our own JSON. `choices` answers what was asked: for each table by its place, what it is."""

    text: str = Field(max_length=400_000)
    choices: dict[int, Choice] = Field(default={}, max_length=40)


class SourcePath(BuildPath):
    """A build, and of what a tune is to be made."""

    source: Source


class Walk(BaseModel):
    """From a frosty morning to a hot engine."""

    steps: list[WarmStep]
