"""What a person waits for at the first start: the stand-in, a rehearsal, faults tried, causes ranked, a frame on the bus to the page."""

from __future__ import annotations

import http.client
import json
import random
import statistics
import threading
import time
import uuid
from collections.abc import Callable
from typing import Any

import numpy as np

from bench.fuel import Rows
from tests.builds import document, worked
from uphill_spark.core.asked import Trial, rehearsal
from uphill_spark.core.asked.diagnosis import Evidence, complaint, diagnose
from uphill_spark.core.asked.faults import FaultTable, doubt, look_deeper
from uphill_spark.core.given import parse
from uphill_spark.core.plan import evaluated
from uphill_spark.core.standin.ails import Ails, lanes_of
from uphill_spark.core.standin.plant import plant_of, quick
from uphill_spark.core.standin.running import RUN, Running
from uphill_spark.standin.bus import of_build, opened
from uphill_spark.standin.frames import own

LOOKS = 12


def core(table: Rows, milliseconds: Callable[[Callable[[], Any], int], list[float]]) -> None:
    """On the Tern; the share of causes that are found on all three cars."""
    w = worked("tern")
    plant = plant_of(w, quick(w), tidy=True)
    alone = Running.alone(plant, lanes_of([Ails()], 6), 85.0, 20.0)
    second = statistics.median(milliseconds(lambda: [alone.step(RUN, 0.0) for _ in range(100)], 9))  # type: ignore[arg-type]
    table.row("stand-in: a second of one car (5 ms is 200 times real time)", 5.0, second)
    lanes = 256
    car = Running(plant, lanes_of([Ails()] * lanes, 6), np.full(lanes, 85.0), turning=np.full(lanes, 13.0))
    key, foot = np.full(lanes, RUN), np.zeros(lanes)
    second = statistics.median(milliseconds(lambda: [car.step(key, foot) for _ in range(100)], 5))
    table.row(f"stand-in: a second of {lanes} cars side by side, each", 5.0, second / lanes)
    doc = document("tern")
    trial = Trial(doc, evaluated(parse(doc)))
    since = time.perf_counter()
    rehearsal.look_deeper(trial)
    table.row("rehearsal: 256 starts and six changes tried, 1,792 lanes", 60_000.0, (time.perf_counter() - since) * 1e3)
    missed: list[float] = []
    for name in ("tern", "hollin", "brindle"):
        doc = document(name)
        since = time.perf_counter()
        found = look_deeper(Trial(doc, evaluated(parse(doc))))
        table.row(f"faults: {len(found.faults)} tried, {name}", None, (time.perf_counter() - since) * 1e3)
        seen = complaint(found, found.faults[0])
        table.row(
            f"diagnosis after a look, {name}, median", 200.0, statistics.median(milliseconds(lambda t=found, e=seen: diagnose(t, e), 10))
        )
        missed += [_missed(found, seed) for seed in range(4)]
    table.row("diagnosis: true fault not in the first three, of 12 passes", 10.0, 100 * statistics.mean(missed), "%")


def _missed(table: FaultTable, seed: int) -> float:
    """Share of faults that are not among the first three causes after at most so many looks, with a meter that shivers."""
    rng, looks, missed = random.Random(seed), {row.key: row for row in table.looks}, 0
    for fault in table.faults:
        evidence = complaint(table, fault)
        for _ in range(LOOKS):
            answer = diagnose(table, evidence)
            if answer.next is None:
                break
            shown = table.shows(fault, looks[answer.next.look])
            if isinstance(shown, float):
                shown = rng.gauss(shown, 0.6 * doubt(answer.next.look, shown))
            evidence.append(Evidence(look=answer.next.look, shown=shown))
        missed += fault.key not in [c.key for c in answer.causes[:3]]
    return missed / len(table.faults)


def live(table: Rows, port: int) -> None:
    """A frame on the bus to the event at the browser's end, at 50 Hz with some twenty signals."""

    def ask(method: str, path: str, body: str | None = None) -> Any:
        connection = http.client.HTTPConnection("127.0.0.1", port, timeout=30)
        connection.request(method, path, body, {"Content-Type": "application/json"})
        return json.loads(connection.getresponse().read())

    build = ask("POST", "/api/builds/import?who=bench", json.dumps(document("tern")))["id"]
    bus, sent, ends = opened(of_build(uuid.UUID(build))), dict[str, float](), threading.Event()

    def speak() -> None:
        speed = 700
        while not ends.wait(0.02):
            speed = 700 + (speed - 699) % 2000
            sent.setdefault(str(speed), time.perf_counter())
            for name, signals in (
                ("Turning", {"EngineSpeed": speed, "EngineRuns": 1}),
                ("Breathing", {"ManifoldPressure": 40}),
                ("Fuelling", {"Lambda": 1}),
                ("Feeding", {"UnitVolts": 13}),
            ):
                bus.send(own().encoded(name, signals))

    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=30)
    connection.request("GET", f"/api/builds/{build}/live/stream?step=6")
    answer = connection.getresponse()
    threading.Thread(target=speak, daemon=True).start()
    late = []
    while len(late) < 60:
        line = answer.fp.readline()
        if line.startswith(b"data: "):
            shown = {g["key"]: g["shown"] for g in json.loads(line[6:])["gauges"]}.get("speed")
            if shown in sent:
                late.append((time.perf_counter() - sent[shown]) * 1e3)
    ends.set()
    connection.close()
    bus.shutdown()
    table.row("bus: a frame to the event at the page, median", 100.0, statistics.median(late))
