"""The build document as a whole: parsing, versions, its JSON Schema, and errors that a person can act on."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, model_validator
from pydantic_core import ErrorDetails

from ..errors import BuildError, FormatError, Problem
from .air import Air
from .base import Name, Note, Part
from .engine import Engine
from .fuel import FuelSystem
from .ignition import Ignition
from .injectors import Injectors
from .road import Road
from .sensors import Sensors
from .start import Start
from .tune import Tune
from .upgrade import UPGRADERS, upgrade
from .wiring import Wiring
from .work import Work

FORMAT = "uphill-spark-build"
VERSION = 5


class Mark(Part):
    """How sure a value is: pencil (assumed) until somebody accepts or measures it. A value without a mark was stated."""

    kind: Literal["assumed", "measured"]
    by: Annotated[str, Field(max_length=80)] = ""
    when: Annotated[str, Field(max_length=40)] = ""
    how: Annotated[str, Field(max_length=200)] = ""


class Build(Part):
    """A car on its way from carburettor to injection: what the person has, wants and measured."""

    format: Literal["uphill-spark-build"]
    version: Literal[5]
    name: Name = Field(title="Name")
    notes: Note = Field(default="", title="Notes")
    engine: Engine
    fuel: FuelSystem
    injectors: Injectors
    air: Air = Air()
    sensors: Sensors = Sensors()
    ignition: Ignition
    wiring: Wiring
    tune: Tune = Tune()
    start: Start = Start()
    road: Road = Road()
    work: Work = Work()
    marks: dict[Annotated[str, Field(pattern=r"^(/[^/]{1,60}){1,8}$")], Mark] = Field(default={}, max_length=1000, title="Pencil and ink")

    @model_validator(mode="after")
    def _cylinders_agree(self) -> Build:
        n = self.engine.cylinders
        for i, output in enumerate(self.ignition.outputs):
            if any(c > n for c in output.cylinders):
                raise ValueError(f"/ignition/outputs/{i}/cylinders|{output.cylinders}|cylinders that the engine has, 1 to {n}")
        for i, row in enumerate(self.ignition.letters):
            if any(c > n for c in row.cylinders):
                raise ValueError(f"/ignition/letters/{i}/cylinders|{row.cylinders}|cylinders that the engine has, 1 to {n}")
        return self


def copied(tree: Any) -> Any:
    """A copy of what JSON holds, down to its leaves; several times as quick as a copy that has to look for what it has met before."""
    if isinstance(tree, dict):
        return {key: copied(value) for key, value in tree.items()}
    return [copied(value) for value in tree] if isinstance(tree, list) else tree


def touches(a: str, b: str) -> bool:
    """Whether one pointer is the other, or lies inside it. A * in `b` stands for any name or number."""
    if "*" not in b:
        return a == b or a.startswith(b + "/") or b.startswith(a + "/")
    return all(x == y or y == "*" for x, y in zip(a.split("/"), b.split("/"), strict=False))


def parse(document: Any, same: Mapping[str, Any] | None = None) -> Build:
    """A validated build from decoded JSON. Raises FormatError or BuildError, naming each field, what was given, what would do.

    `same` holds sections that were read before from the very same text: they are taken as they are.
    """
    try:
        return Build.model_validate({**upgraded(document), **(same or {})})
    except ValidationError as error:
        problems = tuple(problem_of(e) for e in error.errors(include_url=False)[:20])
        raise BuildError("The build cannot be taken as it is.", problems) from error


def upgraded(document: Any) -> dict[str, Any]:
    """The document at the present version, otherwise as it is: nothing in it has been checked. Raises FormatError if it is no build file."""
    if not isinstance(document, Mapping):
        raise FormatError(
            "This is not a build file: it should hold one JSON object.", (Problem("", type(document).__name__, "one JSON object"),)
        )
    if document.get("format") != FORMAT:
        raise FormatError("This is not a build file.", (Problem("/format", _shown(document.get("format")), f"the word {FORMAT!r}"),))
    version = document.get("version")
    if isinstance(version, bool) or not isinstance(version, int) or version > VERSION or (version < VERSION and version not in UPGRADERS):
        raise FormatError(
            "This build file is of a version that this program does not read.",
            (Problem("/version", _shown(version), f"a version from {min([VERSION, *UPGRADERS])} to {VERSION}"),),
        )
    return upgrade(dict(document), VERSION)


def json_schema() -> dict[str, Any]:
    """The published JSON Schema of the build document."""
    schema = Build.model_json_schema()
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Uphill Spark build", **schema}


def _shown(value: Any) -> str:
    text = repr(value)
    return text if len(text) <= 80 else text[:77] + "..."


def problem_of(error: ErrorDetails) -> Problem:
    """One pydantic error as a Problem. Our own validators pass "pointer|given|wants" in the message."""
    places = [str(part) for part in error["loc"] if part != "[key]"]
    if places[:2] == ["fuel", "parts"] and len(places) > 3:
        del places[3]  # the kind of part, by which pydantic chose what to hold it against
    at = "".join(f"/{place.replace('~', '~0').replace('/', '~1')}" for place in places)
    given, message, kind = error["input"], error["msg"], error["type"]
    if kind == "value_error" and message.count("|") >= 2:
        below, shown, wants = message.removeprefix("Value error, ").split("|", 2)
        return Problem(at + below, shown, wants)
    if kind == "extra_forbidden":
        return Problem(at, _shown(given), "no such key here; take it out or check its spelling")
    if kind == "missing":
        return Problem(at, "nothing", "this is needed")
    return Problem(at, _shown(given), _wanted(kind, error.get("ctx", {}), message))


#: What would do, by the kind of complaint: a person never reads a library's words.
_WANTED = {
    "int_type": "a whole number", "int_parsing": "a whole number", "int_from_float": "a whole number", "int_parsing_size": "a whole number of a few digits",
    "float_type": "a number", "float_parsing": "a number", "finite_number": "a number that is finite", "bool_type": "yes or no", "bool_parsing": "yes or no",
    "string_type": "a text", "string_too_short": "at least {min_length} characters", "string_too_long": "at most {max_length} characters", "string_pattern_mismatch": "a name or text without signs that do not belong there",
    "literal_error": "one of {expected}", "enum": "one of {expected}", "list_type": "a list", "dict_type": "an object with names", "model_type": "an object with names",
    "model_attributes_type": "an object with names", "too_short": "at least {min_length} entries", "too_long": "at most {max_length} entries",
    "greater_than_equal": "{ge} or more", "greater_than": "more than {gt}", "less_than_equal": "{le} at most", "less_than": "less than {lt}",
    "union_tag_invalid": "one of {expected_tags}", "union_tag_not_found": "a kind",
}  # fmt: skip
#: Complaints in our own words.
_OWN = ("value_error", "quantity", "quantity_range")


def _wanted(kind: str, context: dict[str, Any], message: str) -> str:
    """What would do, in our words."""
    if kind in _OWN:
        message = message.removeprefix("Value error, ")
        return message[:1].lower() + message[1:]
    return (
        _WANTED.get(kind, "something that this field takes")
        .format_map(context)
        .replace("at least 1 characters", "a character or more")
        .replace("at least 1 entries", "at least 1 entry")
    )
