"""What rests on guesses: every value in pencil of a car, what it holds up, which verdicts it could change, and what it takes to know it."""

from __future__ import annotations

from collections import defaultdict

from ..figures import Result
from ..given.edit import standing
from ..given.fields import called, info_at
from ..next import READING
from ..stations import StationKey, bench_of
from .trial import Trial
from .turns import key, turns

#: What a quantity is measured with; anything else by a look at the part, or at its sheet.
_WITH = {
    "pressure": "a gauge", "length": "a tape or calipers", "wire size": "the print on its insulation", "resistance": "a meter, power off", "voltage": "a meter",
    "current": "a clamp meter", "temperature": "a thermometer", "volume": "a measuring jug", "mass": "scales", "speed": "the unit's screen", "angle": "a degree wheel", "time": "its sheet",
    "volume flow": "a jug and a watch, outdoors", "mass flow": "its sheet",
}  # fmt: skip
_LOOK, _SHEET = "a look at the part", "its sheet"


class Guess(Result):
    """One value in pencil. `says` is what is assumed, empty for a part of several values; `holds` how many verdicts rest on it; `turns` those that it could change within its doubt."""

    at: str
    title: str
    says: str
    station: StationKey
    bench: str
    holds: int
    turns: list[str]
    measured_with: str
    where: str
    minutes: int


class Guesses(Result):
    """All of them, those first that could change most."""

    guesses: list[Guess]


def guesses(trial: Trial) -> Guesses:
    """Every value in pencil under a verdict. Each is tried at both ends of its doubt."""
    told = turns(trial).turns
    holds: defaultdict[str, set[str]] = defaultdict(set)
    could: defaultdict[str, list[str]] = defaultdict(list)
    for f in trial.findings:
        if f.severity != "sound_if":
            continue
        for place in f.rests_on:
            holds[place].add(key(f))
        for place in told[key(f)]:
            could[place].append(f"{f.code} {f.title}")
    found = [_guess(trial, place, len(holds[place]), could[place]) for place in holds]
    return Guesses(guesses=sorted(found, key=lambda g: (-len(g.turns), -g.holds, g.at)))


def _guess(trial: Trial, place: str, held: int, could: list[str]) -> Guess:
    info, value = info_at(place), standing(trial.document, place)
    station, bench = bench_of(place)
    assumed = info.usual if value is None and info is not None else value
    says = (
        "yes"
        if assumed is True
        else "no"
        if assumed is False
        else str(assumed).replace("_", " ")
        if isinstance(assumed, (str, int, float))
        else ""
    )
    kind = info.kind if info else "text"
    tool = _WITH.get(info.dimension or "", _SHEET) if info and kind == "quantity" else _LOOK
    return Guess(
        at=place, title=called(place), says=says, station=station, bench=bench, holds=held, turns=could, measured_with=tool, where=info.help if info else "", minutes=READING,
    )  # fmt: skip
