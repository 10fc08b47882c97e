"""Requests and answers."""

from __future__ import annotations

import datetime as dt
import uuid
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field

from ..core.given import Build
from ..core.given.fields import FieldInfo
from ..core.plan import Plan, Station, StationKey
from ..core.questions import Question
from ..core.ripple import Ripple

Who = Annotated[str, Field(max_length=80, pattern=r"^[^\x00-\x1f\x7f]*$")]


class Strict(BaseModel):
    model_config = ConfigDict(extra="forbid")


class BuildPath(BaseModel):
    build_id: uuid.UUID


class RevisionPath(BuildPath):
    number: int = Field(ge=1, le=2**31 - 1)


class QuestionsPath(BuildPath):
    station: StationKey


class Questions(BaseModel):
    """A station's questions, tried on one revision."""

    revision: int
    questions: list[Question]


class TablePath(BuildPath):
    key: Annotated[str, Field(max_length=40)]


class PaperQuery(BaseModel):
    """Which revision a paper is printed from; the newest if not given."""

    revision: int | None = Field(default=None, ge=1, le=2**31 - 1)


class NewBuild(Strict):
    """A new build from five answers."""

    who: Who = ""
    answers: dict[str, Any]


class DemoRequest(Strict):
    """Put the demo cars in the garage, afresh."""

    who: Who = ""


class ImportQuery(BaseModel):
    who: Who = ""


class EditRequest(Strict):
    """A change made on revision `base`. `edit_id` makes a change that is sent twice count once."""

    base: int = Field(ge=1, le=2**31 - 1)
    patch: list[dict[str, Any]] = Field(min_length=1, max_length=200)
    who: Who = ""
    reason: Annotated[str, Field(max_length=600, pattern=r"^[^\x00]*$")] = ""
    edit_id: Annotated[str, Field(min_length=8, max_length=64, pattern=r"^[A-Za-z0-9-]+$")] | None = None


class TrialRequest(Strict):
    """A change to try on revision `base`; nothing is stored."""

    base: int = Field(ge=1, le=2**31 - 1)
    patch: list[dict[str, Any]] = Field(min_length=1, max_length=200)


class TableKind(BaseModel):
    kind: Annotated[str, Field(max_length=40)]


class BuildTablePath(BuildPath, TableKind):
    pass


class TableText(Strict):
    """A table as text, comma, semicolon or tab between its columns."""

    text: Annotated[str, Field(max_length=40_000)]


class TableRows(BaseModel):
    """Rows of a table, as the build document has them."""

    rows: list[dict[str, Any]]


class PhotoPath(BaseModel):
    key: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


class PhotoKept(BaseModel):
    """A photograph that is kept: its key, by which a build shows it, and its size in pixels."""

    key: str
    width: int
    height: int


class StepRequest(Strict):
    """Undo or redo from revision `base`."""

    base: int = Field(ge=1, le=2**31 - 1)
    who: Who = ""


class GarageRow(BaseModel):
    """A build in the garage: its climb in small and what blocks it."""

    id: uuid.UUID
    name: str
    notes: str
    demo: str | None
    revision: int
    changed: dt.datetime
    verdict: str
    stations: list[Station]
    blocking: list[str]


class Garage(BaseModel):
    builds: list[GarageRow]


class State(BaseModel):
    """A build at one revision, with its plan."""

    id: uuid.UUID
    revision: int
    head: int
    can_undo: bool
    can_redo: bool
    build: Build
    plan: Plan


class Changed(State):
    """The state after a change, and what the change moved."""

    summary: str
    ripple: Ripple


class RevisionLine(BaseModel):
    number: int
    kind: str
    summary: str
    who: str
    reason: str
    written: dt.datetime


class Journal(BaseModel):
    revisions: list[RevisionLine]
    more: bool


class Health(BaseModel):
    store: bool


class Fields(BaseModel):
    fields: dict[str, FieldInfo]
