"""Base tune: the few targets a person sets, and the constants typed into the control unit."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..units import Of, Quantity
from .base import Part, SetPressure

Lambda = Annotated[float, Field(ge=0.6, le=1.3, allow_inf_nan=False)]


class Typed(Part):
    """What was typed into the control unit, to hold against the build."""

    displacement: Annotated[Quantity, Of("volume", "100 cc", "12 L", "2597 cc")] | None = Field(default=None, title="Displacement typed in")
    cylinders: Annotated[int, Field(ge=1, le=12)] | None = Field(default=None, title="Cylinders typed in")
    injector_flow: Annotated[Quantity, Of("mass flow", "5 g/min", "6000 g/min", "150 g/min")] | None = Field(
        default=None, title="Injector figure typed in"
    )
    base_pressure: SetPressure | None = Field(default=None, title="Fuel pressure typed in")


class Tune(Part):
    """Targets for the quick tables."""

    idle_lambda: Lambda = Field(default=0.97, title="Lambda at idle")
    cruise_lambda: Lambda = Field(default=1.0, title="Lambda at cruise")
    full_lambda: Lambda = Field(default=0.88, title="Lambda at full load")
    load: Literal["by_layout", "manifold_pressure", "throttle"] = Field(
        default="by_layout", title="Load is told by", description="Manifold pressure; throttle angle with one throttle per cylinder."
    )
    typed: Typed = Typed()
