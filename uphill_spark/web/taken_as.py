"""A column or a signal that a person takes for a quantity, with the numbers as he types them."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import BeforeValidator, Field, field_validator

from ..core.errors import UnitError
from ..core.live import Quantity
from ..core.units import signed
from .models import Strict


def _typed(value: Any) -> Any:
    """A number as a person types it, with a decimal point or comma; anything else is left to be refused."""
    if not isinstance(value, str):
        return value
    try:
        return signed(value.strip())
    except UnitError as error:
        raise ValueError("a number, like 0.068 or 0,068") from error


Typed = Annotated[float, BeforeValidator(_typed, json_schema_input_type=float | str), Field(allow_inf_nan=False, ge=-1e6, le=1e6)]


class TakenAs(Strict):
    """Which quantity it is, and by which factor and offset it becomes that."""

    quantity: Quantity
    factor: Typed = 1.0
    offset: Typed = 0.0

    @field_validator("factor")
    @classmethod
    def _not_nought(cls, factor: float) -> float:
        if factor == 0:
            raise ValueError("a factor that is not 0")
        return factor
