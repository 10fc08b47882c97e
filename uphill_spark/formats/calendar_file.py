"""Calendars (iCalendar, RFC 5545): somebody's busy times read out of one, evenings of work written into one."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any
from zoneinfo import ZoneInfo, available_timezones

from ..core.errors import BuildError, Problem
from ..core.given.calendar import Free, read_week
from ..core.given.work import BUSY_MOST
from ..core.stages.work.net import AHEAD

LARGEST = 4_000_000  # bytes
EVENTS_MOST = 20_000
#: Times that all events together may come back in the days that are looked at.
TIMES_MOST = 40_000
#: Between two appointments, less than this is no time to lie under a car.
GAP = dt.timedelta(minutes=60)
#: A rule that comes back more often than this on one day is no appointment.
A_DAY_MOST = 8
_WANTS = f"an iCalendar file (.ics) of at most {LARGEST // 1_000_000} MB and {EVENTS_MOST:,} events"
_OFTEN = ("SECONDLY", "MINUTELY", "HOURLY")
Span = tuple[dt.datetime, dt.datetime]


@dataclass(frozen=True, slots=True)
class Read:
    """Busy times out of a calendar, by the clock on the wall, where they take free hours away; how many events were read, and how many could not be."""

    busy: list[str]
    events: int
    unread: int


def _refused(message: str, given: str, wants: str = _WANTS) -> BuildError:
    return BuildError(message, (Problem("/calendar", given, wants),))


def zone_of(name: str) -> ZoneInfo:
    """A time zone by its name in the zone database. Raises BuildError."""
    if name not in available_timezones():
        raise BuildError(
            "There is no such time zone.", (Problem("/zone", name[:60] or "nothing", "a name of the zone database, like Europe/Berlin"),)
        )
    return ZoneInfo(name)


def read(data: bytes, free: str, begin: dt.date, zone: str) -> Read:
    """Busy times from a day on, in a zone, that lie in somebody's free hours. Cancelled events and those that leave the time free count for nothing. Raises BuildError."""
    import icalendar  # heavy, and needed only when a calendar is read

    if len(data) > LARGEST:
        raise _refused("The calendar is too large.", f"{len(data) / 1e6:.0f} MB")
    place = zone_of(zone)
    try:
        found = icalendar.Calendar.from_ical(data, multiple=True)
    except (ValueError, IndexError, KeyError, TypeError, AttributeError) as error:
        raise _refused("This is not a calendar that can be read.", _told(error)) from error
    if not found:
        raise _refused("This is not a calendar.", "a file without one")
    events = [e for calendar in found for e in calendar.walk("VEVENT")]
    if len(events) > EVENTS_MOST:
        raise _refused("The calendar holds too many events.", f"{len(events):,}")
    times = sum(_times(e) for e in events)
    if times > TIMES_MOST:
        raise _refused(
            "The events of the calendar come back too often.", f"{times:,} times in {AHEAD} days", f"at most {TIMES_MOST:,} times"
        )
    spans, unread = _spans(found, events, begin, place)
    taken = _in_free_hours(spans, read_week(free), begin)
    if len(taken) > BUSY_MOST:
        raise _refused(
            "The calendar takes free hours away too often.",
            f"{len(taken)} times in {AHEAD} days",
            f"at most {BUSY_MOST} times: enter fewer free hours, or a shorter calendar",
        )
    return Read([f"{a.isoformat(timespec='minutes')}/{b.isoformat(timespec='minutes')}" for a, b in taken], len(events), unread)


def _told(error: Exception) -> str:
    return re.sub(r"[^\x20-\x7e\u00a0-\u024f]+", " ", str(error)).strip()[:80] or type(error).__name__


def _spans(calendars: Sequence[Any], events: Sequence[Any], begin: dt.date, place: ZoneInfo) -> tuple[list[Span], int]:
    """Every stretch that is busy between the first day and the last that is looked at, and how many events cannot be read."""
    import recurring_ical_events

    spans: list[Span] = []
    unread = 0
    first, last = begin - dt.timedelta(1), begin + dt.timedelta(AHEAD)
    plain = [e for e in events if not e.keys() & {"RRULE", "RDATE", "RECURRENCE-ID"}]
    for event in plain:
        try:
            if _counts(event) and (span := _span(event, place)) is not None and span[1].date() >= first and span[0].date() <= last:
                spans.append(span)
        except (ValueError, KeyError, TypeError, AttributeError, OverflowError):
            unread += 1
    for calendar in calendars:
        kept = []
        for part in calendar.subcomponents:
            if part.name != "VEVENT":
                kept.append(part)
            elif part.keys() & {"RRULE", "RDATE", "RECURRENCE-ID"}:
                if _too_often(part):
                    unread += 1
                else:
                    kept.append(part)
        if not any(p.name == "VEVENT" for p in kept):
            continue
        calendar.subcomponents = kept
        try:
            for event in recurring_ical_events.of(calendar, skip_bad_series=True).between(first, last):
                if _counts(event) and (span := _span(event, place)) is not None:
                    spans.append(span)
        except (ValueError, KeyError, TypeError, AttributeError, OverflowError):
            unread += sum(p.name == "VEVENT" for p in kept)
    return sorted(spans), unread


#: How often a rule of a kind comes back in the days that are looked at.
_BACK = {"DAILY": AHEAD, "WEEKLY": AHEAD // 7 + 1, "MONTHLY": AHEAD // 28 + 1, "YEARLY": AHEAD // 365 + 1}


def _rules(event: Any) -> list[Any]:
    rules = event.get("RRULE") or []
    return rules if isinstance(rules, list) else [rules]


def _times(event: Any) -> int:
    """How often an event comes back at most."""
    found = 0
    for rule in _rules(event):
        each = 1
        for part in ("BYDAY", "BYMONTHDAY", "BYHOUR", "BYMINUTE", "BYSECOND", "BYYEARDAY", "BYMONTH", "BYWEEKNO"):
            each *= max(len(rule.get(part, ())), 1)
        interval = max(int((rule.get("INTERVAL") or [1])[0]), 1)
        back = sum(_BACK.get(str(f).upper(), 0) for f in rule.get("FREQ", ())) * each // interval + 1
        found += min(back, int((rule.get("COUNT") or [back])[0]))
    return found


def _too_often(event: Any) -> bool:
    for rule in _rules(event):
        if any(str(f).upper() in _OFTEN for f in rule.get("FREQ", ())):
            return True
        a_day = 1
        for part in ("BYHOUR", "BYMINUTE", "BYSECOND"):
            a_day *= max(len(rule.get(part, ())), 1)
        if a_day > A_DAY_MOST:
            return True
    return False


def _counts(event: Any) -> bool:
    return str(event.get("TRANSP", "")).upper() != "TRANSPARENT" and str(event.get("STATUS", "")).upper() != "CANCELLED"


def _span(event: Any, place: ZoneInfo) -> Span | None:
    """From when to when an event lasts by the clock on the wall. A moment with a zone is carried over, also where clocks were put forward or back; one without stands as it is."""
    begins = event.decoded("DTSTART")
    ends = event.decoded("DTEND") if "DTEND" in event else None
    if ends is None:
        lasts = event.decoded("DURATION") if "DURATION" in event else dt.timedelta(0 if isinstance(begins, dt.datetime) else 1)
        ends = begins + lasts
    a, b = _wall(begins, place), _wall(ends, place)
    return (a, b) if b > a else None


def _wall(moment: dt.date, place: ZoneInfo) -> dt.datetime:
    if not isinstance(moment, dt.datetime):
        return dt.datetime.combine(moment, dt.time())
    return moment.astimezone(place).replace(tzinfo=None) if moment.tzinfo is not None else moment


def _in_free_hours(spans: Iterable[Span], week: Sequence[Free], begin: dt.date) -> list[Span]:
    """What of busy stretches lies in the free hours of the days to come, joined."""
    joined: list[Span] = []
    for a, b in spans:
        if joined and a <= joined[-1][1]:
            joined[-1] = (joined[-1][0], max(joined[-1][1], b))
        else:
            joined.append((a, b))
    found: list[Span] = []
    midnight = dt.datetime.combine(begin, dt.time())
    end = midnight + dt.timedelta(AHEAD)
    for a, b in joined:
        a, b = max(a, midnight), min(b, end)
        day = dt.datetime.combine(a.date(), dt.time())
        while day < b:
            for weekday, first, last in week:
                if weekday == day.weekday():
                    x, y = max(a, day + dt.timedelta(minutes=first)), min(b, day + dt.timedelta(minutes=last))
                    if y > x and found and x.date() == found[-1][1].date() and x - found[-1][1] < GAP:
                        found[-1] = (found[-1][0], y)
                    elif y > x:
                        found.append((x, y))
            day += dt.timedelta(1)
    return found


@dataclass(frozen=True, slots=True)
class Entry:
    """An entry to write: what makes it the same one the next time, day and minutes of the day (None for all of it), what it says."""

    uid: str
    day: str
    from_min: int | None
    to_min: int | None
    summary: str
    words: str = ""


def write(name: str, entries: Iterable[Entry], stamp: dt.datetime) -> bytes:
    """Entries as a calendar. Times are those of the wall where the car stands, without a zone ("floating")."""
    import icalendar

    calendar = icalendar.Calendar()
    calendar.add("prodid", "-//Uphill Spark//work//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", name)
    for e in entries:
        event = icalendar.Event()
        day = dt.date.fromisoformat(e.day)
        event.add("uid", f"{e.uid}@uphill-spark.invalid")
        event.add("dtstamp", stamp)
        if e.from_min is None or e.to_min is None:
            event.add("dtstart", day)
            event.add("dtend", day + dt.timedelta(1))
            event.add("transp", "TRANSPARENT")
        else:
            midnight = dt.datetime.combine(day, dt.time())
            event.add("dtstart", midnight + dt.timedelta(minutes=e.from_min))
            event.add("dtend", midnight + dt.timedelta(minutes=e.to_min))
        event.add("summary", e.summary)
        if e.words:
            event.add("description", e.words)
        calendar.add_component(event)
    written: bytes = calendar.to_ical()
    return written
