"""PLAN: parts that come too late, tasks in a ring, people and dates that do not hold, money, what is off the car and not back."""

from __future__ import annotations

from collections.abc import Iterator

from ..given.calendar import read_day
from ..stages.work.parts import HERE, counted
from ..stages.work.planned import written_until
from ..worked import Worked
from .base import Finding, Say, check

#: Evenings that stay free before a date that matters.
FREE_BEFORE = 1
_NAMED = 3  # told by name
#: Places in the build that tasks and parts are made from, besides the work itself.
_MADE_OF = ("/work", "/engine", "/fuel", "/injectors", "/air", "/sensors", "/ignition", "/wiring", "/tune", "/start")
_POST = "days that parts take to come, in pencil until the supplier says"


def _listed(names: list[str]) -> str:
    more = len(names) - _NAMED
    return ", ".join(names[:_NAMED]) + (f" and {more} more" if more > 0 else "")


@check("PLAN-01", "/work/parts", "Parts in time", source=_POST, rests=_MADE_OF)
def in_time(w: Worked, say: Say) -> Iterator[Finding]:
    plan = w.work.plan
    if not plan.parts:
        return
    rows = {p.key: p for p in w.work.parts}
    tasks = {t.key: t.what for t in w.work.tasks}
    late = sorted((p for p in plan.parts if p.late_days > 0), key=lambda p: -p.late_days)
    if not late:
        first = next((p for p in plan.parts if p.order_by), None)
        by = f" First to be ordered: {rows[first.key].what}, by {first.order_by}." if first else ""
        yield say("sound", f"Nothing that has still to come holds up the end.{by}")
        return
    worst = late[0]
    row = rows[worst.key]
    days = f"{worst.late_days:.0f} {'day' if round(worst.late_days) == 1 else 'days'}"
    which = f"{row.what[:1].upper()}{row.what[1:]} comes on {worst.comes}, {days} too late for: {tasks[worst.task].lower()}."
    others = f" Late too: {_listed([rows[p.key].what for p in late[1:]])}." if len(late) > 1 else ""
    deed = (
        "Ask for a firm day, pay for the quicker post, or take another supplier."
        if row.state == "ordered"
        else "Order it today, before all others."
    )
    yield say("watch", f"{which}{others}", deed, at=row.entered_at)


@check("PLAN-02", "/work/tasks", "Order of the tasks", source="critical path method: what waits for itself never begins", rests=_MADE_OF)
def order(w: Worked, say: Say) -> Iterator[Finding]:
    loop = w.work.plan.ring
    what = {t.key: t.what for t in w.work.tasks}
    if loop:
        named = " waits for ".join(f"'{what[k].lower()}'" for k in (*loop, loop[0]))
        yield say("sort_out", f"In a ring: {named}.", "Take one of them out of what the other waits for.", at=next((t.entered_at for t in w.work.tasks if t.key == loop[0]), None))  # fmt: skip
    elif w.work.plan.tasks:
        yield say("sound", f"{len(w.work.plan.tasks)} tasks, each behind what it needs.")


@check(
    "PLAN-03",
    "/work/people",
    "Who does it",
    source="two for the key and the starter: one turns, one stands at the battery",
    rests=_MADE_OF,
)
def people(w: Worked, say: Say) -> Iterator[Finding]:
    work, found = w.build.work, w.work
    strangers = [t for t in found.tasks if t.who and t.who not in work.people and t.stands == "open"]
    if strangers:
        t = strangers[0]
        others = f", and {len(strangers) - 1} more" if len(strangers) > 1 else ""
        yield say("sort_out", f"{t.what} is for somebody who is not there{others}.", "Name one of the people, or nobody: then it is whoever is free first.", at=f"{t.entered_at}/who")  # fmt: skip
    if work.begin is None:
        return
    if found.plan.trouble and not found.plan.ring and found.open:
        yield say("unknown", f"{found.plan.trouble} Nothing is laid into evenings yet.", settle="the free hours of a usual week of everybody who works on it")  # fmt: skip
    elif found.plan.together:
        what = next(t.what for t in found.tasks if t.helper and t.stands == "open")
        yield say("watch", f"Two are wanted from {found.plan.together} on, first for: {what.lower()}. One is entered.", "Ask somebody for that evening now, or enter the second person.")  # fmt: skip
    elif not strangers and found.plan.tasks:
        yield say("sound", "Everybody named is there, and where two are wanted two are free.")


@check("PLAN-04", "/work/money", "Money", figure="work.cost", source="sum of prices, doubts added as independent (root of the sum of squares)", rests=_MADE_OF)  # fmt: skip
def money(w: Worked, say: Say) -> Iterator[Finding]:
    m = w.work.money
    if m.budget is None:
        return
    open_ = f" {m.unpriced} lines have no price yet." if m.unpriced else ""
    if m.cost > m.budget:
        yield say("sort_out", f"What is priced comes to {_sum(m.cost, m.currency)}; the budget is {_sum(m.budget, m.currency)}.{open_}", "Sell what came off, leave out what can come later, or raise the budget.", limit=m.budget)  # fmt: skip
    elif m.cost + m.reserve > m.budget:
        yield say("watch", f"{_sum(m.cost, m.currency)} and a reserve of {_sum(m.reserve, m.currency)} for what is not known better pass the budget of {_sum(m.budget, m.currency)}.{open_}", "Get firm prices for the dearest lines.", limit=m.budget)  # fmt: skip
    elif m.unpriced:
        yield say("note", f"{_sum(m.budget - m.cost - m.reserve, m.currency)} of the budget are left, with its reserve.{open_}")
    else:
        yield say("sound", f"{_sum(m.budget - m.cost - m.reserve, m.currency)} of the budget are left, with its reserve.", limit=m.budget)


def _sum(value: float, currency: str) -> str:
    return f"{value:,.0f} {currency}".strip()


@check("PLAN-05", "/work/matters", "Date that matters", figure="work.finish.p90", source="durations at three points, drawn; one evening kept free", rests=_MADE_OF)  # fmt: skip
def matters(w: Worked, say: Say) -> Iterator[Finding]:
    work, plan = w.build.work, w.work.plan
    if work.matters is None or work.begin is None or plan.p50_days is None or plan.p90_days is None:
        return
    left = float((read_day(work.matters) - read_day(work.begin)).days)
    what = work.matters_for or "the date that matters"
    told = f"{what} on {work.matters}"
    if plan.p50_days > left:
        yield say("sort_out", f"As likely as not it is done on {plan.finish_p50} only, after {told}.", "Move the date, take in a second person, or leave for later what the car does not need to drive.", limit=left)  # fmt: skip
    elif plan.p90_days > left - FREE_BEFORE:
        yield say("watch", f"In one of ten chances it is not done by {plan.finish_p90}; an evening should stay free before {told}.", "Begin sooner, or take what is critical off the list.", limit=left - FREE_BEFORE)  # fmt: skip
    else:
        guessed = any(t.guessed for t in w.work.tasks if t.stands == "open")
        yield say(
            "sound_if" if guessed else "sound",
            f"Done by {plan.finish_p90} in nine of ten chances, before {told}.",
            limit=left - FREE_BEFORE,
        )


@check("PLAN-06", "/work/parts", "Bought is what is planned", source="a change carried through: what is bought stays as it is, the plan does not", rests=_MADE_OF)  # fmt: skip
def bought(w: Worked, say: Say) -> Iterator[Finding]:
    rows = w.work.parts
    other, short = [p for p in rows if p.other], [p for p in rows if p.short]
    gone = [p for p in rows if p.gone and p.state in ("ordered", "arrived", "have")]
    for p in other:
        yield say("sort_out", f"{_did(p.state).capitalize()} as {p.bought_as}; the plan now wants {p.what}.", "Change the order, or see at its station whether what was bought will do.", at=p.entered_at)  # fmt: skip
    if short:
        worst = max(short, key=lambda p: p.short / p.quantity)
        others = f" Too few as well: {_listed([p.what for p in short if p is not worst])}." if len(short) > 1 else ""
        yield say("watch", f"{worst.what[:1].upper()}{worst.what[1:]}: {counted(worst.short, worst.unit)} are missing of {worst.quantity:g}.{others}", "Order the rest.", at=worst.entered_at)  # fmt: skip
    if gone:
        yield say("watch", f"Bought, and in the plan no longer: {_listed([p.what for p in gone])}.", "Send it back, sell it, or keep it as a spare and say so.", at=gone[0].entered_at)  # fmt: skip
    if not (other or short or gone) and any(p.state in HERE and p.said for p in rows):
        yield say("sound", "What was bought is what the plan has.")


def _did(state: str) -> str:
    return {"ordered": "ordered", "arrived": "bought", "have": "at hand", "fitted": "fitted"}.get(state, state)


@check("PLAN-07", "/work/money/rates", "Currencies", source="a sum is of one currency", rests=_MADE_OF)
def currencies(w: Worked, say: Say) -> Iterator[Finding]:
    m = w.work.money
    if m.strange:
        home = m.currency or "one currency"
        yield say("watch", f"Prices in {_listed(m.strange)} are in no sum: nobody said what that is worth in {home}.", "Choose the currency of the build, and write what one of the other is worth.")  # fmt: skip
    elif m.priced:
        yield say("sound", f"All {m.priced} prices are in one sum{f', in {m.currency}' if m.currency else ''}.")


@check("PLAN-08", "/work/parts", "Days that have passed", source="a promise that has passed is asked about", rests=_MADE_OF)
def passed(w: Worked, say: Say) -> Iterator[Finding]:
    work, today = w.build.work, written_until(w.build.work)
    if today is None:
        return
    if work.matters is not None and work.begin is not None and work.matters < work.begin:
        yield say("sort_out", f"The date that matters, {work.matters}, lies before the work begins on {work.begin}.", "Correct one of the two.", at="/work/matters")  # fmt: skip
    over = [p for p in w.work.parts if p.state == "ordered" and p.due and read_day(p.due) < today]
    if over:
        worst = min(over, key=lambda p: p.due)
        days = (today - read_day(worst.due)).days
        others = f" So are: {_listed([p.what for p in over if p is not worst])}." if len(over) > 1 else ""
        yield say("watch", f"{worst.what[:1].upper()}{worst.what[1:]} was promised for {worst.due} and is {days} {'day' if days == 1 else 'days'} over it.{others}", "Ask the supplier today; write the new day down, or that it is here.", at=f"{worst.entered_at}/due")  # fmt: skip
    elif any(p.state == "ordered" and p.due for p in w.work.parts):
        yield say("sound", f"No promise has passed by {today.isoformat()}.")


@check("PLAN-09", "/work/tasks/engine_out", "While the engine is out", source="one lift for all that needs it", rests=_MADE_OF)  # fmt: skip
def while_out(w: Worked, say: Say) -> Iterator[Finding]:
    task = w.work.task("engine_out")
    if task is None or task.stands != "open":
        return
    shared = [
        t.what.lower()
        for t in w.work.tasks
        if t.stands == "open" and (t.access == "engine_out" or "engine_out" in t.needs) and t.key != "engine_out"
    ]
    yield say("note", f"The engine comes out once{f', also for: {_listed(shared)}' if shared else ''}. While it is out: rear seal, clutch, mounts, core plugs.", "Add as a task what you want to do while it is out.")  # fmt: skip


@check("PLAN-10", "/work/off", "Taken off, and back", source="what lies in no bag is looked for in spring", rests=_MADE_OF)
def taken_off(w: Worked, say: Say) -> Iterator[Finding]:
    off = w.build.work.off
    if not off:
        return
    start = w.work.task("first_start")
    runs = start is not None and start.stands == "done"
    missing = {c: x for c, x in off.items() if x.state == "missing"}
    for code, x in missing.items():
        yield say("sort_out", f"{x.what} is missing{f', to go back to {x.goes}' if x.goes else ''}.", "Look in the boxes of the same evening and the same place; else order it new.", at=f"/work/off/{code}/state")  # fmt: skip
    away = {c: x for c, x in off.items() if x.state == "off"}
    if runs and away:
        yield say("sort_out", f"It has run, and {len(away)} {'thing is' if len(away) == 1 else 'things are'} still off: {_listed([x.what for x in away.values()])}.", "Put each back, or write down by what it is replaced.", at=f"/work/off/{next(iter(away))}/state")  # fmt: skip
    bare = {c: x for c, x in away.items() if not x.photos or not x.goes}
    if bare:
        yield say("watch", f"Off, and without a photograph or the place it goes back to: {_listed([x.what for x in bare.values()])}.", "Write it down while you still know.", at=f"/work/off/{next(iter(bare))}")  # fmt: skip
    if not missing and not bare and not (runs and away):
        back = sum(x.state in ("back", "replaced") for x in off.values())
        yield say("sound", f"{len(off)} things are labelled; {len(away)} off, {back} back or replaced, none missing.")


@check("PLAN-11", "/work/tasks", "Done, and proven", source="a tick is a word, a reading is a proof", rests=_MADE_OF)
def proven(w: Worked, say: Say) -> Iterator[Finding]:
    ticked = [t for t in w.work.tasks if t.stands == "done" and t.proof and not t.own and w.build.work.tasks.get(t.key) is not None and w.build.work.tasks[t.key].state == "done"]  # fmt: skip
    open_ = [t for t in ticked if not t.proven]
    for t in open_:
        yield say(
            "watch",
            f"{t.what} is ticked as done; its proof is not there: {t.proof}.",
            "Enter what was read, or take the tick off.",
            at=t.entered_at,
        )
    if ticked and not open_:
        yield say("sound", f"{len(ticked)} {'task that was' if len(ticked) == 1 else 'tasks that were'} ticked {'has its' if len(ticked) == 1 else 'have their'} proof.")  # fmt: skip
