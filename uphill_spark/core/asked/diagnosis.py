"""It does not run as it should: from what was seen and read to the likely causes, and to the look that parts them best for the time it takes.

Causes are weighed by how often their kind is met times how well they explain each look (Pearl, Probabilistic Reasoning, ch. 2); the next look is the one that is expected to tell most, in bits for a minute
(Lindley, Ann. Math. Statist. 27, 1956).
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from typing import cast

from ..errors import UnitError
from ..figures import Result
from ..given.readings_start import READINGS, ReadingKey, read
from ..stages.start import work_out
from ..units import bare_number, from_si, si, signed
from ..worked import Worked
from .faults import FaultRow, FaultTable, LookRow, Shown, doubt, said

#: How often faults of a level are met, against one another.
OFTEN = {1: 3.0, 2: 2.0, 3: 1.0, 4: 0.6}
MISTAKEN = 0.02  # of looks are misread, misheard, or blur two things
TOLD = 6
SURE = 0.85  # of all that is likely, from which on a cause is mended rather than looked at
LITTLE = 0.04  # bits, under which a look is not worth its time
SETTING_OUT = 1.5  # minutes that any look takes besides


class Evidence(Result):
    """A look that was taken: its key, and what it showed: a figure in the look's unit, a word of its answers, or nothing where it could not be looked at."""

    look: str
    shown: Shown


class LikelyCause(Result):
    """A likely cause: its chance against the others, what speaks for it and against it (looks by key), its mend, and the look that settles it."""

    key: str
    words: str
    chance: float
    agrees: list[str]
    contradicts: list[str]
    mend: str
    minutes: float
    money: float
    settles: str


class NextLook(Result):
    """The look to take next: how much it is expected to tell [bit], and what the likeliest causes would show, in words."""

    look: str
    bits: float
    shows: list[tuple[str, str]]


class Diagnosis(Result):
    """Causes, likeliest first; the next look, none where one is sure; how much is open still [bit]; whether nothing in the list explains all that was seen."""

    causes: list[LikelyCause]
    next: NextLook | None
    open_bits: float
    unexplained: bool
    sure: bool


#: Dimensions of the units that looks have; the rest are plain numbers.
_DIMENSIONS = {"V": "voltage", "kPa": "pressure", "rpm": "speed", "deg": "angle", "s": "time", "ms": "time", "degC": "temperature"}


def taken(table: FaultTable, look: str, shown: str | None) -> Evidence:
    """A look as a person tells it: a word of its answers, a figure as it was typed (a bare one takes the look's unit), or nothing where it could not be looked at. Raises UnitError, in words."""
    row = next((x for x in table.looks if x.key == look), None)
    if row is None:
        raise UnitError("one of the looks that this car has")
    if shown is None:
        return Evidence(look=look, shown=None)
    if row.answers:
        if shown not in row.answers:
            raise UnitError(" or ".join(row.answers.values()))
        return Evidence(look=look, shown=shown)
    dimension, shown = _DIMENSIONS.get(row.unit), shown.replace("−", "-")
    if dimension is None:
        return Evidence(look=look, shown=signed(shown, row.unit))
    text = f"{shown.strip()} {row.unit}" if bare_number(shown, signed=True) else shown
    return Evidence(look=look, shown=from_si(si(text, dimension), row.unit))


def diagnose(table: FaultTable, evidence: Sequence[Evidence]) -> Diagnosis:
    """The causes that explain what was seen, and what to look at next."""
    looks = {row.key: row for row in table.looks}
    seen = [e for e in evidence if e.look in looks]
    logs = {f.key: math.log(OFTEN[f.level]) + sum(_log(table, f, looks[e.look], e.shown) for e in seen) for f in table.faults}
    best = max(logs.values())
    weights = {key: math.exp(log - best) for key, log in logs.items()}
    whole = sum(weights.values())
    chance = {key: w / whole for key, w in weights.items()}
    ranked = sorted(table.faults, key=lambda f: -chance[f.key])
    causes = [_cause(table, f, chance[f.key], looks, seen) for f in ranked[:TOLD] if chance[f.key] > 0.005]
    sure = bool(seen) and chance[ranked[0].key] >= SURE
    open_bits = -sum(p * math.log2(p) for p in chance.values() if p > 0)
    following = None if sure else next_look(table, chance, {e.look for e in seen})
    unexplained = bool(seen) and bool(causes[0].contradicts) and len(causes[0].contradicts) >= len(causes[0].agrees)
    return Diagnosis(causes=causes, next=following, open_bits=round(open_bits, 3), unexplained=unexplained, sure=sure)


def _log(table: FaultTable, fault: FaultRow, look: LookRow, shown: Shown) -> float:
    """Logarithm of how likely a look shows this with a fault, against the likeliest that it could show."""
    would = table.shows(fault, look)
    if isinstance(shown, str) or isinstance(would, str) or shown is None or would is None:
        return math.log((1 - MISTAKEN) if shown == would else MISTAKEN / 3)
    off = (shown - would) / doubt(look.key, would)
    return math.log((1 - MISTAKEN) * math.exp(-min(off * off / 2, 60.0)) + MISTAKEN / 3)


def _cause(table: FaultTable, fault: FaultRow, chance: float, looks: Mapping[str, LookRow], seen: Sequence[Evidence]) -> LikelyCause:
    fits = {e.look: _log(table, fault, looks[e.look], e.shown) > math.log(0.3) for e in seen}
    return LikelyCause(
        key=fault.key, words=fault.words, chance=round(chance, 4), agrees=[k for k, ok in fits.items() if ok], contradicts=[k for k, ok in fits.items() if not ok], mend=fault.mend, minutes=fault.minutes, money=fault.money,
        settles=fault.settles,
    )  # fmt: skip


def next_look(table: FaultTable, chance: Mapping[str, float], done: set[str]) -> NextLook | None:
    """The look that tells most for its time, with the chance [share] of each fault; None where none tells anything."""
    near = [(f, chance[f.key]) for f in table.faults if chance[f.key] > 1e-3]
    best: tuple[float, float, LookRow] | None = None
    for look in table.looks:
        if look.key in done or (look.runs and "starts" not in done):
            continue  # whether it runs at all is asked first
        bits = tells(table, look, near)
        worth = bits / (look.minutes + SETTING_OUT)
        if bits > LITTLE and (best is None or worth > best[0] + 1e-12):
            best = (worth, bits, look)
    if best is None:
        return None
    look = best[2]
    shows = [(f.words, said(look, table.shows(f, look))) for f, _ in sorted(near, key=lambda pair: -pair[1])[:3]]
    return NextLook(look=look.key, bits=round(best[1], 3), shows=shows)


def tells(table: FaultTable, look: LookRow, near: Sequence[tuple[FaultRow, float]]) -> float:
    """What a look is expected to tell [bit]: what its outcome leaves open, gathered into outcomes that can be told apart."""
    heaps: defaultdict[object, float] = defaultdict(float)
    for fault, weight in near:
        value = table.shows(fault, look)
        heap: object = value
        if isinstance(value, float):
            heap = round(value / (3 * doubt(look.key, value)))
        heaps[heap] += weight
    whole = sum(heaps.values())
    told = -sum(w / whole * math.log2(w / whole) for w in heaps.values() if w > 0)
    return told * (1 - MISTAKEN)


def from_steps(w: Worked, table: FaultTable) -> list[Evidence]:
    """What the readings of the first start say: one in its band is as on a sound car, one that is off says what it is."""
    looks, found = {row.key: row for row in table.looks}, []
    for step in work_out(w).steps:
        for e in step.expect:
            row = looks.get(e.key)
            if row is None or e.verdict == "open" or row.answers or not isinstance(row.sound, float):
                continue
            kind = READINGS[cast(ReadingKey, e.key)]
            value = read(cast(ReadingKey, e.key), e.got)
            own = value if kind.dimension is None else from_si(value, row.unit)
            found.append(Evidence(look=row.key, shown=row.sound if e.verdict == "in" else own))
    return found


#: What an owner notices by himself, in the order in which it is told.
NOTICED = (
    "starts",
    "pump_sound",
    "key_off",
    "speed_shown",
    "coils_warm",
    "shake",
    "idle_hunts",
    "bumps",
    "lift",
    "hot",
    "load",
    "speed_idle_shown",
    "speed_idle",
    "catches",
)


def complaint(table: FaultTable, fault: FaultRow) -> list[Evidence]:
    """What somebody with this fault comes with: what it does when started, and the first thing besides that differs."""
    looks = {row.key: row for row in table.looks}
    told = [Evidence(look="starts", shown=table.shows(fault, looks["starts"]))]
    runs = told[0].shown == "runs"
    more = next((k for k in NOTICED if k != "starts" and fault.differs.get(k) is not None and (runs or k != "catches")), None)
    if more is not None:
        told.append(Evidence(look=more, shown=fault.differs[more]))
    return told
