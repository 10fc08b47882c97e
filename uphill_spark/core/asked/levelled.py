"""An order of the work with fewer days in it and fewer off the road, by constraint programming; and how far from the best any order can be.

Evenings are cut into half hours that somebody has; a task takes its half hours of whoever does it one behind the other (CP-SAT of OR-tools: interval variables,
no overlap, element constraints for calendars). What is found is an order, not dates: the plan lays that order itself, and only what it then comes to is told.
"""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Callable
from typing import Any

import numpy as np

from ..figures import Result
from ..physics.schedule import DAY, FUEL, HOT, Chances, Hours, Scheduled, schedule
from ..stages.work.net import Net
from ..stages.work.planned import Schedule, held, net_of, plan
from ..worked import Worked
from .trial import Trial

UNIT = 30.0  # min
#: Work of the solver, in its own seconds, which are the same on every machine; and the seconds of the clock after which it is stopped all the same.
WORK, CLOCK = 10.0, 12.0
Tell = Callable[[float], None]


class Levelled(Result):
    """What was found: the order of the tasks and the day until which the car stays on the road, to be taken as they are; last day and days off the road now and with it; the best that any order could come to in those days added up (`bound`), whether that is proven, and why there is nothing to take where there is not."""

    order: list[str]
    on_road_until: str
    finish_now: str
    finish_then: str
    off_road_now: float
    off_road_then: float
    days_now: float
    days_then: float
    bound: float
    proven: bool
    better: bool
    why: str


def rests_on(w: Worked) -> str:
    """All that an order rests on: the tasks, parts and people as they are planned."""
    net = net_of(w.build.work, w.work.tasks, w.work.parts)
    if isinstance(net, Schedule):
        return net.trouble
    rows, people, waits, order, supply, as_of, begin, before, hold = net.signature
    return repr([rows, people, waits, order, [x.hex() for x in supply], str(as_of), str(begin), [str(d) for d in before], hold])  # type: ignore[attr-defined]


def look_deeper(trial: Trial, tell: Tell = lambda share: None) -> Levelled:
    """The best order that is found for the work as it stands, against the plan as it is."""
    w = trial.stands.of_work.worked
    net = net_of(w.build.work, w.work.tasks, w.work.parts)
    now = w.work.plan
    if isinstance(net, Schedule) or now.finish_days is None:
        return Levelled(order=[], on_road_until="", finish_now="", finish_then="", off_road_now=0, off_road_then=0, days_now=0, days_then=0, bound=0, proven=False, better=False, why=now.trouble)  # fmt: skip
    own = near(net, net.keys, now.off_road_from)  # at once, from the order as it is
    tell(QUICK)
    found, stands, bound, proven = solved(net, tell)
    tried = [(order, day, _with(w, order, day)) for order, day in (*own, *near(net, found, stands))]
    order, day, then = min(tried, key=lambda t: _days(t[2]))
    better = _days(then) < _days(now)
    why = (
        ""
        if better
        else "No order was found that has fewer days in it than the plan has." + (" None can be." if _days(now) <= bound else "")
    )
    return Levelled(
        order=order, on_road_until=day, finish_now=now.finish, finish_then=then.finish, off_road_now=now.off_road_days or 0.0, off_road_then=then.off_road_days or 0.0, days_now=_days(now), days_then=_days(then), bound=bound,
        proven=proven and _days(then) <= bound, better=better, why=why,
    )  # fmt: skip


def _days(s: Schedule) -> float:
    """What is made small: days until all is done, and days off the road."""
    return (s.finish_days or math.inf) + (s.off_road_days or 0.0)


#: Orders that are tried near the one that was found, and by how many places a task is moved in them.
TRIED, MOVED = 400, (0.0, 0.7, 1.5, 3.0)
QUICK = 0.05  # of the work, told once the orders near the present one are tried


def near(net: Net, order: list[str], day: str) -> list[tuple[list[str], str]]:
    """Orders near one, each laid as the plan lays it: the best of many with the car held on the road until a day, a week before or behind it, or as the plan finds itself; and the one itself.

    The plan lets nobody wait for a better task, which the solver does: an order of its own that is a little other may come to more days than its neighbour.
    """
    n = len(net.rows)
    at = {turn.partition("@")[0]: i for i, turn in enumerate(order)}
    place = np.array([at[key] for key in net.keys], dtype=float)
    draws = np.random.default_rng(1)
    moved = np.stack([place + draws.normal(0.0, 1.0, n) * MOVED[k % len(MOVED)] for k in range(TRIED)])
    turns = moved.argsort(axis=1).argsort(axis=1).astype(float)
    work = net.work.model_copy(update={"order": order})
    own = Net(work, net.rows, net.parts, net.as_of, net.begin, net.before)
    usual = own.chances()
    work_, wait, ready = (np.repeat(x, TRIED, axis=0) for x in (usual.work, usual.wait, usual.ready))
    lead = None if usual.lead is None else np.repeat(usual.lead, TRIED, axis=0)
    lanes = Chances(work_, wait, ready, lead, usual.orders, turns, usual.opens)
    standing = net.jobs.standing
    back = net.keys.index("first_start") if "first_start" in net.keys else None
    first = dt.date.fromisoformat(day) if day else net.begin
    whose = {turn.partition("@")[0]: turn for turn in order}
    found = [(order, ""), (order, day)]
    for hold in dict.fromkeys((first, first - dt.timedelta(7), first + dt.timedelta(7))):
        laid = schedule(own.jobs, lanes, own.hours, own.together, hold=max((hold - net.begin).days, 0) * DAY)
        off = np.zeros(TRIED)
        if back is not None and standing.any():
            off = np.ceil(laid.closes[:, back] / DAY) - laid.begins[:, standing].min(axis=1) // DAY
        best = int(np.argmin(np.ceil(laid.finish() / DAY) + off))
        found.append(([whose[net.keys[i]] for i in np.argsort(turns[best])], hold.isoformat() if hold > net.begin else ""))
    return found


def _with(w: Worked, order: list[str], day: str) -> Schedule:
    work = w.build.work.model_copy(update={"order": order, "on_road_until": day or None})
    return plan(work, w.work.tasks, w.work.parts)


class _Axis:
    """Half hours that somebody has, one behind the other, up to a moment; for each calendar which of them it has."""

    def __init__(self, calendars: list[Hours], until: float) -> None:
        taken: set[int] = set()
        has = []
        for hours in calendars:
            own: set[int] = set()
            for a, b in zip(hours.begins, hours.ends, strict=True):
                if a >= until:
                    break
                own |= {round(a / UNIT) + k for k in range(int((b - a) // UNIT + 1e-9))}
            has.append(own)
            taken |= own
        self.units = sorted(taken)
        self.at = np.array(self.units, dtype=float) * UNIT
        self.has = [np.array([u in own for u in self.units]) for own in has]

    def ends(self, calendar: int, units: int) -> list[int]:
        """For each place to begin the place behind the last of so many half hours of a calendar; -1 where it cannot begin there or does not fit."""
        mine = np.flatnonzero(self.has[calendar])
        found = np.full(len(self.units), -1)
        if units == 0:
            found[mine] = mine
        elif len(mine) >= units:
            found[mine[: len(mine) - units + 1]] = mine[units - 1 :] + 1
        return [int(x) for x in found]

    def after(self, minutes: float) -> list[int]:
        """For each place to end (0 to all) the first place that is so many minutes later."""
        stops = np.append(self.at, np.inf)
        ends = np.concatenate([[0.0], self.at + UNIT])
        return [int(x) for x in np.searchsorted(stops, ends + minutes - 1e-6)]

    def days(self) -> list[int]:
        """The day of each place; behind the last that of the last."""
        found = [int(x // DAY) for x in self.at]
        return [*found, found[-1] if found else 0]


def solved(net: Net, tell: Tell = lambda share: None) -> tuple[list[str], str, float, bool]:
    """An order of the tasks with who does each, the day on which the car begins to stand in it, the least [days] that finish and days off the road may add up to, and whether the solver came to its end."""
    usual = net.chances()
    first = schedule(net.jobs, usual, net.hours, net.together, hold=held(net))
    model = Model(net, first)
    return model.solve(tell)


class Model:
    """The work as a constraint model; `first` is a schedule that it begins from, and that bounds how far ahead it looks."""

    def __init__(self, net: Net, first: Scheduled) -> None:
        from ortools.sat.python import cp_model

        self.net, self.first, self.cp = net, first, cp_model
        self.model = cp_model.CpModel()
        usual = net.chances()
        calendars = [*net.hours, *([net.together] if net.together is not None else [])]
        self.axis = axis = _Axis(calendars, float(first.finish()[0]) + 7 * DAY)
        n, end = len(net.rows), len(axis.units)
        m = self.model
        self.start = [m.new_int_var(0, end - 1, f"s{i}") for i in range(n)]
        self.end = [m.new_int_var(0, end, f"e{i}") for i in range(n)]
        hands: list[list[Any]] = [[] for _ in net.hours]
        self.does: dict[int, list[tuple[int, Any]]] = {}
        for i in range(n):
            self._task(i, max(math.ceil(usual.work[0, i] / UNIT - 1e-6), 0), len(calendars), hands)
        for mine in hands:
            m.add_no_overlap(mine)
        for i in range(n):
            least = int(np.searchsorted(axis.at, usual.ready[0, i] - 1e-6))
            m.add(self.start[i] >= min(least, end - 1))
            for j in np.flatnonzero(net.jobs.needs[i]):
                gap = float(usual.wait[0, j]) + (float(usual.lead[0, i]) if usual.lead is not None and j == usual.orders else 0.0)
                if gap <= 0:
                    m.add(self.start[i] >= self.end[j])
                else:
                    soonest = m.new_int_var(0, end, "")
                    m.add_element(self.end[j], axis.after(gap), soonest)
                    m.add(self.start[i] >= soonest)
        self._apart()
        self._aim(usual.wait[0])

    def _task(self, i: int, units: int, calendars: int, hands: list[list[Any]]) -> None:
        """A task done by one of those who may, in half hours that they have."""
        m, end = self.model, len(self.axis.units)
        at = min(int(np.searchsorted(self.axis.at + UNIT, self.first.begins[0, i], side="right")), end - 1)
        chosen = []
        for r in range(calendars):
            if not self.net.jobs.who[i, r]:
                continue
            ends = self.axis.ends(r, units)
            places = [k for k, e in enumerate(ends) if e >= 0]
            if not places:
                continue
            does = m.new_bool_var("")
            begins = m.new_int_var_from_domain(self.cp.Domain.from_values(places), "")
            stops = m.new_int_var(0, end, "")
            m.add_element(begins, [max(e, 0) for e in ends], stops)
            span = m.new_optional_interval_var(begins, m.new_int_var(0, end, ""), stops, does, "")
            m.add(self.start[i] == begins).only_enforce_if(does)
            m.add(self.end[i] == stops).only_enforce_if(does)
            for hand in range(len(hands)) if r == len(hands) else (r,):
                hands[hand].append(span)
            chosen.append(does)
            self.does.setdefault(i, []).append((r, does))
            mine = int(self.first.who[0, i]) == r
            m.add_hint(does, mine)
            if mine:
                m.add_hint(begins, at)
                m.add_hint(stops, max(ends[at], 0))
                m.add_hint(self.end[i], max(ends[at], 0))
        m.add_exactly_one(chosen)
        m.add_hint(self.start[i], at)

    def _apart(self) -> None:
        """Fuel open and flame never share a day."""
        m, kinds = self.model, self.net.jobs.kind
        days = self.axis.days()
        fuel, hot = np.flatnonzero(kinds == FUEL), np.flatnonzero(kinds == HOT)
        if not len(fuel) or not len(hot):
            return
        day: dict[tuple[Any, bool], Any] = {}
        for i in (*fuel, *hot):
            for last in (False, True):
                day[i, last] = m.new_int_var(0, max(days), "")
                m.add_element(self.end[i] - 1 if last else self.start[i], days, day[i, last])
        for i in fuel:
            for j in hot:
                before = m.new_bool_var("")
                m.add(day[i, True] + 1 <= day[j, False]).only_enforce_if(before)
                m.add(day[j, True] + 1 <= day[i, False]).only_enforce_if(~before)

    def _aim(self, wait: np.ndarray) -> None:
        """Days until all is done and days off the road, together as few as may be."""
        m, net, axis = self.model, self.net, self.axis
        days = axis.days()
        most = max(days) + AHEAD_WAIT
        finish = m.new_int_var(0, most, "finish")
        for i in range(len(net.rows)):
            day = m.new_int_var(0, max(days), "")
            m.add_element(self.end[i] - 1, days, day)
            m.add(finish >= day + math.ceil(float(wait[i]) / DAY))
        m.add(finish >= 0)
        off: Any = 0
        standing = np.flatnonzero(net.jobs.standing)
        if len(standing) and "first_start" in net.keys:
            begins = m.new_int_var(0, max(days), "")
            first = m.new_int_var(0, len(axis.units), "")
            m.add_min_equality(first, [self.start[i] for i in standing])
            m.add_element(first, days, begins)
            back = m.new_int_var(0, max(days), "")
            m.add_element(self.end[net.keys.index("first_start")] - 1, days, back)
            off = back - begins + 1
        m.minimize(finish + 1 + off)

    def solve(self, tell: Tell) -> tuple[list[str], str, float, bool]:
        """The order found, the day on which the car begins to stand, the bound [days], and whether it is proven that none is better."""
        solver = self.cp.CpSolver()
        solver.parameters.num_workers = 1
        solver.parameters.random_seed = 1
        solver.parameters.max_deterministic_time = WORK
        solver.parameters.max_time_in_seconds = CLOCK
        # It is handed a schedule to begin from: long thinking before the first step brings less than steps do.
        solver.parameters.cp_model_probing_level = solver.parameters.symmetry_level = solver.parameters.linearization_level = 0
        solver.parameters.max_presolve_iterations = 1
        state = solver.solve(self.model, _Told(self.cp, tell).callback)
        if state not in (self.cp.OPTIMAL, self.cp.FEASIBLE):
            turn = np.argsort(self.first.begins[0], kind="stable")
            return [self.net.keys[i] for i in turn], "", 0.0, False  # the bound is none
        names = self.net.names
        at = sorted((solver.value(self.start[i]), float(self.first.begins[0, i]), key, i) for i, key in enumerate(self.net.keys))
        does = {i: names[r] for i, options in self.does.items() for r, chosen in options if r < len(names) and solver.value(chosen)}
        stands = [self.axis.at[s] for s, _, _, i in at if self.net.jobs.standing[i]]
        day = (self.net.begin + dt.timedelta(days=int(stands[0] // DAY))).isoformat() if stands else ""
        turns = [f"{key}@{does[i]}" if i in does else key for _, _, key, i in at]
        return turns, day, float(math.ceil(solver.best_objective_bound - 1e-6)), state == self.cp.OPTIMAL


AHEAD_WAIT = 400  # days that a shop may take


class _Told:
    """Tells how far the solver is: by the gap between what it has and what may be."""

    def __init__(self, cp: Any, tell: Tell) -> None:
        class Callback(cp.CpSolverSolutionCallback):  # type: ignore[misc]
            def on_solution_callback(self) -> None:
                tell(min(max(self.best_objective_bound / max(self.objective_value, 1.0), 0.0), 0.99))

        self.callback = Callback()
