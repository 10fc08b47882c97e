"""JSON as it is taken in, from files and from requests: bounded in depth and in its numbers, each key once, text that can be kept and written anywhere."""

from __future__ import annotations

import json
import re
from typing import Any

from ..core.errors import FormatError, Problem

MAX_DEPTH = 40
#: Half a character, and the end of a string in other languages: neither can be stored or sent on.
_NOT_TEXT = re.compile("[\ud800-\udfff\x00]")


def loads(text: str) -> Any:
    """What a text holds. Raises FormatError with what would do."""
    if _depth(text) > MAX_DEPTH:
        raise FormatError("This is nested too deeply.", (Problem("", f"more than {MAX_DEPTH} levels", "JSON of fewer than ten levels"),))
    try:
        found = json.loads(text, parse_constant=_no_constant, object_pairs_hook=_unique, parse_float=_finite, parse_int=_short)
    except json.JSONDecodeError as error:
        raise FormatError(
            "This is not JSON.", (Problem("", f"{error.msg} in line {error.lineno}, column {error.colno}", "JSON in UTF-8"),)
        ) from error
    except RecursionError as error:
        raise FormatError("This is nested too deeply.", (Problem("", "too many levels", "JSON of fewer than ten levels"),)) from error
    # Looked for only where it can be: written as it is, or as an escape.
    if _NOT_TEXT.search(text) or re.search(r"\\u(d[89a-f]|0000)", text, re.IGNORECASE):
        _check_text(found)
    return found


def _check_text(node: Any) -> None:
    waiting = [node]
    while waiting:
        one = waiting.pop()
        if isinstance(one, dict):
            waiting += [*one.keys(), *one.values()]
        elif isinstance(one, list):
            waiting += one
        elif isinstance(one, str) and (found := _NOT_TEXT.search(one)) is not None:
            raise FormatError(
                "This holds what is no text.", (Problem("", f"the sign {found[0]!a}", "letters, digits and signs that can be written"),)
            )


def _depth(text: str) -> int:
    """How deep brackets are nested, outside of strings."""
    depth = deepest = 0
    for sign in re.sub(r'"(?:[^"\\]|\\.)*"?|[^\[\]{}"]+', "", text):
        if sign in "[{":
            depth += 1
            deepest = max(deepest, depth)
            if deepest > MAX_DEPTH:
                break
        else:
            depth -= 1
    return deepest


def _no_constant(name: str) -> Any:
    raise FormatError("This holds a number that is not one.", (Problem("", name, "a finite number"),))


def _finite(text: str) -> float:
    value = float(text)
    if value in (float("inf"), float("-inf")):
        raise FormatError("This holds a number that is too large.", (Problem("", text[:40], "a finite number"),))
    return value


def _short(text: str) -> int:
    if len(text) > 20:
        raise FormatError("This holds a number that is too large.", (Problem("", text[:40] + "...", "a number of usual size"),))
    return int(text)


def _unique(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found = dict(pairs)
    if len(found) != len(pairs):
        seen: set[str] = set()
        twice = next(key for key, _ in pairs if key in seen or seen.add(key))  # type: ignore[func-returns-value]
        raise FormatError("This gives one key twice.", (Problem("", repr(twice)[:80], "each key once"),))
    return found
