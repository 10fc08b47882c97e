"""Plans by revision, remembered: a revision never changes, so its plan never does. Memory only, any process can make it again."""

from __future__ import annotations

import json
import uuid
from collections import OrderedDict
from collections.abc import Callable
from threading import Lock
from typing import Any, TypeVar

from ..core.given import Build, parse
from ..core.plan import Plan, StationKey, evaluate
from ..core.questions import Question, questions
from ..core.stages.fuel.depth import FuelDepth, look_deeper
from ..core.stages.trigger import scope
from ..core.stages.trigger.scope import TriggerDepth
from ..store.tables import RevisionRow

_KEPT = 64
T = TypeVar("T")
K = TypeVar("K")


class Plans:
    """The last plans worked out, by build and revision."""

    def __init__(self) -> None:
        self._plans: OrderedDict[tuple[uuid.UUID, int], Plan] = OrderedDict()
        self._documents: OrderedDict[tuple[uuid.UUID, int], dict[str, Any]] = OrderedDict()
        self._depths: OrderedDict[tuple[uuid.UUID, int], FuelDepth] = OrderedDict()
        self._questions: OrderedDict[tuple[uuid.UUID, int, str], list[Question]] = OrderedDict()
        self._scopes: OrderedDict[tuple[uuid.UUID, int], TriggerDepth | None] = OrderedDict()
        self._lock = Lock()

    def of(self, revision: RevisionRow, build: Build | None = None) -> Plan:
        """The plan of a revision. `build` saves parsing when the caller has it."""
        return self._remembered(self._plans, _key(revision), lambda: evaluate(build if build is not None else parse(revision.document)))

    def document(self, build_id: uuid.UUID, number: int, read: Callable[[], dict[str, Any]]) -> dict[str, Any]:
        """The document of a revision, read once: a drag asks for it many times a second. Not to be changed."""
        return self._remembered(self._documents, (build_id, number), read)

    def fuel_depth(self, revision: RevisionRow) -> FuelDepth:
        """The fuel system of a revision looked at longer."""
        return self._remembered(self._depths, _key(revision), lambda: look_deeper(revision.document, parse(revision.document)))

    def trigger_depth(self, revision: RevisionRow) -> TriggerDepth | None:
        """The trigger of a revision on the scope; None without a wheel."""
        return self._remembered(self._scopes, _key(revision), lambda: scope.look_deeper(parse(revision.document)))

    def questions(self, revision: RevisionRow, station: StationKey) -> list[Question]:
        """A station's questions on a revision, every answer tried."""
        plan = self.of(revision)
        return self._remembered(
            self._questions, (*_key(revision), station), lambda: questions(station, revision.document, parse(revision.document), plan)
        )

    def _remembered(self, kept: OrderedDict[K, T], key: K, work: Callable[[], T]) -> T:
        with self._lock:
            if key in kept:
                kept.move_to_end(key)
                return kept[key]
        found = work()
        with self._lock:
            kept[key] = found
            while len(kept) > _KEPT:
                kept.popitem(last=False)
        return found


def _key(revision: RevisionRow) -> tuple[uuid.UUID, int]:
    return revision.build_id, revision.number


def joined(**parts: Any) -> str:
    """A JSON object from parts that are models (dumped fast) or plain values."""
    told = []
    for name, part in parts.items():
        text = part.model_dump_json() if hasattr(part, "model_dump_json") else json.dumps(part, ensure_ascii=False)
        told.append(f"{json.dumps(name)}:{text}")
    return "{" + ",".join(told) + "}"
