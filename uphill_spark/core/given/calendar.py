"""Days and hours as people write them: a week's free hours, days away, a calendar's busy times. Wall-clock time of the place where the car stands: no zones, no jumps."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Iterable
from functools import lru_cache
from typing import Annotated

from pydantic import AfterValidator, Field

from ..errors import UnitError

DAY = 24 * 60  # minutes
#: Years between which a day may lie.
FIRST_YEAR, LAST_YEAR = 1990, 2199
_NAMES = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
_SETS = {"weekdays": range(5), "weekday": range(5), "weekend": range(5, 7), "weekends": range(5, 7), "daily": range(7), "every": range(7)}
_TIME = r"(?P<{0}h>\d{{1,2}})(?:[:.h](?P<{0}m>\d{{2}}))?\s*(?P<{0}p>am|pm)?"
_HOURS = re.compile(_TIME.format("a") + r"\s*(?:-|–|to|until)\s*" + _TIME.format("b"), re.IGNORECASE)
_EXAMPLE = "Tue Thu 19:00-22:00; Sat 9:00-17:00"
MOST_SPANS = 60  # of a week, of days away

Free = tuple[int, int, int]
"""Free hours of a week: day (0 for Monday), from and to [minutes of the day]."""


@lru_cache(maxsize=256)
def read_week(text: str) -> tuple[Free, ...]:
    """The free hours of a week, in their order, those that touch joined. Raises UnitError with what would do.

    >>> read_week("Tue Thu 19-22; weekend 9:00-12:30")
    ((1, 1140, 1320), (3, 1140, 1320), (5, 540, 750), (6, 540, 750))
    """
    found: list[Free] = []
    for part in re.split(r"[;\n]+", text):
        if not part.strip():
            continue
        hours = list(_HOURS.finditer(part))
        if not hours:
            raise UnitError(f"hours are missing in {part.strip()[:40]!r}: write {_EXAMPLE}")
        days = _days(part[: hours[0].start()])
        for m in hours:
            begins, ends = _minutes(m, "a"), _minutes(m, "b")
            if ends == 0:
                ends = DAY
            if ends <= begins:
                raise UnitError(f"{m[0].strip()!r} ends before it begins: write each night up to 24:00")
            found += [(day, begins, ends) for day in days]
    if len(found) > MOST_SPANS:
        raise UnitError(f"{len(found)} stretches in a week are too many: at most {MOST_SPANS}")
    return tuple(_joined(found))


def _joined(spans: Iterable[Free]) -> list[Free]:
    found: list[Free] = []
    for day, begins, ends in sorted(spans):
        if found and found[-1][0] == day and begins <= found[-1][2]:
            found[-1] = (day, found[-1][1], max(found[-1][2], ends))
        else:
            found.append((day, begins, ends))
    return found


def _days(text: str) -> list[int]:
    words = re.findall(r"[a-z]+|-|–", text.lower())
    found: list[int] = []
    through = False
    for word in words:
        if word in ("-", "–", "to"):
            through = bool(found)
        elif word in ("and", "day", "on", "evening", "evenings"):
            continue
        elif word in _SETS:
            found += _SETS[word]
        elif word[:3] in _NAMES and "monday tuesday wednesday thursday friday saturday sunday".find(word.rstrip("s")) >= 0:
            day = _NAMES.index(word[:3])
            found += [(found[-1] + k) % 7 for k in range(1, (day - found[-1]) % 7 + 1)] if through else [day]
            through = False
        else:
            raise UnitError(f"{word!r} is no day of the week: write {_EXAMPLE}")
    if not found:
        raise UnitError(f"no day is named: write {_EXAMPLE}")
    return list(dict.fromkeys(found))


def _minutes(m: re.Match[str], which: str) -> int:
    hour, minute, half = int(m[f"{which}h"]), int(m[f"{which}m"] or 0), (m[f"{which}p"] or "").lower()
    if half:
        if not 1 <= hour <= 12:
            raise UnitError(f"{m[0].strip()!r} is no time of day: write 19:00 or 7 pm")
        hour = hour % 12 + (12 if half == "pm" else 0)
    if hour > 24 or minute > 59 or (hour == 24 and minute):
        raise UnitError(f"{m[0].strip()!r} is no time of day: write 19:00-22:00")
    return hour * 60 + minute


def read_day(text: str) -> dt.date:
    """A whole day, year first. Raises UnitError with what would do."""
    try:
        found = dt.date.fromisoformat(text.strip())
    except ValueError as error:
        raise UnitError(f"{text.strip()[:40]!r} is no day: write year, month and day, like 2027-02-14") from error
    if len(text.strip()) != 10 or not FIRST_YEAR <= found.year <= LAST_YEAR:
        raise UnitError(
            f"{text.strip()[:40]!r} is no day that is planned with: write one from {FIRST_YEAR} to {LAST_YEAR}, like 2027-02-14"
        )
    return found


@lru_cache(maxsize=256)
def read_away(text: str) -> tuple[tuple[dt.date, dt.date], ...]:
    """Days away, each stretch from its first to its last day. Raises UnitError with what would do.

    >>> read_away("2027-02-14 to 2027-02-21; 2027-03-05")[1][0].isoformat()
    '2027-03-05'
    """
    found = []
    for part in re.split(r"[;,\n]+", text):
        if not part.strip():
            continue
        ends = re.split(r"\s+(?:to|until|-|–)\s+|–|/", part.strip())
        days = [read_day(x) for x in ends]
        if len(days) > 2 or days[-1] < days[0]:
            raise UnitError(f"{part.strip()[:40]!r} ends before it begins, or has more than two ends: write 2027-02-14 to 2027-02-21")
        found.append((days[0], days[-1]))
    if len(found) > MOST_SPANS:
        raise UnitError(f"{len(found)} stretches away are too many: at most {MOST_SPANS}")
    return tuple(found)


def read_busy(text: str) -> tuple[dt.datetime, dt.datetime]:
    """A busy time out of a calendar: two moments with a stroke between (ISO 8601). Raises UnitError with what would do."""
    begins, _, ends = text.partition("/")
    try:
        found = dt.datetime.fromisoformat(begins), dt.datetime.fromisoformat(ends)
    except ValueError as error:
        raise UnitError(f"{text[:60]!r} is no busy time: two moments like 2027-02-14T18:00/2027-02-14T21:00") from error
    if found[0].tzinfo or found[1].tzinfo or found[1] <= found[0] or not FIRST_YEAR <= found[0].year <= found[1].year <= LAST_YEAR:
        raise UnitError(f"{text[:60]!r} is no busy time: the later moment behind the earlier, both by the clock on the wall")
    return found


def _checked(reads: object) -> AfterValidator:
    def check(text: str) -> str:
        try:
            reads(text)  # type: ignore[operator]
        except UnitError as error:
            raise ValueError(str(error)) from error
        return text

    return AfterValidator(check)


_LINES = r"^[^\x00-\x09\x0b-\x1f\x7f]*$"
FullDay = Annotated[str, Field(min_length=10, max_length=10, pattern=r"^\d{4}-\d\d-\d\d$", examples=["2027-02-14"]), _checked(read_day)]
Week = Annotated[str, Field(max_length=300, pattern=_LINES), _checked(read_week)]
AwayDays = Annotated[str, Field(max_length=1500, pattern=_LINES), _checked(read_away)]
Busy = Annotated[str, Field(max_length=40, pattern=r"^[0-9T:/-]+$"), _checked(read_busy)]
