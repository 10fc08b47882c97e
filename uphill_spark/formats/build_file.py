"""The build file: JSON, UTF-8, of the published schema."""

from __future__ import annotations

import json
from typing import Any

from ..core.errors import FormatError, Problem
from ..core.given import Build, parse, upgraded
from . import strict_json

MAX_BYTES = 2_000_000


def read(data: bytes) -> tuple[dict[str, Any], Build]:
    """The document, at the present version, and the validated build from a file's bytes. Raises FormatError or BuildError with what would do."""
    if len(data) > MAX_BYTES:
        raise FormatError(
            "The file is too large to be a build.", (Problem("", f"{len(data) / 1e6:.1f} MB", "a build file of at most 2 MB"),)
        )
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise FormatError(
            "The file is not text.", (Problem("", f"a byte that is not UTF-8 at {error.start}", "a JSON file in UTF-8"),)
        ) from error
    document = strict_json.loads(text)
    document = upgraded(document)
    return document, parse(document)


def write(document: dict[str, Any]) -> bytes:
    """The document as a file for people: two spaces, UTF-8, keys in their order."""
    return (json.dumps(document, indent=2, ensure_ascii=False, allow_nan=False) + "\n").encode()
