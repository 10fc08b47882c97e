"""Measure what a person waits for, and print it as a table: goal, figure, how many yardsticks it is, and whether it is over its goal in yardsticks.

The yardstick is a fixed piece of work timed in the same run, so that two runs on different machines can be compared by ratio.
"""

from __future__ import annotations

import http.client
import json
import os
import pathlib
import statistics
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from typing import Any
from urllib.parse import urlsplit

from playwright.sync_api import Page, sync_playwright

from bench import circuit, engine, fuel, injectors, road, start, trigger, tune, work
from tests.browser.served import CHROMIUM, FLAGS
from tests.builds import document
from tests.database import DatabaseCase
from tests.leaves import NOT_VALUES, at, grown, leaves, other_values
from tests.speed import REFERENCE, yardstick
from uphill_spark import collector, demo
from uphill_spark.core.errors import BuildError
from uphill_spark.core.given import Build, apply_edit, parse
from uphill_spark.core.given.fields import info_at
from uphill_spark.core.plan import evaluate, evaluated
from uphill_spark.core.ripple import ripple
from uphill_spark.web import create_app

ROOT = pathlib.Path(__file__).resolve().parents[1]
PEOPLE, EDITS = 10, 12
PATHS = [
    ("/engine/power", "{} kW", range(100, 160)),
    ("/fuel/parts/supply/length", "{} m", range(3, 9)),
    ("/wiring/branches/unit_tank/length", "{} m", range(2, 8)),
]


def milliseconds(work: Callable[[], Any], times: int) -> list[float]:
    """Sorted times of a piece of work, after two that are not counted."""
    found = []
    for k in range(times + 2):
        started = time.perf_counter()
        work()
        if k > 1:
            found.append((time.perf_counter() - started) * 1e3)
    return sorted(found)


class Table:
    def __init__(self) -> None:
        self.rule = statistics.median(milliseconds(yardstick, 15))
        print(f"{'what':<58}{'goal':>12}{'found':>12}{'yardsticks':>12}")
        print(f"{'yardstick: 4,000 small lists through JSON, 40,000 squares':<58}{'':>12}{self.rule:>9.1f} ms{1.0:>12.2f}")

    def again(self) -> None:
        """The yardstick anew: a machine that is shared changes its pace."""
        self.rule = statistics.median(milliseconds(yardstick, 15))

    def row(self, what: str, goal: float | None, found: float, unit: str = "ms") -> None:
        told = f"{found / self.rule:>12.2f}" if unit == "ms" else f"{'':>12}"
        held = None if goal is None else goal * (self.rule / REFERENCE if unit == "ms" else 1.0)
        print(
            f"{what:<58}{'' if goal is None else f'<= {goal:g} {unit}':>12}{found:>9.1f} {unit}{told}{'' if held is None or found <= held else '   over'}",
            flush=True,
        )


def core(table: Table) -> None:
    collector.calm()  # as the server does
    for name, goal in (("tern", 10.0), ("hollin", None), ("brindle", None)):
        build = parse(document(name))
        table.row(f"evaluate, {name}, warm, median", goal, statistics.median(milliseconds(lambda b=build: evaluate(b), 60)))
    largest = max(
        (parse(grown(document(name))) for name in ("tern", "hollin", "brindle")), key=lambda b: min(milliseconds(lambda: evaluate(b), 1))
    )
    table.row(
        "evaluate, the largest that the format takes (5 s are given)", 1000.0, statistics.median(milliseconds(lambda: evaluate(largest), 5))
    )
    doc = demo.document("tern")
    before = evaluate(parse(doc))

    def edit() -> None:
        _, _, build = apply_edit(doc, [{"op": "replace", "path": "/engine/power", "value": "140 kW"}])
        ripple(before, evaluate(build), "x")

    table.row("patch, validate, evaluate, ripple, median", None, statistics.median(milliseconds(edit, 40)))
    again(table)
    circuit.core(table, milliseconds)
    engine.core(table, milliseconds)
    fuel.core(table, milliseconds)
    injectors.core(table, milliseconds)
    trigger.core(table, milliseconds)
    tune.core(table, milliseconds)
    start.core(table, milliseconds)
    work.core(table, milliseconds)
    road.core(table, milliseconds)


def again(table: Table) -> None:
    """What an edit costs to work out, for every place of the Tern in turn, as the server does it: what the edit does not write in is read already."""
    doc = document("tern")
    build = parse(doc)
    before = evaluated(build)
    times: list[float] = []
    for pointer in leaves(doc):
        edit = next(filter(None, (tried(doc, pointer, value, build) for value in others(doc, pointer))), None)
        if edit is not None:
            started = time.perf_counter()
            evaluated(edit, before)
            times.append((time.perf_counter() - started) * 1e3)
    table.again()
    table.row(f"edit worked out again, median of {len(times)} places of the Tern", 5.0, statistics.median(times))
    table.row("edit worked out again, the same, p95", None, sorted(times)[int(len(times) * 0.95)])


def others(doc: dict[str, Any], pointer: str) -> list[Any]:
    """Other values that may stand in a place of the document; none where it holds no value of the build."""
    return [] if pointer.startswith(NOT_VALUES) else other_values(info_at(pointer), at(doc, pointer))


def tried(doc: dict[str, Any], pointer: str, value: Any, build: Build) -> Build | None:
    """The build with a value put in a place; None where it will not do."""
    try:
        return apply_edit(doc, [{"op": "replace", "path": pointer, "value": value}], build)[2]
    except BuildError:
        return None


def served(url: str, port: int) -> subprocess.Popen[bytes]:
    env = {**os.environ, "UPHILL_SPARK_DATABASE": url, "UPHILL_SPARK_PORT": str(port)}
    process = subprocess.Popen([sys.executable, "-m", "uphill_spark.web"], env=env, cwd=ROOT, stdout=subprocess.DEVNULL)
    wait_for(port)
    return process


def wait_for(port: int, seconds: float = 30) -> None:
    ends = time.monotonic() + seconds
    while True:
        try:
            connection = http.client.HTTPConnection("127.0.0.1", port, timeout=5)
            connection.request("GET", "/api/health")
            if connection.getresponse().status == 200:
                return
        except OSError:
            pass
        if time.monotonic() > ends:
            raise TimeoutError("the server does not answer")
        time.sleep(0.02)


class Person(threading.Thread):
    """Somebody who edits a car of their own, with a pause between edits."""

    def __init__(self, port: int, pause: float) -> None:
        super().__init__()
        self.port, self.pause = port, pause
        self.times: list[float] = []
        self.connection = http.client.HTTPConnection("127.0.0.1", port, timeout=30)

    def ask(self, method: str, path: str, body: Any) -> Any:
        self.connection.request(method, path, json.dumps(body), {"Content-Type": "application/json"})
        answer = self.connection.getresponse()
        data = answer.read()
        if answer.status >= 400:
            raise RuntimeError(f"{answer.status} {data[:200]!r}")
        return json.loads(data)

    def run(self) -> None:
        state = self.ask("POST", "/api/builds/import", document())
        revision = state["revision"]
        for k in range(EDITS + 2):
            path, text, values = PATHS[k % len(PATHS)]
            patch = [{"op": "replace", "path": path, "value": text.format(values[(k * 7 + 1) % len(values)])}]
            started = time.perf_counter()
            revision = self.ask("PATCH", f"/api/builds/{state['id']}", {"base": revision, "patch": patch})["revision"]
            if k > 1:
                self.times.append((time.perf_counter() - started) * 1e3)
            time.sleep(self.pause)


def edits(table: Table, port: int) -> None:
    for people, pause, words, goals in (
        (1, 0.05, "1 person", (None, None)),
        (PEOPLE, 1.0, f"{PEOPLE} people at once, an edit a second each", (40.0, 100.0)),
        (PEOPLE, 0.0, f"{PEOPLE} people at once, without pause", (None, None)),
    ):
        crowd = [Person(port, pause) for _ in range(people)]
        for k, person in enumerate(crowd):
            person.start()
            time.sleep(pause / people * (k >= 0))
        for person in crowd:
            person.join()
        times = sorted(t for person in crowd for t in person.times)
        table.row(f"edit through HTTP with ripple, {words}, median", goals[0], statistics.median(times))
        table.row(f"edit through HTTP with ripple, {words}, p95", goals[1], times[int(len(times) * 0.95)])


def garage(table: Table, port: int, url: str) -> None:
    """The garage with 2,000 builds, told from what was stored with them."""
    from sqlalchemy import text

    from uphill_spark.store import Database

    database = Database(url)
    with database.work() as session:
        session.execute(text("SET LOCAL statement_timeout = 0"))
        session.execute(
            text("INSERT INTO build (id, name, head) SELECT gen_random_uuid(), 'Copy ' || n, 1 FROM generate_series(1, 2000) AS n")
        )
        session.execute(text(
            "INSERT INTO revision (build_id, number, kind, document, patch, summary, who, told, rules) "
            "SELECT b.id, 1, 'start', r.document, '[]', 's', 'w', r.told, r.rules FROM build b CROSS JOIN (SELECT * FROM revision WHERE told IS NOT NULL LIMIT 1) r WHERE b.name LIKE 'Copy %'"
        ))  # fmt: skip
    database.close()
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=30)

    def ask(path: str) -> None:
        connection.request("GET", path, headers={"Accept-Encoding": "gzip"})
        connection.getresponse().read()

    table.row("garage of 2,000 builds, a page, median", 150.0, statistics.median(milliseconds(lambda: ask("/api/builds"), 15)))
    table.row(
        "garage of 2,000 builds, searched, median", 150.0, statistics.median(milliseconds(lambda: ask("/api/builds?search=copy%2019"), 15))
    )


def papers(table: Table, port: int) -> None:
    """Sheets as PDF, the first time and again."""
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=60)

    def ask(path: str) -> bytes:
        connection.request("GET", path)
        return connection.getresponse().read()

    builds = {b["name"]: b["id"] for b in json.loads(ask("/api/builds"))["builds"]}
    for name, words in (("Marlow Tern 2600 estate", "Tern"), ("Brindle 3.3 camper van", "Brindle")):
        for paper in ("start-sheet.pdf", "fuel-sheet.pdf"):
            for again in ("", ", again"):
                started = time.perf_counter()
                ask(f"/api/builds/{builds[name]}/papers/{paper}")
                table.row(f"{paper}, {words}{again}", 1500.0, (time.perf_counter() - started) * 1e3)


def after_many(table: Table, process: subprocess.Popen[bytes], port: int, many: int = 5000) -> None:
    """Resident memory after many mixed requests, as a share of that after the first tenth of them."""
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=60)

    def ask(method: str, path: str, body: Any = None) -> bytes:
        connection.request(method, path, None if body is None else json.dumps(body), {"Content-Type": "application/json"})
        return connection.getresponse().read()

    def largest() -> int:
        children = subprocess.run(["ps", "-o", "rss=", "--ppid", str(process.pid)], capture_output=True, text=True).stdout.split()
        return max(int(kb) for kb in children)

    state = json.loads(ask("POST", "/api/builds/import", document()))
    base, early = state["revision"], 0
    for k in range(many):
        if k % 4 == 0:
            power = f"{100 + k % 37}.{k} kW"
            changed = json.loads(
                ask(
                    "PATCH",
                    f"/api/builds/{state['id']}",
                    {"base": base, "patch": [{"op": "replace", "path": "/engine/power", "value": power}]},
                )
            )
            base = changed["revision"]
        else:
            ask("GET", ("/api/builds", f"/api/builds/{state['id']}?shown=fuel,wiring", f"/api/builds/{state['id']}/asked/trigger")[k % 3])
        if k == many // 10:
            early = largest()
    table.row(f"memory after {many:,} mixed requests over that after {many // 10}", 1.3, largest() / early, "")
    table.row("largest web process then", 300.0, largest() / 1024, "MB")


def memory(table: Table, process: subprocess.Popen[bytes]) -> None:
    children = subprocess.run(["ps", "-o", "rss=", "--ppid", str(process.pid)], capture_output=True, text=True).stdout.split()
    table.row("largest web process, resident", 250.0, max(int(kb) for kb in children) / 1024, "MB")


def page(table: Table, port: int) -> None:
    """What comes over the wire for a view from nothing, and how long a key's consequence takes to be drawn."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        tab = browser.new_page()
        tab.goto(f"http://127.0.0.1:{port}/")
        address = tab.get_by_role("link", name="Marlow Tern").first.get_attribute("href") or "/"
        tab.close()
        car = "/".join(address.split("/")[:3])
        for words, path in (("garage", "/"), *((station, f"{car}/{station}") for station in ("engine", "fuel", "sensors", "wiring"))):
            tab = browser.new_page()
            wire = tab.context.new_cdp_session(tab)
            wire.send("Network.enable")
            sizes: list[float] = []
            wire.on("Network.loadingFinished", lambda event, s=sizes: s.append(event["encodedDataLength"]))
            tab.goto(f"http://127.0.0.1:{port}{path}")
            tab.wait_for_load_state("networkidle")
            table.row(f"first view, {words}, on the wire", 180.0, sum(sizes) / 1024, "kB")
            table.row(f"first view, {words}, requests", 15.0, len(sizes), "")
            tab.close()
        typed(table, browser.new_page(), f"http://127.0.0.1:{port}{car}/fuel#f/fuel/parts/supply/bore")
        browser.close()


def typed(table: Table, tab: Page, address: str) -> None:
    """From the key that sends what was typed to the drawing that shows it."""
    tab.goto(address)
    tab.wait_for_load_state("networkidle")
    wire = tab.context.new_cdp_session(tab)
    wire.send("Network.enable")
    sizes: list[float] = []
    wire.on("Network.loadingFinished", lambda event: sizes.append(event["encodedDataLength"]))
    box = tab.locator('[id="f/fuel/parts/supply/bore"]')
    times = []
    for k in range(12):
        box.fill(("6.3 mm", "7.9 mm", "9.5 mm")[k % 3])
        times.append(
            box.evaluate(
                """box => new Promise((done) => {
                  const line = document.querySelector('figure svg path[stroke="var(--good)"][stroke-width="2.6"]');
                  const started = performance.now();
                  new MutationObserver((_, seen) => { seen.disconnect(); requestAnimationFrame(() => done(performance.now() - started)); })
                    .observe(line, { attributes: true, attributeFilter: ["d"] });
                  box.dispatchEvent(new Event("change", { bubbles: true })); // as the Enter key does
                })"""
            )
        )
        tab.wait_for_timeout(60)
    table.row("key to changed drawing, median", 100.0, statistics.median(times[1:]))
    table.row("an edit's answers on the wire, largest", 20.0, max(sizes) / 1024, "kB")


def second_start(table: Table) -> None:
    port = 8191
    started = time.perf_counter()
    process = subprocess.Popen([str(ROOT / "spark"), "start", "--port", str(port)], stdout=subprocess.DEVNULL)
    try:
        wait_for(port)
        table.row("second ./spark start to first answer", 5.0, time.perf_counter() - started, "s")
    finally:
        process.terminate()
        process.wait(30)


class Bench(DatabaseCase):
    """A database of its own for the server."""

    def runTest(self) -> None:  # noqa: N802 - a TestCase must have one
        pass


def main() -> int:
    table = Table()
    core(table)
    Bench.setUpClass()
    try:
        port = 8190
        process = served(Bench.url, port)
        try:
            table.again()
            edits(table, port)
            memory(table, process)
            table.again()
            page(table, port)
            table.again()
            fuel.drag(table, port)
            table.again()
            papers(table, port)
            table.again()
            start.live(table, port)
            table.again()
            after_many(table, process, port)
            table.again()
            garage(table, port, Bench.url)
            table.again()
            app = create_app(Bench.url)
            try:
                work.over_http(table, Bench.database, app.test_client(), milliseconds)
                address = road.over_http(table, Bench.database, app.test_client(), milliseconds)
                road.strip(table, Bench.database, f"http://127.0.0.1:{port}{address}")
            finally:
                app.extensions["database"].close()
        finally:
            process.terminate()
            process.wait(20)
        second_start(table)
    finally:
        Bench.doClassCleanups()
    print(f"database at port {urlsplit(Bench.url).port}, {os.cpu_count()} cores")
    return 0


if __name__ == "__main__":
    sys.exit(main())
