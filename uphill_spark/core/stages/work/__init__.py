"""Work: tasks with reasons, parts, money, and when it is all done. Made of the build as it is judged, so that it comes last."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ...figures import Result, Spec
from ..engine.fitness import Fitness
from . import money, parts, tasks
from .made import Asks
from .money import MoneyResult
from .parts import PartRow
from .planned import Schedule, plan
from .tasks import TaskRow

if TYPE_CHECKING:
    from ...reads import Recall


class OffRow(Result):
    """Something off the car by its code: whether it is labelled (a photograph, and where it goes back)."""

    code: str
    labelled: bool


class WorkResult(Result):
    """Tasks, parts, money, the plan as far as things are written down, and what is off the car: labelled, off, missing, back."""

    tasks: list[TaskRow]
    parts: list[PartRow]
    money: MoneyResult
    plan: Schedule
    hours_s: float
    hours_low_s: float
    hours_high_s: float
    done: int
    open: int
    to_order: int
    off: list[OffRow]

    def task(self, key: str) -> TaskRow | None:
        """A task by its key."""
        return next((t for t in self.tasks if t.key == key), None)


def work_out(recall: Recall, fitness: Fitness) -> WorkResult:
    """The work of a build that is worked out, with the verdict on its engine."""
    w = recall.worked
    work = w.build.work
    lines = parts.rows(recall, work)
    off = [OffRow(code=code, labelled=bool(x.photos) and bool(x.goes)) for code, x in work.off.items()]
    nothing = bool(lines) and all(p.state != "to_order" for p in lines)
    found = tasks.rows(work, Asks(w, fitness, nothing, bool(off) and all(x.labelled for x in off)))
    open_ = [t for t in found if t.stands == "open"]
    schedule = plan(work, found, lines)
    return WorkResult(
        tasks=found, parts=lines, money=money.work_out(work.money, lines), plan=schedule, hours_s=sum(t.work_s[1] for t in open_), hours_low_s=sum(t.work_s[0] for t in open_),
        hours_high_s=sum(t.work_s[2] for t in open_), done=sum(t.stands == "done" for t in found), open=len(open_), to_order=sum(p.state == "to_order" for p in lines), off=off,
    )  # fmt: skip


HOUR, DAY = 3600.0, 86400.0  # s
_MOVED_BY = ("/work", "/engine", "/fuel", "/injectors", "/air", "/sensors", "/ignition", "/wiring", "/tune", "/start")
_SOURCE = "usual hours of a careful amateur, in pencil, or as entered; critical path method in the hours that people have"

FIGURES = (
    Spec("work.hours", "h", "Hours of work left", _MOVED_BY, _SOURCE, lambda r: r.hours_s),
    Spec("work.finish.p50", "day", "Done after, as likely sooner as later", _MOVED_BY, _SOURCE, lambda r: None if r.plan.p50_days is None else r.plan.p50_days * DAY),
    Spec("work.finish.p90", "day", "Done after, in nine of ten chances", _MOVED_BY, _SOURCE, lambda r: None if r.plan.p90_days is None else r.plan.p90_days * DAY),
    Spec("work.days_off_road", "day", "Off the road", _MOVED_BY, _SOURCE, lambda r: None if r.plan.off_road_days is None else r.plan.off_road_days * DAY),
    Spec("work.cost", "1", "Parts, all that is priced, in the currency of the build", ("/work",), "sum of prices as they were told", lambda r: r.money.cost if r.money.priced else None),
    Spec("work.to_order", "1", "Lines left to order", _MOVED_BY, "list of parts, from the build", lambda r: float(r.to_order)),
)  # fmt: skip
