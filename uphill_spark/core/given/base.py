"""What every part of the build document shares: strict keys, and names for the quantities that several stages use."""

from __future__ import annotations

from typing import Annotated

from pydantic import ConfigDict, Field

from ..frozen import Frozen
from ..units import Of, Quantity


class Part(Frozen):
    """A part of the document. Unknown keys are refused, so that a misspelt one is never silently ignored."""

    model_config = ConfigDict(extra="forbid")


#: One line of text without control characters; several lines.
Name = Annotated[str, Field(min_length=1, max_length=80, pattern=r"^[^\x00-\x1f\x7f]*[^\x00-\x1f\x7f\s][^\x00-\x1f\x7f]*$")]
NOTES_MOST = 4000  # characters
Note = Annotated[str, Field(max_length=NOTES_MOST, pattern=r"^[^\x00-\x08\x0b-\x1f\x7f]*$")]
Cylinder = Annotated[int, Field(ge=1, le=12)]

Pressure = Annotated[Quantity, Of("pressure", "0 kPa", "2000 kPa")]
SetPressure = Annotated[Quantity, Of("pressure", "50 kPa", "1000 kPa", "43.5 psi")]
Bore = Annotated[Quantity, Of("length", "1 mm", "60 mm", "3/8 in")]
RunLength = Annotated[Quantity, Of("length", "0 m", "30 m", "4.2 m")]
Rise = Annotated[Quantity, Of("length", "-3 m", "3 m", "0.4 m")]
WireSize = Annotated[Quantity, Of("wire size", "0.2 mm2", "120 mm2", "2.5 mm2")]
Volts = Annotated[Quantity, Of("voltage", "0 V", "32 V", "12.4 V")]
Amps = Annotated[Quantity, Of("current", "0 A", "200 A", "7.5 A")]
Temperature = Annotated[Quantity, Of("temperature", "-60 degC", "200 degC", "20 degC")]
Speed = Annotated[Quantity, Of("speed", "100 rpm", "20000 rpm", "5200 rpm")]
CrankAngle = Annotated[Quantity, Of("angle", "-360 deg", "360 deg", "60 deg")]

#: A day, or the month or year where no more is known.
Day = Annotated[str, Field(min_length=4, max_length=10, pattern=r"^\d{4}(-(0[1-9]|1[0-2])(-(0[1-9]|[12]\d|3[01]))?)?$")]
#: Photographs by their key, which is the SHA-256 of what they hold.
PHOTOS_MOST = 12  # of one entry
Photos = Annotated[list[Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]], Field(max_length=PHOTOS_MOST, title="Photographs")]
