"""Edits: JSON Patch (RFC 6902) on the build document, and what a patch does to pencil marks."""

from __future__ import annotations

import copy
from typing import Any

import jsonpatch
import jsonpointer

from ..errors import PatchError, Problem
from .document import Build, parse, upgraded

MAX_OPERATIONS = 200
COPIES_MOST = 500_000  # bytes that a patch may copy
Operation = dict[str, Any]
Patch = list[Operation]


def put(path: str, value: Any) -> Operation:
    """The operation that writes a value, there before or not."""
    return {"op": "add", "path": path, "value": value}


def take_out(path: str) -> Operation:
    """The operation that removes a value."""
    return {"op": "remove", "path": path}


def assumed(path: str, value: Any) -> Patch:
    """A value written in pencil: somebody has still to measure or accept it."""
    return [put(path, value), put(f"/marks/{escape(path)}", {"kind": "assumed"})]


def escape(pointer: str) -> str:
    """A pointer as one reference token, for use as a key (RFC 6901)."""
    return pointer.replace("~", "~0").replace("/", "~1")


def touched(patch: list[Operation]) -> list[str]:
    """The pointers that a patch writes to."""
    return [op["path"] for op in patch if op["op"] != "test"] + [op["from"] for op in patch if op["op"] == "move"]


def apply_edit(document: dict[str, Any], patch: Any, build: Build | None = None) -> tuple[dict[str, Any], list[Operation], Build]:
    """The edited document, the patch in full, and the validated build.

    A value that the person writes stops being an assumption: an assumed mark on it is taken off, one on a whole part is narrowed to
    the rest of that part; the added operations are in the returned patch. Marks that the patch itself sets are left alone. An operation may hold
    `typed`, the text of a field, in place of its value. Raises PatchError for a patch that does not fit and BuildError for a result that is not a build. `document` is left as it was;
    where nothing is written the edited one shares it. With `build`, which was read from it, those sections are not read again.
    """
    document = upgraded(document)
    operations = [_as_value(document, op) for op in _checked(patch)]
    full = operations + _marks_after(document, touched(operations)) + _marks_of_removed(document, operations)
    written = {pointer.split("/")[1] for op in full for pointer in (op["path"], *([op["from"]] if op["op"] in ("move", "copy") else []))}
    edited = {**document, **{key: copy.deepcopy(document[key]) for key in written & document.keys()}}
    try:
        if any(op["op"] == "copy" for op in full):
            edited = _within_budget(edited, full)
        else:
            edited = jsonpatch.apply_patch(edited, full, in_place=True)
    except (jsonpatch.JsonPatchException, jsonpointer.JsonPointerException, KeyError, TypeError, IndexError, AttributeError) as error:
        raise PatchError(
            "The edit does not fit the build.",
            (Problem(operations[0]["path"], str(error).split(" in {")[0][:120], "a path that is in the build"),),
        ) from error
    same = {key: getattr(build, key) for key in edited.keys() & Build.model_fields.keys() - written} if build is not None else {}
    return edited, full, parse(edited, same)


def _within_budget(document: dict[str, Any], patch: list[Operation]) -> dict[str, Any]:
    """A patch that copies, applied: what was copied may be copied again, and a few such operations would fill any memory. Raises PatchError."""
    left = COPIES_MOST
    for i, op in enumerate(patch):
        if op["op"] == "copy":
            left -= len(repr(jsonpointer.resolve_pointer(document, op["from"])))
            if left < 0:
                raise PatchError(
                    "The edit copies too much.",
                    (Problem(f"/patch/{i}", f"a copy of {op['from'][:80]}", f"copies of {COPIES_MOST // 1000} kB in all"),),
                )
        document = jsonpatch.apply_patch(document, [op], in_place=True)
    return document


def _marks_after(document: dict[str, Any], paths: list[str]) -> list[Operation]:
    """Operations that take the assumed marks off what `paths` write to."""
    marks = {p: mark for p, mark in document.get("marks", {}).items() if mark.get("kind") == "assumed"}
    told = {path for path in paths if path.startswith("/marks/")}
    now = dict(marks)
    for path in paths:
        for pointer in [p for p in now if path == p or path.startswith(p + "/")]:
            if f"/marks/{escape(pointer)}" not in told:
                del now[pointer]
                now.update({rest: marks.get(pointer, {"kind": "assumed"}) for rest in _rest(document, pointer, path)})
    removed = [{"op": "remove", "path": f"/marks/{escape(p)}"} for p in marks if p not in now]
    return removed + [{"op": "add", "path": f"/marks/{escape(p)}", "value": mark} for p, mark in now.items() if p not in marks]


def _marks_of_removed(document: Any, operations: list[Operation]) -> list[Operation]:
    """Operations that take marks along with the parts of the build that are taken out. List entries go by number, so they are left alone."""
    gone = [op["path"] for op in operations if op["op"] == "remove" and not op["path"].rsplit("/", 1)[-1].isdigit()]
    assumed_above = {p for p, mark in document.get("marks", {}).items() if mark.get("kind") == "assumed" and p in gone}
    below = [p for p in document.get("marks", {}) if p not in assumed_above and any(p == path or p.startswith(path + "/") for path in gone)]
    return [{"op": "remove", "path": f"/marks/{escape(p)}"} for p in below]


def _rest(document: Any, pointer: str, path: str) -> list[str]:
    """What stays assumed of the part at `pointer` when `path` in it is written: its other members. A list counts as one value."""
    part: Any = document
    for token in pointer.split("/")[1:]:
        part = part.get(token.replace("~1", "/").replace("~0", "~")) if isinstance(part, dict) else None
    rest: list[str] = []
    here = pointer
    for token in path[len(pointer) :].split("/")[1:]:
        if not isinstance(part, dict):
            break
        rest += [f"{here}/{escape(key)}" for key in part if escape(key) != token]
        here, part = f"{here}/{token}", part.get(token.replace("~1", "/").replace("~0", "~"))
    return rest


def _as_value(document: Any, operation: Operation) -> Operation:
    """An operation that holds what was typed, with the value that it stands for (see `typed`); any other as it is."""
    if "typed" not in operation:
        return operation
    from .typed import read_typed  # it needs the list of fields, which is read off the whole document's model

    rest = {key: value for key, value in operation.items() if key != "typed"}
    return {**rest, "value": read_typed(document, operation["path"], operation["typed"])}


def _checked(patch: Any) -> list[Operation]:
    if not isinstance(patch, list) or not patch or len(patch) > MAX_OPERATIONS:
        raise PatchError("An edit is a list of 1 to 200 operations.", (Problem("/patch", type(patch).__name__, "a JSON Patch (RFC 6902)"),))
    for i, op in enumerate(patch):
        at = f"/patch/{i}"
        if not isinstance(op, dict) or op.get("op") not in ("add", "remove", "replace", "move", "copy", "test"):
            raise PatchError(
                "The edit cannot be read.", (Problem(at, repr(op)[:80], "an operation: add, remove, replace, move, copy or test"),)
            )
        for key in ("path", "from") if op["op"] in ("move", "copy") else ("path",):
            if not isinstance(op.get(key), str) or not op[key].startswith("/") or len(op[key]) > 300:
                raise PatchError(
                    "The edit cannot be read.", (Problem(f"{at}/{key}", repr(op.get(key))[:80], "a JSON pointer, like /engine/power"),)
                )
        if unknown := op.keys() - {"op", "path", "from", "value", "typed"}:
            raise PatchError(
                "The edit cannot be read.",
                (Problem(f"{at}/{min(unknown)}"[:100], "a key that no operation has", "op, path, value, from, or typed"),),
            )
        if "typed" in op and (op["op"] not in ("add", "replace") or not isinstance(op["typed"], str) or "value" in op):
            raise PatchError(
                "The edit cannot be read.",
                (Problem(f"{at}/typed", repr(op["typed"])[:80], "the text as it was typed, to add or replace, in place of a value"),),
            )
        if op["op"] in ("add", "replace", "test") and "value" not in op and "typed" not in op:
            raise PatchError("The edit cannot be read.", (Problem(f"{at}/value", "nothing", "a value"),))
    return patch
