"""The list of tasks: usual ones that this build asks for, a person's own, what he did to each, and what waits for what."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from functools import lru_cache
from graphlib import CycleError, TopologicalSorter
from typing import Literal

from ...figures import Result
from ...given.work import Access, OwnTask, TaskNote, Work
from ...reference import TaskData, tasks
from .made import MAKERS, Asks, Made, wants_engine_out

HOUR, DAY = 3600.0, 86400.0  # s
#: Hours of a person's own task on which nothing was said: quick, usual, slow.
OWN_HOURS = (1.0, 2.0, 4.0)
Stands = Literal["open", "done", "left_out", "offered"]
Span = tuple[float, float, float]


class TaskRow(Result):
    """A task. Hours of work and days at a shop: least, usual, most [s]. `needs` are tasks of this list that come before it; `guessed` whether its hours are usual ones; `proven` whether what closes it (`proof`) is there;
    `entered_at` is the place in the build that holds what a person did to it."""

    key: str
    what: str
    why: str
    where: str
    access: Access
    needs: list[str]
    helper: bool
    kind: Literal["plain", "fuel", "hot"]
    parts: bool
    work_s: Span
    shop_s: Span
    guessed: bool
    stands: Stands
    proof: str
    proven: bool
    done_on: str
    by: str
    who: str
    not_before: str
    words: str
    cautions: list[str]
    station: str
    bench: str
    own: bool
    entered_at: str


#: The task of a person's own that nobody said more of.
_NO_NOTE = TaskNote()
_CAUTION_FUEL = "Fuel open: outdoors, no flame, extinguisher at hand."
_CAUTION_HOT = "Sparks or flame: battery off, no fuel open, extinguisher at hand."


def rows(work: Work, asks: Asks) -> list[TaskRow]:
    """Every task, in the order of work: those that are open, done and left out, and those that are offered."""
    made = {key: found for key in tasks() if (found := MAKERS[key](asks)) is not None}
    stock = {key: tasks()[key] for key in made}
    stands = {key: _stands(key, made[key], stock[key], work.tasks.get(key, _NO_NOTE), asks) for key in stock}
    there = frozenset({key for key, word in stands.items() if word in ("open", "done")} | work.own.keys())
    listed = [
        _stock(key, made[key], stands[key], note, there)
        if (note := work.tasks.get(key)) is not None
        else _untouched(key, made[key], stands[key], there)
        for key in stock
    ]
    return listed + [_own(key, note, there) for key, note in work.own.items()]


def _stands(key: str, made: Made, data: TaskData, note: TaskNote, asks: Asks) -> Stands:
    if note.state == "left_out":
        return "left_out"
    if note.state == "done" or made.proven:
        return "done"
    if data.offered and note.state != "taken_in" and not (key == "engine_out" and wants_engine_out(asks)):
        return "offered"
    return "open"


@lru_cache(maxsize=512)
def _needs(key: str, there: frozenset[str]) -> tuple[str, ...]:
    """Tasks before one, those that are not there passed through to what they wait for."""
    found: dict[str, None] = {}
    seen: set[str] = set()

    def take(one: str) -> None:
        for need in (*tasks()[one].needs, *(a for a in tasks()[one].after if a in there)):
            if need in there:
                found[need] = None
            elif need not in seen:
                seen.add(need)
                take(need)

    take(key)
    return tuple(found)


def _hours(note: TaskNote, usual: Span) -> tuple[Span, bool]:
    """Hours of work [s], those that a person gave in their order; and whether all are usual ones."""
    if note.left is not None:
        share = note.left.si / max(usual[1], 1e-9)
        return (usual[0] * share, note.left.si, usual[2] * share), False
    given = (note.quick, note.usual, note.slow)
    if given == (None, None, None):
        return usual, True
    middle = note.usual.si if note.usual is not None else usual[1]
    scale = middle / usual[1]
    low = note.quick.si if note.quick is not None else min(usual[0] * scale, middle)
    high = note.slow.si if note.slow is not None else max(usual[2] * scale, middle)
    return (min(low, middle), middle, max(high, middle)), False


@lru_cache(maxsize=64)
def _usual(key: str) -> tuple[Span, Span]:
    """Hours of work and days at a shop [s] that a task usually takes."""
    data = tasks()[key]
    return _in_seconds(data.hours, HOUR), _in_seconds(data.shop, DAY)


def _in_seconds(span: Iterable[float], unit: float) -> Span:
    a, b, c = (x * unit for x in span)
    return a, b, c


@lru_cache(maxsize=512)
def _untouched(key: str, made: Made, stands: Stands, there: frozenset[str]) -> TaskRow:
    """A usual task to which nobody did anything: the same after most edits."""
    return _stock(key, made, stands, _NO_NOTE, there)


def _stock(key: str, made: Made, stands: Stands, note: TaskNote, there: frozenset[str]) -> TaskRow:
    data, (hours, days) = tasks()[key], _usual(key)
    work, guessed = _hours(note, hours)
    shop = days if note.shop is None else (note.shop.si, note.shop.si, note.shop.si)
    needs = [*_needs(key, there), *(a for a in note.after if a in there)]
    return TaskRow(
        key=key, what=data.what, why=made.why, where=data.where, access=data.access, needs=list(dict.fromkeys(needs)), helper=data.helper, kind=data.work, parts=data.parts, work_s=work, shop_s=shop,
        guessed=guessed, stands=stands, proof=data.proof, proven=made.proven, done_on=note.done or "", by=note.by, who=note.who or "", not_before=note.not_before or "", words=note.words, cautions=data.cautions,
        station=data.station, bench=data.bench, own=False, entered_at=f"/work/tasks/{key}",
    )  # fmt: skip


def _own(key: str, note: OwnTask, there: frozenset[str]) -> TaskRow:
    work, guessed = _hours(note, _in_seconds(OWN_HOURS, HOUR))
    shop = note.shop.si if note.shop is not None else 0.0
    stands: Stands = "done" if note.state == "done" else "left_out" if note.state == "left_out" else "open"
    cautions = {"plain": [], "fuel": [_CAUTION_FUEL], "hot": [_CAUTION_HOT]}[note.work]
    return TaskRow(
        key=key, what=note.what, why="", where="", access=note.access, needs=[a for a in dict.fromkeys(note.after) if a in there], helper=note.helper, kind=note.work, parts=True, work_s=work,
        shop_s=(shop, shop, shop), guessed=guessed, stands=stands, proof="", proven=False, done_on=note.done or "", by=note.by, who=note.who or "", not_before=note.not_before or "", words=note.words, cautions=cautions,
        station="work", bench="tasks", own=True, entered_at=f"/work/own/{key}",
    )  # fmt: skip


def ring(needs: Mapping[str, Iterable[str]]) -> list[str]:
    """Tasks that wait for one another in a ring, each behind the one it waits for; empty where there is none."""
    try:
        TopologicalSorter(needs).prepare()
    except CycleError as error:
        return list(error.args[1][:-1])
    return []
