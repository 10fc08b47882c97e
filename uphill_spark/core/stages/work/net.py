"""What a plan of the work is laid from: open tasks, parts that have still to come for them, everybody's free hours."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import NamedTuple

import numpy as np

from ...given.calendar import read_away, read_busy, read_day, read_week
from ...given.work import Person, Work
from ...physics.schedule import DAY, FUEL, HOT, NEVER, PLAIN, Chances, Hours, Jobs, both, hours_of, three_point
from .parts import PartRow
from .tasks import Span, TaskRow

MINUTE = 60.0  # s
#: Days that are planned ahead.
AHEAD = 730
#: A part is asked about as if it came so much later [min].
PART_SLIP = 7 * DAY
_KINDS = {"plain": PLAIN, "fuel": FUEL, "hot": HOT}


class Supply(NamedTuple):
    """Of each of N tasks what of its parts has still to come: days from order to hand [min; N, 3], when what is ordered comes [min; N], by how much that may be off [min; N, 3], whether anything has to come at all [N]."""

    lead: np.ndarray
    due: np.ndarray
    late: np.ndarray
    waits: np.ndarray


def _larger(a: Span, b: Span) -> Span:
    return max(a[0], b[0]), max(a[1], b[1]), max(a[2], b[2])


@dataclass(frozen=True)
class Net:
    """What is planned: open tasks in the order of preference, parts that have still to come for them, and everybody's hours, from midnight of the first day [min]."""

    work: Work
    rows: tuple[TaskRow, ...]
    parts: tuple[PartRow, ...]
    as_of: dt.date
    begin: dt.date
    before: tuple[dt.date, ...]

    @cached_property
    def signature(self) -> tuple[object, ...]:
        """All that a schedule rests on."""
        rows = tuple((r.key, r.what, r.work_s, r.shop_s, tuple(r.needs), r.who, r.helper, r.kind, r.access) for r in self.rows)
        people = tuple((key, p.name, p.free, p.away, tuple(p.busy)) for key, p in self.work.people.items())
        waits = tuple(sorted({p.task for p in self.parts if p.state == "to_order"}))
        order = tuple(sorted(self.by_order.items()))
        return (
            rows,
            people,
            waits,
            order,
            tuple(x.tobytes() for x in self.supply),
            self.as_of,
            self.begin,
            self.before,
            (self.work.on_road_until, self.work.shops),
        )

    @cached_property
    def keys(self) -> list[str]:
        """Tasks by their place."""
        return [r.key for r in self.rows]

    @cached_property
    def now(self) -> float:
        """The moment from which it is planned [min]."""
        return max((self.as_of - self.begin).days, 0) * DAY

    @cached_property
    def earliest(self) -> np.ndarray:
        """The moment before which each task does not begin [min; N], whatever it needs."""
        found: np.ndarray = np.maximum(np.array([(day - self.begin).days * DAY for day in self.before], dtype=float), self.now)
        return found

    @cached_property
    def opens(self) -> np.ndarray | None:
        """Minutes until the next day on which shops and post are at work, by the day from the first, modulo seven; None where all are."""
        shut = {"weekdays": (5, 6), "saturdays_too": (6,), "every_day": ()}[self.work.shops]
        first = self.begin.weekday()
        wait = [next(k for k in range(7) if (first + d + k) % 7 not in shut) for d in range(7)]
        return np.array(wait, dtype=float) * DAY if shut else None

    def opened(self, ready: np.ndarray) -> np.ndarray:
        """Moments from which tasks may begin, those that hang on something ordered on a day on which it can come."""
        if self.opens is None:
            return ready
        waits = (ready > self.earliest) & np.isfinite(self.supply.due)
        day = np.floor(ready / DAY)
        more = self.opens[day.astype(np.int64) % 7]
        found: np.ndarray = np.where(waits & (more > 0), day * DAY + more, ready)
        return found

    @cached_property
    def names(self) -> list[str]:
        """People by their key."""
        return list(self.work.people)

    @cached_property
    def by_order(self) -> dict[str, str]:
        """Who does a task by the order that was taken."""
        return {key: who for key, _, who in (turn.partition("@") for turn in self.work.order) if who}

    @cached_property
    def hours(self) -> list[Hours]:
        """Everybody's free hours."""
        return [free_hours(p, self.begin) for p in self.work.people.values()]

    @cached_property
    def together(self) -> Hours | None:
        """Those that two have in common."""
        return _common(tuple(self.work.people.values()), self.begin) if len(self.hours) > 1 else None

    @cached_property
    def jobs(self) -> Jobs:
        """What waits for what, and who may do it."""
        at = {key: i for i, key in enumerate(self.keys)}
        n, people = len(self.rows), len(self.hours)
        needs = np.zeros((n, n), dtype=bool)
        who = np.zeros((n, people + (self.together is not None)), dtype=bool)
        for i, r in enumerate(self.rows):
            for need in r.needs:
                if need in at:
                    needs[i, at[need]] = True
            if r.helper and self.together is not None:
                who[i, people] = True
            elif (does := r.who or self.by_order.get(r.key, "")) in self.names:
                who[i, self.names.index(does)] = True
            else:
                who[i, :people] = True
        if "order_parts" in at:  # what waits for parts waits for their order
            for i, r in enumerate(self.rows):
                if any(p.task == r.key and p.state == "to_order" for p in self.parts):
                    needs[i, at["order_parts"]] = True
        kinds = np.array([_KINDS[r.kind] for r in self.rows], dtype=np.int64)
        return Jobs(needs, kinds, who, np.array([r.access != "drivable" for r in self.rows], dtype=bool))

    @cached_property
    def supply(self) -> Supply:
        """What of each task's parts has still to come."""
        n = len(self.rows)
        lead, late = ([(0.0, 0.0, 0.0)] * n for _ in range(2))
        due, waits = [-NEVER] * n, [False] * n
        at = {key: i for i, key in enumerate(self.keys)}
        for p in self.parts:
            i, (low, usual, slow) = at[p.task], p.lead_s
            waits[i] = True
            if p.state != "ordered":
                lead[i] = _larger(lead[i], (low / MINUTE, usual / MINUTE, slow / MINUTE))
                continue
            comes = self.due(p)
            if comes > due[i]:
                due[i] = comes
            late[i] = _larger(late[i], (0.0, 0.0, 0.0) if p.due else ((low - usual) / MINUTE, 0.0, (slow - usual) / MINUTE))
        return Supply(np.array(lead).reshape(n, 3), np.array(due), np.array(late).reshape(n, 3), np.array(waits, dtype=bool))

    def chances(self, uniform: np.ndarray | None = None, slips: bool = False) -> Chances:
        """Lengths of every task and of its parts' coming: as usual; then, with `slips`, one chance a task in which it takes as long as it may, and one in which its parts come a week late; then
        one a row of `uniform` [D, 2 N], each between 0 and 1."""
        n = len(self.rows)
        span = np.array([r.work_s for r in self.rows]).reshape(n, 3) / MINUTE
        shop = np.array([r.shop_s for r in self.rows]).reshape(n, 3) / MINUTE
        s = self.supply
        extra = 2 * n if slips else 0
        drawn = 0 if uniform is None else len(uniform)
        lanes = 1 + extra + drawn
        work, wait = np.tile(span[:, 1], (lanes, 1)), np.tile(shop[:, 1], (lanes, 1))
        lead, due = np.tile(s.lead[:, 1], (lanes, 1)), np.tile(s.due, (lanes, 1))
        if slips:
            one = np.arange(n)
            work[1 + one, one] = span[:, 2]
            wait[1 + one, one] = shop[:, 2]
            lead[1 + n + one, one] += PART_SLIP * (s.lead[:, 1] > 0)
            due[1 + n + one, one] += PART_SLIP
        if uniform is not None:
            work[1 + extra :] = three_point(span[:, 0], span[:, 1], span[:, 2], uniform[:, :n])
            wait[1 + extra :] = three_point(shop[:, 0], shop[:, 1], shop[:, 2], uniform[:, :n])
            lead[1 + extra :] = three_point(s.lead[:, 0], s.lead[:, 1], s.lead[:, 2], uniform[:, n:])
            due[1 + extra :] += three_point(s.late[:, 0], s.late[:, 1], s.late[:, 2], uniform[:, n:])
        orders = self.keys.index("order_parts") if "order_parts" in self.keys else None
        ready = np.maximum(due, self.earliest)
        if orders is None:
            ready = np.maximum(ready, np.where(lead > 0, self.now + lead, 0.0))
        return Chances(work, wait, self.opened(ready), lead, orders, opens=self.opens)

    def due(self, p: PartRow) -> float:
        """When something that is ordered comes [min]: as promised, or as long after its order as it usually takes; not in the past."""
        if p.due:
            return max((read_day(p.due) - self.begin).days * DAY, self.now)
        since = (read_day(p.ordered) - self.begin).days * DAY if p.ordered else self.now
        return max(since + p.lead_s[1] / MINUTE, self.now)


def free_hours(person: Person, begin: dt.date) -> Hours:
    """Somebody's free hours from the first day on, less days away and what a calendar says [min]."""
    return _free(person.free, person.away, tuple(person.busy), begin)


def _common(people: tuple[Person, ...], begin: dt.date) -> Hours:
    return _both(*((p.free, p.away, tuple(p.busy)) for p in people), begin)


@lru_cache(maxsize=32)
def _both(one: tuple[str, str, tuple[str, ...]], other: tuple[str, str, tuple[str, ...]], begin: dt.date) -> Hours:
    return both(_free(*one, begin), _free(*other, begin))


@lru_cache(maxsize=64)
def _free(free: str, away: str, busy: tuple[str, ...], begin: dt.date) -> Hours:
    gone = {
        begin + dt.timedelta(d)
        for first, last in read_away(away)
        for d in range(max((first - begin).days, 0), min((last - begin).days, AHEAD) + 1)
    }
    week = read_week(free)
    spans = [(k * DAY + a, k * DAY + b) for k in range(AHEAD) for day, a, b in week if (begin.weekday() + k) % 7 == day and begin + dt.timedelta(k) not in gone]  # fmt: skip
    midnight = dt.datetime.combine(begin, dt.time())
    taken = sorted(tuple((m - midnight).total_seconds() / 60 for m in read_busy(text)) for text in busy)
    return hours_of(_less(spans, taken))


def _less(spans: list[tuple[float, float]], taken: Sequence[tuple[float, ...]]) -> list[tuple[float, float]]:
    """Stretches with others cut out, both in order."""
    found = []
    for begins, ends in spans:
        for a, b in taken:
            if b <= begins or a >= ends:
                continue
            if a > begins:
                found.append((begins, a))
            begins = max(begins, b)
        if ends > begins:
            found.append((begins, ends))
    return found
