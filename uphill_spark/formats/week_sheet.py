"""The week on one page for the garage wall: evenings with who does what, what to order by supplier, what comes, what is forgotten."""

from __future__ import annotations

from collections.abc import Mapping

from ..core.given import Build
from ..core.plan import Plan
from ..core.stages.work import WorkResult
from ..core.stages.work.week import WorkSeen
from .station_sheet import Block, Sheet

LINES_MOST = 24  # of an order that are printed; the list of parts has the others


def clock(minutes: int) -> str:
    """Minutes of a day as a clock shows them.

    >>> clock(1170)
    '19:30'
    """
    return f"{minutes // 60}:{minutes % 60:02}"


def sheet(plan: Plan, build: Build, seen: WorkSeen, photos: Mapping[str, bytes]) -> Sheet:
    """The sheet of the seven days from the day on which the work is seen."""
    work: WorkResult = plan.stages.work
    what = {t.key: t for t in work.tasks}
    names = {key: p.name for key, p in build.work.people.items()}
    blocks = []
    cautions: dict[str, str] = {}  # each told at the first task that it is for
    for day in seen.week:
        rows = []
        for e in day.evenings:
            for caution in what[e.key].cautions:
                cautions.setdefault(caution, f"{day.weekday} {clock(e.from_min)}, {what[e.key].what}. {caution}")
            rows.append(
                (f"{clock(e.from_min)}–{clock(e.to_min)}", " and ".join(names.get(w, w) for w in e.who), what[e.key].what, what[e.key].why)
            )
        if rows:
            blocks.append(Block(f"{day.weekday}, {day.day}", rows, ("", "who", "what", ""), tick=True))
    if not blocks:
        told = seen.plan.trouble or (
            f"Nothing is planned for these days. Next: {seen.next_day}." if seen.next_day else "Nothing is left to do."
        )
        blocks.append(Block("This week", [(told,)]))
    now = set(seen.order_now)
    for order in seen.orders:
        lines = [x for x in order.lines if x.key in now]
        if lines:
            rows = [(x.order_by, x.what, x.counted, x.spec) for x in lines[:LINES_MOST]]
            more = f" {len(lines) - LINES_MOST} more are in the list of parts." if len(lines) > LINES_MOST else ""
            blocks.append(
                Block(
                    f"To order: {order.supplier or 'no supplier named'}",
                    rows,
                    ("by", "what", "how many", ""),
                    note=f"By the plan as it stands.{more}",
                    tick=True,
                )
            )
    coming = [
        (c.day, c.what, c.supplier, "is over its day: ask" if c.over else "" if c.promised else "expected")
        for c in seen.coming[:LINES_MOST]
    ]
    if coming:
        blocks.append(Block("Comes", coming, ("on", "what", "from", ""), tick=True))
    if seen.remember:
        blocks.append(Block("Not to be forgotten", [(r,) for r in seen.remember]))
    p = seen.plan
    lead = f"{work.open} tasks left, {plan.figures['work.hours'].shown}" + (
        f"; done by {p.finish} if all goes as usual, by {p.finish_p90} in nine of ten chances" if p.finish else ""
    )
    return Sheet(
        station="work",
        title=f"The week from {seen.week[0].day}",
        lead=lead,
        cautions=list(cautions.values()),
        figures=(),
        blocks=blocks,
        photos=photos,
        most=4,
    )
