"""Plans by revision, remembered: a revision never changes, so its plan never does. Memory only, any process can make it again."""

from __future__ import annotations

import json
import uuid
from collections import OrderedDict
from threading import Lock
from typing import Any

from ..core.build import Build, parse
from ..core.plan import Plan, evaluate
from ..store.tables import RevisionRow

_KEPT = 64


class Plans:
    """The last plans worked out, by build and revision."""

    def __init__(self) -> None:
        self._plans: OrderedDict[tuple[uuid.UUID, int], Plan] = OrderedDict()
        self._lock = Lock()

    def of(self, revision: RevisionRow, build: Build | None = None) -> Plan:
        """The plan of a revision. `build` saves parsing when the caller has it."""
        key = (revision.build_id, revision.number)
        with self._lock:
            if key in self._plans:
                self._plans.move_to_end(key)
                return self._plans[key]
        plan = evaluate(build if build is not None else parse(revision.document))
        with self._lock:
            self._plans[key] = plan
            while len(self._plans) > _KEPT:
                self._plans.popitem(last=False)
        return plan


def joined(**parts: Any) -> str:
    """A JSON object from parts that are models (dumped fast) or plain values."""
    told = []
    for name, part in parts.items():
        text = part.model_dump_json() if hasattr(part, "model_dump_json") else json.dumps(part, ensure_ascii=False)
        told.append(f"{json.dumps(name)}:{text}")
    return "{" + ",".join(told) + "}"
