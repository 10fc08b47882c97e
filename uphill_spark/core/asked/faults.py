"""What could be wrong with a car, and what each of it looks like on this very car, worked out from its models: the table that questions, practice and the first start's causes are answered from."""

from __future__ import annotations

from collections.abc import Callable

from ..figures import Result
from ..reference import CarFaultData, LookData, car_faults, looks
from ..standin.case import Case
from ..standin.script import MAKES, Seen, tried
from ..units import printed
from ..worked import Worked
from .trial import Trial

#: Parts of a build that nothing of this rests on.
_BESIDE = {"name", "notes", "marks", "start"}
Shown = float | str | None

if set(MAKES) != set(car_faults()):
    raise ValueError(f"faults that are told and those that are made differ: {set(MAKES) ^ set(car_faults())}")
for _data in car_faults().values():
    if not {_data.settles, *_data.claims} <= set(looks()):
        raise ValueError(f"looks that no one knows: {_data}")


class LookRow(Result):
    """A look: its key, words, how, at which step, minutes, unit of a figure (and as a person writes it) or the answers in words, a caution, whether the engine has to run for it, and what a sound car of this build shows."""

    key: str
    words: str
    how: str
    step: int
    minutes: float
    unit: str
    printed: str
    answers: dict[str, str]
    caution: str
    runs: bool
    sound: Shown


class FaultRow(Result):
    """A fault that this car can have: its key, group, level, words, mend with minutes and money, the look that settles it, and what differs from a sound car, by look (None: it cannot be looked at)."""

    key: str
    group: str
    level: int
    words: str
    mend: str
    minutes: float
    money: float
    settles: str
    differs: dict[str, Shown]


class CannotBe(Result):
    """A fault that this car cannot have, and why."""

    words: str
    why: str


class FaultTable(Result):
    """All looks, all faults that are possible here with what they show, and those that are not."""

    looks: list[LookRow]
    faults: list[FaultRow]
    cannot: list[CannotBe]

    def shows(self, fault: FaultRow, look: LookRow) -> Shown:
        """What a look shows with a fault."""
        return fault.differs.get(look.key, look.sound)


def look_deeper(trial: Trial, told: Callable[[float], None] = lambda _: None) -> FaultTable:
    """Every fault tried on a build; `told` hears how far it is [share]. Raises what `told` raises."""
    found = tried(Case(trial.worked, trial.document), told)
    known = looks()
    rows = [_look(key, known[key], found.sound) for key in known if key in found.sound]
    faults = [_fault(key, data, found.seen[key], found.sound) for key, data in car_faults().items() if key in found.seen]
    cannot = [CannotBe(words=car_faults()[key].words, why=why) for key, why in found.impossible.items()]
    return FaultTable(looks=rows, faults=faults, cannot=cannot)


def rests_on(w: Worked) -> str:
    """All that the table rests on, in words: the build, but for its names and records."""
    return w.build.model_dump_json(exclude=_BESIDE)


def apart(look: LookRow, a: Shown, b: Shown) -> bool:
    """Whether two outcomes of a look can be told apart: words that differ, figures by more than twice what they may be off."""
    return _apart(look.key, a, b)


def _apart(key: str, a: Shown, b: Shown) -> bool:
    if isinstance(a, str) or isinstance(b, str) or a is None or b is None:
        return a != b
    return abs(a - b) > 2 * doubt(key, b)


def doubt(key: str, value: float) -> float:
    """How far a figure of a look may be off [its unit]."""
    told = looks()[key]
    return told.doubt + told.share * abs(value)


def said(row: LookRow, shown: Shown) -> str:
    """What a look shows, in words: an answer, or a figure [the look's unit]."""
    if shown is None:
        return "not to be had, it does not run"
    if isinstance(shown, str):
        return row.answers.get(shown, shown)
    digits = 2 if row.unit in ("V", "1") and abs(shown) < 20 else 1 if abs(shown) < 100 and row.unit not in ("rpm", "%") else 0
    return f"{shown:.{digits}f}{_behind(row.unit)}".replace("-", "−")


def _behind(unit: str) -> str:
    """What a person writes behind a figure of a look."""
    return {"1": "", "deg": "°"}.get(unit, f" {printed(unit)}")


def _look(key: str, data: LookData, sound: Seen) -> LookRow:
    return LookRow(
        key=key, words=data.words, how=data.how, step=data.step, minutes=data.minutes, unit=data.unit, printed=_behind(data.unit).strip(), answers=data.answers, caution=data.caution, runs=data.runs, sound=_round(sound[key])
    )  # fmt: skip


def _fault(key: str, data: CarFaultData, seen: Seen, sound: Seen) -> FaultRow:
    known = looks()
    differs = {name: _round(value) for name, value in seen.items() if name in known and _apart(name, value, sound[name])}
    return FaultRow(
        key=key, group=data.group, level=data.level, words=data.words, mend=data.mend, minutes=data.minutes, money=data.money, settles=data.settles, differs=differs
    )  # fmt: skip


def _round(value: float | str | None) -> Shown:
    return float(f"{value:.5g}") if isinstance(value, float) else value
