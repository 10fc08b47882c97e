"""What the addresses of practice and of the questions at the first start take and answer."""

from __future__ import annotations

import datetime as dt
import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from ..core.asked.diagnosis import Diagnosis, Evidence
from ..core.asked.faults import LookRow
from ..core.asked.practice import MOVE_KEY, MoveKind, Practice
from .models import BuildPath, Number, Strict, Who

LookKey = Annotated[str, Field(max_length=40, pattern=r"^[a-z0-9_]+$")]


class SeenRequest(Strict):
    """A look that a person took: a word of its answers, a figure as it was typed (a bare one takes the look's unit), or nothing where it could not be looked at."""

    look: LookKey
    shown: Annotated[str, Field(max_length=60)] | None


class DiagnosisRequest(Strict):
    """What was seen; with `steps`, the readings of the first start count too."""

    seen: list[SeenRequest] = Field(default=[], max_length=120)
    steps: bool = True
    revision: Number | None = None


class DiagnosisAnswer(BaseModel):
    """Causes and the next look, with all looks and what was taken as seen, and every fault that this car can have (key and words); `running` while what each fault looks like is still worked out."""

    state: Literal["ready", "running", "failed"]
    progress: float | None = None
    why: str = ""
    diagnosis: Diagnosis | None = None
    looks: list[LookRow] = []
    evidence: list[Evidence] = []
    faults: list[tuple[str, str]] = []


class BeginRequest(Strict):
    """A new practice: who, how hard (none: by what went before), from which seed (none: any)."""

    who: Who = ""
    level: Literal[1, 2, 3, 4] | None = None
    seed: Annotated[int, Field(ge=0, le=2**53)] | None = None


class MoveRequest(Strict):
    """A move, by somebody who knows of so many moves before it."""

    kind: MoveKind
    key: Annotated[str, Field(max_length=140, pattern=MOVE_KEY)] = ""
    known: Annotated[int, Field(ge=0, le=1000)]


class PracticePath(BuildPath):
    """A practice in the address."""

    practice_id: uuid.UUID


class WhoQuery(BaseModel):
    """Whose practices."""

    who: Annotated[str, Field(max_length=80)] = ""


class PracticeAnswer(BaseModel):
    """A practice as it stands, with the looks that this car has; `running` while its table is still worked out."""

    state: Literal["ready", "running", "failed"]
    progress: float | None = None
    why: str = ""
    id: uuid.UUID | None = None
    revision: int | None = None
    practice: Practice | None = None
    looks: list[LookRow] = []


class PracticeRowOut(BaseModel):
    """A practice that was begun: how hard, when, how it ended."""

    id: uuid.UUID
    level: int
    seed: int
    began: dt.datetime
    moves: int
    score: int | None
    found: bool | None
    fault: str


class PracticeList(BaseModel):
    """A person's practices on a car, the newest first, and the level to try next."""

    rows: list[PracticeRowOut]
    level: int
