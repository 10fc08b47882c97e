"""Base tune: the few targets a person sets, and the constants typed into the control unit."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, field_validator

from ..units import Of, Quantity
from .base import Part, SetPressure, Temperature
from .engine import Cam
from .injectors import flow_si
from .kept import Found, Kept

Lambda = Annotated[float, Field(ge=0.6, le=1.3, allow_inf_nan=False)]


class Typed(Part):
    """What was typed into the control unit, to hold against the build."""

    displacement: Annotated[Quantity, Of("volume", "100 cc", "12 L", "2597 cc")] | None = Field(default=None, title="Displacement typed in")
    cylinders: Annotated[int, Field(ge=1, le=12)] | None = Field(default=None, title="Cylinders typed in")
    injector_flow: Annotated[str, Field(max_length=60)] | None = Field(
        default=None,
        title="Injector figure typed in",
        description="As the unit has it, cc/min or lb/h too: a volume is of the fluid that the injectors are rated with.",
        examples=["150 g/min"],
    )
    base_pressure: SetPressure | None = Field(default=None, title="Fuel pressure typed in")
    rev_limit: Annotated[Quantity, Of("speed", "1000 rpm", "15000 rpm", "6000 rpm")] | None = Field(
        default=None, title="Rev limit typed in"
    )
    idle_speed: Annotated[Quantity, Of("speed", "300 rpm", "3000 rpm", "850 rpm")] | None = Field(
        default=None, title="Idle target typed in", description="Warm."
    )
    full_advance: Annotated[Quantity, Of("angle", "0 deg", "60 deg", "32 deg")] | None = Field(
        default=None, title="Advance typed in, full load", description="The most at full load, before top dead centre."
    )
    firing_order: list[Annotated[int, Field(ge=1, le=12)]] | None = Field(default=None, max_length=12, title="Firing order typed in")
    ignition: Literal["untimed", "timed_distributor", "wasted_spark", "coil_per_plug"] | None = Field(
        default=None, title="Ignition typed in", description="Untimed: the unit only reads the speed."
    )
    cam: Cam | None = Field(default=None, title="Cam typed in", description="Where the unit asks for it.")
    fan_on: Temperature | None = Field(default=None, title="Fan on at, typed in")
    fan_off: Temperature | None = Field(default=None, title="Fan off at, typed in")

    @field_validator("injector_flow")
    @classmethod
    def _flow(cls, text: str | None) -> str | None:
        if text is not None:
            kind, value = flow_si(text, "")
            low, high = (8e-5, 0.1) if kind == "mass flow" else (8e-8, 1e-4)
            if not low <= value <= high:
                raise ValueError(f"|{text}|a flow of one injector, between 5 g/min and 6000 g/min, like '150 g/min' or '210 cc/min'")
        return text


class Tune(Part):
    """Targets for the quick tables."""

    idle_lambda: Lambda = Field(default=0.97, title="Lambda at idle")
    cruise_lambda: Lambda = Field(default=1.0, title="Lambda at cruise")
    full_lambda: Lambda = Field(default=0.88, title="Lambda at full load")
    load: Literal["by_layout", "manifold_pressure", "throttle"] = Field(
        default="by_layout", title="Load is told by", description="Manifold pressure; throttle angle with one throttle per cylinder."
    )
    step: Literal["day_one", "later"] = Field(
        default="day_one",
        title="Advance for",
        description="Day one stays four degrees more on the safe side; later, once ear, gauge and plugs have said so.",
    )
    typed: Typed = Typed()
    came_empty: bool = Field(default=False, title="The unit came without tables", description="New, nothing in it to keep.")
    found: Found | None = Field(default=None, title="As found")
    kept: Kept | None = Field(default=None, title="Kept tune")
