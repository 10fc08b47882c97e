"""First start: reasons to go on over a Stop, and the steps as they are ticked and signed."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..errors import UnitError
from .base import Day, Name, Note, Part
from .readings_start import ReadingKey, read

Reason = Annotated[str, Field(min_length=12, max_length=600, pattern=r"^[^\x00-\x08\x0b-\x1f\x7f]*$")]
Short = Annotated[str, Field(max_length=200, pattern=r"^[^\x00-\x1f\x7f]*$")]


class Overrule(Part):
    """A Stop that the person goes on over, and why."""

    code: Annotated[str, Field(pattern=r"^[A-Z]{3,5}-\d\d$")] = Field(title="Finding")
    at: Short = Field(title="Place in the build")
    reason: Reason = Field(title="Why you go on", description="In your own words, a sentence at least. It is printed on the sheet.")
    by: Name = Field(title="Who decides")


class Taken(Part):
    """A reading: as it was typed, with its unit; when, and whether a person read it or it came over the bus."""

    typed: Short = Field(title="Reading")
    when: Short = ""
    source: Literal["typed", "bus"] = "typed"


class Step(Part):
    """A step of the first start: its readings as they were taken, done and signed; why it was signed where one was off."""

    done: bool = False
    by: Short = ""
    when: Short = ""
    reading: Short = ""
    readings: dict[ReadingKey, Taken] = Field(default={}, title="Readings")
    why: Annotated[str, Field(max_length=600, pattern=r"^[^\x00-\x08\x0b-\x1f\x7f]*$")] = Field(
        default="", title="Why it is signed all the same"
    )

    @model_validator(mode="after")
    def _readable(self) -> Step:
        for key, taken in self.readings.items():
            try:
                read(key, taken.typed)
            except UnitError as error:
                raise ValueError(f"/readings/{key}/typed|{taken.typed}|{error}") from error
        return self


class TemporaryFit(Part):
    """Something fitted for now: a feed by clip, a can in place of the tank, a switch on a wire."""

    what: Name = Field(title="Temporary fit", examples=["pump fed by a fused clip"])
    where: Short = Field(default="", title="Where")
    since: Day | None = Field(default=None, title="Since")
    bars: Literal["nothing", "move", "road"] = Field(
        default="road", title="Must be undone", description="Before the car moves, before the road, or some time."
    )
    undone: Day | None = Field(default=None, title="Undone on")


class Rehearsed(Part):
    """A rehearsal that was kept: of how many starts, which shares caught and idled in bounds, and when."""

    runs: Annotated[int, Field(ge=1, le=100_000)] = Field(title="Starts")
    catch: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = Field(title="Caught")
    idle: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = Field(title="Idled in bounds")
    when: Short = Field(default="", title="When")


class Start(Part):
    """The record of the first start."""

    overrules: list[Overrule] = Field(default=[], max_length=60, title="Stops overruled")
    steps: dict[Annotated[str, Field(pattern=r"^[0-8]$")], Step] = Field(default={}, title="Steps")
    rehearsed: Rehearsed | None = Field(default=None, title="Rehearsal")
    temporary: list[TemporaryFit] = Field(default=[], max_length=40, title="Temporary fits")
    remarks: Note = Field(default="", title="Remarks")
