"""What a person waits for at the work: a plan laid, drawn, levelled; a word found in a long diary; an archive out and in."""

from __future__ import annotations

import datetime as dt
import io
import os
import random
import resource
import statistics
import tempfile
import time
import uuid
from collections.abc import Callable
from typing import Any

import numpy as np
from PIL import Image
from sqlalchemy import insert

from bench.fuel import Rows
from tests.builds import document, stands
from uphill_spark import store
from uphill_spark.core.asked.levelled import Model, near
from uphill_spark.core.given import parse
from uphill_spark.core.given.work import OwnTask, Person, Work
from uphill_spark.core.physics.schedule import schedule
from uphill_spark.core.plan import evaluated
from uphill_spark.core.reads import Recall
from uphill_spark.core.stages.work import work_out
from uphill_spark.core.stages.work.made import Asks
from uphill_spark.core.stages.work.net import Net
from uphill_spark.core.stages.work.planned import Schedule, _strata, held, net_of, plan
from uphill_spark.core.stages.work.tasks import rows as task_rows
from uphill_spark.store.tables import DiaryRow

MANY, DRAWS, ENTRIES, PHOTOS = 120, 2000, 20_000, 500


def large(many: int = MANY) -> Net:
    """So many tasks of one's own for two people, each behind one or two of those before it, every tenth of fuel or flame."""
    draw = random.Random(17)
    own = {}
    for k in range(many):
        after = sorted({f"t{draw.randrange(max(k - 12, 0), k)}" for _ in range(draw.randrange(3))}) if k else []
        kind = "fuel" if k % 10 == 3 else "hot" if k % 10 == 7 else "plain"
        hours = draw.choice((1, 1.5, 2, 3, 4))
        own[f"t{k}"] = OwnTask(
            what=f"task {k}",
            after=after,
            work=kind,
            access="standing" if k > many // 2 else "drivable",
            quick=f"{hours / 2} h",
            usual=f"{hours} h",
            slow=f"{hours * 2.5} h",
            helper=k % 15 == 14,
        )
    people = {"ada": Person(name="Ada", free="Tue Thu 19-22; Sat 9-17"), "ben": Person(name="Ben", free="Mon Thu 19-22; Sat 10-16")}
    work = Work(begin="2027-01-11", people=people, own=own)
    e = stands("tern")
    listed = [t for t in task_rows(work, Asks(e.worked, e.plan.fitness, True, True)) if t.own]
    found = net_of(work, listed, [])
    assert not isinstance(found, Schedule), found.trouble
    return found


def core(table: Rows, milliseconds: Callable[[Callable[[], Any], int], list[float]]) -> None:
    """The plan: of the Tern within an edit, of 120 tasks drawn and levelled."""
    doc = document("tern")
    before = evaluated(parse(doc))
    dates = iter(dt.date(2027, 3, 1) + dt.timedelta(k) for k in range(400))

    def slip() -> None:
        doc["work"]["parts"]["fuel.pump"]["due"] = next(dates).isoformat()
        evaluated(parse(doc), before)

    table.row("work: a part slips on the Tern, all worked again, median", 100.0, statistics.median(milliseconds(slip, 15)))
    table.row(
        "work: tasks, parts and money of the Tern, plan as it was",
        None,
        statistics.median(milliseconds(lambda: work_out(Recall(before.worked), before.plan.fitness), 15)),
    )
    net = large()
    keys = [*net.keys, *(f"parts of {k}" for k in net.keys)]
    chances = net.chances(np.stack([_strata(k, DRAWS) for k in keys], axis=1))
    hold = held(net)
    since = time.perf_counter()
    schedule(net.jobs, chances, net.hours, net.together, hold=hold)
    table.row(f"work: {MANY} tasks of two people, {DRAWS:,} draws", 1000.0, (time.perf_counter() - since) * 1e3)
    since = time.perf_counter()
    plan(net.work, net.rows, net.parts)
    table.row(f"work: {MANY} tasks laid, with band and slips", 2000.0, (time.perf_counter() - since) * 1e3)
    since = time.perf_counter()
    near(net, net.keys, "")
    table.row(f"work: {MANY} tasks levelled: the best of 1,200 orders near its own", 2000.0, (time.perf_counter() - since) * 1e3)
    first = schedule(net.jobs, net.chances(), net.hours, net.together, hold=hold)
    since = time.perf_counter()
    model = Model(net, first)
    made = (time.perf_counter() - since) * 1e3
    said: list[float] = []
    since = time.perf_counter()
    model.solve(lambda _: said.append(time.perf_counter() - since))
    table.row(f"solver: {MANY} tasks, model made", None, made)
    table.row("solver: first better order", None, (said[0] if said else float("nan")) * 1e3)
    table.row("solver: to its end or its bound of work", None, (time.perf_counter() - since) * 1e3)


def over_http(table: Rows, database: store.Database, client: Any, milliseconds: Callable[[Callable[[], Any], int], list[float]]) -> None:
    """A long diary searched, an archive with many photographs out and in. `client` is that of the application on the database."""
    made = client.post("/api/builds/import?who=Ada", json=document("tern")).get_json()["id"]
    words = [f"word{k}" for k in range(2000)]
    draw = random.Random(3)
    now = dt.datetime.now(dt.UTC)
    rows = [
        {"id": uuid.uuid4(), "build_id": uuid.UUID(made), "day": dt.date(2027, 1, 1) + dt.timedelta(k % 700), "kind": "did", "words": "", "photos": [], "measured": [], "who": "", "revision": 1, "version": 1, "was": [], "written": now, "text": " ".join(draw.choices(words, k=25))}
        for k in range(ENTRIES)
    ]  # fmt: skip
    for row in rows:
        row["words"] = row["text"]
    for k in range(0, ENTRIES, 1000):
        with database.work() as session:
            session.execute(insert(DiaryRow), rows[k : k + 1000])
    table.row(
        f"diary: a word in {ENTRIES:,} entries, over HTTP, median",
        50.0,
        statistics.median(milliseconds(lambda: client.get(f"/api/builds/{made}/diary?search={draw.choice(words)}"), 15)),
    )
    keys = []
    for _ in range(PHOTOS):
        out = io.BytesIO()
        Image.frombytes("RGB", (640, 480), os.urandom(640 * 480 * 3)).save(out, "JPEG", quality=60)
        keys.append(client.post("/api/photos", data=out.getvalue(), content_type="application/octet-stream").get_json()["key"])
    for k in range(0, PHOTOS, 20):
        client.post(
            f"/api/builds/{made}/diary",
            json={"id": str(uuid.uuid4()), "day": "2027-01-12", "words": "photographs", "photos": keys[k : k + 20]},
        )
    since = time.perf_counter()
    client.get(f"/api/builds/{made}/papers/book.pdf")
    table.row("book of the build, each chapter printed for the first time", None, (time.perf_counter() - since) * 1e3)

    def peak() -> float:
        return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1e3

    before, since = peak(), time.perf_counter()
    with tempfile.TemporaryFile() as kept:
        for piece in client.get(f"/api/builds/{made}/archive.zip", buffered=False).response:
            kept.write(piece)
        table.row(f"archive: {PHOTOS} photographs, {kept.tell() / 1e6:.0f} MB, out", None, (time.perf_counter() - since) * 1e3)
        table.row("archive: memory grown by that", 60.0, peak() - before, "MB")
        size = kept.tell()
        kept.seek(0)
        before, since = peak(), time.perf_counter()
        answer = client.post("/api/archives", input_stream=kept, content_length=size, content_type="application/octet-stream")
    assert answer.status_code == 201, answer.text[:300]
    table.row("archive: and in", None, (time.perf_counter() - since) * 1e3)
    table.row("archive: memory grown by that", 60.0, peak() - before, "MB")
