"""What the web interface says of a body, made once.

The same bodies stand behind many addresses (an error behind each), and the framework asks for their JSON Schema anew at each address when the server starts, and of a query at every request.
"""

from __future__ import annotations

from functools import cache
from typing import Any

from pydantic import BaseModel


@cache
def _made(model: type[BaseModel], told: tuple[tuple[str, Any], ...]) -> dict[str, Any]:
    return BaseModel.model_json_schema.__func__(model, **dict(told))  # type: ignore[attr-defined, no-any-return]


class SchemaOnce(BaseModel):
    """Base of bodies that are described in more than one place. Their schema is one object for all who ask: not to be written into."""

    @classmethod
    def model_json_schema(cls, **told: Any) -> dict[str, Any]:  # type: ignore[override]
        """The JSON Schema as pydantic makes it; what is told goes on to it."""
        return _made(cls, tuple(sorted(told.items())))
