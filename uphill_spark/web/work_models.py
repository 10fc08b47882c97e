"""What the addresses of the work and of the diary take and answer."""

from __future__ import annotations

import datetime as dt
import re
import uuid
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, Field

from ..core.given.calendar import FIRST_YEAR, LAST_YEAR
from ..core.given.wiring import Key
from ..formats.parts_table import PartsRead
from .models import BuildPath, Number, Strict, Who

__all__ = ["PartsRead"]

DiaryKind = Literal["did", "measured", "decided", "problem", "mended", "note"]
_LINES = r"^[^\x00-\x08\x0b-\x1f\x7f]*$"
Short = Annotated[str, Field(max_length=200, pattern=r"^[^\x00-\x1f\x7f]*$")]


def _planned(day: dt.date) -> dt.date:
    if not FIRST_YEAR <= day.year <= LAST_YEAR:
        raise ValueError(f"a day from {FIRST_YEAR} to {LAST_YEAR}")
    return day


OnDay = Annotated[dt.date, AfterValidator(_planned)]


class SeenQuery(BaseModel):
    """The day on which the work is looked at, by the clock of whoever looks; the revision that is meant, the newest if none."""

    on: OnDay
    revision: Number | None = None


class CalendarQuery(BaseModel):
    """Whose calendar is read, and in which time zone the car stands."""

    person: Key
    zone: Annotated[str, Field(max_length=60)]


class CalendarRead(BaseModel):
    """Busy times of a calendar that lie in somebody's free hours, to be put beside him; how many events it has, and how many could not be read."""

    busy: list[str]
    events: int
    unread: int


class FeedRequest(Strict):
    """Whose evenings an address is for; everybody's where none is named."""

    person: Annotated[str, Field(max_length=40, pattern=r"^([a-z][a-z0-9_]{0,39})?$")] = ""


class FeedMade(BaseModel):
    """A private address, told once; and whose evenings have one."""

    path: str
    people: list[str]


class FeedList(BaseModel):
    """Whose evenings have a private address."""

    people: list[str]


class DemoCalendarPath(BaseModel):
    """Whose calendar to try with."""

    person: Annotated[str, Field(max_length=20)]


class FeedPath(BaseModel):
    """What stands in a private address."""

    token: Annotated[str, Field(min_length=20, max_length=64, pattern=r"^[A-Za-z0-9_-]+$")]


_ID = "[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}"


class OrderQuery(BaseModel):
    """Builds whose lists are merged, with a comma between."""

    builds: Annotated[str, Field(max_length=800, pattern=rf"^{_ID}(,{_ID}){{0,19}}$")]


class TagsQuery(BaseModel):
    """One thing by its code, or all that are not back."""

    code: Annotated[str, Field(max_length=4, pattern=r"^([a-hjkmnp-z2-9]{4})?$")] = ""
    revision: Number | None = None


class MeasuredRow(Strict):
    """Something measured: what, and how much, with its unit."""

    what: Annotated[Short, Field(min_length=1)]
    value: Annotated[Short, Field(min_length=1)]


class EntryRequest(Strict):
    """An entry of the diary. Hours as a person writes them: 2, 1.5, 1:30, 90 min."""

    day: OnDay
    kind: DiaryKind = "did"
    words: Annotated[str, Field(max_length=8000, pattern=_LINES)] = ""
    hours: Annotated[str, Field(max_length=20)] = ""
    task: Annotated[str, Field(max_length=40, pattern=r"^([a-z][a-z0-9_]{0,39})?$")] = ""
    photos: Annotated[list[Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]], Field(max_length=24)] = []
    measured: Annotated[list[MeasuredRow], Field(max_length=40)] = []
    who: Who = ""


class NewEntry(EntryRequest):
    """One that is new, with the id that its device gave it."""

    id: uuid.UUID


class EntryAgain(EntryRequest):
    """One that is said otherwise, or struck out, as it stood at a version."""

    base: Annotated[int, Field(ge=1)]
    struck: bool = False


class EntryPath(BuildPath):
    """An entry of a build's diary."""

    entry_id: uuid.UUID


class EntryBefore(BaseModel):
    """What an entry said before, and who changed it when."""

    day: str
    kind: str
    words: str
    hours: float | None
    who: str
    changed: str
    struck: bool


class DiaryEntry(BaseModel):
    """An entry as it stands."""

    id: uuid.UUID
    day: dt.date
    kind: DiaryKind
    words: str
    hours: float | None
    task: str
    photos: list[str]
    measured: list[MeasuredRow]
    who: str
    revision: int
    version: int
    struck: bool
    written: dt.datetime
    before: list[EntryBefore]


class DayChanges(BaseModel):
    """What was changed in the build on a day: revisions from one number to another, and what the last few did."""

    day: dt.date
    first: int
    last: int
    many: int
    summaries: list[str]


class OffFound(BaseModel):
    """Something off the car that a search found."""

    code: str
    what: str
    goes: str


class Diary(BaseModel):
    """Entries, newest first, with the build's changes of the same days; `more` is where the next page begins, nothing where this was the last. Hours in all, and by task."""

    entries: list[DiaryEntry]
    changes: list[DayChanges]
    off: list[OffFound]
    more: str
    hours: float
    by_task: dict[str, float]


class DiaryQuery(BaseModel):
    """What is looked for, and where the page begins."""

    search: Annotated[str, Field(max_length=120)] = ""
    before: Annotated[str, Field(max_length=60)] = ""
    limit: Annotated[int, Field(ge=1, le=100)] = 30


class ArchiveRead(BaseModel):
    """A build that was put back out of an archive; whether it has its old id, so that printed tags find it."""

    id: uuid.UUID
    name: str
    revisions: int
    same_id: bool


#: Hours as they are written: whole and broken numbers, hours and minutes, minutes.
_CLOCK = re.compile(r"(?P<h>\d{1,3})\s*(?::|h)\s*(?P<m>\d{1,2})\s*(?:min|m)?", re.IGNORECASE)
_PLAIN = re.compile(r"(?P<n>\d{1,4}(?:[.,]\d{1,3})?)\s*(?P<u>h|hrs?|hours?|min|mins|minutes)?", re.IGNORECASE)
HOURS_MOST = 100.0


def read_hours(text: str) -> float | None:
    """Hours of an entry; None for nothing. Raises ValueError with what would do."""
    text = text.strip()
    if not text:
        return None
    if (m := _CLOCK.fullmatch(text)) is not None and int(m["m"]) < 60:
        found = int(m["h"]) + int(m["m"]) / 60
    elif (m := _PLAIN.fullmatch(text)) is not None:
        found = float(m["n"].replace(",", ".")) / (60 if (m["u"] or "").lower().startswith("m") else 1)
    else:
        raise ValueError("hours, like 2, 1.5, 1:30 or 90 min")
    if found > HOURS_MOST:
        raise ValueError(f"at most {HOURS_MOST:g} hours in one entry")
    return round(found, 4)
