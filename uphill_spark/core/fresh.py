"""A new build from a few answers: which kit, which engine, what is wanted of it. All the rest is filled in pencil (see `usual`)."""

from __future__ import annotations

import re
from typing import Any

from pydantic import BaseModel, ConfigDict, Field, ValidationError, field_validator, model_validator

from .errors import BuildError
from .figures import Result
from .given import parse
from .given.base import Cylinder, Name
from .given.document import problem_of
from .given.engine import Arrangement, Carburettors, Cooling, Displacement, Power, unlikely_cylinder, usual_arrangement, usual_order
from .given.engine import Fuel as FuelName
from .reference import FiringOrder, firing_orders
from .units import bare_number
from .usual import Car, Distributor, Kit, usual


class Answers(BaseModel):
    """The questions, and what to call the car. What is left out is filled in pencil, as usual for the rest."""

    model_config = ConfigDict(extra="forbid")

    name: Name = Field(title="What do you call the car?")
    layout: Kit = Field(title="Where will the injectors sit?")
    arrangement: Arrangement | None = Field(default=None, title="How do the cylinders stand?")
    cylinders: Cylinder = Field(title="How many cylinders?")
    firing_order: list[Cylinder] | None = Field(default=None, title="In which order do they fire?")
    displacement: Displacement = Field(title="Displacement")
    power: Power = Field(title="Power wanted")
    cooling: Cooling = Field(default="not_noted", title="Cooled by")
    carburettors: Carburettors = Field(default="not_noted", title="Carburettors today")
    distributor: Distributor | None = Field(default=None, title="What becomes of the distributor?")
    fuel: FuelName = Field(title="Fuel")

    @field_validator("firing_order", mode="before")
    @classmethod
    def _written(cls, given: Any) -> Any:
        return [int(n) for n in re.findall(r"\d{1,3}", given)] if isinstance(given, str) else given

    @model_validator(mode="after")
    def _believable(self) -> Answers:
        if wrong := unlikely_cylinder(self.displacement, self.cylinders):
            raise ValueError(wrong)
        if self.firing_order is not None and sorted(self.firing_order) != list(range(1, self.cylinders + 1)):
            shown = "-".join(map(str, self.firing_order))
            usual_one = "-".join(map(str, usual_order(self.cylinders, self.arrangement)))
            raise ValueError(f"/firing_order|{shown}|each of the cylinders 1 to {self.cylinders} once, like {usual_one}")
        return self

    @property
    def car(self) -> Car:
        """The car that the answers describe, with what is usual for what they leave out."""
        arrangement = self.arrangement or usual_arrangement(self.cylinders)
        body = self.layout in ("throttle_body", "throttle_body_bank")
        return Car(
            kit=self.layout, arrangement=arrangement, cylinders=self.cylinders,
            firing_order=tuple(self.firing_order or usual_order(self.cylinders, arrangement)), displacement=str(self.displacement),
            displacement_m3=self.displacement.si, power=str(self.power), power_w=self.power.si, cooling=self.cooling, carburettors=self.carburettors,
            distributor=self.distributor or ("stays" if body else "goes"), fuel=self.fuel,
        )  # fmt: skip


class OpeningOption(Result):
    """One answer to choose: the word that stands for it, what it is called, and what it means."""

    value: str
    word: str
    note: str = ""


class OpeningQuestion(Result):
    """One question of a new build. Without options it is typed; `may_skip`: then the usual is taken, in pencil."""

    key: str
    title: str
    help: str = ""
    example: str = ""
    options: list[OpeningOption] = []
    may_skip: bool = False


class OpeningStep(Result):
    """OpeningQuestions that are asked together."""

    key: str
    title: str
    asks: str
    questions: list[OpeningQuestion]


class OpeningQuestions(Result):
    """All that a new build asks, and the usual firing orders to choose from."""

    steps: list[OpeningStep]
    orders: list[FiringOrder]


_OPTIONS: dict[str, list[OpeningOption]] = {
    "layout": [
        OpeningOption(value="port_plenum", word="At each port, one throttle", note="A new manifold with a plenum. Load from manifold pressure."),
        OpeningOption(
            value="throttle_body", word="In a throttle body, where the carburettor sat", note="Injectors and unit in the kit; the distributor may stay."
        ),
        OpeningOption(value="throttle_body_bank", word="In two throttle bodies, one on each manifold", note="Where two carburettors fed a bank each."),
        OpeningOption(value="individual_throttles", word="One throttle per cylinder", note="Load from throttle angle."),
    ],
    "arrangement": [
        OpeningOption(value="inline", word="In line", note="One row."),
        OpeningOption(value="vee", word="Vee", note="Two rows on one crank."),
        OpeningOption(value="flat", word="Flat", note="Two rows, opposite each other."),
    ],
    "cooling": [
        OpeningOption(value="water", word="Water", note="Radiator and thermostat: the unit reads the coolant."),
        OpeningOption(value="air", word="Air", note="No coolant: the unit reads the head."),
        OpeningOption(value="not_noted", word="Not sure"),
    ],
    "carburettors": [
        OpeningOption(value="one", word="One", note="On a manifold that all cylinders share."),
        OpeningOption(value="two", word="Two", note="Each on a manifold of its own, or on one."),
        OpeningOption(value="one_a_cylinder", word="One a cylinder", note="Or a choke of a twin for each."),
        OpeningOption(value="not_noted", word="Not sure"),
    ],
    "distributor": [
        OpeningOption(value="stays", word="It stays as it is", note="Weights and vacuum go on timing the spark."),
        OpeningOption(value="stays_timed", word="It stays, locked", note="It leads the spark; the unit times it, from a trigger wheel."),
        OpeningOption(value="goes", word="It goes", note="Coils of their own, timed by the unit, from a trigger wheel."),
    ],
    "fuel": [
        OpeningOption(value="E0", word="E0", note="Petrol, no alcohol."),
        OpeningOption(value="E10", word="E10", note="Up to a tenth alcohol: usual at the pump."),
        OpeningOption(value="E85", word="E85", note="Mostly alcohol: a third more flow, other seals."),
    ],
}  # fmt: skip
_EXAMPLES = {"displacement": "2597 cc", "power": "118 kW or 158 hp"}
_HELP = {
    "arrangement": "Seen from the front or from above.",
    "firing_order": "By the plate on the engine, its manual, or the leads on the cap. Numbered as its maker numbers them.",
    "power": "At the crank, at sea level. Pump, injectors and wire are sized for it.",
}
_MAY_SKIP = ("arrangement", "firing_order", "cooling", "carburettors", "distributor")


_STEPS = (
    ("kit", "The kit", "What is to take the carburettor's place?", ("name", "layout", "carburettors")),
    ("engine", "The engine", "What stands in the car today?", ("arrangement", "cylinders", "firing_order", "displacement", "cooling")),
    ("wish", "What is wanted", "What is it to give, and how is it lit?", ("power", "fuel", "distributor")),
)


def questions() -> OpeningQuestions:
    """What a new build asks, in the order in which it is asked."""
    return OpeningQuestions(
        steps=[
            OpeningStep(key=key, title=title, asks=asks, questions=[_question(one) for one in asked]) for key, title, asks, asked in _STEPS
        ],
        orders=firing_orders(),
    )


def _question(key: str) -> OpeningQuestion:
    title = Answers.model_fields[key].title or key
    return OpeningQuestion(
        key=key,
        title=title,
        help=_HELP.get(key, ""),
        example=_EXAMPLES.get(key, ""),
        options=_OPTIONS.get(key, []),
        may_skip=key in _MAY_SKIP,
    )


def answers(given: Any) -> Answers:
    """The answers, checked. Raises BuildError naming each."""
    try:
        return Answers.model_validate(_with_units(given))
    except ValidationError as error:
        raise BuildError("Some answers cannot be taken.", tuple(problem_of(e) for e in error.errors(include_url=False))) from error


def _with_units(given: Any) -> Any:
    """Answers as they were typed: a bare number takes the unit of the field's example."""
    if not isinstance(given, dict):
        return given
    units = {"displacement": "cc", "power": "kW"}
    return {
        key: f"{value.strip()} {units[key]}" if key in units and isinstance(value, str) and bare_number(value) else value
        for key, value in given.items()
    }


def new_document(given: Any) -> dict[str, Any]:
    """A complete build document from the answers; every other value is marked as assumed."""
    a = answers(given)
    document = usual(a.car, a.name)
    if a.layout == "throttle_body_bank":
        document["air"] = {"manifolds": 2}
    assumed = [f"/engine/{key}" for key in ("arrangement", "firing_order") if getattr(a, key) is None]
    document["marks"] |= {pointer: {"kind": "assumed"} for pointer in assumed}
    if a.distributor is not None:
        del document["marks"]["/ignition/timed_by_unit"]
    parse(document)
    return document
