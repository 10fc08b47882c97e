"""The build file: JSON, UTF-8, of the published schema."""

from __future__ import annotations

import json
from typing import Any

from ..core.errors import FormatError, Problem
from ..core.given import Build, parse, upgraded

MAX_BYTES = 2_000_000
MAX_DEPTH = 40


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
    if _depth(text) > MAX_DEPTH:
        raise FormatError(
            "The file is nested too deeply to be a build.",
            (Problem("", f"more than {MAX_DEPTH} levels", "a build file, which has fewer than ten levels"),),
        )
    try:
        document = json.loads(text, parse_constant=_no_constant, object_pairs_hook=_unique, parse_float=_finite, parse_int=_short)
    except json.JSONDecodeError as error:
        raise FormatError(
            "The file is not JSON.", (Problem("", f"{error.msg} in line {error.lineno}, column {error.colno}", "a JSON build file"),)
        ) from error
    except RecursionError as error:
        raise FormatError("The file is nested too deeply to be a build.", (Problem("", "too many levels", "a build file"),)) from error
    document = upgraded(document)
    return document, parse(document)


def write(document: dict[str, Any]) -> bytes:
    """The document as a file for people: two spaces, UTF-8, keys in their order."""
    return (json.dumps(document, indent=2, ensure_ascii=False, allow_nan=False) + "\n").encode()


def _depth(text: str) -> int:
    depth = deepest = 0
    in_string = escaped = False
    for c in text:
        if in_string:
            in_string = escaped or c != '"'
            escaped = c == "\\" and not escaped
        elif c == '"':
            in_string, escaped = True, False
        elif c in "[{":
            depth += 1
            deepest = max(deepest, depth)
            if deepest > MAX_DEPTH:
                return deepest
        elif c in "]}":
            depth -= 1
    return deepest


def _no_constant(name: str) -> Any:
    raise FormatError("The file holds a number that is not one.", (Problem("", name, "a finite number"),))


def _finite(text: str) -> float:
    value = float(text)
    if value in (float("inf"), float("-inf")):
        raise FormatError("The file holds a number that is too large.", (Problem("", text[:40], "a finite number"),))
    return value


def _short(text: str) -> int:
    if len(text) > 20:
        raise FormatError("The file holds a number that is too large.", (Problem("", text[:40] + "...", "a number of usual size"),))
    return int(text)


def _unique(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found = dict(pairs)
    if len(found) != len(pairs):
        keys = [key for key, _ in pairs]
        twice = next(key for key in keys if keys.count(key) > 1)
        raise FormatError("The file gives one key twice.", (Problem("", repr(twice)[:80], "each key once"),))
    return found
