"""Questions on which good people differ, a module a station, each answer tried as a whole build. On asking: a dozen evaluations take a while."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from ..given import Build
from ..plan import Plan, StationKey
from . import engine, fuel, sensors
from .base import Choice, Effect, Question, Trials

__all__ = ["ASKED", "Choice", "Effect", "Question", "Trials", "questions"]

ASKED: dict[StationKey, Callable[[Trials], list[Question]]] = {
    "engine": engine.questions,
    "fuel": fuel.questions,
    "sensors": sensors.questions,
    "ignition": lambda trials: [engine.timing(trials)],
}


def questions(station: StationKey, document: dict[str, Any], build: Build, plan: Plan) -> list[Question]:
    """A station's questions for this build; none where it has none."""
    asked = ASKED.get(station)
    return asked(Trials(document, plan, build)) if asked else []
