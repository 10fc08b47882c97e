"""Practice on this very car: a fault is hidden in its models; the person looks, reads, swaps, names it. What each move shows is worked out, what it costs is counted, and at the end their way stands beside the shortest.

All of it is a function of the table of faults, a seed and the moves made: the same moves show the same.
"""

from __future__ import annotations

import random
from collections.abc import Callable, Sequence
from typing import Literal

from pydantic import Field

from ..circuit.netlist import terminal_name
from ..circuit.states import STATES, KeyState
from ..errors import SparkError
from ..figures import Result
from ..reference import car_faults
from .diagnosis import Evidence, complaint, diagnose, next_look
from .faults import FaultRow, FaultTable, LookRow, Shown, doubt, said

MoveKind = Literal["look", "meter", "swap", "risk", "name", "give_up"]
#: What a meter shows [V] on a car with a fault: fault, red, black, position of the key. Raises KeyError for a terminal that is not there.
Meter = Callable[[str, str, str, KeyState], float]
METER_MINUTES = 4.0  # to put two leads on
SHIVER = 0.6  # of a look's doubt, by which a meter reads otherwise each time
LONGEST_WAY = 14
WRONG_NAME_MINUTES = 20.0  # that a wrong mend costs
FULL, EACH_RISK, EACH_WRONG, EACH_MONEY = 100.0, 15.0, 10.0, 0.15  # of the score


MOVE_KEY = r"^[A-Za-z0-9_.,]*$"


class PracticeMove(Result):
    """A move: a look, a meter's two leads, a part swapped, a risk taken, a fault named, given up; `key` says which, of a meter red, black and position of the key with commas between."""

    kind: MoveKind
    key: str = Field(default="", max_length=140, pattern=MOVE_KEY)


class PartSwap(Result):
    """A part that can be swapped for another: minutes and money, and the faults that it takes away."""

    key: str
    words: str
    minutes: float
    money: float


class PracticeRisk(Result):
    """Something that people do and should not: what it is, why not, and the minutes that it seems to save."""

    key: str
    words: str
    why: str
    minutes: float


#: Parts that are bought on a guess: words, minutes, money, faults that they cure.
SWAPS: dict[str, tuple[str, float, float, frozenset[str]]] = {
    "battery": ("Another battery", 15, 90, frozenset({"battery_low"})),
    "pump": ("Another fuel pump", 90, 110, frozenset({"check_valve"})),
    "filter": ("Another fuel filter", 25, 15, frozenset({"filter_due", "filter_backwards"})),
    "regulator": ("Another pressure regulator", 30, 60, frozenset()),
    "injectors": ("Another set of injectors", 75, 180, frozenset({"injector_gummed", "injector_drips", "low_ohm_driver"})),
    "coils": ("Other coils", 30, 120, frozenset({"no_igniter"})),
    "igniter": ("Another igniter", 30, 60, frozenset({"hot_igniter"})),
    "plugs": ("New plugs", 30, 25, frozenset({"fouled_plugs"})),
    "leads": ("Suppressed leads", 20, 60, frozenset({"unsuppressed", "leads_crossed"})),
    "crank_sensor": ("Another crank sensor", 40, 45, frozenset()),
    "coolant_sensor": ("Another coolant sensor", 25, 18, frozenset()),
    "throttle_sensor": ("Another throttle sensor", 25, 40, frozenset()),
    "oxygen_sensor": ("Another oxygen sensor", 30, 90, frozenset()),
    "idle_valve": ("Another idle valve", 30, 45, frozenset({"idle_valve_stuck", "idle_valve_shut"})),
    "relays": ("Another set of relays", 15, 20, frozenset()),
    "unit": ("Another control unit", 120, 450, frozenset({"output_dead", "immobiliser_left"})),
}  # fmt: skip
RISKS = {
    "crank_on": ("Crank on and on, half a minute at a time", "The starter burns, cylinders flood and wash their oil off, the battery falls until nothing reads true.", 1.0),
    "wide_open": ("Start it with the pedal on the floor", "If it fires it races with cold oil; with a unit that clears floods it gets no fuel at all.", 1.0),
    "starting_fluid": ("Starting fluid into the throttle", "One cough back and it burns in your face.", 2.0),
    "look_down": ("Look down the throttle while it cranks", "A cough back comes out there.", 1.0),
    "jump_pump": ("Jump the pump from the battery, no fuse", "A chafed wire burns at once, at the tank.", 3.0),
    "open_line": ("Open a fuel line under pressure to see whether it spurts", "It sprays, on a hot or sparking engine. Release the pressure, then a gauge.", 2.0),
    "coils_live": ("Pull plug leads off while it runs", "Tens of kilovolts find the hand, and a coil without a gap breaks down.", 3.0),
    "key_left_on": ("Leave the key on while you think", "A coil that is charged standing still burns, and so does its driver.", 5.0),
}  # fmt: skip


class PracticeStep(Result):
    """A move as it was made: in words, what it showed, what it cost, whether it was a risk and why."""

    kind: MoveKind
    key: str
    words: str
    shown: Shown
    says: str
    minutes: float
    money: float
    why: str
    bits: float


class LookWay(Result):
    """A look on a way to the fault: its words, what it showed, minutes, and how much was open after it [bit]."""

    look: str
    words: str
    says: str
    minutes: float
    open_bits: float


class PracticeEnded(Result):
    """How it ended: found or not, the fault, its mend, the score (0 to 100), how it was made up; the shortest way, and the person's own with what was open after each look."""

    found: bool
    fault: str
    key: str
    mend: str
    score: int
    told: list[str]
    settles: str
    best: list[LookWay]
    own: list[LookWay]
    best_minutes: float


class Practice(Result):
    """A practice as it stands: what the owner complains of, moves made, minutes, money, risks; what can be looked at, swapped, named; how it ended, if it has."""

    level: int
    seed: int
    complaint: list[PracticeStep]
    steps: list[PracticeStep]
    minutes: float
    money: float
    risks: int
    wrong: int
    swaps: list[PartSwap]
    dares: list[PracticeRisk]
    names: list[tuple[str, str, str]]
    ended: PracticeEnded | None


class NotAMove(SparkError):
    """A move that this practice has not; the message says what would do."""


def hide(table: FaultTable, level: int, seed: int, before: str = "") -> FaultRow:
    """The fault that is hidden: of this level, or the next easier that this car can have; never the one before."""
    rng = random.Random(f"{seed}/{level}")
    for wanted in (*range(level, 0, -1), *range(level + 1, 5)):
        rows = [f for f in table.faults if f.level == wanted and f.key != before]
        if rows:
            return rng.choice(rows)
    raise NotAMove("This car has no fault to hide.")


def play(table: FaultTable, level: int, seed: int, moves: Sequence[PracticeMove], before: str = "", meter: Meter | None = None) -> Practice:
    """A practice after its moves; `meter` reads the harness with the fault in it [V]. Raises NotAMove for a move that is none, naming it."""
    fault = hide(table, level, seed, before)
    looks = {row.key: row for row in table.looks}
    begins = [_told(looks[e.look], e.shown) for e in complaint(table, fault)]
    evidence = complaint(table, fault)
    steps: list[PracticeStep] = []
    own: list[LookWay] = []
    found: bool | None = None
    for n, move in enumerate(moves):
        if found is not None:
            raise NotAMove("This practice has ended: begin another.")
        step, found = _metered(fault, move, meter) if move.kind == "meter" else _step(table, fault, looks, move, seed, n)
        if move.kind == "look":
            before_bits = diagnose(table, evidence).open_bits
            evidence = [*(e for e in evidence if e.look != move.key), Evidence(look=move.key, shown=step.shown)]
            open_bits = diagnose(table, evidence).open_bits
            step = step.model_copy(update={"bits": round(before_bits - open_bits, 2)})
            own.append(LookWay(look=move.key, words=step.words, says=step.says, minutes=step.minutes, open_bits=open_bits))
        steps.append(step)
    minutes, money = sum(s.minutes for s in steps), sum(s.money for s in steps)
    risks, wrong = sum(s.kind == "risk" for s in steps), sum(s.kind == "name" and s.key != fault.key for s in steps)
    return Practice(
        level=level, seed=seed, complaint=begins, steps=steps, minutes=minutes, money=money, risks=risks, wrong=wrong,
        swaps=[PartSwap(key=key, words=words, minutes=m, money=cost) for key, (words, m, cost, _) in SWAPS.items()],
        dares=[PracticeRisk(key=key, words=words, why="", minutes=m) for key, (words, _, m) in RISKS.items()],
        names=[(f.key, f.words, f.group) for f in table.faults],
        ended=None if found is None else _ended(table, fault, looks, steps, own, found=found),
    )  # fmt: skip


def _step(
    table: FaultTable, fault: FaultRow, looks: dict[str, LookRow], move: PracticeMove, seed: int, n: int
) -> tuple[PracticeStep, bool | None]:
    """A move made: what came of it, and whether it ended the practice (found or not)."""
    if move.kind == "look":
        row = looks.get(move.key)
        if row is None:
            raise NotAMove(f"{move.key or 'nothing'} cannot be looked at on this car: one of {', '.join(list(looks)[:4])} and so on.")
        return _told(row, _shivered(table.shows(fault, row), row, f"{seed}/{move.key}/{n}")), None
    if move.kind == "swap":
        if move.key not in SWAPS:
            raise NotAMove(f"{move.key or 'nothing'} is no part that can be swapped: one of {', '.join(SWAPS)}.")
        words, minutes, money, cures = SWAPS[move.key]
        cured = fault.key in cures
        says = "It is right now: that was it." if cured else "No different."
        return _made(move, words, says, minutes, money), True if cured else None
    if move.kind == "risk":
        if move.key not in RISKS:
            raise NotAMove(f"{move.key or 'nothing'} is not among what people dare.")
        words, why, minutes = RISKS[move.key]
        return _made(move, words, "It told you nothing that a look does not.", minutes, 0.0, why), None
    if move.kind == "give_up":
        return _made(move, "Given up", fault.words, 0.0, 0.0), False
    named = next((f for f in table.faults if f.key == move.key), None)
    if named is None:
        raise NotAMove(f"{move.key or 'nothing'} is no fault that this car can have.")
    right = named.key == fault.key or (named.settles == fault.settles and _alike(table, named, fault))
    minutes = named.minutes if right else max(named.minutes, WRONG_NAME_MINUTES)
    return _made(
        move, named.words, "Yes." if right else "Mended as if it were: no different.", minutes, named.money
    ), True if right else None


def _metered(fault: FaultRow, move: PracticeMove, meter: Meter | None) -> tuple[PracticeStep, None]:
    """Two leads put on: what they show with the fault in the harness."""
    parts = move.key.split(",")
    if meter is None or len(parts) != 3 or parts[2] not in STATES:
        raise NotAMove(f"{move.key or 'nothing'} is no way to put a meter on: red, black, and one of {', '.join(STATES)}.")
    red, black, state = parts[0], parts[1], parts[2]
    try:
        volts = meter(fault.key, red, black, state)
    except KeyError as error:
        raise NotAMove(f"{error.args[0]} is no terminal of this harness.") from error
    words = f"Meter: red on {terminal_name(red)}, black on {terminal_name(black)}, {STATES[state].word}"
    return _made(move, words, f"{volts:.2f} V".replace("-", "−"), METER_MINUTES, 0.0), None


def _alike(table: FaultTable, a: FaultRow, b: FaultRow) -> bool:
    """Whether no look of the table tells two faults apart: then either name is right."""
    return a.mend == b.mend


def _made(move: PracticeMove, words: str, says: str, minutes: float, money: float, why: str = "") -> PracticeStep:
    return PracticeStep(kind=move.kind, key=move.key, words=words, shown=None, says=says, minutes=minutes, money=money, why=why, bits=0.0)


def _told(row: LookRow, shown: Shown) -> PracticeStep:
    says = said(row, shown)
    minutes = 0.0 if shown is None else row.minutes
    return PracticeStep(kind="look", key=row.key, words=row.words, shown=shown, says=says, minutes=minutes, money=0.0, why="", bits=0.0)


def _shivered(value: Shown, row: LookRow, seed: str) -> Shown:
    """A figure as a meter shows it, a little off each time."""
    if not isinstance(value, float):
        return value
    off = random.Random(seed).gauss(0.0, SHIVER * doubt(row.key, value))
    return float(f"{value + off:.4g}")


def shortest(table: FaultTable, fault: FaultRow) -> list[LookWay]:
    """From the complaint to the fault by the looks that tell most for their time."""
    looks = {row.key: row for row in table.looks}
    evidence, way = complaint(table, fault), list[LookWay]()
    for _ in range(LONGEST_WAY):
        found = diagnose(table, evidence)
        if found.causes[0].key == fault.key and found.sure:
            break
        weights = {c.key: c.chance for c in found.causes}
        following = found.next or next_look(table, weights, {e.look for e in evidence})
        if following is None:
            break
        row = looks[following.look]
        shown = table.shows(fault, row)
        evidence = [*evidence, Evidence(look=row.key, shown=shown)]
        step = _told(row, shown)
        way.append(
            LookWay(look=row.key, words=row.words, says=step.says, minutes=row.minutes, open_bits=diagnose(table, evidence).open_bits)
        )
    return way


def _ended(
    table: FaultTable, fault: FaultRow, looks: dict[str, LookRow], steps: list[PracticeStep], own: list[LookWay], *, found: bool
) -> PracticeEnded:
    best = shortest(table, fault)
    direct = LookWay(look=fault.settles, words=looks[fault.settles].words, says=_told(looks[fault.settles], table.shows(fault, looks[fault.settles])).says, minutes=looks[fault.settles].minutes, open_bits=0.0)  # fmt: skip
    if sum(w.minutes for w in best) == 0:
        best = [direct]
    best_minutes = sum(w.minutes for w in best) + fault.minutes
    mine = sum(s.minutes for s in steps)
    risks, wrong = [s for s in steps if s.kind == "risk"], [s for s in steps if s.kind == "name" and s.key != fault.key]
    wasted = sum(s.money for s in steps if s.kind == "swap") + sum(s.money for s in wrong)
    score, told = 0.0, []
    if found:
        score = FULL * min(best_minutes / max(mine, 1.0), 1.0)
        told.append(f"{mine:.0f} min against {best_minutes:.0f} the short way: {score:.0f} of 100.")
    else:
        told.append("Not found: nothing to count.")
    for s in risks:
        told.append(f"− {EACH_RISK:.0f}: {s.words[0].lower()}{s.words[1:]}. {s.why}")
    if wrong:
        told.append(f"− {EACH_WRONG * len(wrong):.0f}: named wrong {len(wrong)} times.")
    if wasted:
        told.append(f"− {EACH_MONEY * wasted:.0f}: {wasted:.0f} spent for nothing.")
    score -= EACH_RISK * len(risks) + EACH_WRONG * len(wrong) + EACH_MONEY * wasted
    return PracticeEnded(
        found=found, fault=fault.words, key=fault.key, mend=fault.mend, score=int(min(max(score, 0.0), FULL)), told=told, settles=f"{looks[fault.settles].words}: {direct.says}", best=best, own=own, best_minutes=best_minutes
    )  # fmt: skip


def harder(scores: Sequence[tuple[int, int]]) -> int:
    """The level to try next from (level, score) of those before, the newest last: up after two good ones in a row, down after a poor one."""
    if not scores:
        return 1
    level, last = scores[-1]
    if last >= 60 and len(scores) > 1 and scores[-2][0] == level and scores[-2][1] >= 60:
        return min(level + 1, 4)
    return max(level - 1, 1) if last < 25 else level


if not {key for _, _, _, cures in SWAPS.values() for key in cures} <= set(car_faults()):
    raise ValueError("a part cures a fault that no one knows")
