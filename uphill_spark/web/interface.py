"""A part of the web interface: its address, how it refuses, and its description, which is put together only where somebody asks for it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from flask_openapi3 import APIBlueprint, Tag

from .errors import ErrorBody

#: What most parts answer that cannot do what they are asked: not there, not to be read, the store does not answer.
USUAL = (404, 422, 503)


class Interface(APIBlueprint):
    """A blueprint at the address `at`, described under the word `under` (its name, where none is given); `refuses` are the statuses of its errors.

    A description of all that comes in and goes out takes as long as everything else that a server does before it listens, and only the page's types are made from it: it waits for `describe`.
    """

    def __init__(self, name: str, module: str, at: str, *, under: str = "", refuses: tuple[int, ...] = USUAL) -> None:
        super().__init__(
            name,
            module,
            url_prefix=at.rstrip("/"),
            abp_tags=[Tag(name=under or name)],
            abp_responses=dict.fromkeys(refuses, ErrorBody),
        )
        self._said: list[tuple[str, Callable[..., Any], dict[str, Any]]] = []

    def _collect_openapi_info(self, rule: str, func: Callable[..., Any], **said: Any) -> Any:
        """Overridden: what is said of a handler is kept, and only what comes in is looked at."""
        self._said.append((rule, func, said))
        return super()._collect_openapi_info(rule, func, **{**said, "doc_ui": False})

    def describe(self) -> None:
        """Put the description together; an application takes it over when this is registered with it."""
        for rule, func, said in self._said:
            super()._collect_openapi_info(rule, func, **said)
        self._said.clear()
