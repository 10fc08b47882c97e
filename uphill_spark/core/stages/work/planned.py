"""When each task is done and by whom: tasks and parts laid into people's hours, with the doubt of all their lengths, and what a slip of each does.

Days are counted from the one on which the work begins. As of a day, what is open begins no earlier; the plan itself looks from the last day that is written down.
"""

from __future__ import annotations

import datetime as dt
import threading
import zlib
from collections.abc import Sequence
from functools import lru_cache

import numpy as np
from cachetools import LRUCache, cached

from ...figures import Result
from ...given.calendar import read_day
from ...given.work import Work
from ...physics.schedule import DAY, Chances, Scheduled, latest, schedule
from .net import AHEAD, MINUTE, Net
from .parts import PartRow
from .tasks import TaskRow, ring

#: Chances that are drawn for the bands of the plan.
DRAWN = 128
#: A task is critical that may slip less than an evening [min] without moving the end.
CRITICAL = 180.0


class Evening(Result):
    """A stretch of work on one day: task, who, day, from and to [minutes of the day]."""

    key: str
    who: list[str]
    day: str
    from_min: int
    to_min: int


class Planned(Result):
    """A task in the plan: first and last day, the band of its last day in eight of ten chances, how many days it may slip before the end moves, by how many days the end moves where it takes as long as it may; whether the end hangs on it; the task or the part that it waits for."""

    key: str
    who: list[str]
    begins: str
    ends: str
    closes: str
    ends_p10: str
    ends_p90: str
    slack_days: float
    slip_days: float
    critical: bool
    waits_for: str


class ToOrder(Result):
    """A part that has still to come: for which task, on which day it is wanted, by when it must be ordered so that the end does not move, the day on which it comes if it is ordered as planned, and the days by which the end moves if it comes a week later."""

    key: str
    task: str
    wanted: str
    order_by: str
    comes: str
    late_days: float
    slip_days: float


class Schedule(Result):
    """The plan of the work. Without people with hours, a day to begin, or with tasks in a ring, `trouble` says what is missing and the rest is empty. Days from the first one."""

    trouble: str
    ring: list[str]
    as_of: str
    begin: str
    finish: str
    finish_p10: str
    finish_p50: str
    finish_p90: str
    finish_days: float | None
    p50_days: float | None
    p90_days: float | None
    off_road_from: str
    off_road_to: str
    off_road_days: float | None
    together: str
    tasks: list[Planned]
    parts: list[ToOrder]
    evenings: list[Evening]


def _none(trouble: str, as_of: str = "", loop: Sequence[str] = ()) -> Schedule:
    return Schedule(
        trouble=trouble, ring=list(loop), as_of=as_of, begin="", finish="", finish_p10="", finish_p50="", finish_p90="", finish_days=None, p50_days=None, p90_days=None, off_road_from="", off_road_to="",
        off_road_days=None, together="", tasks=[], parts=[], evenings=[],
    )  # fmt: skip


def written_until(work: Work) -> dt.date | None:
    """The last day that is written down of the work: what is planned begins no earlier. None without a day to begin."""
    if work.begin is None:
        return None
    notes = [*work.tasks.values(), *work.own.values()]
    days = [work.begin, *(n.done for n in notes if n.done), *(p.ordered for p in (*work.parts.values(), *work.lines.values()) if p.ordered)]
    return read_day(max(days))


def net_of(work: Work, rows: Sequence[TaskRow], parts: Sequence[PartRow], as_of: dt.date | None = None) -> Net | Schedule:
    """What there is to plan, or the plan that says why there is none."""
    open_ = [r for r in rows if r.stands == "open"]
    if work.begin is None:
        return _none("No day is set on which the work begins.")
    begin, until = read_day(work.begin), written_until(work)
    day = max(as_of or begin, begin) if as_of is not None else (until or begin)
    if not any(p.free.strip() for p in work.people.values()):
        return _none("Nobody's free hours are entered.", day.isoformat())
    loop = ring({r.key: r.needs for r in open_})
    if loop:
        return _none("Tasks wait for one another in a ring.", day.isoformat(), loop)
    place = {turn.partition("@")[0]: i for i, turn in enumerate(work.order)}
    usual = {r.key: i for i, r in enumerate(open_)}
    #: Where no order was taken, what can be made while the car still drives goes first.
    ordered = tuple(sorted(open_, key=lambda r: (place.get(r.key, len(place)), r.access != "drivable", usual[r.key])))
    keys = {r.key for r in open_}
    coming = tuple(p for p in parts if not p.here and not p.gone and p.state != "returned" and p.task in keys)
    before = tuple(read_day(r.not_before) if r.not_before else day for r in ordered)
    return Net(work, ordered, coming, day, begin, before)


def plan(work: Work, rows: Sequence[TaskRow], parts: Sequence[PartRow], as_of: dt.date | None = None, draws: int = DRAWN) -> Schedule:
    """The plan as of a day (that until which things are written down, where none is given)."""
    net = net_of(work, rows, parts, as_of)
    if isinstance(net, Schedule):
        return net
    if not net.rows:
        return _none("Nothing is left to do.", net.as_of.isoformat())
    told, found, wanted_by, finish, ordered = _laid(net, draws)
    return told.model_copy(update={"parts": _to_order(net, found, wanted_by, finish, ordered)}) if not told.trouble else told


#: Schedules by all that they rest on: an edit that moves no task, no part's coming and nobody's hours lays nothing anew.
_LAID: LRUCache[object, tuple[Schedule, Scheduled, np.ndarray, np.ndarray, float]] = LRUCache(64)


@cached(_LAID, key=lambda net, draws: (net.signature, draws), lock=threading.Lock())
def _laid(net: Net, draws: int) -> tuple[Schedule, Scheduled, np.ndarray, np.ndarray, float]:
    """The plan but for its parts, the schedule under it, how late each task's parts may come, when each chance ends, and when what is to be ordered is [min]."""
    keys = [*net.keys, *(f"parts of {key}" for key in net.keys)]
    uniform = np.stack([_strata(key, draws) for key in keys], axis=1)
    chances = net.chances(uniform, slips=True)
    found = schedule(net.jobs, chances, net.hours, net.together, hold=held(net))
    finish = found.finish()
    late = latest(net.jobs, chances, found, net.hours, net.together, float(finish[0]))
    ordered = float(found.closes[0, chances.orders]) if chances.orders is not None else net.now
    return _told(net, found, late, finish, draws), found, _wanted_by(net), finish, ordered


def _wanted_by(net: Net) -> np.ndarray:
    """How late the parts of each task may come, so that the end is where it would be if all were here today [min; N]."""
    usual = net.chances()
    here = Chances(usual.work, usual.wait, np.maximum(np.where(net.supply.waits, 0.0, usual.ready), net.earliest), opens=usual.opens)
    found = schedule(net.jobs, here, net.hours, net.together, hold=held(net, here))
    return latest(net.jobs, here, found, net.hours, net.together, float(found.finish()[0]))


def held(net: Net, usual: Chances | None = None) -> float:
    """The moment [min] until which the car stays on the road: as late as what makes it stand may begin without moving the first drive; or as it was decided."""
    if net.work.on_road_until is not None:
        return (read_day(net.work.on_road_until) - net.begin).days * DAY
    usual = usual or net.chances()
    first = schedule(net.jobs, usual, net.hours, net.together)
    back = _back_on_the_road(net)
    standing = net.jobs.standing & back
    if not standing.any():
        return 0.0
    by = float(first.closes[0, back].max())
    if not np.isfinite(by):
        return 0.0
    late = latest(net.jobs, usual, first, net.hours, net.together, by, back)[standing]
    late = late[np.isfinite(late)]
    return max(float(late.min()), 0.0) if len(late) else 0.0


def _back_on_the_road(net: Net) -> np.ndarray:
    """Tasks that must be done before the car drives again: the first start and all that comes before it; all of them where there is none."""
    if "first_start" not in net.keys:
        return np.ones(len(net.rows), dtype=bool)
    before = np.zeros(len(net.rows), dtype=bool)
    todo = [net.keys.index("first_start")]
    while todo:
        i = todo.pop()
        if not before[i]:
            before[i] = True
            todo += np.flatnonzero(net.jobs.needs[i]).tolist()
    return before | net.jobs.standing


@lru_cache(maxsize=1024)
def _strata(key: str, draws: int) -> np.ndarray:
    """Chances between 0 and 1 spread evenly, in an order of their own for each task: a task that comes or goes leaves those of the others as they are (Latin hypercube)."""
    order = np.random.default_rng(zlib.crc32(key.encode())).permutation(draws)
    found: np.ndarray = (order + 0.5) / draws
    return found


def _told(net: Net, found: Scheduled, late: np.ndarray, finish: np.ndarray, draws: int) -> Schedule:
    """The plan in days and words."""
    lost = [r.what for i, r in enumerate(net.rows) if not np.isfinite(found.closes[0, i])]
    if lost:
        why = (
            "have no evening in common"
            if len(net.hours) > 1 and any(r.helper for r in net.rows)
            else "have too few free hours"
            if len(net.hours) > 1
            else "has too few free hours"
        )
        return _none(
            f"{'They' if len(net.hours) > 1 else 'Whoever does it'} {why}: {lost[0].lower()} does not fit within {AHEAD} days.",
            net.as_of.isoformat(),
        )
    drawn = np.sort(found.closes[-draws:], axis=0)
    band = np.sort(finish[-draws:])
    p10, p50, p90 = (float(band[min(int(q * draws), draws - 1)]) for q in (0.1, 0.5, 0.9))
    slip = np.where(np.isfinite(finish), finish, net.begin.toordinal()) - finish[0]
    order = sorted(range(len(net.rows)), key=lambda i: (float(found.begins[0, i]), int(found.turn[0, i])))
    rows = [_planned(net, found, drawn, late, slip, i) for i in order]
    back = _back_on_the_road(net)
    standing = back & net.jobs.standing
    off, to = (float(found.begins[0, standing].min()), float(found.closes[0, back].max())) if standing.any() else (None, None)
    return Schedule(
        trouble="", ring=[], as_of=net.as_of.isoformat(), begin=net.begin.isoformat(), finish=_day(net, finish[0]), finish_p10=_day(net, p10), finish_p50=_day(net, p50), finish_p90=_day(net, p90),
        finish_days=_days(finish[0]), p50_days=_days(p50), p90_days=_days(p90), off_road_from=_day(net, off) if off is not None else "", off_road_to=_day(net, to) if to is not None else "",
        off_road_days=_days(to) - int(off // DAY) if off is not None and to is not None else 0.0, together=_needs_two(net, found), tasks=rows, parts=[],
        evenings=_evenings(net, found),
    )  # fmt: skip


def _days(minutes: float) -> float:
    """Days from the first one until the day of a moment is over."""
    return float(np.ceil(max(minutes, 1.0) / DAY))


def _day(net: Net, minutes: float) -> str:
    """The day of a moment; one that is midnight still counts to the day before."""
    return (net.begin + dt.timedelta(days=int(np.ceil(max(minutes, 1.0) / DAY)) - 1)).isoformat() if np.isfinite(minutes) else ""


def _began(net: Net, minutes: float) -> str:
    return (net.begin + dt.timedelta(days=int(minutes // DAY))).isoformat()


def _who(net: Net, r: int) -> list[str]:
    return net.names if r == len(net.names) else [net.names[r]]


def _planned(net: Net, found: Scheduled, drawn: np.ndarray, late: np.ndarray, slip: np.ndarray, i: int) -> Planned:
    low, high = (float(drawn[int(q * len(drawn)), i]) for q in (0.1, 0.9))
    slack = float(late[i] - found.begins[0, i]) if np.isfinite(late[i]) else 0.0
    return Planned(
        key=net.keys[i], who=_who(net, int(found.who[0, i])), begins=_began(net, float(found.begins[0, i])), ends=_day(net, float(found.ends[0, i])), closes=_day(net, float(found.closes[0, i])), ends_p10=_day(net, float(low)),
        ends_p90=_day(net, float(high)), slack_days=round(max(slack, 0.0) / DAY, 2), slip_days=round(max(float(slip[1 + i]), 0.0) / DAY, 2), critical=slack < CRITICAL, waits_for=_waits(net, found, i),
    )  # fmt: skip


def _waits(net: Net, found: Scheduled, i: int) -> str:
    """The need that was done last before a task."""
    before = np.flatnonzero(net.jobs.needs[i])
    return net.keys[int(before[np.argmax(found.closes[0, before])])] if len(before) else ""


def _to_order(net: Net, found: Scheduled, wanted_by: np.ndarray, finish: np.ndarray, ordered: float) -> list[ToOrder]:
    """Parts that have still to come, the one to be ordered first in front."""
    at = {key: i for i, key in enumerate(net.keys)}
    rows = []
    for p in net.parts:
        i = at[p.task]
        lead = p.lead_s[1] / MINUTE
        comes = net.due(p) if p.state == "ordered" else ordered + lead
        must = float(wanted_by[i]) if np.isfinite(wanted_by[i]) else float(found.begins[0, i])
        slip = max(float(finish[1 + len(net.rows) + i] - finish[0]), 0.0)
        rows.append(
            ToOrder(
                key=p.key, task=p.task, wanted=_began(net, float(found.begins[0, i])), order_by="" if p.state == "ordered" else _began(net, must - lead), comes=_began(net, comes), late_days=round(max(comes - must, 0.0) / DAY, 1),
                slip_days=round(slip / DAY, 2),
            )
        )  # fmt: skip
    return sorted(rows, key=lambda r: (r.order_by or "9", r.key))


def _evenings(net: Net, found: Scheduled) -> list[Evening]:
    """Every stretch of work, day by day."""
    calendars = [*net.hours, *([net.together] if net.together is not None else [])]
    rows = []
    for i, key in enumerate(net.keys):
        begins, ends, r = float(found.begins[0, i]), float(found.ends[0, i]), int(found.who[0, i])
        hours = calendars[r]
        k = int(np.searchsorted(hours.ends, begins, side="right"))
        while k < len(hours) and hours.begins[k] < ends - 1e-6:
            a, b = max(float(hours.begins[k]), begins), min(float(hours.ends[k]), ends)
            day = a // DAY
            rows.append(Evening(key=key, who=_who(net, r), day=_began(net, a), from_min=round(a - day * DAY), to_min=round(b - day * DAY)))
            k += 1
    return sorted(rows, key=lambda e: (e.day, e.from_min, e.key))


def _needs_two(net: Net, found: Scheduled) -> str:
    """The first day on which two are wanted and only one is there."""
    if net.together is not None:
        return ""
    alone = [float(found.begins[0, i]) for i, r in enumerate(net.rows) if r.helper]
    return _began(net, min(alone)) if alone else ""
