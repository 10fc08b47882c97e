"""Jobs that wait for one another, for parts and for people: schedules of many chances side by side, and how late each job may begin.

The serial scheme of resource-constrained project scheduling with a parallel choice (Kolisch, European Journal of Operational Research 90, 1996): whoever is free
first takes, of what may begin, the job that stands first in the order; nobody waits while something may begin. A job that does not fit an evening goes on the next.
Minutes are of the clock on the wall, from the day on which the work begins.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]
Whole = npt.NDArray[np.int64]
Yes = npt.NDArray[np.bool_]
DAY = 1440.0
#: Kinds of work of which two never share a day at the car: fuel open, and flame or sparks.
PLAIN, FUEL, HOT = 0, 1, 2
NEVER = np.inf


@dataclass(frozen=True)
class Hours:
    """Somebody's free hours: stretches from `begins` to `ends` [min], in order and apart."""

    begins: Array
    ends: Array

    @cached_property
    def before(self) -> Array:
        """Free minutes before each stretch [min]."""
        return np.concatenate([[0.0], np.cumsum(self.ends - self.begins)])

    @cached_property
    def _first(self) -> Array:
        """Where each stretch begins, and NEVER behind the last."""
        return np.append(self.begins, NEVER)

    def next(self, at: Array) -> Array:
        """The first free moment at or after each of these [min]; NEVER behind the last stretch."""
        found: Array = np.maximum(self._first[self.ends.searchsorted(at, side="right")], at)
        return found

    def done(self, at: Array, minutes: Array) -> Array:
        """When that many free minutes [min] are worked from each of these moments, which are free; NEVER behind the last stretch."""
        k = self.ends.searchsorted(at, side="right")
        worked = self.before[k] + at - self.begins[k] + minutes
        m = self.before[1:].searchsorted(worked - 1e-6, side="left")
        found: Array = self._first[m] + worked - self.before[m]
        return found

    def latest(self, at: float, minutes: float) -> float:
        """The latest moment to begin, so that so many free minutes are worked by a moment [min]; -NEVER before the first stretch."""
        k = bisect_left(self.begins, at) - 1
        if k < 0:
            return -NEVER
        left = float(self.before[k] + min(at, self.ends[k]) - self.begins[k]) - minutes
        if left < -1e-6:
            return -NEVER
        m = max(bisect_right(self.before, left + 1e-6) - 1, 0)
        m = min(m, len(self.begins) - 1)
        return float(self.begins[m] + max(left, 0.0) - self.before[m])

    def __len__(self) -> int:
        return len(self.begins)


def both(one: Hours, other: Hours) -> Hours:
    """The hours that two have in common."""
    found = []
    i = j = 0
    while i < len(one) and j < len(other):
        begins, ends = max(one.begins[i], other.begins[j]), min(one.ends[i], other.ends[j])
        if ends > begins:
            found.append((begins, ends))
        if one.ends[i] <= other.ends[j]:
            i += 1
        else:
            j += 1
    return hours_of(found)


def hours_of(spans: Sequence[tuple[float, float]]) -> Hours:
    """Hours of stretches [min] in order."""
    pairs = np.array(spans, dtype=float).reshape(-1, 2)
    return Hours(pairs[:, 0], pairs[:, 1])


@dataclass(frozen=True)
class Jobs:
    """N jobs in order of preference. `needs` [N, N]: whether the job of the row waits for that of the column; `kind` [N] PLAIN, FUEL or HOT; `who` [N, R]: which of R
    resources may do it: people one by one, then two of them together; `standing` [N]: whether the car stands from then on."""

    needs: Yes
    kind: Whole
    who: Yes
    standing: Yes


@dataclass(frozen=True)
class Chances:
    """L chances of the same N jobs: minutes of work [L, N], minutes of waiting behind the work before anything may follow [L, N], the moment from which each may begin [L, N]."""

    work: Array
    wait: Array
    ready: Array
    #: Minutes that pass between the end of `orders` and the moment at which a job has its parts [L, N]; nothing without one that orders.
    lead: Array | None = None
    orders: int | None = None
    #: The place of each job in an order of preference of the chance's own [L, N]; nothing for that in which they stand.
    order: Array | None = None
    #: What waits is over on an open day only: minutes until the next one, by the day counted from the first, modulo seven [7]; nothing where every day is.
    opens: Array | None = None

    def __len__(self) -> int:
        return len(self.work)


@dataclass(frozen=True)
class Scheduled:
    """When each job begins, is worked, and lets others follow [min; L, N], and which resource does it [L, N]. NEVER where it does not fit into anybody's hours."""

    begins: Array
    ends: Array
    closes: Array
    who: Whole
    turn: Whole

    def finish(self) -> Array:
        """When the last job lets go [min; L]."""
        found: Array = self.closes.max(axis=1, initial=0.0)
        return found


def schedule(jobs: Jobs, chances: Chances, people: Sequence[Hours], together: Hours | None = None, *, hold: float = 0.0) -> Scheduled:
    """A schedule of each chance. `people` are the free hours of each, `together` those that two have in common, the last resource; jobs after which the car stands begin not before `hold` [min]."""
    lanes, many = chances.work.shape
    calendars = [*people, *([together] if together is not None else [])]
    left = np.tile(jobs.needs.sum(axis=1), (lanes, 1)).astype(float)
    ready = np.maximum(chances.ready, np.where(jobs.standing, hold, 0.0))
    free = np.zeros((lanes, len(people)))
    begins, ends, closes = (np.full((lanes, many), NEVER) for _ in range(3))
    who, turn = np.zeros((lanes, many), dtype=np.int64), np.zeros((lanes, many), dtype=np.int64)
    open_ = np.ones((lanes, many), dtype=bool)
    mixed = bool((jobs.kind == FUEL).any() and (jobs.kind == HOT).any())
    clean = np.zeros((lanes, 3))  # the midnight behind the last job of a kind
    rank = (
        np.arange(many) if chances.order is None else chances.order
    ) * 1e-6  # min, by which of two that may begin at once the first in the order goes first
    shut = [np.where(jobs.who[:, r], 0.0, NEVER) for r in range(len(calendars))]
    row = np.arange(lanes)
    followers = jobs.needs.T
    against = np.array([PLAIN, HOT, FUEL])[jobs.kind]
    for step in range(many):
        may = open_ & (left == 0)
        at = np.where(may, np.maximum(ready, np.where(against > 0, clean[:, against], 0.0)) if mixed else ready, NEVER)
        best_placed = np.full(lanes, NEVER)
        best_at, best_job, best_who = np.full(lanes, NEVER), np.zeros(lanes, dtype=np.int64), np.zeros(lanes, dtype=np.int64)
        for r, calendar in enumerate(calendars):
            his = free[:, r] if r < len(people) else free.max(axis=1)
            first = calendar.next(his)
            begin = np.maximum(at, first[:, None])
            begin += shut[r]
            chosen = (begin + rank).argmin(axis=1)
            when = calendar.next(begin[row, chosen])
            placed = when + (rank[row, chosen] if rank.ndim > 1 else rank[chosen])
            sooner = placed < best_placed
            best_placed = np.where(sooner, placed, best_placed)
            best_at = np.where(sooner, when, best_at)
            best_job = np.where(sooner, chosen, best_job)
            best_who = np.where(sooner, r, best_who)
        goes = np.isfinite(best_at)
        if not goes.any():
            break
        job = best_job
        done = np.full(lanes, NEVER)
        for r, calendar in enumerate(calendars):
            mine = goes & (best_who == r)
            if mine.any():
                done[mine] = calendar.done(best_at[mine], chances.work[mine, job[mine]])
        on = row[goes]
        did = job[goes]
        begins[on, did], ends[on, did], who[on, did], turn[on, did] = best_at[goes], done[goes], best_who[goes], step
        closed = done[goes] + chances.wait[on, did]
        if chances.opens is not None:
            closed = np.where(chances.wait[on, did] > 0, _open_day(closed, chances.opens), closed)
        closes[on, did] = closed
        open_[on, did] = False
        for r in range(len(people)):
            his = (best_who[goes] == r) | (best_who[goes] == len(people))
            free[on[his], r] = done[goes][his]
        if mixed:
            clean[on, jobs.kind[did]] = np.maximum(clean[on, jobs.kind[did]], np.ceil(done[goes] / DAY) * DAY)
        after = followers[did]
        waits = closed[:, None]
        if chances.lead is not None and chances.orders is not None and (did == chances.orders).any():
            comes = waits + chances.lead[on]
            if chances.opens is not None:
                comes = np.where(chances.lead[on] > 0, _open_day(comes, chances.opens), comes)
            waits = np.where((did == chances.orders)[:, None], comes, waits)
        ready[on] = np.maximum(ready[on], np.where(after, waits, 0.0))
        left[on] -= after
    return Scheduled(begins, ends, closes, who, turn)


def _open_day(at: Array, opens: Array) -> Array:
    """The moment itself [min] on an open day, the beginning of the next one on any other."""
    day = np.floor(np.where(np.isfinite(at), at, 0.0) / DAY)
    more = opens[day.astype(np.int64) % 7]
    found: Array = np.where(more > 0, day * DAY + more, at)
    return found


def latest(
    jobs: Jobs, chances: Chances, done: Scheduled, people: Sequence[Hours], together: Hours | None, by: float, of: Yes | None = None
) -> Array:
    """How late each job of the first chance may begin [min; N], so that all are closed by a moment [min], with everybody's jobs in the order in which they were done; those not in `of` count for nothing.

    Backward pass of the critical path method over what waits for what, in hours that people have.
    """
    calendars = [*people, *([together] if together is not None else [])]
    many = len(jobs.kind)
    counts = np.ones(many, dtype=bool) if of is None else of
    found = np.full(many, NEVER)
    waits = np.where(np.isfinite(done.ends[0]), done.closes[0], 0.0) - np.where(
        np.isfinite(done.ends[0]), done.ends[0], 0.0
    )  # as long as it came to, with days on which a shop is shut
    order = sorted((int(done.turn[0, i]), i) for i in range(many) if np.isfinite(done.begins[0, i]) and counts[i])
    his_next: dict[int, float] = {}
    for _, i in reversed(order):
        end = by - waits[i]
        for k in np.flatnonzero(jobs.needs[:, i]):
            if counts[k] and np.isfinite(found[k]):
                gap = waits[i] + (chances.lead[0, k] if chances.lead is not None and i == chances.orders else 0.0)
                end = min(end, found[k] - gap)
        r = int(done.who[0, i])
        hands = range(len(people)) if r == len(people) else (r,)
        end = min([end, *(his_next[h] for h in hands if h in his_next)])
        found[i] = calendars[r].latest(end, chances.work[0, i])
        for h in hands:
            his_next[h] = found[i]
    return found


def three_point(quick: Array, usual: Array, slow: Array, chance: Array) -> Array:
    """Values [any one unit] of a triangular spread from `quick` over `usual` to `slow`, at a chance of less (0 to 1)."""
    width = np.maximum(slow - quick, 1e-12)
    peak = (usual - quick) / width
    low = quick + np.sqrt(chance * width * (usual - quick))
    high = slow - np.sqrt((1 - chance) * width * (slow - usual))
    found: Array = np.where(chance < peak, low, high)
    return found
