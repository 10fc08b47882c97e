"""TUNE: the kept tune as a record, and the worked engine against what is aimed at."""

from __future__ import annotations

from collections.abc import Iterator

from ..stages.tune.worked import target_w
from ..worked import Worked
from . import owners
from .base import Finding, Say, check


@check(
    "TUNE-06",
    "/tune/kept",
    "Tune kept, and as found",
    source="a tune that is only in the unit is gone with it; what stood in it before cannot be had again",
    rests=("/tune/found", "/tune/came_empty", "/tune/typed"),
)
def kept(w: Worked, say: Say) -> Iterator[Finding]:
    t, use = w.build.tune, w.in_use
    written = any(value is not None for value in t.typed.__dict__.values())  # the unit is being typed into
    had = t.found is not None or t.came_empty
    if not had:
        yield say(
            "watch" if written else "note",
            "What stood in the unit before is not kept: once typed over it cannot be had again."
            if written
            else "Before the first table is typed in, keep what stands in the unit.",
            "Read its tables out and keep them as found; or note that it came empty.",
            at="/tune/found",
        )
    if use.source == "quick":
        yield say(
            "watch" if written else "note",
            "The tables are the quick ones, worked afresh with every change: none is kept.",
            "Keep a tune once you begin to type it in: then every change of it is on record, and can be taken back.",
        )
    elif use.in_unit == "changed":
        yield say(
            "watch", "The kept tune has changed since it was typed into the unit.", "Type it in again, or roll back to what stands there."
        )
    elif use.in_unit == "never":
        yield say(
            "note", "The kept tune is not noted as typed in yet.", "Press 'Stands in the unit' once it does.", at="/tune/kept/in_unit"
        )
    elif had:
        yield say("sound", "The tune that stands in the unit is kept, and so is what was found.")


@check(
    "TUNE-08",
    "/tune/kept/came_of",
    "Power of the worked engine",
    figure="tune.power.worked",
    source="two ways to one figure: cycle model against aim; apart by more than the doubt, a measure is wrong",
    rests=("/engine/power", "/engine/altitude", "/engine/power_basis"),
)
def agrees(w: Worked, say: Say) -> Iterator[Finding]:
    use = w.in_use
    if use.power_w is None or use.power_doubt is None:
        return
    aim = target_w(w.build, w.engine)
    apart, told = use.power_w / aim - 1, f"{owners.power(w, use.power_w)} ± {use.power_doubt * 100:.0f} %"
    if use.stale:
        yield say(
            "watch",
            "The tables were made of an engine with other measures than it has now.",
            "Have it worked again, and look at what differs.",
            at="/tune/kept",
        )
        return
    if abs(apart) <= use.power_doubt:
        yield say("sound", f"The worked engine gives {told}; {owners.power(w, aim)} are aimed at.", limit=round(aim / 1e3, 1))
    elif apart < 0:
        yield say("watch", f"The worked engine gives {told}, {-apart * 100:.0f} % less than the {owners.power(w, aim)} that are aimed at: more than the doubt explains.",
                  "Measure what was guessed of valves, cam and exhaust; else aim lower: pump and injectors are sized for the aim.", limit=round(aim / 1e3, 1))  # fmt: skip
    else:
        yield say("watch", f"The worked engine gives {told}, {apart * 100:.0f} % more than the {owners.power(w, aim)} that are aimed at: it may ask for more fuel than was sized for.",
                  "Measure what was guessed, and look at pump and injectors for the higher figure.", limit=round(aim / 1e3, 1))  # fmt: skip
