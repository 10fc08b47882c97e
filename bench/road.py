"""What a person waits for on the road: a long log read in, split, opened again; the strip moved; how much of the store it takes; and how often the split is right."""

from __future__ import annotations

import datetime as dt
import io
import os
import subprocess
import sys
import time
import uuid
from collections.abc import Callable
from typing import Any

import asammdf
import numpy as np
import polars as pl
from playwright.sync_api import Page, sync_playwright

from bench.fuel import Rows
from tests.browser.served import CHROMIUM, FLAGS
from tests.builds import document, stands
from uphill_spark import store
from uphill_spark.core.live import QUANTITIES
from uphill_spark.core.logs import Log
from uphill_spark.core.physics.air import Array
from uphill_spark.core.road.reading import read
from uphill_spark.core.standin.drive import Drive, Truth, set_cycle
from uphill_spark.formats import log_columns, log_csv, log_mdf, log_out
from uphill_spark.jobs import logging_in
from uphill_spark.store import logs

ROWS, COLUMNS = 1_000_000, 20


def long_drive() -> dict[str, Array]:
    """A drive of the stand-in, gone through until it has a million rows, with noise of its own each time; and further columns up to twenty."""
    w = stands("tern").worked
    one = Drive(w, [Truth(flow=1.06, bumps=0.03)], set_cycle(4, cold=False), seed=4).run()[0]
    many = -(-ROWS // len(one["time"]))
    draw = np.random.default_rng(1)
    found = {key: np.tile(value, many)[:ROWS] for key, value in one.items() if key != "time"}
    for key, size in (("lambda", 0.003), ("manifold", 0.2), ("speed", 3.0), ("throttle", 0.1)):
        digits = {"lambda": 3, "speed": 0}.get(key, 1)
        found[key] = np.round(found[key] + draw.normal(0, size, ROWS) * (found[key] > 0), digits)
    for k in range(COLUMNS - 1 - len(found)):
        found[f"other {k}"] = np.round(np.cumsum(draw.normal(0, 0.05, ROWS)) + 50, 2)
    return {"time": np.round(np.arange(ROWS) * 0.05, 2), **found}


def core(table: Rows, milliseconds: Callable[..., list[float]]) -> None:
    """Files, columns, the split."""
    found = long_drive()
    keys = [k for k in found if k != "time"]
    names = [QUANTITIES[k].word if k in QUANTITIES else k for k in keys]  # type: ignore[index]
    columns = [found[k] for k in keys]
    text = log_out.written("csv", found["time"], names, [""] * len(names), columns)
    packed = log_out.written("mf4", found["time"], names, [""] * len(names), columns)
    bare = milliseconds(lambda: pl.read_csv(text), 2)[0]
    ours = milliseconds(lambda: log_csv.read(text), 2)[0]
    table.row(f"a log of {ROWS:,} x {COLUMNS}, {len(text) / 1e6:.0f} MB of text, read", 3 * bare, ours)
    print(f"    polars' bare read of it: {bare:.0f} ms; {ours / bare:.2f} times that")

    def library() -> None:
        with asammdf.MDF(io.BytesIO(packed)) as mdf:
            mdf.select([(None, 0, j) for j in range(1, COLUMNS)])

    bare = milliseconds(library, 2)[0]
    ours = milliseconds(lambda: log_mdf.read(packed), 2)[0]
    table.row("the same as MDF 4", 2 * bare, ours)
    print(f"    the library's own read of it: {bare:.0f} ms; {ours / bare:.2f} times that")
    began = time.perf_counter()
    size = sum(
        len(log_columns.packed(c[a : a + log_columns.ROWS])) for c in (found["time"], *columns) for a in range(0, ROWS, log_columns.ROWS)
    )
    table.row("its columns packed", None, (time.perf_counter() - began) * 1e3)
    table.row("what they take of the text", 25, size / len(text) * 100, "%")
    w = stands("tern").worked
    log = Log(found["time"], {k: found[k] for k in keys if k in QUANTITIES})  # type: ignore[misc]
    table.row("all that it says: believed, lag, split, cells, pulls", 1500, milliseconds(lambda: read(w, log), 2)[0])


def over_http(table: Rows, database: store.Database, client: Any, milliseconds: Callable[..., list[float]]) -> str:
    """A long log taken in as the worker does, opened again, and handed out. Returns the address of its strip on the page."""
    found = long_drive()
    keys = [k for k in found if k != "time"]
    names = [QUANTITIES[k].word if k in QUANTITIES else k for k in keys]  # type: ignore[index]
    text = log_out.written("csv", found["time"], names, [""] * len(names), [found[k] for k in keys])
    with database.work() as session:
        build = store.create(session, document(), "bench", "bench").row.id
    log_id = uuid.uuid4()
    with database.work() as session:
        row = logs.begin(session, build, log_id, name="long", day=dt.date(2027, 5, 2), who="", kind="file")
        logs.file_in(session, row, logs.cut(text))
    began = time.perf_counter()
    logging_in.take_in(database, log_id)
    table.row("it taken in: out of the store as it came, read, its columns put in", None, (time.perf_counter() - began) * 1e3)
    at = f"/api/builds/{build}/logs/{log_id}"
    told = client.get(at).get_json()
    assert told["line"]["state"] in ("asks", "kept"), told["line"]["why"]
    if told["line"]["state"] == "asks":
        taken = [{k: t[k] for k in ("column", "quantity", "factor", "offset")} for t in told["taken"]]
        assert client.put(f"{at}/columns", json={"taken": taken}).status_code == 200
    numbers = ",".join(str(k + 1) for k in range(5))
    table.row(
        "opened again: what it is, and five columns as a strip",
        300,
        milliseconds(lambda: (client.get(at), client.get(f"{at}/strip?columns={numbers}&points=1500")), 5)[2],
    )
    table.row(
        "a minute in the middle of it, row by row",
        300,
        milliseconds(lambda: client.get(f"{at}/strip?columns={numbers}&begin=24000&end=24060&points=1500"), 5)[2],
    )
    return f"/b/{build}/road/strip?log={log_id}"


def strip(table: Rows, database: store.Database, address: str) -> None:
    """The strip of a long log in a browser, moved and looked into, once the worker has read it."""
    worker = subprocess.Popen([sys.executable, "-m", "uphill_spark.jobs"], env={**os.environ, "UPHILL_SPARK_DATABASE": database.url})
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page()
        page.goto(address)
        try:
            page.locator("[role=application]").wait_for(timeout=180_000)
        finally:
            worker.kill()
            worker.wait()
        page.wait_for_load_state("networkidle")
        frames(page, 30)
        table.row("a frame of its strip while it is moved and looked into", 20.0, 1000 / frames(page))
        browser.close()


def frames(page: Page, steps: int = 120) -> float:
    """Frames a second while a strip is moved and looked into, by what the browser itself counts."""
    return float(
        page.evaluate(
            """async (steps) => {
                const strip = document.querySelector("[role=application]");
                const box = strip.getBoundingClientRect();
                const times = [];
                for (let k = 0; k < steps; k++) {
                    strip.dispatchEvent(new WheelEvent("wheel", {deltaY: k % 2 ? 0 : (k < steps / 2 ? -40 : 40), deltaX: k % 2 ? 60 : 0, clientX: box.left + box.width / 2, clientY: box.top + 40, bubbles: true, cancelable: true}));
                    await new Promise(requestAnimationFrame);
                    times.push(performance.now());
                }
                return 1000 * (times.length - 1) / (times.at(-1) - times[0]);
            }""",
            steps,
        )
    )
