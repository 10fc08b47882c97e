"""What is worked out on asking, because it takes many evaluations: one entry each, by the name it is asked for under.

An answer is a function of a build as it stands and nothing else, so it may be kept as long as the build stands.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal, get_args

from ..figures import Result
from ..worked import Worked
from . import cycle, faults, fuel, levelled, rehearsal, trigger, ways_engine, ways_fuel, ways_sensors, ways_wiring
from .cycle import CycleDepth
from .faults import FaultTable
from .fuel import FuelDepth
from .guesses import Guesses, guesses
from .levelled import Levelled
from .rehearsal import Rehearsal
from .trial import Trial, Tried, under_the_hand
from .trigger import TriggerDepth
from .turns import Turns, turns, with_turns
from .ways import Question, Ways

__all__ = [
    "ASKED",
    "LONG",
    "Answer",
    "CycleDepth",
    "FaultTable",
    "FuelDepth",
    "Guesses",
    "Levelled",
    "Long",
    "Questions",
    "Rehearsal",
    "Subject",
    "Trial",
    "Tried",
    "TriggerDepth",
    "Turns",
    "answer",
    "under_the_hand",
    "with_turns",
]

#: What can be asked: a station looked at longer, the engine worked from its measures, the first start rehearsed, what could be wrong and how it looks, the order of the work, the trigger on the scope, what in pencil would turn what is sound, what rests on guesses, the ways to do it at a station.
Subject = Literal[
    "fuel",
    "cycle",
    "rehearsal",
    "faults",
    "schedule",
    "trigger",
    "turns",
    "guesses",
    "ways-engine",
    "ways-fuel",
    "ways-sensors",
    "ways-ignition",
    "ways-wiring",
]


class Questions(Result):
    """Questions on which good people differ, each answer tried on this build."""

    questions: list[Question]


Answer = FuelDepth | CycleDepth | Rehearsal | FaultTable | Levelled | TriggerDepth | Turns | Guesses | Questions


def _ways(asks: Callable[[Ways], list[Question]]) -> Callable[[Trial], Answer]:
    return lambda trial: Questions(questions=asks(Ways(trial)))


ASKED: dict[Subject, Callable[[Trial], Answer | None]] = {
    "fuel": fuel.look_deeper,
    "cycle": cycle.look_deeper,
    "rehearsal": rehearsal.look_deeper,
    "faults": faults.look_deeper,
    "schedule": levelled.look_deeper,
    "trigger": lambda trial: trigger.look_deeper(trial.build),
    "turns": turns,
    "guesses": guesses,
    "ways-engine": _ways(ways_engine.questions),
    "ways-fuel": _ways(ways_fuel.questions),
    "ways-sensors": _ways(ways_sensors.questions),
    "ways-wiring": _ways(ways_wiring.questions),
    "ways-ignition": _ways(lambda ways: [ways_engine.timing(ways)]),
}
if set(ASKED) != set(get_args(Subject)):
    raise ValueError("what can be asked and what is answered differ")


@dataclass(frozen=True, slots=True)
class Long:
    """What takes seconds: all that it rests on, in words of which a sum is made; how it is worked out, with somebody told how far it is (0 to 1), who may raise to end it."""

    rests_on: Callable[[Worked], str]
    work: Callable[[Trial, Callable[[float], None]], Answer]


#: Of what can be asked, what is worked beside the web process and kept by what it rests on.
LONG: dict[Subject, Long] = {
    "cycle": Long(cycle.rests_on, cycle.look_deeper),
    "rehearsal": Long(rehearsal.rests_on, rehearsal.look_deeper),
    "faults": Long(faults.rests_on, faults.look_deeper),
    "schedule": Long(levelled.rests_on, levelled.look_deeper),
}


def answer(subject: Subject, trial: Trial) -> Answer | None:
    """The answer for a build as it stands; None where it has nothing of the kind."""
    return ASKED[subject](trial)
