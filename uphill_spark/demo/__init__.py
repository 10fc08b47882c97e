"""The three invented cars that ship with the program."""

from __future__ import annotations

from importlib import resources
from typing import Any

from ..formats import build_file

NAMES = ("tern", "hollin", "brindle")


def document(name: str) -> dict[str, Any]:
    """The build document of a demo car."""
    data = resources.files(__name__).joinpath(f"{name}.json").read_bytes()
    return build_file.read(data)[0]
