"""The questions on which good people differ, by station, each answer tried as a whole build. On asking: a dozen evaluations take a while."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from .build import Build
from .consequences import Question, Trials
from .plan import Plan, StationKey
from .stages.engine import choices
from .stages.fuel import schools
from .stages.sensors import choices as sensor_choices

ASKED: dict[StationKey, Callable[[Trials], list[Question]]] = {
    "engine": choices.questions,
    "fuel": schools.questions,
    "sensors": sensor_choices.questions,
    "ignition": lambda trials: [choices.timing(trials)],
}


def questions(station: StationKey, document: dict[str, Any], build: Build, plan: Plan) -> list[Question]:
    """A station's questions for this build; none where it has none."""
    asked = ASKED.get(station)
    return asked(Trials(document, plan, build)) if asked else []
