"""An edit with what follows from it: another engine, kit or cooling takes the pencil along that was worked from the old one, in the same revision.

What stands in ink stays. Where it cannot stay, because no engine of so many cylinders has it, it gives way to the usual one, in pencil; where it is a record
(a log, an output as it was wired) the edit is refused, and every such place is named.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

import jsonpatch
import jsonpointer
from pydantic import ValidationError

from .errors import BuildError, Problem, UnitError
from .given import Build, apply_edit, parse, upgraded
from .given.document import touches
from .given.edit import Operation, Patch, assumed, resolved, standing, take_out, touched
from .given.engine import usual_order
from .given.fuel import RatedPoint
from .given.injectors import Donor
from .shaped import injector_flow, pump_curve
from .units import Units, si
from .usual import Car, Kit, car_of, usual

#: What the rest of a new build was worked from and may be said otherwise later.
LEADS = ("/engine/layout", "/engine/arrangement", "/engine/cylinders", "/engine/cooling")

#: Facts from which something else in pencil follows: a pump's one figure its table, a donor engine the flow of its injectors, a speed the limit over it.
FACTS = ("/fuel/pump/rated", "/injectors/donor", "/engine/power_speed")

#: What no other kit changes: the head stays on the engine.
_STAYS = {"/engine/valve_train", "/engine/chamber"}


def edited(
    document: dict[str, Any], patch: Any, build: Build | None = None, units: Units = "as_written"
) -> tuple[dict[str, Any], Patch, Build]:
    """As `apply_edit`, with what follows carried along. Raises PatchError, and BuildError naming every record that the edit would belie."""
    written = [op["path"] for op in patch if isinstance(op, dict) and isinstance(op.get("path"), str)] if isinstance(patch, list) else []
    leads = any(path in LEADS for path in written)
    if not leads and not any(touches(path, fact) for path in written for fact in FACTS):
        return apply_edit(document, patch, build, units)
    document = upgraded(document)
    operations = resolved(document, patch, units)
    try:
        after = jsonpatch.apply_patch(document, operations)
        more = [*(_carried(document, after, touched(operations)) if leads else ()), *_follows(after, touched(operations))]
    except (jsonpatch.JsonPatchException, jsonpointer.JsonPointerException, KeyError, TypeError, AttributeError):
        more = []  # the edit does not fit the build, and is told so where it is applied
    return apply_edit(document, [*operations, *more], build)


def _carried(before: dict[str, Any], after: dict[str, Any], written: list[str]) -> Iterator[Operation]:
    engine = after["engine"]
    n = engine["cylinders"]
    if not isinstance(n, int) or isinstance(n, bool) or not 1 <= n <= 12 or engine["arrangement"] not in ("inline", "vee", "flat"):
        return
    if belied := [*_belied(after, n)]:
        raise BuildError(f"What was recorded speaks of more than {n} cylinders.", tuple(belied))
    old = car_of(parse(before))
    pencil = after.get("marks", {})
    order = tuple(engine["firing_order"])
    if "/engine/firing_order" not in written and (sorted(order) != list(range(1, n + 1)) or _in_pencil(pencil, "/engine/firing_order")):
        order = tuple(usual_order(n, engine["arrangement"]))
        if list(order) != engine["firing_order"]:
            yield from assumed("/engine/firing_order", list(order))
    new = _car(old, engine, order)
    was, will = usual(old, before["name"]), usual(new, before["name"])
    said = {*LEADS, *_STAYS, "/engine/firing_order"}
    banks = engine.get("banks")
    if banks is not None and sorted(c for bank in banks for c in bank) != list(range(1, n + 1)):
        fit = will["engine"].get("banks")
        said.add("/engine/banks")
        if "/engine/banks" not in written:
            yield from assumed("/engine/banks", fit) if fit else [take_out("/engine/banks")]
    for pointer in dict.fromkeys([*pencil, *will["marks"]]):
        if pointer in said or any(touches(pointer, path) for path in written):
            continue
        stands, stood, usual_now = (standing(d, pointer) for d in (after, was, will))
        if stands != stood or stood == usual_now or not (stands is None or _in_pencil(pencil, pointer)):
            continue  # somebody's own, or the same for both
        if usual_now is None:
            yield take_out(pointer)
        else:
            yield from assumed(pointer, usual_now)


def _follows(after: dict[str, Any], written: list[str]) -> Iterator[Operation]:
    """What stands in pencil and follows from a fact that was written just now."""
    pencil = after.get("marks", {})

    def free(pointer: str) -> bool:
        own = any(touches(pointer, path) for path in written if not any(touches(path, fact) for fact in FACTS))
        return not own and any(_in_pencil(pencil, p) for p in (pointer, pointer.rsplit("/", 1)[0]))

    def wrote(fact: str) -> Any:
        return standing(after, fact) if any(touches(path, fact) for path in written) else None

    try:
        if (rated := wrote("/fuel/pump/rated")) is not None and free("/fuel/pump/curve"):
            yield from assumed("/fuel/pump/curve", pump_curve(RatedPoint.model_validate(rated)))
        if (donor := wrote("/injectors/donor")) is not None and free("/injectors/flow"):
            known = Donor.model_validate(donor)
            yield from assumed("/injectors/flow", injector_flow(known))
            yield from assumed("/injectors/rated_at", str(known.pressure))
            yield from assumed("/injectors/fluid", "petrol")
        if (speed := wrote("/engine/power_speed")) is not None and free("/engine/rev_limit"):
            wanted, limit = si(speed, "speed"), si(after["engine"]["rev_limit"], "speed")
            if limit < wanted:  # nobody's own limit stands in the way of a speed that somebody stated
                yield from assumed("/engine/rev_limit", f"{wanted * 60 * OVER_POWER:.0f} rpm")
    except (ValidationError, UnitError):
        return  # it is told where it is read


OVER_POWER = 1.1  # of the speed of full power, a usual limit


def _in_pencil(marks: dict[str, Any], pointer: str) -> bool:
    return bool(marks.get(pointer, {}).get("kind") == "assumed")


def _car(old: Car, engine: dict[str, Any], order: tuple[int, ...]) -> Car:
    bodies = old.kit == "throttle_body_bank" and engine["layout"] == "throttle_body"
    kit: Kit = "throttle_body_bank" if bodies else engine["layout"]
    return replace(
        old, kit=kit, arrangement=engine["arrangement"], cylinders=engine["cylinders"], cooling=engine.get("cooling", "not_noted"), firing_order=order
    )  # fmt: skip


def _belied(document: dict[str, Any], n: int) -> Iterator[Problem]:
    """Records that name a cylinder beyond the last."""
    for place, key, what in (
        ("/engine/compression", "cylinder", "the compression log"),
        ("/ignition/outputs", "cylinders", "the outputs as wired"),
        ("/ignition/letters", "cylinders", "the coil plugs of the harness"),
        ("/injectors/outputs", "cylinders", "the injectors' outputs as wired"),
    ):
        for i, row in enumerate(standing(document, place) or []):
            named = row.get(key) if isinstance(row, dict) else None
            beyond = [c for c in (named if isinstance(named, list) else [named]) if isinstance(c, int) and c > n]
            if beyond:
                yield Problem(
                    f"{place}/{i}/{key}",
                    f"cylinder {beyond[0]}",
                    f"cylinders 1 to {n}: take it out of {what} first, or keep the engine as it is",
                )
