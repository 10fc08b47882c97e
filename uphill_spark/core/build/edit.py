"""Edits: JSON Patch (RFC 6902) on the build document, and what a patch does to pencil marks."""

from __future__ import annotations

import copy
from typing import Any

import jsonpatch
import jsonpointer

from ..errors import PatchError, Problem
from .document import Build, parse

MAX_OPERATIONS = 200
Operation = dict[str, Any]


def escape(pointer: str) -> str:
    """A pointer as one reference token, for use as a key (RFC 6901)."""
    return pointer.replace("~", "~0").replace("/", "~1")


def touched(patch: list[Operation]) -> list[str]:
    """The pointers that a patch writes to."""
    return [op["path"] for op in patch if op["op"] != "test"] + [op["from"] for op in patch if op["op"] == "move"]


def apply_edit(document: dict[str, Any], patch: Any) -> tuple[dict[str, Any], list[Operation], Build]:
    """The edited document, the patch in full, and the validated build.

    A value that the person writes stops being an assumption: assumed marks at or above what the patch touches are taken off,
    unless the patch sets that mark itself; the added operations are part of the returned patch. Raises PatchError for a patch
    that does not fit and BuildError for a result that is not a build. `document` is left as it was.
    """
    operations = _checked(patch)
    paths = touched(operations)
    full = list(operations)
    for pointer, mark in document.get("marks", {}).items():
        path = f"/marks/{escape(pointer)}"
        written = any(p == pointer or p.startswith(pointer + "/") for p in paths)
        if written and mark.get("kind") == "assumed" and path not in paths:
            full.append({"op": "remove", "path": path})
    try:
        edited = jsonpatch.apply_patch(copy.deepcopy(document), full)
    except (jsonpatch.JsonPatchException, jsonpointer.JsonPointerException, KeyError, TypeError, IndexError, AttributeError) as error:
        raise PatchError("The edit does not fit the build.", (Problem(paths[0] if paths else "", str(error)[:200], "a path that is in the build"),)) from error
    build = parse(edited)
    return edited, full, build


def _checked(patch: Any) -> list[Operation]:
    if not isinstance(patch, list) or not patch or len(patch) > MAX_OPERATIONS:
        raise PatchError("An edit is a list of 1 to 200 operations.", (Problem("/patch", type(patch).__name__, "a JSON Patch (RFC 6902)"),))
    for i, op in enumerate(patch):
        at = f"/patch/{i}"
        if not isinstance(op, dict) or op.get("op") not in ("add", "remove", "replace", "move", "copy", "test"):
            raise PatchError("The edit cannot be read.", (Problem(at, repr(op)[:80], "an operation: add, remove, replace, move, copy or test"),))
        for key in ("path", "from") if op["op"] in ("move", "copy") else ("path",):
            if not isinstance(op.get(key), str) or not op[key].startswith("/") or len(op[key]) > 300:
                raise PatchError("The edit cannot be read.", (Problem(f"{at}/{key}", repr(op.get(key))[:80], "a JSON pointer, like /engine/power"),))
        if op["op"] in ("add", "replace", "test") and "value" not in op:
            raise PatchError("The edit cannot be read.", (Problem(f"{at}/value", "nothing", "a value"),))
    return patch
