"""The work as it stands on a day: this week's evenings, what to order and what comes, by how much the plan has slipped."""

from __future__ import annotations

import datetime as dt
from collections import defaultdict
from collections.abc import Sequence

from ...figures import Result
from ...given.calendar import read_day
from ...given.money import read_money
from ...given.work import Work
from .parts import PartRow, counted
from .planned import Evening, Schedule, plan
from .tasks import TaskRow

WEEK = 7  # days that are looked ahead
#: Days before a tank comes out within which it is run low.
LOW_BEFORE = 10


class WorkDay(Result):
    """A day of the week with its stretches of work."""

    day: str
    weekday: str
    evenings: list[Evening]


class OrderLine(Result):
    """A line of an order: a part by its key, what, how many, by when to be ordered, whether that has passed."""

    key: str
    what: str
    quantity: float
    counted: str
    spec: str
    price: str
    order_by: str
    over: bool


class SupplierOrder(Result):
    """Lines to be ordered from one supplier (none named: an empty name), the one that presses most first, and what those with a price come to, by currency."""

    supplier: str
    order_by: str
    lines: list[OrderLine]
    sums: list[str]


class PartComing(Result):
    """A part that comes: on which day it was promised or is expected, whether that day has passed."""

    key: str
    what: str
    supplier: str
    day: str
    promised: bool
    over: bool


class WorkSeen(Result):
    """The work as of a day. `slipped` is by how many days the end lies later than by the plan as it was last written down."""

    today: str
    plan: Schedule
    slipped: float
    week: list[WorkDay]
    next_day: str
    order_now: list[str]
    orders: list[SupplierOrder]
    coming: list[PartComing]
    remember: list[str]


_WEEKDAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")


def seen(work: Work, tasks: Sequence[TaskRow], parts: Sequence[PartRow], written: Schedule, today: dt.date) -> WorkSeen:
    """The work as of a day. `written` is the plan as far as things are written down."""
    now = plan(work, tasks, parts, today)
    start = max(today, read_day(work.begin)) if work.begin is not None else today
    days = [start + dt.timedelta(k) for k in range(WEEK)]
    by_day: defaultdict[str, list[Evening]] = defaultdict(list)
    for e in now.evenings:
        by_day[e.day].append(e)
    week = [WorkDay(day=d.isoformat(), weekday=_WEEKDAYS[d.weekday()], evenings=by_day[d.isoformat()]) for d in days]
    orders = _orders(parts, now, today)
    press = (today + dt.timedelta(WEEK)).isoformat()
    order_now = [line.key for order in orders for line in order.lines if line.order_by and line.order_by <= press]
    slipped = (read_day(now.finish) - read_day(written.finish)).days if now.finish and written.finish else 0
    return WorkSeen(
        today=today.isoformat(), plan=now, slipped=float(max(slipped, 0)), week=week, next_day=next((e.day for e in now.evenings if e.day >= today.isoformat()), ""), order_now=order_now, orders=orders,
        coming=_coming(parts, now, today), remember=_remember(tasks, now, week, today),
    )  # fmt: skip


def _orders(parts: Sequence[PartRow], now: Schedule, today: dt.date) -> list[SupplierOrder]:
    by = {p.key: p.order_by for p in now.parts}
    open_ = [p for p in parts if not p.gone and (p.state == "to_order" or p.short)]
    lists: defaultdict[str, list[PartRow]] = defaultdict(list)
    for p in open_:
        lists[p.supplier].append(p)
    found = [_order(supplier, rows, by, today) for supplier, rows in lists.items()]
    return sorted(found, key=lambda o: (o.order_by or "9", o.supplier == "", o.supplier))


def _order(supplier: str, rows: Sequence[PartRow], by: dict[str, str], today: dt.date) -> SupplierOrder:
    lines = [
        OrderLine(key=p.key, what=p.what, quantity=p.short or p.quantity, counted=counted(p.short or p.quantity, p.unit), spec=p.spec, price=p.price, order_by=by.get(p.key, ""), over=bool(by.get(p.key)) and by[p.key] < today.isoformat())
        for p in rows
    ]  # fmt: skip
    lines.sort(key=lambda x: (x.order_by or "9", x.key))
    sums: defaultdict[str, float] = defaultdict(float)
    for x in lines:
        if x.price:
            price = read_money(x.price)
            sums[price.currency] += float(price.middle)
    return SupplierOrder(
        supplier=supplier,
        order_by=lines[0].order_by,
        lines=lines,
        sums=[f"{total:,.2f} {currency}".strip() for currency, total in sums.items()],
    )


def _coming(parts: Sequence[PartRow], now: Schedule, today: dt.date) -> list[PartComing]:
    by = {p.key: p.comes for p in now.parts}
    rows = [
        PartComing(key=p.key, what=p.what, supplier=p.supplier, day=p.due or by.get(p.key, ""), promised=bool(p.due), over=bool(p.due) and p.due < today.isoformat())
        for p in parts if p.state == "ordered"
    ]  # fmt: skip
    return sorted(rows, key=lambda c: (c.day or "9", c.key))


def _remember(tasks: Sequence[TaskRow], now: Schedule, week: Sequence[WorkDay], today: dt.date) -> list[str]:
    """What planners forget, where it bites in the days to come."""
    row = {t.key: t for t in tasks}
    begins = {p.key: p.begins for p in now.tasks}
    found = []
    if "tank" in begins and 0 <= (read_day(begins["tank"]) - today).days <= LOW_BEFORE:
        found.append(f"Run the tank low before {begins['tank']}: it comes out then.")
    here = [e.key for d in week for e in d.evenings]
    for key in dict.fromkeys(here):
        if row[key].helper:
            day = next(d.day for d in week if any(e.key == key for e in d.evenings))
            found.append(f"Two are wanted on {day}: {row[key].what.lower()}.")
    kinds = {row[k].kind for k in here}
    if kinds >= {"fuel", "hot"}:
        found.append("Fuel is open and sparks fly in the same week: on different days, and the fuel closed and aired before.")
    if now.off_road_from and today.isoformat() <= now.off_road_from <= (today + dt.timedelta(WEEK)).isoformat():
        found.append(f"The car stands from {now.off_road_from} on: park it where it can stay.")
    return found
