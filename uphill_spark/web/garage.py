"""The garage: every build by what was told of it when it was stored, what was put away, how the store is kept."""

from __future__ import annotations

import datetime as dt
import json
import os
import threading
import time
import uuid
from pathlib import Path
from typing import Any

from flask import Response, current_app

from .. import store
from ..core.errors import SparkError
from ..core.findings import holding
from ..core.given import parse
from ..core.plan import Plan, evaluate
from ..rules import rules
from .door import database, json_answer, remembered
from .errors import ErrorBody
from .interface import Interface
from .models import BuildPath, Garage, GarageQuery, GarageRow, Keeping
from .standing import log

#: The garage and the builds in it share an address: an address belongs to one blueprint.
api = Interface("builds", __name__, "/api/builds")
#: Rows on a page that are worked out while the person waits; more than these are worked out behind the garage's back.
AT_ONCE = 6
_BATCH = 20
_CANNOT = "This build cannot be worked out"


def told_of(plan: Plan, document: dict[str, Any]) -> dict[str, Any]:
    """What the garage says of a build."""
    return {
        "notes": str(document.get("notes", "")),
        "verdict": plan.verdict,
        "stations": [s.model_dump(mode="json") for s in plan.stations],
        "blocking": [f"{f.code} {f.title}" for f in holding(plan.findings)[:3]],
        "next": plan.next[0].model_dump(mode="json", include={"says", "station", "bench", "minutes"}) if plan.next else None,
        "trouble": "",
    }


def trouble_with(error: Exception, document: dict[str, Any]) -> dict[str, Any]:
    """The same of one that cannot be worked out: it can still be opened as a file."""
    why = str(error).split("\n")[0] if isinstance(error, SparkError) else f"{_CANNOT} ({type(error).__name__})."
    return {"notes": str(document.get("notes", "")), "verdict": "", "stations": [], "blocking": [], "trouble": why}


@api.get(
    "",
    responses={200: Garage},
    summary="The garage, a page of it: those behind a place, those whose name or notes hold some words, or those put away",
)
def garage(query: GarageQuery) -> Response:
    return json_answer(page_of(query).model_dump_json())


def page_of(query: GarageQuery) -> Garage:
    """A page of the garage. What was told by other rules is worked out: a few rows at once, all of them behind its back."""
    with database().work() as session:
        found, many = store.entries(session, search=query.search.strip(), after=query.after, limit=query.limit, away=query.away)
        pending = 0 if query.away else store.count_unworked(session, rules())
        stale = {e.row.id: e.row.head for e in found if e.rules != rules()}
        now = {build_id: store.revision(session, build_id, number).document for build_id, number in list(stale.items())[:AT_ONCE]}
    fresh: dict[uuid.UUID, dict[str, Any]] = {}
    for build_id, document in now.items():
        try:
            fresh[build_id] = told_of(remembered().of(document).plan, document)
        except SparkError as error:
            fresh[build_id] = trouble_with(error, document)
    if pending:
        current_app.extensions["afresh"].begin()
    rows = [_row(e, fresh.get(e.row.id, e.told), pending=e.row.id in stale and e.row.id not in fresh) for e in found]
    more = found[-1].row.place if len(found) == query.limit else None
    return Garage(builds=rows, count=many, more=more, pending=max(pending - len(fresh), 0), keeping=keeping())


def _row(entry: store.Entry, told: dict[str, Any] | None, *, pending: bool) -> GarageRow:
    row = entry.row
    unknown = {"notes": "", "verdict": "", "stations": [], "blocking": [], "trouble": ""}
    return GarageRow(
        id=row.id, name=row.name, demo=row.demo, revision=row.head, changed=row.changed, put_away=row.put_away, removable=store.removable(row, dt.datetime.now(dt.UTC)), pending=pending, **(told or unknown)
    )  # fmt: skip


@api.delete("/<uuid:build_id>", responses={204: None}, summary="Put a build away; its journal stays, and it can be brought back")
def put_away(path: BuildPath) -> Response:
    with database().work() as session:
        store.put_away(session, path.build_id)
    return Response(status=204)


@api.post("/<uuid:build_id>/back", responses={204: None}, summary="Bring a build back that was put away")
def back(path: BuildPath) -> Response:
    with database().work() as session:
        store.bring_back(session, path.build_id)
    return Response(status=204)


@api.delete(
    "/<uuid:build_id>/for-good",
    responses={204: None, 409: ErrorBody},
    summary="Remove a build that was put away 30 days ago or more, with its journal",
)
def remove(path: BuildPath) -> Response:
    with database().work() as session:
        store.remove(session, path.build_id, dt.datetime.now(dt.UTC))
    return Response(status=204)


def keeping() -> Keeping:
    """How the store is kept, as the start command's watch wrote it down; nothing known without a watch."""
    try:
        told = json.loads(Path(os.environ["UPHILL_SPARK_NOTICES"]).read_text())
        return Keeping(watched=True, **told)
    except (KeyError, OSError, ValueError, TypeError):
        return Keeping(watched=False)


class Afresh:
    """Tells of every newest revision again by the present rules, behind the garage's back; one at a time, with breath in between."""

    def __init__(self, database: store.Database) -> None:
        self._database = database
        self._lock = threading.Lock()

    def begin(self) -> None:
        """Begin, unless it is at it."""
        if self._lock.acquire(blocking=False):
            threading.Thread(target=self._work, daemon=True, name="afresh").start()

    def _work(self) -> None:
        try:
            while True:
                with self._database.work() as session:
                    batch = store.unworked(session, rules(), _BATCH)
                if not batch:
                    return
                told = [(build_id, number, _told(document)) for build_id, number, document in batch]
                with self._database.work() as session:
                    for build_id, number, words in told:
                        store.tell(session, build_id, number, words, rules())
        except (store.StoreDown, store.Busy):
            log.warning("the garage could not be told afresh: the store is away; it is begun again when somebody looks")
        finally:
            self._lock.release()


def _told(document: dict[str, Any]) -> dict[str, Any]:
    time.sleep(0.002)  # others wait for answers meanwhile
    try:
        return told_of(evaluate(parse(document)), document)
    except Exception as error:  # whatever a rule stumbles over: that build is told as such, and the rest go on
        log.error("a build cannot be told afresh", exc_info=error)
        return trouble_with(error, document)
