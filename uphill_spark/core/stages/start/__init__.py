"""First start: the sheet of its steps, each with the figures to expect on this build, the readings taken, and what was signed."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING, cast

from ...figures import Figure, Result
from ...given.readings_start import READINGS, ReadingKey
from ...given.start import Taken
from ...units import from_si, si
from .expected import Expected, Verdict, judged
from .steps import DRAFTS

if TYPE_CHECKING:
    from ...worked import Worked

__all__ = ["Expected", "SheetStep", "StartResult", "Verdict", "figures", "live", "of_steps", "one", "rehearsal", "work_out"]

REASON = 12  # characters that a reason has at least
STEPS = len(DRAFTS)


class SheetStep(Result):
    """A step of the first start as the sheet has it, and what was signed. `signed` is the person's word; `done`, that it stands: a reading that is off asks for a reason."""

    number: int
    title: str
    cautions: list[str]
    do: list[str]
    expect: list[Expected]
    if_off: list[str]
    done: bool
    by: str
    when: str
    reading: str
    signed: bool
    why: str
    off: list[str]


class StartResult(Result):
    """The steps, and how many of them are signed as done."""

    steps: list[SheetStep]
    done: int


def work_out(w: Worked) -> StartResult:
    """Steps 0 to 8 with this build's figures."""
    return of_steps([one(w, n) for n in range(STEPS)])


def of_steps(steps: list[SheetStep]) -> StartResult:
    """The sheet of its steps."""
    return StartResult(steps=steps, done=sum(s.done for s in steps))


def one(w: Worked, number: int) -> SheetStep:
    """One step with this build's figures, its readings judged."""
    title, cautions, do, expect, if_off = DRAFTS[number](w)
    s = w.build.start.steps.get(str(number))
    held = [judged(e, s.readings.get(cast(ReadingKey, e.key)) if s else None) for e in expect]
    off = [f"{e.what}: {e.off}" for e in held if e.verdict in ("low", "high")]
    stands = bool(s and s.done) and (not off or len(s.why.strip() if s else "") >= REASON)
    return SheetStep(
        number=number, title=title, cautions=cautions, do=do, expect=held, if_off=if_off, done=stands, by=s.by if s else "", when=s.when if s else "", reading=s.reading if s else "",
        signed=bool(s and s.done), why=s.why if s else "", off=off,
    )  # fmt: skip


def figures(w: Worked, step: SheetStep) -> dict[str, Figure]:
    """The bands of a step as figures, each end by its name where there are two, in the fixed unit of the reading."""
    told: dict[str, Figure] = {}
    if w.units != "as_written":  # a band is rounded in the unit that it is told in
        step = one(replace(w, units="as_written"), step.number)
    for e in step.expect:
        if not e.key or e.band is None:
            continue
        ends = {".low": e.band.low, ".high": e.band.high} if e.band.low != e.band.high else {"": e.band.low}
        kind = READINGS[cast(ReadingKey, e.key)]
        for end, value in ends.items():
            if value is not None:
                fixed = value if kind.dimension is None else from_si(si(f"{value} {e.band.unit}", kind.dimension), kind.unit)
                told[f"start.expected.{step.number}.{e.key}{end}"] = _figure(round(fixed, 4), kind.unit, e.what, e.shown)
    return told


def rehearsal(w: Worked) -> dict[str, Figure]:
    """Of a rehearsal that was kept, how many of its starts caught and idled."""
    kept = w.build.start.rehearsed
    if kept is None:
        return {}
    return {
        "start.rehearsal.catch": _figure(kept.catch, "1", "Starts that caught, rehearsed", f"{kept.catch * 100:.0f} %"),
        "start.rehearsal.idle": _figure(kept.idle, "1", "Starts that idled in bounds, rehearsed", f"{kept.idle * 100:.0f} %"),
    }


def _figure(value: float, unit: str, label: str, shown: str) -> Figure:
    return Figure(
        value=value,
        unit=unit,
        shown=shown,
        also=None,
        label=label,
        station="start",
        assumed=[],
        uses=[],
        source="first start: expected on this build",
    )


def live(step: SheetStep, typed: dict[ReadingKey, str]) -> list[Expected]:
    """The readings of a step as they come over a bus, each as it would have been typed, held against its band. What does not come is left as it stands."""
    return [
        judged(e.model_copy(update={"got": "", "when": "", "verdict": "open", "off": ""}), Taken(typed=typed[key], source="bus"))
        if (key := cast(ReadingKey, e.key)) in typed
        else e
        for e in step.expect
    ]
