"""Edits: JSON Patch (RFC 6902) on the build document, and what a patch does to pencil marks."""

from __future__ import annotations

from typing import Any

import jsonpatch
import jsonpointer

from ..errors import PatchError, Problem
from ..units import Units
from .cells import acted
from .document import Build, copied, parse, upgraded
from .kept import sum_of

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


def unescape(token: str) -> str:
    """A name as it stands, of one token of a JSON pointer (RFC 6901)."""
    return token.replace("~1", "/").replace("~0", "~")


def resolved(document: Any, patch: Any, units: Units = "as_written") -> Patch:
    """A patch with what was typed into fields read, by somebody with these units, each operation with its value. Raises PatchError and BuildError."""
    return [_as_value(document, op, units) for op in _checked(patch)]


def standing(document: Any, pointer: str) -> Any:
    """What stands at a place of a document; None where there is nothing, or no such place."""
    try:
        found = jsonpointer.resolve_pointer(document, pointer, None)
    except jsonpointer.JsonPointerException:
        return None
    return None if isinstance(found, jsonpointer.EndOfList) else found


def touched(patch: list[Operation]) -> list[str]:
    """The pointers that a patch writes to."""
    return [op["path"] for op in patch if op["op"] != "test"] + [op["from"] for op in patch if op["op"] == "move"]


def apply_edit(
    document: dict[str, Any], patch: Any, build: Build | None = None, units: Units = "as_written"
) -> tuple[dict[str, Any], list[Operation], Build]:
    """The edited document, the patch in full, and the validated build.

    A value that the person writes stops being an assumption: an assumed mark on it is taken off, one on a whole part is narrowed to
    the rest of that part; the added operations are in the returned patch. Marks that the patch itself sets are left alone. An operation may hold
    `typed`, the text of a field, in place of its value (with `sure`, what is far from what stood there is not asked about), `cells`: what is done to cells of a kept table, `stands`: that the kept tune stands in the unit, or `usual`: the usual value that stands for the field while it is empty, made the person's own. Raises PatchError for a patch that does not fit and BuildError for a result that is not a build. `document` is left as it was;
    where nothing is written the edited one shares it. With `build`, which was read from it, those sections are not read again.
    """
    document = upgraded(document)
    operations = resolved(document, patch, units)
    full = operations + _marks(document, operations)
    written = {pointer.split("/")[1] for op in full for pointer in (op["path"], *([op["from"]] if op["op"] in ("move", "copy") else []))}
    edited = {**document, **{key: copied(document[key]) for key in written & document.keys()}}
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


def _marks(document: dict[str, Any], operations: list[Operation]) -> list[Operation]:
    """Operations by which the marks follow an edit: assumed ones come off what is written, all of them go with what is taken out, and those of a list's entries move with them."""
    before: dict[str, Any] = document.get("marks", {})
    told = {path for path in touched(operations) if path.startswith("/marks/")}
    off = {unescape(op["path"].removeprefix("/marks/")) for op in operations if op["op"] == "remove" and op["path"].startswith("/marks/")}
    now = {p: mark for p, mark in before.items() if p not in off}  # what is accepted as a part is not pencilled again in its rest
    for op in operations:
        if op["op"] == "test" or op["path"].startswith("/marks"):
            continue
        if op["op"] == "move":
            now = _without(now, document, op["from"])
        if op["op"] == "remove":
            now = _without(now, document, op["path"])
        else:
            entry = _entry(document, op["path"]) if op["op"] in ("add", "copy", "move") else None
            if entry is not None:
                now = _moved(now, *entry, 1)  # put in before those that stand there
            now = _written(now, document, op["path"])
    gone = [take_out(f"/marks/{escape(p)}") for p in before if p not in now]
    came = [put(f"/marks/{escape(p)}", mark) for p, mark in now.items() if mark != before.get(p)]
    return [op for op in (*gone, *came) if op["path"] not in told]


def _entry(document: dict[str, Any], path: str) -> tuple[str, int] | None:
    """The list and the number that a path to an entry of a list names; None for any other path."""
    above, _, last = path.rpartition("/")
    if not last.isdigit() or not isinstance(jsonpointer.resolve_pointer(document, above, None), list):
        return None
    return above, int(last)


def _moved(marks: dict[str, Any], above: str, first: int, by: int) -> dict[str, Any]:
    """Marks with those of a list's entries from `first` on counted `by` further."""
    found = {}
    for pointer, mark in marks.items():
        token, _, rest = pointer.removeprefix(f"{above}/").partition("/")
        if pointer.startswith(f"{above}/") and token.isdigit() and int(token) >= first:
            pointer = f"{above}/{int(token) + by}" + (f"/{rest}" if rest else "")
        found[pointer] = mark
    return found


def _without(marks: dict[str, Any], document: dict[str, Any], path: str) -> dict[str, Any]:
    """Marks once a part is out."""
    left = {p: mark for p, mark in marks.items() if p != path and not p.startswith(path + "/")}
    entry = _entry(document, path)
    return _moved(left, entry[0], entry[1] + 1, -1) if entry else left


def _written(marks: dict[str, Any], document: dict[str, Any], path: str) -> dict[str, Any]:
    """Marks once a value is written: an assumed one comes off it, one on a whole part is narrowed to the rest of that part."""
    found = dict(marks)
    for pointer in [p for p, mark in marks.items() if mark.get("kind") == "assumed" and (path == p or path.startswith(p + "/"))]:
        mark = found.pop(pointer)
        found.update(dict.fromkeys(_rest(document, pointer, path), mark))
    return found


def _rest(document: Any, pointer: str, path: str) -> list[str]:
    """What stays assumed of the part at `pointer` when `path` in it is written: its other members. A list counts as one value."""
    part: Any = document
    for token in pointer.split("/")[1:]:
        part = part.get(unescape(token)) if isinstance(part, dict) else None
    rest: list[str] = []
    here = pointer
    for token in path[len(pointer) :].split("/")[1:]:
        if not isinstance(part, dict):
            break
        rest += [f"{here}/{escape(key)}" for key in part if escape(key) != token]
        here, part = f"{here}/{token}", part.get(unescape(token))
    return rest


def _as_value(document: Any, operation: Operation, units: Units) -> Operation:
    """An operation that holds what was typed, or takes the usual value, with the value that it stands for (see `typed`); any other as it is."""
    if "cells" in operation:
        table = standing(document, operation["path"])
        return {"op": "replace", "path": operation["path"], "value": acted(table, operation["path"], operation["cells"])}
    if "stands" in operation:
        return put(operation["path"], _sum_of_kept(document, operation["path"]))
    if "typed" not in operation and "usual" not in operation:
        return operation
    from .typed import read_typed, usual_value  # they need the list of fields, which is read off the whole document's model

    rest = {key: value for key, value in operation.items() if key not in ("typed", "usual", "sure")}
    if "usual" in operation:
        return {**rest, "value": usual_value(operation["path"])}
    return {**rest, "value": read_typed(document, operation["path"], operation["typed"], units, sure=operation.get("sure", False))}


def _sum_of_kept(document: Any, pointer: str) -> str:
    """The sum that says that the kept tune stands in the unit as it is."""
    kept = parse(document).tune.kept
    if pointer != "/tune/kept/in_unit" or kept is None:
        raise PatchError("The edit does not fit the build.", (Problem(pointer, "stands", "a tune that is kept: keep one first"),))
    return sum_of(kept.tables)


_FOUND = "/tune/found"


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
        if any(str(op.get(key, "")).startswith(f"{_FOUND}/") for key in ("path", "from")) and op["op"] != "test":
            raise PatchError(
                "What was found in the unit is not written in.",
                (Problem(op["path"], op["op"], "the kept tune, which may be made of it; or take what was found out, as a whole"),),
            )
        if unknown := op.keys() - {"op", "path", "from", "value", "typed", "usual", "sure", "cells", "stands"}:
            raise PatchError(
                "The edit cannot be read.",
                (
                    Problem(
                        f"{at}/{min(unknown)}"[:100], "a key that no operation has", "op, path, value, from, typed, usual, cells or stands"
                    ),
                ),
            )
        if "typed" in op and (op["op"] not in ("add", "replace") or not isinstance(op["typed"], str) or "value" in op):
            raise PatchError(
                "The edit cannot be read.",
                (Problem(f"{at}/typed", repr(op["typed"])[:80], "the text as it was typed, to add or replace, in place of a value"),),
            )
        if "sure" in op and ("typed" not in op or not isinstance(op["sure"], bool)):
            raise PatchError(
                "The edit cannot be read.", (Problem(f"{at}/sure", repr(op["sure"])[:80], "true or false, beside what was typed"),)
            )
        if "usual" in op and (op["op"] != "add" or op["usual"] is not True or "value" in op or "typed" in op):
            raise PatchError(
                "The edit cannot be read.", (Problem(f"{at}/usual", repr(op["usual"])[:80], "true, to add, in place of a value"),)
            )
        if "cells" in op and (op["op"] != "replace" or op.keys() & {"value", "typed", "usual", "stands"}):
            raise PatchError(
                "The edit cannot be read.",
                (Problem(f"{at}/cells", repr(op["cells"])[:80], "what is done to cells, to replace, in place of a value"),),
            )
        if "stands" in op and (op["op"] != "add" or op["stands"] is not True or op.keys() & {"value", "typed", "usual"}):
            raise PatchError(
                "The edit cannot be read.", (Problem(f"{at}/stands", repr(op["stands"])[:80], "true, to add, in place of a value"),)
            )
        if op["op"] in ("add", "replace", "test") and not op.keys() & {"value", "typed", "usual", "cells", "stands"}:
            raise PatchError("The edit cannot be read.", (Problem(f"{at}/value", "nothing", "a value"),))
    return patch
